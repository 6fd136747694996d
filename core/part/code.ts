import { parseQuantity, printQuantity, type Tolerance } from '../quantity/index.ts';

/** What a marking on a part may mean. */
export interface Reading {
  /** SI value: F or Ω. */
  readonly value: number;
  readonly tolerance?: Tolerance;
  /** Rated direct voltage, V, where the marking says it. */
  readonly voltage?: number;
  /** How it was read, for a person who has to choose: "10 × 10⁴ pF". */
  readonly says: string;
}

/** One reading where the marking has one meaning; several where a person has to say which; or why there is none. */
export type Decoded =
  { readonly ok: true; readonly readings: readonly Reading[] } | { readonly ok: false; readonly reason: string };

const sym = (percent: number): Tolerance => ({ minus: percent / 100, plus: percent / 100 });
const asym = (minus: number, plus: number): Tolerance => ({ minus: minus / 100, plus: plus / 100 });

/** Letters of tolerance. Source: IEC 60062, from memory. */
export const toleranceLetters: Readonly<Record<string, Tolerance>> = {
  B: sym(0.1),
  C: sym(0.25),
  D: sym(0.5),
  F: sym(1),
  G: sym(2),
  H: sym(3),
  J: sym(5),
  K: sym(10),
  M: sym(20),
  N: sym(30),
  Q: asym(10, 30),
  S: asym(20, 50),
  T: asym(10, 50),
  Z: asym(20, 80),
};

/** Below 10 pF the same letters are absolute, in pF. Source: IEC 60062, from memory. */
const picofaradLetters: Readonly<Record<string, number>> = { B: 0.1, C: 0.25, D: 0.5, F: 1, G: 2 };

/** Letters of rated voltage: a letter of the R10 series times ten to the digit before it. Source: EIA code, from memory. */
const voltageLetters: Readonly<Record<string, number>> = {
  A: 1,
  B: 1.25,
  C: 1.6,
  D: 2,
  E: 2.5,
  F: 3.15,
  V: 3.5,
  G: 4,
  W: 4.5,
  H: 5,
  J: 6.3,
  K: 8,
};

const superscripts = '⁰¹²³⁴⁵⁶⁷⁸⁹';
const power = (digit: number) => `10${superscripts[digit] ?? ''}`;
const decimal = (text: string): number => Number(text.replace(',', '.'));

/** A number as the nearest double to its decimal text, so that "104" is 1e-7 and not 1.0000000000000001e-7. */
const scaled = (digits: string, exponent: number): number => Number(`${decimal(digits)}e${exponent}`);

interface Bare {
  readonly value: number;
  readonly says: string;
}

const refuse = (reason: string): Decoded => ({ ok: false, reason });

function toleranceOf(letter: string | undefined, value: number): Tolerance | undefined {
  if (letter === undefined) return undefined;
  const absolute = picofaradLetters[letter];
  if (value < 10e-12 && absolute !== undefined) return sym((100 * absolute * 1e-12) / value);
  return toleranceLetters[letter];
}

/** Capacitances that digits alone may stand for. */
function capacitorDigits(digits: string): Bare[] {
  if (/^0?[.,]\d+$/.test(digits))
    return [{ value: scaled(digits, -6), says: `${digits} µF: a fraction below one is in microfarad` }];
  if (/[.,]/.test(digits)) {
    return [
      { value: scaled(digits, -12), says: `${digits} pF, as on a small ceramic` },
      { value: scaled(digits, -6), says: `${digits} µF, as on a large capacitor` },
    ];
  }
  const plain = [
    { value: scaled(digits, -12), says: `${digits} pF, written out` },
    { value: scaled(digits, -6), says: `${digits} µF, as on an electrolytic` },
  ];
  const code = /^([1-9]\d)(\d)$/.exec(digits);
  if (!code) return /^0+$/.test(digits) ? [] : plain;
  const [, two = '', last = ''] = code;
  const n = Number(last);
  // 8 and 9 stand for hundredths and tenths.
  const exponent = n === 8 ? -2 : n === 9 ? -1 : n;
  const coded = {
    value: scaled(two, exponent - 12),
    says: `${two} × ${n > 7 ? (n === 8 ? '0.01' : '0.1') : power(n)} pF, as a code`,
  };
  return n === 0 ? [coded, ...plain] : [coded];
}

