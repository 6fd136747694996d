import {
  bleedGoal,
  bleedThrough,
  tenthThrough,
  Unavailable,
  type FigureSpec,
  type Offers,
  type RigContext,
  type Slot,
} from '../block/index.ts';
import { bleedFormulas, work, type Worked } from '../formula/index.ts';

declare module '../block/names.ts' {
  interface FigureIds {
    'bleed-time': true;
    'fall-constant': true;
    'bleed-time-tenth': true;
    'bleed-time-open': true;
    'bleed-time-open-tenth': true;
  }
}

const needs = <K extends keyof Offers>(rig: RigContext, slot: Slot, name: K, reason: string): NonNullable<Offers[K]> => {
  const value = rig.offers(slot)[name];
  if (value === undefined) throw new Unavailable(slot, reason);
  return value;
};

const noBleeder = 'this rig has no permanent bleeder';

const bleedTime = (rig: RigContext, R: Worked, title: string): Worked => bleedThrough(rig, R, bleedGoal(rig).voltage, title);

/** Leakage empties every stage by itself: no ladder is in its way. */
function leakTime(rig: RigContext, title: string): Worked {
  const V0 = rig.offer('chargedTo');
  return work(
    bleedFormulas.rcBleedTime,
    { R: insulation(rig), C: rig.figure('bank-capacitance'), V0, V: bleedGoal(rig).voltage },
    title,
  );
}

/** How the store falls between isolating and firing: by what bleeds it then, its meter and its leakage, all at once. */
function fallConstant(rig: RigContext): Worked {
  const C = rig.figure('bank-capacitance');
  const [V0, V] = [rig.offer('chargedTo'), bleedGoal(rig).voltage];
  const by = (R: Worked, title: string) => work(bleedFormulas.rcTimeConstant, { R, C }, title);
  const { bleedResistance, isSwitched } = rig.offers('bleeder');
  const { meterResistance } = rig.offers('meter');
  const ways = [
    ...(bleedResistance && !isSwitched
      ? [work(bleedFormulas.constantOfFall, { t: rig.figure('bleed-time'), V0, V }, 'through the bleeder')]
      : []),
    ...(meterResistance ? [by(meterResistance, 'through the meter')] : []),
    by(insulation(rig), 'by leakage'),
  ];
  return ways.reduce((t1, t2) => work(bleedFormulas.constantsBeside, { t1, t2 }, 'time constant of the fall'));
}

const insulation = (rig: RigContext) => needs(rig, 'store', 'insulation', 'the insulation of the store is not given');

/** How the store comes down, through its bleeder and with it open, in the order a person asks. */
export const bleedFigures: readonly FigureSpec[] = [
  {
    id: 'bleed-time',
    title: 'Bleeder, time to below the goal',
    slot: 'bleeder',
    mayBeMissing: true,
    compute: (rig) =>
      bleedTime(rig, needs(rig, 'bleeder', 'bleedResistance', noBleeder), 'time to below the goal through the bleeder'),
  },
  {
    id: 'fall-constant',
    title: 'After isolating, time constant of the fall',
    slot: 'bleeder',
    compute: fallConstant,
  },
  {
    id: 'bleed-time-tenth',
    title: 'Bleeder, time to a tenth of the voltage',
    slot: 'bleeder',
    mayBeMissing: true,
    compute: (rig) =>
      tenthThrough(
        rig,
        needs(rig, 'bleeder', 'bleedResistance', noBleeder),
        'time to a tenth of the voltage through the bleeder',
      ),
  },
  {
    id: 'bleed-time-open',
    title: 'Bleeder open, time to below the goal',
    slot: 'bleeder',
    compute: (rig) => leakTime(rig, 'time to below the goal, bleeder open, by leakage alone'),
  },
  {
    id: 'bleed-time-open-tenth',
    title: 'Bleeder open, time to a tenth of the voltage',
    slot: 'bleeder',
    compute: (rig) =>
      work(
        bleedFormulas.rcTimeToTenth,
        { R: insulation(rig), C: rig.figure('bank-capacitance') },
        'time to a tenth of the voltage, bleeder open, by leakage alone',
      ),
  },
];
