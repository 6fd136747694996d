import { expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { inManner, type Manner } from '../quantity/index.ts';

import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { runSheetOf, saysOf, stepsIn } from '../runsheet/index.ts';
import { planOf } from './index.ts';

const other: Manner = { measures: 'imperial', pressure: 'psi', wire: 'AWG', decimal: 'comma' };

test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
  'the sheet and the plan of %s are the same, whatever units their reader has',
  (id) => {
    const made = () => {
      const evaluation = evaluateRig(demoRig(id));
      const sheet = runSheetOf(id, evaluation);
      if (!sheet.ok) throw new Error(sheet.reason);
      return { says: stepsIn(sheet.sheet).map(saysOf), sheet: sheet.sheet, plan: planOf(id, evaluation, noSheetEdits) };
    };
    const plain = made();
    expect(plain.says.join()).toMatch(/\d \S*V\b/);
    const own = inManner(other, made);
    expect({ ...own, sheet: { ...own.sheet, verdict: plain.sheet.verdict } }).toEqual(plain);
  },
);
