import { bleedFormulas, ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { commissionLow, residualStep } from './shot-steps.ts';
import { takenForCharged } from './taken-for-charged.ts';
import { ifKnown } from '../../block/known.ts';
import { storeEnergy } from '../../block/store-energy.ts';
import { polarityOf } from '../../part/index.ts';
import { absorptionOf, dielectricOf } from './dielectric-field.ts';
import { lifeFigure } from './life.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { bankFaults } from './bank-faults.ts';
import { capacitorBankFields } from './bank-fields.ts';
import { fuseProblem, inductanceOfOne, protectionLimits, seriesOfOne } from './bank-protection.ts';
import { bankGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'store/capacitor-bank': typeof capacitorBankFields;
  }
}

const isPolar = (own: Own<typeof capacitorBankFields>) => own.is('polarity', 'polar');

/** A store that stays reversed, or of whose pulse nothing is known. */
const forGood = ruled('how long it is reversed', 10, 's', 'it stays reversed until it is bled, or how long is not known');
const unrated = ruled('its rated voltage', 0, 'V', 'not given: the charge of a pulse is not counted');

/** What a polar capacitor bears the wrong way round: what its maker says, else by how long it is reversed. */
const reverseOfPolar = (own: Own<typeof capacitorBankFields>, rig: RigContext): Worked =>
  own.optional('Vrev') ??
  work(storeFormulas.polarReverseRating, {
    t: ifKnown(() => rig.figure('reversal-time')) ?? forGood,
    Vr: own.optional('Vr') ?? unrated,
  });

const elementVoltage = (rig: RigContext) => {
  const own = rig.own('store');
  const share = own.optional('share');
  if (share) return work(storeFormulas.groupVoltage, { V: rig.offer('chargedTo'), s: share });
  const C = own.quantity('C');
  const tolerance = (C.kind === 'given' ? C.tolerance : undefined) ?? { minus: 0, plus: 0 };
  const side = (title: string, value: number) => ruled(title, value, '1', 'the tolerance of the capacitance');
  return work(storeFormulas.seriesElementVoltage, {
    V: rig.offer('chargedTo'),
    ns: own.quantity('ns'),
    m: side('capacitance tolerance, minus side', tolerance.minus),
    p: side('capacitance tolerance, plus side', tolerance.plus),
  });
};

