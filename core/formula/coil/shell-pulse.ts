import { minimum } from '../../numeric/index.ts';

/** A thin conducting tube in a field along it that rises and rings down: what comes through its wall. */
export interface ShellPulse {
  /** First peak inside over first peak outside. */
  readonly inside: number;
  /** Greatest inward pressure over that of the first peak outside with no field inside. */
  readonly inward: number;
}

const samples = 48;

/** The greatest of a smooth function between 0 and a point: the best of some samples, closed in on by the golden section. */
function greatest(f: (x: number) => number, end: number): number {
  const dx = end / samples;
  let best = 1;
  for (let n = 2; n < samples; n++) if (f(n * dx) > f(best * dx)) best = n;
  const at = minimum((x) => -f(x), (best - 1) * dx, (best + 1) * dx, 1e-12, 40);
  return Math.max(f(best * dx), f(at));
}

/**
 * A damped sine outside: τ·b' + b = e^(−a·x)·sin x with x = ω·t, in closed form.
 *
 * @param T ω·τ, above 0
 * @param a damping over angular frequency
 */
export function shellPulse(T: number, a: number): ShellPulse {
  const outside = (x: number) => Math.exp(-a * x) * Math.sin(x);
  // 1/(1 + T·(j − a)), and the transient that starts from nothing inside.
  const [re, im] = [1 - T * a, T];
  const size = re * re + im * im;
  const inside = (x: number) => (Math.exp(-a * x) * (re * Math.sin(x) - im * Math.cos(x)) + im * Math.exp(-x / T)) / size;
  const first = Math.atan2(1, a);
  const peak = outside(first);
  return {
    inside: greatest(inside, 1.5 * Math.PI) / peak,
    inward: greatest((x) => outside(x) ** 2 - inside(x) ** 2, Math.PI) / peak ** 2,
  };
}
