import { normals, simulateCircuit, type Element, type Netlist } from '../circuit/index.ts';
import { RigReading } from '../figure/index.ts';
import { blockIn, type Rig } from '../rig/index.ts';
import { rigCircuit } from '../simulate/index.ts';

/** What many shots of a Marx do at one ratio of charge voltage to the setting of its gaps. */
export interface ErectionRate {
  /** Charge voltage over the self-break of the gaps behind the first. */
  readonly ratio: number;
  /** Share of shots in which some gap does not fire after the first has. */
  readonly misfire: number;
  /** Share of charges in which some gap, the first among them, fires by itself before the first is triggered. */
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

/** One shot, gap by gap. */
export interface Shot {
  readonly erects: boolean;
  /** When each gap fired, s; null for those that did not. The first is the trigger. */
  readonly fired: readonly (number | null)[];
  /** The greatest voltage that each gap sees up to its firing, over what it needs: 1 where it fires. */
  readonly seen: readonly number[];
  /** Voltage to earth of the top of each stage over time, V. */
  readonly tops: readonly { readonly t: Float64Array; readonly y: Float64Array }[];
}

/** A share of shots that is taken for hardly any. */
const hardlyAny = 0.01;

type SparkGap = Extract<Element, { kind: 'gap' }>;
const isGap = (e: Element): e is SparkGap => e.kind === 'gap';
/** The gaps from the first, which is fired, to the last. */
const gapsOf = ({ elements }: Netlist): SparkGap[] => {
  const gaps = elements.filter(isGap);
  return [...gaps.filter((e) => e.fireAt !== undefined), ...gaps.filter((e) => e.fireAt === undefined)];
};

/** Time that a gap may take after the one before it, s. */
const forOneGap = 200e-9;

interface Column {
  readonly netlist: Netlist;
  readonly gaps: readonly string[];
  readonly until: number;
  readonly charged: number;
  readonly setting: number;
  readonly stages: number;
}

/** The column of the rig, with what matters only long after it has erected left as it is. */
function columnOf(rig: Rig): Column {
  const reading = new RigReading(rig);
  const own = reading.own('store');
  const { netlist } = rigCircuit(rig, 'Marx', { of: 'discharge', charger: false, cycles: false });
  const stages = own.quantity('n').value;
  const gaps = gapsOf(netlist).map((e) => e.name);
  return {
    netlist,
    gaps,
    // An arc takes some tens of nanoseconds to pull its stage up: what has not fired by then does not.
    until: forOneGap * (2 + stages),
    charged: reading.offer('chargedTo').value,
    setting: reading.figure('stage-self-break').value,
    stages,
  };
}

/** Self-break and scatter of the first gap, where a trigger is to fire it; null where it is none or fires by itself anyway. */
function firstGapOf(rig: Rig): { selfBreak: number; scatter: number } | null {
  if (blockIn(rig, 'switch').kind !== 'spark-gap') return null;
  const reading = new RigReading(rig);
  const own = reading.own('switch');
  if (own.choice('mode') !== 'triggered') return null;
  return { selfBreak: reading.figure('self-break').value, scatter: own.quantity('sc').value };
}

/** Toepler's constant of an arc in air, V·s/m. From memory: 0.8 to 1.5e-2. */
const toepler = 1e-2;
/** Field at which the length of a gap is guessed from its voltage, V/m. */
const guessedField = 3e6;

/**
 * The column with its gaps set. An arc that has just begun has hundreds of ohms against the strays: it is followed by
 * Toepler's law, without which every stage would ring and overshoot as none does.
 *
 * @param breakdown V, by name, of the gaps behind the first
 */
const withGaps = ({ netlist, charged }: Column, breakdown: (name: string, own: number) => number): Netlist => ({
  ...netlist,
  elements: netlist.elements.map((e) => {
    if (!isGap(e)) return e;
    const V = e.fireAt === undefined ? breakdown(e.name, e.breakdown) : charged;
    const Rmin = e.arc.law === 'fixed' ? e.arc.R : e.arc.Rmin;
    const arc = { law: 'toepler', k: toepler, d: V / guessedField, Rmin } as const;
    return { ...e, arc, scatter: 0, ...(e.fireAt === undefined ? { breakdown: V } : {}) };
  }),
});

/**
 * Runs one shot as it is set, each gap at the self-break that it is set to.
 *
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionShot(rig: Rig): Shot {
  const column = columnOf(rig);
  const tops = Array.from({ length: column.stages }, (_, i) => `T${i + 1}`);
  const ends = gapsOf(column.netlist);
  const run = simulateCircuit(
    withGaps(column, (_, own) => own),
    {
      until: column.until,
      tolerance: 1e-3,
      maxStep: column.until / 400,
      probes: [
        ...tops.map((node) => ({ of: 'nodes', nodes: [node, '0'] }) as const),
        ...ends.map((gap) => ({ of: 'nodes', nodes: gap.nodes }) as const),
      ],
    },
  );
  const when = new Map(run.events.filter((e) => e.what === 'on').map((e) => [e.element, e.t]));
  const fired = column.gaps.map((name) => when.get(name) ?? null);
  return {
    erects: fired.every((t) => t !== null),
    fired,
    seen: ends.map((gap, i) => {
      const trace = run.traces[tops.length + i];
      const needs = gap.fireAt === undefined ? gap.breakdown : column.charged;
      const until = fired[i] ?? Infinity;
      // Behind that instant it is what its arc and its inductance take.
      return trace
        ? trace.y.reduce((most, V, at) => ((trace.t[at] ?? 0) <= until ? Math.max(most, Math.abs(V)) : most), 0) / needs
        : NaN;
    }),
    tops: run.traces.slice(0, tops.length),
  };
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
  // The same gaps at every ratio: what differs is the ratio alone.
  const draws = Array.from({ length: shots }, () => column.gaps.slice(1).map(() => Math.max(0.05, 1 + scatter * next())));
  const [least, most] = [0.2, 1.1];
  const rates: ErectionRate[] = [];
  // A gap that fires at some ratio fires at every higher one: each shot is asked only about its own threshold.
  const thresholds = draws.map((draw, i): number | null => {
    if (cancelled?.()) return null;
    let [low, high] = [least, most];
    const erects = (ratio: number): boolean => {
      const netlist = withGaps(column, (name) => ((draw[column.gaps.indexOf(name) - 1] ?? 1) * column.charged) / ratio);
      const run = simulateCircuit(netlist, { until: column.until, tolerance: 0.05, maxStep: column.until / 40 });
      return run.events.filter((e) => e.what === 'on').length === column.gaps.length;
    };
    if (erects(least)) high = least;
    else if (!erects(most)) return (onProgress?.((i + 1) / shots), Infinity);
    for (let round = 0; round < 8 && high - low > 0.003; round++) {
      const middle = (low + high) / 2;
      if (erects(middle)) high = middle;
      else low = middle;
    }
    onProgress?.((i + 1) / shots);
    return high;
  });
  if (thresholds.includes(null)) return null;
  // The first gap pre-fires as well, where a trigger is to fire it; it keeps its proportion to the others.
  const own = firstGapOf(rig);
  const first = draws.map((draw) =>
    Math.min(
      draw.length > 0 ? Math.min(...draw) : Infinity,
      own ? (own.selfBreak / column.setting) * (1 + own.scatter * next()) : Infinity,
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
