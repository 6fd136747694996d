import { gasById, type Gas } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineFormula, type Certainty, type Formula, type SymbolSpec } from '../define.ts';
import {
  anySphereGap,
  gasBreakdown,
  leastProduct,
  needleGap,
  needleSpacing,
  productFor,
  relativeDensity,
  rodGap,
  uniformAir,
} from '../../model/index.ts';
import { length, positiveVoltage } from '../symbol.ts';

const subject = 'Spark gap';

const pressure: SymbolSpec = { title: 'pressure, absolute', unit: 'Pa', min: 0, max: 5e6, open: true, default: 101_300 };
const temperature: SymbolSpec = { title: 'temperature', unit: 'K', min: 150, max: 1000, default: 293.15 };
export const density: SymbolSpec = {
  title: 'relative air density',
  unit: '1',
  min: 0,
  max: 50,
  open: true,
  default: 1,
  display: 'δ',
};
/** Points in thin or dense gas follow no law of density alone: their corona shields them, or does not. */
const nearAmbient: SymbolSpec = { ...density, min: 0.3, max: 3, open: false };
const breakdown: SymbolSpec & { readonly symbol: string } = {
  symbol: 'Vb',
  ...positiveVoltage('breakdown voltage'),
  display: 'V_b',
};
const spacing: SymbolSpec = { ...length('spacing'), max: 10 };
export const radius = (title: string): SymbolSpec => ({ ...length(title), max: 100 });
export const gradient = (title: string): SymbolSpec => ({ title, unit: 'V/m', min: 0, max: 1e10, open: true });

/** What was measured at, and what is extrapolated from there by the law of similarity. */
const measuredDensity = { min: 0.7, max: 1.15 };
const printLength = (value: number) => printQuantity(value, 'm', { digits: 3, trim: true });
const printDensity = (delta: number) => `relative density ${delta.toPrecision(2)}`;

/** A band that widens where a table is extrapolated, and why it is. */
export function tabled(band: number, wider: number, ...past: readonly (string | null)[]): Certainty {
  const reasons = past.filter((reason) => reason !== null);
  return reasons.length === 0 ? { band, drawnOut: null } : { band: wider, drawnOut: reasons.join('; ') };
}

/** Past the densities at which the tables were measured; far above them rough metal takes its part as well. */
export const pastDensity = (delta: number): string | null =>
  delta > 10
    ? `${printDensity(delta)}: above about 10 breakdown rises less than with density, the more so on rough metal`
    : delta < measuredDensity.min || delta > measuredDensity.max
      ? `${printDensity(delta)}: measured at ${measuredDensity.min} to ${measuredDensity.max}, beyond by the law of similarity`
      : null;

export const airDensityFactor = defineFormula({
  id: 'air-density-factor',
  title: 'Relative air density',
  subject,
  result: { symbol: 'delta', ...density, display: 'δ' },
  inputs: { p: pressure, T: temperature },
  expression: '({p}/101.3 kPa)·(293 K/{T})',
  source: 'IEC 60060-1, High-voltage test techniques, atmospheric corrections',
  assumptions: ['what breaks down is set by the density of the gas, not by pressure and temperature apart'],
  compute: ({ p, T }) => relativeDensity(p, T),
  inverse: {
    p: ({ delta = 0, T = 0 }) => (delta * 101_300 * T) / 293.15,
    T: ({ delta = 0, p = 0 }) => (p * 293.15) / (101_300 * delta),
  },
});

export const humidityFactor = defineFormula({
  id: 'humidity-factor',
  title: 'Humidity correction of a sphere gap',
  subject,
  result: { symbol: 'k', title: 'factor on the breakdown voltage', unit: '1', min: 0.9, max: 1.1 },
  inputs: {
    h: { title: 'absolute humidity', unit: 'g/m³', min: 1, max: 25, default: 8.5 },
    delta: { ...density, min: 0.5, max: 2 },
  },
  expression: '1 + 0.002·({h}/{delta} − 8.5)',
  source: 'IEC 60052, Voltage measurement by means of standard air gaps; from memory',
  assumptions: ['air; the tables hold at 8.5 g/m³', 'held to 1 to 13 g/m³ by the standard; up to 25 it is extrapolated'],
  compute: ({ h, delta }) => 1 + 0.002 * (h / delta - 8.5),
  inverse: { h: ({ k = 0, delta = 0 }) => ((k - 1) / 0.002 + 8.5) * delta },
});

