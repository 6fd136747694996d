import { normals, edge } from '../../numeric/index.ts';
import { simulateCircuit, type CircuitRun, type Element, type Netlist, type Trace } from '../../circuit/index.ts';
import { RigReading } from '../../figure/index.ts';
import { hasDesk, type Rig } from '../../rig/index.ts';
import { inWordsOf, nameIn, nodeIn, rigCircuit, type RigCircuit } from '../../simulate/index.ts';

/** What many shots of a Marx do at one ratio of charge voltage to the setting of its gaps. */
export interface ErectionRate {
  /** Charge voltage over the self-break of the later gaps. */
  readonly ratio: number;
  /** Share of shots in which some gap does not fire after the first has. */
  readonly misfire: number;
  /** Share of charges in which some gap, the first among them, self-breaks before the first is triggered. */
  readonly prefire: number;
}

export interface ErectionStudy {
  /** V: charge voltage and setting of the gaps as they are. */
  readonly charged: number;
  readonly setting: number;
  readonly shots: number;
  readonly rates: readonly ErectionRate[];
  /** Charge voltages between which hardly any shot misfires or pre-fires with the gaps as they are set, V; null where there are none. */
  readonly window: { readonly low: number; readonly high: number } | null;
}

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

/** A share of shots that is taken for hardly any. */
const hardlyAny = 0.01;

type SparkGap = Extract<Element, { kind: 'gap' }>;
type Capacitor = Extract<Element, { kind: 'capacitor' }>;

/** Time that a gap may take after the one before it, s. */
const forOneGap = 200e-9;

interface Stage {
  readonly tower: number;
  readonly stage: number;
  readonly gap: SparkGap;
  readonly capacitor: Capacitor;
  readonly top: string;
}

interface Column {
  readonly netlist: Netlist;
  readonly parts: RigCircuit['parts'];
  readonly stages: readonly Stage[];
  readonly until: number;
  /** s after which the load has taken what it takes. */
  readonly over: number;
  readonly charged: number;
  readonly setting: number;
}

/** The stages of a tower by the names that a Marx gives its elements. */
function stagesOf({ elements }: Netlist, n: number, channel: number): Stage[] {
  const byName = new Map(elements.map((e) => [e.name, e]));
  const named = (name: string) => byName.get(nameIn(name, channel));
  return Array.from({ length: n }, (_, i): Stage => {
    const stage = i + 1;
    const gap = named(stage === 1 ? 'Ssw' : `Sst${stage}`);
    const capacitor = named(stage === n ? 'Cst' : `Cst${stage}`);
    if (gap?.kind !== 'gap' || capacitor?.kind !== 'capacitor')
      throw new Error(`stage ${stage} of the Marx generator has no gap or no capacitor`);
    return { tower: channel + 1, stage, gap, capacitor, top: nodeIn(`T${stage}`, channel) };
  });
}

/** The column of the rig, with what matters only long after it has erected left as it is. */
function columnOf(rig: Rig): Column {
  const reading = new RigReading(rig);
  const { netlist, parts } = rigCircuit(rig, 'Marx', { of: 'discharge', charger: false, cycles: false });
  const made = { ...netlist, elements: netlist.elements.map((e) => asFired(e, reading.offer('chargedTo').value)) };
  const n = reading.own('store').quantity('n').value;
  // An arc takes some tens of nanoseconds to pull its stage up: what has not fired by then does not.
  const until = forOneGap * (2 + n);
  const [R, L, C] = (['loop-resistance', 'loop-inductance', 'loop-capacitance'] as const).map(
    (id) => reading.figure(id).value,
  ) as [number, number, number];
  return {
    netlist: made,
    parts,
    stages: reading.inSeries().flatMap((_, channel) => stagesOf(made, n, channel)),
    until,
    over: Math.min(until + 6 * R * C + (12 * L) / Math.max(R, 1e-3), 200 * until),
    charged: reading.offer('chargedTo').value,
    setting: reading.figure('stage-self-break').value,
  };
}

/** Inductance of a part a few centimetres long, H: common practice, no source. */
const ofPart = 2e-8;

/** A contact or a thyristor in the place of the first gap, as a gap that is fired at once. */
function asFired(element: Element, V: number): Element {
  if (element.kind !== 'switch' && element.kind !== 'thyristor') return element;
  const { nodes, Ron, name } = element;
  const arc = { law: 'fixed', R: Ron } as const;
  return { kind: 'gap', name: `S${name.slice(1)}`, nodes, breakdown: V, arc, L: ofPart, fireAt: 0 };
}