const capacitorUnits: Readonly<Record<string, number>> = { p: -12, n: -9, u: -6, µ: -6, μ: -6, m: -3 };

function capacitorBody(body: string): Bare[] {
  const infix = /^(\d*)([pnuµμm])(\d*)$/.exec(body);
  if (infix && (infix[1] !== '' || infix[3] !== '')) {
    const [, whole = '', letter = '', rest = ''] = infix;
    const value = scaled(`${whole || '0'}.${rest || '0'}`, capacitorUnits[letter] ?? 0);
    return [{ value, says: `${printQuantity(value, 'F', { digits: 4, trim: true })}, the letter in place of the point` }];
  }
  const point = /^(\d*)R(\d+)$/.exec(body);
  if (point) {
    const number = `${point[1] || '0'}.${point[2]}`;
    return [
      { value: scaled(number, -12), says: `${number} pF: R in place of the point, as on a small ceramic` },
      { value: scaled(number, -6), says: `${number} µF: R in place of the point, as on a tantalum or an electrolytic` },
    ];
  }
  if (/^(\d+|\d*[.,]\d+)$/.test(body)) return capacitorDigits(body);
  const old = /^(\d+|\d*[.,]\d+)\s*(MFD|MF|mfd|mf|uF|µF|μF|MMFD|MMF|mmfd|mmf|nF|pF|mF|F)$/.exec(body);
  if (!old) return [];
  const [, number = '', unit = ''] = old;
  const exponents: Record<string, number> = {
    mmfd: -12,
    mmf: -12,
    mfd: -6,
    mf: -6,
    uf: -6,
    µf: -6,
    μf: -6,
    nf: -9,
    pf: -12,
    f: 0,
  };
  const exponent = unit === 'mF' ? -3 : exponents[unit.toLowerCase()];
  if (exponent === undefined) return [];
  const says =
    /^m?mf/i.test(unit) && unit !== 'mF'
      ? `${number} ${exponent === -6 ? 'µF' : 'pF'}: ${unit} is how old parts write it`
      : `${number} ${unit}`;
  return [{ value: scaled(number, exponent), says }];
}

/** A rated voltage written out behind a marking: `630V`, `2 kV`, `400 V~`. */
function splitVoltage(text: string): { rest: string; voltage?: number; alternating: boolean } {
  const found = /(?:^|[\s-]|(?<=[A-Za-zµμ]))(\d+(?:[.,]\d+)?)\s*(k?V)\s*(DC|dc|=|AC|ac|~)?$/.exec(text);
  if (!found) return { rest: text, alternating: false };
  const parsed = parseQuantity(`${found[1] ?? ''} ${found[2] ?? ''}`, 'V');
  if (!parsed.ok) return { rest: text, alternating: false };
  return {
    rest: text.slice(0, found.index).trim(),
    voltage: parsed.quantity.value,
    alternating: /^(AC|ac|~)$/.test(found[3] ?? ''),
  };
}

/**
 * Reads what stands on a capacitor: `104K`, `2n2`, `4R7`, `2A104J`, `.047K 630V`, `100`.
 *
 * @returns every capacitance it may mean, in F, with tolerance and rated direct voltage where they are marked. An
 *   alternating voltage is named in the reading and not taken for a direct one.
 */
