import type { FigureId, Slot } from '../block/index.ts';
import type { UnitId } from '../quantity/index.ts';
import type { Evaluation } from './evaluate.ts';

/** A figure of one of two rigs that are compared; null where it cannot be worked out there or is none of its figures. */
export interface ComparedFigure {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

export interface FigureChange {
  readonly id: FigureId;
  readonly title: string;
  readonly slot: Slot;
  readonly unit: UnitId;
  readonly from: ComparedFigure | null;
  readonly to: ComparedFigure | null;
}

/** A limit of one of two rigs: shares of its rating, nominal and at the worst corner; null without a rating. */
export interface ComparedLimit {
  readonly utilisation: number | null;
  readonly worst: number | null;
}

export interface LimitChange {
  readonly id: string;
  readonly title: string;
  readonly from: ComparedLimit | null;
  readonly to: ComparedLimit | null;
}

export interface Comparison {
  readonly figures: readonly FigureChange[];
  readonly limits: readonly LimitChange[];
}

/** Below this relative difference two results read the same: half of the last of the three digits that are printed. */
const sameness = 5e-4;

const sameNumber = (a: number | null, b: number | null): boolean =>
  a === b || (a !== null && b !== null && Math.abs(a - b) <= sameness * Math.max(Math.abs(a), Math.abs(b)));

const same = (a: object | null, b: object | null): boolean => {
  if (a === null || b === null) return a === b;
  const [x, y] = [a as Record<string, number | null>, b as Record<string, number | null>];
  return Object.keys(x).every((key) => sameNumber(x[key] ?? null, y[key] ?? null));
};

/** All ids of both sides: those of `to` in their order, then those that only `from` has. */
const idsOf = <Id extends string>(from: ReadonlyMap<Id, unknown>, to: ReadonlyMap<Id, unknown>): Id[] => [
  ...to.keys(),
  ...[...from.keys()].filter((id) => !to.has(id)),
];

function figureChanges(from: Evaluation, to: Evaluation): FigureChange[] {
  const byId = (e: Evaluation) => new Map(e.figures.map((f) => [f.id, f]));
  const [before, after] = [byId(from), byId(to)];
  const compared = (f: Evaluation['figures'][number] | undefined): ComparedFigure | null =>
    f?.ok ? { value: f.worked.value, low: f.band.low, high: f.band.high } : null;
  return idsOf(before, after).flatMap((id) => {
    const [a, b] = [before.get(id), after.get(id)];
    const any = b ?? a;
    if (!any) return [];
    const unit = b?.ok ? b.worked.unit : a?.ok ? a.worked.unit : '1';
    const change = { id, title: any.title, slot: any.slot, unit, from: compared(a), to: compared(b) };
    return same(change.from, change.to) ? [] : [change];
  });
}

function limitChanges(from: Evaluation, to: Evaluation): LimitChange[] {
  const byId = (e: Evaluation) => new Map(e.ladder.limits.map((l) => [l.id, l]));
  const [before, after] = [byId(from), byId(to)];
  const compared = (l: Evaluation['ladder']['limits'][number] | undefined): ComparedLimit | null =>
    l ? { utilisation: l.utilisation, worst: l.worst } : null;
  return idsOf(before, after).flatMap((id) => {
    const [a, b] = [before.get(id), after.get(id)];
    const change = { id, title: (b ?? a)?.title ?? id, from: compared(a), to: compared(b) };
    return same(change.from, change.to) ? [] : [change];
  });
}

/** The figures and limits in which two evaluations differ. */
export const compareEvaluations = (from: Evaluation, to: Evaluation): Comparison => ({
  figures: figureChanges(from, to),
  limits: limitChanges(from, to),
});
