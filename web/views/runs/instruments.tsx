import { useId, useState } from 'react';
import type { InstrumentHead, StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import { failureOf, useAskInstrumentMutation, useListInstrumentsQuery, useMeasureMutation } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';

/** Which instrument the readings of the steps come from: one that reads the store, or the eye. */
export function InstrumentChoice({
  run,
  value,
  onChange,
}: {
  run: StoredRun;
  value: string | null;
  onChange: (id: string | null) => void;
}) {
  const { data = [] } = useListInstrumentsQuery(run.id);
  const offered = data.filter((i) => i.readsStore);
  if (offered.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      Meter
      <Select
        fit="small"
        value={value ?? ''}
        onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
      >
        <option value="">read by eye</option>
        {offered.map((i) => (
          <option key={i.id} value={i.id}>
            {i.title}
            {i.isStandIn ? '' : ` (${i.address})`}
          </option>
        ))}
      </Select>
    </label>
  );
}

/** A line in the instrument's own words. */
function AskLine({ title, asks, onAsk }: { title: string; asks: InstrumentHead['asks']; onAsk: (line: string) => void }) {
  const [line, setLine] = useState('');
  const list = useId();
  return (
    <form
      className="mt-1 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (line.trim() !== '') onAsk(line);
      }}
    >
      <input
        aria-label={`Ask: ${title}`}
        placeholder="*IDN?"
        list={list}
        className="figure min-w-0 flex-1 border border-rule bg-plate px-2 py-0.5 text-14"
        maxLength={200}
        value={line}
        onChange={(event) => setLine(event.target.value)}
      />
      <datalist id={list}>
        {asks.map((line) => (
          <option key={line} value={line.replace(/ <.*/, ' ')} />
        ))}
      </datalist>
      <Button type="submit">Send</Button>
    </form>
  );
}

function OneInstrument({ run, instrument }: { run: StoredRun; instrument: InstrumentHead }) {
  const [measure, { isLoading }] = useMeasureMutation();
  const [ask] = useAskInstrumentMutation();
  const [shown, setShown] = useState<{ text: string; isTrouble: boolean } | null>(null);
  const { id, title, address, unit, asks } = instrument;
  const show = async (get: () => Promise<string>) => {
    try {
      setShown({ text: await get(), isTrouble: false });
    } catch (error) {
      setShown({ text: failureOf(error).message, isTrouble: true });
    }
  };
  const read = async () => {
    const { value } = await measure({ id: run.id, instrument: id }).unwrap();
    return value === null ? 'above its range' : printQuantity(value, unit);
  };
  return (
    <li className="border-t border-rule py-1.5">
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="mr-auto">
          {title} <span className="figure text-12 text-dim">{address}</span>
        </span>
        <Button
          disabled={isLoading}
          onClick={(event) => {
            // The key of the step is not to press this button again.
            event.currentTarget.blur();
            void show(read);
          }}
        >
          Read
        </Button>
      </div>
      <AskLine
        title={title}
        asks={asks}
        onAsk={(line) => void show(async () => (await ask({ id: run.id, instrument: id, line }).unwrap()).reply || 'sent')}
      />
      {shown && (
        <p
          role="status"
          className={`figure mt-1 max-h-24 overflow-y-auto break-all ${shown.isTrouble ? 'border-l-4 border-over pl-2' : 'text-19'}`}
        >
          {shown.text.length > 400 ? `${shown.text.slice(0, 400)} … (${shown.text.length} characters)` : shown.text}
        </p>
      )}
    </li>
  );
}

/** Every instrument that this run may ask, with its address. What is sent from here can neither trigger nor energise. */
export function InstrumentsPanel({ run }: { run: StoredRun }) {
  const { data = [] } = useListInstrumentsQuery(run.id);
  if (data.length === 0) return null;
  return (
    <details className="my-3 text-15">
      <summary className="cursor-pointer font-bold">Instruments, {data.length}</summary>
      <p className="text-13 text-dim">
        {run.rehearsal && 'Stand-ins on loopback, each with its own limits and faults; they answer as real ones would. '}
        One command at a time, of a list for each kind: readings, and how a readout is shown. Nothing that triggers or switches is
        sent.
      </p>
      <ul>
        {data.map((instrument) => (
          <OneInstrument key={instrument.id} run={run} instrument={instrument} />
        ))}
      </ul>
    </details>
  );
}
