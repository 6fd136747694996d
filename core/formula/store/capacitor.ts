import { defineFormula, type SymbolSpec } from '../define.ts';
import {
  capacitance,
  count,
  current,
  fraction,
  length,
  positiveVoltage,
  resistance,
  resistanceFromZero,
  voltage,
} from '../symbol.ts';

const subject = 'Capacitor';

/** Electric constant, F/m. Source: CODATA 2018; the last digits are far below any material's spread. */
const epsilon0 = 8.8541878128e-12;

const permittivity: SymbolSpec = { title: 'relative permittivity', unit: '1', min: 1, max: 1e5 };
const area: SymbolSpec = { title: 'area of one plate', unit: 'm²', min: 0, max: 1e4, open: true };
const thickness = (what: string) => length(`thickness of the ${what}`);
const noFringe = 'the field at the edges is left out: true while the dielectric is thin beside the plates';
const noAir = 'foil and dielectric touch everywhere; air or oil between them lowers it, often by a third';

export const plateCapacitance = defineFormula({
  id: 'plate-capacitance',
  title: 'Capacitance of two parallel plates',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: { er: { ...permittivity, display: 'ε_r' }, A: area, t: thickness('dielectric') },
  expression: 'ε0·{er}·{A}/{t}',
  source: 'definition of capacitance, uniform field',
  assumptions: [noFringe, noAir],
  compute: ({ er, A, t }) => (epsilon0 * er * A) / t,
  inverse: {
    er: ({ C = 0, A = 0, t = 0 }) => (C * t) / (epsilon0 * A),
    A: ({ C = 0, er = 0, t = 0 }) => (C * t) / (epsilon0 * er),
    t: ({ C = 0, er = 0, A = 0 }) => (epsilon0 * er * A) / C,
  },
});

export const stackCapacitance = defineFormula({
  id: 'stack-capacitance',
  title: 'Capacitance of interleaved plates',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: {
    er: { ...permittivity, display: 'ε_r' },
    A: area,
    t: thickness('dielectric'),
    n: { ...count('number of plates'), min: 2 },
  },
  expression: '({n} − 1)·ε0·{er}·{A}/{t}',
  source: 'definition of capacitance; n plates have n − 1 gaps, all in parallel',
  assumptions: [noFringe, noAir],
  compute: ({ er, A, t, n }) => ((n - 1) * epsilon0 * er * A) / t,
  inverse: {
    er: ({ C = 0, A = 0, t = 0, n = 0 }) => (C * t) / ((n - 1) * epsilon0 * A),
    A: ({ C = 0, er = 0, t = 0, n = 0 }) => (C * t) / ((n - 1) * epsilon0 * er),
    t: ({ C = 0, er = 0, A = 0, n = 0 }) => ((n - 1) * epsilon0 * er * A) / C,
    n: ({ C = 0, er = 0, A = 0, t = 0 }) => 1 + (C * t) / (epsilon0 * er * A),
  },
});

export const cylinderCapacitance = defineFormula({
  id: 'cylinder-capacitance',
  title: 'Capacitance through the wall of a cylinder',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: {
    er: { ...permittivity, display: 'ε_r' },
    h: length('height of the foil'),
    d: length('inner diameter'),
    t: thickness('wall'),
  },
  expression: '2π·ε0·{er}·{h}/ln(1 + 2·{t}/{d})',
  source: 'definition of capacitance, field between coaxial cylinders',
  assumptions: ['foil or water inside, foil outside, to the same height', 'the base and the edges are left out'],
  compute: ({ er, h, d, t }) => (2 * Math.PI * epsilon0 * er * h) / Math.log1p((2 * t) / d),
  inverse: {
    er: ({ C = 0, h = 0, d = 0, t = 0 }) => (C * Math.log1p((2 * t) / d)) / (2 * Math.PI * epsilon0 * h),
    h: ({ C = 0, er = 0, d = 0, t = 0 }) => (C * Math.log1p((2 * t) / d)) / (2 * Math.PI * epsilon0 * er),
    d: ({ C = 0, er = 0, h = 0, t = 0 }) => (2 * t) / Math.expm1((2 * Math.PI * epsilon0 * er * h) / C),
    t: ({ C = 0, er = 0, h = 0, d = 0 }) => (d / 2) * Math.expm1((2 * Math.PI * epsilon0 * er * h) / C),
  },
});

