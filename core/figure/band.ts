import { Unavailable, type Slot } from '../block/index.ts';
import { FormulaError, givens, isTuned, modelSpread, type Given, type Worked } from '../formula/index.ts';
import { bounds } from '../quantity/index.ts';
import { endsAt, quantityAt, type Rig } from '../rig/index.ts';
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
    const made = new RigReading(this.rig, overrides, overrides.size > 0 ? this.nominal() : null);
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

  /**
   * The band of a worked number: over the tolerances of what it depends on, inside them too where a tuned circuit has its greatest there,
   * and with the error of the formulas themselves.
   */
  bandOf(compute: (reading: RigReading) => Worked): Band {
    const nominal = compute(this.nominal());
    const leaves = [...givens(nominal).values()];
    const ends = this.band((reading) => compute(reading).value, leaves);
    const band = isTuned(nominal) ? this.inside(ends, leaves, (reading) => compute(reading).value) : ends;
    const { down, up } = modelSpread(nominal);
    if (down === 0 && up === 0) return band;
    // No error of a formula makes a size negative.
    return {
      ...band,
      low: nominal.value >= 0 ? Math.max(Math.min(0, band.low), band.low - down) : band.low - down,
      high: band.high + up,
    };
  }

  private readonly insides = new Map<string, RigReading>();

  /** The rig at values within its tolerances; figures of one tuned circuit ask for the same ones. */
  private within(values: ReadonlyMap<string, number>, near: RigReading): RigReading {
    const key = [...values].map(([path, value]) => `${path}:${value}`).join();
    const known = this.insides.get(key) ?? new RigReading(this.rig, new Map(values), near);
    this.insides.set(key, known);
    return known;
  }

  /** Looks along each toleranced input, from the greatest corner, for more than the corners have. */
  private inside(ends: Band, leaves: readonly Given[], value: (reading: RigReading) => number): Band {
    const spans = leaves.flatMap((leaf) => {
      if (leaf.origin.from === 'rule' || !leaf.tolerance) return [];
      const ends = endsAt(this.rig, leaf.origin.path);
      return ends ? [{ path: leaf.origin.path, ...ends }] : [];
    });
    const atValues = (values: ReadonlyMap<string, number>, near: RigReading): number => {
      try {
        return value(this.within(values, near));
      } catch (error) {
        if (!reasonOf(error)) throw error;
        return NaN;
      }
    };
    let high = ends.high;
    const corner = new Map(
      spans.map(({ path, low, high: top, value: middle }) => [
        path,
        ends.highAt[path] === 'low' ? low : ends.highAt[path] === 'high' ? top : middle,
      ]),
    );
    // What one input does not move is then there already.
    const greatest = this.within(corner, this.nominal());
    high = Math.max(high, atValues(corner, this.nominal()) || high);
    // Two circuits come into tune by any one of their inputs.
    for (const { path, low, high: top } of spans)
      for (const share of insideShares)
        high = Math.max(high, atValues(new Map(corner).set(path, low + (top - low) * share), greatest) || high);
    return high > ends.high ? { ...ends, high } : ends;
  }
}

/** Places within a tolerance that are looked at. */
const insideShares = [0.25, 0.5, 0.75] as const;

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
