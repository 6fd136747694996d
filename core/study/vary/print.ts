import type { Scattered } from '../../figure/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { quantityAt, type Rig } from '../../rig/index.ts';
import type { Axis } from './axis.ts';
import type { Cause, Matters, Share } from './matters.ts';
import type { Output } from './outputs.ts';
import type { SweepPoint } from './sweep.ts';

/** A number of what is asked, as people read it: uses of ratings in percent. */
export function printOutput(value: number, { unit, from }: Pick<Output, 'unit' | 'from'>, digits = 3): string {
  if (!Number.isFinite(value)) return 'no value';
  return from === 'limit' ? printPercent(value, digits) : printQuantity(value, unit, { digits });
}

/** A value of a field that is varied; what is counted without a unit. */
export const printPlace = (value: number, { unit, isWhole }: Pick<Axis, 'unit' | 'isWhole'>, digits = 3): string =>
  isWhole ? String(value) : printQuantity(value, unit, { digits, trim: true });

/** A share of variance with its standard error, both in whole percent. */
const printShare = (share = 0, error = 0): string =>
  `${Math.max(0, Math.round(100 * share))} ±${Math.max(1, Math.round(100 * error))} %`;

export const printFirst = (share?: Share): string => printShare(share?.first, share?.firstError);
export const printTotal = (share?: Share): string => printShare(share?.total, share?.totalError);

/** What a swept output is called: limits stand at their worst case there. */
export const sweptTitle = ({ title, from }: Pick<Output, 'title' | 'from'>): string =>
  from === 'limit' ? `${title}, worst case` : title;

const inUnits = (name: string, unit: string): string => (unit === '1' ? name : `${name} (${unit})`);
const known = (value: number | undefined): number | null => (value !== undefined && Number.isFinite(value) ? value : null);

/** A column of a table of a study, in SI units. */
export interface StudyColumn {
  readonly name: string;
  readonly data: readonly (number | string | null)[];
}

/** Columns as what writes a table takes them. */
export const tableOf = (
  columns: readonly StudyColumn[],
): { fields: string[]; data: (number | string | null | undefined)[][] } => ({
  fields: columns.map(({ name }) => name),
  data: (columns[0]?.data ?? []).map((_, i) => columns.map(({ data }) => data[i])),
});

/** What scatters from shot to shot, each with its standard deviation. */
export const printScattered = (scattered: readonly Scattered[]): string =>
  scattered.map(({ title, deviation }) => `${title} (σ ${printPercent(deviation, 2)})`).join(', ');

/** Over what a cause was moved: its tolerance, or its scatter from shot to shot. */
export function printSpan(rig: Rig, cause: Cause): string {
  if (cause.of === 'shots') {
    const { deviation, of } = cause.scattered;
    return `shot to shot, σ ${printPercent(deviation, 2)}${of > 1 ? `, lowest of ${of}` : ''}, 2σ each way`;
  }
  const { path, low, high } = cause.field;
  const unit = quantityAt<string>(rig, path)?.field.unit ?? '1';
  return `${printQuantity(low, unit)} to ${printQuantity(high, unit)}`;
}

/** What has to be known of what matters where shots scatter; null where none does. */
export const shotsNote = ({ causes }: Pick<Matters, 'causes'>): string | null =>
  causes.some(({ of }) => of === 'shots')
    ? 'Each point is a shot, the nominal one at the mean of what scatters: where a limit leaves room for that scatter elsewhere, none is left here.'
    : null;

/** The points of a sweep as a table: page and terminal write the same. */
export function sweepColumns(axes: readonly Axis[], outputs: readonly Output[], points: readonly SweepPoint[]): StudyColumn[] {
  const column = (name: string, of: (point: SweepPoint) => number | string | null): StudyColumn => ({
    name,
    data: points.map(of),
  });
  return [
    ...axes.map(({ path, unit }, k) => column(inUnits(path, unit), ({ at }) => known(at[k]))),
    ...outputs.flatMap(({ id, unit, from }, k) => [
      column(inUnits(id, unit), (point) => known(point.outputs[k]?.value)),
      ...(from === 'figure'
        ? (['low', 'high'] as const).map((end) =>
            column(inUnits(`${id} ${end}`, unit), (point) => known(point.outputs[k]?.[end])),
          )
        : []),
    ]),
    column('tightest limit', ({ tightest }) => tightest?.id.replace(/^limit:/, '') ?? null),
    column('its use, worst case', ({ tightest }) => tightest?.use ?? null),
    column('limits over', ({ over }) => over.length),
  ];
}

/** Samples as a table. */
export const scatterColumns = (outputs: readonly Output[], columns: readonly Float64Array[]): StudyColumn[] => [
  { name: 'sample', data: Array.from(columns[0] ?? [], (_, i) => i) },
  ...outputs.map(({ id, unit }, k) => ({ name: inUnits(id, unit), data: Array.from(columns[k] ?? [], known) })),
];
