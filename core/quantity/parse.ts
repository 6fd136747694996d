import { prefixExponents, units, type UnitId, type WrittenUnit } from './unit.ts';
import type { QuantityIssue } from './issue.ts';

/** Relative deviations, both as fractions ≥ 0: the true value lies in value·(1 − minus) … value·(1 + plus). */
export interface Tolerance {
  readonly minus: number;
  readonly plus: number;
}

/** A number in the SI unit of its field, with the tolerance it was written with. */
export interface Quantity {
  readonly value: number;
  readonly tolerance?: Tolerance;
}

export type Parsed = { readonly ok: true; readonly quantity: Quantity } | { readonly ok: false; readonly issue: QuantityIssue };

type Read<T> = { ok: true; value: T } | { ok: false; issue: QuantityIssue };

const done = <T>(value: T): Read<T> => ({ ok: true, value });
const refuse = (issue: QuantityIssue): { ok: false; issue: QuantityIssue } => ({ ok: false, issue });

const sign = '[+\\-\u2212]?';
const digits = '(?:\\d{1,3}(?:[ \u00a0\u2009\u202f]\\d{3})+(?!\\d)|\\d+)';
const exponent = '(?:[eE][+\\-\u2212]?\\d+|\\s*[×x*·]\\s*10\\^?[+\\-\u2212]?\\d+)?';
const plainNumber = new RegExp(`^(${sign})\\s*(${digits}(?:[.,]\\d*)?|[.,]\\d+)(${exponent})`);
const fraction = new RegExp(`^(${sign})\\s*(?:(\\d+)(?:\\s+|-))?(\\d+)\\s*[/⁄]\\s*(\\d+)(?=\\s*[a-zA-Z"″'′])`);
const infix = /^([+\-\u2212]?)(\d*)([fpnuµμmkKMGTR])(\d+)/;
const gauge = /^(?:(\d+)\s*AWG|AWG\s*(\d+)|(\d)\/0\s*AWG|AWG\s*(\d)\/0)$/i;

const isMinus = (text: string | undefined): boolean => text === '-' || text === '\u2212';

/**
 * Diameter of a wire by its American gauge, in metres: d = 0.127 mm · 92^((36 − n)/39).
 * 00, 000 and 0000 are n = −1, −2, −3. Source: ASTM B258, definition.
 */
export const awgDiameter = (n: number): number => 0.127e-3 * 92 ** ((36 - n) / 39);

function readGauge(text: string): Read<number> | null {
  const found = gauge.exec(text);
  if (!found) return null;
  const zeros = found[3] ?? found[4];
  const plain = found[1] ?? found[2] ?? '';
  const n = zeros !== undefined ? 1 - Number(zeros) : /^0+$/.test(plain) ? 1 - plain.length : Number(plain);
  if (n < -3 || n > 50) return refuse({ code: 'gauge_out_of_range', unit: 'm', text });
  return done(awgDiameter(n));
}

/** Decimal digits as written, without grouping and with a point. A comma that may mark thousands is refused. */
function normalise(digitsText: string, unit: UnitId): Read<string> {
  const text = digitsText.replace(/[ \u00a0\u2009\u202f]/g, '');
  if (/^[1-9]\d{0,2},\d{3}$/.test(text)) return refuse({ code: 'thousands_or_decimal', unit, text });
  return done(text.replace(',', '.'));
}

/** What is left of a text behind its number, and the number as decimal text so that scaling stays exact. */
interface Head {
  readonly decimal: string;
  readonly exponent: number;
  readonly rest: string;
  /** The prefix letter that stood in place of the decimal point (4u7), if one did. */
  readonly infix?: string;
}

function readHead(text: string, unit: UnitId): Read<Head> {
  const byFraction = fraction.exec(text);
  if (byFraction) {
    const [all, minus, whole, numerator, denominator] = byFraction;
    if (Number(denominator) === 0) return refuse({ code: 'zero_denominator', unit, text });
    const value = (Number(whole ?? 0) + Number(numerator) / Number(denominator)) * (isMinus(minus) ? -1 : 1);
    return done({ decimal: String(value), exponent: 0, rest: text.slice(all.length) });
  }
  const byInfix = infix.exec(text);
  if (byInfix) {
    const [all, minus, whole, letter = '', decimals = ''] = byInfix;
    const decimal = `${isMinus(minus) ? '-' : ''}${whole || '0'}.${decimals}`;
    return done({ decimal, exponent: 0, rest: text.slice(all.length), infix: letter });
  }
  const byNumber = plainNumber.exec(text);
  if (!byNumber) return refuse({ code: 'not_a_number', unit, text });
  const [all, minus, body = '', power = ''] = byNumber;
  const rest = text.slice(all.length);
  if (/^[.,]/.test(rest) || /^\s*\d/.test(rest)) {
    return refuse({
      code: /[.,]/.test(body + rest) && /,/.test(body + rest) ? 'thousands_or_decimal' : 'not_a_number',
      unit,
      text,
    });
  }
  const decimal = normalise(body, unit);
  if (!decimal.ok) return decimal;
  const shift = power.replace(/^(?:[eE]|\s*[×x*·]\s*10\^?)/, '').replace('\u2212', '-');
  return done({ decimal: `${isMinus(minus) ? '-' : ''}${decimal.value}`, exponent: power === '' ? 0 : Number(shift), rest });
}

