import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bounds } from '../quantity/index.ts';
import { blockIn, inChannel, spotsOf, type Rig } from '../rig/index.ts';
import { cases } from '../test/long.ts';
import { demoRig } from '../test/rigs.ts';
import { figureSpecs, reasonOf, RigReading } from './index.ts';

/** Every quantity of a rig that has a tolerance, by its path, with the ends of it. */
const toleranced = (rig: Rig) =>
  spotsOf(rig).flatMap((spot) =>
    Object.entries(blockIn(rig, spot).fields).flatMap(([id, value]) =>
      typeof value === 'object' && value?.tolerance ? [[`${spot}.${id}`, bounds(value)] as const] : [],
    ),
  );

const read = (reading: RigReading, id: Parameters<RigReading['figure']>[0]): number | string => {
  try {
    return reading.figure(id).value;
  } catch (error) {
    const reason = reasonOf(error);
    if (!reason) throw error;
    return reason.reason;
  }
};

describe('a reading of a rig at other values', () => {
  test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
    'of %s that takes from another what does not differ has the numbers of one that takes nothing',
    (name) => {
      const rig = demoRig(name);
      const ends = toleranced(rig);
      const ids = [...figureSpecs(rig).keys()];
      const values = fc
        .subarray(ends.map((_, k) => k))
        .chain((picked) =>
          fc
            .tuple(...picked.map((k) => fc.double({ min: ends[k]?.[1].low ?? 0, max: ends[k]?.[1].high ?? 0, noNaN: true })))
            .map((drawn) => new Map(picked.map((k, at) => [ends[k]?.[0] ?? '', drawn[at] ?? NaN]))),
        );
      fc.assert(
        fc.property(values, values, fc.shuffledSubarray(ids), (near, at, asked) => {
          const nominal = new RigReading(rig);
          const beside = new RigReading(rig, near, nominal);
          // Whatever was asked of the others before, in any order.
          for (const id of asked) read(nominal, id);
          for (const id of asked.slice(0, asked.length / 2)) read(beside, id);
          const [taking, alone] = [new RigReading(rig, at, beside), new RigReading(rig, at)];
          for (const id of asked) expect([id, read(taking, id)]).toEqual([id, read(alone, id)]);
          expect(asked.length === 0 || ends.length > 0).toBe(true);
        }),
        { numRuns: cases(12, 100), seed: 2611 },
      );
    },
  );

  test('a figure that another channel’s value moves is worked out again', () => {
    const rig = demoRig('shuttle');
    const nominal = new RigReading(rig);
    const whole = nominal.figure('stored-energy').value;
    const C = blockIn(inChannel(rig, 1), 'store').fields['C'];
    if (typeof C !== 'object' || C === null) throw new Error('no capacitance');
    const more = new RigReading(rig, new Map([['store@2.C', C.value * 2]]), nominal);
    expect(more.figure('stored-energy').value).toBeGreaterThan(whole * 1.1);
    expect(more.figure('bank-capacitance')).toBe(nominal.figure('bank-capacitance'));
  });
});