export const uniformGapBreakdown = defineFormula({
  id: 'uniform-gap-breakdown',
  title: 'Breakdown voltage of a uniform field in air',
  subject,
  result: breakdown,
  inputs: { d: spacing, p: pressure, T: temperature },
  expression: '24.22 kV/cm·δ·{d} + 6.08 kV/√cm·√(δ·{d}), δ = ({p}/101.3 kPa)·(293 K/{T})',
  source: 'Kuffel, Zaengl and Kuffel, High Voltage Engineering, chapter on breakdown in gases; from memory',
  assumptions: [
    'flat electrodes with rounded edges, no point that stands out',
    'δ·d from 0.1 mm to 20 cm; below it is the curve towards the Paschen minimum',
    'clean dry air, DC or a slow rise; single breakdowns scatter by 1 to 3 %',
  ],
  relation: ({ d, p, T }) => {
    const x = relativeDensity(p, T) * d;
    if (x < 1e-4 * (1 - 1e-9))
      return {
        symbol: 'd',
        reason: 'relative density times spacing is below 0.1 mm: use the breakdown near the Paschen minimum (paschen-breakdown)',
      };
    return x <= 0.2 * (1 + 1e-9)
      ? null
      : { symbol: 'd', reason: 'relative density times spacing is above 20 cm, past the measurements behind this formula' };
  },
  certainty: ({ p, T }) => tabled(0.03, relativeDensity(p, T) > 10 ? 0.2 : 0.05, pastDensity(relativeDensity(p, T))),
  compute: ({ d, p, T }) => uniformAir(relativeDensity(p, T) * d),
});

const gasOf = (id: string): Gas => {
  const gas = gasById(id);
  if (!gas) throw new Error(`no gas ${id}`);
  return gas;
};

/** What spoils a dense, strongly electronegative gas, and to which side. */
const denseGas = [
  'a uniform field: an edge, a point or a particle of metal breaks down far lower, down to a third',
  'clean, polished metal: from about 3 bar up rough or large electrodes break down lower than calculated, by a tenth at 3 bar and by half at 10 bar',
  'below 0.3 bar·cm and above 10 bar·cm the line is extrapolated: below, the truth lies higher; above, lower',
];