export const capacitorBank = defineBlock({
  slot: 'store',
  kind: 'capacitor-bank',
  title: 'Capacitor bank',
  isOfGroups: true,
  glyph: (own) => bankGlyph({ ns: own.quantity('ns').value, np: own.quantity('np').value, polar: own.is('polarity', 'polar') }),
  fields: capacitorBankFields,
  takes: {
    part: 'capacitor',
    fields: { C: 'C', Vr: 'Vdc', reversal: 'reversal', ESR: 'ESR', ESL: 'ESL', Ri: 'Ri', Nr: 'Nr', nl: 'exponent' },
    choices: (part) => ({ polarity: polarityOf(part), dielectric: dielectricOf(part) }),
  },
  key: (own, rig) => ({
    text: printQuantity(rig.figure('bank-capacitance').value, 'F'),
    detail: `${own.quantity('ns').value}s × ${own.quantity('np').value}p`,
  }),
  offers: (own) => {
    const [ns, np] = [own.quantity('ns'), own.quantity('np')];
    const rating = own.optional('Vr');
    return {
      capacitance: work(storeFormulas.seriesParallelCapacitance, { C: own.quantity('C'), ns, np }),
      chargedTo: own.quantity('V0'),
      absorption: absorptionOf(own),
      groups: ns,
      loopResistance: work(storeFormulas.bankResistance, { R: seriesOfOne(own), ns, np }, 'ESR of the bank'),
      loopInductance: work(storeFormulas.bankInductance, { L: inductanceOfOne(own), ns, np }, 'ESL of the bank'),
      insulation: work(storeFormulas.bankResistance, { R: own.quantity('Ri'), ns, np }, 'insulation of the bank'),
      ...(rating ? { ratedVoltage: work(storeFormulas.bankRating, { V: rating, ns }) } : {}),
    };
  },
  circuit: (own, rig, { plus, minus, tag }, scene) => {
    const offers = rig.offers('store');
    const [R, L] = [offers.loopResistance?.value ?? 0, offers.loopInductance?.value ?? 0];
    const inside = `${plus}c`;
    return [
      {
        element:
          L > 0 && scene.of === 'discharge'
            ? { kind: 'inductor', name: `L${tag}`, nodes: [plus, inside], L, R }
            : { kind: 'resistor', name: `R${tag}`, nodes: [plus, inside], R: Math.max(R, 1e-6) },
        says: scene.of === 'discharge' ? 'ESL and ESR of the bank' : 'ESR of the bank',
      },
      {
        element: {
          kind: 'capacitor',
          name: `C${tag}`,
          nodes: [inside, minus],
          C: rig.offer('capacitance').value,
          V0: scene.of === 'charge' ? 0 : rig.offer('chargedTo').value,
        },
        says: 'the bank as one capacitor',
      },
      {
        element: { kind: 'resistor', name: `R${tag}i`, nodes: [inside, minus], R: rig.offer('insulation').value },
        says: 'insulation of the bank',
        ...(scene.of === 'bleed' && !rig.offers('bleeder').bleedResistance
          ? {}
          : { leftOut: { what: 'the insulation of the bank', instead: 'open' as const } }),
      },
    ];
  },
  faults: bankFaults,
  figures: [lifeFigure(elementVoltage)],
  limits: [
    {
      id: 'capacitor-voltage',
      title: 'Bank voltage',
      slot: 'store',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.offers('store').ratedVoltage ?? null,
      levers: ['store.V0', 'store.ns', 'store.Vr'],
      protects: true,
    },
    {
      id: 'element-voltage',
      title: 'Capacitor voltage, worst share',
      slot: 'store',
      stress: elementVoltage,
      rating: (rig) => rig.own('store').optional('Vr'),
      levers: ['store.V0', 'store.ns', 'store.Vr'],
      note: 'With measured groups, the highest share. Otherwise the full spread: one capacitor at the bottom of its tolerance, the others in its string at the top.',
    },
    {
      id: 'reversal',
      title: 'Capacitor, reversal',
      slot: 'store',
      stress: (rig) =>
        isPolar(rig.own('store'))
          ? work(storeFormulas.reverseVoltageOfOne, {
              k: rig.figure('voltage-reversal'),
              V: rig.offer('chargedTo'),
              ns: rig.own('store').quantity('ns'),
            })
          : rig.figure('voltage-reversal'),
      rating: (rig) => {
        const own = rig.own('store');
        return isPolar(own) ? reverseOfPolar(own, rig) : own.optional('reversal');
      },
      levers: ['load.R', 'store.V0', 'load.L', 'store.Vrev'],
      protects: true,
      note: 'Voltage across the bank at the first zero of the current. A polar capacitor is judged by how long it is reversed: 1 V continuous, more in a pulse; the maker’s own figure takes precedence.',
    },
    ...protectionLimits,
  ],
  held: (own, rig) => {
    if (own.quantity('ns').value === 1) return [];
    return [
      {
        id: 'group',
        one: 'group',
        count: own.quantity('ns').value,
        title: `Each of ${own.quantity('ns').value} groups in series`,
        V: elementVoltage(rig),
        through: 'whatever is across the bank, while all groups are even; an uneven group by its leakage alone',
        R: rig.offer('insulation'),
        C: rig.offer('capacitance'),
        E1: work(bleedFormulas.energyShare, { E: storeEnergy(rig), n: own.quantity('ns') }, 'energy per group'),
        then: 'Uneven groups keep their difference when the bank as a whole reads zero: stick, meter and strap across each.',
      },
    ];
  },
  problems: (own, rig) => [...shareProblem(own), ...reachProblem(own, rig), ...fuseProblem(own)],
  steps: (own, rig) => [
    ...takenForCharged(rig, 'the bank'),
    commissionLow(rig, own.quantity('V0').value),
    ...(isPolar(own)
      ? [
          {
            id: 'polarity',
            phase: 'prepare' as const,
            text: 'Check each capacitor’s polarity against its mark: an electrolytic connected backwards bursts within seconds.',
            hold: 'Two people have looked, or one has looked twice.',
          },
        ]
      : []),
    ...residualStep(rig),
  ],
});

function reachProblem(own: Own<typeof capacitorBankFields>, rig: RigContext): Problem[] {
  const reached = rig.figure('charge-towards');
  // A converter that rests at its cut-off has charged to it.
  if (own.quantity('V0').value < reached.value || ifKnown(() => rig.figure('charge-time')) !== null) return [];
  const text = `The supply cannot charge the bank to ${printQuantity(own.quantity('V0').value, 'V')}: this charging path and this bleeder bring it to ${printQuantity(reached.value, 'V')} and no further.`;
  return [{ severity: 'error', slot: 'store', field: 'V0', text }];
}

/** Equal groups take 1/ns each: no group that takes the most can have less. */
function shareProblem(own: Own<typeof capacitorBankFields>): Problem[] {
  const share = own.optional('share');
  const even = 1 / own.quantity('ns').value;
  // Five digits are kept of a share, so an even one may lie that much below.
  if (!share || share.value >= even * (1 - 1e-4)) return [];
  const text = `The worst voltage share is ${printPercent(share.value, 3)}, and with ${own.quantity('ns').value} in series it cannot be below ${printPercent(even, 3)}: compose the bank again, or empty the field.`;
  return [{ severity: 'error', slot: 'store', field: 'share', text }];
}
