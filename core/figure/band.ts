import { Unavailable, type Slot } from '../block/index.ts';
import { FormulaError, givens, type Given, type Worked } from '../formula/index.ts';
import { bounds } from '../quantity/index.ts';
import { quantityAt, type Rig } from '../rig/index.ts';
import { RigReading } from './context.ts';

export type Side = 'low' | 'high';
/** Which toleranced inputs stand at which end of their tolerance. */
export type Corner = Readonly<Record<string, Side>>;

/** The least and the greatest value a figure takes over all corners of the tolerances it depends on. */
export interface Band {
  readonly low: number;
  readonly high: number;
  readonly highAt: Corner;
  readonly lowAt: Corner;
  /** Set where some corner has no value at all: a charge that the supply never reaches there. */
  readonly broken?: string;
}

/** A reason a figure is missing, as a user reads it. */
export const reasonOf = (error: unknown): { slot: Slot; reason: string; field?: string } | null => {
  if (error instanceof Unavailable)
    return { slot: error.slot, reason: error.message, ...(error.field ? { field: error.field } : {}) };
  if (error instanceof FormulaError) return { slot: 'store', reason: error.message };
  return null;
};

/**
 * Readings of one rig at the corners of its tolerances, each made once.
 *
 * The range of a figure is found by moving each toleranced input alone to both of its ends, taking the direction that
 * raises the figure, and evaluating the two corners where all of them agree. That is exact for a figure that is monotone
 * in every input, as all closed forms here are; an input that moves the figure the same way at both ends is tried both
 * ways in every combination instead.
 */
export class Corners {
  private readonly readings = new Map<string, RigReading>();
  readonly rig: Rig;

  constructor(rig: Rig) {
    this.rig = rig;
  }

  /** The rig with the named inputs at the named ends of their tolerances. */
  at(corner: Corner): RigReading {
    const key = Object.keys(corner)
      .sort()
      .map((path) => `${path}:${corner[path]}`)
      .join();
    const known = this.readings.get(key);
    if (known) return known;
    const overrides = new Map<string, number>();
    for (const [path, side] of Object.entries(corner)) {
      const value = quantityAt(this.rig, path)?.value;
      if (value) overrides.set(path, bounds(value)[side]);
    }
    const made = new RigReading(this.rig, overrides);
    this.readings.set(key, made);
    return made;
  }

  nominal(): RigReading {
    return this.at({});
  }

  /** The band of any number computed from the rig. @throws what the nominal computation throws */
  band(compute: (reading: RigReading) => number, leaves: readonly Given[]): Band {
    const nominal = compute(this.nominal());
    const paths = leaves.flatMap((leaf) => (leaf.origin.from === 'rule' || !leaf.tolerance ? [] : [leaf.origin.path]));
    let broken: string | undefined;
    const value = (corner: Corner): number | null => {
      try {
        return compute(this.at(corner));
      } catch (error) {
        const reason = reasonOf(error);
        if (!reason) throw error;
        broken = reason.reason;
        return null;
      }
    };
    const up: Record<string, Side> = {};
    const either: string[] = [];
    for (const path of paths) {
      const low = value({ [path]: 'low' }) ?? Infinity;
      const high = value({ [path]: 'high' }) ?? Infinity;
      if ((low - nominal) * (high - nominal) > 0) either.push(path);
      else up[path] = high >= low ? 'high' : 'low';
    }
    const down: Record<string, Side> = Object.fromEntries(
      Object.entries(up).map(([path, side]) => [path, side === 'high' ? 'low' : 'high']),
    );
    const candidates = combinations(either.slice(0, 8)).flatMap((free) => [
      { ...up, ...free },
      { ...down, ...free },
    ]);
    let band: Band = { low: nominal, high: nominal, lowAt: {}, highAt: {} };
    for (const corner of candidates) {
      const y = value(corner) ?? Infinity;
      if (y > band.high) band = { ...band, high: y, highAt: corner };
      if (y < band.low) band = { ...band, low: y, lowAt: corner };
    }
    return broken === undefined ? band : { ...band, broken };
  }

  bandOf(compute: (reading: RigReading) => Worked): Band {
    const leaves = [...givens(compute(this.nominal())).values()];
    return this.band((reading) => compute(reading).value, leaves);
  }
}

function combinations(paths: readonly string[]): Corner[] {
  return paths.reduce<Corner[]>(
    (all, path) =>
      all.flatMap((corner) => [
        { ...corner, [path]: 'low' as const },
        { ...corner, [path]: 'high' as const },
      ]),
    [{}],
  );
}
