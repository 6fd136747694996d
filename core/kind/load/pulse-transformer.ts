import { above, countOf, fields, quantity, rating, within } from '../../field/index.ts';
import {
  chargeFormulas,
  dischargeFormulas,
  pulseTransformerFormulas,
  ruled,
  triggerFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock, type CircuitPart } from '../../block/define.ts';
import { pulseTransformerGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/pulse-transformer': typeof pulseTransformerFields;
  }
  interface FigureIds {
    'load-energy': true;
    'secondary-voltage': true;
    'secondary-open': true;
    'core-flux-density': true;
    'magnetising-current': true;
    'reflected-resistance': true;
  }
}

const pulseTransformerFields = fields(
  {
    n: quantity('Turns ratio, secondary to primary', '1', within(1e-3, 1e4), '10', { symbol: 'n' }),
    N1: countOf('Turns of the primary', { symbol: 'N1' }),
    Lm: quantity('Magnetising inductance, at the primary', 'H', above(0, 1e3), '200 µH ±20 %', {
      symbol: 'Lm',
      tolerance: true,
      help: 'Primary measured with the secondary open.',
    }),
    Ll: quantity('Leakage inductance, at the primary', 'H', above(0, 1), '1 µH ±20 %', {
      symbol: 'Ll',
      tolerance: true,
      help: 'Primary measured with the secondary shorted.',
    }),
    Rw: quantity('Resistance of both windings, at the primary', 'Ω', within(0, 1e6), '20 mΩ ±20 %', {
      symbol: 'Rw',
      tolerance: true,
      help: 'That of the secondary divided by the square of the ratio, and added.',
    }),
    R: quantity('Load at the secondary', 'Ω', above(0, 1e12), '500 Ω ±10 %', { symbol: 'R2', tolerance: true }),
    C2: quantity('Capacitance of secondary and load', 'F', above(0, 1), null, {
      symbol: 'C2',
      optional: true,
      help: 'It rounds the rise and rings with the leakage; the solver alone has it in.',
    }),
    Ac: quantity('Section of the core', 'm²', above(0, 10), '10 cm²', { symbol: 'Ac' }),
    B0: quantity('Flux density it begins at', 'T', within(-2, 2), '0 T', {
      symbol: 'B0',
      help: 'Remanence: of a core that is not reset some 0.2 T of ferrite, 1 T of tape-wound iron; below zero where a reset winding drives it back.',
    }),
    Bs: rating('Saturation of the core', 'T', 3, {
      symbol: 'Bs',
      help: 'Ferrite 0.35 to 0.5 T, warm less; tape-wound silicon iron 1.6 to 2 T. From the data sheet.',
    }),
    Vw: rating('Insulation of the secondary', 'V', 1e8, { symbol: 'Vw', help: 'To the primary and the core.' }),
  },
  { geometry: ['Ac', 'B0', 'C2'] },
);

type TransformerOwn = Own<typeof pulseTransformerFields>;

const reflected = (own: TransformerOwn): Worked =>
  work(pulseTransformerFormulas.reflectedResistance, { R: own.quantity('R'), n: own.quantity('n') });

const firstHalf = (rig: RigContext) => ({
  C: rig.figure('discharge-capacitance'),
  V: rig.figure('discharge-voltage'),
  k: rig.figure('loop-reversal'),
  R: reflected(rig.own('load')),
});

/** A saturated winding has this share of its inductance. Common practice, no source: iron and ferrite come down to near that of air. */
const saturated = 1 / 500;

/** A: magnetising current at which the core is full, by its flux linkage over its inductance; null where its saturation is not known. */
function fullAt(own: TransformerOwn): number | null {
  const Bs = own.optional('Bs');
  if (!Bs || own.quantity('B0').value >= Bs.value) return null;
  const flux = (Bs.value - own.quantity('B0').value) * own.quantity('N1').value * own.quantity('Ac').value;
  return flux / own.quantity('Lm').value;
}

/** What stands beside the magnetising branch once the core is full, and stays for the rest of the pulse. */
function saturation(own: TransformerOwn, inside: string, minus: string, tag: string): CircuitPart[] {
  const full = fullAt(own);
  if (full === null) return [];
  const control = { by: 'current', of: `L${tag}m`, above: full, below: -1e9 } as const;
  return [
    {
      element: { kind: 'switch', name: `W${tag}s`, nodes: [inside, `${inside}s`], Ron: 1e-6, control },
      says: 'the core is full from here on',
      leftOut: { what: 'the saturation of the core', instead: 'open' },
    },
    {
      element: { kind: 'inductor', name: `L${tag}s`, nodes: [`${inside}s`, minus], L: own.quantity('Lm').value * saturated },
      says: 'what is left of the magnetising inductance then: 1/500, common practice, no source',
    },
  ];
}

/** A magnetising current above this share of the peak is no longer a trifle. */
const trifle = 0.2;

function problems(own: TransformerOwn, rig: RigContext): Problem[] {
  const [Im, I] = [rig.figure('magnetising-current').value, rig.figure('peak-current').value];
  if (Im <= trifle * I) return [];
  const text = `The magnetising current comes to ${printQuantity(Im, 'A')}, ${printPercent(Im / I, 2)} of the peak: the closed form leaves it out, the solver has it. More turns, a larger core or a shorter pulse bring it down.`;
  return [{ severity: 'warning', slot: 'load', field: 'Lm', text }];
}

