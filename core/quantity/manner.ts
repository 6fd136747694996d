import { units, type UnitId } from './unit.ts';

/** In what a person reads numbers. What is kept, sent, compared and filed is never printed so: {@link inSI}. */
export interface Manner {
  /** Lengths, areas, masses, speeds and forces. */
  readonly measures: 'metric' | 'imperial';
  readonly pressure: 'Pa' | 'bar' | 'psi';
  /** Diameters of wires. */
  readonly wire: 'metric' | 'AWG';
  readonly decimal: 'point' | 'comma';
}

/** What a manner may be, for whoever offers the choice. */
export const manners = {
  measures: ['metric', 'imperial'],
  pressure: ['Pa', 'bar', 'psi'],
  wire: ['metric', 'AWG'],
  decimal: ['point', 'comma'],
} as const satisfies { readonly [K in keyof Manner]: readonly Manner[K][] };

export const siManner: Manner = { measures: 'metric', pressure: 'Pa', wire: 'metric', decimal: 'point' };

let current: Manner = siManner;

export const mannerNow = (): Manner => current;

/** The edge says once, before anything is printed, how its person reads numbers. */
export function printIn(manner: Manner): void {
  current = manner;
}

/** Runs `make` with every number printed in `manner`. @param make must not wait for anything */
export function inManner<T>(manner: Manner, make: () => T): T {
  const before = current;
  current = manner;
  try {
    return make();
  } finally {
    current = before;
  }
}

/** The same in SI units and with a decimal point: for texts that are kept, compared or read by others, such as the steps of a sheet. */
export const inSI = <T>(make: () => T): T => inManner(siManner, make);

/** How a value is printed: the symbol, the SI value of one of them, and the prefixes in use. */
export interface PrintForm {
  readonly symbol: string;
  readonly factor: number;
  readonly prefixes: readonly string[];
}

/** A form that serves below a value in the SI unit. */
interface FormBelow extends PrintForm {
  readonly below: number;
}

/** As it is read: what a unit is worth stands once, where it is taken. */
const worth = (unit: UnitId, symbol: string): number => {
  const written = units[unit].written.find(({ spellings }) => spellings.includes(symbol));
  if (!written) throw new Error(`${symbol} is no unit of ${unit}`);
  return written.factor;
};
const form = (unit: UnitId, symbol: string, below = Infinity, prefixes: readonly string[] = ['']): FormBelow => ({
  symbol,
  factor: worth(unit, symbol),
  prefixes,
  below,
});

const imperial: { readonly [K in UnitId]?: readonly FormBelow[] } = {
  m: [form('m', 'mil', worth('m', 'in') / 100), form('m', 'in', 3 * worth('m', 'ft')), form('m', 'ft')],
  'm²': [form('m²', 'in²')],
  'm³': [form('m³', 'ft³')],
  kg: [form('kg', 'grains', worth('kg', 'oz')), form('kg', 'oz', worth('kg', 'lb')), form('kg', 'lb')],
  'm/s': [form('m/s', 'ft/s')],
  N: [form('N', 'lbf')],
};

/** Where the SI unit itself is far too large: its prefixes are no litres and no thimbles. */
const metric: { readonly [K in UnitId]?: readonly FormBelow[] } = { 'm³': [form('m³', 'cm³', 1e-3)] };

const pressures: { readonly [K in Manner['pressure']]?: readonly FormBelow[] } = {
  bar: [form('Pa', 'bar', Infinity, ['µ', 'm', '', 'k'])],
  psi: [form('Pa', 'psi')],
};

/** The form in which a manner prints `value`, in the SI unit `unit`. */
export function formOf(value: number, unit: UnitId, manner: Manner): PrintForm {
  const forms = unit === 'Pa' ? pressures[manner.pressure] : (manner.measures === 'imperial' ? imperial : metric)[unit];
  return forms?.find((one) => Math.abs(value) < one.below) ?? units[unit].print;
}
