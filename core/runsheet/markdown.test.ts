import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { phaseTitles } from './step.ts';
import { runSheetMarkdown, runSheetOf, type RunSheet } from './index.ts';

const made = runSheetOf('Bench_top | two', evaluateRig(demoRig('thimble')), {
  ...noSheetEdits,
  added: [{ id: 'look-up', phase: 'prepare', text: 'Look *up* at the beam', hold: 'It [hangs] still.' }],
  notes: { charge: 'slowly | by hand' },
} as typeof noSheetEdits);
if (!made.ok) throw new Error(made.reason);
const sheet: RunSheet = made.sheet;
const written = (more: Partial<RunSheet> = {}): string => runSheetMarkdown({ ...sheet, ...more });
const heads = (text: string): string[] => text.split('\n').flatMap((line) => (line.startsWith('## ') ? line.slice(3) : []));

describe('a sheet as Markdown', () => {
  test('has a head for each of what stands against it, and none for what there is not', () => {
    const lists = {
      stops: ['Do not run this rig as it stands', ['The store is above its rating.']],
      cannot: ['Nobody can carry this sheet out as it stands', ['It takes too long.', 'Nothing reads it.']],
      withheld: ['Held back until entered or waived by name', ['A rating is missing.']],
      waived: ['Waived', ['Ada answers for it.']],
    } as const;
    const none = Object.fromEntries(Object.keys(lists).map((key) => [key, []]));
    const plain = heads(written({ ...none, shot: { ...sheet.shot, mends: [] } }));
    for (const [key, [title, lines]] of Object.entries(lists)) {
      expect(plain).not.toContain(title);
      const text = written({ ...none, [key]: lines });
      expect(heads(text)).toContain(title);
      for (const line of lines) expect(text).toContain(`\n- ${line}\n`);
    }
    expect(plain).not.toContain('What human time costs');
  });

  test('says what human time costs where it costs something, with what would help', () => {
    const shot = { ...sheet.shot, needed: 25, high: 40, expected: 31, mends: ['Be quick.', 'Sit nearer.'] };
    const text = written({ shot });
    expect(heads(text)).toContain('What human time costs');
    expect(text).toContain(
      `Supply off to the shot takes ${printDuration(25)}: ${printQuantity(40, 'V')} falls to ${printQuantity(31, 'V')}. What would help:\n\n- Be quick.\n- Sit nearer.\n`,
    );
  });

  test('has each phase once, in the order of its steps, with what must be off and what stays on', () => {
    const text = written();
    const phases = [...new Set(sheet.main.map(({ phase }) => phaseTitles[phase]))];
    expect(heads(text).filter((head) => phases.includes(head))).toEqual(phases);
    const lines = text.split('\n');
    for (const head of heads(text).slice(1)) expect(lines[lines.indexOf(`## ${head}`) - 1], head).toBe('');
    for (const [phase, { on, off }] of Object.entries(sheet.connections)) {
      if (!sheet.main.some((step) => step.phase === phase)) continue;
      const part = text.split(`## ${phaseTitles[phase as keyof typeof phaseTitles]}\n`)[1]?.split('\n## ')[0] ?? '';
      for (const line of off) expect(part).toContain(`- **Must be off**: ${line}`);
      for (const line of on) expect(part).toContain(`- Stays on: ${line}`);
    }
  });

  test('has every step with its number, who does it, what to expect, its caution and its hold', () => {
    const text = written();
    for (const step of sheet.main) {
      if (!step.isAdded) expect(text).toContain(`\n${step.number}. ${step.text} (`);
      for (const { label, printed } of step.expect) expect(text).toContain(`   - ${label}: **${printed}**`);
      if (step.caution) expect(text).toContain(`   - Caution: ${step.caution}`);
      if (step.hold && !step.isAdded) expect(text).toContain(`   - [ ] HOLD until: ${step.hold}`);
    }
    const noted = text.split('\n').filter((line) => line.startsWith('   - Note:'));
    expect(noted).toEqual(['   - Note: slowly \\| by hand']);
  });

  test('writes what a person typed as it was typed, whatever it would mean to Markdown', () => {
    const text = written();
    expect(text).toContain('# Run sheet: Bench\\_top \\| two');
    expect(text).toContain('Look \\*up\\* at the beam');
    expect(text).toContain('HOLD until: It \\[hangs\\] still.');
  });

  test('ends with the way up, the branches, the cards and the cautions', () => {
    const text = written();
    const last = heads(text).slice(-(sheet.branches.length + sheet.emergency.length + 2));
    expect(last).toEqual([
      'The way up, on a new or changed rig',
      ...sheet.branches.map(({ title }) => `Branch: ${title}`),
      ...sheet.emergency.map(({ title }) => `Card: ${title}`),
      'Cautions',
    ]);
    const rows = text.split('\n').filter((line) => line.startsWith('| '));
    expect(rows).toHaveLength(2 + sheet.commissioning.length);
    const columns = rows.map((row) => row.replace(/\\\|/g, '').split('|').length);
    expect(new Set(columns).size).toBe(1);
    for (const [k, { voltage, energy }] of sheet.commissioning.entries()) {
      expect(rows[k + 2]).toContain(printQuantity(voltage, 'V'));
      expect(rows[k + 2]).toContain(
        `${printQuantity(energy?.worked.value ?? NaN, 'J')} (${printQuantity(energy?.worst ?? NaN, 'J')})`,
      );
    }
    for (const { when, steps } of sheet.branches) {
      expect(text).toContain(when);
      for (const { text: says } of steps) expect(text).toContain(says);
    }
    for (const caution of sheet.cautions) expect(text).toContain(`- ${caution}`);
  });

  test('a rung that cannot be worked out says so, and one that does not fire has no current', () => {
    const [rung] = sheet.commissioning;
    if (!rung) throw new Error('there is a rung');
    const text = written({ commissioning: [{ ...rung, energy: null, fires: false }] });
    const row = text
      .split('\n')
      .filter((line) => line.startsWith('| '))
      .at(-1);
    expect(row).toContain('| not known |');
    expect(row).toContain('| none |');
    expect(row).toContain('does not fire: bleed it');
  });
});
