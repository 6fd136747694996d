import { formOf, mannerNow, siManner, type Manner } from './manner.ts';
import { awgDiameter, type Quantity } from './parse.ts';
import { prefixExponents, units, type UnitId } from './unit.ts';

export interface PrintOptions {
  /** Significant digits, 1 to 15; 3 unless said. */
  readonly digits?: number;
  /** In the unit in which this value would be printed, for numbers that stand in one row: 20 in and 40 in, not 20 in and 3.33 ft. */
  readonly like?: number;
  /** Drop zeros behind the last digit that is not one ("4.7 µF" rather than "4.70 µF"). */
  readonly trim?: boolean;
}

const minusSign = '\u2212';

/** `value` rounded to `digits` significant digits, as an integer mantissa and the power of ten of its last digit. */
function rounded(value: number, digits: number): { mantissa: string; exponent: number } {
  const [mantissa = '0', power = '0'] = value.toExponential(digits - 1).split('e');
  return { mantissa: mantissa.replace('.', ''), exponent: Number(power) - (digits - 1) };
}

/** Digits with the decimal point put `exponent` places from the right; no rounding happens here. */
function place(mantissa: string, exponent: number): string {
  if (exponent >= 0) return mantissa + '0'.repeat(exponent);
  const padded = mantissa.padStart(1 - exponent, '0');
  return `${padded.slice(0, exponent)}.${padded.slice(exponent)}`;
}

const trimmed = (text: string): string => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);

function withoutPrefix(mantissa: string, exponent: number, trim: boolean): string {
  const top = mantissa.length + exponent;
  const show = (text: string) => (trim ? trimmed(text) : text);
  if (top > -3 && top <= 6) return show(place(mantissa, exponent));
  const power = Math.floor((top - 1) / 3) * 3;
  return `${show(place(mantissa, exponent - power))}e${power}`;
}

/** Below this nobody measures anything in any SI unit: a decay that has long been over is nought. */
const beyondMeasure = 1e-18;

/**
 * Prints a number in the SI unit `unit` as the person at this edge reads it: `1.27 kJ`, `442 µF`, `29.1 kA`, `0.394 in`. What it prints,
 * the parser reads back to the same printed digits, or refuses as doubtful (`1,234 kV`).
 *
 * @throws nothing; a number that is not finite prints as "—", so that no NaN reaches a person
 */
export const printQuantity = (value: number, unit: UnitId, options: PrintOptions = {}): string =>
  printedIn(mannerNow(), Math.abs(value) < beyondMeasure ? 0 : value, unit, options);

/**
 * A measured number with its margin, so that both end at the same digit: `199.0 ± 0.2 mΩ`. The margin has one digit, two where it begins with 1.
 *
 * @param margin half the width of its interval, in the same unit; where it is not known, or nothing, the number stands alone
 */
export function printMargin(value: number, margin: number, unit: UnitId): string {
  if (!(Number.isFinite(value) && Number.isFinite(margin) && margin > 0 && value !== 0)) return printQuantity(value, unit);
  const first = Math.floor(Math.log10(margin));
  const last = margin / 10 ** first < 2 ? first - 1 : first;
  // As it will be rounded: 0.97 ± 0.2 is 1.0 ± 0.2.
  const whole = Math.round(Math.abs(value) / 10 ** last);
  const digits = Math.min(15, Math.max(1, String(whole).length));
  const [number = '', ...symbol] = printedIn({ ...mannerNow(), decimal: 'point' }, value, unit, { digits }).split(' ');
  const scale = Math.abs(value) / Number(number.replace(minusSign, ''));
  const places = number.split('.')[1]?.length ?? 0;
  const shown = (text: string) => signed(text, mannerNow());
  return `${shown(number)} ± ${shown((margin / scale).toFixed(places))} ${symbol.join(' ')}`.trimEnd();
}

/** With the decimal sign of a manner. */
const signed = (text: string, { decimal }: Manner): string => (decimal === 'comma' ? text.replace('.', ',') : text);

function printedIn(
  manner: Manner,
  value: number,
  unit: UnitId,
  { digits = 3, trim = false, like = value }: PrintOptions,
): string {
  if (!Number.isFinite(value)) return '—';
  const { symbol, factor, prefixes } = formOf(like, unit, manner);
  const minus = value < 0 ? minusSign : '';
  if (value === 0) return `0${symbol === '' ? '' : ` ${symbol}`}`;
  const scaledValue = scaleForPrint(Math.abs(value), factor);
  const { mantissa, exponent } = rounded(scaledValue, digits);
  if (prefixes.length === 1) {
    const text = withoutPrefix(mantissa, exponent, trim);
    return signed(`${minus}${text}${symbol === '' ? '' : ` ${symbol}`}`, manner);
  }
  const top = mantissa.length + exponent - 1;
  const wanted = Math.floor(top / 3) * 3;
  const known = prefixes.map((p) => ({ p, e: prefixExponents[p] ?? 0 }));
  const chosen = known.reduce((best, next) => (Math.abs(next.e - wanted) < Math.abs(best.e - wanted) ? next : best));
  const outside = wanted - chosen.e;
  const shift = exponent - chosen.e;
  const plain = outside === 0 || (outside > 0 && top - chosen.e < 6);
  const placed = plain ? place(mantissa, shift) : withoutPrefix(mantissa, shift, trim);
  const text = plain && trim ? trimmed(placed) : placed;
  return signed(`${minus}${text} ${chosen.p}${symbol}`, manner);
}

