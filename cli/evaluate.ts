import { evaluationData, type Evaluation } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { wordFinding } from '@vast-surge/core/hazard';
import { printBand, printFigure } from '@vast-surge/core/figure';
import { wordUse } from '@vast-surge/core/limit';
import { printQuantity } from '@vast-surge/core/quantity';

export const evaluationJson = (document: RigDocument, evaluation: Evaluation) => ({
  name: document.name,
  ...evaluationData(evaluation),
});

function figureLines(evaluation: Evaluation): string[] {
  return evaluation.figures.map((f) => {
    if (!f.ok) return `  ${f.title.padEnd(44)} not available: ${f.reason}`;
    const { value, unit } = f.worked;
    const { low, high, broken } = f.band;
    const range = low === high ? '' : `   ${printBand(f.id, low, high, unit)}`;
    return `  ${f.title.padEnd(44)} ${printFigure(f.id, value, unit).padEnd(12)}${range}${broken ? `   (${broken})` : ''}`;
  });
}

function limitLines(evaluation: Evaluation): string[] {
  return evaluation.ladder.limits.map((l) => {
    const stress = printQuantity(l.stress.value, l.stress.unit);
    if (!l.rating || l.worst === null) return `  ${l.title.padEnd(44)} ${stress}, no rating given`;
    const relief = l.relief.map((r) => `${r.direction} ${r.path} to ${printQuantity(r.value, r.unit, { trim: true })}`);
    const over = l.worst > 1 ? `   OVER${relief.length > 0 ? `: ${relief.join(', or ')}` : ''}` : '';
    return `  ${l.title.padEnd(44)} ${stress} of ${printQuantity(l.rating.value, l.rating.unit)}, ${Number.isFinite(l.worst) ? 'worst case ' : ''}${wordUse(l.worst)}${over}`;
  });
}

/** An evaluation for a person at a terminal. */
export function evaluationText(document: RigDocument, evaluation: Evaluation): string {
  const { hazard, problems } = evaluation;
  return [
    document.name,
    ...(hazard
      ? [
          '',
          `Hazard: ${hazard.headline}`,
          ...hazard.findings.filter((f) => f.exceeded).map((f) => `  ${wordFinding(f)} (${f.rule.source})`),
        ]
      : []),
    ...(problems.length > 0 ? ['', 'Problems', ...problems.map((p) => `  ${p.severity}, ${p.slot}: ${p.text}`)] : []),
    '',
    'Figures',
    ...figureLines(evaluation),
    '',
    'Limits, tightest first',
    ...limitLines(evaluation),
    ...evaluation.ladder.blind.map((l) => `  ${l.title.padEnd(44)} not judged: ${l.reason}`),
    '',
    'Calculated, not measured: verify with a meter rated for the voltage. Local codes and licensed practice come first.',
  ].join('\n');
}
