import { CircuitError } from '@vast-surge/core/circuit';
import { FormulaError, formulaById, solveFormula } from '@vast-surge/core/formula';
import { Unavailable } from '@vast-surge/core/block';
import { printQuantity } from '@vast-surge/core/quantity';
import { planSeries, rigAtSetting, standingAt, type PlanAnswer, type Series, type Standing } from '@vast-surge/core/campaign';
import type { Rig, RigDocument } from '@vast-surge/core/rig';
import { rungErects, type Rung } from '@vast-surge/core/runsheet';
import { fieldsLearnt, predictShot, type Calibration, type FieldLearnt, type Values } from '@vast-surge/core/shot';
import {
  erectionShot,
  faultStudy,
  launchStudy,
  predictedShot,
  type PredictedShot,
  overvoltages,
  solvedBreaks,
  stagesStudy,
  tankStudy,
  type FaultStudy,
  type LaunchStudy,
  type Shot,
  type SolvedBreaks,
  type StagesStudy,
  type TankStudy,
} from '@vast-surge/core/study';

/** How a shot was set: by the names that every shot has, and by what its campaign varied. */
export interface AsSet {
  readonly set: Values;
  readonly values: readonly { readonly path: string; readonly value: number }[];
}

export type StudyAnswer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

/** A rig that cannot be run is no fault of the worker: the reason travels as a value. */
function answered<T>(run: () => T): StudyAnswer<T> {
  try {
    return { ok: true, value: run() };
  } catch (error) {
    if (error instanceof CircuitError || error instanceof FormulaError || error instanceof Unavailable)
      return { ok: false, reason: error.message };
    throw error;
  }
}

function solvedSum(id: string, symbol: string, known: Readonly<Record<string, number>>): number {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  return solveFormula(formula, symbol, known);
}

/** What of a rung says whether it erects. */
type AskedRung = Pick<Rung, 'rig' | 'fires' | 'setting'>;

/** Sums asked backwards, shots of a Marx and launches, away from the page. A study is cancelled by ending the worker. */
export const calculations = {
  sum: (id: string, symbol: string, known: Readonly<Record<string, number>>): StudyAnswer<number> =>
    answered(() => solvedSum(id, symbol, known)),
  shot: (rig: Rig): StudyAnswer<Shot> => answered(() => erectionShot(rig)),
  erects: (rungs: readonly AskedRung[]): StudyAnswer<readonly (boolean | null)[]> => answered(() => rungs.map(rungErects)),
  overvoltages: (rig: Rig): StudyAnswer<readonly (number | null)[]> => answered(() => overvoltages(rig)),
  predicted: (rig: Rig): StudyAnswer<PredictedShot> => answered(() => predictedShot(rig)),
  asSet: (rig: Rig, shots: readonly AsSet[]): StudyAnswer<readonly Values[]> =>
    answered(() => shots.map(({ set, values }) => predictShot(rigAtSetting(rig, values), set))),
  fieldsLearnt: (rig: Rig, found: readonly Calibration[]): StudyAnswer<readonly FieldLearnt[]> =>
    answered(() => fieldsLearnt(rig, found)),
  standing: (document: RigDocument, values: readonly { path: string; value: number }[]): StudyAnswer<Standing> =>
    answered(() => standingAt(document, values)),
  series: (document: RigDocument, series: Series): StudyAnswer<PlanAnswer> => answered(() => planSeries(document, series)),
  stages: (rig: Rig, at: number | null): StudyAnswer<StagesStudy> => answered(() => stagesStudy(rig, at)),
  launch: (rig: Rig): StudyAnswer<LaunchStudy | null> =>
    answered(() => launchStudy(rig, (value, unit) => printQuantity(value, unit))),
  tank: (rig: Rig, seed: number): StudyAnswer<TankStudy> => answered(() => tankStudy(rig, seed)),
  faults: (rig: Rig, name: string): StudyAnswer<FaultStudy> => answered(() => faultStudy(rig, name)),
  breaks: (rig: Rig): StudyAnswer<SolvedBreaks> => answered(() => solvedBreaks(rig)),
};
export type StudyCalculations = typeof calculations;
