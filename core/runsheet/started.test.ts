import { expect, test } from 'vitest';
import { evaluateRig, startRig, type Typed } from '../evaluation/index.ts';
import { starters } from '../kind/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { runSheetOf } from './index.ts';

const typed: { readonly [id: string]: Typed } = {
  bank: { V: '3 kV', E: '2 kJ' },
  marx: { V: '300 kV', E: '40 J' },
  peaking: { V: '20 kV', C: '2.2 nF' },
  'coilgun-stages': { n: '12' },
};

// A store that is empty before hands have isolated, armed and fired is a procedure that nobody can follow.
test.each(starters.flatMap((starter) => [{}, typed[starter.id] ?? {}].map((wishes) => [starter.id, wishes, starter] as const)))(
  'a started %s %o has a sheet that hands can carry out, and nothing over or wrong in it',
  (_id, wishes, starter) => {
    const made = startRig(starter, wishes);
    if (!made.ok) throw new Error(JSON.stringify(made.issues));
    const sheet = runSheetOf(starter.title, evaluateRig(made.rig), noSheetEdits);
    if (!sheet.ok) throw new Error(sheet.reason);
    expect(sheet.sheet.cannot).toEqual([]);
    expect(sheet.sheet.stops).toEqual([]);
    // What holds it back is that nobody has entered a rating yet: nothing of it was bought.
    expect(sheet.sheet.verdict.word).toBe('not now');
    expect(sheet.sheet.withheld.length).toBeGreaterThan(0);
  },
);
