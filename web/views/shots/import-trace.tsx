import { useState } from 'react';
import type { AddFile, TraceContent } from '@vast-surge/contract';
import { mostChannels, type KeptRecord, type ScopeChannel, type ScopeLayout } from '@vast-surge/core/shot';
import { Button } from '../../ui/button.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { scopeFileWorker } from '../../workers/scope-file.ts';
import type { Answered, ScopePreview } from '../../workers/scope-file.calculations.ts';
import { toBase64 } from '../../app/base64.ts';
import { Select } from '../../ui/select.tsx';
import { ColumnHeads } from '../../ui/column-heads.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const remembered = 'vast-surge.scope-layouts';

/** Layouts that were confirmed on this device, by their signature; the last fifty. */
function layouts(): Record<string, ScopeLayout> {
  try {
    return JSON.parse(localStorage.getItem(remembered) ?? '{}') as Record<string, ScopeLayout>;
  } catch {
    return {};
  }
}

function remember(signature: string, layout: ScopeLayout): void {
  const { [signature]: _old, ...others } = layouts();
  try {
    localStorage.setItem(
      remembered,
      JSON.stringify(Object.fromEntries([...Object.entries(others).slice(-49), [signature, layout]])),
    );
  } catch {
    // It is asked again the next time.
  }
}

/** What a file looks like, with the layout that was confirmed for such a file before. */
export async function previewOf(file: File): Promise<ScopePreview & { readonly isKnown: boolean }> {
  const answer = await scopeFileWorker.call<Answered<ScopePreview>>(async (worker) => worker.preview(file));
  if (!answer.ok) throw new Error(answer.reason);
  const known = layouts()[answer.value.signature];
  return { ...answer.value, layout: known ?? answer.value.layout, isKnown: known !== undefined };
}

/** A record as it is sent. */
export const fileOf = (name: string, { samples, said, channels }: KeptRecord): AddFile => ({
  id: crypto.randomUUID(),
  kind: 'trace',
  name: name.slice(0, 120),
  content: {
    samples,
    said: said.map((s) => s.slice(0, 400)),
    channels: channels.map(({ name: channel, quantity, t, y, meanT, meanY }) => ({
      name: channel.slice(0, 60),
      quantity,
      t: toBase64(t),
      y: toBase64(y),
      meanT: toBase64(meanT),
      meanY: toBase64(meanY),
    })),
  } satisfies TraceContent,
});

interface Props {
  readonly file: File;
  readonly preview: ScopePreview & { readonly isKnown: boolean };
  readonly onTaken: (record: KeptRecord) => void;
  readonly onClose: () => void;
}

const number = (text: string): number | null => {
  const value = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(value) ? value : null;
};

/** A number that stays as it is typed until it can be read. */
function NumberField({ label, value, onValue }: { label: string; value: number; onValue: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  const bad = number(text) === null;
  return (
    <input
      aria-label={label}
      aria-invalid={bad}
      title={bad ? `${label} must be a number` : label}
      className={`figure w-24 border bg-plate px-1 py-0.5 ${bad ? 'border-over' : 'border-rule'}`}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        const read = number(event.target.value);
        if (read !== null) onValue(read);
      }}
    />
  );
}

const timeUnits = [
  [1, 's'],
  [1e-3, 'ms'],
  [1e-6, 'µs'],
  [1e-9, 'ns'],
] as const;

function TimeUnit({ layout, set }: { layout: ScopeLayout; set: (more: Partial<ScopeLayout>) => void }) {
  if (layout.timeColumn === null)
    return (
      <label className="flex items-center gap-2">
        Seconds a sample
        <NumberField label="Seconds a sample" value={layout.timeUnit} onValue={(timeUnit) => set({ timeUnit })} />
      </label>
    );
  return (
    <label className="flex items-center gap-2">
      in
      <Select
        aria-label="Unit of the time"
        value={layout.timeUnit}
        onChange={(event) => set({ timeUnit: Number(event.target.value) })}
      >
        {timeUnits.map(([factor, unit]) => (
          <option key={unit} value={factor}>
            {unit}
          </option>
        ))}
      </Select>
    </label>
  );
}

/** How the lines of the file are read: where the samples begin, and what the time is. */
function Lines({ layout, set }: { layout: ScopeLayout; set: (more: Partial<ScopeLayout>) => void }) {
  return (
    <div className="mt-3 flex flex-wrap items-center gap-4">
      <label className="flex items-center gap-2">
        Lines before the samples
        <NumberField
          label="Lines before the samples"
          value={layout.headerLines}
          onValue={(headerLines) => set({ headerLines })}
        />
      </label>
      <label className="flex items-center gap-2">
        Time in column
        <Select
          value={layout.timeColumn ?? ''}
          onChange={(event) => set({ timeColumn: event.target.value === '' ? null : Number(event.target.value) })}
        >
          <option value="">none: even samples</option>
          {Array.from({ length: 8 }, (_, i) => (
            <option key={i} value={i}>
              {i + 1}
            </option>
          ))}
        </Select>
      </label>
      <TimeUnit layout={layout} set={set} />
      <label className="flex items-center gap-2">
        Decimal
        <Select value={layout.decimal} onChange={(event) => set({ decimal: event.target.value === ',' ? ',' : '.' })}>
          <option value=".">point</option>
          <option value=",">comma</option>
        </Select>
      </label>
    </div>
  );
}

