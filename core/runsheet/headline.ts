import { bleedGoal, type FigureId } from '../block/index.ts';
import { figureSpecs } from '../figure/index.ts';
import type { HazardClass } from '../hazard/index.ts';
import { tightest } from '../limit/index.ts';
import { printQuantity, type UnitId } from '../quantity/index.ts';
import { blockIn, channelNoun, type Rig, type RigDocument } from '../rig/index.ts';
import { evaluateRig, figureIn, leadsHazard, type Evaluation } from '../evaluation/index.ts';
import { blockDefinition } from '../kind/index.ts';
import { predictedNumbers } from '../study/index.ts';
import { sheetChanges } from './edits.ts';
import { runSheetOf, stepsIn } from './runsheet.ts';
import type { Verdict } from './verdict.ts';

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
  /** What kind of rig it is: "Coilgun, 3 stages". */
  readonly kind: string;
  /** What comes out of it, printed: "Peak output", "236 kV". */
  readonly does: { readonly title: string; readonly text: string } | null;
  /** Whether it may be fired, by calculation; null where no sheet can be made of it. */
  readonly verdict: Pick<Verdict, 'word' | 'upTo' | 'because'> | null;
  /** Steps of its run sheet that say something else than when the sheet was last looked at. */
  readonly changedSteps: number;
}

/** What a rig is called by its kinds, and how much of it there is. */
export function kindWords(rig: Rig): string {
  const definitions = (['load', 'store'] as const).map((slot) => blockDefinition(slot, blockIn(rig, slot).kind));
  const named = definitions.find(({ makes }) => makes !== undefined)?.makes ?? definitions[1]?.title ?? '';
  const { length } = rig.channels;
  return length > 1 ? `${named}, ${length} ${channelNoun(rig) ?? 'channel'}s` : named;
}

function figure(evaluation: Evaluation, id: FigureId): HeadlineFigure | null {
  const found = figureIn(evaluation, id);
  if (!found) return null;
  const { title, worked, band } = found;
  return { id, title, unit: worked.unit, value: worked.value, high: band.high };
}

/** What is predicted of a shot: of a Marx by the solver, of a launcher by its launch. */
function predicted(evaluation: Evaluation): Pick<Headline, 'peakCurrent' | 'does'> {
  const closed = figure(evaluation, 'peak-current');
  const { current, by, does } = predictedNumbers(evaluation.rig);
  const specs = figureSpecs(evaluation.rig);
  const leads = evaluation.figures.find((one) => one.ok && specs.get(one.id)?.leads === true);
  const first = does ?? (leads?.ok ? { title: leads.title, value: leads.worked.value, unit: leads.worked.unit } : null);
  return {
    peakCurrent:
      closed === null || current === null || by === 'closed form'
        ? closed
        : { ...closed, title: `Peak current, predicted by the ${by}`, value: current, high: current, by },
    does: first && { title: first.title, text: printQuantity(first.value, first.unit) },
  };
}

const pick = ({ word, upTo, because }: Verdict) => ({ word, upTo, because });

/** The headline of a rig. It has no NaN; a figure that cannot be had is null. */
export function headlineOf({ name, rig, sheet }: Pick<RigDocument, 'name' | 'rig' | 'sheet'>): Headline {
  const evaluation = evaluateRig(rig);
  const made = runSheetOf(name, evaluation, sheet);
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const limit = tightest(evaluation.ladder);
  const leads = leadsHazard(evaluation);
  return {
    chargedTo: reading.offer('chargedTo').value,
    energy: figure(evaluation, 'stored-energy'),
    ...predicted(evaluation),
    bleed: figure(evaluation, 'bleed-time'),
    bleedTo: goal.text,
    hazard: evaluation.hazard && {
      class: evaluation.hazard.class,
      headline: evaluation.hazard.headline,
      by: leads ? `${printQuantity(leads.figure.band.high, leads.figure.worked.unit)} ${leads.says}` : null,
    },
    tightest: limit ? { title: limit.title, utilisation: limit.utilisation, worst: limit.worst } : null,
    errors: evaluation.problems.filter((p) => p.severity === 'error').length,
    kind: kindWords(rig),
    verdict: made.ok ? pick(made.sheet.verdict) : null,
    changedSteps: made.ok ? sheetChanges(stepsIn(made.sheet), sheet).length : 0,
  };
}
