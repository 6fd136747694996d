import { format, isValid, parse } from 'date-fns';
import Papa from 'papaparse';
import {
  designs,
  orders,
  planCalendar,
  planMarkdown,
  planRows,
  planSeries,
  type Moments,
  type Session,
} from '@vast-surge/core/campaign';
import { parseQuantity, wordQuantityIssue } from '@vast-surge/core/quantity';
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
  readonly format: string;
}

const formats = ['markdown', 'csv', 'ics', 'json'] as const;

function oneOf<T extends string>(option: string, value: string, all: readonly T[]): T {
  const found = all.find((one) => one === value);
  if (found === undefined) throw new UsageError(`--${option} is "${value.slice(0, 40)}"; it must be one of ${all.join(', ')}`);
  return found;
}

function whole(option: string, value: string, least: number, most: number): number {
  const n = Number(value);
  if (!Number.isInteger(n) || n < least || n > most)
    throw new UsageError(`--${option} is "${value.slice(0, 40)}"; it must be a whole number from ${least} to ${most}`);
  return n;
}

const mostLevels = 50;

/** `store.V0=30 V..37 V/5`, or `switch.d=5.8 mm, 6.2 mm, 6.6 mm`. */
function readVaried(rig: Rig, text: string): { path: string; levels: number[] } {
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
  if (!range) return { path, levels: list.split(/,\s+|;/).map(value) };
  const [low, high] = [value(range[1] ?? ''), value(range[2] ?? '')];
  const steps = whole('vary', range[3] ?? '', 2, mostLevels);
  return { path, levels: Array.from({ length: steps }, (_, i) => low + ((high - low) * i) / (steps - 1)) };
}

/** `2026-12-05 10:00 3h`. */
function readSession(text: string): Session {
  const [, day = '', hours = ''] = /^(\d{4}-\d\d-\d\d[ T]\d\d:\d\d)\s+(.+)$/.exec(text.trim()) ?? [];
  const start = parse(day.replace('T', ' '), 'yyyy-MM-dd HH:mm', new Date(0));
  const length = parseQuantity(hours, 's');
  if (!isValid(start) || !length.ok || !(length.quantity.value > 0) || length.quantity.value > 86_400)
    throw new UsageError(
      `--session is "${text.slice(0, 40)}"; it must be a start and a length up to a day, as in "2026-12-05 10:00 3h"`,
    );
  return { start: start.getTime(), seconds: length.quantity.value };
}

/** `10 min`. */
function readRest(text: string): number {
  const read = parseQuantity(text, 's');
  if (!read.ok || read.quantity.value < 0 || read.quantity.value > 86_400)
    throw new UsageError(`--rest is "${text.slice(0, 40)}"; it must be a time from 0 s to a day, as in "10 min"`);
  return read.quantity.value;
}

const moments: Moments = { day: (ms) => format(ms, 'yyyy-MM-dd HH:mm'), hour: (ms) => format(ms, 'HH:mm') };

/** A series of shots, planned into the hours that people have. @throws UsageError naming the option */
export function planText(document: RigDocument, options: PlanOptions): string {
  if (options.vary.length === 0) throw new UsageError('--vary: name at least one field, as in --vary "store.V0=30 V..37 V/5"');
  if (options.session.length === 0) throw new UsageError('--session: name at least one, as in --session "2026-12-05 10:00 3h"');
  const as = oneOf('format', options.format, formats);
  const answer = planSeries(document, {
    varied: options.vary.map((text) => readVaried(document.rig, text)),
    design: oneOf('design', options.design, designs),
    replicates: whole('repeat', options.repeat, 1, 100),
    order: oneOf('order', options.order, orders),
    seed: whole('seed', options.seed, 1, 1e9),
    rest: readRest(options.rest),
    sessions: options.session.map(readSession),
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