export function decodeCapacitor(marking: string): Decoded {
  const trimmed = marking.trim();
  if (trimmed === '') return refuse('is empty: write what stands on the part, such as 104K or 2n2');
  if (trimmed.length > 60) return refuse('is longer than any marking: write the part that gives the value, such as 104K');
  const { rest, voltage: written, alternating } = splitVoltage(trimmed);
  const coded = /^([0-4])([A-HJKVW])(?=\d{3}(?:[A-Z]|$))/.exec(rest);
  const byLetter = coded ? scaled(String(voltageLetters[coded[2] ?? ''] ?? 0), Number(coded[1])) : undefined;
  const text = coded ? rest.slice(2) : rest;
  // An F behind a prefix is the farad, not the tolerance of 1 %.
  const letter = /^(.*(?:[\d.]|[pnuµμm](?!\s?F)))\s?([BCDFGHJKMNQSTZ])$/.exec(text);
  const body = letter ? (letter[1] ?? '') : text;
  const bare = capacitorBody(body);
  if (bare.length === 0 || bare.some(({ value }) => !(value > 0)))
    return refuse(
      `"${trimmed.slice(0, 40)}" is not a capacitor's marking known here: write it as 104K, 2n2, 4R7, 0.1 or with its unit`,
    );
  const voltage = alternating ? undefined : (written ?? byLetter);
  return {
    ok: true,
    readings: bare.map(({ value, says }) => {
      const tolerance = toleranceOf(letter?.[2], value);
      return {
        value,
        ...(tolerance ? { tolerance } : {}),
        ...(voltage === undefined ? {} : { voltage }),
        says: alternating ? `${says}; the ${printQuantity(written ?? 0, 'V', { trim: true })} on it is alternating` : says,
      };
    }),
  };
}

const resistorUnits: Readonly<Record<string, number>> = { R: 0, L: -3, m: -3, k: 3, K: 3, M: 6, G: 9 };

/** Letters of the three-character code of 1 % resistors. Source: EIA-96, from memory. */
const eia96Multipliers: Readonly<Record<string, number>> = {
  Z: -3,
  Y: -2,
  R: -2,
  X: -1,
  S: -1,
  A: 0,
  B: 1,
  H: 1,
  C: 2,
  D: 3,
  E: 4,
  F: 5,
};

function resistorBody(body: string): Bare[] {
  const infix = /^(\d*)([RLmkKMG])(\d*)$/.exec(body);
  if (infix && (infix[1] !== '' || infix[3] !== '')) {
    const [, whole = '', letter = '', rest = ''] = infix;
    const value = scaled(`${whole || '0'}.${rest || '0'}`, resistorUnits[letter] ?? 0);
    return [{ value, says: `${printQuantity(value, 'Ω', { digits: 5, trim: true })}, the letter in place of the point` }];
  }
  if (/^\d*[.,]\d+$/.test(body)) return [{ value: scaled(body, 0), says: `${body} Ω, written out` }];
  const e96 = /^(\d{2})([A-FHRSXYZ])$/.exec(body);
  if (e96 && Number(e96[1]) >= 1 && Number(e96[1]) <= 96) {
    const three = Math.round(100 * 10 ** ((Number(e96[1]) - 1) / 96));
    return [
      { value: scaled(String(three), eia96Multipliers[e96[2] ?? ''] ?? 0), says: `${three} × ${e96[2]}, the code of 1 % chips` },
    ];
  }
  const code = /^(\d{2,3})(\d)$/.exec(body);
  if (code && (body.length === 3 || body.length === 4)) {
    const [, digits = '', last = ''] = code;
    const coded = { value: scaled(digits, Number(last)), says: `${digits} × ${power(Number(last))} Ω, as a code` };
    return last === '0' && Number(digits) > 0 ? [coded, { value: scaled(body, 0), says: `${body} Ω, written out` }] : [coded];
  }
  return /^\d{1,2}$/.test(body) ? [{ value: scaled(body, 0), says: `${body} Ω, written out` }] : [];
}

/**
 * Reads what stands on a resistor: `4R7`, `4k7J`, `R047`, `472`, `4702`, `01C`, `100`.
 *
 * @returns every resistance it may mean, in Ω, with its tolerance where it is marked; 0 Ω is a link
 */
