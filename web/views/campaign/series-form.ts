import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { designs, orders, variedFields, type AskedStock, type Series } from '@vast-surge/core/campaign';
import type { QuantityField } from '@vast-surge/core/field';
import { isUnitId, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { quantityAt, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { askedFor } from '../../ui/ask.tsx';
import { parseTyped, readTyped } from '../../ui/typed.ts';
import { readSession } from './fields.tsx';
import { nextSaturday } from './moments.ts';

/** A field that is varied, as it is typed. */
export interface VariedText {
  readonly path: string;
  readonly from: string;
  readonly to: string;
  readonly steps: string;
}

/** Something of people's own that a shot takes, as it is typed. */
export interface OwnStockText {
  readonly title: string;
  readonly unit: string;
  readonly each: string;
  readonly have: string;
}

export interface Form {
  readonly varied: readonly VariedText[];
  readonly design: (typeof designs)[number];
  readonly repeat: string;
  readonly order: string;
  /** For coils, resistors and electrodes to cool. */
  readonly rest: string;
  readonly sessions: readonly string[];
  /** What is there of what the rig uses up, by the id of the stock. */
  readonly have: Readonly<Record<string, string>>;
  readonly own: readonly OwnStockText[];
}

/** What separates the parts of one thing in the address: nobody writes it. */
const apart = '|';

const steps = askedFor('Levels', '1', 50, null, { min: 1, integer: true, optional: false, open: false });
const repeat = askedFor('Shots at each', '1', 100, null, { min: 1, integer: true, optional: false, open: false });
const rest = askedFor('Rest after each shot', 's', 86_400, null, { optional: false, open: false });
export const askedFields = { steps, repeat, rest };

/** What a field of the rig stands at, as it was typed. */
export const standsAt = (rig: Rig, path: string): string => variedFields(rig).find((one) => one.path === path)?.text ?? '';

/** The form as the address has it; what it does not say is as the rig stands. */
export function formIn(params: URLSearchParams, rig: Rig): Form {
  const [froms, tos, counts] = [params.getAll('from'), params.getAll('to'), params.getAll('steps')];
  const paths = params.has('vary') ? params.getAll('vary') : ['store.V0'];
  const parts = (text: string) => text.split(apart);
  return {
    varied: paths.map((path, i) => {
      const stands = standsAt(rig, path);
      return { path, from: froms[i] ?? stands, to: tos[i] ?? stands, steps: counts[i] ?? '1' };
    }),
    design: designs.find((one) => one === params.get('design')) ?? 'factorial',
    repeat: params.get('repeat') ?? '3',
    order: params.get('order') ?? 'rising',
    rest: params.get('rest') ?? '0 s',
    sessions: params.has('session') ? params.getAll('session') : [`${nextSaturday()}/3 h`],
    have: Object.fromEntries(
      params.getAll('have').map((text) => {
        const [id = '', amount = ''] = parts(text);
        return [id, amount];
      }),
    ),
    own: params.getAll('stock').map((text) => {
      const [title = '', unit = '', each = '', have = ''] = parts(text);
      return { title, unit, each, have };
    }),
  };
}

export function addressOf({ varied, sessions, have, own, ...rest }: Form): URLSearchParams {
  const kept = new URLSearchParams(rest);
  for (const { path, from, to, steps } of varied) {
    kept.append('vary', path);
    kept.append('from', from);
    kept.append('to', to);
    kept.append('steps', steps);
  }
  for (const session of sessions) kept.append('session', session);
  for (const [id, amount] of Object.entries(have)) kept.append('have', [id, amount].join(apart));
  for (const { title, unit, each, have: there } of own) kept.append('stock', [title, unit, each, there].join(apart));
  return kept;
}

/**
 * The form, kept in the address of the page too: a plan is a bookmark, and can be sent. What is typed stands here first, for the address
 * comes after the next key.
 */
export function useSeriesForm({ rig }: RigDocument): { form: Form; set: (change: Partial<Form>) => void } {
  const [params, setParams] = useSearchParams();
  const [form, setForm] = useState(() => formIn(params, rig));
  const [isTouched, setTouched] = useState(false);
  useEffect(() => {
    if (!isTouched) return;
    setParams(addressOf(form), { replace: true });
    // Written after the form alone: the setter is another one with every address.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form, isTouched]);
  const set = (change: Partial<Form>) => {
    setTouched(true);
    setForm((now) => ({ ...now, ...change }));
  };
  return { form, set };
}

/** An amount with its unit, or a bare number where the unit is a word: the number, or what is wrong. */
export function readAmount(text: string, unit: string): number | string {
  const known: UnitId = isUnitId(unit) ? unit : '1';
  const read = parseTyped(text.trim(), known);
  if (!read.ok) return wordQuantityIssue(read.issue);
  const { value } = read.quantity;
  return value >= 0 && value <= 1e12 ? value : 'must be an amount from 0 to 1e12';
}

type Numbers = 'repeat' | 'rest';
type Edge = 'from' | 'to' | 'steps';

/** What was read of the form: the series, or what is wrong with each field. */
export interface Read {
  readonly series: Series | null;
  readonly reasons: Readonly<Partial<Record<Numbers, string>>>;
  readonly varied: readonly Readonly<Partial<Record<Edge, string>>>[];
  readonly sessions: readonly (string | null)[];
  readonly have: Readonly<Record<string, string>>;
  readonly own: readonly (string | null)[];
}

/** A number as its field reads it; what is wrong is put down under its name. */
function numberIn(field: QuantityField | undefined, text: string, key: string, reasons: Record<string, string>): number {
  const got = field ? readTyped({ ...field, optional: false }, text) : null;
  if (got?.ok && got.value) return got.value.value;
  reasons[key] = got && !got.ok ? got.reason : 'is empty';
  return NaN;
}

function readVaried(rig: Rig, { path, from, to, steps: count }: VariedText, design: Form['design']) {
  const field = quantityAt<string>(rig, path)?.field;
  const reasons: Partial<Record<Edge, string>> = {};
  const [low, high] = [numberIn(field, from, 'from', reasons), numberIn(field, to, 'to', reasons)];
  // A central composite design has levels of its own, between these ends.
  const n = design === 'central-composite' ? 2 : numberIn(steps, count, 'steps', reasons);
  if (n > 1 && low === high) reasons.to = 'must differ from the other end, or one level is enough';
  const levels = Array.from({ length: n || 0 }, (_, i) => (n === 1 ? low : low + ((high - low) * i) / (n - 1)));
  return { varied: { path, levels, typed: from }, reasons };
}

function readOwn({ title, unit, each, have }: OwnStockText): AskedStock | string {
  if (title.trim() === '') return 'Enter what it is.';
  const takes = readAmount(each, unit);
  if (typeof takes === 'string') return `What each shot takes ${takes}.`;
  const there = have.trim() === '' ? null : readAmount(have, unit);
  if (typeof there === 'string') return `What is there ${there}.`;
  return { title: title.trim(), unit: unit.trim(), each: takes, onHand: there };
}

/** What people count of what the rig uses up: amounts by stock, and what is wrong with each. */
function readHave(have: Form['have'], unitOf: (id: string) => string) {
  const read = Object.entries(have).map(([id, text]) => ({
    id,
    amount: text.trim() === '' ? null : readAmount(text, unitOf(id)),
  }));
  return {
    asked: read.flatMap(({ id, amount }) => (typeof amount === 'number' ? [{ id, onHand: amount }] : [])),
    reasons: Object.fromEntries(read.flatMap(({ id, amount }) => (typeof amount === 'string' ? [[id, amount]] : []))),
  };
}

/** Reads the form. @param unitOf the unit of a stock of the rig, by its id */
export function readForm({ rig }: RigDocument, form: Form, unitOf: (id: string) => string): Read {
  const reasons: Partial<Record<Numbers, string>> = {};
  const [replicates, cools] = [numberIn(repeat, form.repeat, 'repeat', reasons), numberIn(rest, form.rest, 'rest', reasons)];
  const varied = form.varied.map((one) => readVaried(rig, one, form.design));
  const sessions = form.sessions.map(readSession);
  const have = readHave(form.have, unitOf);
  const own = form.own.map(readOwn);
  const isRead =
    [reasons, have.reasons, ...varied.map((one) => one.reasons)].every((one) => Object.keys(one).length === 0) &&
    sessions.every((one) => typeof one !== 'string') &&
    own.every((one) => typeof one !== 'string') &&
    sessions.length > 0;
  const stocks = [...have.asked, ...own.filter((one) => typeof one !== 'string')];
  return {
    series: isRead
      ? {
          varied: varied.map((one) => one.varied),
          design: form.design,
          replicates,
          order: form.design === 'next-best' ? 'as-taught' : (orders.find((one) => one === form.order) ?? 'rising'),
          seed: 1,
          rest: cools,
          sessions: sessions.filter((one) => typeof one !== 'string'),
          stocks,
        }
      : null,
    reasons,
    varied: varied.map((one) => one.reasons),
    sessions: sessions.map((one) => (typeof one === 'string' ? one : null)),
    have: have.reasons,
    own: own.map((one) => (typeof one === 'string' ? one : null)),
  };
}
