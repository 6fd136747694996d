import { Plus, Trash2 } from 'lucide-react';
import { printStock, type Takes } from '@vast-surge/core/campaign';
import { Button } from '../../ui/button.tsx';
import { TextLine } from './fields.tsx';
import type { Form, OwnStockText, Read } from './series-form.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const Reason = ({ text }: { text: string | null | undefined }) =>
  text == null ? null : (
    <TroubleLine look="words" className="text-13">
      {text}
    </TroubleLine>
  );

/** What a shot of the rig takes, with how much of it is there. */
function OfRig({ takes, form, read, set }: { takes: readonly Takes[]; form: Form; read: Read; set: (c: Partial<Form>) => void }) {
  return takes.map(({ id, title, unit, each, lasts }) => (
    <div key={id} className="border-b border-rule py-1">
      <label className="grid grid-cols-[1fr_7.5rem] items-baseline gap-2">
        <span>
          {title}
          <span className="block text-13 text-dim">
            {printStock(Number(each.toPrecision(3)), unit)} a shot
            {lasts !== null && `; new: ${printStock(lasts, unit)}`}
          </span>
        </span>
        <input
          className={`figure border bg-plate px-2 py-0.5 ${read.have[id] === undefined ? 'border-rule' : 'border-over'}`}
          aria-label={`${title}, what is there`}
          placeholder={lasts === null ? 'not counted' : 'as new'}
          value={form.have[id] ?? ''}
          onChange={(event) => set({ have: { ...form.have, [id]: event.target.value } })}
        />
      </label>
      <Reason text={read.have[id] === undefined ? null : `What is there: ${read.have[id]}.`} />
    </div>
  ));
}

function OwnRow({
  n,
  one,
  reason,
  onChange,
  onRemove,
}: {
  n: number;
  one: OwnStockText;
  reason: string | null;
  onChange: (change: Partial<OwnStockText>) => void;
  onRemove: () => void;
}) {
  const line = (label: string, key: keyof OwnStockText, most: number, className: string) => (
    <TextLine label={label} most={most} className={className} value={one[key]} onText={(text) => onChange({ [key]: text })} />
  );
  return (
    <div role="group" aria-label={`Used up ${n}`} className="border-b border-rule py-1 text-14">
      <div className="flex items-end gap-2">
        {line('What', 'title', 60, 'min-w-0 flex-1')}
        {line('Unit', 'unit', 16, 'w-16')}
        <button
          type="button"
          aria-label={`Do not count ${one.title || `row ${n}`}`}
          className="min-h-8 min-w-6"
          onClick={onRemove}
        >
          <Trash2 size={16} aria-hidden />
        </button>
      </div>
      <div className="flex gap-2">
        {line('A shot takes', 'each', 20, 'w-28')}
        {line('There are', 'have', 20, 'w-28')}
      </div>
      <Reason text={reason} />
    </div>
  );
}

/** What shots use up: what the rig says of itself, and what people add. */
export function StockRows({
  takes,
  form,
  read,
  set,
}: {
  takes: readonly Takes[];
  form: Form;
  read: Read;
  set: (change: Partial<Form>) => void;
}) {
  const put = (own: Form['own']) => set({ own });
  return (
    <>
      <h3 className="mt-3 font-bold">What shots use up</h3>
      <OfRig takes={takes} form={form} read={read} set={set} />
      {form.own.map((one, i) => (
        <OwnRow
          key={i}
          n={i + 1}
          one={one}
          reason={read.own[i] ?? null}
          onChange={(change) => put(form.own.map((other, k) => (k === i ? { ...other, ...change } : other)))}
          onRemove={() => put(form.own.filter((_, k) => k !== i))}
        />
      ))}
      <Button look="quiet" className="mt-1" onClick={() => put([...form.own, { title: '', unit: '', each: '1', have: '' }])}>
        <Plus size={16} aria-hidden /> Add what a shot takes
      </Button>
    </>
  );
}