export function decodeResistor(marking: string): Decoded {
  const text = marking.trim().replace(/\s*(Ω|\u2126|ohms?)$/i, '');
  if (text === '') return refuse('is empty: write what stands on the part, such as 4R7 or 472');
  const whole = resistorBody(text);
  const letter = /^(.*\d)\s?([BCDFGHJKMN])$/.exec(text);
  const before = letter ? resistorBody(letter[1] ?? '') : [];
  const tolerance = letter ? toleranceLetters[letter[2] ?? ''] : undefined;
  const readings: Reading[] = [
    ...whole.map((bare) => ({ ...bare, ...(/code of 1 %/.test(bare.says) ? { tolerance: sym(1) } : {}) })),
    // `4k7K` has one meaning; of `473K` both 473 kΩ and 47 kΩ ±10 % are written in this way.
    ...before
      .filter(() => tolerance !== undefined && (whole.length === 0 || /^\d{3,4}$/.test(letter?.[1] ?? '')))
      .map((bare) => ({ ...bare, ...(tolerance ? { tolerance } : {}) })),
  ];
  if (readings.length === 0)
    return refuse(`"${text.slice(0, 40)}" is not a resistor's marking known here: write it as 4R7, 4k7J, 472 or with its bands`);
  return { ok: true, readings };
}

interface Band {
  readonly digit?: number;
  readonly exponent?: number;
  readonly tolerance?: number;
}

/** Colours of bands: digit, power of ten, tolerance in per cent. Source: IEC 60062, from memory. */
export const bandColours: Readonly<Record<string, Band>> = {
  black: { digit: 0, exponent: 0 },
  brown: { digit: 1, exponent: 1, tolerance: 1 },
  red: { digit: 2, exponent: 2, tolerance: 2 },
  orange: { digit: 3, exponent: 3, tolerance: 0.05 },
  yellow: { digit: 4, exponent: 4, tolerance: 0.02 },
  green: { digit: 5, exponent: 5, tolerance: 0.5 },
  blue: { digit: 6, exponent: 6, tolerance: 0.25 },
  violet: { digit: 7, exponent: 7, tolerance: 0.1 },
  grey: { digit: 8, exponent: 8, tolerance: 0.01 },
  white: { digit: 9, exponent: 9 },
  gold: { exponent: -1, tolerance: 5 },
  silver: { exponent: -2, tolerance: 10 },
  pink: { exponent: -3 },
};

function readBands(colours: readonly string[]): Reading | null {
  const bands = colours.map((colour) => bandColours[colour]);
  // Three bands have no tolerance band and mean 20 %; a sixth band is a temperature coefficient.
  const digits = colours.length >= 5 ? 3 : 2;
  const significant = bands.slice(0, digits).map((band) => band?.digit);
  const exponent = bands[digits]?.exponent;
  const tolerance = colours.length === 3 ? 20 : bands[digits + 1]?.tolerance;
  if (significant.includes(undefined) || significant[0] === 0 || exponent === undefined || tolerance === undefined) return null;
  const value = scaled(significant.join(''), exponent);
  return {
    value,
    tolerance: sym(tolerance),
    says: `${colours.join(', ')}: ${printQuantity(value, 'Ω', { digits: 4, trim: true })} ±${tolerance} %`,
  };
}

/**
 * Reads the colour bands of a resistor, three to six of them.
 *
 * @returns the reading in the given order; where it can be read from the other end as well, both, for a person to choose
 */
export function decodeBands(colours: readonly string[]): Decoded {
  const named = colours.map((colour) =>
    colour
      .trim()
      .toLowerCase()
      .replace(/^gray$/, 'grey')
      .replace(/^purple$/, 'violet'),
  );
  const unknown = named.find((colour) => !(colour in bandColours));
  if (unknown !== undefined)
    return refuse(`"${unknown.slice(0, 20)}" is not a colour of a band: ${Object.keys(bandColours).join(', ')}`);
  if (named.length === 1 && named[0] === 'black') return { ok: true, readings: [{ value: 0, says: 'one black band: a link' }] };
  if (named.length < 3 || named.length > 6) return refuse('a resistor has three to six bands');
  const both = [readBands(named), named.length > 3 ? readBands(named.slice().reverse()) : null].filter((r) => r !== null);
  const [first, second] = both;
  if (!first) return refuse(`${named.join(', ')} is no value from either end: check the colours, and which end the gap is at`);
  return { ok: true, readings: second && second.value !== first.value ? [first, second] : [first] };
}
