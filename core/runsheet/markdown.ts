import type { Connections } from './instruments.ts';
import { phaseTitles, type RunSheet, type Step } from './runsheet.ts';

/** Characters that Markdown would take for its own, in text that a user typed. */
const escaped = (text: string): string => text.replace(/[\\`*_[\]<>#|]/g, (c) => `\\${c}`).replace(/\s+/g, ' ');

function stepLines(step: Step): string[] {
  return [
    `${step.number}. ${step.text}`,
    ...step.expect.map((e) => `   - ${e.label}: **${e.printed}**`),
    ...(step.caution ? [`   - Caution: ${step.caution}`] : []),
    ...(step.hold ? [`   - [ ] HOLD until: ${step.hold}`] : []),
  ];
}

function connectionLines(connections: Connections | undefined): string[] {
  const { on = [], off = [] } = connections ?? {};
  const lines = [...on.map((text) => `- May be connected: ${text}`), ...off.map((text) => `- **Off the rig**: ${text}`)];
  return lines.length > 0 ? [...lines, ''] : [];
}

/** The sheet as Markdown, for a file or a terminal. */
export function runSheetMarkdown(sheet: RunSheet): string {
  const lines: string[] = [`# Run sheet: ${escaped(sheet.rigName)}`, '', ...sheet.summary.map((line) => `- ${line}`), ''];
  if (sheet.stops.length > 0)
    lines.push('## Do not run this rig as it stands', '', ...sheet.stops.map((stop) => `- ${stop}`), '');
  let phase: Step['phase'] | null = null;
  for (const step of sheet.main) {
    if (step.phase !== phase)
      lines.push(
        ...(phase === null ? [] : ['']),
        `## ${phaseTitles[step.phase]}`,
        '',
        ...connectionLines(sheet.connections[step.phase]),
      );
    phase = step.phase;
    lines.push(...stepLines(step));
  }
  for (const branch of sheet.branches)
    lines.push('', `## Branch: ${branch.title}`, '', branch.when, '', ...branch.steps.flatMap(stepLines));
  lines.push('', '## Cautions', '', ...sheet.cautions.map((c) => `- ${c}`), '');
  return lines.join('\n');
}
