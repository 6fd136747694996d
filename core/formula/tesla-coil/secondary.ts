import { edge } from '../../numeric/index.ts';
import { defineFormula, type SymbolSpec } from '../define.ts';
import { capacitance, inductance, length, voltage } from '../symbol.ts';
import { torusCapacitance } from '../../model/index.ts';
import { spiralTurns, turnsInductance, turnsMutual } from '../../model/index.ts';

const subject = 'Secondary';

/** A primary as it is wound: from its first turn outwards or upwards. */
const primary = {
  r0: { ...length('radius where it begins'), max: 100, display: 'r_0' },
  p: { ...length('pitch of the turns'), max: 10 },
  a: { title: 'rise, as the sine of its angle: 0 flat, 1 a cylinder', unit: '1', min: 0, max: 1 },
  n: { title: 'turns up to the tap', unit: '1', min: 0.25, max: 200 },
} as const satisfies Record<string, SymbolSpec>;

const turnsOf = ({ r0, p, a, n }: Readonly<Record<'r0' | 'p' | 'a' | 'n', number>>) => spiralTurns(r0, p, Math.asin(a), n);

/** Sums over pairs of turns that were worked out lately, by their geometry. */
const sums = new Map<string, number>();
function remembered(key: string, make: () => number): number {
  const known = sums.get(key);
  if (known !== undefined) return known;
  const made = make();
  if (sums.size >= 500) sums.clear();
  sums.set(key, made);
  return made;
}

/** Inductance of a primary up to a tap, H. */
const upTo = (wound: Parameters<typeof turnsOf>[0], d: number): number =>
  remembered(`L ${wound.r0} ${wound.p} ${wound.a} ${wound.n} ${d}`, () => turnsInductance(turnsOf(wound), d / 2));

export const spiralInductance = defineFormula({
  id: 'spiral-inductance',
  title: 'Inductance of a flat, conical or helical primary up to its tap',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: { ...primary, d: { ...length('diameter of the conductor'), max: 1 } },
  expression:
    'Σ of all pairs of turns as loops of radius {r0} + k·{p}·√(1 − {a}²), k·{p}·{a} apart, {n} turns; each turn a loop of conductor {d}',
  source: 'Maxwell, A Treatise on Electricity and Magnetism, art. 701, exactly; each turn after Rosa and Grover',
  assumptions: [
    'the current on the skin of the conductor; below some kHz it is up to some per cent more',
    'turns as closed circles; a part of a turn counts as that part of a circle; leads and the gap’s loop are extra',
  ],
  relation: ({ p, d }) =>
    p >= d ? null : { symbol: 'p', reason: 'the pitch is below the conductor: turns would lie in each other' },
  compute: ({ r0, p, a, n, d }) => upTo({ r0, p, a, n }, d),
});

export const wheelerFlat = defineFormula({
  id: 'wheeler-flat',
  title: 'Inductance of a flat spiral, approximately',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: {
    r: { ...length('mean radius'), max: 100 },
    c: { ...length('depth, from the inner turn to the outer'), max: 100 },
    n: { title: 'turns', unit: '1', min: 0.25, max: 1000 },
  },
  expression: '39.37 µH/m·{r}²·{n}²/(8·{r} + 11·{c})',
  source: 'Wheeler, Simple inductance formulas for radio coils, Proceedings of the IRE 16 (1928); from memory',
  assumptions: ['within 5 % for spirals of many turns whose depth is above a fifth of their mean radius'],
  compute: ({ r, c, n }) => (39.37e-6 * r * r * n * n) / (8 * r + 11 * c),
  inverse: { n: ({ L = 0, r = 0, c = 0 }) => Math.sqrt((L * (8 * r + 11 * c)) / (39.37e-6 * r * r)) },
});

