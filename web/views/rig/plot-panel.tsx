import { useCallback, useMemo, useRef, type ReactNode } from 'react';
import type { ECharts } from 'echarts/core';
import { toast } from 'sonner';
import { printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { Solved, Trace } from '@vast-surge/core/simulate';
import { Chart } from '../../plot/chart.tsx';
import { savePng, saveSvg, tracesCsv } from '../../plot/export.ts';
import { spanOf, type PlotSpec, type PlottedTrace } from '../../plot/option.ts';
import { download, fileName } from '../../ui/download.ts';
import type { TimeWindow } from '../../workers/solve.ts';
import type { Tab } from './plots.ts';

/** Traces of a moment that were kept to hold others against. */
export interface Frozen {
  readonly traces: readonly PlottedTrace[];
  readonly at: string;
}

/** The traces of the solver are one entry: each lies on its twin. */
const isEntry = ({ dash }: PlottedTrace, i: number, all: readonly PlottedTrace[]): boolean =>
  dash !== 'dotted' || all.findIndex((t) => t.dash === 'dotted') === i;

function Legend({ spec }: { spec: PlotSpec }) {
  return (
    <ul className="flex flex-wrap gap-x-4 text-13" aria-label="Traces">
      {spec.traces.filter(isEntry).map(({ trace, ink, dash, axis }) => (
        <li key={`${trace.id} ${trace.title}`} className="flex items-center gap-1.5" style={{ color: `var(--${ink})` }}>
          <span
            aria-hidden
            className={`w-5 border-t-[3px] ${dash === 'dotted' ? 'border-dotted' : dash ? 'border-dashed' : ''}`}
            style={{ borderColor: `var(--${ink})` }}
          />
          {dash === 'dotted' ? 'solver' : trace.title}
          {dash !== 'dotted' && spec.units.right ? (axis === 'left' ? ' (left)' : ' (right)') : ''}
        </li>
      ))}
    </ul>
  );
}

/** The solver's traces over the closed forms: dotted, each on the axis of the quantity it stands beside. */
export function withSolver(spec: PlotSpec, solved: Solved | null, closer: readonly Trace[] | null = null): PlotSpec {
  if (!solved) return spec;
  const beside = (id: string) => spec.traces.find((t) => t.trace.id === id);
  // A trace that the closed form has not got goes to the axis of its unit, or nowhere.
  const ofUnit = (unit: UnitId) => (['left', 'right'] as const).find((axis) => spec.units[axis] === unit);
  const traces = (closer ?? solved.traces).flatMap((trace): PlottedTrace[] => {
    const axis = beside(trace.id)?.axis ?? ofUnit(trace.unit);
    return axis ? [{ trace, axis, ink: 'third', dash: 'dotted' }] : [];
  });
  return { ...spec, traces: [...spec.traces, ...traces], events: solved.events };
}

export const withFrozen = (spec: PlotSpec, frozen: Frozen | null): PlotSpec =>
  frozen
    ? {
        ...spec,
        traces: [
          ...spec.traces,
          ...frozen.traces.map(({ trace, axis }) => ({
            trace: { ...trace, id: `frozen-${trace.id}`, title: `${trace.title}, ${frozen.at}` },
            axis,
            ink: 'dim' as const,
          })),
        ],
      }
    : spec;

function Tool({
  children,
  label,
  onClick,
  pressed,
}: {
  children: ReactNode;
  label: string;
  onClick: () => void;
  pressed?: boolean;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      className={`border px-1.5 leading-5 hover:border-ink ${pressed ? 'border-ink bg-ink text-plate' : 'border-rule bg-plate'}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function SaveAs({ words, hint, onClick }: { words: string; hint: string; onClick: () => void }) {
  return (
    <button type="button" title={hint} className="underline hover:text-ink" onClick={onClick}>
      {words}
    </button>
  );
}

interface Props {
  readonly spec: PlotSpec;
  readonly tab: Tab;
  readonly name: string;
  readonly frozen: Frozen | null;
  readonly onFreeze: (frozen: Frozen | null) => void;
  /** The stretch of time that is looked at; null for all of it. */
  readonly window: TimeWindow | null;
  readonly onWindow: (window: TimeWindow | null) => void;
  /** The circuit behind the traces as text; null where there is none. */
  readonly circuit: () => string | null;
  /** What is said under the plot. */
  readonly children: ReactNode;
}

/** Part of a window of time, about its middle; never wider than all of it. */
function scaled({ from, to }: { from: number; to: number }, factor: number, span: number) {
  const [middle, half] = [(from + to) / 2, ((to - from) / 2) * factor];
  if (half * 2 >= span) return null;
  const start = Math.min(Math.max(0, middle - half), span - 2 * half);
  return { from: start, to: start + 2 * half };
}

/** A plot with its tools: zoom, cursor, frozen traces, and the three ways to take it along. */
export function PlotPanel({ spec, tab, name, frozen, onFreeze, window: window_, onWindow: setWindow, circuit, children }: Props) {
  const chart = useRef<ECharts | null>(null);
  const onReady = useCallback((made: ECharts | null) => {
    chart.current = made;
  }, []);
  const span = spanOf(spec);
  const shown = useMemo(() => {
    if (!window_ || window_.from >= span) return spec;
    // A stretch that was chosen is read in equal steps; all of it may be in equal ratios.
    const { alongLog: _, ...even } = spec;
    return { ...even, window: { from: window_.from, to: Math.min(window_.to, span) } };
  }, [spec, window_, span]);
  const whole = shown.window ?? { from: 0, to: span };
  const zoom = (factor: number) => setWindow(scaled(whole, factor, span));
  const dragged = (from: number, to: number) => {
    // A click is no stretch.
    if (to - from > (whole.to - whole.from) / 50) setWindow({ from: Math.max(0, from), to });
  };
  const freeze = () =>
    onFreeze(
      frozen
        ? null
        : {
            traces: spec.traces.filter((t) => t.dash !== 'dotted' && t.ink !== 'dim'),
            at: `frozen ${new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`,
          },
    );
  const file = `${fileName(name)}-${tab}`;
  const saveCsv = () => download(`${file}.csv`, tracesCsv(spec.traces.map((t) => t.trace)), 'text/csv');
  const saveCircuit = () => {
    const text = circuit();
    if (text === null) toast.error('This rig has no circuit yet: see the problems beside its blocks.');
    else download(`${file}.cir`, text, 'text/plain');
  };
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 text-13 text-dim">
        <Legend spec={shown} />
        <span className="ml-auto flex gap-3">
          save as
          <SaveAs words="CSV" hint="The traces, SI units" onClick={saveCsv} />
          <SaveAs words="SVG" hint="The plot as a drawing" onClick={() => chart.current && saveSvg(chart.current, file)} />
          <SaveAs words="PNG" hint="The plot as a picture" onClick={() => chart.current && savePng(chart.current, file)} />
          <SaveAs words="circuit" hint="The circuit as a text file, one element to a line" onClick={saveCircuit} />
        </span>
      </div>
      <div className="h-[230px] shrink-0 xl:h-[clamp(128px,calc(100vh-664px),340px)]">
        <Chart
          spec={shown}
          label={`${tab} of ${name} over time; arrow keys move the cursor, the figures below say the numbers`}
          onReady={onReady}
          onWindow={dragged}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-13 text-dim">
        <span className="flex gap-1 text-ink">
          <Tool label="Zoom in; dragging over the plot zooms as well" onClick={() => zoom(0.5)}>
            +
          </Tool>
          <Tool label="Zoom out" onClick={() => zoom(2)}>
            −
          </Tool>
          <Tool label="Show all" onClick={() => setWindow(null)}>
            all
          </Tool>
          <Tool
            label={frozen ? 'Clear the frozen traces' : 'Freeze these traces to compare others with them'}
            pressed={frozen !== null}
            onClick={freeze}
          >
            {frozen ? frozen.at : 'freeze'}
          </Tool>
        </span>
        {shown.window && (
          <span data-window>
            {printQuantity(whole.from, 's')} to {printQuantity(whole.to, 's')}
          </span>
        )}
        {children}
      </div>
    </>
  );
}