export const bottleCapacitance = defineFormula({
  id: 'bottle-capacitance',
  title: 'Capacitance of a bottle with foil on wall and base',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: {
    er: { ...permittivity, display: 'ε_r' },
    h: length('height of the foil'),
    d: length('inner diameter'),
    t: thickness('wall'),
    tb: { ...thickness('base'), display: 't_b' },
  },
  expression: '2π·ε0·{er}·{h}/ln(1 + 2·{t}/{d}) + ε0·{er}·π·{d}²/(4·{tb})',
  source: 'wall as coaxial cylinders and base as parallel plates, in parallel',
  assumptions: ['flat base; the corner between wall and base is counted by neither', noAir],
  compute: ({ er, h, d, t, tb }) => epsilon0 * er * ((2 * Math.PI * h) / Math.log1p((2 * t) / d) + (Math.PI * d * d) / (4 * tb)),
  inverse: {
    er: ({ C = 0, h = 0, d = 0, t = 0, tb = 0 }) =>
      C / (epsilon0 * ((2 * Math.PI * h) / Math.log1p((2 * t) / d) + (Math.PI * d * d) / (4 * tb))),
  },
});

export const rolledCapacitance = defineFormula({
  id: 'rolled-capacitance',
  title: 'Capacitance of two foils rolled up with two sheets between them',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: {
    er: { ...permittivity, display: 'ε_r' },
    w: length('width in which the foils overlap'),
    l: length('length in which the foils overlap'),
    t: thickness('dielectric'),
  },
  expression: '2·ε0·{er}·{w}·{l}/{t}',
  source: 'definition of capacitance; rolled, each foil faces the other on both sides',
  assumptions: ['the innermost and the outermost turn count as all others', noAir],
  compute: ({ er, w, l, t }) => (2 * epsilon0 * er * w * l) / t,
  inverse: {
    er: ({ C = 0, w = 0, l = 0, t = 0 }) => (C * t) / (2 * epsilon0 * w * l),
    w: ({ C = 0, er = 0, l = 0, t = 0 }) => (C * t) / (2 * epsilon0 * er * l),
    l: ({ C = 0, er = 0, w = 0, t = 0 }) => (C * t) / (2 * epsilon0 * er * w),
    t: ({ C = 0, er = 0, w = 0, l = 0 }) => (2 * epsilon0 * er * w * l) / C,
  },
});

export const dielectricStress = defineFormula({
  id: 'dielectric-stress',
  title: 'Mean field in a dielectric',
  subject,
  result: { symbol: 'F', title: 'field', unit: 'V/m', min: 0, max: 1e12 },
  inputs: { V: voltage('voltage across it'), t: thickness('dielectric') },
  expression: '{V}/{t}',
  source: 'definition of the electric field, uniform',
  assumptions: [
    'uniform field: at the edge of a foil it is several times higher',
    'no air in series, which would break down first',
  ],
  compute: ({ V, t }) => V / t,
  inverse: { V: ({ F = 0, t = 0 }) => F * t, t: ({ F = 0, V = 0 }) => V / F },
});

export const dcRatingFromAc = defineFormula({
  id: 'dc-rating-from-ac',
  title: 'DC rating inferred from an AC rating',
  subject,
  result: { symbol: 'Vdc', ...voltage('inferred DC rating'), display: 'V_dc' },
  inputs: {
    Vac: { ...positiveVoltage('AC rating on its label, rms; or its AC test voltage'), display: 'V_ac' },
    k: {
      title: 'factor of the school: 1, √2 (the default: the peak it withstands every cycle), or 2; of a test voltage √2',
      unit: '1',
      min: 0.1,
      max: 5,
      default: Math.SQRT2,
    },
  },
  expression: '{k}·{Vac}',
  source: 'common practice, no source; √2 is the peak of the rated AC voltage, which it withstands on every cycle',
  assumptions: [
    'a film or paper capacitor that measures well; an old or salvaged one may withstand less',
    'no reversal beyond the peak, and no more shots than its life at that voltage',
  ],
  compute: ({ Vac, k }) => k * Vac,
  inverse: { Vac: ({ Vdc = 0, k = 0 }) => Vdc / k, k: ({ Vdc = 0, Vac = 0 }) => Vdc / Vac },
});

