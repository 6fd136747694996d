import { wireMetals } from '../../material/index.ts';
import { mu0, sectionAxisField, sectionInductance, sheetInductance, type Section } from '../../model/index.ts';
import { defineFormula, type SymbolSpec } from '../define.ts';
import { resistivity } from './coil-loss.ts';
import { action, capacitance, count, current, energy, inductance, length, resistance, voltage } from '../symbol.ts';

const subject = 'Coil';
const [copper] = wireMetals;
if (!copper) throw new Error('no metal is listed');

const turns: SymbolSpec = { title: 'turns', unit: '1', min: 0, max: 1e6, open: true };
const wire = { ...length('diameter of the conductor'), max: 1 };
const temperature: SymbolSpec = { title: 'temperature', unit: 'K', min: 1, max: 2000, default: 293.15 };
const coefficient: SymbolSpec = {
  title: 'temperature coefficient at 20 °C',
  unit: 'K⁻¹',
  min: 0,
  max: 0.02,
  default: copper.temperatureCoefficient,
  display: 'α',
};
const frequency: SymbolSpec = { title: 'frequency', unit: 'Hz', min: 0, max: 1e12, open: true };
const fluxDensity = { title: 'flux density', unit: 'T', min: -1e4, max: 1e4 } as const satisfies SymbolSpec;
const stress = (title: string) => ({ title, unit: 'Pa', min: 0, max: 1e13 }) as const satisfies SymbolSpec;

export const awgDiameterOf = defineFormula({
  id: 'awg-diameter',
  title: 'Diameter of an AWG wire',
  subject,
  result: { symbol: 'd', ...wire },
  inputs: { n: { title: 'gauge; 0 is 1/0, −1 is 2/0, to −3', unit: '1', min: -3, max: 50, integer: true } },
  expression: '0.127 mm·92^((36 − {n})/39)',
  source: 'ASTM B258',
  assumptions: ['the conductor alone'],
  compute: ({ n }) => 0.127e-3 * 92 ** ((36 - n) / 39),
});

export const wireResistance = defineFormula({
  id: 'wire-resistance',
  title: 'Resistance of a wire',
  subject,
  result: { symbol: 'R', ...resistance() },
  inputs: {
    l: { ...length('length'), max: 1e7 },
    d: wire,
    rho: resistivity,
    T: temperature,
    alpha: coefficient,
  },
  expression: '{rho}·{l}/(¼π·{d}²)·(1 + {alpha}·({T} − 293.15 K))',
  source: 'definition of resistivity; copper 1.7241e-8 Ω·m at 20 °C: IEC 60028',
  assumptions: ['DC; resistance rises evenly with temperature'],
  compute: ({ l, d, rho, T, alpha }) => (rho * l * (1 + alpha * (T - 293.15))) / (0.25 * Math.PI * d * d),
  inverse: {
    l: ({ R = 0, d = 0, rho = 0, T = 0, alpha = 0 }) => (R * 0.25 * Math.PI * d * d) / (rho * (1 + alpha * (T - 293.15))),
    d: ({ R = 0, l = 0, rho = 0, T = 0, alpha = 0 }) => Math.sqrt((rho * l * (1 + alpha * (T - 293.15))) / (0.25 * Math.PI * R)),
  },
  relation: ({ T, alpha }) =>
    1 + alpha * (T - 293.15) > 1e-3 ? null : { symbol: 'T', reason: 'so cold that resistance no longer falls evenly' },
});

export const solenoidInductance = defineFormula({
  id: 'solenoid-inductance',
  title: 'Inductance of a single layer',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: { N: turns, D: length('mean diameter'), l: length('winding length') },
  expression: 'µ0·π·{D}²·{N}²/(4·{l})·K,  K = Nagaoka’s coefficient of {D}/{l}',
  source: 'current sheet after Lorenz, exactly; Nagaoka, Journal of the College of Science, Tokyo 27 (1909); from memory',
  assumptions: [
    'a thin sheet of current; many turns of round wire differ by about 1 %, few of thick wire by up to a tenth',
    'no iron',
  ],
  compute: ({ N, D, l }) => N * N * sheetInductance(D, l),
  inverse: { N: ({ L = 0, D = 0, l = 0 }) => Math.sqrt(L / sheetInductance(D, l)) },
});

