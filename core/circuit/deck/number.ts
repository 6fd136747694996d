/** Numbers and sums as decks write them: `4k7`, `10uF`, `1meg`, `{2*r0}`. */

/** A word that cannot be taken, with the reason. */
export class BadWord extends Error {}

const scales: Readonly<Record<string, number>> = {
  t: 1e12,
  g: 1e9,
  meg: 1e6,
  k: 1e3,
  m: 1e-3,
  u: 1e-6,
  n: 1e-9,
  p: 1e-12,
  f: 1e-15,
};
/** What may stand behind a number and says nothing. */
const units = new Set([
  '',
  'f',
  'h',
  'v',
  'a',
  's',
  'w',
  'j',
  'hz',
  'ohm',
  'ohms',
  'ω',
  'sec',
  'volt',
  'volts',
  'amp',
  'amps',
  'farad',
  'henry',
  'm',
]);
const written = /^([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)([a-zω]*)$/;
/** A scale in the place of the point, IEC 60062: 4k7, 2u2, 1r5. */
const letterPoint = /^([-+]?\d+)(meg|[tgkmunpr])(\d+)$/;

/** A number with its scale and unit; NaN where it is none. Case says nothing: M is milli, MEG is mega. */
export function deckNumber(text: string): number {
  const plain = text.replace(/[µμ]/g, 'u').replace(/[ΩΩ]/g, 'ω').toLowerCase();
  const point = letterPoint.exec(plain);
  if (point) return Number(`${point[1]}.${point[3]}`) * (point[2] === 'r' ? 1 : (scales[point[2] ?? ''] ?? NaN));
  const match = written.exec(plain);
  if (!match) return NaN;
  const [, digits = '', letters = ''] = match;
  for (const scale of ['meg', ...'tgkmunpf'])
    if (letters.startsWith(scale) && units.has(letters.slice(scale.length))) return Number(digits) * (scales[scale] ?? NaN);
  return units.has(letters) ? Number(digits) : NaN;
}

const functions: Readonly<Record<string, (...x: number[]) => number>> = {
  abs: Math.abs,
  sqrt: Math.sqrt,
  exp: Math.exp,
  ln: Math.log,
  log: Math.log,
  log10: Math.log10,
  sin: Math.sin,
  cos: Math.cos,
  tan: Math.tan,
  atan: Math.atan,
  min: Math.min,
  max: Math.max,
  pow: (x = NaN, y = NaN) => x ** y,
};

/** What names stand for where a sum is worked out. */
export type Parameters = ReadonlyMap<string, number>;

/**
 * A number, the name of a parameter, or a sum of them in braces or quotes.
 *
 * @throws BadWord naming the word
 */
export function deckValue(word: string, parameters: Parameters): number {
  const braced = /^\{(.*)\}$|^'(.*)'$|^"(.*)"$/.exec(word);
  const text = braced ? (braced[1] ?? braced[2] ?? braced[3] ?? '') : word;
  const plain = deckNumber(text);
  if (!Number.isNaN(plain)) return plain;
  const known = parameters.get(text.toLowerCase());
  if (known !== undefined) return known;
  if (!braced && !/[-+*/^()]/.test(text)) throw new BadWord(`"${shown(word)}" is no number and no parameter`);
  return sum(text, parameters, word);
}

export const shown = (word: string): string => word.slice(0, 40);

/** Sums by recursive descent: + and −, then × and ÷, then powers, then signs, names, calls and brackets. */
function sum(text: string, parameters: Parameters, word: string): number {
  const bad = (why: string) => new BadWord(`"${shown(word)}": ${why}`);
  const tokens = text.match(/\d[\w.]*(?:(?<=\d[eE])[-+]\d+)?[µμΩ]?\w*|\.\d\w*|[A-Za-z_]\w*|\*\*|[-+*/^(),]|\S/g) ?? [];
  let at = 0;
  let depth = 0;
  const take = (what: string) => (tokens[at] === what ? (at++, true) : false);
  const expression = (): number => {
    if (++depth > 60) throw bad('too many brackets');
    let value = product();
    for (;;) {
      if (take('+')) value += product();
      else if (take('-')) value -= product();
      else break;
    }
    depth--;
    return value;
  };
  const product = (): number => {
    let value = signed();
    for (;;) {
      if (take('*')) value *= signed();
      else if (take('/')) value /= signed();
      else return value;
    }
  };
  const signed = (): number => (take('-') ? -signed() : take('+') ? signed() : power());
  const power = (): number => {
    const base = atom();
    return take('^') || take('**') ? base ** signed() : base;
  };
  const atom = (): number => {
    const token = tokens[at++];
    if (token === undefined) throw bad('it ends too soon');
    if (token === '(') {
      const value = expression();
      if (!take(')')) throw bad('a bracket is not closed');
      return value;
    }
    const number = deckNumber(token);
    if (!Number.isNaN(number)) return number;
    const name = token.toLowerCase();
    if (take('(')) {
      const inputs = [expression()];
      while (take(',')) inputs.push(expression());
      if (!take(')')) throw bad('a bracket is not closed');
      const call = Object.hasOwn(functions, name) ? functions[name] : undefined;
      if (!call) throw bad(`"${shown(token)}" is no function that is known here`);
      return call(...inputs);
    }
    const value = name === 'pi' ? Math.PI : parameters.get(name);
    if (value === undefined) throw bad(`"${shown(token)}" is no number and no parameter`);
    return value;
  };
  const value = expression();
  if (at < tokens.length) throw bad(`"${shown(tokens[at] ?? '')}" is not understood there`);
  if (!Number.isFinite(value)) throw bad('it is no finite number');
  return value;
}