export const balanceResistor = defineFormula({
  id: 'balance-resistor',
  title: 'Highest balancing resistor across each capacitor of a series string',
  subject,
  result: { symbol: 'R', ...resistance('balancing resistor across each') },
  inputs: {
    n: { ...count('number in series'), min: 2 },
    Vm: { ...positiveVoltage('voltage rating, each'), display: 'V_m' },
    Vb: { ...positiveVoltage('voltage across the string'), display: 'V_b' },
    I: { ...current('difference of leakage current between the worst and the best'), open: true },
  },
  expression: '({n}·{Vm} − {Vb})/(({n} − 1)·{I})',
  source:
    "Kirchhoff's laws on the worst case: one capacitor leaks nothing, all others leak I more; as capacitor makers' notes give it, from memory",
  assumptions: ['steady state: hours after charging', 'leakage is a current that hardly changes with voltage', 'equal resistors'],
  relation: ({ n, Vm, Vb }) =>
    n * Vm > Vb
      ? null
      : {
          symbol: 'Vb',
          reason: 'the voltage across the string must be below the number in series times the rating of one',
        },
  compute: ({ n, Vm, Vb, I }) => (n * Vm - Vb) / ((n - 1) * I),
  inverse: {
    Vm: ({ R = 0, n = 0, Vb = 0, I = 0 }) => (R * (n - 1) * I + Vb) / n,
    Vb: ({ R = 0, n = 0, Vm = 0, I = 0 }) => n * Vm - R * (n - 1) * I,
    I: ({ R = 0, n = 0, Vm = 0, Vb = 0 }) => (n * Vm - Vb) / ((n - 1) * R),
  },
});

export const reversalDerating = defineFormula({
  id: 'reversal-derating',
  title: 'DC limit of a capacitor under excess reversal',
  subject,
  result: { symbol: 'V', ...voltage('voltage at which the swing is as rated') },
  inputs: {
    Vr: { ...positiveVoltage('rated voltage'), display: 'V_r' },
    kr: { ...fraction('rated reversal'), display: 'k_r' },
    k: fraction('reversal in use'),
  },
  expression: '{Vr}·(1 + {kr})/(1 + {k})',
  source: 'common practice, no source: the peak-to-peak swing is kept to that at the rated reversal',
  assumptions: [
    'film or paper; a polar capacitor withstands no reversal at all',
    'life at the reduced voltage is about that at the rating; the losses of a long ringing are left out',
  ],
  relation: ({ kr, k }) =>
    k >= kr ? null : { symbol: 'k', reason: 'is below the rated reversal: nothing is derated, and nothing is gained' },
  compute: ({ Vr, kr, k }) => (Vr * (1 + kr)) / (1 + k),
  inverse: {
    Vr: ({ V = 0, kr = 0, k = 0 }) => (V * (1 + k)) / (1 + kr),
    k: ({ V = 0, Vr = 0, kr = 0 }) => (Vr * (1 + kr)) / V - 1,
  },
});

