import { Matrix, solve } from 'ml-matrix';

/** A charged capacitor rings into a coil that shares flux with a second circuit. All numbers SI. */
export interface CoupledLoops {
  /** Of the first loop: C1 is charged to V. */
  readonly R1: number;
  readonly L1: number;
  readonly C1: number;
  readonly R2: number;
  readonly L2: number;
  readonly C2: number;
  readonly k: number;
  readonly V: number;
}

export interface CoupledRing {
  /** V at the top of the second circuit and when, s; V across the first capacitor at its greatest. */
  readonly peak: number;
  readonly at: number;
  /** Both modes, Hz. */
  readonly low: number;
  readonly high: number;
  /** A: greatest in each coil. */
  readonly I1: number;
  readonly I2: number;
  /** ∫i1² dt and ∫i2² dt over the whole ring, A²s. */
  readonly S1: number;
  readonly S2: number;
  /** s until a thousandth of the energy is left. */
  readonly rings: number;
}

/** Frequencies of two coupled circuits without losses, Hz: f²·(1 − k²) = ½(f1² + f2² ∓ √((f1² − f2²)² + 4k²f1²f2²)). */
export function coupledModes({ L1, C1, L2, C2, k }: Pick<CoupledLoops, 'L1' | 'C1' | 'L2' | 'C2' | 'k'>): {
  low: number;
  high: number;
} {
  const [a, b] = [1 / (L1 * C1), 1 / (L2 * C2)];
  const root = Math.sqrt((a - b) ** 2 + 4 * k * k * a * b);
  // The lower one by the product of both: a difference of like numbers would lose digits.
  const high = (a + b + root) / (2 * (1 - k * k));
  const low = (a * b) / (1 - k * k) / high;
  return { low: Math.sqrt(low) / (2 * Math.PI), high: Math.sqrt(high) / (2 * Math.PI) };
}

/** x' = A·x of the state v1, i1, v2, i2. */
function system({ R1, L1, C1, R2, L2, C2, k }: CoupledLoops): number[][] {
  const M = k * Math.sqrt(L1 * L2);
  const D = L1 * L2 * (1 - k * k);
  // L1·i1' + M·i2' = v1 − R1·i1 and L2·i2' + M·i1' = −v2 − R2·i2; v1' = −i1/C1, v2' = i2/C2.
  return [
    [0, -1 / C1, 0, 0],
    [L2 / D, (-L2 * R1) / D, M / D, (M * R2) / D],
    [0, 0, 0, 1 / C2],
    [-M / D, (M * R1) / D, -L1 / D, (-L1 * R2) / D],
  ];
}

const times = (A: readonly number[][], B: readonly number[][]): number[][] =>
  A.map((row) => B.map((_, j) => row.reduce((sum, x, m) => sum + x * (B[m]?.[j] ?? 0), 0)));

/** e^(A·t) by its series on a small part of t, squared up. */
function exponential(A: readonly number[][], t: number): number[][] {
  // Voltages and currents differ by orders; squaring until the step is small against every row keeps the series short.
  const size = Math.max(...A.map((row) => row.reduce((sum, x) => sum + Math.abs(x), 0))) * t;
  const doublings = Math.max(0, Math.ceil(Math.log2(size)) + 4);
  const step = t / 2 ** doublings;
  let sum: number[][] = A.map((_, i) => A.map((__, j) => (i === j ? 1 : 0)));
  let term = sum.map((row) => [...row]);
  for (let m = 1; m <= 12; m++) {
    term = times(term, A).map((row) => row.map((x) => (x * step) / m));
    sum = sum.map((row, i) => row.map((x, j) => x + (term[i]?.[j] ?? 0)));
  }
  for (let d = 0; d < doublings; d++) sum = times(sum, sum);
  return sum;
}

/** Samples of a coupled ring, evenly spaced. */
export interface CoupledSamples {
  readonly dt: number;
  readonly v1: Float64Array;
  readonly i1: Float64Array;
  readonly v2: Float64Array;
  readonly i2: Float64Array;
}

/**
 * A coupled ring sampled so often from its beginning, exactly at each sample.
 *
 * @param until share of the energy below which it ends; nought: all samples are made
 */
