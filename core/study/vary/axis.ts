import { readQuantityText, type QuantityField } from '../../field/index.ts';
import { wordRange } from '../../formula/index.ts';
import { awgDiameter, inSI, printAsTyped, stepPreferred, type ESeries } from '../../quantity/index.ts';
import { fieldName, quantityAt, type Rig } from '../../rig/index.ts';

export const axisScales = ['even', 'log', 'E6', 'E12', 'E24', 'AWG', 'list'] as const;
export type AxisScale = (typeof axisScales)[number];

/** How a field is to be varied, as a person writes it. */
export interface AskedAxis {
  /** Such as `store.V0`. */
  readonly path: string;
  readonly scale: AxisScale;
  /** Ends, in whatever unit they are typed; of a list they are not looked at. */
  readonly from: string;
  readonly to: string;
  /** Points, of `even` and `log`. */
  readonly steps: number;
  /** Of a list: values with commas and spaces, or semicolons, between them. */
  readonly values: string;
}

/** A field and the values it is given, SI, rising. */
export interface Axis {
  readonly path: string;
  readonly title: string;
  readonly unit: QuantityField['unit'];
  /** As its ends were typed, for the unit it is answered in. */
  readonly typed: string;
  readonly isLog: boolean;
  /** What is counted. */
  readonly isWhole: boolean;
  readonly values: readonly number[];
}

export type ReadAxis =
  | { readonly ok: true; readonly axis: Axis }
  | { readonly ok: false; readonly at: 'path' | 'from' | 'to' | 'steps' | 'values' | 'scale'; readonly reason: string };

/** Values of one axis at the most. */
export const mostSteps = 2000;

const no = (at: Extract<ReadAxis, { ok: false }>['at'], reason: string): ReadAxis => ({ ok: false, at, reason });

/** What reading a text gives: a value that the field lets through, or why not. */
function valueOf(field: QuantityField, text: string): { ok: true; value: number } | { ok: false; reason: string } {
  const read = readQuantityText({ ...field, tolerance: false, optional: false }, text);
  return read.ok && read.value
    ? { ok: true, value: read.value.value }
    : { ok: false, reason: read.ok ? 'must be given' : read.reason };
}

function preferredBetween(low: number, high: number, series: ESeries): number[] {
  const found: number[] = [];
  for (let at = stepPreferred(low * (1 - 1e-6), 1, series); at <= high * (1 + 1e-9); at = stepPreferred(at, 1, series)) {
    found.push(at);
    if (found.length > mostSteps) break;
  }
  return found;
}

/** Wire gauges from one diameter to another, thin first. Source: ASTM B258. */
const gaugesBetween = (low: number, high: number): number[] =>
  Array.from({ length: 51 }, (_, n) => awgDiameter(50 - n)).filter((d) => d >= low * (1 - 1e-6) && d <= high * (1 + 1e-6));

function spread(scale: AxisScale, low: number, high: number, steps: number): number[] {
  switch (scale) {
    case 'even':
      return Array.from({ length: steps }, (_, i) => low + ((high - low) * i) / (steps - 1));
    case 'log':
      return Array.from({ length: steps }, (_, i) => low * (high / low) ** (i / (steps - 1)));
    case 'AWG':
      return gaugesBetween(low, high);
    case 'E6':
    case 'E12':
    case 'E24':
      return preferredBetween(low, high, scale);
    default:
      return [];
  }
}

/** Values as a field can have them: whole where it counts, each once, rising. */
const tidy = (field: QuantityField, values: readonly number[]): number[] =>
  [...new Set(values.map((value) => (field.integer ? Math.round(value) : value)))].sort((a, b) => a - b);

/**
 * Reads how a field is to be varied.
 *
 * @returns its values, or which entry is wrong and what would do
 */
