import { quantity, rating, above, fields, whole, within } from '../../field/index.ts';
import { chargeFormulas, multiplierFormulas, storeFormulas, supplyFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { diodeFields, diodeLimits } from '../charging/diode-link.ts';
import { defineBlock, type CircuitPart, type Terminals, type Trial } from '../../block/define.ts';
import type { ChargeLaw, Own, Problem, RigContext } from '../../block/context.ts';
import { chainFields, chainFigures, chainLimits, chainPower, chainProblems, chainSteps } from './chain.ts';
import { currentRating, givesUpTo, leftOnProblem, limitedLaw, supplyCurrentLimit, supplySteps } from './shared.ts';
import type { FieldId } from '../../block/names.ts';
import { multiplierGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/multiplier': typeof multiplierFields;
  }
  interface FigureIds {
    'multiplier-drop': true;
    'multiplier-ripple': true;
    'multiplier-best-stages': true;
    'multiplier-energy': true;
  }
}

/** Stages above which the shape of a real cascade is decided by its stray capacitance and not by these formulas. */
const mostStages = 40;

const behindDiodes = (own: Own<typeof multiplierFields>): Worked =>
  work(
    supplyFormulas.voltageLessDrops,
    { V: own.quantity('Vp'), n: own.quantity('nd'), Vf: own.quantity('Vf') },
    'peak of the drive less a drop',
  );
const loadOf = (rig: RigContext) => {
  const own = rig.own('supply');
  return { I: rig.figure('mean-charging-current'), f: own.quantity('f'), C: own.quantity('C') };
};
const stress = (rig: RigContext): Worked => work(multiplierFormulas.multiplierStress, { Vp: rig.own('supply').quantity('Vp') });

/** The cascade: a pushing column from the drive, a smoothing column from earth, a diode from each node to the next. */
function cascade(own: Own<typeof multiplierFields>, { plus, minus, tag }: Omit<Terminals, 'store'>): CircuitPart[] {
  const n = own.quantity('n').value;
  const push = (k: number) => (k === 0 ? `${plus}d` : `${plus}p${k}`);
  const smooth = (k: number) => (k === 0 ? minus : k === n ? plus : `${plus}s${k}`);
  const C = own.quantity('C').value;
  const Vf = own.quantity('nd').value * own.quantity('Vf').value;
  const diode = (name: string, from: string, to: string): CircuitPart => ({
    element: { kind: 'diode', name, nodes: [from, to], Vf, Ron: 1 },
    says: 'multiplier diode',
  });
  const stages = Array.from({ length: n }, (_, i) => i + 1).flatMap((k): CircuitPart[] => [
    {
      element: { kind: 'capacitor', name: `C${tag}p${k}`, nodes: [push(k - 1), push(k)], C },
      says: `pushing column, stage ${k}`,
    },
    {
      element: { kind: 'capacitor', name: `C${tag}s${k}`, nodes: [smooth(k - 1), smooth(k)], C },
      says: `smoothing column, stage ${k}`,
    },
    diode(`D${tag}a${k}`, smooth(k - 1), push(k)),
    diode(`D${tag}b${k}`, push(k), smooth(k)),
  ]);
  return [
    {
      element: {
        kind: 'voltage-source',
        name: `V${tag}`,
        nodes: [push(0), minus],
        wave: { kind: 'sine', offset: 0, amplitude: own.quantity('Vp').value, frequency: own.quantity('f').value },
        R: own.quantity('Rd').value,
      },
      says: 'drive of the multiplier',
    },
    ...stages,
  ];
}

/** Behind a source that gives no more than a power the drive sags until it takes no more: the output is one of constant power. */
const fedLaw = (P: Worked) =>
  limitedLaw((rig) => ({
    P,
    I: work(
      chargeFormulas.initialCurrent,
      { Vs: rig.figure('charging-voltage'), R: rig.figure('charging-resistance') },
      'current into an empty store, if the source gave it',
    ),
  }));

const fedOffer = (own: Own<typeof multiplierFields>): { chargeLaw?: ChargeLaw } => {
  const P = chainPower(own);
  return P ? { chargeLaw: fedLaw(P) } : {};
};

