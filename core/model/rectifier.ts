import type { Drive } from './charge-integral.ts';

/** Nodes and weights of Gauss and Legendre with sixteen points on [0, 1]. */
const nodes: readonly number[] = [
  0.005299532504175031, 0.0277124884633837, 0.06718439880608412, 0.1222977958224985, 0.1910618777986781, 0.2709916111713863,
  0.3591982246103705, 0.4524937450811813, 0.5475062549188188, 0.6408017753896295, 0.7290083888286136, 0.8089381222013219,
  0.8777022041775016, 0.9328156011939159, 0.9722875115366163, 0.994700467495825,
];
const weights: readonly number[] = [
  0.01357622970587709, 0.03112676196932373, 0.0475792558412463, 0.06231448562776704, 0.07479799440828835, 0.08457825969750132,
  0.09130170752246182, 0.09472530522753432, 0.09472530522753432, 0.09130170752246182, 0.08457825969750132, 0.07479799440828835,
  0.06231448562776704, 0.0475792558412463, 0.03112676196932373, 0.01357622970587709,
];

/** Current at an angle τ after it began at θ0 from nought: X·di/dθ + R·i = Vp·sin θ − v. */
function currentAt(Vp: number, R: number, X: number, v: number, start: number, tau: number): number {
  const Z = Math.hypot(R, X);
  const phi = Math.atan2(X, R);
  const rho = R / X;
  const fallen = R > 0 ? -Math.expm1(-rho * tau) / R : tau / X;
  return (Vp / Z) * (Math.sin(start + tau - phi) - Math.sin(start - phi) * Math.exp(-rho * tau)) - v * fallen;
}

/** Where the current is back at nought: between the angle at which the source falls below v and a whole turn later. */
function extinction(Vp: number, R: number, X: number, v: number, alpha: number): number {
  let [a, b] = [Math.PI - 2 * alpha, 2 * Math.PI];
  let [fa, fb] = [currentAt(Vp, R, X, v, alpha, a), currentAt(Vp, R, X, v, alpha, b)];
  if (!(fa > 0)) return a;
  if (fb > 0) return b;
  let side = 0;
  for (let round = 0; round < 40 && b - a > 1e-10; round++) {
    const c = (a * fb - b * fa) / (fb - fa);
    const fc = currentAt(Vp, R, X, v, alpha, c);
    if (Math.abs(fc) < 1e-13 * (Vp / Math.hypot(R, X))) return c;
    if (fc > 0) {
      [a, fa] = [c, fc];
      if (side === 1) fb /= 2;
      side = 1;
    } else {
      [b, fb] = [c, fc];
      if (side === -1) fa /= 2;
      side = -1;
    }
  }
  return (a + b) / 2;
}

/**
 * Steady state, over one cycle, of a rectifier behind R and X = ωL into a store that stands at v: mean current, and the heat
 * R·i² in the resistance.
 *
 * @param Vp peak of the sine less the drops of the diodes, V
 * @param R resistance in series, Ω
 * @param X reactance in series, Ω; not both nought
 * @param pulses 1 half-wave, 2 bridge
 * @param v voltage of the store, V
 */
export function rectifierDrive(Vp: number, R: number, X: number, pulses: number, v: number, out: Drive): void {
  out.current = 0;
  out.heat = 0;
  if (v >= Vp) return;
  const alpha = Math.asin(v / Vp);
  let [start, length] = [alpha, X > 0 ? extinction(Vp, R, X, v, alpha) : Math.PI - 2 * alpha];
  if (pulses === 2 && length > Math.PI) {
    // The current of one half cycle is still there when the next begins: it turns round at θ0 and again half a turn later.
    const rho = R / X;
    const fallen = R > 0 ? -Math.expm1(-rho * Math.PI) / R : Math.PI / X;
    const sine = (v * fallen * Math.hypot(R, X)) / (Vp * (1 + Math.exp(-rho * Math.PI)));
    start = Math.atan2(X, R) - Math.asin(Math.min(1, sine));
    length = Math.PI;
  }
  let [sum, squares] = [0, 0];
  for (let q = 0; q < nodes.length; q++) {
    const tau = length * (nodes[q] as number);
    const i = X > 0 ? currentAt(Vp, R, X, v, start, tau) : (Vp * Math.sin(start + tau) - v) / R;
    sum += (weights[q] as number) * i;
    squares += (weights[q] as number) * i * i;
  }
  const share = (pulses * length) / (2 * Math.PI);
  out.current = sum * share;
  out.heat = squares * share * R;
}