export const conicalInductance = defineFormula({
  id: 'conical-inductance',
  title: 'Inductance of a cone from a helix and a flat spiral',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: {
    Lh: { ...inductance('of a helix of its mean radius'), display: 'L_h' },
    Lf: { ...inductance('of a flat spiral of its mean radius'), display: 'L_f' },
    a: { title: 'rise, as the sine of its angle', unit: '1', min: 0, max: 1 },
  },
  expression: '√(({Lh}·{a})² + {Lf}²·(1 − {a}²))',
  source: 'common practice, no source',
  assumptions: ['within some 10 %'],
  compute: ({ Lh, Lf, a }) => Math.sqrt((Lh * a) ** 2 + Lf * Lf * (1 - a * a)),
});

export const spiralMutual = defineFormula({
  id: 'spiral-mutual',
  title: 'Mutual inductance of a primary and a coaxial single-layer secondary',
  subject,
  result: { symbol: 'M', ...inductance('mutual inductance') },
  inputs: {
    ...primary,
    h: { title: 'height of the secondary’s lowest turn above the primary’s first', unit: 'm', min: -100, max: 100 },
    D2: { ...length('diameter of the secondary'), max: 100, display: 'D_2' },
    l2: { ...length('length of its winding'), max: 100, display: 'l_2' },
    N: { title: 'turns of the secondary', unit: '1', min: 1, max: 100_000 },
  },
  expression:
    'Σ of the turns of the primary ({n} at {r0} + k·{p}·√(1 − {a}²), k·{p}·{a} high) with loops of {D2} along {l2}, {N} in all, from {h} upwards',
  source: 'Maxwell, A Treatise on Electricity and Magnetism, art. 701, summed along the layer by the rule of Gauss',
  assumptions: ['turns as closed circles in one axis; the secondary as an even sheet'],
  relation: ({ r0, D2, p, a, n, h, l2 }) => {
    const overlaps = turnsOf({ r0, p, a, n }).some(({ r, z }) => Math.abs(r - D2 / 2) < 1e-6 && z >= h && z <= h + l2);
    return overlaps ? { symbol: 'r0', reason: 'a turn of the primary lies in the secondary’s own wire' } : null;
  },
  compute: ({ r0, p, a, n, h, D2, l2, N }) =>
    remembered(`M ${r0} ${p} ${a} ${n} ${h} ${D2} ${l2}`, () =>
      turnsMutual(turnsOf({ r0, p, a, n }), { r: D2 / 2, z: h, l: l2, N: 1 }),
    ) * N,
});

export const couplingFactor = defineFormula({
  id: 'coupling-factor',
  title: 'Coupling of two coils',
  subject,
  result: { symbol: 'k', title: 'coupling', unit: '1', min: -1, max: 1 },
  inputs: {
    M: { ...inductance('mutual inductance'), min: -1e6, open: false },
    L1: { ...inductance('of the primary'), display: 'L_1' },
    L2: { ...inductance('of the secondary'), display: 'L_2' },
  },
  expression: '{M}/√({L1}·{L2})',
  source: 'definition of the coupling',
  assumptions: [],
  relation: ({ M, L1, L2 }) =>
    M * M < L1 * L2 ? null : { symbol: 'M', reason: 'is as much as √(L1·L2): a coupling of 1 or more; it must be below 1' },
  compute: ({ M, L1, L2 }) => M / Math.sqrt(L1 * L2),
  inverse: { M: ({ k = 0, L1 = 0, L2 = 0 }) => k * Math.sqrt(L1 * L2) },
});