export const voltageLife = defineFormula({
  id: 'voltage-life',
  title: 'DC limit of a capacitor for a number of shots',
  subject,
  result: { symbol: 'V', ...voltage('voltage for that many shots') },
  inputs: {
    Vr: { ...positiveVoltage('rated voltage'), display: 'V_r' },
    Nr: { title: 'rated shot life at that voltage', unit: '1', min: 1, max: 1e12, display: 'N_r' },
    N: { title: 'shots wanted', unit: '1', min: 1, max: 1e12 },
    n: { title: 'exponent of the voltage-life law', unit: '1', min: 1, max: 30, default: 7 },
  },
  expression: '{Vr}·({Nr}/{N})^(1/{n})',
  source:
    'inverse power law of voltage endurance (IEEE Std 930), from memory; an exponent of 7 for film and paper is common practice, no source',
  assumptions: [
    'one mechanism of ageing: the exponent holds near the rating and not far above it',
    'more voltage for fewer shots is a sum, not a rating: no limit here goes above the rating',
  ],
  compute: ({ Vr, Nr, N, n }) => Vr * (Nr / N) ** (1 / n),
  inverse: {
    Vr: ({ V = 0, Nr = 0, N = 0, n = 0 }) => V / (Nr / N) ** (1 / n),
    Nr: ({ V = 0, Vr = 0, N = 0, n = 0 }) => N * (V / Vr) ** n,
    N: ({ V = 0, Vr = 0, Nr = 0, n = 0 }) => Nr * (Vr / V) ** n,
  },
});

export const lifeAtVoltage = defineFormula({
  id: 'life-at-voltage',
  title: 'Shots in the life of a capacitor at a voltage',
  subject,
  result: { symbol: 'N', title: 'shots it lasts', unit: '1', min: 0, max: 1e30, open: true },
  inputs: {
    Vr: { ...positiveVoltage('rated voltage'), display: 'V_r' },
    Nr: { title: 'rated shot life at that voltage', unit: '1', min: 1, max: 1e12, display: 'N_r' },
    V: positiveVoltage('voltage in use'),
    n: { title: 'exponent of the voltage-life law', unit: '1', min: 1, max: 30, default: 7 },
  },
  expression: '{Nr}·({Vr}/{V})^{n}',
  source:
    'inverse power law of voltage endurance (IEEE Std 930), from memory; an exponent of 7 for film and paper is common practice, no source',
  assumptions: [
    'the reversal is no greater than the one it is rated for; more takes life that is not counted here',
    'one mechanism of ageing: the exponent holds near the rating and not far from it',
  ],
  relation: ({ Vr, V, n }) =>
    n * Math.abs(Math.log10(Vr / V)) > 17 ? { symbol: 'V', reason: 'is so far from the rating that the law says nothing' } : null,
  compute: ({ Vr, Nr, V, n }) => Nr * (Vr / V) ** n,
  inverse: {
    Vr: ({ N = 0, Nr = 0, V = 0, n = 0 }) => V * (N / Nr) ** (1 / n),
    Nr: ({ N = 0, Vr = 0, V = 0, n = 0 }) => N / (Vr / V) ** n,
    V: ({ N = 0, Vr = 0, Nr = 0, n = 0 }) => Vr / (N / Nr) ** (1 / n),
  },
});

const resistivity = (what: string) =>
  ({ title: `resistivity of the ${what}`, unit: 'Ω·m', min: 0, max: 1e6, open: true }) as const;

export const foilResistance = defineFormula({
  id: 'foil-resistance',
  title: 'Series resistance of the two foils of a capacitor',
  subject,
  result: { symbol: 'R', ...resistanceFromZero('series resistance of both foils') },
  inputs: {
    rho: { ...resistivity('foil'), display: 'ρ' },
    l: length('length of a foil from its lead'),
    w: length('width of a foil'),
    t: thickness('foil'),
  },
  expression: '2·{rho}·{l}/(3·{w}·{t})',
  source: 'Ohm’s law on a foil whose current falls evenly to zero at its far end: ∫(x/l)² dx = l/3, twice',
  assumptions: ['one lead at one end of each foil', 'slow enough that the current fills the foil: no skin effect'],
  compute: ({ rho, l, w, t }) => (2 * rho * l) / (3 * w * t),
  inverse: {
    rho: ({ R = 0, l = 0, w = 0, t = 0 }) => (3 * R * w * t) / (2 * l),
    l: ({ R = 0, rho = 0, w = 0, t = 0 }) => (3 * R * w * t) / (2 * rho),
    w: ({ R = 0, rho = 0, l = 0, t = 0 }) => (2 * rho * l) / (3 * R * t),
    t: ({ R = 0, rho = 0, l = 0, w = 0 }) => (2 * rho * l) / (3 * R * w),
  },
});