export const wheelerSingle = defineFormula({
  id: 'wheeler-single-layer',
  title: 'Inductance of a single layer, approximately',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: { N: turns, D: length('mean diameter'), l: length('winding length') },
  expression: '39.37 µH/m·(½{D})²·{N}²/(9·½{D} + 10·{l})',
  source: 'Wheeler, Simple inductance formulas for radio coils, Proceedings of the IRE 16 (1928); from memory',
  assumptions: ['within 1 % for coils longer than 0.4 of their diameter'],
  compute: ({ N, D, l }) => (39.37e-6 * (D / 2) ** 2 * N * N) / (4.5 * D + 10 * l),
  inverse: { N: ({ L = 0, D = 0, l = 0 }) => Math.sqrt((L * (4.5 * D + 10 * l)) / (39.37e-6 * (D / 2) ** 2)) },
});

const section = {
  N: turns,
  D1: { ...length('inner diameter of the winding'), display: 'D_1' },
  D2: { ...length('outer diameter of the winding'), display: 'D_2' },
  l: length('winding length'),
};
const thick = ({ D1, D2 }: Section): { symbol: keyof Section; reason: string } | null =>
  D2 > D1 ? null : { symbol: 'D2', reason: 'the outer diameter must be above the inner one' };

export const multilayerInductance = defineFormula({
  id: 'multilayer-inductance',
  title: 'Inductance of a multilayer winding',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: section,
  expression: '∫∫ of the mutual inductances of coaxial loops over the section {D1} to {D2}, {l} long, with {N} turns',
  source: 'Maxwell, art. 701: two coaxial loops by elliptic integrals, integrated over the section against itself',
  assumptions: ['the section is filled evenly; wire with space between differs by about 1 %', 'no iron'],
  relation: thick,
  compute: sectionInductance,
  inverse: {
    N: ({ L = 0, D1 = 0, D2 = 0, l = 0 }) => Math.sqrt(L / sectionInductance({ N: 1, D1, D2, l })),
  },
});

export const wheelerMulti = defineFormula({
  id: 'wheeler-multilayer',
  title: 'Inductance of a multilayer winding, approximately',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: section,
  expression: '31.5 µH/m·a²·{N}²/(6a + 9·{l} + 10c),  a = ¼({D1} + {D2}), c = ½({D2} − {D1})',
  source: 'Wheeler, Simple inductance formulas for radio coils, Proceedings of the IRE 16 (1928); from memory',
  assumptions: ['within some per cent where mean radius, length and depth are of like size'],
  relation: thick,
  compute: ({ N, D1, D2, l }) => {
    const a = (D1 + D2) / 4;
    return (31.5e-6 * a * a * N * N) / (6 * a + 9 * l + 5 * (D2 - D1));
  },
  inverse: {
    N: ({ L = 0, D1 = 0, D2 = 0, l = 0 }) =>
      Math.sqrt((L * (1.5 * (D1 + D2) + 9 * l + 5 * (D2 - D1))) / (31.5e-6 * ((D1 + D2) / 4) ** 2)),
  },
});

export const solenoidField = defineFormula({
  id: 'solenoid-field',
  title: 'Field on the axis of a coil',
  subject,
  result: { symbol: 'B', ...fluxDensity },
  inputs: {
    N: turns,
    I: { ...current(), min: -1e12 },
    D1: { ...length('inner diameter of the winding'), display: 'D_1' },
    D2: { ...length('outer diameter of the winding'), display: 'D_2' },
    l: length('winding length'),
    z: { title: 'distance from the middle', unit: 'm', min: 0, max: 1e6, default: 0 },
  },
  expression:
    'µ0·{N}·{I}/(2·{l}·c)·[x·ln((R2 + √(R2² + x²))/(R1 + √(R1² + x²)))] from x = {z} − ½{l} to {z} + ½{l},  c = ½({D2} − {D1})',
  source: 'Biot and Savart, summed over the section; Montgomery, Solenoid Magnet Design; from memory',
  assumptions: ['the section is filled evenly', 'no iron'],
  relation: ({ D1, D2 }) => (D2 >= D1 ? null : { symbol: 'D2', reason: 'the outer diameter must not be below the inner one' }),
  compute: ({ N, I, D1, D2, l, z }) => I * sectionAxisField({ N, D1, D2, l }, z),
  inverse: {
    I: ({ B = 0, N = 0, D1 = 0, D2 = 0, l = 0, z = 0 }) => B / sectionAxisField({ N, D1, D2, l }, z),
    N: ({ B = 0, I = 0, D1 = 0, D2 = 0, l = 0, z = 0 }) => B / (I * sectionAxisField({ N: 1, D1, D2, l }, z)),
  },
});