function paschen(gasId: string): Formula<'p' | 'd'> {
  const gas = gasOf(gasId);
  return defineFormula({
    id: gas.id === 'air' ? 'paschen-breakdown' : `paschen-breakdown-${gas.id}`,
    title: `Breakdown of a uniform field in ${gas.title}, down to the Paschen minimum`,
    subject,
    result: breakdown,
    inputs: { p: pressure, d: spacing },
    expression: `${gas.minimumVoltage} V·u/(1 + ln u) with u = {p}·{d}/${gas.minimumProduct.toPrecision(3)} Pa·m; above about u = 6 going over into ${gas.line ? `0.5 kV + 88.4 V·{p}·{d}/(Pa·m)` : `${gas.strength === 1 ? '' : `${gas.strength} times `}24.22·x + 6.08·√x kV with x = {p}·{d}/(101.3 kPa·1 cm)`}`,
    source: `Paschen's law through its minimum; ${gas.source}${gas.line ? '' : '; large products: Kuffel, Zaengl and Kuffel, from memory'}`,
    assumptions: [
      'at 20 °C; else the pressure that has the same density',
      `least voltage ${gas.minimumVoltage} V within 10 %; away from the minimum within ${(gas.band * 100).toFixed(0)} %, between the two laws within 20 %`,
      'asked backwards it gives the larger of the two that have this voltage, right of the minimum',
      'left of the minimum the voltage rises steeply and depends on the metal: a longer way round breaks down instead',
      ...(gas.line ? denseGas : []),
    ],
    relation: ({ p, d }) => {
      const u = (p * d) / gas.minimumProduct;
      if (u < leastProduct)
        return {
          symbol: 'p',
          reason: `pressure times spacing is ${(p * d).toPrecision(3)} Pa·m, far below the Paschen minimum at ${gas.minimumProduct.toPrecision(3)} Pa·m: no voltage can be given there`,
        };
      return p * d <= 2.1e5 ? null : { symbol: 'd', reason: 'pressure times spacing is above 200 kPa·m, past any measurement' };
    },
    certainty: ({ p, d }) => {
      const u = (p * d) / gas.minimumProduct;
      // About the minimum the table, far above it the streamer law; between them one goes over into the other.
      if (u < 0.8) return { band: 0.3, drawnOut: 'left of the Paschen minimum, where it depends on the metal' };
      if (gas.line) {
        const outside = p * d < gas.line.from || p * d > gas.line.to;
        const dense =
          p > 3e5 ? `${printQuantity(p, 'Pa', { digits: 3, trim: true })}: above 3 bar rough metal breaks down lower` : null;
        if (u >= 60) return tabled(gas.band, dense ? 0.3 : 0.15, outside ? 'outside 0.3 to 10 bar·cm' : null, dense);
      }
      const band = u < 1.5 ? 0.1 : u < 60 ? 0.2 : gas.band;
      return tabled(band, Math.max(band, 0.2), p > 1e6 ? pastDensity(p / 101_300) : null);
    },
    compute: ({ p, d }) => gasBreakdown(gas, p * d),
    // Two products have this voltage: what is set in a workshop lies right of the minimum.
    inverse: {
      p: ({ Vb = 0, d = 0 }) => productFor(gas, Vb) / d,
      d: ({ Vb = 0, p = 0 }) => productFor(gas, Vb) / p,
    },
  });
}

export const paschenBreakdown = paschen('air');
export const paschenNitrogen = paschen('nitrogen');
export const paschenCarbonDioxide = paschen('carbon-dioxide');
export const paschenSulphurHexafluoride = paschen('sulphur-hexafluoride');
export const paschenArgon = paschen('argon');

/** Relative density times spacing below which spheres are refused, m: that of the uniform field. */
const leastSphereProduct = 1e-4 * (1 - 1e-9);

