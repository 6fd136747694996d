import { inSI, printDuration, printQuantity } from '../quantity/index.ts';
import { rungErects, rungPrint, rungSays, type RungNumber } from './commissioning.ts';
import type { Connections } from './instruments.ts';
import type { RunSheet } from './runsheet.ts';
import { verdictWords } from './verdict.ts';
import { phaseTitles, whoWords, type Step } from './step.ts';

/** Characters that Markdown would take for its own, in text that a user typed. */
const escaped = (text: string): string => text.replace(/[\\`*_[\]<>#|]/g, (c) => `\\${c}`).replace(/\s+/g, ' ');

function stepLines(step: Step): string[] {
  return [
    `${step.number}. ${step.isAdded ? escaped(step.text) : step.text} (${whoWords[step.who]})`,
    ...step.expect.map((e) => `   - ${e.label}: **${e.printed}**`),
    ...(step.caution ? [`   - Caution: ${step.caution}`] : []),
    ...(step.note ? [`   - Note: ${escaped(step.note)}`] : []),
    ...(step.hold ? [`   - [ ] HOLD until: ${step.isAdded ? escaped(step.hold) : step.hold}`] : []),
  ];
}

function connectionLines(connections: Connections | undefined): string[] {
  const { on = [], off = [] } = connections ?? {};
  const lines = [...off.map((text) => `- **Must be off**: ${text}`), ...on.map((text) => `- Stays on: ${text}`)];
  return lines.length > 0 ? [...lines, ''] : [];
}

/** The voltages to stop at, as a table: nominal, and at the worst corner behind it. */
function rungLines({ commissioning }: RunSheet): string[] {
  const cell = (n: RungNumber | null) =>
    n === null ? 'not known' : `${rungPrint(n.worked, n.worked.value)} (${rungPrint(n.worked, n.worst)})`;
  return [
    `| stop at | stored (worst case) | charged after (worst case) | ${(commissioning[0]?.currentTitle ?? 'Peak current').toLowerCase()} (worst case) | stick on for (worst case) | the switch |`,
    '| --- | --- | --- | --- | --- | --- |',
    ...commissioning.map(
      (r) =>
        `| ${printQuantity(r.voltage, 'V')} | ${cell(r.energy)} | ${cell(r.chargeTime)} | ${r.fires ? cell(r.peakCurrent) : 'none'} | ${cell(r.toolTime)} | ${rungSays(r, rungErects(r))} |`,
    ),
  ];
}

/** The sheet as Markdown, for a file or a terminal. */
export const runSheetMarkdown = (sheet: RunSheet): string => inSI(() => markdownOf(sheet));

function markdownOf(sheet: RunSheet): string {
  const lines: string[] = [
    `# Run sheet: ${escaped(sheet.rigName)}`,
    '',
    `**${escaped(verdictWords(sheet.verdict))}**`,
    '',
    ...sheet.summary.map((line) => `- ${line}`),
    '',
  ];
  if (sheet.stops.length > 0)
    lines.push('## Do not run this rig as it stands', '', ...sheet.stops.map((stop) => `- ${stop}`), '');
  if (sheet.cannot.length > 0)
    lines.push('## Nobody can carry this sheet out as it stands', '', ...sheet.cannot.map((reason) => `- ${reason}`), '');
  if (sheet.withheld.length > 0)
    lines.push('## Held back until entered or waived by name', '', ...sheet.withheld.map((reason) => `- ${reason}`), '');
  if (sheet.waived.length > 0) lines.push('## Waived', '', ...sheet.waived.map((line) => `- ${escaped(line)}`), '');
  if (sheet.shot.mends.length > 0)
    lines.push(
      `## What human time costs`,
      '',
      `Supply off to the shot takes ${printDuration(sheet.shot.needed)}: ${printQuantity(sheet.shot.high, 'V')} falls to ${printQuantity(sheet.shot.expected, 'V')}. What would help:`,
      '',
      ...sheet.shot.mends.map((mend) => `- ${mend}`),
      '',
    );
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
  lines.push('', '## The way up, on a new or changed rig', '', ...rungLines(sheet));
  for (const branch of sheet.branches)
    lines.push('', `## Branch: ${branch.title}`, '', branch.when, '', ...branch.steps.flatMap(stepLines));
  for (const card of sheet.emergency)
    lines.push('', `## Card: ${card.title}`, '', ...card.lines.map((line, i) => `${i + 1}. ${escaped(line)}`));
  lines.push('', '## Cautions', '', ...sheet.cautions.map((c) => `- ${c}`), '');
  return lines.join('\n');
}
