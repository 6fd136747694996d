import type { Slot } from '../block/index.ts';
import type { Block } from '../kind/index.ts';
import { blockIn, spotAt, spotsOf, type Rig, type Spot } from '../rig/index.ts';
import type { FieldValue } from '../field/index.ts';

/** What carries the shot. Where it is charged from, bled through or fired by changes nothing that is measured of it. */
const carries: readonly Slot[] = ['store', 'switch', 'crowbar', 'leads', 'load'];
/** What is set from shot to shot. */
const settings: Readonly<Partial<Record<Slot, readonly string[]>>> = { store: ['V0'], switch: ['d', 'p'] };

const isSetting = (spot: Spot, id: string): boolean => settings[spotAt(spot).slot]?.includes(id) === true;

const numberOf = (value: FieldValue | undefined): unknown =>
  typeof value === 'object' && value !== null ? value.value : (value ?? null);
const isMeasured = (value: FieldValue | undefined): boolean =>
  typeof value === 'object' && value !== null && value.from === 'measured';

function sameBlock(spot: Spot, a: Block, b: Block): boolean {
  if (!carries.includes(spotAt(spot).slot)) return true;
  if (a.kind !== b.kind) return false;
  const ids = new Set([...Object.keys(a.fields), ...Object.keys(b.fields)]);
  return [...ids].every((id) => {
    const [x, y] = [a.fields[id], b.fields[id]];
    return numberOf(x) === numberOf(y) || isSetting(spot, id) || isMeasured(x) || isMeasured(y);
  });
}

/**
 * Whether shots of two states of a rig teach of the same thing: nothing that carries the shot differs between them but what is set from shot
 * to shot and values that were measured. Tolerances, names, notes and the run sheet change nothing that is calculated.
 */
export function isComparable(a: Rig, b: Rig): boolean {
  const [spots, others] = [spotsOf(a), spotsOf(b)];
  return (
    spots.length === others.length &&
    spots.every((spot) => others.includes(spot) && sameBlock(spot, blockIn(a, spot), blockIn(b, spot)))
  );
}