export const sphereGapBreakdown = defineFormula({
  id: 'sphere-gap-breakdown',
  title: 'Breakdown voltage between two equal spheres in air',
  subject,
  result: breakdown,
  inputs: {
    d: spacing,
    D: { ...length('diameter of the spheres'), min: 5e-3, max: 2 },
    p: pressure,
    T: temperature,
  },
  expression:
    '(24.4 kV/cm·δ{d} + 6.764 kV/√cm·√(δ{d}))·(1 + 0.3475·s − 0.1603·s·√(1 cm/δ{D}))/(1 + (1.1006 + 0.3741·ln(δ{D}/10 cm))·s²), s = {d}/{D}, δ = ({p}/101.3 kPa)·(293 K/{T})',
  source:
    'fitted to the tables of IEC 60052, Voltage measurement by means of standard air gaps; from memory; wider than half a diameter: Russell’s field between two spheres, and the rod gap of IEC 60052; from memory',
  assumptions: [
    'within 2.5 % of the tables for spheres of 2 cm to 2 m and spacings of 0.5 mm to half a diameter; other diameters are extrapolated',
    'wider than half a diameter there is no table: the surface field of half a diameter, and never below the rod gap that it becomes',
    'one sphere earthed, nothing nearer than several diameters, clean metal, a gap that is lit or has sparked before',
    'peak value of DC or of a slow rise; single breakdowns scatter by 1 to 3 %',
  ],
  relation: ({ d, D, p, T }) => {
    const x = relativeDensity(p, T) * d;
    if (x < leastSphereProduct)
      return {
        symbol: 'p',
        reason: `relative density times spacing is ${(x * 1e6).toPrecision(3)} µm, below 0.1 mm: on the way to the Paschen minimum no table of spheres holds. Raise the pressure or the spacing, or use paschen-breakdown`,
      };
    return d <= 20 * D
      ? null
      : { symbol: 'd', reason: 'the spacing is more than 20 diameters: enter it as a rod gap (rod-gap-breakdown)' };
  },
  certainty: ({ d, D, p, T }) => {
    const delta = relativeDensity(p, T);
    const wide = d > (D / 2) * (1 + 1e-12);
    return tabled(
      0.03,
      wide || delta > 10 ? 0.2 : 0.08,
      wide ? `spacing ${printLength(d)} is more than half a diameter: no table, a gap on its way to a rod gap` : null,
      D < 0.02 ? `spheres of ${printLength(D)}: the tables begin at 20 mm` : null,
      d < 0.5e-3 ? `spacing ${printLength(d)}: the tables begin at 0.5 mm` : null,
      pastDensity(delta),
    );
  },
  compute: ({ d, D, p, T }) => {
    const delta = relativeDensity(p, T);
    return anySphereGap(delta * d, delta * D);
  },
});

export const rodGapBreakdown = defineFormula({
  id: 'rod-gap-breakdown',
  title: 'Breakdown voltage between two rods in air',
  subject,
  result: breakdown,
  inputs: { d: { ...spacing, min: 5e-3 }, delta: nearAmbient },
  expression: '2 kV + 5.34 kV/cm·{delta}·{d}',
  source: 'IEC 60052, Voltage measurement by means of standard air gaps, rod-rod gap at DC of either sign; from memory',
  assumptions: [
    'from 250 mm to 2.5 m within 3 %, at 1 to 13 g/m³ of water in the air',
    'rods of about 2 cm with square ends; below 250 mm it is extrapolated, and the truth lies higher',
  ],
  compute: ({ d, delta }) => rodGap(delta * d),
  inverse: {
    d: ({ Vb = 0, delta = 0 }) => (Vb - 2e3) / 534e3 / delta,
    delta: ({ Vb = 0, d = 0 }) => (Vb - 2e3) / 534e3 / d,
  },
  certainty: ({ d, delta }) =>
    tabled(
      0.03,
      d < 0.1 ? 0.3 : 0.15,
      d < 0.25 || d > 2.5 ? `spacing ${printLength(d)}: the standard gives 250 mm to 2.5 m` : null,
      pastDensity(delta),
    ),
});

export const needleGapBreakdown = defineFormula({
  id: 'needle-gap-breakdown',
  title: 'Breakdown voltage between two needles in air',
  subject,
  result: breakdown,
  inputs: { d: { ...spacing, min: 5e-3, max: 0.5 }, delta: nearAmbient },
  expression:
    'table of peak voltages over {delta}·{d}: 14.1 kV at 11.9 mm, 28.3 kV at 25.4 mm, 56.6 kV at 62.2 mm, 141 kV at 244 mm …',
  source: 'needle-gap table of the older AIEE standards, 60 Hz, times √2; from memory',
  assumptions: [
    'needles scatter by 10 to 15 %: points have corona long before, and humid air holds more',
    'from 12 to 380 mm; beyond it is extrapolated',
  ],
  compute: ({ d, delta }) => needleGap(delta * d),
  inverse: {
    d: ({ Vb = 0, delta = 0 }) => needleSpacing(Vb) / delta,
    delta: ({ Vb = 0, d = 0 }) => needleSpacing(Vb) / d,
  },
  certainty: ({ d, delta }) =>
    tabled(
      0.15,
      0.3,
      delta * d < 11.9e-3 || delta * d > 0.381 ? `spacing ${printLength(d)}: the table gives 12 to 380 mm` : null,
      pastDensity(delta),
    ),
});

