import { checkFigure, Corners, figureSpecs, ifKnown, type Band } from '../../figure/index.ts';
import type { FigureId } from '../../block/index.ts';
import { limitsOf } from '../../evaluation/index.ts';
import type { UnitId } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';
import { solvedAt, solvedOf } from './solved.ts';

/** Something that a study can ask of a rig. */
export interface Output {
  /** Of a figure its own id; `limit:…` and `solver:…` of the others. */
  readonly id: string;
  readonly title: string;
  /** Of a limit its own title; else the same. */
  readonly of: string;
  readonly unit: UnitId;
  /** Closed forms take a millisecond, the solver up to seconds. */
  readonly from: 'figure' | 'limit' | 'solver';
}

/** The use of whichever limit is tightest. */
export const tightestLimit = 'limit:tightest';

/** What is asked of a rig when nobody chose. */
export const usualOutputs: readonly string[] = ['peak-current', 'stored-energy', tightestLimit];

/** What can be asked of a rig, as it stands: figures that have a value, then uses of ratings, then what the solver says. */
export function outputsOf(rig: Rig): Output[] {
  const corners = new Corners(rig);
  const reading = corners.nominal();
  const figures = [...figureSpecs(rig).values()].flatMap(({ id, title }): Output[] => {
    const worked = ifKnown(() => reading.figure(id));
    return worked ? [{ id, title, of: title, unit: worked.unit, from: 'figure' }] : [];
  });
  const limits = limitsOf(corners).limits.flatMap(({ id, title, worst }): Output[] =>
    worst === null ? [] : [{ id: `limit:${id}`, title: `Use of rating: ${title}`, of: title, unit: '1', from: 'limit' }],
  );
  const solved = solvedOf(rig, reading).map(({ id, title, unit }): Output => ({ id, title, of: title, unit, from: 'solver' }));
  const named = 'Tightest limit';
  const tightest: Output[] = limits.length > 0 ? [{ id: tightestLimit, title: named, of: named, unit: '1', from: 'limit' }] : [];
  return [...figures, ...tightest, ...limits, ...solved];
}

/** A number at a point of a study, with its worst cases where it has them. */
export interface At {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}
const missing: At = { value: NaN, low: NaN, high: NaN };
const exactly = (value: number | undefined): At => (value === undefined ? missing : { value, low: value, high: value });

/** Uses of ratings, worst case, by `limit:` and the id of the limit: the numbers that the page of the rig shows. */
export type Uses = ReadonlyMap<string, number>;

export interface PointRead {
  readonly outputs: readonly At[];
  readonly uses: Uses;
}

const spanOf = ({ low, high }: Band, value: number): At => ({ value, low, high });

/** Everything that is asked of a rig at one point, as its own page would say it. */
export function readPoint(rig: Rig, ids: readonly string[]): PointRead {
  const corners = new Corners(rig);
  const uses: Uses = new Map<string, number>(
    limitsOf(corners).limits.flatMap(({ id, worst }) => (worst === null ? [] : [[`limit:${id}`, worst] as const])),
  );
  let solved: ((id: string) => number) | null = null;
  const outputs = ids.map((id): At => {
    if (id === tightestLimit) return exactly(uses.size > 0 ? Math.max(...uses.values()) : undefined);
    if (id.startsWith('limit:')) return exactly(uses.get(id));
    if (id.startsWith('solver:')) return exactly((solved ??= solvedAt(rig))(id));
    checkFigure(id);
    return (
      ifKnown(() => {
        const { value } = corners.nominal().figure(id as FigureId);
        return spanOf(
          corners.bandOf((reading) => reading.figure(id as FigureId)),
          value,
        );
      }) ?? missing
    );
  });
  return { outputs, uses };
}
