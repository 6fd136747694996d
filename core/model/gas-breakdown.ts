import { edge } from '../numeric/index.ts';
import type { Gas } from '../material/index.ts';

/** Relative density of a gas: 1 at 101.3 kPa and 20 °C. */
export const relativeDensity = (p: number, T: number): number => (p / 101_300) * (293.15 / T);

/** Uniform field in air, V, from the product of relative density and spacing, m. */
export const uniformAir = (x: number): number => 1e3 * (24.22 * (x * 100) + 6.08 * Math.sqrt(x * 100));

/**
 * Uniform field in a gas at any product of pressure and distance. About the minimum it is Paschen's law with the constants
 * that are fixed by it; far above, where that law runs away from what is measured, the streamer law of the gas where it has one, else
 * that of air by its strength. In between one goes over into the other.
 *
 * @param x pressure at 20 °C times spacing, Pa·m; above a third of that of the minimum
 * @returns V
 */
export function gasBreakdown({ minimumVoltage, minimumProduct, strength, line }: Gas, x: number): number {
  const u = x / minimumProduct;
  const paschen = (minimumVoltage * u) / (1 + Math.log(u));
  const streamer = line ? line.at0 + line.slope * x : strength * uniformAir(x / 101_300);
  const share = 1 / (1 + (u / 6) ** 2);
  return share * paschen + (1 - share) * streamer;
}

/** Below this share of the product of the minimum Paschen's law says that nothing breaks down at all. */
export const leastProduct = 0.45;

/** Two like spheres in air up to half a diameter apart, V; x and D in m, both times the relative density. */
function sphereGap(x: number, D: number): number {
  const [cm, share] = [x * 100, x / D];
  const uneven = 1 + 0.3475 * share - (0.1603 * share) / Math.sqrt(D * 100);
  return (1e3 * (24.4 * cm + 6.764 * Math.sqrt(cm)) * uneven) / (1 + (1.1006 + 0.3741 * Math.log(D * 10)) * share ** 2);
}

/** Two rods in air, DC of either sign, V; x in m. IEC 60052; from memory. */
export const rodGap = (x: number): number => 2e3 + 534e3 * x;

/** Needle gap: kV rms at 60 Hz and spacing in inches, of the older AIEE standards; from memory. */
const needles: readonly (readonly [number, number])[] = [
  [10, 0.47],
  [15, 0.725],
  [20, 1],
  [25, 1.3],
  [30, 1.625],
  [35, 2],
  [40, 2.45],
  [45, 2.95],
  [50, 3.55],
  [60, 4.65],
  [70, 5.85],
  [80, 7.1],
  [90, 8.35],
  [100, 9.6],
  [110, 10.75],
  [120, 11.85],
  [130, 12.95],
  [140, 13.95],
  [150, 15],
];
const needlePoints = needles.map(([kV, inches]) => [kV * 1e3 * Math.SQRT2, inches * 0.0254] as const);

/** A power law through each pair of neighbours; the outer ones go on beyond the table. */
function throughPairs(from: 0 | 1, x: number): number {
  const last = needlePoints.length - 1;
  const next = needlePoints.findIndex((point) => point[from] >= x);
  const i = Math.min(Math.max(next === -1 ? last : next, 1), last);
  const [a, b] = [needlePoints[i - 1], needlePoints[i]];
  if (!a || !b) throw new Error('no table of needles');
  const to = from === 0 ? 1 : 0;
  return a[to] * (x / a[from]) ** (Math.log(b[to] / a[to]) / Math.log(b[from] / a[from]));
}

/** Two needles in air, V peak; x in m, times the relative density. */
export const needleGap = (x: number): number => throughPairs(1, x);
/** The spacing that two needles break down over, m. */
export const needleSpacing = (V: number): number => throughPairs(0, V);

/** How much the greatest field between two like spheres at opposite voltages is above the mean one. Russell; from memory. */
const sphereCrowding = (x: number, D: number): number => {
  const apart = 1 + (2 * x) / D;
  return (apart + Math.sqrt(apart * apart + 8)) / 4;
};

/**
 * Two like spheres in air at any spacing, V. Up to half a diameter by the tables; wider, what it takes to bring their surface to the
 * same field, and never less than the rods do that they become: from there on corona stands on them before they break down.
 */
export function anySphereGap(x: number, D: number): number {
  if (x <= D / 2) return sphereGap(x, D);
  const surface = ((x / sphereCrowding(x, D)) * sphereCrowding(D / 2, D)) / (D / 2);
  return Math.max(sphereGap(D / 2, D) * surface, rodGap(x));
}

/** The product of pressure and spacing, right of the minimum, that breaks down at a voltage, Pa·m; NaN below the least voltage. */
export function productFor(gas: Gas, V: number): number {
  let low = gas.minimumProduct;
  const high = 2.1e5;
  // The least of the two laws together lies a hair beside that of the first.
  for (let round = 0; round < 60; round++) {
    const [a, b] = [low * 0.999, low * 1.001];
    if (gasBreakdown(gas, a) < gasBreakdown(gas, low)) low = a;
    else if (gasBreakdown(gas, b) < gasBreakdown(gas, low)) low = b;
    else break;
  }
  if (V < gasBreakdown(gas, low) || V > gasBreakdown(gas, high)) return NaN;
  return edge((product) => gasBreakdown(gas, product) < V, low, high, { isRatio: true }).middle;
}