export const toroidCapacitance = defineFormula({
  id: 'toroid-capacitance',
  title: 'Capacitance of an isolated toroid',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: {
    D: { ...length('outer diameter'), max: 1000 },
    d: { ...length('diameter of its tube'), max: 1000 },
  },
  expression: '8·ε0·a·(Q₋½/P₋½ + 2·Σ Qₙ₋½/Pₙ₋½) at cosh η = ({D} − {d})/{d}, a = ½·√(({D} − {d})² − {d}²)',
  source: 'Hobson, The Theory of Spherical and Ellipsoidal Harmonics, anchor ring, exactly; from memory',
  assumptions: [
    'alone: a coil below it and what stands near change it by some ten per cent together',
    'smooth; corrugated pipe has about as much as its mean surface',
  ],
  relation: ({ D, d }) =>
    d < 0.4999 * D && d > 1e-4 * D
      ? null
      : {
          symbol: 'd',
          reason: 'the tube must be thinner than half the toroid, or it has no hole, and thicker than a ten-thousandth of it',
        },
  compute: ({ D, d }) => torusCapacitance((D - d) / 2, d / 2),
});

export const layerWire = defineFormula({
  id: 'layer-wire',
  title: 'Wire length of a single layer',
  subject,
  result: { symbol: 'w', ...length('length of wire'), max: 1e9 },
  inputs: {
    D: { ...length('mean diameter'), max: 1000 },
    l: { ...length('length of the winding'), max: 1000 },
    N: { title: 'turns', unit: '1', min: 1, max: 100_000 },
  },
  expression: '√((π·{D}·{N})² + {l}²)',
  source: 'a helix unrolled',
  assumptions: ['without its ends'],
  compute: ({ D, l, N }) => Math.hypot(Math.PI * D * N, l),
  inverse: { N: ({ w = 0, D = 0, l = 0 }) => Math.sqrt(w * w - l * l) / (Math.PI * D) },
});

export const tuningTap = defineFormula({
  id: 'tuning-tap',
  title: 'Turns of a primary for an inductance',
  subject,
  result: { symbol: 'n', title: 'turns', unit: '1', min: 0, max: 200 },
  inputs: {
    r0: primary.r0,
    p: primary.p,
    a: primary.a,
    d: { ...length('diameter of the conductor'), max: 1 },
    L: inductance('of the primary up to the tap'),
  },
  expression: 'turns from {r0} at {p} with rise {a} and conductor {d} whose sum over all pairs is {L}',
  source: 'spiral-inductance, asked backwards by bisection',
  assumptions: spiralInductance.assumptions,
  relation: ({ r0, p, a, d, L }) => {
    if (p < d) return { symbol: 'p', reason: 'the pitch is below the conductor: turns would lie in each other' };
    const [least, most] = [0.25, 60].map((n) => upTo({ r0, p, a, n }, d)) as [number, number];
    return L >= least && L <= most ? null : { symbol: 'L', reason: 'no tap from a quarter turn to 60 turns has it' };
  },
  compute: ({ r0, p, a, d, L }) => {
    const lacks = (n: number) => turnsInductance(turnsOf({ r0, p, a, n }), d / 2) <= L;
    return edge(lacks, 0.25, 60, { within: 1e-11 }).middle;
  },
  inverse: { L: ({ r0 = 0, p = 0, a = 0, d = 0, n = 0 }) => turnsInductance(turnsOf({ r0, p, a, n }), d / 2) },
});

export const tunedInductance = defineFormula({
  id: 'tuned-inductance',
  title: 'Primary inductance that tunes a tank to a secondary',
  subject,
  result: { symbol: 'L', ...inductance('of the primary'), min: -1e6, open: false },
  inputs: {
    L2: { ...inductance('of the secondary'), display: 'L_2' },
    C2: { ...capacitance('of the secondary with its top'), display: 'C_2' },
    C1: { ...capacitance('of the tank'), display: 'C_1' },
    Lr: { ...inductance('of the rest of the tank’s loop'), min: 0, open: false, display: 'L_r' },
  },
  expression: '{L2}·{C2}/{C1} − {Lr}',
  source: 'both resonances alike',
  assumptions: ['each alone, the other not there'],
  compute: ({ L2, C2, C1, Lr }) => (L2 * C2) / C1 - Lr,
});

