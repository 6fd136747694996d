import { breakPath } from '../../kind/index.ts';
import type { RigReading } from '../../figure/index.ts';
import { acRow, chargeState, chargeTo, leftAfter, rotaryBreaks, type BreakPath } from '../../model/index.ts';
import { normals } from '../../numeric/index.ts';

/** One charge and the break at its end. */
export interface TankBreak {
  /** s: where the charge begins, where the break comes, where the gap has opened again. */
  readonly from: number;
  readonly at: number;
  readonly until: number;
  /** A at the beginning and at the break; V at the break, with its sign. */
  readonly i0: number;
  readonly i1: number;
  readonly V: number;
}

/** A row of breaks from rest, as it was drawn by a seed. */
export interface TankRow {
  readonly path: BreakPath;
  readonly breaks: readonly TankBreak[];
  /** Of an alternating supply the charge as it was followed, V and A over s; null of a direct one, whose charge is a formula. */
  readonly followed: { readonly t: Float64Array; readonly v: Float64Array; readonly i: Float64Array } | null;
}

/** The path of a rig as plain numbers. @throws Unavailable, FormulaError where it is not known */
export function pathOf(reading: RigReading): BreakPath {
  const { Vs, R, L, Ct, td } = breakPath(reading);
  return { Vs: Vs.value, f: reading.offers('supply').alternating?.value ?? 0, R: R.value, L: L.value, C: Ct.value, td: td.value };
}

/**
 * So many breaks from rest, each at the breakdown of the gap with its scatter.
 *
 * @throws Unavailable, FormulaError where the rig has no breaks
 */
export function tankRow(reading: RigReading, count: number, seed: number): TankRow {
  const path = pathOf(reading);
  const normal = normals(seed);
  const turning = reading.offers('switch').breaks?.value ?? null;
  const alternates = path.f > 0;
  // A rotary gap on ac holds where it passes; on dc, and one that stands, it breaks at the voltage of a break.
  const Vb = reading.figure(alternates && turning !== null ? 'self-break' : 'break-voltage').value;
  const scatter = reading.offers('switch').gapScatter?.value ?? 0;
  // Three standard deviations: beyond them a gap is not drawn, it is broken.
  const drawn = () => Vb * (1 + scatter * Math.max(-3, Math.min(3, normal())));
  if (alternates) {
    const { breaks, samples } = acRow(path, drawn, count, turning);
    let from = 0;
    return {
      path,
      breaks: breaks.map(({ t, v, i }) => {
        const one = { from, at: t, until: t + path.td, i0: 0, i1: i, V: v };
        from = one.until;
        return one;
      }),
      followed: samples,
    };
  }
  const rotary = turning === null ? null : rotaryBreaks(path, turning);
  const breaks: TankBreak[] = [];
  const state = { v: 0, i: 0 };
  let [from, i0] = [0, 0];
  for (let n = 0; n < count; n++) {
    let [T, V, i1] = [0, 0, 0];
    if (turning !== null && rotary) {
      T = 1 / turning - path.td;
      chargeState(path, i0, T, state);
      [V, i1] = [state.v, state.i];
    } else {
      const wanted = drawn();
      const one = chargeTo(path, i0, wanted);
      if (!one) break;
      [T, V, i1] = [one.T, wanted, one.i1];
    }
    const at = from + T;
    breaks.push({ from, at, until: at + path.td, i0, i1, V });
    [from, i0] = [at + path.td, leftAfter(path, i1)];
  }
  return { path, breaks, followed: null };
}

/** Mean and spread of the time between breaks of a row, the beginning left out. */
export function paceOf({ breaks }: TankRow): { readonly rate: number; readonly spread: number } | null {
  const late = breaks.slice(Math.floor(breaks.length * 0.3));
  const times = late.slice(1).map(({ at }, k) => at - (late[k]?.at ?? 0));
  if (times.length < 3) return null;
  const mean = times.reduce((sum, x) => sum + x, 0) / times.length;
  const variance = times.reduce((sum, x) => sum + (x - mean) ** 2, 0) / (times.length - 1);
  return { rate: 1 / mean, spread: Math.sqrt(variance) / mean };
}
