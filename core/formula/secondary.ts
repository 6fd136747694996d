import { coupledModes, coupledRing, type CoupledLoops } from './coupled.ts';
import { defineFormula, type Formula, type SymbolSpec } from './define.ts';
import { capacitance, charge, current, inductance, length, positiveVoltage, time, voltage } from './symbol.ts';
import { torusCapacitance } from './toroid.ts';
import { spiralTurns, turnsInductance, turnsMutual } from './turns.ts';

const subject = 'Secondary';

/** A primary as it is wound: from its first turn outwards or upwards. */
const primary = {
  r0: { ...length('radius where it begins'), max: 100, display: 'r_0' },
  p: { ...length('pitch from turn to turn'), max: 10 },
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
  compute: ({ r0, p, a, n, d }) =>
    remembered(`L ${r0} ${p} ${a} ${n} ${d}`, () => turnsInductance(turnsOf({ r0, p, a, n }), d / 2)),
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
  title: 'Inductance of a cone out of those of a helix and a flat spiral',
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
  title: 'Mutual inductance of a primary and a single-layer secondary in its axis',
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
    M * M < L1 * L2
      ? null
      : { symbol: 'M', reason: 'is as much as √(L1·L2): a coupling of one or more, which no two coils have' },
  compute: ({ M, L1, L2 }) => M / Math.sqrt(L1 * L2),
  inverse: { M: ({ k = 0, L1 = 0, L2 = 0 }) => k * Math.sqrt(L1 * L2) },
});