/** The cascade as its mean: what it gives without load behind its output resistance, and no more power than its source has. */
function meanOf(own: Own<typeof multiplierFields>, rig: RigContext, { plus, minus, tag }: Terminals): CircuitPart[] {
  const P = chainPower(own)?.value;
  const R = rig.offers('supply').chargingResistance?.value ?? 0;
  const wave = { kind: 'dc', value: rig.offer('sourceVoltage').value } as const;
  if (P === undefined)
    return [
      {
        element: { kind: 'voltage-source', name: `V${tag}`, nodes: [plus, minus], wave, R },
        says: 'multiplier as its mean: voltage without load behind its output resistance',
      },
    ];
  const inside = `${plus}m`;
  return [
    {
      element: { kind: 'power-source', name: `X${tag}`, nodes: [inside, minus], P, Imax: rig.figure('charging-current').value },
      says: 'what the source of the drive gives at most',
    },
    {
      element: { kind: 'diode', name: `D${tag}`, nodes: [inside, `${inside}v`], Vf: 0, Ron: 1e-3 },
      says: 'takes over where the source is not the limit',
    },
    {
      element: { kind: 'voltage-source', name: `V${tag}`, nodes: [`${inside}v`, minus], wave },
      says: 'multiplier as its mean: voltage without load',
    },
    { element: { kind: 'resistor', name: `R${tag}`, nodes: [inside, plus], R }, says: 'output resistance of the multiplier' },
  ];
}

/** Cycles in which a cascade that begins full settles under load, and those that are read at the end. */
const settling = (n: number): number => 60 + 6 * n * n;
const readCycles = 8;

/** The cascade, full at first, under the mean charging current: its drop and ripple without the formulas. */
const trial: Trial<typeof multiplierFields> = {
  figures: ['multiplier-drop', 'multiplier-ripple'],
  circuit: (own, rig) => {
    const Vp = own.quantity('Vp').value;
    const full = cascade(own, { plus: 'top', minus: '0', tag: 'm' }).map(({ element, says }): CircuitPart => {
      if (element.kind !== 'capacitor') return { element, says };
      return { element: { ...element, V0: element.name === 'Cmp1' ? Vp : 2 * Vp }, says };
    });
    return {
      parts: [
        ...full,
        {
          element: {
            kind: 'current-source',
            name: 'Iload',
            nodes: ['top', '0'],
            wave: { kind: 'dc', value: rig.figure('mean-charging-current').value },
          },
          says: 'load: the mean charging current',
        },
      ],
      until: settling(own.quantity('n').value) / own.quantity('f').value,
      node: 'top',
    };
  },
  read: (own, rig, { t, y }) => {
    const from = (settling(own.quantity('n').value) - readCycles) / own.quantity('f').value;
    let [area, span, low, high] = [0, 0, Infinity, -Infinity];
    for (let i = 1; i < t.length; i++) {
      const [t0, t1, y0, y1] = [t[i - 1] ?? 0, t[i] ?? 0, y[i - 1] ?? 0, y[i] ?? 0];
      if (t0 < from) continue;
      area += ((y0 + y1) / 2) * (t1 - t0);
      span += t1 - t0;
      low = Math.min(low, y1);
      high = Math.max(high, y1);
    }
    return { 'multiplier-drop': rig.offer('sourceVoltage').value - area / span, 'multiplier-ripple': high - low };
  },
};

function problems(own: Own<typeof multiplierFields>, rig: RigContext): Problem[] {
  const n = own.quantity('n').value;
  const best = rig.figure('multiplier-best-stages').value;
  const E = rig.figure('multiplier-energy').value;
  const warn = (field: FieldId<'supply'>, text: string): Problem => ({ severity: 'warning', slot: 'supply', field, text });
  return [
    ...leftOnProblem(rig, 'Vp'),
    ...chainProblems(own, rig),
    ...(n > best * 1.1
      ? [
          warn(
            'n',
            `At this charging current about ${Math.max(1, Math.round(best))} stages give the most voltage; each further stage costs more than it adds. Use fewer stages, a higher frequency or larger capacitors.`,
          ),
        ]
      : []),
    warn(
      'C',
      `Switched off, the multiplier itself keeps up to ${printQuantity(E, 'J')}, ${printQuantity(2 * own.quantity('Vp').value, 'V')} on each capacitor, and no bleeder of the store empties its pushing column.`,
    ),
  ];
}

/** How every node is reached: from earth upwards, both columns, twice. */
function probing(own: Own<typeof multiplierFields>): string {
  const n = own.quantity('n').value;
  const Vp = own.quantity('Vp').value;
  const nodes = Array.from({ length: Math.min(n, 12) }, (_, i) => printQuantity(2 * (i + 1) * Vp, 'V')).join(', ');
  return `Multiplier, supply off: an earthed lead through the discharge stick to every node in turn, from earth upwards, both columns, then once more. What may stand on the nodes of the smoothing column: ${nodes}${n > 12 ? ' and so on' : ''}.`;
}

