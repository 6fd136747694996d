import { gaussRuleOfUnit, root } from '../numeric/index.ts';
import type { Drive } from './charge-integral.ts';

const sixteen = gaussRuleOfUnit(16);

/** Current at an angle τ after it began at θ0 from nought: X·di/dθ + R·i = Vp·sin θ − v. */
function currentAt(Vp: number, R: number, X: number, v: number, start: number, tau: number): number {
  const Z = Math.hypot(R, X);
  const phi = Math.atan2(X, R);
  const rho = R / X;
  const fallen = R > 0 ? -Math.expm1(-rho * tau) / R : tau / X;
  return (Vp / Z) * (Math.sin(start + tau - phi) - Math.sin(start - phi) * Math.exp(-rho * tau)) - v * fallen;
}

/** Where the current is back at zero: between the angle at which the source falls below v and a whole turn later. */
function extinction(Vp: number, R: number, X: number, v: number, alpha: number): number {
  const current = (tau: number) => currentAt(Vp, R, X, v, alpha, tau);
  const [a, b] = [Math.PI - 2 * alpha, 2 * Math.PI];
  if (!(current(a) > 0)) return a;
  if (current(b) > 0) return b;
  return root(current, a, b, { nought: 1e-13 * (Vp / Math.hypot(R, X)) });
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
  for (let q = 0; q < sixteen.x.length; q++) {
    const tau = length * (sixteen.x[q] as number);
    const i = X > 0 ? currentAt(Vp, R, X, v, start, tau) : (Vp * Math.sin(start + tau) - v) / R;
    sum += (sixteen.w[q] as number) * i;
    squares += (sixteen.w[q] as number) * i * i;
  }
  const share = (pulses * length) / (2 * Math.PI);
  out.current = sum * share;
  out.heat = squares * share * R;
}
