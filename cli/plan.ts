import { format, isValid, parse } from 'date-fns';
import Papa from 'papaparse';
import {
  designs,
  orders,
  planCalendar,
  planMarkdown,
  planRows,
  planSeries,
  takesOf,
  type AskedStock,
  type Moments,
  type Session,
  type Takes,
  type Varied,
} from '@vast-surge/core/campaign';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { isUnitId, parseQuantity, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { quantityAt, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { UsageError } from './usage.ts';

export interface PlanOptions {
  readonly vary: readonly string[];
  readonly session: readonly string[];
  readonly repeat: string;
  readonly design: string;
  readonly order: string;
  readonly seed: string;
  readonly rest: string;
  readonly have: readonly string[];
  readonly stock: readonly string[];
  readonly format: string;
}

const formats = ['markdown', 'csv', 'ics', 'json'] as const;

export function oneOf<T extends string>(option: string, value: string, all: readonly T[]): T {
  const found = all.find((one) => one === value);
  if (found === undefined) throw new UsageError(`--${option} is "${value.slice(0, 40)}"; it must be one of ${all.join(', ')}`);
  return found;
}

export function whole(option: string, value: string, least: number, most: number): number {
  const n = Number(value);
  if (!Number.isInteger(n) || n < least || n > most)
    throw new UsageError(`--${option} is "${value.slice(0, 40)}"; it must be a whole number from ${least} to ${most}`);
  return n;
}

const mostLevels = 50;
const fixedOrders = orders.filter((one) => one !== 'as-taught');

/** `store.V0=30 V..37 V/5`, or `switch.d=5.8 mm, 6.2 mm, 6.6 mm`. */
function readVaried(rig: Rig, text: string): Varied {
  const [path = '', list = ''] = text.split(/=(.*)/s).map((part) => part.trim());
  const at = quantityAt(rig, path);
  if (!at)
    throw new UsageError(
      `--vary ${path.slice(0, 60)}: is no quantity of this rig; a field is named as in "store.V0=30 V..37 V/5"`,
    );
  const value = (one: string): number => {
    const read = parseQuantity(one.trim(), at.field.unit);
    if (!read.ok) throw new UsageError(`--vary ${path}, "${one.trim().slice(0, 40)}": ${wordQuantityIssue(read.issue)}`);
    return read.quantity.value;
  };
  const range = /^(.+?)\.\.(.+?)\/\s*(\d+)$/.exec(list);
  const typed = range?.[1] ?? list.split(/,\s+|;/)[0] ?? '';
  if (!range) return { path, typed, levels: list.split(/,\s+|;/).map(value) };
  const [low, high] = [value(range[1] ?? ''), value(range[2] ?? '')];
  const steps = whole('vary', range[3] ?? '', 2, mostLevels);
  return { path, typed, levels: Array.from({ length: steps }, (_, i) => low + ((high - low) * i) / (steps - 1)) };
}

/** `2026-12-05 10:00 3h`, and behind a stroke who is there: `/ IW holds the key, TO reads`. */
export function readSession(text: string): Session & { readonly people: string } {
  const [hoursText = '', people = ''] = text.split(/\/(.*)/s).map((part) => part.trim());
  const [, day = '', hours = ''] = /^(\d{4}-\d\d-\d\d[ T]\d\d:\d\d)\s+(.+)$/.exec(hoursText) ?? [];
  const start = parse(day.replace('T', ' '), 'yyyy-MM-dd HH:mm', new Date(0));
  const length = parseQuantity(hours, 's');
  if (!isValid(start) || !length.ok || !(length.quantity.value > 0) || length.quantity.value > 86_400)
    throw new UsageError(
      `--session is "${text.slice(0, 40)}"; it must be a start and a length up to a day, as in "2026-12-05 10:00 3h"`,
    );
  return { start: start.getTime(), seconds: length.quantity.value, people };
}

/** `10 min`. */
function readRest(text: string): number {
  const read = parseQuantity(text, 's');
  if (!read.ok || read.quantity.value < 0 || read.quantity.value > 86_400)
    throw new UsageError(`--rest is "${text.slice(0, 40)}"; it must be a time from 0 s to a day, as in "10 min"`);
  return read.quantity.value;
}

export const moments: Moments = { day: (ms) => format(ms, 'yyyy-MM-dd HH:mm'), hour: (ms) => format(ms, 'HH:mm') };

/** An amount with its unit, from nought on. */
function amount(option: string, text: string, unit: UnitId): number {
  const read = parseQuantity(text, unit);
  if (!read.ok) throw new UsageError(`--${option}, "${text.slice(0, 40)}": ${wordQuantityIssue(read.issue)}`);
  const { value } = read.quantity;
  if (!(value >= 0 && value <= 1e12))
    throw new UsageError(`--${option}, "${text.slice(0, 40)}": must be an amount from 0 to 1e12`);
  return value;
}

/** What is there of what the rig uses up: `load.wire=2 m`. */
function readHave(takes: readonly Takes[], text: string): AskedStock {
  const [id = '', there = ''] = text.split(/=(.*)/s).map((part) => part.trim());
  const known = takes.find((one) => one.id === id);
  if (!known) {
    const ids = takes.map((one) => one.id).join(', ');
    throw new UsageError(
      `--have ${id.slice(0, 60)}: is not used up by this rig${ids === '' ? ', which uses up nothing' : `; it uses up ${ids}`}`,
    );
  }
  return { id, onHand: amount(`have ${id}`, there, isUnitId(known.unit) ? known.unit : '1') };
}

/** Something of one's own that a shot takes: `Foil=1 of 20 sheets`. */
function readStock(text: string): AskedStock {
  const [, title = '', each = '', there = '', unit = ''] = /^([^=]+)=\s*(\S+)\s+of\s+(\S+)(?:\s+(.+))?$/.exec(text.trim()) ?? [];
  if (title.trim() === '')
    throw new UsageError(
      `--stock is "${text.slice(0, 60)}"; it must say what a shot takes of what is there, as in "Foil=1 of 20 sheets"`,
    );
  return {
    title: title.trim(),
    unit: unit.trim().slice(0, 16),
    each: amount('stock', each, '1'),
    onHand: amount('stock', there, '1'),
  };
}

/** A series of shots, planned into the hours that people have. @throws UsageError naming the option */
export function planText(document: RigDocument, options: PlanOptions): string {
  if (options.vary.length === 0) throw new UsageError('--vary: name at least one field, as in --vary "store.V0=30 V..37 V/5"');
  if (options.session.length === 0) throw new UsageError('--session: name at least one, as in --session "2026-12-05 10:00 3h"');
  const as = oneOf('format', options.format, formats);
  const takes = options.have.length === 0 ? [] : takesOf(evaluateRig(document.rig));
  const answer = planSeries(document, {
    varied: options.vary.map((text) => readVaried(document.rig, text)),
    design: oneOf('design', options.design, designs),
    replicates: whole('repeat', options.repeat, 1, 100),
    order: options.design === 'next-best' ? 'as-taught' : oneOf('order', options.order, fixedOrders),
    seed: whole('seed', options.seed, 1, 1e9),
    rest: readRest(options.rest),
    sessions: options.session.map(readSession),
    stocks: [...options.have.map((text) => readHave(takes, text)), ...options.stock.map(readStock)],
  });
  if (!answer.ok)
    throw new UsageError(`--${answer.field.includes('.') ? `vary ${answer.field}` : answer.field}: ${answer.reason}`);
  const { plan } = answer;
  if (as === 'csv') return Papa.unparse(planRows(plan), { newline: '\n', escapeFormulae: true });
  if (as === 'ics') return planCalendar(document.name, plan, moments).trimEnd();
  if (as === 'markdown') return planMarkdown(document.name, plan, moments);
  return JSON.stringify(
    {
      shots: plan.shots,
      life: plan.life,
      stocks: plan.stocks.map(({ stock, needed, lastsFor }) => ({ ...stock, needed, lastsFor })),
      sessions: plan.schedule.sessions.map(({ session, shots, free }) => ({
        start: new Date(session.start).toISOString(),
        seconds: session.seconds,
        free,
        shots: shots.map(({ of, start, end }) => ({
          start: new Date(start).toISOString(),
          end: new Date(end).toISOString(),
          set: Object.fromEntries(of.values.map(({ path, text }) => [path, text])),
          predicted: of.predicted,
        })),
      })),
      dropped: plan.schedule.dropped.map((of) => Object.fromEntries(of.values.map(({ path, text }) => [path, text]))),
    },
    null,
    2,
  );
}
