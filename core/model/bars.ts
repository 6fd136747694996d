import { gaussRuleOfUnit } from '../numeric/index.ts';
import { mu0 } from './coaxial.ts';

/** Points in each direction; along the width they are drawn together at the middle, where two close bars see most of each other. */
const rule = gaussRuleOfUnit(24);

/** Mean logarithm of the distance of two points of parallel rectangles `t` thick and `w` wide, `d` m from middle to middle. */
function meanLog(w: number, t: number, d: number): number {
  let sum = 0;
  for (let i = 0; i < rule.x.length; i++)
    for (let k = 0; k < rule.x.length; k++) {
      const [u, v] = [rule.x[i] as number, rule.x[k] as number];
      const weight = (rule.w[i] as number) * (rule.w[k] as number);
      // Both are drawn together at zero: there the logarithm is steep.
      const [x, dx] = [t * u * u, 2 * t * u];
      const [y, dy] = [w * v * v, 2 * w * v];
      const share = weight * dx * dy * (t - x) * (w - y);
      sum += share * (Math.log((d + x) ** 2 + y * y) + Math.log((d - x) ** 2 + y * y));
    }
  return sum / (t * t * w * w);
}

/**
 * Inductance a metre of a loop of two flat bars that lie face to face, H/m: go and return, the current even over both.
 *
 * @param w width, m; `t` thickness, m; `s` from face to face, m
 * Source: mean geometric distances (Grover, Inductance Calculations; from memory)
 */
export const barsInductance = (w: number, t: number, s: number): number =>
  (mu0 / Math.PI) * (meanLog(w, t, s + t) - meanLog(w, t, 0));

/** By how much of the distance the slope is taken. */
const nudge = 1e-4;

/** N/m with which they push each other apart at one ampere: half the slope of the inductance over their distance. */
export const barsForce = (w: number, t: number, s: number): number => {
  const h = nudge * (s + t);
  const from = Math.max(0, s - h);
  return (barsInductance(w, t, s + h) - barsInductance(w, t, from)) / (2 * (s + h - from));
};
