import { printQuantity } from '../quantity/index.ts';
import type { Slot } from '../block/index.ts';
import { blockIn, quantityAt, spotIn, typedAt, withBlock, type Rig } from '../rig/index.ts';

/**
 * What a hand does from one setting to another where a screw sets it whose travel is known: "turn it in by 0.4 turns".
 *
 * @param from what it stands at, and `to` what it is set to, SI
 * @returns null where no screw is entered, or nothing is to be turned
 */
export function turnsTold(rig: Rig, path: string, from: number, to: number): string | null {
  const at = quantityAt<string>(rig, path);
  const lead = at?.field.turnedBy === undefined ? null : blockIn(rig, at.spot).fields[at.field.turnedBy];
  if (typeof lead !== 'object' || lead === null || !(lead.value > 0) || from === to) return null;
  const turns = Number((Math.abs(to - from) / lead.value).toPrecision(3));
  return `turn it ${to < from ? 'in' : 'out'} by ${turns} ${turns === 1 ? 'turn' : 'turns'} of ${printQuantity(lead.value, 'm', { trim: true })}, and measure`;
}

/** What a setting sets: a field by its path, with its value in SI and as it is written. */
interface SetValue {
  readonly path: string;
  readonly value: number;
  readonly text: string;
}

/**
 * Where a field of a series stands in a rig: without a number in every channel that has it, as three equal stages are charged alike; with one,
 * `store@2.V0`, in that channel alone.
 */
export function pathsOf(rig: Rig, path: string): string[] {
  const [spot = '', field = ''] = path.split('.');
  if (spot.includes('@') || rig.channels.length < 2) return [path];
  const all = new Set(rig.channels.map((_, k) => `${spotIn(spot as Slot, k)}.${field}`));
  const there = [...all].filter((one) => quantityAt<string>(rig, one)?.value != null);
  return there.length > 0 ? there : [path];
}

const isSame = (a: number, b: number): boolean => Math.abs(a - b) <= 1e-9 * Math.abs(b);

/** Whether a rig stands at a setting, in every place that it sets. */
export const isSetTo = (rig: Rig, values: readonly SetValue[]): boolean =>
  values.every(({ path, value }) =>
    pathsOf(rig, path).every((one) => {
      const at = quantityAt<string>(rig, one);
      return at?.value != null && isSame(at.value.value, value);
    }),
  );

/** A rig that a person has set to a setting: values as they are written in the plan, with the tolerances that the rig has. */
export const rigSetTo = (rig: Rig, values: readonly SetValue[]): Rig =>
  values.reduce((made, { path, value, text }) => {
    const typed = typedAt<string>(made, path, value, { typed: text, digits: 12 });
    return typed === null
      ? made
      : pathsOf(made, path).reduce((of, one) => {
          const at = quantityAt<string>(of, one);
          if (!at) return of;
          const block = blockIn(of, at.spot);
          return withBlock(of, at.spot, { ...block, fields: { ...block.fields, [at.id]: typed } });
        }, made);
  }, rig);
