/**
 * h(ζ) = acos(ζ)/√(1 − ζ²) for ζ < 1 and acosh(ζ)/√(ζ² − 1) for ζ > 1: one analytic function through ζ = 1, where it is 1.
 * It gives the time to peak of a series RLC discharge, t = h(ζ)·√(LC), and its peak current V·√(C/L)·e^(−ζ·h(ζ)).
 * Near 1 both forms lose all digits, so the Taylor series in x = 1 − ζ is used there:
 * 1 + x/3 + 2x²/15 + 2x³/35 + 8x⁴/315 + 8x⁵/693; the first term left out is below 1e-17 for |x| < 1e-3.
 *
 * @param zeta damping ratio, ≥ 0
 */
export function dampingShape(zeta: number): number {
  const x = 1 - zeta;
  if (Math.abs(x) < 1e-3) return 1 + x * (1 / 3 + x * (2 / 15 + x * (2 / 35 + x * (8 / 315 + (x * 8) / 693))));
  if (zeta < 1) return Math.acos(zeta) / Math.sqrt((1 - zeta) * (1 + zeta));
  return Math.acosh(zeta) / Math.sqrt((zeta - 1) * (zeta + 1));
}

/** ζ = (R/2)·√(C/L), dimensionless. */
export const dampingRatio = (R: number, L: number, C: number): number => (R / 2) * Math.sqrt(C / L);

/** Fraction of the initial voltage that stands reversed on the capacitor at the first current zero; 0 when ζ ≥ 1. */
export const reversalFraction = (zeta: number): number =>
  zeta >= 1 ? 0 : Math.exp((-Math.PI * zeta) / Math.sqrt((1 - zeta) * (1 + zeta)));
