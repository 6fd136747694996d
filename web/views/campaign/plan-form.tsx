import { Plus, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { designs, orders, takesOf } from '@vast-surge/core/campaign';
import { evaluateRig } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { Ask } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { useSeries } from '../../workers/studies.ts';
import { useBookings } from './bookings.ts';
import { SessionRow } from './fields.tsx';
import { Planned } from './planned.tsx';
import { askedFields, readForm, useSeriesForm, type Form, type Read } from './series-form.ts';
import { StockRows } from './stock-rows.tsx';
import { VariedRows } from './varied-rows.tsx';

const orderWords: { readonly [K in Exclude<(typeof orders)[number], 'as-taught'>]: string } = {
  blocks: 'in blocks, by chance: hands change little',
  rising: 'as listed, the lowest first',
  random: 'every shot by chance',
  latin: 'in rounds, each setting once in each',
};

const designWords: { readonly [K in (typeof designs)[number]]: string } = {
  factorial: 'every combination of the levels',
  'central-composite': 'central composite: corners, axes, middle',
  'next-best': 'each shot where it teaches the most',
};

interface Part {
  readonly form: Form;
  readonly read: Read;
  readonly set: (change: Partial<Form>) => void;
}

/** How the settings are laid out, how often, and in which order. */
function Layout({ form, read, set }: Part) {
  return (
    <>
      <label className="block border-b border-rule py-1">
        Settings
        <Select
          className="mt-1 w-full"
          value={form.design}
          onChange={(event) => set({ design: designs.find((one) => one === event.target.value) ?? 'factorial' })}
        >
          {designs.map((design) => (
            <option key={design} value={design} disabled={design === 'central-composite' && form.varied.length < 2}>
              {designWords[design]}
            </option>
          ))}
        </Select>
      </label>
      <Ask
        field={
          form.design === 'next-best'
            ? { ...askedFields.repeat, title: 'Shots for each setting, on average' }
            : askedFields.repeat
        }
        text={form.repeat}
        reason={read.reasons.repeat ?? null}
        onText={(text) => set({ repeat: text })}
      />
      {form.design !== 'next-best' && (
        <label className="block border-b border-rule py-1">
          Order
          <Select className="mt-1 w-full" value={form.order} onChange={(event) => set({ order: event.target.value })}>
            {orders.flatMap((order) =>
              order === 'as-taught' ? (
                []
              ) : (
                <option key={order} value={order}>
                  {orderWords[order]}
                </option>
              ),
            )}
          </Select>
        </label>
      )}
      <Ask field={askedFields.rest} text={form.rest} reason={read.reasons.rest ?? null} onText={(text) => set({ rest: text })} />
    </>
  );
}

function Sessions({ form: { sessions }, read, set }: Part) {
  const { against, another } = useBookings();
  return (
    <>
      <h3 className="mt-3 font-bold">Sessions</h3>
      {sessions.map((text, i) => (
        <SessionRow
          key={i}
          n={i + 1}
          text={text}
          reason={read.sessions[i] ?? null}
          note={against(text)}
          onText={(next) => set({ sessions: sessions.map((one, k) => (k === i ? next : one)) })}
        >
          {sessions.length > 1 && (
            <button
              type="button"
              aria-label={`Remove session ${i + 1}`}
              className="min-h-6 min-w-6"
              onClick={() => set({ sessions: sessions.filter((_, k) => k !== i) })}
            >
              <Trash2 size={16} aria-hidden />
            </button>
          )}
        </SessionRow>
      ))}
      <Button className="mt-2" onClick={() => set({ sessions: [...sessions, another(sessions)] })}>
        <Plus size={16} aria-hidden /> Add a session
      </Button>
    </>
  );
}

const Refused = ({ reason }: { reason: string }) => (
  <p role="alert" className="border-l-4 border-over bg-plate p-3">
    <b>No plan.</b> {reason.charAt(0).toUpperCase()}
    {reason.slice(1)}
  </p>
);

/** What is asked of a series, and the plan that it comes to. */
export function PlanForm({ id, document }: { id: string; document: RigDocument }) {
  const { form, set } = useSeriesForm(document);
  const takes = useMemo(() => takesOf(evaluateRig(document.rig)), [document.rig]);
  const read = readForm(document, form, (stock) => takes.find((one) => one.id === stock)?.unit ?? '1');
  const { series } = read;
  const answer = useSeries(document, series);
  const part = { form, read, set };
  return (
    <>
      <h2 className="mt-5 text-17 font-bold">Plan a campaign</h2>
      <div className="mt-2 grid grid-cols-1 gap-6 lg:grid-cols-[330px_minmax(0,1fr)]">
        <section aria-label="What is planned" className="no-print text-15">
          <VariedRows rig={document.rig} {...part} />
          <Layout {...part} />
          <Sessions {...part} />
          <StockRows takes={takes} {...part} />
          <p className="mt-2 text-13 text-dim">The address of this page holds the plan: keep it as a bookmark, or send it.</p>
        </section>
        <section aria-label="Plan" className="min-w-0">
          {!series && <p>Enter what is missing on the left.</p>}
          {series && answer === null && <p role="status">Planning …</p>}
          {series && answer?.ok === false && <Refused reason={`${answer.reason}.`} />}
          {series && answer?.ok === true && !answer.value.ok && <Refused reason={answer.value.reason} />}
          {series && answer?.ok === true && answer.value.ok && (
            <Planned id={id} name={document.name} series={series} plan={answer.value.plan} />
          )}
        </section>
      </div>
    </>
  );
}
