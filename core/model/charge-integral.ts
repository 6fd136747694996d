import { overPanels, edge } from '../numeric/index.ts';

/** What a supply does into a store that stands at a voltage: mean current, A, and heat in its resistances, W. */
export interface Drive {
  current: number;
  heat: number;
}

/**
 * Charge of a store through a supply whose mean current depends on the voltage alone: t = C·∫dv/(i(v) − v/Rb), and the heat
 * in its resistances on the way: by Gauss and Legendre, over panels that end at the corners of the characteristic.
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
  const out: Drive = { current: 0, heat: 0 };
  const netAt = (v: number): number => {
    drive(v, out);
    return out.current - v / Rb;
  };
  const ends = panelEnds(netAt, V, corners);
  let [time, heat, stuck] = [0, 0, false];
  overPanels(ends, (v, dv) => {
    const net = netAt(v);
    if (!(net > 0)) stuck = true;
    const dt = (C * dv) / net;
    time += dt;
    heat += out.heat * dt;
  });
  return stuck ? { time: Infinity, heat: Infinity } : { time, heat };
}

/** Panels halve towards each corner, from below, and towards the end, until the net current hardly changes over one. */
function panelEnds(netAt: (v: number) => number, V: number, corners: readonly number[]): number[] {
  const fixed = [0, ...corners.filter((v) => v > 0 && v < V), V].sort((a, b) => a - b);
  const ends = [0];
  for (let p = 1; p < fixed.length; p++) {
    const [from, to] = [fixed[p - 1] ?? 0, fixed[p] ?? 0];
    const last = netAt(to);
    let at = from;
    for (let k = 1; k <= 44; k++) {
      const net = netAt(at);
      if (k > 3 && net < 1.5 * last && last < 1.5 * net) break;
      at = to - (to - from) * 2 ** -k;
      ends.push(at);
    }
    ends.push(to);
  }
  return ends;
}

/** The voltage between `low` and `high` at which the supply gives just what leaks through Rb, by halving. */
export function standstill(current: (v: number) => number, Rb: number, low: number, high: number): number {
  return edge((v) => current(v) > v / Rb, low, high, { within: 1e-13 }).middle;
}