export const restOfLoop = defineFormula({
  id: 'rest-of-loop',
  title: 'Inductance of the rest of a loop',
  subject,
  result: { symbol: 'Lr', ...inductance('of the rest'), min: 0, open: false, display: 'L_r' },
  inputs: { Lt: { ...inductance('of the whole loop'), display: 'L_t' }, L: inductance('of the part') },
  expression: '{Lt} − {L}',
  source: "Kirchhoff's voltage law",
  assumptions: ['the part shares no flux with the rest'],
  relation: ({ Lt, L }) => (L <= Lt * (1 + 1e-12) ? null : { symbol: 'L', reason: 'the part is more than the whole' }),
  compute: ({ Lt, L }) => Math.max(0, Lt - L),
});

export const mutualOfCoupling = defineFormula({
  id: 'mutual-of-coupling',
  title: 'Mutual inductance of two coils from their coupling',
  subject,
  result: { symbol: 'M', ...inductance('mutual inductance'), min: 0, open: false },
  inputs: {
    k: { title: 'coupling', unit: '1', min: 0, max: 0.9999 },
    L1: { ...inductance('of the primary'), display: 'L_1' },
    L2: { ...inductance('of the secondary'), display: 'L_2' },
  },
  expression: '{k}·√({L1}·{L2})',
  source: 'definition of the coupling',
  assumptions: [],
  compute: ({ k, L1, L2 }) => k * Math.sqrt(L1 * L2),
  inverse: { k: ({ M = 0, L1 = 0, L2 = 0 }) => M / Math.sqrt(L1 * L2) },
});

export const meanRadius = defineFormula({
  id: 'spiral-mean-radius',
  title: 'Mean radius of a flat, conical or helical winding',
  subject,
  result: { symbol: 'r', ...length('mean radius') },
  inputs: primary,
  expression: '{r0} + ½·{n}·{p}·√(1 − {a}²)',
  source: 'plane geometry',
  assumptions: [],
  compute: ({ r0, p, a, n }) => r0 + 0.5 * n * p * Math.sqrt(1 - a * a),
});

export const spiralDepth = defineFormula({
  id: 'spiral-depth',
  title: 'Depth or length of a winding',
  subject,
  result: { symbol: 'c', ...length('depth or length') },
  inputs: { p: primary.p, n: primary.n },
  expression: '{n}·{p}',
  source: 'plane geometry',
  assumptions: [],
  compute: ({ p, n }) => n * p,
  inverse: { p: ({ c = 0, n = 0 }) => c / n, n: ({ c = 0, p = 0 }) => c / p },
});

export const twiceRadius = defineFormula({
  id: 'twice-radius',
  title: 'Diameter from radius',
  subject,
  result: { symbol: 'D', ...length('diameter'), max: 2e6 },
  inputs: { r: length('radius') },
  expression: '2·{r}',
  source: 'plane geometry',
  assumptions: [],
  compute: ({ r }) => 2 * r,
  inverse: { r: ({ D = 0 }) => D / 2 },
});

export const partOfLength = defineFormula({
  id: 'part-of-length',
  title: 'Equal part of a length',
  subject,
  result: { symbol: 'p', ...length('one part') },
  inputs: { l: length('length'), n: { title: 'parts', unit: '1', min: 1, max: 100_000 } },
  expression: '{l}/{n}',
  source: 'plane geometry',
  assumptions: [],
  compute: ({ l, n }) => l / n,
  inverse: { l: ({ p = 0, n = 0 }) => p * n, n: ({ p = 0, l = 0 }) => l / p },
});

export const spiralWire = defineFormula({
  id: 'spiral-wire',
  title: 'Conductor length of a flat, conical or helical winding',
  subject,
  result: { symbol: 'w', ...length('length of conductor'), max: 1e7 },
  inputs: primary,
  expression: '2π·{n}·({r0} + ½·{n}·{p}·√(1 − {a}²))',
  source: 'turns as circles of their mean radius',
  assumptions: ['without its leads'],
  compute: ({ r0, p, a, n }) => 2 * Math.PI * n * (r0 + 0.5 * n * p * Math.sqrt(1 - a * a)),
});

