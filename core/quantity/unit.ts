/**
 * Units of the SI as this program stores them, and the other units people write.
 *
 * A `UnitId` is the coherent SI unit in which a number is kept. Everything else (prefixes, inches,
 * psi, wire gauges) exists only while text is read or printed.
 */

export type UnitId =
  | '1'
  | 'A'
  | 'A/s'
  | 'A²s'
  | 'C'
  | 'F'
  | 'H'
  | 'Hz'
  | 'J'
  | 'K'
  | 'N'
  | 'Pa'
  | 'T'
  | 'V'
  | 'V/m'
  | 'V/s'
  | 'W'
  | 's'
  | 'm'
  | 'm/s'
  | 'm²'
  | 'm³'
  | 'kg'
  | 'Ω'
  | 'Ω·m'
  | 'K⁻¹'
  | 'm⁻¹'
  | 'A²s/m⁴'
  | 'J/kg'
  | 'J/(kg·K)'
  | 'J/(m³·K)'
  | 'W/(m²·K)'
  | 'kg/m³'
  // As the standard for gaps in air writes humidity: its formula is one of numbers in this unit.
  | 'g/m³';

/** How one written unit becomes the SI unit: SI = number · factor + offset. */
export interface WrittenUnit {
  /** Every spelling accepted, the first being the one printed in messages. */
  readonly spellings: readonly string[];
  readonly factor: number;
  readonly offset?: number;
  /** Whether SI prefixes may stand before it. */
  readonly prefixes: boolean;
}

export interface UnitSpec {
  readonly id: UnitId;
  /** What the unit measures, for messages: "resistance". */
  readonly measures: string;
  readonly written: readonly WrittenUnit[];
  /** How a value is printed: the symbol, the SI value of one of them, and the prefixes in use. */
  readonly print: { readonly symbol: string; readonly factor: number; readonly prefixes: readonly string[] };
  /**
   * Bare letters that could mean two things in this field, each with what to write instead. A key with a leading space is
   * doubtful only where the letter stands apart from its number: "5 m" of a resistor, but not "5m".
   */
  readonly doubtful?: Readonly<Record<string, string>>;
}

/** SI prefixes accepted before a unit, as powers of ten. `K` is read as kilo, as resistor codes use it. */
export const prefixExponents: Readonly<Record<string, number>> = {
  f: -15,
  p: -12,
  n: -9,
  u: -6,
  µ: -6,
  μ: -6,
  m: -3,
  '': 0,
  k: 3,
  K: 3,
  M: 6,
  G: 9,
  T: 12,
};

const engineering = ['f', 'p', 'n', 'µ', 'm', '', 'k', 'M', 'G', 'T'];
const unprefixed: readonly string[] = [''];

const si = (factor: number, ...spellings: string[]): WrittenUnit => ({ spellings, factor, prefixes: true });
const other = (factor: number, ...spellings: string[]): WrittenUnit => ({ spellings, factor, prefixes: false });

const printed = (symbol: string, prefixes: readonly string[] = engineering, factor = 1) => ({ symbol, factor, prefixes });

/** 1 in = 25.4 mm exactly; 1 psi = 6894.757293168 Pa (from the pound-force and the inch). */
const inch = 0.0254;
const psi = 6894.757293168;

/** A unit of a material or a law, which nobody writes with a prefix. */
const compound = (id: UnitId, measures: string, ...alsoWritten: string[]): UnitSpec => ({
  id,
  measures,
  written: [other(1, id, ...alsoWritten)],
  print: printed(id, unprefixed),
});