/** Spacing at which the rule of a short gap and that of a long one give the same, m. */
const rodPlaneCorner = 0.01 * (8.3 / 5) ** 5;

export const rodPlaneBreakdown = defineFormula({
  id: 'rod-plane-breakdown',
  title: 'Breakdown voltage from a positive rod to a plane in air',
  subject,
  result: breakdown,
  inputs: { d: { ...spacing, min: 5e-3, max: 2 }, delta: nearAmbient },
  expression: 'the greater of 8.3 kV·({delta}·{d}/1 cm)^0.8 and 5 kV/cm·{delta}·{d}',
  source: 'common practice, no source: about 8 kV at 1 cm, and 5 kV/cm from a decimetre to two metres',
  assumptions: [
    'rod positive, the weaker polarity; a negative rod holds up to twice as much',
    'DC or a front of microseconds; one of hundreds of microseconds breaks down lower',
    'within 20 %',
  ],
  compute: ({ d, delta }) => Math.max(8.3e3 * (delta * d * 100) ** 0.8, 500e3 * delta * d),
  inverse: {
    d: ({ Vb = 0, delta = 0 }) => rodPlaneSpacing(Vb) / delta,
    delta: ({ Vb = 0, d = 0 }) => rodPlaneSpacing(Vb) / d,
  },
  certainty: ({ delta }) => tabled(0.2, 0.3, pastDensity(delta)),
});

function rodPlaneSpacing(Vb: number): number {
  const long = Vb / 500e3;
  return long >= rodPlaneCorner ? long : (Vb / 8.3e3) ** 1.25 / 100;
}

export const enhancedBreakdown = defineFormula({
  id: 'enhanced-breakdown',
  title: 'Breakdown voltage with field enhancement',
  subject,
  result: breakdown,
  inputs: {
    V: positiveVoltage('breakdown of clean, ideal electrodes'),
    s: { title: 'strength of the gas against air', unit: '1', min: 0.01, max: 20, default: 1 },
    kh: { title: 'humidity factor', unit: '1', min: 0.5, max: 2, default: 1, display: 'k_h' },
    b: { title: 'field enhancement', unit: '1', min: 0.2, max: 20, default: 1, display: 'β' },
  },
  expression: '{V}·{s}·{kh}/{b}',
  source: 'definition of an enhancement factor',
  assumptions: ['1 for clean polished metal; used, pitted or edged electrodes 1.1 to 1.5; found by observed breakdowns'],
  compute: ({ V, s, kh, b }) => (V * s * kh) / b,
  inverse: {
    V: ({ Vb = 0, s = 0, kh = 0, b = 0 }) => (Vb * b) / (s * kh),
    s: ({ Vb = 0, V = 0, kh = 0, b = 0 }) => (Vb * b) / (V * kh),
    kh: ({ Vb = 0, V = 0, s = 0, b = 0 }) => (Vb * b) / (V * s),
    b: ({ Vb = 0, V = 0, s = 0, kh = 0 }) => (V * s * kh) / Vb,
  },
});

export const absolutePressure = defineFormula({
  id: 'absolute-pressure',
  title: 'Absolute pressure from gauge pressure',
  subject,
  result: { symbol: 'p', ...pressure },
  inputs: {
    pg: { title: 'gauge pressure', unit: 'Pa', min: -1e5, max: 5e6, display: 'p_g' },
    pa: { title: 'ambient pressure', unit: 'Pa', min: 1e3, max: 2e5, default: 101_300, display: 'p_a' },
  },
  expression: '{pg} + {pa}',
  source: 'definition of gauge pressure',
  assumptions: ['ambient pressure falls by about 12 % per 1000 m of height'],
  relation: ({ pg, pa }) =>
    pg + pa > 0 ? null : { symbol: 'pg', reason: 'nothing is below an empty space: the ambient pressure is less' },
  compute: ({ pg, pa }) => pg + pa,
});