export const columnResistance = defineFormula({
  id: 'column-resistance',
  title: 'Series resistance of a liquid electrode',
  subject,
  result: { symbol: 'R', ...resistanceFromZero('series resistance of the filling') },
  inputs: {
    rho: { ...resistivity('filling'), display: 'ρ' },
    h: length('height of the filling'),
    d: length('inner diameter'),
  },
  expression: '4·{rho}·{h}/(3·π·{d}²)',
  source: 'Ohm’s law on a column whose current falls evenly to zero at the bottom: ∫(x/h)² dx = h/3',
  assumptions: ['the lead ends at the surface; a rod down to the bottom makes it much less'],
  compute: ({ rho, h, d }) => (4 * rho * h) / (3 * Math.PI * d * d),
  inverse: {
    rho: ({ R = 0, h = 0, d = 0 }) => (3 * Math.PI * d * d * R) / (4 * h),
    h: ({ R = 0, rho = 0, d = 0 }) => (3 * Math.PI * d * d * R) / (4 * rho),
    d: ({ R = 0, rho = 0, h = 0 }) => Math.sqrt((4 * rho * h) / (3 * Math.PI * R)),
  },
});

export const rodResistance = defineFormula({
  id: 'rod-resistance',
  title: 'Series resistance of a liquid electrode with a rod down to the bottom',
  subject,
  result: { symbol: 'R', ...resistanceFromZero('series resistance of the filling') },
  inputs: {
    rho: { ...resistivity('filling'), display: 'ρ' },
    h: length('height of the filling'),
    d: length('inner diameter'),
    dr: { ...length('diameter of the rod'), display: 'd_r' },
  },
  expression: '{rho}·ln({d}/{dr})/(2·π·{h})',
  source: 'Ohm’s law between coaxial cylinders',
  assumptions: ['the rod stands in the middle; beside the wall it is less'],
  relation: ({ d, dr }) => (dr < d ? null : { symbol: 'dr', reason: 'the rod is as thick as the vessel is wide' }),
  compute: ({ rho, h, d, dr }) => (rho * Math.log(d / dr)) / (2 * Math.PI * h),
  inverse: {
    rho: ({ R = 0, h = 0, d = 0, dr = 0 }) => (2 * Math.PI * h * R) / Math.log(d / dr),
    h: ({ R = 0, rho = 0, d = 0, dr = 0 }) => (rho * Math.log(d / dr)) / (2 * Math.PI * R),
    d: ({ R = 0, rho = 0, h = 0, dr = 0 }) => dr * Math.exp((2 * Math.PI * h * R) / rho),
    dr: ({ R = 0, rho = 0, h = 0, d = 0 }) => d * Math.exp((-2 * Math.PI * h * R) / rho),
  },
});

export const wireLeadResistance = defineFormula({
  id: 'lead-resistance',
  title: 'Resistance of a round lead',
  subject,
  result: { symbol: 'R', ...resistanceFromZero('resistance of the leads') },
  inputs: {
    rho: { ...resistivity('lead'), display: 'ρ' },
    l: length('length of both leads together'),
    d: length('diameter of the conductor'),
  },
  expression: '4·{rho}·{l}/(π·{d}²)',
  source: 'Ohm’s law on a round conductor',
  assumptions: ['slow enough that the current fills the lead: no skin effect'],
  compute: ({ rho, l, d }) => (4 * rho * l) / (Math.PI * d * d),
  inverse: {
    rho: ({ R = 0, l = 0, d = 0 }) => (Math.PI * d * d * R) / (4 * l),
    l: ({ R = 0, rho = 0, d = 0 }) => (Math.PI * d * d * R) / (4 * rho),
    d: ({ R = 0, rho = 0, l = 0 }) => Math.sqrt((4 * rho * l) / (Math.PI * R)),
  },
});

