import { errorFunction, median } from 'simple-statistics';
import { binomialInterval, root } from '../numeric/index.ts';
import { measures, type Shot, type Values } from './shot.ts';

/**
 * What the shots of a rig teach about its calculation. Of each measure the logarithm of measured over calculated is a bias of the model,
 * alike in every shot of this rig, and a scatter from shot to shot: ln(y/c) = β + ε, β ~ N(0, τ²), ε ~ N(0, σ²). σ is not known and is
 * summed over, so that few shots give wide bands; no linearisation is needed, since the calculation itself is run at the settings of each
 * shot, and one grid over σ is exact where an ensemble would be noisy. Source: the conjugate normal model, Gelman and others, Bayesian Data
 * Analysis, chapter 2; from memory.
 */

/** How far a calculation is usually off, as a standard deviation of its logarithm, before any shot. Common practice, no source. */
export type Calibrated = 'voltage' | 'current' | 'time' | 'speed' | 'spark';
const modelSpread: { readonly [K in Calibrated]: number } = {
  voltage: 0.03,
  current: 0.12,
  time: 0.15,
  speed: 0.15,
  spark: 0.3,
};
const calibrated = Object.keys(modelSpread) as Calibrated[];
export const isCalibrated = (id: string): id is Calibrated => Object.hasOwn(modelSpread, id);

/** Scatter from shot to shot before any shot: about so much, within a factor of two or so. Common practice, no source. */
const usualScatter = 0.03;
const scatterSpread = 0.8;
const scatters = Array.from({ length: 60 }, (_, i) => 0.002 * 300 ** (i / 59));

/** A share of cases that a band is to hold. */
export const bandShare = 0.9;

/** Parts of a mixture of normals. */
interface Part {
  readonly weight: number;
  readonly mean: number;
  readonly variance: number;
}

/** What is known of bias and scatter after some logarithms, σ by σ. */
interface Belief {
  readonly parts: readonly (Part & { readonly sigma: number })[];
}

/** @param tau standard deviation of the bias before any shot */
function belief(logs: readonly number[], tau: number): Belief {
  const n = logs.length;
  const sum = logs.reduce((a, b) => a + b, 0);
  const squares = logs.reduce((a, b) => a + b * b, 0);
  const parts = scatters.map((sigma) => {
    const [s2, t2] = [sigma * sigma, tau * tau];
    const precision = 1 / t2 + n / s2;
    const prior = -0.5 * (Math.log(sigma / usualScatter) / scatterSpread) ** 2;
    const fit = (squares - (t2 / (s2 + n * t2)) * sum * sum) / s2;
    const log = prior - 0.5 * (n * Math.log(s2) + Math.log(1 + (n * t2) / s2) + fit);
    return { log, sigma, mean: sum / s2 / precision, variance: 1 / precision };
  });
  const top = Math.max(...parts.map(({ log }) => log));
  const total = parts.reduce((all, { log }) => all + Math.exp(log - top), 0);
  return { parts: parts.map(({ log, ...part }) => ({ ...part, weight: Math.exp(log - top) / total })) };
}

const normalBelow = (z: number): number => 0.5 * (1 + errorFunction(z / Math.SQRT2));
const below = (parts: readonly Part[], x: number): number =>
  parts.reduce((sum, { weight, mean, variance }) => sum + weight * normalBelow((x - mean) / Math.sqrt(variance)), 0);

function quantile(parts: readonly Part[], share: number): number {
  const reach = Math.max(...parts.map(({ mean, variance }) => Math.abs(mean) + 9 * Math.sqrt(variance)));
  return root((x) => below(parts, x) - share, -reach, reach);
}

/** A factor on a calculated value with the band that holds nine of ten. */
export interface Factor {
  readonly middle: number;
  readonly low: number;
  readonly high: number;
}

const factorOf = (parts: readonly Part[]): Factor => ({
  middle: Math.exp(quantile(parts, 0.5)),
  low: Math.exp(quantile(parts, (1 - bandShare) / 2)),
  high: Math.exp(quantile(parts, (1 + bandShare) / 2)),
});

/** The mean of some further shots, as it is expected. */
const meanOfNext = ({ parts }: Belief, count: number): Part[] =>
  parts.map(({ weight, mean, variance, sigma }) => ({ weight, mean, variance: variance + (sigma * sigma) / count }));

