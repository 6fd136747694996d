import { above, choice, fields, onlyWith, quantity, rating, whole, within } from '../../field/index.ts';
import { pulseLineFormulas, ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { defineBlock, type CircuitPart } from '../../block/define.ts';
import { absorptionOf, dielectricField } from '../bank/dielectric-field.ts';
import { insulationField } from '../bank/insulation-field.ts';
import { lifeFields, lifeFigure } from '../bank/life.ts';
import { commissionLow, residualStep } from '../bank/shot-steps.ts';
import { takenForCharged } from '../bank/taken-for-charged.ts';
import { networkGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'store/pulse-network': typeof networkFields;
  }
  interface FigureIds {
    'network-impedance': true;
    'network-width': true;
    'network-overshoot': true;
    'wanted-capacitance': true;
    'wanted-inductance': true;
  }
}

const networkFields = fields(
  {
    type: choice(
      'Type',
      { 'type-e': 'type E: one tapped coil', equal: 'equal meshes, coils apart' },
      { help: 'Of type E neighbours couple by about 15 %: a flatter top for the same parts.' },
    ),
    n: quantity('Sections', '1', whole(2, 100), '8'),
    C: quantity('Capacitance of a section', 'F', above(0, 1), '100 nF', { tolerance: true }),
    L: quantity('Inductance of a section', 'H', above(0, 1), '2 µH', {
      tolerance: true,
      help: 'Of one coil by itself, without its neighbours.',
    }),
    V0: quantity('Charged to', 'V', above(0, 1e6), '1 kV', { tolerance: true }),
    Vr: quantity('DC rating of a capacitor', 'V', above(0, 1e6), null, {}),
    k: onlyWith(
      'type',
      ['type-e'],
      quantity('Coupling of neighbours', '1', within(0, 0.5), '15 %', {
        help: 'Turns of one coil that the next one takes up: pitch and diameter set it.',
      }),
    ),
    e: onlyWith(
      'type',
      ['type-e'],
      quantity('Coils at the ends, over the others', '1', within(1, 2), '1.2', {
        help: 'They lack a neighbour: 20 to 30 % more (common practice, no source).',
      }),
    ),
    reversal: quantity('Rated reversal', '1', within(0.01, 1), null, {
      symbol: 'kr',
      help: 'Voltage reversal as per cent of the charge voltage, from the data sheet.',
    }),
    dielectric: dielectricField,
    R: quantity('Resistance of a coil', 'Ω', within(0, 1e6), '5 mΩ', { symbol: 'Rc', tolerance: true }),
    ESR: quantity('ESR of a capacitor', 'Ω', within(0, 1e6), '10 mΩ ±30 %', { tolerance: true }),
    Ri: insulationField('Insulation of a capacitor'),
    Zw: quantity('Wanted impedance', 'Ω', above(0, 1e6), null, { help: 'With the width it gives the parts to make it of.' }),
    tw: quantity('Wanted pulse width', 's', above(0, 1e3), null, {}),
    ...lifeFields,
    Ip: rating('Peak current of a capacitor', 'A', 1e8, {}),
  },
  { geometry: ['k', 'e', 'dielectric', 'R', 'ESR', 'Ri', 'Zw', 'tw'], life: ['Nr', 'nl'] },
);

type Network = Own<typeof networkFields>;

const one = ruled('one string', 1, '1', 'sections stand side by side');
const isTypeE = (own: Network): boolean => own.is('type', 'type-e');
const coupling = (own: Network): Worked =>
  isTypeE(own) ? own.quantity('k') : ruled('coupling of neighbours', 0, '1', 'coils apart from each other');
const ends = (own: Network): Worked => (isTypeE(own) ? own.quantity('e') : ruled('coils at the ends', 1, '1', 'as all others'));

const allCapacitance = (own: Network): Worked =>
  work(
    storeFormulas.seriesParallelCapacitance,
    { C: own.quantity('C'), ns: one, np: own.quantity('n') },
    'capacitance of all sections',
  );
const allInductance = (own: Network): Worked =>
  work(pulseLineFormulas.networkInductance, { L: own.quantity('L'), n: own.quantity('n'), k: coupling(own), e: ends(own) });
