import { normals } from '../../numeric/index.ts';
import { simulateCircuit } from '../../circuit/index.ts';
import { RigReading } from '../../figure/index.ts';
import { hasDesk, type Rig } from '../../rig/index.ts';
import { columnOf, firings, isFired, withGaps, type Column } from './column.ts';
import { overvoltages } from './erection.ts';

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
  /** Charge voltage from which hardly any shot misfires, V; null where many do at any voltage. */
  readonly erectsFrom: number | null;
  /** Charge voltage up to which hardly any charge pre-fires, V. */
  readonly holdsTo: number;
  /** Charge voltages between which hardly any shot misfires or pre-fires with the gaps as they are set, V; null where there are none. */
  readonly window: { readonly low: number; readonly high: number } | null;
}

/** A share of shots that is taken for hardly any. */
const hardlyAny = 0.01;

/** Self-break and scatter of the first gap, where a trigger is to fire it; null where it is none or self-breaks anyway. */
function firstGapOf(rig: Rig): { selfBreak: number; scatter: number } | null {
  if (!hasDesk(rig, 'gap')) return null;
  const reading = new RigReading(rig);
  const own = reading.own('switch');
  if (!own.is('mode', 'triggered')) return null;
  return { selfBreak: reading.figure('self-break').value, scatter: own.quantity('sc').value };
}

/** Ratios at which shots are asked whether they erect: a shot is found between two of them. */
const [least, most, cells] = [0.2, 1.1, 256] as const;
const ratioAt = (cell: number): number => least + ((most - least) * cell) / cells;

/** What is asked of the shots of a rig. */
interface Asked {
  readonly column: Column;
  /** Of each shot the self-break of each gap behind the first, over its setting. */
  readonly draws: readonly (readonly number[])[];
  /** The lowest ratio at which some gap of a shot self-breaks. */
  readonly weakest: readonly number[];
}

/** The shots of a rig: the same for the same rig, however many of them are run where. */
function askedOf(rig: Rig, shots: number): Asked {
  const column = columnOf(rig);
  const scatter = new RigReading(rig).own('store').quantity('sc').value;
  const next = normals(1);
  const behind = column.stages.filter(({ gap }) => !isFired(gap));
  const draws = Array.from({ length: shots }, () => behind.map(() => Math.max(0.05, 1 + scatter * next())));
  // The first gap pre-fires as well, where a trigger is to fire it; it keeps its proportion to the others.
  const own = firstGapOf(rig);
  const firsts = column.stages.length - behind.length;
  const weakest = draws.map((draw) =>
    Math.min(
      draw.length > 0 ? Math.min(...draw) : Infinity,
      ...Array.from({ length: firsts }, () => (own ? (own.selfBreak / column.setting) * (1 + own.scatter * next()) : Infinity)),
    ),
  );
  return { column, draws, weakest };
}

/**
 * The cell of ratios above which a shot erects: -1 where it does at every ratio, {@link cells} where at none. A gap that fires at some ratio
 * fires at every higher one, so that whatever is tried first, the answer is the same.
 *
 * @param first the cell to try first
 * @param tried whether it erects at a cell; where it does not, the cell at which it might
 */
function thresholdOf(first: number, tried: (cell: number) => { readonly erects: boolean; readonly next: number }): number {
  let [low, high] = [-1, cells + 1];
  let stride = 1;
  let at = first;
  while (high - low > 1) {
    const cell = Math.min(Math.max(at, low + 1, 0), high - 1, cells);
    const { erects, next } = tried(cell);
    if (erects) {
      high = cell;
      // Mostly it does not erect one cell lower.
      at = cell - stride;
      stride *= 2;
    } else {
      low = cell;
      at = Math.max(next, cell + 1);
      // What a failure foretells may fall short again and again.
      if (high <= cells && at >= high) at = Math.floor((low + high) / 2);
      stride = 1;
    }
  }
  return low;
}

/** Some shots of a study. */
export interface ShotsOfStudy {
  /** Of the whole study. */
  readonly shots: number;
  /** Those that are run: from the first up to the last where they are left out. */
  readonly from?: number;
  readonly to?: number;
  /** What the gaps see, as {@link overvoltages} finds it; worked out where it is left out. */
  readonly over?: readonly (number | null)[];
}

