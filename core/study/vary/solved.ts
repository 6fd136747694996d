import type { FigureId } from '../../block/index.ts';
import { CircuitError } from '../../circuit/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { printQuantity, type UnitId } from '../../quantity/index.ts';
import { hasDesk, type Rig } from '../../rig/index.ts';
import { dischargeFigures } from '../../simulate/index.ts';
import { launchStudy } from '../coil/launch/index.ts';
import { erectionStudy } from '../marx/window.ts';
import { paceOf, tankRow } from '../tesla-coil/index.ts';

type Answers = Readonly<Record<string, number | null | undefined>>;

/** Something that takes the solver, or many shots, and so up to seconds at a point. */
interface Solved {
  /** Whether such a rig has it. */
  of(rig: Rig, reading: RigReading): boolean;
  /** By id what it is called, with its unit. */
  readonly says: Readonly<Record<`solver:${string}`, readonly [title: string, unit: UnitId]>>;
  /** What it comes to at a point; what a point does not have is left out. */
  at(rig: Rig, reading: RigReading): Answers | null;
}

const launches = (reading: RigReading): boolean => ifKnown(() => reading.offers('load').launches) !== null;
const output = (reading: RigReading): FigureId | null => ifKnown(() => reading.offers('store').output) ?? null;
const fires = (rig: Rig): boolean => hasDesk(rig, 'erection');

const discharged = (rig: Rig): ReturnType<typeof dischargeFigures> | null => {
  try {
    return ifKnown(() => dischargeFigures(rig));
  } catch (error) {
    if (error instanceof CircuitError) return null;
    throw error;
  }
};

/** Breaks of a row, and what its gap is drawn by: as the page of a Tesla coil has it at first. */
const [breaks, firstSeed] = [2000, 1];

/** Every one of them asks what the page of its own shows. */
const solved: readonly Solved[] = [
  {
    of: () => true,
    says: { 'solver:current': ['Peak current, by the solver', 'A'], 'solver:time': ['Time to peak, by the solver', 's'] },
    at: (rig, reading) => {
      const launched = launches(reading) ? ifKnown(() => launchStudy(rig, printQuantity)) : null;
      if (launched) return { 'solver:current': launched.peakCurrent, 'solver:time': launched.timeToPeak };
      const found = discharged(rig);
      return { 'solver:current': found?.['peak-current'], 'solver:time': found?.['time-to-peak'] };
    },
  },
  {
    of: (_, reading) => launches(reading),
    says: { 'solver:does': ['Muzzle speed', 'm/s'] },
    at: (rig) => ({ 'solver:does': ifKnown(() => launchStudy(rig, printQuantity))?.exit }),
  },
  {
    of: (_, reading) => output(reading) !== null && !launches(reading),
    says: { 'solver:does': ['Peak output, by the solver', 'V'] },
    at: (rig, reading) => {
      const id = output(reading);
      return { 'solver:does': id ? discharged(rig)?.[id] : undefined };
    },
  },
  {
    of: fires,
    says: {
      'solver:erects': ['Erects from, 99 shots of 100', 'V'],
      'solver:prefires': ['No pre-fire up to, 99 shots of 100', 'V'],
    },
    at: (rig) => {
      const study = ifKnown(() => erectionStudy(rig));
      return study && { 'solver:erects': study.erectsFrom ?? undefined, 'solver:prefires': study.holdsTo };
    },
  },
  {
    of: (rig) => hasDesk(rig, 'tank'),
    says: {
      'solver:rate': ['Break rate, gap scattering', 'Hz'],
      'solver:pace': ['Scatter between its breaks', '1'],
    },
    at: (_, reading) => {
      const pace = ifKnown(() => paceOf(tankRow(reading, breaks, firstSeed)));
      return pace && { 'solver:rate': pace.rate, 'solver:pace': pace.spread };
    },
  },
];

/** What of it a rig has. */
export const solvedOf = (rig: Rig, reading: RigReading): { id: string; title: string; unit: UnitId }[] =>
  solved
    .filter(({ of }) => of(rig, reading))
    .flatMap(({ says }) => Object.entries(says).map(([id, [title, unit]]) => ({ id, title, unit })));

/** Answers what is asked of a rig by these ids, each question that answers several of them once. NaN where it has no such number. */
export function solvedAt(rig: Rig): (id: string) => number {
  const reading = new RigReading(rig);
  const known = new Map<Solved, Answers>();
  return (id) => {
    const one = solved.find(({ of, says }) => id in says && of(rig, reading));
    if (!one) return NaN;
    let answers = known.get(one);
    if (!answers) {
      try {
        answers = one.at(rig, reading) ?? {};
      } catch (error) {
        if (!(error instanceof CircuitError)) throw error;
        answers = {};
      }
      known.set(one, answers);
    }
    return answers[id] ?? NaN;
  };
}