/** Self-break and scatter of the first gap, where a trigger is to fire it; null where it is none or self-breaks anyway. */
function firstGapOf(rig: Rig): { selfBreak: number; scatter: number } | null {
  if (!hasDesk(rig, 'gap')) return null;
  const reading = new RigReading(rig);
  const own = reading.own('switch');
  if (!own.is('mode', 'triggered')) return null;
  return { selfBreak: reading.figure('self-break').value, scatter: own.quantity('sc').value };
}

const isFired = (gap: SparkGap): boolean => gap.fireAt !== undefined;

/**
 * The column with its gaps set. Their arcs are those of every other page; one that is set to another voltage is as much longer.
 *
 * @param breakdown V, by name, of the gaps behind the first
 */
const withGaps = ({ netlist, stages }: Column, breakdown: (name: string, own: number) => number): Netlist => {
  const ours = new Set(stages.map(({ gap }) => gap.name));
  return {
    ...netlist,
    elements: netlist.elements.map((e) => {
      if (e.kind !== 'gap' || !ours.has(e.name) || isFired(e)) return e;
      const V = breakdown(e.name, e.breakdown);
      const arc = e.arc.law === 'fixed' ? e.arc : { ...e.arc, d: (e.arc.d * V) / e.breakdown };
      return { ...e, arc, breakdown: V };
    }),
  };
};

/** When each gap fired, s. */
const firings = (run: CircuitRun): Map<string, number> =>
  new Map(run.events.filter((e) => e.what === 'on').map((e) => [e.element, e.t]));

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

/**
 * Fires the column many times with the scatter of its gaps, over a range of charge voltages. The circuit is linear but for
 * its gaps, so a shot depends on charge voltage and setting only through their ratio.
 *
 * @param shots seeded shots at each ratio
 * @param onProgress is told the share that is done
 * @param cancelled asked between shots; a study that is cancelled is null
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionStudy(
  rig: Rig,
  {
    shots = 200,
    ratios = 46,
    onProgress,
    cancelled,
  }: { shots?: number; ratios?: number; onProgress?: (share: number) => void; cancelled?: () => boolean } = {},
): ErectionStudy | null {
  const column = columnOf(rig);
  const scatter = new RigReading(rig).own('store').quantity('sc').value;
  const next = normals(1);
  const behind = column.stages.filter(({ gap }) => !isFired(gap)).map(({ gap }) => gap.name);
  const place = new Map(behind.map((name, i) => [name, i]));
  const ours = new Set(column.stages.map(({ gap }) => gap.name));
  // The same gaps at every ratio: what differs is the ratio alone.
  const draws = Array.from({ length: shots }, () => behind.map(() => Math.max(0.05, 1 + scatter * next())));
  const [least, most] = [0.2, 1.1];
  const rates: ErectionRate[] = [];
  // A gap that fires at some ratio fires at every higher one: each shot is asked only about its own threshold.
  const thresholds = draws.map((draw, i): number | null => {
    if (cancelled?.()) return null;
    const erects = (ratio: number): boolean => {
      const netlist = withGaps(column, (name) => ((draw[place.get(name) ?? -1] ?? 1) * column.charged) / ratio);
      const run = simulateCircuit(netlist, { until: column.until, tolerance: 0.05, maxStep: column.until / 40 });
      return [...firings(run).keys()].filter((name) => ours.has(name)).length === ours.size;
    };
    const threshold = erects(least)
      ? least
      : erects(most)
        ? edge((ratio) => !erects(ratio), least, most, { rounds: 8 }).above
        : Infinity;
    onProgress?.((i + 1) / shots);
    return threshold;
  });
  if (thresholds.includes(null)) return null;
  // The first gap pre-fires as well, where a trigger is to fire it; it keeps its proportion to the others.
  const own = firstGapOf(rig);
  const firsts = column.stages.length - behind.length;
  const first = draws.map((draw) =>
    Math.min(
      draw.length > 0 ? Math.min(...draw) : Infinity,
      ...Array.from({ length: firsts }, () => (own ? (own.selfBreak / column.setting) * (1 + own.scatter * next()) : Infinity)),
    ),
  );
  for (let i = 0; i < ratios; i++) {
    const ratio = least + ((most - least) * i) / (ratios - 1);
    rates.push({
      ratio,
      misfire: thresholds.filter((t) => (t ?? Infinity) > ratio).length / shots,
      prefire: first.filter((weakest) => weakest < ratio).length / shots,
    });
  }
  const sorted = thresholds.map((t) => t ?? Infinity).sort((a, b) => a - b);
  const weakest = [...first].sort((a, b) => a - b);
  const low = sorted[Math.min(shots - 1, Math.ceil(shots * (1 - hardlyAny)) - 1)] ?? Infinity;
  const high = weakest[Math.floor(shots * hardlyAny)] ?? 0;
  return {
    charged: column.charged,
    setting: column.setting,
    shots,
    rates,
    window: low < high ? { low: low * column.setting, high: high * column.setting } : null,
  };
}
