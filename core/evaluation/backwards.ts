import { edge } from '../numeric/index.ts';
import { Unavailable, type FigureId } from '../block/index.ts';
import { givens, type Worked } from '../formula/index.ts';
import { reasonOf, RigReading } from '../figure/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { quantityAt, withTrialValue, type Rig } from '../rig/index.ts';

export type Backwards = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly reason: string };

/** The inputs of a rig that a figure was worked out from, as paths such as `store.C`. */
export const leversOf = (worked: Worked): string[] =>
  [...givens(worked).values()].flatMap(({ origin }) => (origin.from === 'rule' ? [] : [origin.path]));

const decades = 6;
const perDecade = 40;

/**
 * Asks a rig backwards: the value of one input at which a figure, all else as it is, takes a wanted value (nominal).
 *
 * @param path the input, as {@link leversOf} lists them
 * @param target the wanted value in the figure's SI unit
 * @returns the value nearest to the present one, in the input's SI unit, or the reason why there is none
 */
export function solveRig(rig: Rig, figureId: FigureId, path: string, target: number): Backwards {
  const present = quantityAt(rig, path);
  if (!present?.value) return { ok: false, reason: `${path} is not given` };
  const { field: spec, value: now } = present;
  const at = (value: number): number | null => {
    if (value < spec.min || value > spec.max || (spec.open && value === spec.min)) return null;
    try {
      return new RigReading(withTrialValue(rig, path, value)).figure(figureId).value;
    } catch (error) {
      if (error instanceof Unavailable || reasonOf(error)) return null;
      throw error;
    }
  };
  return spec.integer
    ? solveCount(now.value, target, at)
    : solveValue(now.value || 1e-6, target, at, (v) => printQuantity(v, spec.unit));
}

function solveCount(start: number, target: number, at: (n: number) => number | null): Backwards {
  for (let n = 1; n <= Math.max(200, start * 2); n++) {
    const value = at(n);
    if (value !== null && Math.abs(value - target) <= 1e-6 * Math.abs(target)) return { ok: true, value: n };
  }
  return { ok: false, reason: 'no whole number gives exactly this' };
}

function solveValue(start: number, target: number, at: (x: number) => number | null, print: (x: number) => string): Backwards {
  const reached: number[] = [];
  for (let i = 0; i <= decades * perDecade; i++) {
    for (const direction of [1, -1]) {
      const [a, b] = [start * 10 ** ((direction * i) / perDecade), start * 10 ** ((direction * (i + 1)) / perDecade)];
      const [ya, yb] = [at(a), at(b)];
      if (ya !== null) reached.push(ya);
      if (ya === null || yb === null) continue;
      if (ya === target) return { ok: true, value: a };
      if ((ya - target) * (yb - target) < 0) return { ok: true, value: closeIn(a, b, target, at) };
    }
  }
  const range = reached.length > 0 ? ` between ${print(start * 10 ** -decades)} and ${print(start * 10 ** decades)}` : '';
  return { ok: false, reason: `no value${range} gives this` };
}

function closeIn(from: number, to: number, target: number, at: (x: number) => number | null): number {
  const rising = (at(from) ?? 0) < target;
  return edge((x) => (at(x) ?? 0) < target === rising, from, to, { rounds: 60, isRatio: true }).above;
}