/** A shot, and what had been calculated for its settings. */
export interface Recorded {
  readonly shot: Shot;
  readonly predicted: Values;
}

/** A prediction that was made from the shots before it, and what came. */
export interface Scored {
  readonly at: string;
  readonly calculated: number;
  readonly low: number;
  readonly high: number;
  readonly measured: number;
  readonly isInside: boolean;
}

/** The last shots lie apart from those before them, by more than chance. */
export interface Drift {
  readonly since: string;
  readonly shots: number;
  /** Mean of these over that of the ones before. */
  readonly factor: number;
}

/** What the shots say of one measure. */
export interface Calibration {
  readonly measure: Calibrated;
  readonly shots: number;
  /** Measured over calculated, as this rig has it. */
  readonly bias: Factor;
  /** The same of the next shot: with its scatter. */
  readonly next: Factor;
  /** Standard deviation from shot to shot, as a share. */
  readonly scatter: number;
  readonly scored: readonly Scored[];
  /** Readings that stand alone far from all others: not counted. */
  readonly misread: readonly { readonly at: string; readonly measured: number }[];
  readonly drift: Drift | null;
}

/**
 * The mean of the last shots is apart where chance makes one of this many as far off: a shift of two and a half deviations is then found
 * within five shots in 95 of 100 cases, with less than one alarm in a hundred shots of a rig that stays as it is (both by simulation).
 */
const oneIn = 220;
const longestWindow = 5;
/** Shots before those that are judged: of fewer the scatter is not known. */
const leastBefore = 4;

/** A reading that stands by itself so many robust deviations from the middle of the others was misread, not shot. */
const farOff = 5;
/** Fewer have no middle that one could be far from. */
const leastForMiddle = 6;
/** Readings are written to a per cent or so: what lies this near to the middle is not far. */
const grain = 0.01;

/**
 * Those between two others that agree with the rest: a probe on the wrong range, a digit read wrong. Two in a row, or the last one, may be a
 * rig that has changed, and stay.
 */
function misread(logs: readonly number[]): ReadonlySet<number> {
  if (logs.length < leastForMiddle) return new Set();
  const middle = median([...logs]);
  // 1.4826 makes the median of deviations that of a standard deviation, of normal scatter.
  const spread = Math.max(grain, 1.4826 * median(logs.map((log) => Math.abs(log - middle))));
  const isFar = logs.map((log) => Math.abs(log - middle) > farOff * spread);
  return new Set(logs.flatMap((_, i) => (isFar[i] && isFar[i - 1] !== true && isFar[i + 1] === false ? [i] : [])));
}

const kept = <T extends { readonly log: number }>(all: readonly T[]): T[] => {
  const out = misread(all.map(({ log }) => log));
  return all.filter((_, i) => !out.has(i));
};

/** Windows of the last shots against all before them, the one that is farthest by chance; null where none is. */
function driftIn(logs: readonly { readonly at: string; readonly log: number }[], tau: number): Drift | null {
  let [least, found] = [1 / oneIn, null as Drift | null];
  for (let w = 2; w <= longestWindow && logs.length - w >= leastBefore; w++) {
    const before = logs.slice(0, -w).map(({ log }) => log);
    const last = logs.slice(-w);
    const mean = last.reduce((sum, { log }) => sum + log, 0) / w;
    const parts = meanOfNext(belief(before, tau), w);
    const share = below(parts, mean);
    const chance = 2 * Math.min(share, 1 - share);
    if (chance < least) {
      least = chance;
      found = { since: last[0]?.at ?? '', shots: w, factor: Math.exp(mean - quantile(parts, 0.5)) };
    }
  }
  return found;
}

const counts = ({ shot }: Recorded): boolean => shot.outcome === 'fired' || shot.outcome === 'pre-fire';

/** Measured and calculated of one measure, in the order in which the shots were fired. */
const ratiosOf = (records: readonly Recorded[], measure: Calibrated) =>
  [...records]
    .filter(counts)
    .sort((a, b) => a.shot.at.localeCompare(b.shot.at))
    .flatMap(({ shot, predicted }) => {
      const [y, c] = [shot.measured[measure], predicted[measure]];
      return y !== undefined && c !== undefined && y > 0 && c > 0 ? [{ at: shot.at, y, c, log: Math.log(y / c) }] : [];
    });

