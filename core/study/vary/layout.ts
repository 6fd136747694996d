import type { Rig } from '../../rig/index.ts';
import type { Axis } from './axis.ts';
import { limitNames, limitPlace } from './inputs.ts';
import type { Output } from './outputs.ts';
import { pointsOf, sweepChunk, valuesAt, type SweepPoint } from './sweep.ts';

/**
 * How the points of a sweep lie in columns: of each output its value and both ends; then the place of the tightest limit among all limits,
 * and its use; then which limits are over their ratings, 32 of them in a column.
 */
export interface SweepLayout {
  readonly axes: readonly Axis[];
  readonly outputs: readonly Output[];
  /** Every limit that a rig of these kinds can have: fields that are varied make no other. */
  readonly limits: readonly string[];
}

const perOutput = 3;
const perMask = 32;

/** Points of a stretch, from which it begins. */
export interface SweepStretch {
  readonly from: number;
  /** Its columns as they lie in memory, one behind the other; NaN where there is no such number. */
  readonly numbers: Float64Array;
}

export const layoutOf = (rig: Rig, axes: readonly Axis[], outputs: readonly Output[]): SweepLayout => ({
  axes,
  outputs,
  limits: limitNames(rig),
});

/** Columns that the points of a sweep take. */
export const widthOf = ({ outputs, limits }: SweepLayout): number =>
  perOutput * outputs.length + 2 + Math.ceil(limits.length / perMask);

/** A stretch of a sweep in its columns, from one point to before another: the same bytes whoever works it out. */
export function sweepColumnsChunk(rig: Rig, layout: SweepLayout, from: number, to: number): Float64Array[] {
  const { axes, outputs, limits } = layout;
  const points = sweepChunk(rig, { axes, outputs: outputs.map(({ id }) => id) }, from, to);
  const columns = Array.from({ length: widthOf(layout) }, () => new Float64Array(points.length));
  const put = (column: number, row: number, value: number): void => {
    const into = columns[column];
    if (into) into[row] = value;
  };
  const behind = perOutput * outputs.length;
  points.forEach(({ outputs: read, tightest, over }, row) => {
    read.forEach(({ value, low, high }, k) => [value, low, high].forEach((v, j) => put(perOutput * k + j, row, v)));
    put(behind, row, tightest ? limitPlace(limits, tightest.id) : NaN);
    put(behind + 1, row, tightest?.use ?? NaN);
    for (const id of over) {
      const place = limitPlace(limits, id);
      const mask = columns[behind + 2 + Math.floor(place / perMask)];
      if (mask) mask[row] = (mask[row] ?? 0) + 2 ** (place % perMask);
    }
  });
  return columns;
}

/** The points of a sweep out of its columns; those that are not there yet are left out. */
export function sweepPoints(layout: SweepLayout, stretches: readonly SweepStretch[]): (SweepPoint | undefined)[] {
  const { axes, outputs, limits } = layout;
  const points = new Array<SweepPoint | undefined>(pointsOf(layout)).fill(undefined);
  const behind = perOutput * outputs.length;
  const width = widthOf(layout);
  for (const { from, numbers } of stretches) {
    const rows = numbers.length / width;
    for (let row = 0; row < rows; row++) {
      const at = (column: number) => numbers[column * rows + row] ?? NaN;
      const place = at(behind);
      points[from + row] = {
        at: valuesAt(axes, from + row),
        outputs: outputs.map((_output, k) => ({
          value: at(perOutput * k),
          low: at(perOutput * k + 1),
          high: at(perOutput * k + 2),
        })),
        tightest: Number.isFinite(place) ? { id: limits[place] ?? '', use: at(behind + 1) } : null,
        over: limits.filter((_id, k) => Math.floor(at(behind + 2 + Math.floor(k / perMask)) / 2 ** (k % perMask)) % 2 === 1),
      };
    }
  }
  return points;
}
