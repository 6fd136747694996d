import { edge } from '../numeric/index.ts';
import type { LimitSpec, Slot } from '../block/index.ts';
import { checkPath } from '../kind/index.ts';
import type { QuantityField } from '../field/index.ts';
import { Corners, reasonOf, type Corner } from '../figure/index.ts';
import type { UnitId } from '../quantity/index.ts';
import { quantityAt, withTrialValue, type Rig } from '../rig/index.ts';

/** One field changed, everything else as it is, that brings a limit to its rating at the worst corner. */
export interface Relief {
  readonly path: string;
  readonly slot: Slot;
  readonly field: string;
  readonly title: string;
  readonly unit: UnitId;
  /** Value the field needs, rounded to the kind side. */
  readonly value: number;
  readonly direction: 'raise' | 'lower';
}

/** What a person can still build of it: a change by more, or below what leads and contacts have by themselves, is no way out. Common practice, no source. */
const decadesSearched = 2;
const countsSearched = 50;
const leastBuilt: { readonly [unit: string]: number } = { H: 20e-9, Ω: 1e-3 };

/** Stress over rating at a corner of a changed rig; null where it has none there. */
function ratioAtCorner(rig: Rig, spec: LimitSpec, corner: Corner): number | null {
  try {
    const reading = new Corners(rig).at(corner);
    const rating = spec.rating(reading);
    return rating ? spec.stress(reading).value / rating.value : null;
  } catch (error) {
    if (reasonOf(error)) return null;
    throw error;
  }
}

/** The least and the greatest that are proposed; null where the least is only come near to. */
const rangeOf = (field: QuantityField): { readonly least: number | null; readonly most: number } => {
  const built = leastBuilt[field.unit] ?? 0;
  return { least: field.open && field.min >= built ? null : Math.max(field.min, built), most: field.max };
};

/** A value of the walk, or the end of the range that the step went over. */
function within(field: QuantityField, before: number, value: number): number | null {
  const { least, most } = rangeOf(field);
  if (least === null ? value > field.min : value >= least) return value <= most ? value : before < most ? most : null;
  return least !== null && before > least ? least : null;
}

function searchCount(start: number, holds: (value: number) => boolean): number | null {
  for (let n = start + 1; n <= start + countsSearched; n++) if (holds(n)) return n;
  for (let n = start - 1; n >= 1; n--) if (holds(n)) return n;
  return null;
}

/** Walks away from `start` in both directions until the limit holds, then closes in on the edge. */
function searchValue(start: number, field: QuantityField, holds: (value: number) => boolean): number | null {
  const origin = start > 0 ? start : field.unit === 'H' ? 1e-9 : field.unit === 'Ω' ? 1e-4 : 1;
  const factor = 10 ** 0.25;
  for (let i = 1; i <= decadesSearched * 4; i++) {
    for (const direction of [1, -1]) {
      const before = origin * factor ** ((i - 1) * direction);
      const value = within(field, before, origin * factor ** (i * direction));
      if (value !== null && holds(value)) return closeIn(before, value, holds);
    }
  }
  return null;
}

const closeIn = (failing: number, holding: number, holds: (value: number) => boolean): number =>
  edge(holds, holding, failing, { rounds: 24, isRatio: true }).below;

/** Three significant digits: the nearest if the limit holds there, else the next on the side where it does. */
function roundKindly(value: number, direction: 'raise' | 'lower', holds: (value: number) => boolean): number {
  const nearest = Number(value.toPrecision(3));
  if (holds(nearest)) return nearest;
  const step = 10 ** (Math.floor(Math.log10(value)) - 2);
  return Number((nearest + (direction === 'raise' ? step : -step)).toPrecision(3));
}

function reliefBy(rig: Rig, spec: LimitSpec, worst: Corner, unsure: number, path: string): Relief | null {
  checkPath(path);
  const at = quantityAt(rig, path);
  if (!at?.value) return null;
  const { slot, id, field, value: now } = at;
  const holds = (value: number) => (ratioAtCorner(withTrialValue(rig, path, value), spec, worst) ?? Infinity) * unsure <= 1;
  const found = field.integer ? searchCount(now.value, holds) : searchValue(now.value, field, holds);
  if (found === null) return null;
  const direction = found > now.value ? 'raise' : 'lower';
  const value = field.integer ? found : roundKindly(found, direction, holds);
  return { path, slot, field: id, title: field.title, unit: field.unit, value, direction };
}

/**
 * What single changes would bring a limit to its rating, in the order in which its declaration names them.
 *
 * @param worst the corner at which the limit is tightest; the side of each tolerance that raises a stress stays the same
 *   while one value moves
 * @param unsure by how much the formulas behind it may be off, as a factor of the utilisation
 */
export const reliefOf = (rig: Rig, spec: LimitSpec, worst: Corner, unsure: number): Relief[] =>
  spec.levers.map((path) => reliefBy(rig, spec, worst, unsure, path)).filter((relief): relief is Relief => relief !== null);
