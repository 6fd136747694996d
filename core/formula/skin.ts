/** Current displacement in wires. */

/** Complex numbers of the size that is needed here. */
type Complex = readonly [number, number];
const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
const over = ([a, b]: Complex, [c, d]: Complex): Complex => {
  const n = c * c + d * d;
  return [(a * c + b * d) / n, (b * c - a * d) / n];
};

/**
 * Resistance of a round wire at a frequency over that at none: exactly, by Bessel functions.
 *
 * @param x diameter over skin depth
 */
export function roundWireRatio(x: number): number {
  if (x < 1e-3) return 1;
  // From here on the two terms of the thick wire are within 1e-4.
  if (x > 40) return x / 4 + 0.25 + 3 / (16 * x);
  // ka = (1 − j)·radius/δ; R/R0 = Re(ka·J0(ka)/(2·J1(ka))).
  const ka: Complex = [x / 2, -x / 2];
  const quarter = times(ka, ka).map((v) => -v / 4) as unknown as Complex;
  let j0: Complex = [1, 0];
  let j1: Complex = [1, 0];
  let [a, b]: [Complex, Complex] = [
    [1, 0],
    [1, 0],
  ];
  for (let n = 1; n < 400; n++) {
    a = times(a, quarter).map((v) => v / (n * n)) as unknown as Complex;
    b = times(b, quarter).map((v) => v / (n * (n + 1))) as unknown as Complex;
    j0 = [j0[0] + a[0], j0[1] + a[1]];
    j1 = [j1[0] + b[0], j1[1] + b[1]];
    if (Math.hypot(a[0], a[1]) < 1e-17 * Math.hypot(j0[0], j0[1])) break;
  }
  // J1(ka) is ka/2 times its series, so the whole is J0 over that series.
  return over(j0, j1)[0];
}

/**
 * Resistance of a winding of layers at a frequency over that at none, each layer taken for a foil that fills it.
 *
 * @param x side of the square of the wire's section over skin depth, times the root of how far the layer is filled
 * @param layers whole layers
 */
export function layersRatio(x: number, layers: number): number {
  if (x < 1e-3) return 1;
  if (x > 300) return x * (1 + (2 * (layers * layers - 1)) / 3);
  const skin = (Math.sinh(2 * x) + Math.sin(2 * x)) / (Math.cosh(2 * x) - Math.cos(2 * x));
  const near = (Math.sinh(x) - Math.sin(x)) / (Math.cosh(x) + Math.cos(x));
  return x * (skin + ((2 * (layers * layers - 1)) / 3) * near);
}