/** Whether the last shots lie apart from those before them. */
export const driftOf = (records: readonly Recorded[], measure: Calibrated): Drift | null =>
  driftIn(kept(ratiosOf(records, measure)), modelSpread[measure]);

/**
 * What the shots of one rig say of one measure, in the order in which they were fired.
 *
 * @param records of shots between which nothing but what was set has changed
 * @returns null where no shot has it measured and calculated
 */
export function calibrationOf(records: readonly Recorded[], measure: Calibrated): Calibration | null {
  const tau = modelSpread[measure];
  const all = ratiosOf(records, measure);
  if (all.length === 0) return null;
  const learnt = (ratios: typeof all) =>
    belief(
      kept(ratios).map(({ log }) => log),
      tau,
    );
  const scored = all.map(({ at, y, c }, i): Scored => {
    const { low, high } = factorOf(meanOfNext(learnt(all.slice(0, i)), 1));
    return { at, calculated: c, low: c * low, high: c * high, measured: y, isInside: y >= c * low && y <= c * high };
  });
  const now = learnt(all);
  return {
    measure,
    shots: all.length,
    misread: all.filter((one) => !kept(all).includes(one)).map(({ at, y }) => ({ at, measured: y })),
    bias: factorOf(now.parts),
    next: factorOf(meanOfNext(now, 1)),
    scatter: now.parts.reduce((sum, { weight, sigma }) => sum + weight * sigma, 0),
    scored,
    drift: driftIn(kept(all), tau),
  };
}

/** The same of every measure that some shot has. */
export const calibrationsOf = (records: readonly Recorded[]): Calibration[] =>
  calibrated.flatMap((measure) => calibrationOf(records, measure) ?? []);

/** What a drift of these measures is likely to come from; null where nothing drifts. Common practice, no source. */
export function causeOf(found: readonly Calibration[]): string | null {
  const way = (id: Calibrated): number => {
    const drift = found.find(({ measure }) => measure === id)?.drift;
    return drift ? Math.sign(Math.log(drift.factor)) : 0;
  };
  const [current, time, voltage, speed, spark] = [way('current'), way('time'), way('voltage'), way('speed'), way('spark')];
  if (current < 0 && time > 0) return 'More inductance: a lead has moved, or a bolt has come loose.';
  if (current < 0 && time < 0) return 'Less capacitance: a capacitor has opened its fuse, or lost its metallisation.';
  if (current < 0) return 'More resistance: a joint works loose, a contact or an electrode is burnt.';
  if (current > 0 && time > 0) return 'More capacitance than the rig has, or a wrong scale of the monitor.';
  if (current > 0) return 'Less resistance or inductance: turns or a load that touch; or the scale of the monitor.';
  if (voltage < 0) return 'The gap breaks lower: electrodes burnt rough, gas not renewed, pressure lost.';
  if (voltage > 0) return 'The gap breaks higher: burnt back, or more pressure than the gauge shows.';
  if (speed !== 0) return 'The coil or the start of the projectile has moved, or friction has changed.';
  if (spark !== 0) return 'The electrode or the air has changed.';
  return time !== 0 ? 'Inductance or capacitance of the loop has changed.' : null;
}

/** The name of a measure within a sentence. */
export const calibratedTitle = (measure: Calibrated): string => measures[measure].title.toLowerCase();

/** How often something came, with the interval that holds the true share in at least nine of ten cases. */
export interface Rate {
  readonly came: number;
  readonly of: number;
  readonly low: number;
  readonly high: number;
}

const rateOf = (came: number, of: number): Rate => ({ came, of, ...binomialInterval(came, of, bandShare) });

/** Misfires and pre-fires among shots; null without any shot. */
export function ratesOf(shots: readonly Shot[]): { readonly misfire: Rate; readonly preFire: Rate } | null {
  const of = (outcome: Shot['outcome']) => rateOf(shots.filter((shot) => shot.outcome === outcome).length, shots.length);
  return shots.length === 0 ? null : { misfire: of('misfire'), preFire: of('pre-fire') };
}
