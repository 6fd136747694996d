import { describe, expect, test } from 'vitest';
import { figureSpecs, RigReading } from './index.ts';
import { ifKnown } from '../block/index.ts';
import { demoRig } from '../test/rigs.ts';
import { modelSpread, withErrors, type Worked } from '../formula/index.ts';

/** Formulas below a number that are only so good, by their id. */
function unsure(worked: Worked, found = new Set<string>()): Set<string> {
  if (worked.kind === 'given') return found;
  if (worked.formula.certainty) found.add(worked.formula.id);
  for (const input of Object.values(worked.inputs)) if (input) unsure(input, found);
  return found;
}

describe('a number with its formulas off', () => {
  test.each(['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'] as const)(
    'of %s is itself where none is off, and one formula alone takes it no further than its spread says',
    (name) => {
      const rig = demoRig(name);
      const reading = new RigReading(rig);
      let moved = 0;
      for (const { id } of figureSpecs(rig).values()) {
        const worked = ifKnown(() => reading.figure(id));
        if (!worked) continue;
        expect(withErrors(worked, () => 0)).toBe(worked.value);
        const { down, up } = modelSpread(worked);
        for (const formula of unsure(worked))
          for (const side of [-1, 1] as const) {
            const off = withErrors(worked, (one) => (one === formula ? side : 0)) - worked.value;
            moved += off === 0 ? 0 : 1;
            // The spread is of formulas that err apart; one that is used twice errs twice the same way here.
            if (off !== 0) expect(down + up).toBeGreaterThan(0);
          }
      }
      expect(moved).toBeGreaterThan(name === 'thimble' ? -1 : 0);
    },
  );
});