function QuantityOf({ channel, set }: { channel: ScopeChannel; set: (more: Partial<ScopeChannel>) => void }) {
  return (
    <Select
      aria-label={`Quantity of column ${channel.column + 1}`}
      fit="small"
      value={channel.quantity}
      onChange={(event) => set({ quantity: event.target.value === 'current' ? 'current' : 'voltage' })}
    >
      <option value="voltage">voltage, V</option>
      <option value="current">current, A</option>
    </Select>
  );
}

/** A column of the file: what it is, and what one of its numbers stands for. */
function ColumnRow({
  channel,
  set,
  onLeave,
}: {
  channel: ScopeChannel;
  set: (more: Partial<ScopeChannel>) => void;
  onLeave: (() => void) | null;
}) {
  return (
    <tr className="border-t border-rule">
      <td className="figure py-1 pr-3">{channel.column + 1}</td>
      <td className="py-1 pr-3">
        <input
          aria-label={`Name of column ${channel.column + 1}`}
          className="w-40 border border-rule bg-plate px-1 py-0.5"
          maxLength={40}
          value={channel.name}
          onChange={(event) => set({ name: event.target.value })}
        />
      </td>
      <td className="py-1 pr-3">
        <QuantityOf channel={channel} set={set} />
      </td>
      <td className="py-1 pr-3">
        <NumberField
          label={`Factor of column ${channel.column + 1}`}
          value={channel.factor}
          onValue={(factor) => set({ factor })}
        />
      </td>
      <td className="py-1 pr-3">
        <NumberField
          label={`Offset of column ${channel.column + 1}`}
          value={channel.offset}
          onValue={(offset) => set({ offset })}
        />
      </td>
      <td className="py-1">
        {onLeave && (
          <Button look="quiet" onClick={onLeave}>
            leave out
          </Button>
        )}
      </td>
    </tr>
  );
}

/** The columns of the file that are taken. */
function Columns({ layout, setLayout }: { layout: ScopeLayout; setLayout: (layout: ScopeLayout) => void }) {
  const setChannel = (i: number, more: Partial<ScopeChannel>) =>
    setLayout({ ...layout, channels: layout.channels.map((c, k) => (k === i ? { ...c, ...more } : c)) });
  return (
    <table className="mt-3 w-full text-left">
      <ColumnHeads titles={['Column', 'Name', 'Is a', 'V or A for one (unit × probe)', 'then add', '']} look="py-1 pr-3" />
      <tbody>
        {layout.channels.map((c, i) => (
          <ColumnRow
            key={c.column}
            channel={c}
            set={(more) => setChannel(i, more)}
            onLeave={
              layout.channels.length > 1
                ? () => setLayout({ ...layout, channels: layout.channels.filter((_, k) => k !== i) })
                : null
            }
          />
        ))}
      </tbody>
    </table>
  );
}

/** Asks once how a file of a scope is laid out: what is the time, which columns, what probe. */
export function ImportTrace({ file, preview, onTaken, onClose }: Props) {
  const [layout, setLayout] = useState(preview.layout);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async () => {
    setBusy(true);
    setTrouble(null);
    try {
      const answer = await scopeFileWorker.call<Answered<KeptRecord>>(async (worker) => worker.read(file, layout), 600_000);
      if (!answer.ok) return setTrouble(`${file.name} was not taken: ${answer.reason}.`);
      remember(preview.signature, layout);
      onTaken(answer.value);
    } catch (error) {
      setTrouble(`${file.name} was not taken: ${error instanceof Error ? error.message : 'no reason given'}.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Sheet
      title={`What is in ${file.name}`}
      says={
        preview.isKnown
          ? 'A file like this was read before: the same layout is used unless changed here.'
          : 'This is asked once; files like this are recognised from then on.'
      }
      onClose={onClose}
      width="w-[min(52rem,96vw)]"
    >
      <pre
        tabIndex={0}
        aria-label="First lines"
        className="figure mt-3 max-h-36 overflow-auto border border-rule bg-ground p-2 text-13"
      >
        {preview.lines.map((line) => line.slice(0, 200)).join('\n')}
      </pre>
      <Lines layout={layout} set={(more) => setLayout({ ...layout, ...more })} />
      <Columns layout={layout} setLayout={setLayout} />
      <p className="mt-1 text-13 text-dim">At most {mostChannels} columns at once.</p>
      <TroubleLine className="mt-2">{trouble}</TroubleLine>
      <div className="mt-4 flex items-center gap-3">
        <Button look="primary" disabled={isBusy} onClick={() => void take()}>
          {isBusy ? 'Reading …' : 'Import'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}
