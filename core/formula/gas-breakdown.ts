import type { Gas } from '../material/index.ts';

/** Relative density of a gas: 1 at 101.3 kPa and 20 °C. */
export const relativeDensity = (p: number, T: number): number => (p / 101_300) * (293.15 / T);

/** Uniform field in air, V, from the product of relative density and spacing, m. */
export const uniformAir = (x: number): number => 1e3 * (24.22 * (x * 100) + 6.08 * Math.sqrt(x * 100));

/**
 * Uniform field in a gas at any product of pressure and distance. About the minimum it is Paschen's law with the constants
 * that are fixed by it; far above, where that law runs away from what is measured, the streamer law of air by the strength
 * of the gas. In between one goes over into the other.
 *
 * @param x pressure at 20 °C times spacing, Pa·m; above a third of that of the minimum
 * @returns V
 */
export function gasBreakdown({ minimumVoltage, minimumProduct, strength }: Gas, x: number): number {
  const u = x / minimumProduct;
  const paschen = (minimumVoltage * u) / (1 + Math.log(u));
  const streamer = strength * uniformAir(x / 101_300);
  const share = 1 / (1 + (u / 6) ** 2);
  return share * paschen + (1 - share) * streamer;
}

/** Below this share of the product of the minimum Paschen's law says that nothing breaks down at all. */
export const leastProduct = 0.45;

/** Two like spheres in air, V; x and D in m, both times the relative density. */
export function sphereGap(x: number, D: number): number {
  const [cm, share] = [x * 100, x / D];
  return (1e3 * (24.4 * cm + 6.764 * Math.sqrt(cm)) * (1 + (0.457 * share) / Math.sqrt(D * 100))) / (1 + 0.704 * share ** 2);
}

/** The product of pressure and spacing, right of the minimum, that breaks down at a voltage, Pa·m; NaN below the least voltage. */
export function productFor(gas: Gas, V: number): number {
  let low = gas.minimumProduct;
  let high = 2.1e5;
  // The least of the two laws together lies a hair beside that of the first.
  for (let round = 0; round < 60; round++) {
    const [a, b] = [low * 0.999, low * 1.001];
    if (gasBreakdown(gas, a) < gasBreakdown(gas, low)) low = a;
    else if (gasBreakdown(gas, b) < gasBreakdown(gas, low)) low = b;
    else break;
  }
  if (V < gasBreakdown(gas, low) || V > gasBreakdown(gas, high)) return NaN;
  for (let round = 0; round < 200 && high - low > 1e-16 * high; round++) {
    const middle = Math.sqrt(low * high);
    if (gasBreakdown(gas, middle) < V) low = middle;
    else high = middle;
  }
  return Math.sqrt(low * high);
}
