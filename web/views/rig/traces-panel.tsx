import { useMemo, useState } from 'react';
import { Tabs } from 'radix-ui';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { printPercent } from '@vast-surge/core/quantity';
import type { Compared, Solved } from '@vast-surge/core/simulate';
import { rigDeck } from '@vast-surge/core/study';
import { useCloser, useSolved, type TimeWindow } from '../../workers/solve.ts';
import { PredictedLines } from '../../ui/predicted-lines.tsx';
import { TabRow } from '../../ui/tab-row.tsx';
import { FigurePanel } from './figure-panel.tsx';
import { PlotPanel, withFrozen, withSolver, type Frozen } from './plot-panel.tsx';
import { plots, type Tab } from './plots.ts';
import { RunningTab } from './running-tab.tsx';

/** A rig that breaks over and over by itself has a window over many cycles beside its single ones. */
type Shown = Tab | 'running';

const tabs: readonly { readonly id: Shown; readonly title: string }[] = [
  { id: 'charge', title: 'Charge' },
  { id: 'discharge', title: 'Discharge' },
  { id: 'bleed', title: 'Bleed' },
  { id: 'running', title: 'Running' },
];

const closureWords = (closure: number): string => (closure < 1e-5 ? 'within 0.001 %' : `to ${printPercent(closure, 2)}`);

/** Why solver and closed form are apart, each reason once with the figures it concerns. */
function Reasons({ compared }: { compared: readonly Compared[] }) {
  const byReason = new Map<string, string[]>();
  for (const { title, because } of compared)
    for (const text of because) byReason.set(text, [...(byReason.get(text) ?? []), title]);
  if (byReason.size === 0) return null;
  return (
    <section aria-label="Why solver and closed form differ" className="border-l-4 border-third bg-plate px-3 py-1.5 text-13">
      <h3 className="font-bold">More than 2 % apart, because the closed form leaves out</h3>
      <ul>
        {[...byReason].map(([text, titles]) => (
          <li key={text}>
            {text} <span className="text-dim">({titles.join(', ')})</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How far the closed form is from the solver at the most, over what both know. */
const apartWords = (compared: readonly Compared[]): string => {
  const offs = compared.flatMap(({ off, closed }) => (off === null || closed === null || !Number.isFinite(off) ? [] : [off]));
  return offs.length === 0
    ? ''
    : `, closed form ${Math.max(...offs) < 1e-3 ? 'within 0.1 %' : `within ${printPercent(Math.max(...offs), 2)}`}`;
};

/** How the run went, in a line. */
function RunLine({ solved, isCurrent, trouble }: { solved: Solved | string | null; isCurrent: boolean; trouble: string | null }) {
  if (trouble !== null) return <span role="status">solver: {trouble}</span>;
  if (solved === null) return <span role="status">solver: at work …</span>;
  if (typeof solved === 'string') return <span role="status">solver: {solved}</span>;
  const { steps, closure, elements } = solved.run;
  return (
    <span
      role="status"
      title={`${elements} elements, nominal values. Lines are the closed form, dots the solver; it follows every change.`}
    >
      solver: {steps} steps, energy closes {closureWords(closure)}
      {apartWords(solved.compared)}
      {isCurrent ? '' : ' …'}
      {solved.note === null ? '' : ` ${solved.note}`}
    </span>
  );
}

interface Props {
  readonly evaluation: Evaluation;
  readonly name: string;
  readonly onTouch: (focus: string) => void;
}

function TabBody({ evaluation, tab, name, onTouch }: Props & { tab: Tab }) {
  const [frozen, setFrozen] = useState<Frozen | null>(null);
  const [window_, setWindow] = useState<TimeWindow | null>(null);
  const solving = useSolved({ rig: evaluation.rig, name, of: tab });
  const { answer, isCurrent, trouble } = solving;
  const closer = useCloser(solving, window_);
  // An answer to another scene is none; one to the values of a moment ago stays until the next is there.
  const result = answer?.asked.of === tab ? answer.result : null;
  const solved = result?.ok ? result.value : null;
  const made = useMemo(() => {
    try {
      return { spec: plots[tab](evaluation) };
    } catch (error) {
      return { reason: error instanceof Error ? error.message : 'no reason given' };
    }
  }, [evaluation, tab]);
  const spec = useMemo(
    () => made.spec && withFrozen(withSolver(made.spec, solved, closer), frozen),
    [made, solved, closer, frozen],
  );
  // Stages that erect one after another: what is predicted is the solver’s, with its range.
  const erects = evaluation.corners.nominal().offers('store').ladder !== undefined;
  const word = (id: string) => (isCurrent ? solved?.compared.find((c) => c.id === id && c.closed !== null) : undefined);
  return (
    <>
      {spec ? (
        <PlotPanel
          spec={spec}
          tab={tab}
          name={name}
          frozen={frozen}
          onFreeze={setFrozen}
          window={window_}
          onWindow={setWindow}
          circuit={() => rigDeck(evaluation.rig, name, tab)}
        >
          <RunLine solved={result && !result.ok ? result.reason : solved} isCurrent={isCurrent} trouble={trouble} />
        </PlotPanel>
      ) : (
        <p role="alert" className="m-4 border-l-4 border-over bg-plate p-3">
          There is no {tab} to draw: {made.reason}
        </p>
      )}
      <FigurePanel evaluation={evaluation} word={word} onTouch={onTouch} />
      {tab === 'discharge' && erects && <PredictedLines rig={evaluation.rig} numbers={false} />}
      {isCurrent && solved && <Reasons compared={solved.compared} />}
    </>
  );
}

/** What happens over time, and the figures that belong to it: in closed form and through the solver. */
export function TracesPanel(props: Props) {
  const runs = props.evaluation.figures.some(({ id }) => id === 'break-rate');
  const [chosen, setTab] = useState<Shown>('discharge');
  const tab = chosen === 'running' && !runs ? 'discharge' : chosen;
  useHotkeys('1', () => setTab('charge'), { useKey: true });
  useHotkeys('2', () => setTab('discharge'), { useKey: true });
  useHotkeys('3', () => setTab('bleed'), { useKey: true });
  useHotkeys('4', () => setTab('running'), { useKey: true, enabled: runs });
  return (
    <section aria-label="Traces and figures" className="min-h-0 min-w-0 overflow-y-auto px-5 py-2">
      <Tabs.Root
        value={tab}
        onValueChange={(next) => setTab(next as Shown)}
        className="flex h-full min-h-[400px] flex-col gap-1.5"
      >
        <TabRow label="What to show" tabs={tabs.filter(({ id }) => id !== 'running' || runs)} />
        <Tabs.Content value={tab} className="flex min-h-0 flex-1 flex-col gap-1.5">
          {tab === 'running' ? <RunningTab {...props} /> : <TabBody key={tab} tab={tab} {...props} />}
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}