/** A written unit and the power of ten of its prefix. */
interface Scale {
  readonly unit: WrittenUnit;
  readonly exponent: number;
}

function matchUnit(text: string, unit: UnitId): Scale | null {
  for (const written of units[unit].written) {
    if (written.spellings.includes(text)) return { unit: written, exponent: 0 };
  }
  for (const written of units[unit].written) {
    if (!written.prefixes) continue;
    for (const spelling of written.spellings) {
      const prefix = text.endsWith(spelling) ? text.slice(0, text.length - spelling.length).trimEnd() : null;
      const power = prefix === null || prefix === '' ? undefined : prefixExponents[prefix];
      if (power !== undefined) return { unit: written, exponent: power };
    }
  }
  return null;
}

const coherent = (unit: UnitId): WrittenUnit => {
  const found = units[unit].written.find((w) => w.factor === units[unit].print.factor) ?? units[unit].written[0];
  if (!found) throw new Error(`unit ${unit} has no written form`);
  return found;
};

/** Where a bare number is doubtful, a bare prefix is too. */
const takesBarePrefix = (unit: UnitId): boolean => coherent(unit).prefixes && units[unit].doubtful?.[''] === undefined;

function refuseUnit(found: string, unit: UnitId): { ok: false; issue: QuantityIssue } {
  if (unit === 'A²s' && /^[kM]A/.test(found)) {
    const hint = 'data sheets print kA²s for a thousand A²s, the SI means a million; write 61e3 A²s';
    return refuse({ code: 'doubtful', unit, found, hint });
  }
  for (const candidate of Object.values(units)) {
    if (candidate.id !== unit && found !== '' && matchUnit(found, candidate.id)) {
      return refuse({ code: 'wrong_unit', unit, found, measures: candidate.measures });
    }
  }
  return refuse({ code: 'unknown_unit', unit, found });
}

function readUnit(rest: string, unit: UnitId, infixLetter: string | undefined): Read<Scale> {
  const text = rest.trim();
  const letters = text === '' ? (infixLetter ?? '') : text;
  const doubtful = units[unit].doubtful;
  const hint = doubtful?.[letters] ?? (/^\s/.test(rest) ? doubtful?.[` ${letters}`] : undefined);
  if (hint !== undefined) return refuse({ code: 'doubtful', unit, found: letters, hint });
  if (infixLetter !== undefined) {
    const exponent = infixLetter === 'R' ? 0 : prefixExponents[infixLetter];
    const scale = text === '' ? (takesBarePrefix(unit) ? { unit: coherent(unit), exponent: 0 } : null) : matchUnit(text, unit);
    if (infixLetter === 'R' && unit !== 'Ω')
      return refuse({ code: 'wrong_unit', unit, found: 'R', measures: units['Ω'].measures });
    if (exponent === undefined || !scale || scale.exponent !== 0 || !scale.unit.prefixes)
      return refuseUnit(text || infixLetter, unit);
    return done({ unit: scale.unit, exponent });
  }
  if (text === '') return done({ unit: coherent(unit), exponent: 0 });
  const exact = matchUnit(text, unit);
  if (exact) return done(exact);
  const power = takesBarePrefix(unit) ? prefixExponents[text] : undefined;
  if (power !== undefined) return done({ unit: coherent(unit), exponent: power });
  return refuseUnit(text, unit);
}

/** Power of ten of a factor that is one exactly (1e-3), so that "4.7 m" becomes the double nearest 0.0047. */
function decimalExponent(factor: number): number | null {
  const match = /^1(?:e([+-]?\d+))?$/.exec(factor.toExponential());
  return match ? Number(match[1] ?? 0) : null;
}