const impedance = (own: Network): Worked =>
  work(pulseLineFormulas.networkImpedance, { Ln: allInductance(own), Cn: allCapacitance(own) });

/** Overshoot of the first section into its own impedance, as a share of the flat top. Common practice, no source; the solver comes to as much. */
const overshoot = { 'type-e': 0.07, equal: 0.12 } as const;

/** The sections of a network, the first at its output. */
function sectionParts(own: Network, plus: string, minus: string, tag: string, V0: number): CircuitPart[] {
  const n = own.quantity('n').value;
  const [L, C, R, ESR] = (['L', 'C', 'R', 'ESR'] as const).map((id) => own.quantity(id).value) as [
    number,
    number,
    number,
    number,
  ];
  const [k, e] = [coupling(own).value, ends(own).value];
  const name = (i: number) => `${tag}${i}`;
  return Array.from({ length: n }, (_, at) => at + 1).flatMap((i): CircuitPart[] => {
    const [from, to] = [i === 1 ? plus : `${plus}n${i - 1}`, `${plus}n${i}`];
    const isEnd = i === 1 || i === n;
    // The last section is what a store is looked at by: it is the last to fall.
    const capacitor = `C${tag}${i === n ? '' : i}`;
    return [
      {
        element: { kind: 'inductor', name: `L${name(i)}`, nodes: [from, to], L: isEnd ? e * L : L, R },
        says: `coil of section ${i}`,
      },
      ...(i > 1 && k > 0
        ? [
            {
              element: {
                kind: 'coupling' as const,
                name: `K${name(i)}`,
                inductors: [`L${name(i - 1)}`, `L${name(i)}`] as const,
                // One mutual inductance all along: k of a section by itself, also beside a larger coil at an end.
                k: k / Math.sqrt((isEnd ? e : 1) * (i - 1 === 1 ? e : 1)),
              },
              says: `coils of sections ${i - 1} and ${i}`,
            },
          ]
        : []),
      ...(ESR > 0
        ? [
            {
              element: { kind: 'resistor' as const, name: `R${name(i)}`, nodes: [to, `${to}c`] as const, R: ESR },
              says: `ESR of section ${i}`,
            },
          ]
        : []),
      {
        element: { kind: 'capacitor', name: capacitor, nodes: [ESR > 0 ? `${to}c` : to, minus], C, V0 },
        says: `capacitor of section ${i}`,
      },
    ];
  });
}