export const units: { readonly [K in UnitId]: UnitSpec } = {
  '1': {
    id: '1',
    measures: 'a plain number or percentage',
    written: [other(1, ''), other(0.01, '%', 'percent', 'per cent'), other(1e-6, 'ppm')],
    print: printed('', unprefixed),
  },
  A: { id: 'A', measures: 'a current', written: [si(1, 'A', 'amp', 'amps')], print: printed('A') },
  'A/s': {
    id: 'A/s',
    measures: 'a rate of rise of current',
    written: [si(1e6, 'A/µs', 'A/us', 'A/μs'), si(1e3, 'A/ms'), si(1e9, 'A/ns'), si(1, 'A/s')],
    print: printed('A/µs', engineering, 1e6),
    doubtful: { '': 'a bare number could be A/s or A/µs; write the unit' },
  },
  'A²s': {
    id: 'A²s',
    measures: 'an action integral',
    written: [other(1, 'A²s', 'A2s', 'A^2s', 'A² s', 'A²·s', 'A^2 s')],
    print: printed('A²s', unprefixed),
  },
  C: { id: 'C', measures: 'a charge', written: [si(1, 'C', 'coulomb'), si(3600, 'Ah', 'A·h')], print: printed('C') },
  F: {
    id: 'F',
    measures: 'a capacitance',
    written: [si(1, 'F', 'farad')],
    print: printed('F', ['f', 'p', 'n', 'µ', 'm', '', 'k']),
    doubtful: {
      M: 'on old parts M means micro; write 5 µF, or 5 MF if megafarad is really meant',
      MF: 'on old parts MF means microfarad; write 5 µF',
      MFD: 'on old parts MFD means microfarad; write 5 µF',
      mfd: 'on old parts mfd means microfarad; write 5 µF',
      mmf: 'on old parts mmf means picofarad; write 5 pF',
      mmfd: 'on old parts mmfd means picofarad; write 5 pF',
    },
  },
  H: { id: 'H', measures: 'an inductance', written: [si(1, 'H', 'henry')], print: printed('H') },
  Hz: { id: 'Hz', measures: 'a frequency', written: [si(1, 'Hz')], print: printed('Hz') },
  J: { id: 'J', measures: 'an energy', written: [si(1, 'J', 'joule', 'joules')], print: printed('J') },
  K: {
    id: 'K',
    measures: 'a temperature',
    written: [
      { spellings: ['°C', 'degC', '℃'], factor: 1, offset: 273.15, prefixes: false },
      { spellings: ['°F', 'degF'], factor: 5 / 9, offset: 273.15 - (32 * 5) / 9, prefixes: false },
      other(1, 'K'),
    ],
    print: printed('K', unprefixed),
    doubtful: { '': 'a bare number could be °C or K; write the unit' },
  },
  N: { id: 'N', measures: 'a force', written: [si(1, 'N', 'newton'), other(4.4482216152605, 'lbf')], print: printed('N') },
  Pa: {
    id: 'Pa',
    measures: 'a pressure',
    written: [
      other(psi, 'psi'),
      si(1e5, 'bar'),
      other(101325, 'atm'),
      other(133.322387415, 'mmHg'),
      other(101325 / 760, 'Torr', 'torr'),
      si(1, 'Pa'),
    ],
    print: printed('Pa'),
  },
  T: {
    id: 'T',
    measures: 'a flux density',
    written: [other(1e-4, 'G', 'gauss'), other(0.1, 'kG'), si(1, 'T', 'tesla')],
    print: printed('T', ['µ', 'm', '']),
  },
  V: { id: 'V', measures: 'a voltage', written: [si(1, 'V', 'V dc', 'Vdc', 'volt', 'volts')], print: printed('V') },
  'V/m': {
    id: 'V/m',
    measures: 'a field strength',
    written: [si(1e3, 'V/mm'), si(1e6, 'V/µm', 'V/um', 'V/μm'), si(1, 'V/m'), si(100, 'V/cm')],
    print: printed('V/mm', engineering, 1e3),
    doubtful: { '': 'a bare number could be V/m or V/mm; write the unit' },
  },
  'V/s': {
    id: 'V/s',
    measures: 'a rate of rise of voltage',
    written: [si(1e6, 'V/µs', 'V/us', 'V/μs'), si(1e3, 'V/ms'), si(1, 'V/s')],
    print: printed('V/µs', engineering, 1e6),
    doubtful: { '': 'a bare number could be V/s or V/µs; write the unit' },
  },
  W: { id: 'W', measures: 'a power', written: [si(1, 'W', 'watt', 'watts')], print: printed('W') },
  s: {
    id: 's',
    measures: 'a time',
    written: [other(60, 'min'), other(3600, 'h', 'hr'), other(86400, 'd', 'day', 'days'), si(1, 's', 'sec')],
    print: printed('s', ['f', 'p', 'n', 'µ', 'm', '']),
    doubtful: {
      m: 'it could be minutes or milliseconds; write 5 min or 5 ms',
      M: 'it could be minutes or megaseconds; write 5 min or 5 Ms',
    },
  },
  m: {
    id: 'm',
    measures: 'a length',
    written: [
      other(inch, 'in', '"', 'inch', 'inches', '″'),
      other(inch * 12, 'ft', "'", 'foot', 'feet', '′'),
      other(inch / 1000, 'mil', 'mils', 'thou'),
      other(0.01, 'cm'),
      si(1, 'm'),
    ],
    print: printed('m', ['n', 'µ', 'm', '', 'k']),
    doubtful: { M: 'it could be metres or megametres; write 5 m' },
  },
  'm/s': {
    id: 'm/s',
    measures: 'a speed',
    written: [other(1 / 3.6, 'km/h'), other(0.3048, 'ft/s'), si(1, 'm/s')],
    print: printed('m/s', ['µ', 'm', '', 'k']),
  },
  'm²': {
    id: 'm²',
    measures: 'an area',
    written: [
      other(1e-6, 'mm²', 'mm2', 'mm^2'),
      other(1e-4, 'cm²', 'cm2', 'cm^2'),
      other(inch * inch, 'in²', 'in2', 'sq in'),
      other(1, 'm²', 'm2', 'm^2'),
    ],
    print: printed('m²', unprefixed),
  },
  'm³': {
    id: 'm³',
    measures: 'a volume',
    written: [
      other(1e-3, 'l', 'L', 'litre', 'litres', 'dm³', 'dm3'),
      other(1e-6, 'cm³', 'cm3', 'cm^3'),
      other((12 * inch) ** 3, 'ft³', 'ft3', 'cu ft'),
      other(1, 'm³', 'm3', 'm^3'),
    ],
    print: printed('m³', unprefixed),
  },
  kg: {
    id: 'kg',
    measures: 'a mass',
    written: [si(1e-3, 'g'), other(0.45359237, 'lb'), other(0.028349523125, 'oz'), other(0.45359237 / 7000, 'grains', 'grain')],
    print: printed('g', ['µ', 'm', '', 'k'], 1e-3),
    doubtful: { '': 'a bare number could be g or kg; write the unit' },
  },
  Ω: {
    id: 'Ω',
    measures: 'a resistance',
    written: [si(1, 'Ω', '\u2126', 'ohm', 'ohms', 'Ohm', 'R')],
    print: printed('Ω'),
    doubtful: { ' m': 'it could be milliohms, megohms or metres; write 5 mΩ or 5 MΩ' },
  },
  'Ω·m': {
    id: 'Ω·m',
    measures: 'a resistivity',
    written: [si(1, 'Ω·m', 'Ωm', 'ohm m', 'ohm·m'), other(0.01, 'Ω·cm', 'Ωcm', 'ohm cm'), other(1e-6, 'Ω·mm²/m')],
    print: printed('Ω·m'),
  },
  'K⁻¹': compound('K⁻¹', 'a temperature coefficient', '/°C', '/K'),
  'm⁻¹': compound('m⁻¹', 'a number per length', '/m'),
  'A²s/m⁴': compound('A²s/m⁴', 'an action over the square of a section', 'A2s/m4', 'A^2s/m^4'),
  'J/kg': compound('J/kg', 'an energy per mass'),
  'J/(kg·K)': compound('J/(kg·K)', 'a specific heat', 'J/kgK', 'J/(kg K)'),
  'J/(m³·K)': compound('J/(m³·K)', 'a heat per volume and degree', 'J/m3K', 'J/(m3 K)'),
  'W/(m²·K)': compound('W/(m²·K)', 'a heat transfer', 'W/m2K', 'W/(m2 K)'),
  'kg/m³': compound('kg/m³', 'a density', 'kg/m3'),
  'g/m³': compound('g/m³', 'a humidity', 'g/m3'),
};

export const isUnitId = (text: string): text is UnitId => Object.hasOwn(units, text);
