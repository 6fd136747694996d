import { simulateCircuit, type Trace } from '../../circuit/index.ts';
import type { Rig } from '../../rig/index.ts';
import { inWordsOf } from '../../simulate/index.ts';
import { columnOf, firings, isFired, withGaps, type Column } from './column.ts';

/** One gap of a shot. */
export interface FiredGap {
  /** From 1; the second is the channel of the other polarity. */
  readonly tower: number;
  /** From 1, next to the supply. The first of a tower is what fires it. */
  readonly stage: number;
  /** When it fired, s; null where it did not. */
  readonly at: number | null;
  /** The greatest voltage that it sees up to its firing, over what it needs: 1 where it fires by that. */
  readonly seen: number;
}

/** One shot, gap by gap. */
export interface Shot {
  readonly erects: boolean;
  /** Stage by stage, the first tower before the second. */
  readonly gaps: readonly FiredGap[];
  /** Voltage to earth of the top of each stage over time, V, in the order of the gaps. */
  readonly tops: readonly { readonly t: Float64Array; readonly y: Float64Array }[];
  /** Energy left in the stages when the shot is over, J: in all, and in each in the order of the gaps. */
  readonly left: { readonly all: number; readonly each: readonly number[] };
}

/** The greatest voltage across a gap up to an instant, over what it needs. */
const greatestShare = ({ t, y }: Trace, needs: number, until: number): number =>
  y.reduce((most, V, i) => ((t[i] ?? 0) <= until ? Math.max(most, Math.abs(V)) : most), 0) / needs;

/**
 * Runs one shot as it is set, each gap at the self-break that it is set to.
 *
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionShot(rig: Rig): Shot {
  const column = columnOf(rig);
  return inWordsOf(column.parts, () => shotOf(column));
}

/** A trace up to an instant. */
const upTo = ({ t, y }: Trace, until: number): Trace => {
  let n = t.length;
  while (n > 1 && (t[n - 1] ?? 0) > until) n -= 1;
  return { t: t.slice(0, n), y: y.slice(0, n) };
};

function shotOf(column: Column): Shot {
  const { stages } = column;
  const netlist = withGaps(column, (_, own) => own);
  // On until the load has taken what it takes; what is drawn and judged ends when no gap fires any more.
  const run = simulateCircuit(netlist, {
    until: column.over,
    tolerance: 1e-3,
    maxStep: column.until / 400,
    fineUntil: column.until,
    probes: [
      ...stages.map(({ top }) => ({ of: 'nodes', nodes: [top, '0'] }) as const),
      ...stages.map(({ gap }) => ({ of: 'nodes', nodes: gap.nodes }) as const),
      ...stages.map(({ capacitor }) => ({ of: 'voltage', element: capacitor.name }) as const),
    ],
  });
  const when = firings(run);
  const gaps = stages.map(({ tower, stage, gap }, i): FiredGap => {
    const fired = when.get(gap.name);
    const at = fired !== undefined && fired <= column.until ? fired : null;
    const across = run.traces[stages.length + i];
    // Behind the instant of its firing it is what its arc and its inductance take.
    const seen = across ? greatestShare(across, isFired(gap) ? column.charged : gap.breakdown, at ?? column.until) : NaN;
    return { tower, stage, at, seen };
  });
  const kept = run.traces.slice(2 * stages.length);
  const each = stages.map(({ capacitor }, i) => 0.5 * capacitor.C * (kept[i]?.y.at(-1) ?? NaN) ** 2);
  return {
    erects: gaps.every(({ at }) => at !== null),
    gaps,
    tops: run.traces.slice(0, stages.length).map((trace) => upTo(trace, column.until)),
    left: { all: each.reduce((a, b) => a + b, 0), each },
  };
}

/**
 * What each gap sees when all before it have fired and neither it nor any behind it does, over what it needs: by how much it is
 * overvolted. The first of a tower is fired and has none.
 *
 * @returns in the order of the gaps of a shot; null for those that are fired
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function overvoltages(rig: Rig): (number | null)[] {
  const column = columnOf(rig);
  const { stages, until } = column;
  const stageOf = new Map(stages.map(({ gap, stage }) => [gap.name, stage]));
  const last = Math.max(...stages.map(({ stage }) => stage));
  const found = new Map<string, number>();
  for (let k = 2; k <= last; k++) {
    const held = stages.filter(({ stage }) => stage === k);
    const netlist = withGaps(column, (name, own) => ((stageOf.get(name) ?? 0) >= k ? 1e9 : own));
    const probes = held.map(({ gap }) => ({ of: 'nodes', nodes: gap.nodes }) as const);
    const run = simulateCircuit(netlist, { until, tolerance: 1e-2, maxStep: until / 200, probes });
    held.forEach(({ gap }, i) => {
      const across = run.traces[i];
      if (across) found.set(gap.name, greatestShare(across, gap.breakdown, Infinity));
    });
  }
  return stages.map(({ gap }) => found.get(gap.name) ?? null);
}