const ohms = (title: string): SymbolSpec => ({ title, unit: 'Ω', min: 0, max: 1e16 });

export const timesFactor = defineFormula({
  id: 'resistance-times-factor',
  title: 'AC resistance from DC resistance',
  subject,
  result: { symbol: 'Ra', ...ohms('resistance at the frequency'), max: 1e25, display: 'R_a' },
  inputs: { R: ohms('for DC'), k: { title: 'factor', unit: '1', min: 0.999, max: 1e9 } },
  expression: '{R}·{k}',
  source: 'definition of the factor',
  assumptions: [],
  compute: ({ R, k }) => R * k,
  inverse: { R: ({ Ra = 0, k = 0 }) => Ra / k, k: ({ Ra = 0, R = 0 }) => Ra / R },
});

export const resistanceWithEarth = defineFormula({
  id: 'resistance-with-earth',
  title: 'Resistance of a secondary with its earth',
  subject,
  result: { symbol: 'R2', ...ohms('secondary with its earth'), max: 1e26, display: 'R_2' },
  inputs: { R: { ...ohms('of the winding'), max: 1e25 }, Re: { ...ohms('of lead and stake'), display: 'R_e' } },
  expression: '{R} + {Re}',
  source: "Kirchhoff's voltage law",
  assumptions: [],
  compute: ({ R, Re }) => R + Re,
});

export const betweenCoils = defineFormula({
  id: 'between-coils',
  title: 'Voltage between a primary and its secondary',
  subject,
  result: { symbol: 'U', ...voltage('between the coils'), max: 1e9 },
  inputs: {
    V1: { ...voltage('of the tank'), display: 'V_1' },
    V2: { ...voltage('peak of the secondary'), display: 'V_2' },
    p: primary.p,
    a: primary.a,
    n: primary.n,
    h: { title: 'height of the secondary’s lowest turn above the primary’s first', unit: 'm', min: -100, max: 100 },
    l: { ...length('length of the secondary'), max: 100 },
  },
  expression: '{V1} + {V2}·x,  x = ({n}·{p}·{a} − {h})/{l}, from 0 to 1',
  source: 'the secondary’s voltage shared evenly along it, at the height of the primary’s top turn; common practice, no source',
  assumptions: ['an even share; in truth the foot has somewhat more of it'],
  compute: ({ V1, V2, p, a, n, h, l }) => V1 + V2 * Math.min(1, Math.max(0, (n * p * a - h) / l)),
});

export const clearance = defineFormula({
  id: 'coil-clearance',
  title: 'Clearance between a primary and its secondary',
  subject,
  result: { symbol: 'g', ...length('clearance') },
  inputs: {
    r0: { ...length('radius where the primary begins'), display: 'r_0' },
    d1: { ...length('diameter of its conductor'), display: 'd_1' },
    D2: { ...length('diameter of the secondary'), display: 'D_2' },
  },
  expression: '{r0} − ½·{d1} − ½·{D2}',
  source: 'plane geometry',
  assumptions: ['at the same height; above it they are further apart'],
  relation: ({ r0, d1, D2 }) =>
    r0 - d1 / 2 - D2 / 2 > 0 ? null : { symbol: 'r0', reason: 'the primary overlaps the secondary: it must start further out' },
  compute: ({ r0, d1, D2 }) => r0 - d1 / 2 - D2 / 2,
});

export const betweenTurns = defineFormula({
  id: 'air-between-turns',
  title: 'Clearance between turns',
  subject,
  result: { symbol: 'g', ...length('clearance between turns') },
  inputs: { p: length('pitch'), d: length('diameter of the conductor') },
  expression: '{p} − {d}',
  source: 'plane geometry',
  assumptions: [],
  relation: ({ p, d }) => (p > d ? null : { symbol: 'p', reason: 'the turns touch: the pitch must be above the conductor' }),
  compute: ({ p, d }) => p - d,
});