/** A transformer on a core between the loop and a resistive load: voltage steps up, current down. */
export const pulseTransformer = defineBlock({
  slot: 'load',
  kind: 'pulse-transformer',
  title: 'Pulse transformer',
  makes: 'Pulse transformer',
  glyph: () => pulseTransformerGlyph,
  fields: pulseTransformerFields,
  key: (own) => ({
    text: `1 : ${printQuantity(own.quantity('n').value, '1', { trim: true })}`,
    detail: printQuantity(own.quantity('R').value, 'Ω'),
  }),
  offers: (own) => ({
    loopResistance: work(
      chargeFormulas.seriesSum,
      { R1: own.quantity('Rw'), R2: reflected(own) },
      'windings and load, at the primary',
    ),
    loopInductance: own.quantity('Ll'),
    // A person reaches what it may come to: its load may have come off.
    makesVoltage: 'secondary-open' as const,
  }),
  // All of it as the primary sees it: the load over n², its capacitance times n².
  circuit: (own, _rig, { plus, minus, tag }) => {
    const n2 = own.quantity('n').value ** 2;
    const inside = `${tag}p`;
    const C2 = own.optional('C2');
    return [
      {
        element: {
          kind: 'inductor',
          name: `L${tag}`,
          nodes: [plus, inside],
          L: own.quantity('Ll').value,
          R: own.quantity('Rw').value,
        },
        says: 'leakage and windings, at the primary',
      },
      {
        element: { kind: 'inductor', name: `L${tag}m`, nodes: [inside, minus], L: own.quantity('Lm').value },
        says: 'magnetising inductance',
        leftOut: { what: 'the magnetising current', instead: 'open' },
      },
      ...saturation(own, inside, minus, tag),
      {
        element: { kind: 'resistor', name: `R${tag}`, nodes: [inside, minus], R: reflected(own).value },
        says: 'load of the secondary, at the primary',
      },
      ...(C2
        ? [
            {
              element: { kind: 'capacitor' as const, name: `C${tag}`, nodes: [inside, minus] as const, C: C2.value * n2 },
              says: 'capacitance of the secondary, at the primary',
              leftOut: { what: 'the capacitance of the secondary', instead: 'open' as const },
            },
          ]
        : []),
    ];
  },
  leavesOut: () => 'the magnetising current, the saturation of the core and the capacitance of the secondary',
  figures: [
    {
      id: 'secondary-voltage',
      title: 'Peak voltage at the secondary',
      slot: 'load',
      leads: true,
      compute: (rig) => {
        const own = rig.own('load');
        return work(pulseTransformerFormulas.transformedVoltage, {
          I: rig.figure('peak-current'),
          R: own.quantity('R'),
          n: own.quantity('n'),
        });
      },
    },
    {
      id: 'secondary-open',
      title: 'Voltage at the secondary, load off, at most',
      slot: 'load',
      compute: (rig) =>
        work(
          triggerFormulas.pulseTransformerVoltage,
          {
            V1: rig.figure('discharge-voltage'),
            n: rig.own('load').quantity('n'),
            k: ruled('share left by coupling and strays', 1, '1', 'nothing taken off: an upper bound'),
          },
          'voltage at the secondary, load off',
        ),
    },
    {
      id: 'core-flux-density',
      title: 'Flux density of the core at the end of the pulse',
      slot: 'load',
      compute: (rig) => {
        const own = rig.own('load');
        return work(pulseTransformerFormulas.coreFluxDensity, {
          ...firstHalf(rig),
          N: own.quantity('N1'),
          A: own.quantity('Ac'),
          B0: own.quantity('B0'),
        });
      },
    },
    {
      id: 'magnetising-current',
      title: 'Magnetising current at the end of the pulse',
      slot: 'load',
      compute: (rig) =>
        work(pulseTransformerFormulas.magnetisingCurrent, { ...firstHalf(rig), Lm: rig.own('load').quantity('Lm') }),
    },
    {
      id: 'reflected-resistance',
      title: 'Load, seen from the primary',
      slot: 'load',
      compute: (rig) => reflected(rig.own('load')),
    },
    {
      id: 'load-energy',
      title: 'Energy into the load',
      slot: 'load',
      compute: (rig) =>
        work(
          dischargeFormulas.heatFromAction,
          { A: rig.figure('action-integral'), R: reflected(rig.own('load')) },
          'energy into it',
        ),
    },
  ],
  limits: [
    {
      id: 'core-flux-density',
      title: 'Core, saturation',
      slot: 'load',
      stress: (rig) => rig.figure('core-flux-density'),
      rating: (rig) => rig.own('load').optional('Bs'),
      levers: ['load.Ac', 'load.N1', 'store.V0'],
      note: 'Beyond it the primary is a short: the current rises as if the core were not there, and nothing more comes out.',
    },
    {
      id: 'secondary-voltage',
      title: 'Secondary, insulation',
      slot: 'load',
      stress: (rig) => rig.figure('secondary-open'),
      rating: (rig) => rig.own('load').optional('Vw'),
      levers: ['load.n', 'store.V0'],
      note: 'With the load off: the whole voltage times the ratio. With its load it is less.',
    },
  ],
  steps: (own) => [
    {
      id: 'transformer-clear',
      phase: 'prepare',
      text: 'Core and one end of the secondary on earth, its load fixed and bolted: with the load off the secondary comes to many times the voltage.',
      hold: 'The load is there, and nobody is near the secondary.',
    },
    ...(own.quantity('B0').value > 0
      ? [
          {
            id: 'core-reset',
            phase: 'prepare' as const,
            text: 'Reset the core: some amperes of direct current backwards through the primary or a winding of its own, then off.',
            hold: 'The reset supply is disconnected.',
          },
        ]
      : []),
  ],
  problems,
});