const multiplierFields = fields({
  Vp: quantity('Peak of the drive', 'V', above(0, 1e6), '1 kV', {
    tolerance: true,
    help: 'Half its peak-to-peak swing.',
  }),
  f: quantity('Drive frequency', 'Hz', within(1, 1e8), '30 kHz'),
  Rd: quantity('Resistance of the drive', 'Ω', within(0, 1e7), '100 Ω', {
    help: 'Winding resistance; in the solver, not in the closed form.',
  }),
  n: quantity('Stages', '1', whole(1, mostStages), '4', { help: 'Two capacitors and two diodes each.' }),
  C: quantity('Capacitance, each', 'F', above(0, 1), '1 nF', { tolerance: true }),
  Vc: rating('Capacitor, DC rating', 'V', 1e7),
  ...diodeFields,
  I: currentRating,
  ...chainFields,
});

export const multiplier = defineBlock({
  slot: 'supply',
  kind: 'multiplier',
  title: 'Diode-capacitor multiplier',
  glyph: () => multiplierGlyph,
  fields: multiplierFields,
  key: (own) => ({
    text: printQuantity(2 * own.quantity('n').value * own.quantity('Vp').value, 'V'),
    detail: `${own.quantity('n').value} stages`,
  }),
  offers: (own) => ({
    sourceVoltage: work(multiplierFormulas.multiplierNoLoad, { n: own.quantity('n'), Vp: behindDiodes(own) }),
    chargingResistance: work(multiplierFormulas.multiplierResistance, {
      n: own.quantity('n'),
      f: own.quantity('f'),
      C: own.quantity('C'),
    }),
    frequency: own.quantity('f'),
    ...fedOffer(own),
  }),
  leavesOut: (own, scene) =>
    scene.cycles && !chainPower(own)
      ? 'how the capacitors of the multiplier fill first, and the resistance of its drive: it is the steady state'
      : 'the multiplier’s own capacitors and its ripple; so does the solver here, since the charge has too many cycles to draw, or its source is the limit',
  trials: [trial],
  circuit: (own, rig, at, scene) => (scene.cycles && !chainPower(own) ? cascade(own, at) : meanOf(own, rig, at)),
  held: (own) => [
    {
      id: 'multiplier',
      how: probing(own),
      one: 'capacitor of the multiplier',
      count: 2 * own.quantity('n').value,
      title: `Each of ${2 * own.quantity('n').value} capacitors of the multiplier`,
      V: work(multiplierFormulas.multiplierStress, { Vp: own.quantity('Vp') }),
      E1: work(
        storeFormulas.storedEnergy,
        { C: own.quantity('C'), V: work(multiplierFormulas.multiplierStress, { Vp: own.quantity('Vp') }) },
        'energy per capacitor',
      ),
      E: work(multiplierFormulas.multiplierEnergy, { n: own.quantity('n'), Vp: own.quantity('Vp'), C: own.quantity('C') }),
      through: 'nothing that is known: the store’s bleeder reaches the smoothing column alone, and not past the isolator',
      then: 'An earthed lead through the stick to every node in turn, from earth upwards, both columns, twice.',
    },
  ],
  figures: [
    {
      id: 'multiplier-drop',
      title: 'Multiplier, drop at the mean current',
      slot: 'supply',
      compute: (rig) => work(multiplierFormulas.multiplierDrop, { n: rig.own('supply').quantity('n'), ...loadOf(rig) }),
    },
    {
      id: 'multiplier-ripple',
      title: 'Multiplier, ripple at the mean current',
      slot: 'supply',
      compute: (rig) => work(multiplierFormulas.multiplierRipple, { n: rig.own('supply').quantity('n'), ...loadOf(rig) }),
    },
    {
      id: 'multiplier-best-stages',
      title: 'Multiplier, best number of stages',
      slot: 'supply',
      compute: (rig) => work(multiplierFormulas.multiplierBestStages, { Vp: rig.own('supply').quantity('Vp'), ...loadOf(rig) }),
    },
    {
      id: 'multiplier-energy',
      title: 'Multiplier, energy it keeps',
      slot: 'supply',
      compute: (rig) => {
        const own = rig.own('supply');
        return work(multiplierFormulas.multiplierEnergy, { n: own.quantity('n'), Vp: own.quantity('Vp'), C: own.quantity('C') });
      },
    },
    ...chainFigures,
  ],
  limits: [
    supplyCurrentLimit(['charging.R', 'supply.n'], 'Into an empty store; in the first cycles its own capacitors draw more.'),
    ...diodeLimits('supply', 'multiplier-diode', 'Multiplier diode', stress, (rig) => rig.figure('charging-current'), [
      'supply.Vp',
    ]),
    {
      id: 'multiplier-capacitor',
      title: 'Multiplier capacitor: voltage, each',
      slot: 'supply',
      stress,
      rating: (rig) => rig.own('supply').optional('Vc'),
      levers: ['supply.Vp', 'supply.Vc'],
    },
    ...chainLimits,
  ],
  problems,
  steps: (own, rig) => supplySteps(givesUpTo(rig.offer('sourceVoltage')), chainSteps(own)),
});
