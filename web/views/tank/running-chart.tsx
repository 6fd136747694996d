import { useMemo, useState } from 'react';
import { printQuantity } from '@vast-surge/core/quantity';
import { tankWindow, type TankRow, type TankSignal, type TankStudy } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { tracesCsv } from '../../plot/export.ts';
import type { PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { download } from '../../ui/download.ts';
import { Select } from '../../ui/select.tsx';

interface Window {
  readonly from: number;
  readonly to: number;
}

/** Stretches that one asks for first, from the whole of it down to the front of a break. */
function stretches(row: TankRow, { ring, pace }: TankStudy): readonly { readonly words: string; readonly window: Window }[] {
  const { breaks } = row;
  const last = breaks.at(-1);
  const calm = breaks[Math.min(breaks.length - 1, Math.floor(breaks.length / 2))] ?? last;
  if (!last || !calm) return [];
  const period = pace ? 1 / pace.rate : last.until - last.from;
  const at = calm.at;
  const span = ring?.span ?? period / 10;
  return [
    { words: 'All of it', window: { from: 0, to: last.until } },
    { words: 'From rest', window: { from: 0, to: Math.min(last.until, 12 * period) } },
    { words: 'A few breaks', window: { from: at - 2 * period, to: at + 3 * period } },
    { words: 'One ring', window: { from: at - 0.1 * span, to: at + 1.1 * span } },
    { words: 'Beat envelope', window: { from: at - 0.01 * span, to: at + 0.2 * span } },
    { words: 'First microseconds', window: { from: at - 100e-9, to: at + 900e-9 } },
  ];
}

type Beside = Exclude<TankSignal, 'tank'>;
const beside: { readonly [K in Beside]: { readonly id: K; readonly words: string; readonly unit: 'V' | 'A' } } = {
  path: { id: 'path', words: 'charging current', unit: 'A' },
  top: { id: 'top', words: 'voltage of the top', unit: 'V' },
};
const second = Object.values(beside);

/** Many buttons in one row beside a narrow plot. */
const compact = '!px-1.5 !py-0.5 text-14';

/** A Tesla coil running, from seconds down to nanoseconds. */
export function RunningChart({ row, study, name }: { row: TankRow; study: TankStudy; name: string }) {
  const offered = useMemo(() => stretches(row, study), [row, study]);
  const [shown, setShown] = useState<Window | null>(null);
  const [with_, setWith] = useState<Beside>('path');
  const { ring, loops } = study;
  const end = row.breaks.at(-1)?.until ?? 1;
  const window = shown ?? offered[2]?.window ?? { from: 0, to: end };
  const other = beside[with_];
  const traces = useMemo(() => {
    // Drawn from the beginning of the stretch: nanoseconds after minutes have no digits left on an axis.
    const of = (signal: TankSignal) => {
      const { t, y } = tankWindow(row, ring, loops, signal, window.from, window.to);
      return { t: t.map((x) => x - window.from), y };
    };
    return [
      { id: 'tank', title: 'voltage of the tank', unit: 'V' as const, ...of('tank') },
      { id: other.id, title: other.words, unit: other.unit, ...of(other.id) },
    ] as const;
  }, [row, ring, loops, window.from, window.to, other]);
  const spec: PlotSpec = {
    window: { from: 0, to: window.to - window.from },
    traces: [
      { trace: traces[1], axis: 'right', ink: 'current' },
      { trace: traces[0], axis: 'left', ink: 'select' },
    ],
    levels: other.id === 'path' ? [{ axis: 'right', at: study.holding, text: 'holds an arc', ink: 'over', textAt: 'left' }] : [],
    points: [],
    units: { left: 'V', right: other.unit },
  };
  const move = (by: number) => {
    const span = window.to - window.from;
    const from = Math.max(0, Math.min(end - span, window.from + by * span));
    setShown({ from, to: from + span });
  };
  const out = () => {
    const span = Math.min(end, 4 * (window.to - window.from));
    const from = Math.max(0, Math.min(end - span, (window.from + window.to - span) / 2));
    setShown({ from, to: from + span });
  };
  return (
    <section aria-label="Break after break">
      <div className="flex flex-wrap items-center gap-1">
        <h2 className="mr-auto font-bold">Break after break</h2>
        {offered.map(({ words, window: w }) => (
          <Button
            key={words}
            className="!px-2 !py-0.5 text-14"
            aria-pressed={w.from === window.from && w.to === window.to}
            onClick={() => setShown(w)}
          >
            {words}
          </Button>
        ))}
      </div>
      <div className="mt-1 h-[290px]">
        <Chart
          spec={spec}
          label="voltage of the tank, break after break"
          onWindow={(from, to) => to - from > 1e-9 && setShown({ from: Math.max(0, window.from + from), to: window.from + to })}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2 text-14">
        <span style={{ color: 'var(--select)' }}>— voltage of the tank</span>
        <label className="flex items-center gap-2" style={{ color: 'var(--current)' }}>
          — with
          <Select
            fit="small"
            value={other.id}
            onChange={(event) => setWith(second.find(({ id }) => id === event.target.value)?.id ?? 'path')}
          >
            {second.map(({ id, words }) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </Select>
        </label>
        <span className="figure mr-auto text-dim">
          from {printQuantity(window.from, 's', { digits: 6 })} on, {printQuantity(window.to - window.from, 's')} long
        </span>
        <span className="flex gap-1">
          <Button className={compact} onClick={() => move(-0.5)}>
            Earlier
          </Button>
          <Button className={compact} onClick={() => move(0.5)}>
            Later
          </Button>
          <Button className={compact} onClick={out}>
            Wider
          </Button>
          <Button className={compact} onClick={() => download(`${name}.csv`, tracesCsv([...traces]))}>
            CSV
          </Button>
        </span>
      </div>
      <p className="text-13 text-dim">
        Drag over a stretch to look closer. Each column has its least and its greatest value, so no peak is lost. The gap’s
        scatter is drawn by a seed; that it opens after its time is the rule of thumb.
      </p>
    </section>
  );
}
