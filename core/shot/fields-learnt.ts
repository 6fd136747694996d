import { dot, solveDense } from '../numeric/index.ts';
import { bounds } from '../quantity/index.ts';
import { blockDefinition, isInForce } from '../kind/index.ts';
import { blockIn, withTrialValue, type Rig } from '../rig/index.ts';
import { measuredField, type MeasuredField } from './accept.ts';
import type { Calibrated, Calibration } from './calibration.ts';
import { predictShot } from './predict.ts';

/**
 * What the shots of a rig say of its single fields. Each field with a tolerance is normal in its logarithm before any shot, as wide as an even
 * spread over its tolerance is; each measure has a model error of its own besides, and the scatter of the mean of its shots. The calculation
 * is linear in the logarithms over a tolerance, near enough, so that the answer is one small linear system: linearised Gaussian, since an
 * ensemble over the solver would take a hundred times as long for numbers that tolerances and model error blur more than the curvature does.
 * Source: the linear Gaussian model, Gelman and others, Bayesian Data Analysis, chapter 14; from memory.
 */
export interface FieldLearnt {
  readonly field: MeasuredField;
  /** Standard deviations as a share, before and after the shots. */
  readonly before: number;
  readonly after: number;
}

/**
 * How far a calculation is off whose values are all known, as a standard deviation of its logarithm: less than one whose values are as they
 * were entered. Common practice, no source.
 */
export const formError: { readonly [K in Calibrated]: number } = {
  voltage: 0.01,
  current: 0.04,
  time: 0.04,
  speed: 0.08,
  spark: 0.2,
};

/** Places of which something carries the shot. */
const carriers = ['store', 'switch', 'leads', 'load'] as const;
/** What is set, or says nothing of what is measured. */
const set: readonly string[] = ['store.V0', 'switch.d', 'switch.p'];
const silent: readonly string[] = ['ratings', 'protection', 'life'];
/** A change of a field over its tolerance that moves no measure by so much is not asked of. */
const leastEffect = 0.002;
/** Less than this share of its spread taken away, and the shots said nothing of a field. */
const leastLearnt = 0.15;
/** What a person can tell apart: 95 % of a normal. */
const wide = 1.96;

interface Candidate {
  readonly path: string;
  readonly value: number;
  /** Standard deviation of its logarithm before any shot. */
  readonly spread: number;
  /** d ln(measure) / d ln(field), measure by measure. */
  readonly slopes: readonly number[];
}

const ratio = (a: number | undefined, b: number | undefined): number => (a && b && a > 0 && b > 0 ? Math.log(a / b) : 0);

function candidates(rig: Rig, measuresOf: readonly Calibrated[]): Candidate[] {
  return carriers.flatMap((slot) => {
    const block = blockIn(rig, slot);
    const { fields } = blockDefinition(slot, block.kind);
    return Object.entries(fields).flatMap(([id, field]): Candidate[] => {
      const held = block.fields[id];
      const path = `${slot}.${id}`;
      if (field.type !== 'quantity' || field.integer || typeof held !== 'object' || held === null || !held.tolerance) return [];
      if (!isInForce(block, field) || set.includes(path) || silent.includes(field.group ?? '') || !(held.value > 0)) return [];
      const { low, high } = bounds(held);
      if (!(low > 0 && high > low)) return [];
      // An even spread from end to end has a standard deviation of its width over √12.
      const width = Math.log(high / low);
      const [down, up] = [low, high].map((value) => predictShot(withTrialValue<string>(rig, path, value), {}));
      const slopes = measuresOf.map((measure) => ratio(up?.[measure], down?.[measure]) / width);
      const moves = slopes.some((slope) => Math.abs(slope) * width >= leastEffect);
      return moves ? [{ path, value: held.value, spread: width / Math.sqrt(12), slopes }] : [];
    });
  });
}

/** Mean of the logarithms of measured over calculated, those that were misread left out, and how many there are. */
function meanOf({ scored, misread }: Calibration): { readonly mean: number; readonly shots: number } {
  const out = new Set(misread.map(({ at }) => at));
  const logs = scored.filter(({ at }) => !out.has(at)).map(({ measured, calculated }) => Math.log(measured / calculated));
  return { mean: logs.reduce((a, b) => a + b, 0) / logs.length, shots: logs.length };
}

/**
 * Fields that the shots say more of than their tolerances do, the most first.
 *
 * @param found what the shots say of each measure, against the rig as it stands
 */
export function fieldsLearnt(rig: Rig, found: readonly Calibration[]): FieldLearnt[] {
  const known = found.filter(({ scored, misread }) => scored.length > misread.length);
  if (known.length === 0) return [];
  const asked = candidates(
    rig,
    known.map(({ measure }) => measure),
  );
  const means = known.map(meanOf);
  // Variance of what is seen: fields, model error, and the scatter of a mean.
  const A = known.map((one, i) =>
    known.map((_, k) => {
      const fromFields = asked.reduce((sum, { spread, slopes }) => sum + spread ** 2 * (slopes[i] ?? 0) * (slopes[k] ?? 0), 0);
      const own = formError[one.measure] ** 2 + one.scatter ** 2 / (means[i]?.shots ?? 1);
      return fromFields + (i === k ? own : 0);
    }),
  );
  const weights = solveDense(
    A,
    means.map(({ mean }) => mean),
  );
  return asked
    .map(({ path, value, spread, slopes }): FieldLearnt => {
      const move = spread ** 2 * dot(slopes, weights);
      const after = Math.sqrt(Math.max(0, spread ** 2 - spread ** 4 * dot(slopes, solveDense(A, slopes))));
      const now = value * Math.exp(move);
      return { field: measuredField(rig, path as never, { value: now, margin: now * wide * after }), before: spread, after };
    })
    .filter(({ before, after }) => 1 - after / before >= leastLearnt)
    .sort((a, b) => a.after / a.before - b.after / b.before);
}
