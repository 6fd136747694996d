import { Link } from 'react-router';
import type { Target } from '@vast-surge/core/part';
import { wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { Select } from '../../ui/select.tsx';
import { parseTyped } from '../../ui/typed.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

export interface Wish {
  readonly filter: string;
  readonly voltage: string;
  readonly wanted: 'nothing' | 'energy' | 'capacitance';
  readonly amount: string;
  readonly margin: string;
}

export const firstWish: Wish = { filter: '', voltage: '2.4 kV', wanted: 'energy', amount: '200 J', margin: '5 %' };

type Read = { readonly ok: true; readonly target: Target } | { readonly ok: false; readonly reason: string };

/** The wish as the composer takes it. A capacitance is wanted as the energy it holds at the voltage. */
export function readWish({ voltage, wanted, amount, margin }: Wish): Read {
  const number = (name: string, text: string, unit: UnitId) => {
    const read = parseTyped(text, unit);
    if (!read.ok) throw new Error(`${name}: ${wordQuantityIssue(read.issue)}`);
    if (read.quantity.tolerance) throw new Error(`${name} takes no tolerance; the margin stands for it`);
    return read.quantity.value;
  };
  try {
    const V = number('Voltage', voltage, 'V');
    const energy =
      wanted === 'nothing'
        ? null
        : wanted === 'energy'
          ? number('Energy', amount, 'J')
          : 0.5 * number('Capacitance', amount, 'F') * V ** 2;
    return { ok: true, target: { voltage: V, margin: number('Margin', margin, '1'), energy } };
  } catch (error) {
    return { ok: false, reason: error instanceof Error ? error.message : 'cannot be read' };
  }
}

export function Field({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <label className="grid grid-cols-[110px_minmax(0,1fr)] items-center gap-2 py-1">
      {label}
      <input
        className="figure w-full border border-rule bg-plate px-2 py-1"
        autoComplete="off"
        spellCheck={false}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** What the bank is to hold, and at what voltage. */
export function Wanted({ wish, refusal, set }: { wish: Wish; refusal: string | null; set: (change: Partial<Wish>) => void }) {
  return (
    <>
      <h2 className="text-17 font-bold">Wanted</h2>
      <Field label="Voltage" value={wish.voltage} onChange={(voltage) => set({ voltage })} />
      <div className="grid grid-cols-[110px_minmax(0,1fr)] items-center gap-2 py-1">
        <Select
          aria-label="Second target"
          fit="small"
          value={wish.wanted}
          onChange={(event) => set({ wanted: event.target.value as Wish['wanted'] })}
        >
          <option value="energy">Energy</option>
          <option value="capacitance">Capacitance</option>
          <option value="nothing">none</option>
        </Select>
        {wish.wanted !== 'nothing' && (
          <input
            aria-label={wish.wanted === 'energy' ? 'Energy' : 'Capacitance'}
            className="figure w-full border border-rule bg-plate px-2 py-1"
            autoComplete="off"
            value={wish.amount}
            onChange={(event) => set({ amount: event.target.value })}
          />
        )}
      </div>
      <Field label="Margin on it" value={wish.margin} onChange={(margin) => set({ margin })} />
      {refusal !== null && <TroubleLine look="words">{refusal}.</TroubleLine>}
      <p className="text-14">
        <Link className="text-select underline" to="/design">
          Design a whole rig from a goal
        </Link>
      </p>
    </>
  );
}
