import { edge, root } from '../numeric/index.ts';

/**
 * Charging of a ladder: a supply behind a resistance, then capacitors to earth with a resistance between each and the next,
 * as a Marx generator has them while it is charged. All numbers SI.
 *
 * The deviation from the supply's voltage is a sum of modes: node m has cos((n − m + ½)·θ) in each, which dies with
 * λ = 4·sin²(θ/2)/(R·C); the resistance at the supply's end decides θ. It is the discrete form of heat that flows into a rod
 * through a film.
 */

/** Stages of the longest ladder that is worked out. */
export const mostStages = 200;

const theta = new Float64Array(mostStages);
const weight = new Float64Array(mostStages);
let known = { n: 0, rho: NaN };

/** Finds the modes of a ladder of n stages, `rho` being the resistance between stages over that before the first, at most 1. */
function findModes(n: number, rho: number): void {
  if (known.n === n && known.rho === rho) return;
  known = { n, rho };
  const f = (x: number) => Math.cos((n + 0.5) * x) - (1 - rho) * Math.cos((n - 0.5) * x);
  for (let k = 0; k < n; k++) {
    // Between the angle of an open end and that of an ideal supply there is one of each mode.
    const [from, to] = [(k * Math.PI) / n, ((2 * k + 1) * Math.PI) / (2 * n + 1)];
    // Of an ideal supply the mode lies on that end, and rounding decides the sign there.
    const x = f(from) > 0 === f(to) > 0 ? to : root(f, from, to, { within: 4e-16 });
    theta[k] = x;
    // Sums of the cosines of a mode over all nodes, and of their squares.
    weight[k] = Math.sin(n * x) / (2 * Math.sin(x / 2)) / (n / 2 + Math.sin(2 * n * x) / (4 * Math.sin(x)));
  }
}

/**
 * The share of the supply's voltage that a stage still lacks.
 *
 * @param n stages, 1 to 200
 * @param m which of them, 1 next to the supply
 * @param R between stages, Ω
 * @param Rs between the supply and the first, Ω, at least R
 * @param C of each, F
 * @param t since the supply was put on the empty ladder, s
 * @returns 1 at the beginning, towards 0
 */
export function ladderLack(n: number, m: number, R: number, Rs: number, C: number, t: number): number {
  findModes(n, R / Rs);
  let sum = 0;
  for (let k = 0; k < n; k++) {
    const x = theta[k] as number;
    const rate = (4 * Math.sin(x / 2) ** 2) / (R * C);
    // All that follow have died sooner.
    if (rate * t > 60) break;
    sum += (weight[k] as number) * Math.cos((n - m + 0.5) * x) * Math.exp(-rate * t);
  }
  return Math.min(1, Math.max(0, sum));
}

/** The time, s, after which a stage lacks a share; the last if none is said, which is always behind all others. */
export function ladderTime(n: number, R: number, Rs: number, C: number, lack: number, m = n): number {
  if (lack >= 1) return 0;
  findModes(n, R / Rs);
  // The slowest mode alone is late by little.
  const slowest = (4 * Math.sin((theta[0] as number) / 2) ** 2) / (R * C);
  const latest = Math.log(Math.max(2, (weight[0] as number) * Math.cos((theta[0] as number) / 2)) / lack) / slowest;
  return edge((t) => ladderLack(n, m, R, Rs, C, t) > lack, 0, latest).middle;
}
