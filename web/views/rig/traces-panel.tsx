import { useCallback, useMemo, useRef, useState } from 'react';
import type { ECharts } from 'echarts/core';
import { Tabs } from 'radix-ui';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { Figure } from '@vast-surge/core/figure';
import { useAppSelector } from '../../app/store.ts';
import { Chart } from '../../plot/chart.tsx';
import { savePng, saveSvg, tracesCsv } from '../../plot/export.ts';
import type { PlotSpec } from '../../plot/option.ts';
import { printFigure } from '../../ui/print-figure.ts';
import { download, fileName } from '../../ui/download.ts';
import { plots, tabFigures, type Tab } from './plots.ts';

const tabs: readonly { readonly id: Tab; readonly title: string }[] = [
  { id: 'charge', title: 'Charge' },
  { id: 'discharge', title: 'Discharge' },
  { id: 'bleed', title: 'Bleed' },
];

function FigureRow({ figure, explained, onTouch }: { figure: Figure; explained: boolean; onTouch: (focus: string) => void }) {
  const focused = useAppSelector((s) => s.editor.focus === `figure:${figure.id}`);
  if (!figure.ok) {
    return (
      <div className="border-b border-rule py-1 text-[13.5px]">
        {figure.title}:{' '}
        <span className="text-dim">not available; {explained ? 'the problem beside the block says why' : figure.reason}</span>
      </div>
    );
  }
  const { value, unit } = figure.worked;
  const { low, high, broken } = figure.band;
  return (
    <button
      type="button"
      data-figure={figure.id}
      title={broken}
      className={`grid w-full grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 border-b py-1 text-left hover:bg-plate ${focused ? 'border-select' : 'border-rule'}`}
      onClick={() => onTouch(`figure:${figure.id}`)}
    >
      <span className="leading-tight">{figure.title}</span>
      <b className="figure text-right text-[16px] whitespace-nowrap">{printFigure(figure.id, value, unit)}</b>
      {low !== high && (
        <span className="figure col-span-2 -mt-0.5 text-right text-[12.5px] whitespace-nowrap text-dim">
          {printFigure(figure.id, low, unit)} to {printFigure(figure.id, high, unit)}
        </span>
      )}
    </button>
  );
}

function Legend({ spec }: { spec: PlotSpec }) {
  return (
    <ul className="flex flex-wrap gap-x-4 text-[13.5px]" aria-label="Traces">
      {spec.traces.map(({ trace, ink, dash, axis }) => (
        <li key={trace.id} className="flex items-center gap-1.5" style={{ color: `var(--${ink})` }}>
          <span
            aria-hidden
            className={`w-5 border-t-[3px] ${dash ? 'border-dashed' : ''}`}
            style={{ borderColor: `var(--${ink})` }}
          />
          {trace.title}
          {spec.units.right ? (axis === 'left' ? ' (left)' : ' (right)') : ''}
        </li>
      ))}
    </ul>
  );
}

function Plot({ evaluation, tab, name }: { evaluation: Evaluation; tab: Tab; name: string }) {
  const chart = useRef<ECharts | null>(null);
  const onReady = useCallback((made: ECharts | null) => {
    chart.current = made;
  }, []);
  const made = useMemo(() => {
    try {
      return { spec: plots[tab](evaluation) };
    } catch (error) {
      return { reason: error instanceof Error ? error.message : 'no reason given' };
    }
  }, [evaluation, tab]);
  if (!made.spec) {
    return (
      <p role="alert" className="m-4 border-l-4 border-over bg-plate p-3">
        There is no {tab} to draw: {made.reason}
      </p>
    );
  }
  const { spec } = made;
  const file = `${fileName(name)}-${tab}`;
  return (
    <>
      <Legend spec={spec} />
      <div className="h-[230px] min-h-[200px] shrink-0 xl:h-auto xl:flex-1">
        <Chart spec={spec} label={`${tab} of ${name} over time; the figures below say the numbers`} onReady={onReady} />
      </div>
      <p className="flex flex-wrap gap-3 text-[13px] text-dim">
        <span>closed form, nominal values</span>
        <span className="ml-auto">save as</span>
        <button
          type="button"
          className="underline hover:text-ink"
          onClick={() => download(`${file}.csv`, tracesCsv(spec.traces.map((t) => t.trace)), 'text/csv')}
        >
          CSV
        </button>
        <button type="button" className="underline hover:text-ink" onClick={() => chart.current && saveSvg(chart.current, file)}>
          SVG
        </button>
        <button type="button" className="underline hover:text-ink" onClick={() => chart.current && savePng(chart.current, file)}>
          PNG
        </button>
      </p>
    </>
  );
}

interface Props {
  readonly evaluation: Evaluation;
  readonly name: string;
  readonly onTouch: (focus: string) => void;
}

/** A store that is never above 50 V has no time to fall below it: its times to a tenth stand alone. */
const isIdle = (figure: Figure): boolean => figure.ok && figure.worked.unit === 's' && figure.worked.value === 0;

/** What happens over time, and the figures that belong to it. */
export function TracesPanel({ evaluation, name, onTouch }: Props) {
  const [tab, setTab] = useState<Tab>('discharge');
  useHotkeys('1', () => setTab('charge'), { useKey: true });
  useHotkeys('2', () => setTab('discharge'), { useKey: true });
  useHotkeys('3', () => setTab('bleed'), { useKey: true });
  const figures = tabFigures[tab]
    .map((id) => evaluation.figures.find((f) => f.id === id))
    .filter((f): f is Figure => f !== undefined && !isIdle(f));
  const explained = evaluation.problems.some((p) => p.severity === 'error');
  return (
    <section aria-label="Traces and figures" className="min-h-0 min-w-0 overflow-y-auto px-5 py-3">
      <Tabs.Root value={tab} onValueChange={(next) => setTab(next as Tab)} className="flex h-full min-h-[480px] flex-col gap-2">
        <Tabs.List aria-label="What to show" className="flex w-fit border border-rule">
          {tabs.map(({ id, title }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="px-3 py-1 text-dim data-[state=active]:bg-ink data-[state=active]:font-bold data-[state=active]:text-plate"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value={tab} className="flex min-h-0 flex-1 flex-col gap-2">
          <Plot evaluation={evaluation} tab={tab} name={name} />
          <div className="grid grid-cols-1 gap-x-6 sm:grid-cols-2">
            {figures.map((figure) => (
              <FigureRow key={figure.id} figure={figure} explained={explained} onTouch={onTouch} />
            ))}
          </div>
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}