export const edgeCreepage = defineFormula({
  id: 'edge-creepage',
  title: 'Creepage margin at the edge of a dielectric',
  subject,
  result: { symbol: 'm', title: 'margin from foil to edge', unit: 'm', min: 0, max: 1e6 },
  inputs: {
    V: voltage('voltage across it'),
    Fs: { title: 'permissible surface field', unit: 'V/m', min: 1e3, max: 1e8, default: 5e5, display: 'F_s' },
  },
  expression: '{V}/(2·{Fs})',
  source:
    'common practice, no source: 0.5 kV a millimetre along a clean, dry surface in air, twice that under oil; the path runs from foil to edge and back on the other side',
  assumptions: ['clean and dry; dust, damp and a sharp foil edge take most of it', 'both foils end equally far from the edge'],
  compute: ({ V, Fs }) => V / (2 * Fs),
  inverse: { V: ({ m = 0, Fs = 0 }) => 2 * m * Fs, Fs: ({ m = 0, V = 0 }) => V / (2 * m) },
});

export const deltaElement = defineFormula({
  id: 'delta-element',
  title: 'One element of a delta can from three readings',
  subject,
  result: { symbol: 'C', ...capacitance('element between terminals a and b') },
  inputs: {
    Sa: { ...capacitance('reading of a against b and c joined'), display: 'S_a' },
    Sb: { ...capacitance('reading of b against c and a joined'), display: 'S_b' },
    Sc: { ...capacitance('reading of c against a and b joined'), display: 'S_c' },
  },
  expression: '({Sa} + {Sb} − {Sc})/2',
  source: "Kirchhoff's laws: each reading is the sum of the two elements at its terminal",
  assumptions: ['the joined terminals are joined by less than the meter resolves'],
  relation: ({ Sa, Sb, Sc }) =>
    Sa + Sb > Sc
      ? null
      : { symbol: 'Sc', reason: 'must be below the sum of the other two: no three capacitors give these readings' },
  compute: ({ Sa, Sb, Sc }) => (Sa + Sb - Sc) / 2,
  inverse: {
    Sa: ({ C = 0, Sb = 0, Sc = 0 }) => 2 * C + Sc - Sb,
    Sb: ({ C = 0, Sa = 0, Sc = 0 }) => 2 * C + Sc - Sa,
    Sc: ({ C = 0, Sa = 0, Sb = 0 }) => Sa + Sb - 2 * C,
  },
});

/** Elastances of the star that the three terminals see, from readings between them: that at the terminal of the first two. */
const starOf = (one: number, two: number, across: number): number => (1 / one + 1 / two - 1 / across) / 2;

export const deltaElementOfPairs = defineFormula({
  id: 'delta-element-of-pairs',
  title: 'One element of a delta can from readings terminal to terminal',
  subject,
  result: { symbol: 'C', ...capacitance('element between terminals a and b') },
  inputs: {
    Rab: { ...capacitance('reading of a to b, c open'), display: 'C_ab' },
    Rbc: { ...capacitance('reading of b to c, a open'), display: 'C_bc' },
    Rca: { ...capacitance('reading of c to a, b open'), display: 'C_ca' },
  },
  expression: 'Ca·Cb/(Ca + Cb + Cc),  1/Ca = (1/{Rab} + 1/{Rca} − 1/{Rbc})/2, and so on round',
  source: "Kirchhoff's laws: the star that has the same readings, and the delta that is the same as that star",
  assumptions: ['the open terminal touches nothing: a hand or a lead adds its own capacitance'],
  relation: ({ Rab, Rbc, Rca }) =>
    starOf(Rab, Rca, Rbc) > 0 && starOf(Rab, Rbc, Rca) > 0 && starOf(Rca, Rbc, Rab) > 0
      ? null
      : { symbol: 'Rca', reason: 'no three capacitors in delta give these readings' },
  compute: ({ Rab, Rbc, Rca }) => {
    const [Ca, Cb, Cc] = [1 / starOf(Rab, Rca, Rbc), 1 / starOf(Rab, Rbc, Rca), 1 / starOf(Rca, Rbc, Rab)];
    return (Ca * Cb) / (Ca + Cb + Cc);
  },
});
