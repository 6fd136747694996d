import { ofTheAir, type Shot, type Values } from '@vast-surge/core/shot';

/** So long a shot's air holds for the next, ms: an afternoon. */
const airHolds = 6 * 3600e3;

/** The air that was read last and when, where that was a moment ago. */
export function airOfLast(
  shots: readonly { readonly shot: Shot }[] | undefined,
  now: string,
): { values: Values; at: string } | null {
  const last = shots?.find(({ shot }) => ofTheAir.some((id) => shot.set[id] !== undefined))?.shot;
  if (!last || Date.parse(now) - Date.parse(last.at) > airHolds) return null;
  const values = Object.fromEntries(ofTheAir.flatMap((id) => (last.set[id] === undefined ? [] : [[id, last.set[id]]])));
  return { values, at: last.at };
}

/** What was set, in two: the air, and all else. */
export function airIn(set: Values): { readonly air: Values; readonly rest: Values } {
  const isAir = (id: string) => ofTheAir.some((one) => one === id);
  const part = (wanted: boolean): Values => Object.fromEntries(Object.entries(set).filter(([id]) => isAir(id) === wanted));
  return { air: part(true), rest: part(false) };
}

/** Whether the air of two shots was read as the same. */
export const sameAir = (one: Values, other: Values): boolean => ofTheAir.every((id) => one[id] === other[id]);
