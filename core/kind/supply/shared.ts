import { chargeLeak } from '../../block/charge-leak.ts';
import { rating } from '../../field/index.ts';
import { chargeFormulas, ruled, sourceFormulas, supplyFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { ChargeLaw, FigureSpec, LimitSpec, Problem, RigContext, StepSpec } from '../../block/context.ts';
import { highestVoltage } from '../../block/goal.ts';
import type { FieldId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'input-current': true;
    'input-voltage': true;
    'input-fuse': true;
  }
}

export const currentRating = rating('Output current rating', 'A', 1e4, {
  symbol: 'Imax',
  help: 'Rated output current; empty if not known.',
});

/** Resistance across the store while it is charged: the bleeder, or what leaks by itself. */
export const acrossStore = (rig: RigContext): Worked => chargeLeak(rig) ?? rig.offer('insulation');

const loaded = (rig: RigContext) => ({ C: rig.figure('bank-capacitance'), Rb: acrossStore(rig) });

/** So near to its cut-off a converter rests and starts again: the store is there. */
const atCutOff = ruled(
  'share of the final voltage',
  0.999,
  '1',
  'there the converter rests, and holds the store by starting again',
);

/**
 * A cut-off set to the very voltage of the charge is the usual case: what is waited for is then a hair below it, where the converter begins
 * to rest. A charge above the cut-off stays what it is, and is refused by name.
 */
function upToCutOff(
  rig: RigContext,
  V: Worked,
  base: { readonly I: Worked; readonly R: Worked; readonly Vs: Worked },
  P: Worked,
): Worked {
  if (V.value > base.Vs.value * (1 + 1e-9)) return V;
  const reach = work(supplyFormulas.powerLimitedReach, { ...base, P, Rb: acrossStore(rig) });
  const near = work(chargeFormulas.fractionOfVoltage, { V: reach, x: atCutOff }, 'where the converter begins to rest');
  return V.value > near.value && V.value <= base.Vs.value * (1 + 1e-9) && reach.value > 0.99 * V.value ? near : V;
}

/** What a supply with a sharp current limit does, and one whose power is constant between that and its highest voltage. */
export const limitedLaw = (limit: (rig: RigContext) => { readonly I: Worked; readonly P?: Worked }): ChargeLaw => {
  const drive = (rig: RigContext) => {
    const { I, P } = limit(rig);
    return { P, base: { I, R: rig.figure('charging-resistance'), Vs: rig.figure('charging-voltage') } };
  };
  return {
    isLimited: true,
    reach: (rig) => {
      const { P, base } = drive(rig);
      const Rb = acrossStore(rig);
      return P
        ? work(supplyFormulas.powerLimitedReach, { ...base, P, Rb })
        : work(supplyFormulas.currentLimitedReach, { ...base, Rb });
    },
    time: (rig, V, title) => {
      const { P, base } = drive(rig);
      const inputs = { ...base, ...loaded(rig), V: P ? upToCutOff(rig, V, base, P) : V };
      return P
        ? work(supplyFormulas.powerLimitedChargeTime, { ...inputs, P }, title)
        : work(supplyFormulas.currentLimitedChargeTime, inputs, title);
    },
    loss: (rig, V) => {
      const { P, base } = drive(rig);
      const inputs = { ...base, ...loaded(rig), V: P ? upToCutOff(rig, V, base, P) : V };
      return P
        ? work(supplyFormulas.powerLimitedChargingLoss, { ...inputs, P })
        : work(supplyFormulas.currentLimitedChargingLoss, inputs);
    },
    peak: (rig) => {
      const { P, base } = drive(rig);
      return P
        ? work(supplyFormulas.powerLimitedCurrent, { ...base, P, V: empty }, 'peak charging current')
        : work(supplyFormulas.currentLimitedCurrent, { ...base, V: empty }, 'peak charging current');
    },
  };
};

/** A store that is charged from nought. */
export const empty = ruled('voltage of an empty store', 0, 'V', 'the charge begins at zero');

export const supplyCurrentLimit = (levers: LimitSpec['levers'], note: string): LimitSpec => ({
  id: 'supply-current',
  title: 'Supply current',
  slot: 'supply',
  stress: (rig) => rig.figure('charging-current'),
  rating: (rig) => rig.own('supply').optional('I'),
  levers,
  note,
});

/** Left on, a supply may take the store above its rating. */
export function leftOnProblem(rig: RigContext, field: FieldId<'supply'>): Problem[] {
  const rated = rig.offers('store').ratedVoltage;
  const high = highestVoltage(rig);
  if (!rated || high <= rated.value) return [];
  const text = `Left on, this supply takes the store to ${printQuantity(high, 'V')}, above its rating of ${printQuantity(rated.value, 'V')}: stop the charge in time, by a cut-off and by a person watching the meter.`;
  return [{ severity: 'warning', slot: 'supply', field, text }];
}

/** Before and after: off and in sight; off and taken off. */
export const supplySteps = (gives: string, more: readonly StepSpec[] = []): StepSpec[] => [
  { id: 'supply-off', phase: 'prepare', text: `Supply off, its output control at zero, its plug in sight. ${gives}` },
  ...more,
  {
    id: 'supply-isolate',
    phase: 'isolate',
    text: 'Supply off, then isolate it from the store from outside the guard, with a visible break.',
    hold: 'The isolator is seen open.',
    does: 'isolate',
    caution: 'A charger still connected can feed the load through the switch and recharge the store.',
  },
];

/** What the source behind a converter gives: its voltage, its inner resistance, the efficiency, and the output power asked. */
export interface Input {
  readonly E: Worked;
  readonly Ri: Worked;
  readonly eta: Worked;
  readonly P: Worked;
}

/** Current out of the source at full power, its voltage then, and a hint for the fuse. */
export const inputFigures = (input: (rig: RigContext) => Input): FigureSpec[] => {
  const current = (rig: RigContext) => {
    const { P, eta, E, Ri } = input(rig);
    return work(sourceFormulas.inputCurrent, { P, eta, E, Ri }, 'input current at full power');
  };
  return [
    { id: 'input-current', title: 'Input current at full power', slot: 'supply', compute: current },
    {
      id: 'input-voltage',
      title: 'Source voltage at full power',
      slot: 'supply',
      compute: (rig) => {
        const { E, Ri } = input(rig);
        return work(sourceFormulas.loadedVoltage, { E, I: rig.figure('input-current'), Ri }, 'source voltage at full power');
      },
    },
    fuseFigure((rig) => rig.figure('input-current')),
  ];
};

const margin = ruled('margin over the input current', 1.5, '1', 'common practice, no source: 1.25 to 1.6, slow-blow');

export const fuseFigure = (current: (rig: RigContext) => Worked): FigureSpec => ({
  id: 'input-fuse',
  title: 'Input fuse, a first guess',
  slot: 'supply',
  compute: (rig) => work(sourceFormulas.fuseRating, { I: current(rig), k: margin }, 'rating of an input fuse'),
});

/** A voltage of the supply in words. */
export const givesUpTo = (V: Worked): string => `It can give ${printQuantity(V.value, 'V')}.`;