/** Medhurst's factor, pF a centimetre of diameter, over length to diameter. */
const medhurst: readonly (readonly [number, number])[] = [
  [0.1, 0.96],
  [0.15, 0.79],
  [0.2, 0.7],
  [0.3, 0.6],
  [0.5, 0.5],
  [0.7, 0.47],
  [1, 0.46],
  [1.5, 0.47],
  [2, 0.5],
  [3, 0.61],
  [5, 0.81],
  [10, 1.32],
  [20, 2.36],
  [50, 5.5],
];

function medhurstFactor(x: number): number {
  const [first, last] = [medhurst[0], medhurst.at(-1)];
  if (!first || !last) throw new Error('no table');
  if (x <= first[0]) return first[1] * Math.sqrt(first[0] / x);
  for (let i = 1; i < medhurst.length; i++) {
    const [[x0, h0], [x1, h1]] = [medhurst[i - 1] ?? first, medhurst[i] ?? last];
    if (x <= x1) return h0 * (h1 / h0) ** (Math.log(x / x0) / Math.log(x1 / x0));
  }
  return (last[1] * x) / last[0];
}

/** The greatest ratio of length to diameter with a factor. */
function lengthFor(H: number): number {
  for (let i = medhurst.length - 1; i > 0; i--) {
    const [[x0, h0], [x1, h1]] = [medhurst[i - 1] as readonly [number, number], medhurst[i] as readonly [number, number]];
    if (H > h1 && i === medhurst.length - 1) return (x1 * H) / h1;
    if ((H - h0) * (H - h1) <= 0) return x0 * (x1 / x0) ** (Math.log(H / h0) / Math.log(h1 / h0));
  }
  // Below the least factor there is none; at it, but for its last digit, it is that one.
  const [x, least] = medhurst.reduce((best, entry) => (entry[1] < best[1] ? entry : best));
  return H > least * (1 - 1e-9) ? x : NaN;
}

export const coilSelfCapacitance = defineFormula({
  id: 'coil-self-capacitance',
  title: 'Self-capacitance of a single layer',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: { D: length('mean diameter'), l: length('winding length') },
  expression: 'H·{D},  H in pF/cm from {l}/{D}',
  source: 'Medhurst, H.F. resistance and self-capacitance of single-layer solenoids, Wireless Engineer 24 (1947); from memory',
  assumptions: [
    'one end earthed; more layers have more, between layers',
    'his table and his formula differ by up to 6 % from 0.1 to 50 diameters; shorter and longer coils are extrapolated',
  ],
  certainty: ({ D, l }) =>
    l / D < 0.1 || l / D > 50
      ? { band: 0.15, drawnOut: 'length over diameter outside 0.1 to 50' }
      : { band: 0.07, drawnOut: null },
  relation: ({ D, l }) =>
    l / D >= 0.05 && l / D <= 100
      ? null
      : { symbol: 'l', reason: 'length over diameter must be from 0.05 to 100: the table ends there' },
  compute: ({ D, l }) => medhurstFactor(l / D) * D * 1e-10,
  // Two lengths may have it: the longer.
  inverse: { l: ({ C = 0, D = 0 }) => D * lengthFor(C / (D * 1e-10)) },
});

export const selfResonance = defineFormula({
  id: 'self-resonance',
  title: 'Resonance of inductance and capacitance',
  subject,
  result: { symbol: 'f', ...frequency },
  inputs: { L: inductance(), C: capacitance() },
  expression: '1/(2π·√({L}·{C}))',
  source: 'W. Thomson, On transient electric currents (1853)',
  assumptions: ['little loss'],
  compute: ({ L, C }) => 1 / (2 * Math.PI * Math.sqrt(L * C)),
  inverse: {
    L: ({ f = 0, C = 0 }) => 1 / ((2 * Math.PI * f) ** 2 * C),
    C: ({ f = 0, L = 0 }) => 1 / ((2 * Math.PI * f) ** 2 * L),
  },
});

