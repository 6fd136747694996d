import { addDays, format, isValid, parse } from 'date-fns';
import Papa from 'papaparse';
import { CalendarDays, FileDown, Plus, Printer, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import {
  orders,
  planCalendar,
  planMarkdown,
  planRows,
  planTimes,
  settingTold,
  settingWords,
  variedFields,
  type CampaignPlan,
  type Series,
} from '@vast-surge/core/campaign';
import { printDuration, printPercent } from '@vast-surge/core/quantity';
import { quantityAt, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { Ask, askedFor } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { Select } from '../../ui/select.tsx';
import { readTyped } from '../../ui/typed.ts';
import { useSeries } from '../../workers/studies.ts';
import { readSession, SessionRow } from './fields.tsx';
import { KeepForm } from './keep-form.tsx';
import { moments, nextSaturday, sessionOf, written } from './moments.ts';

const orderWords: { readonly [K in (typeof orders)[number]]: string } = {
  blocks: 'in blocks, by chance: hands change little',
  rising: 'as listed, the lowest first',
  random: 'every shot by chance',
  latin: 'in rounds, each setting once in each',
};

const steps = askedFor('Levels', '1', 50, null, { min: 1, integer: true, optional: false, open: false });
const repeat = askedFor('Shots at each', '1', 100, null, { min: 1, integer: true, optional: false, open: false });
const rest = askedFor('Rest after each shot', 's', 86_400, null, { optional: false, open: false });

interface Form {
  readonly path: string;
  readonly from: string;
  readonly to: string;
  readonly steps: string;
  readonly repeat: string;
  readonly order: string;
  /** For coils, resistors and electrodes to cool. */
  readonly rest: string;
  readonly sessions: readonly string[];
}

/** The form as the address has it; what it does not say is as the rig stands. */
function formIn(params: URLSearchParams, rig: Rig): Form {
  const path = params.get('vary') ?? 'store.V0';
  const stands = variedFields(rig).find((one) => one.path === path)?.text ?? '';
  return {
    path,
    from: params.get('from') ?? stands,
    to: params.get('to') ?? stands,
    steps: params.get('steps') ?? '1',
    repeat: params.get('repeat') ?? '3',
    order: params.get('order') ?? 'rising',
    rest: params.get('rest') ?? '0 s',
    sessions: params.has('session') ? params.getAll('session') : [`${nextSaturday()}/3 h`],
  };
}

/**
 * The form, kept in the address of the page too: a plan is a bookmark, and can be sent. What is typed stands here first, for the address
 * comes after the next key.
 */
function useForm({ rig }: RigDocument): { form: Form; set: (change: Partial<Form>) => void } {
  const [params, setParams] = useSearchParams();
  const [form, setForm] = useState(() => formIn(params, rig));
  const [isTouched, setTouched] = useState(false);
  useEffect(() => {
    if (!isTouched) return;
    const { path, sessions, ...rest } = form;
    const kept = new URLSearchParams({ vary: path, ...rest });
    sessions.forEach((session) => kept.append('session', session));
    setParams(kept, { replace: true });
    // Written after the form alone: the setter is another one with every address.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form, isTouched]);
  const set = (change: Partial<Form>) => {
    setTouched(true);
    setForm((now) => ({ ...now, ...change }));
  };
  return { form, set };
}

type Asked = 'from' | 'to' | 'steps' | 'repeat' | 'rest';
const askedFields = { steps, repeat, rest };

interface Read {
  readonly series: Series | null;
  readonly reasons: Readonly<Partial<Record<Asked, string>>>;
  readonly sessions: readonly (string | null)[];
}

function readForm(document: RigDocument, form: Form): Read {
  const at = quantityAt(document.rig, form.path);
  const reasons: Record<string, string> = {};
  const number = (key: Asked, text: string): number => {
    const field = key === 'from' || key === 'to' ? at?.field : askedFields[key];
    const got = field ? readTyped({ ...field, optional: false }, text) : null;
    if (got?.ok && got.value) return got.value.value;
    reasons[key] = got && !got.ok ? got.reason : 'is empty';
    return NaN;
  };
  const [low, high, n, times, cools] = [
    number('from', form.from),
    number('to', form.to),
    number('steps', form.steps),
    number('repeat', form.repeat),
    number('rest', form.rest),
  ];
  if (n > 1 && low === high) reasons['to'] = 'must differ from the other end, or one level is enough';
  const sessions = form.sessions.map(readSession);
  const wrong = sessions.map((one) => (typeof one === 'string' ? one : null));
  const order = orders.find((one) => one === form.order) ?? 'rising';
  const isRead = Object.keys(reasons).length === 0 && wrong.every((one) => one === null) && sessions.length > 0;
  const levels = Array.from({ length: n || 0 }, (_, i) => (n === 1 ? low : low + ((high - low) * i) / (n - 1)));
  return {
    series: isRead
      ? {
          varied: [{ path: form.path, levels }],
          design: 'factorial',
          replicates: times,
          order,
          seed: 1,
          rest: cools,
          sessions: sessions.filter((one) => typeof one !== 'string'),
        }
      : null,
    reasons,
    sessions: wrong,
  };
}

function Sessions({ plan }: { plan: CampaignPlan }) {
  return plan.schedule.sessions.map(({ session, shots, free }, i) => (
    <section key={session.start + i} aria-label={`Session ${i + 1}`} className="mt-4">
      <h3 className="text-17 font-bold">
        Session {i + 1}: {moments.day(session.start)}, {printDuration(session.seconds)}
      </h3>
      <p className="text-14 text-dim">
        Prepare {printDuration(plan.before)}, hand over {printDuration(plan.after)},{' '}
        {free < 60 ? 'full' : `${printDuration(free)} free`}.
      </p>
      <div className="overflow-x-auto">
        <table className="mt-1 w-full max-w-[46rem] text-15">
          <thead>
            <tr className="text-left text-13 text-dim">
              <th scope="col" className="pr-4 font-normal">
                Strap off
              </th>
              <th scope="col" className="pr-4 font-normal">
                Shot
              </th>
              <th scope="col" className="pr-4 font-normal">
                Set
              </th>
              <th scope="col" className="font-normal">
                Calculated
              </th>
            </tr>
          </thead>
          <tbody>
            {shots.map(({ of, start, changes }, k) => (
              <tr key={start} className="border-t border-rule">
                <td className="figure py-0.5 pr-4">{moments.hour(start)}</td>
                <td className="figure pr-4">{k + 1}</td>
                <td className={`pr-4 ${changes || k === 0 ? 'font-bold' : ''}`}>{settingWords(of)}</td>
                <td className="figure">{settingTold(of)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  ));
}

function Planned({ id, name, series, plan }: { id: string; name: string; series: Series; plan: CampaignPlan }) {
  const { schedule, shots, settings, life } = plan;
  const dropped = schedule.dropped.length;
  const last = schedule.sessions.flatMap((one) => one.shots).at(-1);
  const file = `${fileName(name)}-campaign`;
  return (
    <>
      <p className="text-18">
        <b className="figure text-30">{shots}</b> {shots === 1 ? 'shot' : 'shots'} at {settings.length}{' '}
        {settings.length === 1 ? 'setting' : 'settings'}
        {dropped === 0 && last ? <>: all of them fit, the last is strapped at {moments.hour(last.end)}.</> : '.'}
      </p>
      {dropped > 0 && (
        <p role="alert" className="mt-1 border-l-4 border-warning pl-2">
          <b>
            {dropped} of {shots} shots do not fit
          </b>
          , the last of the order: {[...new Set(schedule.dropped.map(settingWords))].join('; ')}. Add a session, or take fewer.
        </p>
      )}
      {life !== null && <p className="mt-1">Life of the capacitors used up by it: {printPercent(life, 2)}.</p>}
      <KeepForm rigId={id} series={series} plan={plan} />
      <p className="no-print mt-4 flex flex-wrap gap-2">
        <Button onClick={() => download(`${file}.ics`, planCalendar(name, plan, moments), 'text/calendar;charset=utf-8')}>
          <CalendarDays size={16} aria-hidden /> Calendar
        </Button>
        <Button onClick={() => download(`${file}.csv`, Papa.unparse(planRows(plan), { newline: '\n', escapeFormulae: true }))}>
          <FileDown size={16} aria-hidden /> CSV
        </Button>
        <Button onClick={() => download(`${file}.md`, planMarkdown(name, plan, moments))}>
          <FileDown size={16} aria-hidden /> Markdown
        </Button>
        <Button onClick={() => window.print()}>
          <Printer size={16} aria-hidden /> Print
        </Button>
      </p>
      <Sessions plan={plan} />
      <p className="mt-4 text-14 text-dim">{planTimes}</p>
    </>
  );
}

/** What is asked of a series, and the plan that it comes to. */
export function PlanForm({ id, document }: { id: string; document: RigDocument }) {
  const { form, set } = useForm(document);
  const { series, reasons, sessions } = readForm(document, form);
  const answer = useSeries(document, series);
  const at = quantityAt(document.rig, form.path);
  const known = variedFields(document.rig);
  const edge = (key: 'from' | 'to', title: string) =>
    at && (
      <Ask
        field={{ ...at.field, title }}
        text={form[key]}
        reason={reasons[key] ?? null}
        onText={(text) => set({ [key]: text })}
      />
    );
  return (
    <>
      <h2 className="mt-5 text-17 font-bold">Plan a campaign</h2>
      <div className="mt-2 grid grid-cols-1 gap-6 lg:grid-cols-[330px_minmax(0,1fr)]">
        <section aria-label="What is planned" className="no-print text-15">
          <label className="block border-b border-rule py-1">
            Vary
            <Select
              className="mt-1 w-full"
              value={form.path}
              onChange={(event) => {
                const stands = known.find(({ path }) => path === event.target.value)?.text ?? '';
                set({ path: event.target.value, from: stands, to: stands });
              }}
            >
              {known.map(({ path, title }) => (
                <option key={path} value={path}>
                  {title}
                </option>
              ))}
            </Select>
          </label>
          {edge('from', 'From')}
          {edge('to', 'To')}
          <Ask field={steps} text={form.steps} reason={reasons.steps ?? null} onText={(text) => set({ steps: text })} />
          <Ask field={repeat} text={form.repeat} reason={reasons.repeat ?? null} onText={(text) => set({ repeat: text })} />
          <label className="block border-b border-rule py-1">
            Order
            <Select className="mt-1 w-full" value={form.order} onChange={(event) => set({ order: event.target.value })}>
              {orders.map((order) => (
                <option key={order} value={order}>
                  {orderWords[order]}
                </option>
              ))}
            </Select>
          </label>
          <Ask field={rest} text={form.rest} reason={reasons.rest ?? null} onText={(text) => set({ rest: text })} />
          <h3 className="mt-3 font-bold">Sessions</h3>
          {form.sessions.map((text, i) => (
            <SessionRow
              key={i}
              n={i + 1}
              text={text}
              reason={sessions[i] ?? null}
              onText={(next) => set({ sessions: form.sessions.map((one, k) => (k === i ? next : one)) })}
            >
              {form.sessions.length > 1 && (
                <button
                  type="button"
                  aria-label={`Remove session ${i + 1}`}
                  className="min-h-6 min-w-6"
                  onClick={() => set({ sessions: form.sessions.filter((_, k) => k !== i) })}
                >
                  <Trash2 size={16} aria-hidden />
                </button>
              )}
            </SessionRow>
          ))}
          <div className="mt-2">
            <Button
              onClick={() => {
                const { start, length } = sessionOf(form.sessions.at(-1) ?? '');
                const last = parse(start, written, new Date(0));
                const next = isValid(last) ? format(addDays(last, 7), written) : nextSaturday();
                set({ sessions: [...form.sessions, `${next}/${length || '3 h'}`] });
              }}
            >
              <Plus size={16} aria-hidden /> Add a session
            </Button>
          </div>
          <p className="mt-2 text-13 text-dim">The address of this page holds the plan: keep it as a bookmark, or send it.</p>
        </section>
        <section aria-label="Plan" className="min-w-0">
          {!series && <p>Enter what is missing on the left.</p>}
          {series && answer === null && <p role="status">Planning …</p>}
          {series && answer?.ok === false && (
            <p role="alert" className="border-l-4 border-over bg-plate p-3">
              No plan: {answer.reason}.
            </p>
          )}
          {series && answer?.ok === true && !answer.value.ok && (
            <p role="alert" className="border-l-4 border-over bg-plate p-3">
              <b>No plan.</b> {answer.value.reason.charAt(0).toUpperCase()}
              {answer.value.reason.slice(1)}
            </p>
          )}
          {series && answer?.ok === true && answer.value.ok && (
            <Planned id={id} name={document.name} series={series} plan={answer.value.plan} />
          )}
        </section>
      </div>
    </>
  );
}
