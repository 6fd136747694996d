import type { LaunchRun } from '../../../model/launch/index.ts';

/** Where a launch is judged: at the muzzle, or where no barrel is given, where the force has died. */
export interface Muzzle {
  /** m behind the middle of the first coil; null where it never comes there. */
  readonly x: number | null;
  /** s when its middle passes it. */
  readonly t: number | null;
  /** m/s there; 0 where it never comes there. */
  readonly speed: number;
  /** m/s: the greatest before. */
  readonly fastest: number;
  /** It is slower there than before by more than 2 %. */
  readonly suckBack: boolean;
  readonly verdict: 'leaves' | 'does not leave' | 'pulled back (suck-back)';
}

/** A force below this share of its peak, for good, has died. */
const diedAt = 0.01;
/** A slug that loses more than this share of its speed was pulled back. */
const lost = 0.02;

/** What a run came to at the muzzle. @param barrel m from the middle of the first coil to the muzzle; null where it is not given */
export function muzzleOf({ t, x, v, F }: Pick<LaunchRun, 't' | 'x' | 'v' | 'F'>, barrel: number | null): Muzzle {
  const n = t.length;
  let at = -1;
  if (barrel !== null) {
    for (let k = 1; k < n && at < 0; k++) if ((x[k - 1] ?? 0) < barrel && (x[k] ?? 0) >= barrel) at = k;
  } else {
    const peak = F.reduce((most, f) => Math.max(most, Math.abs(f)), 0);
    let last = n - 1;
    while (last > 0 && Math.abs(F[last] ?? 0) < diedAt * peak) last -= 1;
    // It has left where it moves on with no force on it; one that lies still, or comes back, has not.
    if ((v[Math.min(last + 1, n - 1)] ?? 0) > 0) at = Math.min(last + 1, n - 1);
  }
  const upTo = at < 0 ? n - 1 : at;
  let fastest = 0;
  for (let k = 0; k <= upTo; k++) fastest = Math.max(fastest, v[k] ?? 0);
  if (at < 0)
    return { x: null, t: null, speed: 0, fastest, suckBack: fastest > 0 && (v[n - 1] ?? 0) < 0, verdict: 'does not leave' };
  const share = barrel === null ? 1 : (barrel - (x[at - 1] ?? 0)) / ((x[at] ?? 0) - (x[at - 1] ?? 0));
  const between = (y: Float64Array) => (y[at - 1] ?? y[at] ?? 0) + share * ((y[at] ?? 0) - (y[at - 1] ?? y[at] ?? 0));
  const speed = between(v);
  const suckBack = speed < (1 - lost) * fastest;
  return {
    x: between(x),
    t: between(t),
    speed,
    fastest: Math.max(fastest, speed),
    suckBack,
    verdict: suckBack ? 'pulled back (suck-back)' : 'leaves',
  };
}
