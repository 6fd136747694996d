/** Current displacement in wires. */

/** Complex numbers of the size that is needed here. */
type Complex = readonly [number, number];
const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
const over = ([a, b]: Complex, [c, d]: Complex): Complex => {
  const n = c * c + d * d;
  return [(a * c + b * d) / n, (b * c - a * d) / n];
};

/**
 * AC/DC resistance ratio of a round wire: exactly, by Bessel functions.
 *
 * @param x diameter over skin depth
 */
export function roundWireRatio(x: number): number {
  if (x < 1e-3) return 1;
  // From here on the two terms of the thick wire are within 1e-4.
  if (x > 40) return x / 4 + 0.25 + 3 / (16 * x);
  // ka = (1 − j)·radius/δ; R/R0 = Re(ka·J0(ka)/(2·J1(ka))).
  const { j0, j1 } = besselPair(x / 2);
  // J1(ka) is ka/2 times its series, so the whole is J0 over that series.
  return over(j0, j1)[0];
}

/**
 * AC/DC resistance ratio of a layered winding, each layer taken for a foil that fills it.
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

/** Bessel functions J0, and J1 over half its argument, of (1 − j)·z by their series. */
function besselPair(z: number): { j0: Complex; j1: Complex } {
  const ka: Complex = [z, -z];
  const quarter = times(ka, ka).map((v) => -v / 4) as unknown as Complex;
  let [j0, j1, a, b]: [Complex, Complex, Complex, Complex] = [
    [1, 0],
    [1, 0],
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
  return { j0, j1 };
}

/**
 * Loss of a round wire in a field across it, over what it comes to where the current flows in a thin skin, times the resistance
 * ratio of that skin: ½ζ²·|Im(J2(κ)/J0(κ))| with κ = (1 − j)·ζ, ζ the radius over skin depth. It goes as ζ⁴/8 at low frequency and
 * as ½ζ − ¼ at high.
 *
 * @param x diameter over skin depth
 */
export function crossFieldLoss(x: number): number {
  const z = x / 2;
  if (z > 20) return z / 2 - 0.25;
  const { j0, j1 } = besselPair(z);
  // J2 = 2/κ·J1 − J0, and J1 is κ/2 times its series: J2/J0 = series/J0 − 1.
  return 0.5 * z * z * Math.abs(over(j1, j0)[1]);
}

/** Medhurst's factors: resistance of a single layer over that of its wire stretched out, both in a thin skin; from memory. */

const crowding: readonly (readonly [number, readonly number[]])[] = [
  [0, [1.02, 1.07, 1.16, 1.26, 1.44, 1.74, 2.12, 2.74, 3.73, 5.31]],
  [0.2, [1.02, 1.08, 1.19, 1.29, 1.48, 1.77, 2.2, 2.83, 3.84, 5.45]],
  [0.4, [1.03, 1.08, 1.21, 1.33, 1.54, 1.83, 2.28, 2.97, 3.99, 5.65]],
  [0.6, [1.03, 1.1, 1.22, 1.38, 1.6, 1.89, 2.38, 3.1, 4.11, 5.8]],
  [0.8, [1.03, 1.1, 1.23, 1.42, 1.64, 1.92, 2.44, 3.2, 4.17, 5.8]],
  [1, [1.03, 1.1, 1.24, 1.45, 1.67, 1.94, 2.47, 3.17, 4.1, 5.55]],
  [2, [1.04, 1.13, 1.28, 1.5, 1.74, 1.98, 2.32, 2.74, 3.36, 4.1]],
  [4, [1.04, 1.15, 1.32, 1.54, 1.78, 2.01, 2.27, 2.6, 3.05, 3.54]],
  [6, [1.04, 1.16, 1.34, 1.56, 1.8, 2.03, 2.29, 2.6, 2.92, 3.31]],
  [8, [1.04, 1.165, 1.34, 1.57, 1.81, 2.08, 2.34, 2.62, 2.9, 3.2]],
  [10, [1.04, 1.17, 1.35, 1.58, 1.83, 2.1, 2.37, 2.65, 2.93, 3.23]],
];
const endless = [1.05, 1.19, 1.395, 1.65, 1.93, 2.22, 2.51, 2.815, 3.11, 3.41] as const;

/** A row of the table at a filling: straight lines between its columns, the square of it below them. */
function inRow(row: readonly number[], filling: number): number {
  const [least = 1] = row;
  if (filling <= 0.1) return 1 + (least - 1) * (filling / 0.1) ** 2;
  const i = Math.min(Math.floor(filling * 10 + 1e-9), 9);
  const share = filling * 10 - i;
  return (row[i - 1] ?? 1) * (1 - share) + (row[i] ?? 1) * share;
}

/**
 * Medhurst's factor of a single layer of many turns.
 *
 * @param filling diameter of the conductor over the pitch, up to 1
 * @param slender length over diameter of the coil
 */
export function medhurstCrowding(filling: number, slender: number): number {
  const [last] = crowding.slice(-1);
  if (last && slender >= last[0]) {
    const share = last[0] / slender;
    return inRow(last[1], filling) * share + inRow(endless, filling) * (1 - share);
  }
  const i = crowding.findIndex(([x]) => x > slender);
  const [a, b] = [crowding[i - 1], crowding[i]];
  if (!a || !b) throw new Error('no row of the table');
  const share = (slender - a[0]) / (b[0] - a[0]);
  return inRow(a[1], filling) * (1 - share) + inRow(b[1], filling) * share;
}