export function readAxis(rig: Rig, asked: AskedAxis): ReadAxis {
  const { path, scale, steps } = asked;
  const at = quantityAt<string>(rig, path);
  if (!at) return no('path', `${path.slice(0, 60)} is no quantity of this rig`);
  const { field } = at;
  const head = { path, title: fieldName(rig, path), unit: field.unit, isLog: scale === 'log', isWhole: field.integer === true };
  if (scale === 'list') {
    const texts = asked.values
      .split(/,\s+|;/)
      .map((one) => one.trim())
      .filter((one) => one !== '');
    if (texts.length < 2)
      return no('values', `needs at least two values, such as "10 kV, 12 kV"; each must be ${wordRange(field)}`);
    if (texts.length > mostSteps) return no('values', `has ${texts.length} values; at most ${mostSteps}`);
    const values: number[] = [];
    for (const text of texts) {
      const read = valueOf(field, text);
      if (!read.ok) return no('values', `"${text.slice(0, 40)}": ${read.reason}`);
      values.push(read.value);
    }
    return { ok: true, axis: { ...head, typed: texts[0] ?? '', values: tidy(field, values) } };
  }
  if (scale === 'AWG' && field.unit !== 'm') return no('scale', `wire gauges are lengths, and ${head.title} is none`);
  const from = valueOf(field, asked.from);
  if (!from.ok) return no('from', from.reason);
  const to = valueOf(field, asked.to);
  if (!to.ok) return no('to', to.reason);
  const [low, high] = [Math.min(from.value, to.value), Math.max(from.value, to.value)];
  if (low === high) return no('to', 'must differ from where it begins');
  const isRow = scale === 'even' || scale === 'log';
  if (isRow && (!Number.isInteger(steps) || steps < 2 || steps > mostSteps))
    return no('steps', `must be a whole number from 2 to ${mostSteps}`);
  if (scale !== 'even' && low <= 0) return no('from', `must be above 0 for ${scale === 'log' ? 'a logarithmic row' : scale}`);
  const values = tidy(field, spread(scale, low, high, steps));
  if (values.length < 2)
    return no('to', `${values.length === 0 ? 'no' : 'one'} ${scale} value lies between; take a wider range or another scale`);
  if (values.length > mostSteps) return no('to', `more than ${mostSteps} values lie between; take a narrower range`);
  return { ok: true, axis: { ...head, typed: asked.from, values } };
}

/** `store.V0=10 kV..20 kV/50`, `… /50 log`, `charging.R=1k..10k/E12`, `load.d=18 AWG..24 AWG/AWG`, or a list: `switch.d=5.8 mm, 6.2 mm`. */
export function askedAxis(text: string): AskedAxis {
  const [path = '', list = ''] = text.split(/=(.*)/s).map((part) => part.trim());
  const range = /^(.+?)\.\.(.+?)\/\s*(\S+)(?:\s+(log))?$/.exec(list);
  const blank = { path, from: '', to: '', steps: 0, values: '' };
  if (!range) return { ...blank, scale: 'list', values: list };
  const [, from = '', to = '', how = '', log] = range;
  const named = axisScales.find((scale) => scale.toLowerCase() === how.toLowerCase());
  const ends = { ...blank, from: from.trim(), to: to.trim() };
  if (named !== undefined && named !== 'list') return { ...ends, scale: named, steps: 25 };
  return { ...ends, scale: log ? 'log' : 'even', steps: Number(how) };
}

/** An axis as {@link askedAxis} reads it: for an address, or a line of the terminal. */
export function writtenAxis({ path, scale, from, to, steps, values }: AskedAxis): string {
  if (scale === 'list') return `${path}=${values}`;
  const how = scale === 'even' ? String(steps) : scale === 'log' ? `${steps} log` : scale;
  return `${path}=${from}..${to}/${how}`;
}

/** What a field is varied over when nobody said: half to twice what it is, or about a point that has no size. */
export function usualAxis(rig: Rig, path: string): AskedAxis | null {
  const at = quantityAt<string>(rig, path);
  const value = at?.value?.value;
  if (!at || value === undefined) return null;
  const { min, max, integer, unit, open } = at.field;
  const [down, up] = unit === 'K' ? [value - 20, value + 20] : value === 0 ? [0, 1] : [value / 2, value * 2];
  const least = open ? Math.max(min, Math.min(value / 100, min + 1e-12)) : min;
  const [from, to] = [Math.max(least, down), Math.min(max, up)].map((one) => (integer ? Math.max(1, Math.round(one)) : one));
  if (from === undefined || to === undefined || from >= to) return null;
  const steps = integer ? Math.min(41, to - from + 1) : 41;
  const typed = at.value?.text ?? '';
  // In the unit that stands there.
  const written = (one: number) => inSI(() => printAsTyped(one, unit, typed, { digits: 4, trim: true }));
  return { path, scale: 'even', from: written(from), to: written(to), steps, values: '' };
}
