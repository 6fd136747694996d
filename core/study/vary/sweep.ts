import { errorsOf } from '../../evaluation/index.ts';
import { withTrialValue, type Rig } from '../../rig/index.ts';
import type { Axis } from './axis.ts';
import { limitNames, limitPlace } from './inputs.ts';
import { readPoint, type At } from './outputs.ts';

/** One to three fields varied at once, and what is asked at every point. */
export interface Sweep {
  readonly axes: readonly Axis[];
  readonly outputs: readonly string[];
}

/** Points of one sweep at the most: in closed form some minutes of one core. */
export const mostPoints = 20_000;
export const mostAxes = 3;

/** What was found at a point. */
export interface SweepPoint {
  /** SI, of each axis. */
  readonly at: readonly number[];
  readonly outputs: readonly At[];
  /** The tightest limit there, by id, and its use; null where none is rated. */
  readonly tightest: { readonly id: string; readonly use: number } | null;
  /** Limits that are over their rating there, in the order of the rig. */
  readonly over: readonly string[];
}

export const pointsOf = ({ axes }: Pick<Sweep, 'axes'>): number => axes.reduce((n, { values }) => n * values.length, 1);

/** Why a sweep is not begun; null where it can be. */
export function sweepRefusal(rig: Rig, sweep: Sweep): string | null {
  const n = pointsOf(sweep);
  if (sweep.axes.length === 0) return 'Choose a field to vary.';
  if (sweep.axes.length > mostAxes) return `At most ${mostAxes} fields are varied at once.`;
  if (new Set(sweep.axes.map(({ path }) => path)).size < sweep.axes.length) return 'A field is varied once.';
  if (sweep.outputs.length === 0) return 'Choose what to draw.';
  if (n > mostPoints) {
    const each = Math.floor(mostPoints ** (1 / sweep.axes.length));
    return `${n.toLocaleString('en')} points are asked for; at most ${mostPoints.toLocaleString('en')}, such as ${each} of each field.`;
  }
  const [error] = errorsOf(rig);
  return error ? `This rig cannot be evaluated: ${error.text}` : null;
}

/** Values of the axes at a point: the last runs fastest. */
export function valuesAt(axes: readonly Axis[], index: number): number[] {
  const at: number[] = [];
  let rest = index;
  for (const { values } of [...axes].reverse()) {
    at.unshift(values[rest % values.length] ?? NaN);
    rest = Math.floor(rest / values.length);
  }
  return at;
}

/** The rig with each axis at a value. */
export const rigAt = (rig: Rig, axes: readonly Axis[], at: readonly number[]): Rig =>
  axes.reduce((made, { path }, k) => withTrialValue<string>(made, path, at[k] ?? NaN), rig);

/**
 * A stretch of a sweep, from one point to before another: whoever has it, wherever, gets the same.
 *
 * @throws what a rig throws that is no rig; what only lacks a number is NaN
 */
export function sweepChunk(rig: Rig, { axes, outputs }: Sweep, from: number, to: number): SweepPoint[] {
  const names = limitNames(rig);
  const points: SweepPoint[] = [];
  for (let i = from; i < Math.min(to, pointsOf({ axes })); i++) {
    const at = valuesAt(axes, i);
    const { outputs: read, uses } = readPoint(rigAt(rig, axes, at), outputs);
    const [tightest] = [...uses].sort((a, b) => b[1] - a[1]);
    points.push({
      at,
      outputs: read,
      tightest: tightest ? { id: tightest[0], use: tightest[1] } : null,
      over: [...uses].flatMap(([id, use]) => (use > 1 ? [id] : [])).sort((a, b) => limitPlace(names, a) - limitPlace(names, b)),
    });
  }
  return points;
}