export const pulseNetwork = defineBlock({
  slot: 'store',
  kind: 'pulse-network',
  title: 'Pulse-forming network',
  glyph: () => networkGlyph,
  fields: networkFields,
  key: (own) => ({ text: printQuantity(impedance(own).value, 'Ω'), detail: `${own.quantity('n').value} sections` }),
  offers: (own) => {
    const rated = own.optional('Vr');
    const [ns, np] = [one, own.quantity('n')];
    return {
      capacitance: allCapacitance(own),
      chargedTo: own.quantity('V0'),
      absorption: absorptionOf(own),
      loopResistance: work(
        storeFormulas.bankResistance,
        { R: own.quantity('R'), ns: own.quantity('n'), np: one },
        'resistance of all coils',
      ),
      loopInductance: allInductance(own),
      insulation: work(storeFormulas.bankResistance, { R: own.quantity('Ri'), ns, np }, 'insulation of the network'),
      pulse: {
        Z: impedance(own),
        width: work(pulseLineFormulas.networkWidth, { Ln: allInductance(own), Cn: allCapacitance(own) }),
        first: { L: work(pulseLineFormulas.endCoil, { L: own.quantity('L'), e: ends(own) }), C: own.quantity('C') },
      },
      ...(rated ? { ratedVoltage: rated } : {}),
    };
  },
  circuit: (own, rig, { plus, minus, tag }, scene) => {
    const offers = rig.offers('store');
    const insulation: CircuitPart = {
      element: { kind: 'resistor', name: `R${tag}i`, nodes: [`${plus}n1`, minus], R: rig.offer('insulation').value },
      says: 'insulation of the network',
      ...(scene.of === 'bleed' && !rig.offers('bleeder').bleedResistance
        ? {}
        : { leftOut: { what: 'the insulation of the network', instead: 'open' as const } }),
    };
    if (scene.of === 'discharge') return [...sectionParts(own, plus, minus, tag, rig.offer('chargedTo').value), insulation];
    return [
      {
        element: {
          kind: 'resistor',
          name: `R${tag}`,
          nodes: [plus, `${plus}n1`],
          R: Math.max(offers.loopResistance?.value ?? 0, 1e-6),
        },
        says: 'coils of the network, as slow as this is',
      },
      {
        element: {
          kind: 'capacitor',
          name: `C${tag}`,
          nodes: [`${plus}n1`, minus],
          C: rig.offer('capacitance').value,
          V0: scene.of === 'charge' ? 0 : rig.offer('chargedTo').value,
        },
        says: 'all sections as one capacitor',
      },
      insulation,
    ];
  },
  leavesOut: () =>
    'the sections: it takes the flat top of a line of their inductance and capacitance, without overshoot and ripple',
  figures: [
    lifeFigure((rig) => rig.offer('chargedTo')),
    { id: 'network-impedance', title: 'Impedance of the network', slot: 'store', compute: (rig) => impedance(rig.own('store')) },
    {
      id: 'network-width',
      title: 'Pulse width into its own impedance',
      slot: 'store',
      compute: (rig) => {
        const own = rig.own('store');
        return work(pulseLineFormulas.networkWidth, { Ln: allInductance(own), Cn: allCapacitance(own) });
      },
    },
    {
      id: 'network-overshoot',
      title: 'Overshoot of its first section, about',
      slot: 'store',
      compute: (rig) =>
        ruled(
          'overshoot of the first section',
          isTypeE(rig.own('store')) ? overshoot['type-e'] : overshoot.equal,
          '1',
          'into its own impedance; common practice, no source. The flat top behind it ripples by 1 to 3 %: the solver has it.',
        ),
    },
    {
      id: 'wanted-capacitance',
      title: 'Capacitance of a section for the wanted pulse',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('store');
        return work(pulseLineFormulas.sectionCapacitance, {
          Z: own.quantity('Zw'),
          tp: own.quantity('tw'),
          n: own.quantity('n'),
        });
      },
    },
    {
      id: 'wanted-inductance',
      title: 'Inductance of a section for the wanted pulse',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('store');
        return work(pulseLineFormulas.sectionInductance, {
          Z: own.quantity('Zw'),
          tp: own.quantity('tw'),
          n: own.quantity('n'),
          k: coupling(own),
          e: ends(own),
        });
      },
    },
  ],
  limits: [
    {
      id: 'capacitor-voltage',
      title: 'Network voltage',
      slot: 'store',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.offers('store').ratedVoltage ?? null,
      levers: ['store.V0', 'store.Vr'],
      protects: true,
    },
    {
      id: 'reversal',
      title: 'Capacitor, reversal',
      slot: 'store',
      stress: (rig) => rig.figure('voltage-reversal'),
      rating: (rig) => rig.own('store').optional('reversal'),
      levers: ['load.R', 'store.V0'],
      protects: true,
      note: 'A load below its impedance, or a short, reverses every section.',
    },
    {
      id: 'network-current',
      title: 'Capacitor, peak current',
      slot: 'store',
      stress: (rig) => rig.figure('peak-current'),
      rating: (rig) => rig.own('store').optional('Ip'),
      levers: ['store.V0', 'load.R'],
      onlyIfKnown: true,
      note: 'The flat top: each section gives it one after the other; with overshoot some more.',
    },
  ],
  problems: (own, rig) => {
    const Z = impedance(own).value;
    const R = rig.figure('loop-resistance').value;
    if (R > 0.5 * Z && R < 2 * Z) return [];
    const text =
      R <= 0.5 * Z
        ? `The rest of its loop has ${printQuantity(R, 'Ω')}, far below its impedance of ${printQuantity(Z, 'Ω')}: it rings in steps and reverses its capacitors.`
        : `The rest of its loop has ${printQuantity(R, 'Ω')}, far above its impedance of ${printQuantity(Z, 'Ω')}: it discharges in a long staircase, and no flat top comes of it.`;
    return [{ severity: 'warning', slot: 'store', field: 'C', text }];
  },
  steps: (own, rig) => [
    ...takenForCharged(rig, 'the network'),
    commissionLow(rig, own.quantity('V0').value),
    ...residualStep(rig),
  ],
});
