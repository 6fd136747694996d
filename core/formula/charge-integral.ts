/** Nodes and weights of Gauss and Legendre with four points on [0, 1]. */
const nodes = [0.06943184420297371, 0.33000947820757187, 0.6699905217924281, 0.9305681557970263] as const;
const weights = [0.17392742256872692, 0.3260725774312731, 0.3260725774312731, 0.17392742256872692] as const;

/** What a supply does into a store that stands at a voltage: mean current, A, and heat in its resistances, W. */
export interface Drive {
  current: number;
  heat: number;
}

/**
 * Charge of a store through a supply whose mean current depends on the voltage alone: t = C·∫dv/(i(v) − v/Rb), and the heat
 * in its resistances on the way. Panels halve towards the upper end, where the current may be about to vanish, and end
 * at the corners of the characteristic.
 *
 * @param C capacitance of the store, F
 * @param Rb resistance across the store, Ω
 * @param V voltage to reach from nought, V
 * @param corners voltages at which i(v) has a corner
 * @returns time in s and heat in J; both infinite where the current does not suffice to reach V
 */
export function chargeIntegral(
  drive: (v: number, out: Drive) => void,
  C: number,
  Rb: number,
  V: number,
  corners: readonly number[] = [],
): { time: number; heat: number } {
  const ends = [0, ...[1, 2, 3, 4, 6, 8, 11].map((k) => V * (1 - 2 ** -k)), V, ...corners.filter((v) => v > 0 && v < V)];
  ends.sort((a, b) => a - b);
  const out: Drive = { current: 0, heat: 0 };
  let [time, heat] = [0, 0];
  for (let p = 1; p < ends.length; p++) {
    const from = ends[p - 1] ?? 0;
    const width = (ends[p] ?? 0) - from;
    for (let q = 0; q < nodes.length; q++) {
      const v = from + width * (nodes[q] ?? 0);
      drive(v, out);
      const net = out.current - v / Rb;
      if (!(net > 0)) return { time: Infinity, heat: Infinity };
      const dt = (C * width * (weights[q] ?? 0)) / net;
      time += dt;
      heat += out.heat * dt;
    }
  }
  return { time, heat };
}

/** The voltage between `low` and `high` at which the supply gives just what leaks through Rb, by halving. */
export function standstill(current: (v: number) => number, Rb: number, low: number, high: number): number {
  let [a, b] = [low, high];
  for (let round = 0; round < 60 && b - a > 1e-12 * high; round++) {
    const v = (a + b) / 2;
    if (current(v) > v / Rb) a = v;
    else b = v;
  }
  return (a + b) / 2;
}