/** Dividing by a power of ten through decimal text keeps 4.7e-6 / 1e-6 at 4.7 and not 4.699999. */
function scaleForPrint(value: number, factor: number): number {
  if (factor === 1) return value;
  const shift = Math.log10(factor);
  return Number.isInteger(shift)
    ? Number(`${value}e${-shift}`.replace(/e(.+)e(.+)$/, (_, a, b) => `e${Number(a) + Number(b)}`))
    : value / factor;
}

/** The unit that a text was written in: the spelling that ends it, the longest first; null where it is the SI unit, with a prefix or not. */
function writtenUnit(
  typed: string,
  unit: UnitId,
): { readonly factor: number; readonly offset: number; readonly spelling: string } | null {
  const value = typed.replace(/[±+].*$/, '').trim();
  const found = units[unit].written
    .flatMap(({ spellings, factor, offset = 0 }) => spellings.map((spelling) => ({ spelling, factor, offset })))
    .filter(({ spelling }) => spelling !== '' && value.endsWith(spelling))
    .sort((a, b) => b.spelling.length - a.spelling.length)[0];
  return found && (found.factor !== 1 || found.offset !== 0) ? found : null;
}

/** SI value = number · factor + offset in the unit in which a text was written; that of the SI unit where it has a prefix or none. */
export function scaleTyped(typed: string, unit: UnitId): { readonly factor: number; readonly offset: number } {
  const { factor, offset } = writtenUnit(typed, unit) ?? { factor: 1, offset: 0 };
  return { factor, offset };
}

/** Prints a number in the unit in which a person wrote another of its kind: 10 psi stays psi, 3/8 in stays in. */
export function printAsTyped(value: number, unit: UnitId, typed: string, options: PrintOptions = {}): string {
  const written = writtenUnit(typed, unit);
  if (!written || !Number.isFinite(value)) return printQuantity(value, unit, options);
  const { digits = 3, trim = false } = options;
  const number = Number(((value - written.offset) / written.factor).toPrecision(digits));
  const text = trim ? String(number) : number.toPrecision(digits);
  return signed(`${text.includes('e') ? String(number) : text} ${written.spelling}`.replace(/^-/, minusSign), mannerNow());
}

/** As few digits as say the value exactly to 12 places, in SI units, for text that goes into a field or a file. */
export const printExact = (value: number, unit: UnitId): string => printedIn(siManner, value, unit, { digits: 12, trim: true });

/** A diameter is of a gauge where it is no further off than this: the makers' tolerance of round copper wire is 1 %. */
const gaugeSpread = 0.01;

/** The diameter of a wire, by its gauge where the person reads gauges and one is within 1 % of it: `16 AWG`. @param d m */
export function printWire(d: number, options: PrintOptions = {}): string {
  const plain = printQuantity(d, 'm', options);
  if (mannerNow().wire !== 'AWG' || !(d > 0)) return plain;
  const n = Math.round(36 - (39 * Math.log(d / awgDiameter(36))) / Math.log(92));
  if (n < -3 || n > 50 || Math.abs(awgDiameter(n) / d - 1) > gaugeSpread) return plain;
  return `${n > 0 ? n : `${1 - n}/0`} AWG (${plain})`;
}

/** A plain number with so many places behind its decimal sign. */
export const printFixed = (value: number, places: number): string => signed(value.toFixed(places), mannerNow());

/** A fraction as per cent with `digits` significant digits: 0.843 becomes "84.3 %". */
export function printPercent(fraction: number, digits = 3): string {
  if (!Number.isFinite(fraction)) return '—';
  const text = printQuantity(fraction * 100, '1', { digits, trim: fraction === 0 });
  return `${text} %`;
}

/** The next number of two significant digits that is not below `value`, give or take the last bits of a double. */
function upwards(value: number): number {
  if (value <= 0) return value;
  const step = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Number((Math.ceil(value / step - 1e-9) * step).toPrecision(2));
}

/**
 * A time as a person plans with it: "3.2 ms", "41 s", "6 min 16 s", "4.7 h", "12 days". Rounded up where digits are
 * dropped, for it is used to say how long to wait.
 */
export function printDuration(seconds: number): string {
  if (!Number.isFinite(seconds)) return '—';
  if (seconds < 0) return `${minusSign}${printDuration(-seconds)}`;
  if (seconds < 10) return printQuantity(upwards(seconds), 's', { digits: 2 });
  const whole = Math.ceil(seconds - 1e-9);
  if (whole < 120) return `${whole} s`;
  if (whole < 3600) return whole % 60 === 0 ? `${whole / 60} min` : `${Math.floor(whole / 60)} min ${whole % 60} s`;
  if (seconds < 48 * 3600) return signed(`${(Math.ceil(seconds / 360) / 10).toFixed(1)} h`, mannerNow());
  if (seconds < 1000 * 86400) return `${Math.ceil(seconds / 86400)} days`;
  return `${printQuantity(upwards(seconds / (365.25 * 86400)), '1', { digits: 2 })} years`;
}

/** A rate below one a second as it is counted: `23.0 a minute`, or `one every 41 min`. @param hertz above 0 */
export function printRate(hertz: number): string {
  if (hertz >= 1) return printQuantity(hertz, 'Hz');
  return hertz * 60 >= 1 ? `${printQuantity(hertz * 60, '1')} a minute` : `one every ${printDuration(1 / hertz)}`;
}

/** The tolerance behind a value: " ±20 %" or " −10/+50 %"; nothing where there is none. */
export function printTolerance(quantity: Quantity): string {
  const t = quantity.tolerance;
  if (!t || (t.minus === 0 && t.plus === 0)) return '';
  const side = (fraction: number) => printExact(Number((fraction * 100).toPrecision(6)), '1');
  return t.minus === t.plus ? ` ±${side(t.plus)} %` : ` ${minusSign}${side(t.minus)}/+${side(t.plus)} %`;
}
