import { parseQuantity, wordQuantityIssue } from '../quantity/index.ts';
import { choiceOf, type Part } from './part.ts';
import { partKind } from './kind/registry.ts';
import { valuesOf, type PartValue } from './values.ts';

/** What a line of the shelf is found by. Worked out once for each state of a part: parts are never changed in place. */
const texts = new WeakMap<Part, string>();
const values = new WeakMap<Part, Readonly<Record<string, PartValue>>>();

function textOfPart(part: Part): string {
  const known = texts.get(part);
  if (known !== undefined) return known;
  const { tag, name, condition, place, note } = part;
  const text = [tag, name, partKind(part.kind).title, choiceOf(part, 'dielectric'), condition, place, note]
    .join('\n')
    .toLowerCase();
  texts.set(part, text);
  return text;
}

/** As {@link valuesOf}, worked out once for each state of a part. */
export function valuesKept(part: Part): Readonly<Record<string, PartValue>> {
  const known = values.get(part) ?? valuesOf(part);
  values.set(part, known);
  return known;
}

type Test = (part: Part, lot: string) => boolean;

export type ReadFilter = { readonly ok: true; readonly test: Test } | { readonly ok: false; readonly reason: string };

const comparisons: Readonly<Record<string, (a: number, b: number) => boolean>> = {
  '<': (a, b) => a < b,
  '>': (a, b) => a > b,
  '<=': (a, b) => a <= b,
  '>=': (a, b) => a >= b,
};

/** `C>30u`: a value of the part, measured where it was, against a number in its unit. */
function comparison(id: string, sign: string, text: string): Test | string {
  const compare = comparisons[sign];
  const key = (found: Readonly<Record<string, PartValue>>) =>
    Object.keys(found).find((k) => k.toLowerCase() === id.toLowerCase());
  let unread: string | null = null;
  // The unit is that of the value: it differs from kind to kind, and a number is read once for each.
  const limits = new Map<string, number | null>();
  const limitIn = (unit: PartValue['unit']): number | null => {
    const known = limits.get(unit);
    if (known !== undefined) return known;
    const read = parseQuantity(text, unit);
    const limit = read.ok ? read.quantity.value : null;
    if (!read.ok) unread = wordQuantityIssue(read.issue);
    limits.set(unit, limit);
    return limit;
  };
  if (!compare || text === '') return `${id}${sign} is followed by a value, such as C>30u`;
  if (!/\d/.test(text)) return `"${text.slice(0, 20)}" is no value; write a number, such as C>30u`;
  return (part) => {
    const found = valuesKept(part);
    const at = key(found);
    const value = at === undefined ? undefined : found[at];
    if (!value) return false;
    const limit = limitIn(value.unit);
    return limit !== null && unread === null && compare(value.value, limit);
  };
}

/**
 * Reads what was typed into the filter of the shelf: words that must all stand somewhere on the part's line, and
 * comparisons such as `C>30u` or `Vdc>=900`, in which a measured value counts before the label's.
 *
 * @returns a test of a part and the name of its lot, or why the text is no filter
 */
export function readFilter(text: string): ReadFilter {
  const tests: Test[] = [];
  for (const token of text.trim().split(/\s+/).filter(Boolean)) {
    const compared = /^([A-Za-z²]+)(<=|>=|<|>)(.*)$/.exec(token);
    if (!compared) {
      const word = token.toLowerCase();
      tests.push((part, lot) => textOfPart(part).includes(word) || lot.toLowerCase().includes(word));
      continue;
    }
    const [, id = '', sign = '', value = ''] = compared;
    const test = comparison(id, sign, value);
    if (typeof test === 'string') return { ok: false, reason: test };
    tests.push(test);
  }
  return { ok: true, test: (part, lot) => tests.every((test) => test(part, lot)) };
}

/** The value a line of the shelf shows first: what the kind is chosen by. */
export const mainValueOf = (part: Part): PartValue | null => {
  const found = valuesKept(part);
  const id = partKind(part.kind).shows.find((shown) => found[shown] !== undefined);
  return id === undefined ? null : (found[id] ?? null);
};

/** The voltage it takes: of a capacitor the dc limit it is used by. Null where that is not known. */
export const voltageOf = (part: Part): PartValue | null => {
  const found = valuesKept(part);
  return (part.kind === 'capacitor' ? found['Vdc'] : found['V']) ?? null;
};