export function coupledSamples(loops: CoupledLoops, dt: number, count: number, until = 0): CoupledSamples {
  const { L1, C1, L2, C2, k, V } = loops;
  // Scaled so that all states are alike in size: √C·v and √L·i.
  const [a, b, c, d] = [Math.sqrt(C1), Math.sqrt(L1), Math.sqrt(C2), Math.sqrt(L2)];
  const scale = [a, b, c, d];
  const A = system(loops).map((row, i) => row.map((x, j) => (x * (scale[i] ?? 1)) / (scale[j] ?? 1)));
  const E = Float64Array.from(exponential(A, dt).flat());
  const e = (n: number) => E[n] ?? 0;
  const rows = [0, 4, 8, 12].map((n) => [e(n), e(n + 1), e(n + 2), e(n + 3)] as const);
  const [r0, r1, r2, r3] = rows as [(typeof rows)[0], (typeof rows)[0], (typeof rows)[0], (typeof rows)[0]];
  const out = {
    v1: new Float64Array(count),
    i1: new Float64Array(count),
    v2: new Float64Array(count),
    i2: new Float64Array(count),
  };
  let [w, x, y, z] = [V * a, 0, 0, 0];
  const before = 0.5 * w * w;
  for (let n = 0; n < count; n++) {
    out.v1[n] = w / a;
    out.i1[n] = x / b;
    out.v2[n] = y / c;
    out.i2[n] = z / d;
    if (0.5 * (w * w + x * x + y * y + z * z) + k * x * z < until * before) {
      const cut = (all: Float64Array) => all.slice(0, n + 1);
      return { dt, v1: cut(out.v1), i1: cut(out.i1), v2: cut(out.v2), i2: cut(out.i2) };
    }
    const [w0, x0, y0] = [w, x, y];
    w = r0[0] * w0 + r0[1] * x0 + r0[2] * y0 + r0[3] * z;
    x = r1[0] * w0 + r1[1] * x0 + r1[2] * y0 + r1[3] * z;
    y = r2[0] * w0 + r2[1] * x0 + r2[2] * y0 + r2[3] * z;
    z = r3[0] * w0 + r3[1] * x0 + r3[2] * y0 + r3[3] * z;
  }
  return { dt, ...out };
}

/** Samples over the shorter mode, and most of them in all. */
const fine = 40;
const mostSamples = 12_000;

const remembered = new Map<string, CoupledRing>();

/** A coupled ring with its losses, followed until a thousandth of its energy is left. */
export function coupledRing(loops: CoupledLoops): CoupledRing {
  const key = Object.values(loops).join(' ');
  const known = remembered.get(key);
  if (known) return known;
  const made = followed(loops);
  if (remembered.size > 300) remembered.clear();
  remembered.set(key, made);
  return made;
}

/** The greatest of a row of samples between them, by a parabola through the greatest and its neighbours: its place and size. */
function summit(y: Float64Array, count: number): { at: number; size: number } {
  let best = 0;
  for (let n = 1; n < count; n++) if (Math.abs(y[n] ?? 0) > Math.abs(y[best] ?? 0)) best = n;
  const [a, b, c] = [Math.abs(y[best - 1] ?? 0), Math.abs(y[best] ?? 0), Math.abs(y[best + 1] ?? 0)];
  const bend = a - 2 * b + c;
  if (best === 0 || best >= count - 1 || bend >= 0) return { at: best, size: b };
  const shift = (a - c) / (2 * bend);
  return { at: best + shift, size: b - ((a - c) * shift) / 4 };
}

/**
 * ∫i1² dt and ∫i2² dt from the beginning to the end of all time: with x' = A·x the integral P of x·xᵀ follows from
 * A·P + P·Aᵀ = −x0·x0ᵀ (Lyapunov), ten linear equations. Scaled to √C·v and √L·i, and to the faster mode as the unit of time.
 *
 * @returns A²s; infinite where a loop has no loss at all
 */
function coupledActions(loops: CoupledLoops): { S1: number; S2: number } {
  const { L1, C1, L2, C2, V } = loops;
  if (loops.R1 === 0 && loops.R2 === 0) return { S1: Infinity, S2: Infinity };
  // One loop alone may have no loss; a hair of it keeps the equations apart where nothing couples the two.
  const [R1, R2] = [Math.max(loops.R1, 1e-12 * Math.sqrt(L1 / C1)), Math.max(loops.R2, 1e-12 * Math.sqrt(L2 / C2))];
  const scale = [Math.sqrt(C1), Math.sqrt(L1), Math.sqrt(C2), Math.sqrt(L2)];
  const w = 2 * Math.PI * coupledModes(loops).high;
  const A = system({ ...loops, R1, R2 }).map((row, i) => row.map((x, j) => (x * (scale[i] ?? 1)) / ((scale[j] ?? 1) * w)));
  const places: (readonly [number, number])[] = [];
  for (let i = 0; i < 4; i++) for (let j = i; j < 4; j++) places.push([i, j]);
  const at = (i: number, j: number) => places.findIndex(([a, b]) => a === Math.min(i, j) && b === Math.max(i, j));
  const equations = Matrix.zeros(places.length, places.length);
  places.forEach(([i, j], row) => {
    for (let m = 0; m < 4; m++) {
      const [one, other] = [at(m, j), at(m, i)];
      equations.set(row, one, equations.get(row, one) + (A[i]?.[m] ?? 0));
      equations.set(row, other, equations.get(row, other) + (A[j]?.[m] ?? 0));
    }
  });
  const right = Matrix.zeros(places.length, 1);
  right.set(0, 0, -C1 * V * V);
  const P = solve(equations, right);
  const whole = (n: number, L: number) => P.get(at(n, n), 0) / (L * w);
  return { S1: whole(1, L1), S2: whole(3, L2) };
}

function followed(loops: CoupledLoops): CoupledRing {
  const { low, high } = coupledModes(loops);
  const dt = 1 / (high * fine);
  const { i1, v2, i2 } = coupledSamples(loops, dt, mostSamples, 1e-3);
  const count = i1.length;
  const top = summit(v2, count);
  return {
    peak: top.size,
    at: top.at * dt,
    low,
    high,
    I1: summit(i1, count).size,
    I2: summit(i2, count).size,
    ...coupledActions(loops),
    rings: count * dt,
  };
}
