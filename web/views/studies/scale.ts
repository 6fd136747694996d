import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { Output } from '@vast-surge/core/study';
import { roundTicks } from '../../plot/ticks.ts';

/** A number of what is asked, at an axis; `like` is the greatest beside it. */
export function printTick(value: number, { unit, from }: Pick<Output, 'unit' | 'from'>, like: number): string {
  return from === 'limit' ? printPercent(value, 3) : printQuantity(value, unit, { trim: true, like });
}

/** Digits in which numbers of this size that differ by so much are told apart. */
export const digitsFor = (size: number, by: number): number =>
  by > 0 && Number.isFinite(size) ? Math.min(6, Math.max(3, Math.ceil(Math.log10(Math.abs(size) / by)) + 2)) : 3;

export interface Scale {
  readonly from: number;
  readonly to: number;
  /** px */
  at(value: number): number;
  readonly ticks: readonly number[];
}

/** Powers of ten, and two and five times them where these are few. */
function logTicks(from: number, to: number): number[] {
  const [low, high] = [Math.floor(Math.log10(from)), Math.ceil(Math.log10(to))];
  const steps = high - low > 3 ? [1] : high - low > 1 ? [1, 3] : [1, 2, 5];
  return Array.from({ length: high - low + 1 }, (_, k) => steps.map((m) => Number(`${m}e${low + k}`)))
    .flat()
    .filter((v) => v >= from * 0.999 && v <= to * 1.001);
}

/** Where values stand between two px; `apart` is what the numbers of two ticks want at the least. */
export function scaleOf(from: number, to: number, a: number, b: number, isLog = false, apart = 64): Scale {
  const place = (v: number) => (to === from ? 0.5 : isLog ? Math.log(v / from) / Math.log(to / from) : (v - from) / (to - from));
  const all = isLog ? logTicks(from, to) : roundTicks(from, to);
  // So many that their numbers do not touch.
  const every = Math.ceil(all.length / Math.max(2, Math.floor(Math.abs(b - a) / apart)));
  return { from, to, at: (v) => a + place(v) * (b - a), ticks: all.filter((_, i) => i % every === 0) };
}

/** The range that holds all of these, with a little room; from nought where that is near. */
export function roomFor(values: readonly number[]): readonly [number, number] {
  const known = values.filter(Number.isFinite);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  if (known.length === 0) return [0, 1];
  if (low === high) return low === 0 ? [0, 1] : [Math.min(0, low * 1.2), Math.max(0, low * 1.2)];
  const room = (high - low) * 0.06;
  return [low >= 0 && low < 0.4 * high ? 0 : low - room, high + room];
}
