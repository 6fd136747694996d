import { bleedGoal, type FigureId } from '../block/index.ts';
import type { HazardClass } from '../hazard/index.ts';
import { tightest } from '../limit/index.ts';
import { printQuantity, type UnitId } from '../quantity/index.ts';
import type { Rig } from '../rig/index.ts';
import { evaluateRig, figureIn, leadsHazard, type Evaluation } from '../evaluation/index.ts';
import { predictedNumbers } from './predicted-shot.ts';

/** A figure as plain data: SI values, nominal and over the tolerances. */
export interface HeadlineFigure {
  readonly id: FigureId;
  readonly title: string;
  readonly unit: UnitId;
  readonly value: number;
  readonly high: number;
  /** What predicts it, where the working is only that of the closed form. */
  readonly by?: 'solver' | 'launch';
}

/** What a list shows of a rig, as plain data that a worker can send. */
export interface Headline {
  /** V */
  readonly chargedTo: number;
  readonly energy: HeadlineFigure | null;
  readonly peakCurrent: HeadlineFigure | null;
  /** Time through the bleeder; null without one. */
  readonly bleed: HeadlineFigure | null;
  /** What the bleed is to fall below, as printed: "50 V". */
  readonly bleedTo: string;
  readonly hazard: { readonly class: HazardClass; readonly headline: string; readonly by: string | null } | null;
  /** The tightest limit that has a rating. */
  readonly tightest: { readonly title: string; readonly utilisation: number | null; readonly worst: number | null } | null;
  readonly errors: number;
}

function figure(evaluation: Evaluation, id: FigureId): HeadlineFigure | null {
  const found = figureIn(evaluation, id);
  if (!found) return null;
  const { title, worked, band } = found;
  return { id, title, unit: worked.unit, value: worked.value, high: band.high };
}

/** The peak current of a shot as it is predicted: of a Marx by the solver, of a launcher by its launch. */
function peakCurrent(evaluation: Evaluation): HeadlineFigure | null {
  const closed = figure(evaluation, 'peak-current');
  if (!closed) return null;
  const { current, by } = predictedNumbers(evaluation.rig);
  if (current === null || by === 'closed form') return closed;
  return { ...closed, title: `Peak current, predicted by the ${by}`, value: current, high: current, by };
}

/** The headline of a rig. It has no NaN; a figure that cannot be had is null. */
export function headlineOf(rig: Rig): Headline {
  const evaluation = evaluateRig(rig);
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const limit = tightest(evaluation.ladder);
  const leads = leadsHazard(evaluation);
  return {
    chargedTo: reading.offer('chargedTo').value,
    energy: figure(evaluation, 'stored-energy'),
    peakCurrent: peakCurrent(evaluation),
    bleed: figure(evaluation, 'bleed-time'),
    bleedTo: goal.text,
    hazard: evaluation.hazard && {
      class: evaluation.hazard.class,
      headline: evaluation.hazard.headline,
      by: leads ? `${printQuantity(leads.figure.band.high, leads.figure.worked.unit)} ${leads.says}` : null,
    },
    tightest: limit ? { title: limit.title, utilisation: limit.utilisation, worst: limit.worst } : null,
    errors: evaluation.problems.filter((p) => p.severity === 'error').length,
  };
}