export const wireFusingAction = defineFormula({
  id: 'wire-fusing-action',
  title: 'Action integral to melt a wire',
  subject,
  result: { symbol: 'A', ...action('action to melt') },
  inputs: {
    d: wire,
    g: { title: 'specific action', unit: 'A²s/m⁴', min: 1e12, max: 1e20, default: copper.meltAction },
  },
  expression: '{g}·(¼π·{d}²)²',
  source: 'pulsed-power literature: 0.8e17 A²s/m⁴ melts copper, 1.2e17 bursts it; from memory',
  assumptions: ['a pulse so short that no heat leaves', 'within 15 % for copper'],
  compute: ({ d, g }) => g * (0.25 * Math.PI * d * d) ** 2,
  inverse: {
    d: ({ A = 0, g = 0 }) => Math.sqrt(Math.sqrt(A / g) / (0.25 * Math.PI)),
    g: ({ A = 0, d = 0 }) => A / (0.25 * Math.PI * d * d) ** 2,
  },
});

export const wireBurstAction = defineFormula({
  ...wireFusingAction,
  id: 'wire-burst-action',
  title: 'Action integral to burst a wire',
  result: { symbol: 'A', ...action('action to burst') },
  inputs: { ...wireFusingAction.inputs, g: { ...wireFusingAction.inputs.g, default: copper.burstAction } },
});

export const pulseHeating = defineFormula({
  id: 'pulse-heating',
  title: 'Temperature rise of a wire in one pulse',
  subject,
  result: { symbol: 'dT', title: 'temperature rise', unit: 'K', min: 0, max: 1e6, display: 'ΔT' },
  inputs: {
    A: action(),
    d: wire,
    rho: resistivity,
    alpha: coefficient,
    gamma: { title: 'density times specific heat', unit: 'J/(m³·K)', min: 1e4, max: 1e8, default: 8960 * 385, display: 'γc' },
  },
  expression: '(exp({alpha}·{rho}·{A}/({gamma}·(¼π·{d}²)²)) − 1)/{alpha}',
  source: 'energy balance of a section, its resistance rising evenly with temperature; from 20 °C',
  assumptions: ['no heat is lost meanwhile', 'heat capacity does not change', 'the current fills the wire'],
  relation: ({ A, d, rho, alpha, gamma }) =>
    (alpha * rho * A) / (gamma * (0.25 * Math.PI * d * d) ** 2) < 12
      ? null
      : { symbol: 'A', reason: 'the wire is gone long before: see the action that bursts it' },
  compute: ({ A, d, rho, alpha, gamma }) => {
    const x = (rho * A) / (gamma * (0.25 * Math.PI * d * d) ** 2);
    return alpha > 0 ? Math.expm1(alpha * x) / alpha : x;
  },
  inverse: {
    A: ({ dT = 0, d = 0, rho = 0, alpha = 0, gamma = 0 }) =>
      ((alpha > 0 ? Math.log1p(alpha * dT) / alpha : dT) * gamma * (0.25 * Math.PI * d * d) ** 2) / rho,
  },
});

export const steadyHeating = defineFormula({
  id: 'steady-heating',
  title: 'Steady temperature rise of a coil at a shot rate',
  subject,
  result: { symbol: 'dT', title: 'temperature rise', unit: 'K', min: 0, max: 1e9, display: 'ΔT' },
  inputs: {
    E: energy('heat per shot'),
    f: { ...frequency, title: 'shots a second' },
    S: { title: 'surface', unit: 'm²', min: 0, max: 1e6, open: true },
    h: { title: 'heat lost', unit: 'W/(m²·K)', min: 0.1, max: 1e5, default: 10 },
  },
  expression: '{E}·{f}/({h}·{S})',
  source: 'energy balance; 10 W/(m²·K) in still air: common practice, no source',
  assumptions: ['the mean over a long row of shots; its middle is warmer than its surface'],
  compute: ({ E, f, S, h }) => (E * f) / (h * S),
  inverse: { f: ({ dT = 0, E = 0, S = 0, h = 0 }) => (dT * h * S) / E },
});