/**
 * Of shots of a Marx, seeded, the lowest ratio of charge voltage to the setting of its gaps at which each erects: Infinity where it does at
 * none. The circuit is linear but for its gaps, so a shot depends on charge voltage and setting only through their ratio.
 *
 * @param onProgress is told how many of them are done
 * @param cancelled asked between shots; what is cancelled is null
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionThresholds(
  rig: Rig,
  { shots, from = 0, to = shots, over = overvoltages(rig) }: ShotsOfStudy,
  { onProgress, cancelled }: { readonly onProgress?: (done: number) => void; readonly cancelled?: () => boolean } = {},
): number[] | null {
  const { column, draws } = askedOf(rig, shots);
  const { stages, charged } = column;
  const names = stages.map(({ gap }) => gap.name);
  const place = new Map(stages.filter(({ gap }) => !isFired(gap)).map(({ gap }, i) => [gap.name, i]));
  // Of each tower what its gaps need one after another, where their self-break is their setting: with one that erects the others are helped.
  const towers = [...new Set(stages.map(({ tower }) => tower))];
  const needOf = (draw: readonly number[], tower: number): number =>
    Math.max(
      0,
      ...stages.flatMap(({ tower: own, gap }, i) => {
        const one = draw[place.get(gap.name) ?? -1];
        return own !== tower || one === undefined ? [] : [(one * charged) / (gap.breakdown * (over[i] ?? 1))];
      }),
    );
  // A tower gets as far as its first gap that does not fire; the one that lacks least is the next to go on.
  const nextOf = (held: ReadonlyMap<string, number>): number => {
    const stuck = new Map<number, number>();
    for (const { tower, gap } of stages) {
      const share = held.get(gap.name);
      if (share !== undefined && !stuck.has(tower)) stuck.set(tower, share);
    }
    return Math.max(...stuck.values());
  };
  const found: number[] = [];
  for (let shot = from; shot < to; shot++) {
    if (cancelled?.()) return null;
    const draw = draws[shot] ?? [];
    const tried = (cell: number) => {
      const ratio = ratioAt(cell);
      const netlist = withGaps(column, (name) => ((draw[place.get(name) ?? -1] ?? 1) * charged) / ratio);
      const run = simulateCircuit(netlist, {
        until: column.until,
        tolerance: 0.05,
        maxStep: column.until / 40,
        untilClosed: names,
      });
      const fired = firings(run);
      const erects = names.every((name) => fired.has(name));
      return { erects, next: erects ? cell : cellAbove(ratio / nextOf(run.held)) };
    };
    const needed = Math.min(...towers.map((tower) => needOf(draw, tower)));
    const low = thresholdOf(cellAbove(needed), tried);
    found.push(low >= cells ? Infinity : ratioAt(Math.max(0, low + 1)));
    onProgress?.(shot - from + 1);
  }
  return found;
}

/** The lowest cell whose ratio is no lower than that. */
const cellAbove = (ratio: number): number => {
  const cell = Math.ceil(((ratio - least) / (most - least)) * cells);
  return Number.isFinite(cell) ? cell : cells;
};

/**
 * What many shots come to: misfires and pre-fires over a range of charge voltages, and the window between them.
 *
 * @param thresholds of all shots in their order, as {@link erectionThresholds} finds them
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionOf(rig: Rig, thresholds: readonly number[], ratios = 46): ErectionStudy {
  const shots = thresholds.length;
  const { column, weakest: first } = askedOf(rig, shots);
  const rates = Array.from({ length: ratios }, (_, i): ErectionRate => {
    const ratio = least + ((most - least) * i) / (ratios - 1);
    return {
      ratio,
      misfire: thresholds.filter((threshold) => threshold > ratio).length / shots,
      prefire: first.filter((weakest) => weakest < ratio).length / shots,
    };
  });
  const sorted = [...thresholds].sort((a, b) => a - b);
  const weakest = [...first].sort((a, b) => a - b);
  const low = sorted[Math.min(shots - 1, Math.ceil(shots * (1 - hardlyAny)) - 1)] ?? Infinity;
  const high = weakest[Math.floor(shots * hardlyAny)] ?? 0;
  return {
    charged: column.charged,
    setting: column.setting,
    shots,
    rates,
    erectsFrom: Number.isFinite(low) ? low * column.setting : null,
    holdsTo: high * column.setting,
    window: low < high ? { low: low * column.setting, high: high * column.setting } : null,
  };
}

/**
 * Fires the column many times with the scatter of its gaps: {@link erectionThresholds} of all shots, and what they come to.
 *
 * @param onProgress is told the share that is done
 * @param cancelled asked between shots; a study that is cancelled is null
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be run
 */
export function erectionStudy(
  rig: Rig,
  {
    shots = 200,
    ratios,
    onProgress,
    cancelled,
  }: { shots?: number; ratios?: number; onProgress?: (share: number) => void; cancelled?: () => boolean } = {},
): ErectionStudy | null {
  const thresholds = erectionThresholds(
    rig,
    { shots },
    {
      ...(onProgress ? { onProgress: (done: number) => onProgress(done / shots) } : {}),
      ...(cancelled ? { cancelled } : {}),
    },
  );
  return thresholds && erectionOf(rig, thresholds, ratios);
}
