import { overPanels } from '../numeric/index.ts';

/** Coaxial loops and windings of them: mutual inductance, self-inductance, field. All numbers SI. */

export const mu0 = 4e-7 * Math.PI;

/**
 * Complete elliptic integrals of the first and second kind by the arithmetic-geometric mean, m = k².
 *
 * @param rest 1 − m, which the caller knows better than a difference would: of loops that nearly touch it is next to nothing
 */
export function elliptic(m: number, rest: number, out: { K: number; E: number }): void {
  let a = 1;
  let b = Math.sqrt(rest);
  let sum = m / 2;
  let weight = 0.5;
  for (let i = 0; i < 40; i++) {
    const c = (a - b) / 2;
    weight *= 2;
    sum += weight * c * c;
    const next = (a + b) / 2;
    b = Math.sqrt(a * b);
    a = next;
    if (Math.abs(c) < 1e-16 * a) break;
  }
  out.K = Math.PI / (2 * a);
  out.E = out.K * (1 - sum);
}

const ke = { K: 0, E: 0 };

/** Mutual inductance of two coaxial loops of radii a and b at a distance z. Maxwell, A Treatise on Electricity and Magnetism, art. 701. */
export function loopMutual(a: number, b: number, z: number): number {
  const far = (a + b) ** 2 + z * z;
  const m = (4 * a * b) / far;
  const k = Math.sqrt(m);
  elliptic(m, ((a - b) ** 2 + z * z) / far, ke);
  return mu0 * Math.sqrt(a * b) * ((2 / k - k) * ke.K - (2 / k) * ke.E);
}

/** Field of a loop of radius a and 1 A at (r, z) from its middle, T. */
export function loopField(a: number, r: number, z: number, out: { Br: number; Bz: number }): void {
  if (r < 1e-9 * a) {
    out.Br = 0;
    out.Bz = (mu0 * a * a) / (2 * (a * a + z * z) ** 1.5);
    return;
  }
  const far = (a + r) ** 2 + z * z;
  const near = (a - r) ** 2 + z * z;
  elliptic((4 * a * r) / far, near / far, ke);
  const c = mu0 / (2 * Math.PI * Math.sqrt(far));
  out.Bz = c * (ke.K + ((a * a - r * r - z * z) / near) * ke.E);
  out.Br = ((c * z) / r) * (-ke.K + ((a * a + r * r + z * z) / near) * ke.E);
}

/** Self-inductance of a round loop of wire whose current fills it. Maxwell; Rosa and Grover. */
const turnSelf = (radius: number, wireRadius: number): number => mu0 * radius * (Math.log((8 * radius) / wireRadius) - 1.75);

/** Nagaoka's coefficient of a current sheet, diameter D and length l, after Lorenz. */
function nagaoka(D: number, l: number): number {
  const m = (D * D) / (D * D + l * l);
  // A long one: the closed form is a difference of like numbers, its series is not.
  if (m < 1e-4) {
    const x = D / l;
    return 1 - (4 * x) / (3 * Math.PI) + (x * x) / 8;
  }
  // Of a short one what is left after the subtraction is known as well.
  if (l < 1e-4 * D) return ((2 * l) / (Math.PI * D)) * (Math.log((4 * D) / l) - 0.5);
  const k = Math.sqrt(m);
  elliptic(m, 1 - m, ke);
  const lorenz = ((2 * m - 1) * ke.E + (1 - m) * ke.K) / (m * k) - 1;
  return (4 * D * lorenz) / (3 * Math.PI * l);
}

/** Inductance of a sheet of current on a cylinder as one turn, H: diameter D, length l. */
export const sheetInductance = (D: number, l: number): number => ((mu0 * Math.PI * D * D) / (4 * l)) * nagaoka(D, l);

/** Radius of a round wire that has the self-inductance of a strip, m: by geometric mean distances, Grover. */
export const stripRadius = (width: number, thickness: number): number => (0.2235 * (width + thickness)) / Math.exp(-0.25);

/** Layers of a winding: radius to the middle of the wire, number of turns, place of the first turn and pitch, m. */
export interface Layer {
  readonly radius: number;
  readonly turns: number;
  readonly first: number;
  readonly pitch: number;
}