export const toroidCapacitance = defineFormula({
  id: 'toroid-capacitance',
  title: 'Capacitance of a toroid far from everything',
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

export const energyVoltage = defineFormula({
  id: 'energy-voltage',
  title: 'Voltage of a secondary if it gets a share of the energy of the tank',
  subject,
  result: { symbol: 'V2', ...voltage('voltage of the secondary'), display: 'V_2' },
  inputs: {
    V: positiveVoltage('voltage of the tank'),
    C1: { ...capacitance('of the tank'), display: 'C_1' },
    C2: { ...capacitance('of the secondary with its top'), display: 'C_2' },
    q: { title: 'share of the energy', unit: '1', min: 0, max: 1 },
  },
  expression: '{V}·√({q}·{C1}/{C2})',
  source: 'energy balance: turns do not enter',
  assumptions: ['all of that energy is in the capacitance at one instant'],
  compute: ({ V, C1, C2, q }) => V * Math.sqrt((q * C1) / C2),
  inverse: {
    V: ({ V2 = 0, C1 = 0, C2 = 0, q = 0 }) => V2 / Math.sqrt((q * C1) / C2),
    C1: ({ V2 = 0, V = 0, C2 = 0, q = 0 }) => ((V2 / V) ** 2 * C2) / q,
    C2: ({ V2 = 0, V = 0, C1 = 0, q = 0 }) => (q * C1) / (V2 / V) ** 2,
    q: ({ V2 = 0, V = 0, C1 = 0, C2 = 0 }) => ((V2 / V) ** 2 * C2) / C1,
  },
});

/** Two circuits that ring together, within what can be followed: neither lasts for more than some thousand cycles. */
const loops = {
  R1: { title: 'resistance of the tank’s loop', unit: 'Ω', min: 1e-6, max: 1e6, display: 'R_1' },
  L1: { title: 'inductance of the tank’s loop', unit: 'H', min: 1e-9, max: 10, display: 'L_1' },
  C1: { title: 'capacitance of the tank', unit: 'F', min: 1e-13, max: 1e-2, display: 'C_1' },
  R2: { title: 'resistance of the secondary', unit: 'Ω', min: 1e-6, max: 1e9, display: 'R_2' },
  L2: { title: 'inductance of the secondary', unit: 'H', min: 1e-9, max: 1e3, display: 'L_2' },
  C2: { title: 'capacitance of the secondary with its top', unit: 'F', min: 1e-15, max: 1e-2, display: 'C_2' },
  k: { title: 'coupling', unit: '1', min: 5e-3, max: 0.98 },
  V: { title: 'voltage of the tank', unit: 'V', min: 1e-3, max: 1e7 },
} as const satisfies Record<string, SymbolSpec>;

const values = (of: Readonly<Record<keyof typeof loops, number>>): CoupledLoops => of;

type Ring = ReturnType<typeof coupledRing>;

const ringFormula = (
  id: string,
  title: string,
  result: Formula['result'],
  pick: (ring: Ring) => number,
  /** The power of the voltage that it goes with. */
  order: 0 | 1 | 2,
): Formula<keyof typeof loops> =>
  defineFormula({
    id,
    title,
    subject,
    result,
    inputs: loops,
    expression:
      'from {L1}·di1/dt + M·di2/dt + {R1}·i1 = v1, {L2}·di2/dt + M·di1/dt + {R2}·i2 + v2 = 0, {C1}·dv1/dt = −i1, {C2}·dv2/dt = i2, M = {k}·√({L1}·{L2}), v1 = {V} at first',
    source: 'Kirchhoff’s laws on two coupled circuits, solved exactly from sample to sample',
    assumptions: [
      'the gap conducts until the ring is over; one that opens at the first low leaves more in the secondary',
      'no spark from the top takes energy meanwhile',
    ],
    compute: (of) => pick(coupledRing(values(of))),
    ...(order > 0
      ? {
          inverse: {
            V: (of: Readonly<Record<string, number>>) =>
              ((of[result.symbol] ?? 0) / pick(coupledRing({ ...(of as unknown as CoupledLoops), V: 1 }))) ** (1 / order),
          },
        }
      : {}),
  });

export const coupledPeakVoltage = ringFormula(
  'coupled-peak-voltage',
  'Peak voltage of a secondary',
  { symbol: 'V2', ...voltage('peak voltage of the secondary'), display: 'V_2' },
  ({ peak }) => peak,
  1,
);
export const coupledPeakTime = ringFormula(
  'coupled-peak-time',
  'Time to the peak voltage of a secondary',
  { symbol: 't', ...time('time to the peak') },
  ({ at }) => at,
  0,
);
export const coupledPrimaryCurrent = ringFormula(
  'coupled-primary-current',
  'Greatest current of a tank with its secondary',
  { symbol: 'I1', ...current('greatest current of the tank'), display: 'I_1' },
  ({ I1 }) => I1,
  1,
);
export const coupledSecondaryCurrent = ringFormula(
  'coupled-secondary-current',
  'Greatest current at the foot of a secondary',
  { symbol: 'I2', ...current('greatest current of the secondary'), display: 'I_2' },
  ({ I2 }) => I2,
  1,
);
export const coupledPrimaryAction = ringFormula(
  'coupled-primary-action',
  'Action of the current of a tank over a ring',
  { symbol: 'S1', title: 'action of the tank', unit: 'A²s', min: 0, max: 1e18, display: 'S_1' },
  ({ S1 }) => S1,
  2,
);
export const coupledSecondaryAction = ringFormula(
  'coupled-secondary-action',
  'Action of the current of a secondary over a ring',
  { symbol: 'S2', title: 'action of the secondary', unit: 'A²s', min: 0, max: 1e18, display: 'S_2' },
  ({ S2 }) => S2,
  2,
);
export const coupledGapCharge = ringFormula(
  'coupled-gap-charge',
  'Charge through the gap over a ring, both ways counted',
  { symbol: 'Q', ...charge('∫|i|dt of the gap') },
  ({ Q1 }) => Q1,
  1,
);

const modes = { L1: loops.L1, C1: loops.C1, L2: loops.L2, C2: loops.C2, k: loops.k };
const frequency: SymbolSpec = { title: 'frequency', unit: 'Hz', min: 0, max: 1e15, open: true };

export const coupledLowMode = defineFormula({
  id: 'coupled-low-mode',
  title: 'Lower of the two frequencies of coupled circuits',
  subject,
  result: { symbol: 'fl', ...frequency, display: 'f_l' },
  inputs: modes,
  expression: '√((f1² + f2² − √((f1² − f2²)² + 4·{k}²·f1²·f2²))/(2·(1 − {k}²))), f1 of {L1}, {C1}, f2 of {L2}, {C2}',
  source: 'two coupled circuits without losses, exactly',
  assumptions: ['little loss'],
  compute: (of) => coupledModes(of).low,
});
export const coupledHighMode = defineFormula({
  id: 'coupled-high-mode',
  title: 'Higher of the two frequencies of coupled circuits',
  subject,
  result: { symbol: 'fh', ...frequency, display: 'f_h' },
  inputs: modes,
  expression: '√((f1² + f2² + √((f1² − f2²)² + 4·{k}²·f1²·f2²))/(2·(1 − {k}²))), f1 of {L1}, {C1}, f2 of {L2}, {C2}',
  source: 'two coupled circuits without losses, exactly',
  assumptions: ['little loss'],
  compute: (of) => coupledModes(of).high,
});

export const transferTime = defineFormula({
  id: 'transfer-time',
  title: 'Time in which the energy goes over, half a beat',
  subject,
  result: { symbol: 't', ...time('time of the transfer') },
  inputs: {
    fl: { ...frequency, title: 'lower frequency', display: 'f_l' },
    fh: { ...frequency, title: 'higher frequency', display: 'f_h' },
  },
  expression: '1/(2·({fh} − {fl}))',
  source: 'beat of two oscillations',
  assumptions: ['both circuits in tune: out of tune the energy does not go over whole'],
  relation: ({ fl, fh }) => (fh > fl ? null : { symbol: 'fh', reason: 'must be above the lower one' }),
  compute: ({ fl, fh }) => 1 / (2 * (fh - fl)),
  inverse: { fh: ({ t = 0, fl = 0 }) => fl + 1 / (2 * t), fl: ({ t = 0, fh = 0 }) => fh - 1 / (2 * t) },
});

export const layerWire = defineFormula({
  id: 'layer-wire',
  title: 'Wire that a single layer takes',
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