export const pressureAtReference = defineFormula({
  id: 'pressure-at-reference',
  title: 'Equivalent pressure at 20 °C',
  subject,
  result: { symbol: 'pr', ...pressure, display: 'p_20' },
  inputs: { p: pressure, T: temperature },
  expression: '{p}·293 K/{T}',
  source: 'ideal gas',
  assumptions: [],
  compute: ({ p, T }) => (p * 293.15) / T,
  inverse: { p: ({ pr = 0, T = 0 }) => (pr * T) / 293.15, T: ({ pr = 0, p = 0 }) => (p * 293.15) / pr },
});

export const voltageAtReference = defineFormula({
  id: 'voltage-at-reference',
  title: 'Voltage that does the same in standard air',
  subject,
  result: { symbol: 'Vr', ...positiveVoltage('voltage in standard air'), display: 'V_20' },
  inputs: { V: positiveVoltage('voltage'), delta: nearAmbient },
  expression: '{V}/{delta}',
  source: 'breakdown of long gaps goes with the density of the air; IEC 60060-1, air density correction with an exponent of 1',
  assumptions: ['gaps below a metre, up to some 4000 m above the sea; humidity is left out'],
  compute: ({ V, delta }) => V / delta,
  inverse: { V: ({ Vr = 0, delta = 0 }) => Vr * delta, delta: ({ Vr = 0, V = 0 }) => V / Vr },
});

export const scatteredBreakdown = defineFormula({
  id: 'scattered-breakdown',
  title: 'Breakdown voltage at a number of standard deviations',
  subject,
  result: { symbol: 'V', ...positiveVoltage('voltage') },
  inputs: {
    Vb: { ...positiveVoltage('mean breakdown voltage'), display: 'V_b' },
    s: { title: 'standard deviation over the mean', unit: '1', min: 0, max: 0.5, display: 'σ' },
    z: { title: 'standard deviations from the mean', unit: '1', min: -5, max: 5 },
  },
  expression: '{Vb}·(1 + {z}·{s})',
  source: 'normal distribution; of 1000 breakdowns one lies below three standard deviations',
  assumptions: ['single breakdowns do not depend on each other; a wet or dirty gap has rarer, far lower ones'],
  relation: ({ s, z }) => (1 + z * s > 0 ? null : { symbol: 'z', reason: 'the scatter is as large as the voltage itself there' }),
  compute: ({ Vb, s, z }) => Vb * (1 + z * s),
  inverse: { Vb: ({ V = 0, s = 0, z = 0 }) => V / (1 + z * s) },
});

export const timesShare = defineFormula({
  id: 'voltage-times-share',
  title: 'Voltage at the end of its band',
  subject,
  result: { symbol: 'Vs', ...positiveVoltage('voltage at that end'), display: 'V_s' },
  inputs: { V: positiveVoltage('voltage'), k: { title: 'share of it', unit: '1', min: 0, max: 10, open: true } },
  expression: '{V}·{k}',
  source: 'definition of a band',
  assumptions: [],
  compute: ({ V, k }) => V * k,
  inverse: { V: ({ Vs = 0, k = 0 }) => Vs / k, k: ({ Vs = 0, V = 0 }) => Vs / V },
});

export const sparkClearance = defineFormula({
  id: 'spark-clearance',
  title: 'Minimum clearance of an output',
  subject,
  result: { symbol: 'c', ...length('clearance') },
  inputs: {
    V: { ...positiveVoltage('voltage'), max: 1e7 },
    b: { title: 'band of the law', unit: '1', min: 0, max: 0.9, default: 0.2 },
    m: { title: 'margin on top', unit: '1', min: 1, max: 10, default: 1.5 },
  },
  expression: '{m}·d, d the spacing from a positive rod to a plane whose breakdown is {V}/(1 − {b})',
  source: 'rod-plane-breakdown at the lower end of its band, half as far again; common practice, no source',
  assumptions: [
    'the weakest way of all: a positive point against something flat, and a long pulse',
    'more where there are leads, wet floors or people: nobody within three times the distance of a spark',
  ],
  compute: ({ V, b, m }) => m * rodPlaneSpacing(V / (1 - b)),
});