/** Inductance of layers of round turns in series: every pair of turns as two loops, every turn as a loop of wire. */
export function layersInductance(layers: readonly Layer[], wireRadius: number): number {
  let L = 0;
  layers.forEach((one, i) => {
    L += one.turns * turnSelf(one.radius, wireRadius);
    // Within a layer a distance of k pitches occurs turns − k times, either way round.
    for (let k = 1; k < one.turns; k++) L += 2 * (one.turns - k) * loopMutual(one.radius, one.radius, k * one.pitch);
    for (let j = i + 1; j < layers.length; j++) {
      const other = layers[j] as Layer;
      L += 2 * layersMutual(one, other);
    }
  });
  return L;
}

/** Mutual inductance of two layers that do not lie in each other. */
export function layersMutual(one: Layer, other: Layer): number {
  let M = 0;
  if (Math.abs(one.pitch - other.pitch) < 1e-12) {
    // Only the differences of places matter: each is worked out once.
    for (let k = -(other.turns - 1); k < one.turns; k++) {
      const times = Math.min(one.turns, k + other.turns) - Math.max(0, k);
      M += times * loopMutual(one.radius, other.radius, one.first - other.first + k * one.pitch);
    }
    return M;
  }
  for (let a = 0; a < one.turns; a++)
    for (let b = 0; b < other.turns; b++)
      M += loopMutual(one.radius, other.radius, one.first + a * one.pitch - other.first - b * other.pitch);
  return M;
}

/** A winding of rectangular section that is filled evenly. */
export interface Section {
  readonly N: number;
  /** m: inner and outer diameter, length. */
  readonly D1: number;
  readonly D2: number;
  readonly l: number;
}

/** One turn for each of the sections that were asked for last: every corner of a rig asks for the same ones. */
const known = new Map<string, number>();

/** Self-inductance of a winding of rectangular section: as sheets of current one in another, to 1e-6. */
export function sectionInductance(section: Section): number {
  const key = `${section.D1} ${section.D2} ${section.l}`;
  let one = known.get(key);
  if (one === undefined) {
    one = sumOfSheets(section);
    if (known.size >= 200) known.clear();
    known.set(key, one);
  }
  return one * section.N * section.N;
}

/** Ends of panels from 0 to `end` that begin no wider than `scale` and double. */
function doubling(scale: number, end: number): number[] {
  const ends = [0];
  for (let x = Math.max(scale, end * 1e-9); x < end * 0.7; x *= 2) ends.push(x);
  ends.push(end);
  return ends;
}

/** Mutual inductance of two concentric sheets of current of the length l, H for one turn each; radii a and b, not alike. */
function sheetsMutual(a: number, b: number, l: number): number {
  if (a === b) return sheetInductance(2 * a, l);
  let sum = 0;
  overPanels(doubling(Math.abs(a - b), l), (z, dz) => {
    sum += (l - z) * loopMutual(a, b, z) * dz;
  });
  return (2 * sum) / (l * l);
}

/**
 * A section as sheets of current one in another: every pair of them, by how far they are apart and the radius between them. Near each
 * other the mutual inductance bends sharply with the distance and hardly with the radius, so the panels are finer there.
 */
function sumOfSheets({ D1, D2, l }: Section): number {
  const depth = (D2 - D1) / 2;
  // So thin that no digit knows it: a single sheet.
  if (depth < 1e-7 * D2) return sheetInductance((D1 + D2) / 2, l);
  let sum = 0;
  overPanels(doubling(Math.min(depth, l) / 8, depth), (apart, da) => {
    overPanels([D1 / 2 + apart / 2, D2 / 2 - apart / 2], (r, dr) => {
      sum += sheetsMutual(r - apart / 2, r + apart / 2, l) * dr * da;
    });
  });
  return (2 * sum) / (depth * depth);
}

/** Field on the axis of a winding of rectangular section with 1 A, z from its middle, T. */
export function sectionAxisField({ N, D1, D2, l }: Section, z: number): number {
  const [a, b] = [D1 / 2, D2 / 2];
  const thin = b - a < 1e-6 * b;
  const r = (a + b) / 2;
  // A short one: the difference of what is nearly alike is its slope times its length.
  if (l < 1e-4 * Math.hypot(a, z)) {
    const slope = thin
      ? (r * r) / Math.hypot(r, z) ** 3
      : (Math.log((b + Math.hypot(b, z)) / (a + Math.hypot(a, z))) - b / Math.hypot(b, z) + a / Math.hypot(a, z)) / (b - a);
    return (mu0 * N * slope) / 2;
  }
  const of = (x: number) =>
    thin ? x / Math.hypot(r, x) : (x * Math.log((b + Math.hypot(b, x)) / (a + Math.hypot(a, x)))) / (b - a);
  return ((mu0 * N) / (2 * l)) * (of(z + l / 2) - of(z - l / 2));
}