export const magneticPressure = defineFormula({
  id: 'magnetic-pressure',
  title: 'Pressure of a magnetic field',
  subject,
  result: { symbol: 'p', ...stress('pressure') },
  inputs: { B: { ...fluxDensity, min: 0 } },
  expression: '{B}²/2µ0',
  source: 'Maxwell’s stress',
  assumptions: ['field on one side, none on the other'],
  compute: ({ B }) => (B * B) / (2 * mu0),
  inverse: { B: ({ p = 0 }) => Math.sqrt(2 * mu0 * p) },
});

export const hoopStress = defineFormula({
  id: 'coil-hoop-stress',
  title: 'Stress in the conductor of a coil',
  subject,
  result: { symbol: 's', ...stress('hoop stress'), display: 'σ' },
  inputs: {
    p: stress('magnetic pressure'),
    D: length('mean diameter'),
    t: length('metal of the winding, across'),
  },
  expression: '½·{p}·{D}/{t}',
  source: 'a thin shell under pressure',
  assumptions: ['the whole winding carries the load, with no help from outside'],
  compute: ({ p, D, t }) => (0.5 * p * D) / t,
  inverse: { p: ({ s = 0, D = 0, t = 0 }) => (2 * s * t) / D, t: ({ s = 0, p = 0, D = 0 }) => (0.5 * p * D) / s },
});

export const layerVoltage = defineFormula({
  id: 'layer-voltage',
  title: 'Voltage between neighbouring turns of two layers',
  subject,
  result: { symbol: 'U', ...voltage('voltage between layers') },
  inputs: { V: voltage('voltage across the coil'), m: count('layers') },
  expression: '2·{V}/{m}; 0 for one layer',
  source: 'layers wound to and fro, the voltage shared evenly: the ends of two layers are two layers apart',
  assumptions: ['a steep front shares unevenly, and puts more on the first turns'],
  compute: ({ V, m }) => (m > 1 ? (2 * V) / m : 0),
});

export const turnVoltage = defineFormula({
  id: 'turn-voltage',
  title: 'Turn-to-turn voltage',
  subject,
  result: { symbol: 'U', ...voltage('turn-to-turn voltage') },
  inputs: { V: voltage('voltage across the coil'), N: turns },
  expression: '{V}/{N}',
  source: 'the voltage shared evenly',
  assumptions: ['a steep front shares unevenly, and puts more on the first turns'],
  compute: ({ V, N }) => V / N,
  inverse: { V: ({ U = 0, N = 0 }) => U * N, N: ({ U = 0, V = 0 }) => V / U },
});

export const wireMass = defineFormula({
  id: 'wire-mass',
  title: 'Mass of a wire',
  subject,
  result: { symbol: 'm', title: 'mass', unit: 'kg', min: 0, max: 1e9 },
  inputs: {
    l: { ...length('length'), max: 1e7 },
    d: wire,
    gamma: { title: 'density', unit: 'kg/m³', min: 100, max: 30_000, default: copper.density, display: 'γ' },
  },
  expression: '¼π·{d}²·{l}·{gamma}',
  source: 'volume times density',
  assumptions: ['the conductor alone'],
  compute: ({ l, d, gamma }) => 0.25 * Math.PI * d * d * l * gamma,
  inverse: { l: ({ m = 0, d = 0, gamma = 0 }) => m / (0.25 * Math.PI * d * d * gamma) },
});

export const vapourEnergy = defineFormula({
  id: 'vapour-energy',
  title: 'Energy to vaporise a mass of metal',
  subject,
  result: { symbol: 'E', ...energy('energy to vapour') },
  inputs: {
    m: { title: 'mass', unit: 'kg', min: 0, max: 1e9 },
    h: { title: 'from 20 °C to vapour', unit: 'J/kg', min: 1e5, max: 1e8, default: copper.vapourEnergy },
  },
  expression: '{m}·{h}',
  source: 'heats of warming, melting and boiling; CRC Handbook, from memory, within 10 %',
  assumptions: ['none is lost as heat or light meanwhile'],
  compute: ({ m, h }) => m * h,
  inverse: { m: ({ E = 0, h = 0 }) => E / h },
});