export const firesAtLower = defineFormula({
  id: 'fires-at-lower',
  title: 'Shot voltage: the lower of the set voltage and the self-break of the gap',
  subject,
  result: { symbol: 'V', ...positiveVoltage('voltage of the shot') },
  inputs: { Vs: positiveVoltage('set voltage'), Vb: { ...positiveVoltage('self-break voltage'), display: 'V_b' } },
  expression: 'min({Vs}, {Vb})',
  source: 'a gap that breaks down below the set voltage self-breaks there',
  assumptions: ['the voltage rises slowly; single breakdowns scatter'],
  onlyForwards: 'the lower of two voltages says nothing of the higher one',
  compute: ({ Vs, Vb }) => Math.min(Vs, Vb),
});

export const shareOfSelfBreak = defineFormula({
  id: 'share-of-self-break',
  title: 'Voltage as a share of self-break',
  subject,
  result: { symbol: 'x', title: 'share of self-break', unit: '1', min: 0, max: 1e6 },
  inputs: { V: positiveVoltage('voltage across the gap'), Vb: { ...positiveVoltage('self-break voltage'), display: 'V_b' } },
  expression: '{V}/{Vb}',
  source: 'definition of a share; common practice, no source: a triggered gap stands at 70 to 85 %',
  assumptions: ['above 1 it self-breaks'],
  compute: ({ V, Vb }) => V / Vb,
  inverse: { V: ({ x = 0, Vb = 0 }) => x * Vb, Vb: ({ x = 0, V = 0 }) => V / x },
});

export const gasExchange = defineFormula({
  id: 'gas-exchange',
  title: 'Gas that is blown through a gap between two shots',
  subject,
  result: { symbol: 'Va', title: 'volume of gas, at ambient pressure', unit: 'm³', min: 0, max: 1e6, display: 'V_a' },
  inputs: {
    Vg: { title: 'volume between the electrodes', unit: 'm³', min: 0, max: 100, open: true, display: 'V_g' },
    k: { title: 'times that it is exchanged', unit: '1', min: 1, max: 100, default: 3 },
    p: { ...pressure, title: 'pressure in the gap, absolute' },
    pa: { title: 'ambient pressure', unit: 'Pa', min: 1e3, max: 2e5, default: 101_300, display: 'p_a' },
  },
  expression: '{k}·{Vg}·{p}/{pa}',
  source: 'common practice, no source: the hot gas is swept out three to five times before the next shot',
  assumptions: ['the flow goes through the gap and not around it'],
  compute: ({ Vg, k, p, pa }) => (k * Vg * p) / pa,
  inverse: {
    Vg: ({ Va = 0, k = 0, p = 0, pa = 0 }) => (Va * pa) / (k * p),
    k: ({ Va = 0, Vg = 0, p = 0, pa = 0 }) => (Va * pa) / (Vg * p),
  },
});

export const shotsOfWear = defineFormula({
  id: 'shots-of-wear',
  title: 'Shots until a total charge has passed',
  subject,
  result: { symbol: 'N', title: 'shots', unit: '1', min: 0, max: 1e12 },
  inputs: {
    Q: { title: 'charge that may pass', unit: 'C', min: 0, max: 1e9, open: true },
    q: { title: 'charge per shot', unit: 'C', min: 0, max: 1e6, open: true },
  },
  expression: '{Q}/{q}',
  source: 'electrodes wear with the charge that passes; common practice, no source',
  assumptions: ['a ring passes its charge several times: then it is more'],
  compute: ({ Q, q }) => Q / q,
  inverse: { Q: ({ N = 0, q = 0 }) => N * q, q: ({ N = 0, Q = 0 }) => Q / N },
});
