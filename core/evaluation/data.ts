import type { UnitId } from '../quantity/index.ts';
import type { Evaluation } from './evaluate.ts';

/** A number as JSON can carry it: what is not finite is null. */
const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

export interface FigureData {
  readonly title: string;
  readonly value: number | null;
  readonly unit: UnitId;
  readonly low: number | null;
  readonly high: number | null;
  readonly reason?: string;
}

export interface LimitData {
  readonly id: string;
  readonly title: string;
  readonly stress: number | null;
  readonly stressHigh: number | null;
  readonly rating: number | null;
  readonly unit: UnitId;
  readonly utilisation: number | null;
  readonly utilisationWorst: number | null;
}

/** An evaluation as plain data in SI units, for the terminal and for files. */
export function evaluationData(evaluation: Evaluation) {
  const figures: Record<string, FigureData> = {};
  for (const figure of evaluation.figures) {
    const unit = figure.ok ? figure.worked.unit : '1';
    figures[figure.id] = figure.ok
      ? {
          title: figure.title,
          value: finite(figure.worked.value),
          unit,
          low: finite(figure.band.low),
          high: finite(figure.band.high),
          ...(figure.band.broken ? { reason: figure.band.broken } : {}),
        }
      : { title: figure.title, value: null, unit, low: null, high: null, reason: figure.reason };
  }
  const limits: LimitData[] = evaluation.ladder.limits.map((l) => ({
    id: l.id,
    title: l.title,
    stress: finite(l.stress.value),
    stressHigh: finite(l.band.high),
    rating: l.rating ? finite(l.rating.value) : null,
    unit: l.stress.unit,
    utilisation: l.utilisation === null ? null : finite(l.utilisation),
    utilisationWorst: l.worst === null ? null : finite(l.worst),
  }));
  const hazard = evaluation.hazard && {
    class: evaluation.hazard.class,
    findings: evaluation.hazard.findings.map((f) => ({
      id: f.rule.id,
      source: f.rule.source,
      value: f.value,
      threshold: f.rule.threshold,
      unit: f.rule.unit,
      exceeded: f.exceeded,
    })),
  };
  return { figures, limits, problems: evaluation.problems, hazard, notJudged: evaluation.ladder.blind };
}
