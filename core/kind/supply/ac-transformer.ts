import { fields } from '../../field/index.ts';
import { breakFormulas, supplyFormulas, tankFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type ChargeLaw, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { ifKnown } from '../../block/known.ts';
import { defineBlock } from '../../block/define.ts';
import { impedanceFields, leakage, windingFields } from './mains-transformer.ts';
import { currentRating, leftOnProblem, supplySteps } from './shared.ts';
import { transformerGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/ac-transformer': typeof acTransformerFields;
  }
  interface FigureIds {
    'leakage-inductance': true;
    'mains-resonance': true;
    'tank-over-resonance': true;
  }
}

const peak = (own: Own<typeof acTransformerFields>): Worked =>
  work(supplyFormulas.rectifiedPeakVoltage, { Vrms: own.quantity('V') });

const loop = (rig: RigContext) => ({
  Vp: peak(rig.own('supply')),
  R: rig.figure('charging-resistance'),
  L: leakage(rig.own('supply')),
  C: rig.figure('bank-capacitance'),
  f: rig.own('supply').quantity('f'),
});

/** On the way up within a cycle; what matters of such a supply are its breaks. */
const law: ChargeLaw = {
  reach: (rig) => work(tankFormulas.acReach, loop(rig), 'peak that the capacitor swings to without a gap'),
  time: (rig, V, title) => work(breakFormulas.acRise, { ...loop(rig), V }, title),
  loss: (rig, V) => work(breakFormulas.acRiseLoss, { ...loop(rig), V }, 'heat in the path on the way up'),
  peak: (rig) => {
    const { Vp, R, L, f } = loop(rig);
    const X = work(supplyFormulas.reactance, { L, f });
    return work(tankFormulas.limitedPeak, { Vp, R, X }, 'peak charging current');
  },
};

const resonant = (rig: RigContext): Worked => {
  const own = rig.own('supply');
  const L = leakage(own);
  if (L.value === 0) throw new Unavailable('supply', 'the transformer has no leakage inductance', 'Ll');
  return work(tankFormulas.mainsResonantCapacitance, { L, f: own.quantity('f') });
};

/** Between these the tank swings up with the mains; common practice, no source: 1.5 to 2 times the resonant capacitance is used instead. */
const [nearFrom, nearTo] = [0.7, 1.4];

function resonanceProblem(own: Own<typeof acTransformerFields>, rig: RigContext): Problem[] {
  const share = ifKnown(() => rig.figure('tank-over-resonance').value);
  if (share === null || share < nearFrom || share > nearTo) return [];
  const text = `The tank capacitance is ${share.toFixed(2)} times what resonates with this transformer at ${printQuantity(own.quantity('f').value, 'Hz', { trim: true })}: when the gap fails to fire, the voltage climbs until the transformer or the capacitor fails. Use ${printQuantity(1.5 * rig.figure('mains-resonance').value, 'F', { digits: 2 })} to ${printQuantity(2 * rig.figure('mains-resonance').value, 'F', { digits: 2 })} (common practice, no source), and a second gap across the transformer.`;
  return [{ severity: 'warning', slot: 'supply', field: 'Ll', text }];
}

const acTransformerFields = fields({ ...windingFields, ...impedanceFields, I: currentRating });

/** A transformer whose leakage limits its current, straight on the tank: no rectifier. */
export const acTransformer = defineBlock({
  slot: 'supply',
  kind: 'ac-transformer',
  title: 'Current-limited transformer, on AC',
  glyph: () => transformerGlyph,
  fields: acTransformerFields,
  key: (own) => ({ text: printQuantity(own.quantity('V').value, 'V'), detail: 'ac' }),
  takes: { part: 'transformer', fields: { V: 'V', Rw: 'R', I: 'I' } },
  offers: (own) => ({
    sourceVoltage: peak(own),
    chargingResistance: own.quantity('Rw'),
    chargingInductance: leakage(own),
    frequency: own.quantity('f'),
    alternating: own.quantity('f'),
    chargeLaw: law,
  }),
  circuit: (own, _rig, { plus, minus, tag }) => {
    const L = leakage(own).value;
    const inside = L > 0 ? `${plus}w` : plus;
    return [
      {
        element: {
          kind: 'voltage-source',
          name: `V${tag}`,
          nodes: [inside, minus],
          wave: { kind: 'sine', offset: 0, amplitude: peak(own).value, frequency: own.quantity('f').value },
          R: Math.max(own.quantity('Rw').value, 1e-3),
        },
        says: 'secondary with the resistance of its winding',
      },
      ...(L > 0
        ? [
            {
              element: { kind: 'inductor' as const, name: `L${tag}`, nodes: [inside, plus] as const, L },
              says: 'leakage inductance or ballast',
            },
          ]
        : []),
    ];
  },
  leavesOut: () => 'all but the first way up: the voltage of an AC supply comes and goes',
  figures: [
    {
      id: 'leakage-inductance',
      title: 'Leakage inductance of the transformer',
      slot: 'supply',
      compute: (rig) => leakage(rig.own('supply')),
    },
    {
      id: 'mains-resonance',
      title: 'Capacitance resonant with the transformer at the mains',
      slot: 'supply',
      mayBeMissing: true,
      compute: (rig) => resonant(rig),
    },
    {
      id: 'tank-over-resonance',
      title: 'Tank capacitance over the resonant one',
      slot: 'supply',
      mayBeMissing: true,
      compute: (rig) => work(tankFormulas.tankOverResonance, { C: rig.figure('bank-capacitance'), Cm: resonant(rig) }),
    },
  ],
  limits: [
    {
      id: 'supply-current',
      title: 'Supply current',
      slot: 'supply',
      stress: (rig) => rig.figure('path-rms'),
      rating: (rig) => rig.own('supply').optional('I'),
      levers: ['supply.V'],
    },
  ],
  problems: (own, rig) => [
    ...leftOnProblem(rig, 'V'),
    ...resonanceProblem(own, rig),
    {
      severity: 'warning',
      slot: 'supply',
      field: 'V',
      text: `Its current is limited to ${printQuantity(work(tankFormulas.limitedPeak, { Vp: peak(own), R: own.quantity('Rw'), X: work(supplyFormulas.reactance, { L: leakage(own), f: own.quantity('f') }) }).value / Math.SQRT2, 'A')} rms by its leakage, and that is far above what a person survives.`,
    },
  ],
  steps: (own) =>
    supplySteps(`It gives ${printQuantity(own.quantity('V').value, 'V')} rms, a peak of ${printQuantity(peak(own).value, 'V')}.`),
});