function scaled(head: Head, scale: Scale, unit: UnitId, text: string): Read<number> {
  const power = decimalExponent(scale.unit.factor);
  const shift = head.exponent + scale.exponent;
  const mantissa = head.decimal.includes('e') ? null : head.decimal;
  const value =
    power !== null && mantissa !== null
      ? Number(`${mantissa}e${shift + power}`)
      : Number(mantissa === null ? head.decimal : `${mantissa}e${shift}`) * scale.unit.factor;
  const si = value + (scale.unit.offset ?? 0);
  return Number.isFinite(si) ? done(si) : refuse({ code: 'too_large', unit, text });
}

const number = '(\\d+(?:[.,]\\d+)?|[.,]\\d+)';
const symmetric = new RegExp(`^${number}\\s*(%)$`);
const asymmetric = new RegExp(`^([-\u2212])\\s*${number}\\s*%?\\s*[/,]\\s*\\+\\s*${number}\\s*%$`);
const asymmetricPlusFirst = new RegExp(`^\\+\\s*${number}\\s*%?\\s*[/,]\\s*[-\u2212]\\s*${number}\\s*%$`);
const percent = (text: string | undefined): number => Number(`${(text ?? '').replace(',', '.')}e-2`);

function readTolerance(text: string, value: number, unit: UnitId): Read<Tolerance> {
  const bad = refuse({ code: 'bad_tolerance', unit, text });
  const check = (minus: number, plus: number): Read<Tolerance> =>
    Number.isFinite(minus) && Number.isFinite(plus) && minus < 1 && plus <= 100 ? done({ minus, plus }) : bad;
  const lop = asymmetric.exec(text);
  if (lop) return check(percent(lop[2]), percent(lop[3]));
  const flipped = asymmetricPlusFirst.exec(text);
  if (flipped) return check(percent(flipped[2]), percent(flipped[1]));
  const band = text.replace(/^(±|\+\/[-\u2212]|\+[-\u2212])\s*/, '');
  const even = symmetric.exec(band);
  if (even) return check(percent(even[1]), percent(even[1]));
  const absolute = readPlain(band, unit);
  if (!absolute.ok || value === 0) return bad;
  return check(Math.abs(absolute.value / value), Math.abs(absolute.value / value));
}

function readPlain(text: string, unit: UnitId): Read<number> {
  if (unit === 'm') {
    const byGauge = readGauge(text);
    if (byGauge) return byGauge;
  }
  const head = readHead(text, unit);
  if (!head.ok) return head;
  const scale = readUnit(head.value.rest, unit, head.value.infix);
  if (!scale.ok) return scale;
  return scaled(head.value, scale.value, unit, text);
}

/** Where a tolerance begins: ±, +/-, +-, or -10/+50 % behind a space. */
const toleranceStart =
  /\s*(?:±|\+\/[-\u2212]|\+[-\u2212]|(?<=\S)\s+[-\u2212]\s*[\d.,]+\s*%?\s*[/,]\s*\+|(?<=\S)\s+\+\s*[\d.,]+\s*%?\s*[/,]\s*[-\u2212])/;

/**
 * Reads a quantity as people write it: `4u7`, `2.2k`, `1,5 kV`, `3/8 in`, `16 AWG`, `100u ±20%`, `22m -10/+50%`.
 *
 * @param text what was typed; leading and trailing space is ignored, more than 200 characters are refused
 * @param unit the SI unit of the field; a text without a unit is taken in it, a bare prefix scales it
 * @returns the value in `unit` with its tolerance, or the reason for refusal. It never throws and never guesses:
 *   a text that two readers could take differently is refused as doubtful.
 */
export function parseQuantity(text: string, unit: UnitId): Parsed {
  const trimmed = text.trim();
  if (trimmed === '') return refuse({ code: 'empty', unit });
  if (trimmed.length > 200) return refuse({ code: 'not_a_number', unit, text: trimmed });
  const split = toleranceStart.exec(trimmed);
  const body = split ? trimmed.slice(0, split.index) : trimmed;
  const value = readPlain(body.trim(), unit);
  if (!value.ok) return value;
  if (!split) return { ok: true, quantity: { value: value.value } };
  const tolerance = readTolerance(trimmed.slice(split.index).trim(), value.value, unit);
  if (!tolerance.ok) return tolerance;
  return { ok: true, quantity: { value: value.value, tolerance: tolerance.value } };
}

/** Lowest and highest value the tolerance allows, in the quantity's own unit. */
export function bounds(quantity: Quantity): { low: number; high: number } {
  const { minus, plus } = quantity.tolerance ?? { minus: 0, plus: 0 };
  const a = quantity.value * (1 - minus);
  const b = quantity.value * (1 + plus);
  return { low: Math.min(a, b), high: Math.max(a, b) };
}
