import { expect, test } from 'vitest';
import { Unavailable } from '../block/index.ts';
import { evaluateRig } from '../evaluation/index.ts';
import { blockDefinitions, kindsOf } from '../kind/index.ts';
import { blockIn, newRig, withBlock } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { RigReading } from './index.ts';

test('a choice is what is chosen and nothing else; what another kind may have is not it, and what none has is a fault of the program', () => {
  let others = 0;
  for (const { slot, kind, fields } of blockDefinitions) {
    const rig = rigWith({ [`${slot}.kind`]: kind });
    for (const [id, spec] of Object.entries(fields)) {
      if (spec.type !== 'choice') continue;
      const own = spec.options.map(({ value }) => value);
      const elsewhere = kindsOf(slot).flatMap((other) => {
        const field = other.fields[id];
        return field?.type === 'choice' ? field.options.map(({ value }) => value).filter((value) => !own.includes(value)) : [];
      });
      for (const chosen of own) {
        const reading = new RigReading(rigWith({ [`${slot}.${id}`]: chosen }, rig)).ownOf(slot);
        expect(
          own.filter((value) => reading.is(id, value)),
          `${kind}.${id}`,
        ).toEqual([chosen]);
        expect(
          elsewhere.filter((value) => reading.is(id, value)),
          `${kind}.${id}`,
        ).toEqual([]);
        expect(() => reading.is(id, 'made up'), `${kind}.${id}`).toThrow(/has no choice made up/);
      }
      others += elsewhere.length;
    }
  }
  // There are such fields, so that this asks something.
  expect(others).toBeGreaterThan(0);
});

test('what is missing is told by its title, and of another channel than the one that is read by its number', () => {
  const shuttle = demoRig('shuttle');
  const block = blockIn(shuttle, 'store@2');
  const reading = new RigReading(withBlock(shuttle, 'store@2', { ...block, fields: { ...block.fields, C: null } }));
  const said = reading.channels().map((channel) => {
    try {
      return channel.own('store').quantity('C').value > 0;
    } catch (error) {
      return error instanceof Unavailable ? error.message : error;
    }
  });
  expect(said).toEqual([true, expect.stringMatching(/^stage 2: .+ is not given$/), true]);
});

test('a number of the shot says in its title where it is not what happens: stages that erect, a slug that moves', () => {
  const titles = (name: 'anvil' | 'kittiwake' | 'shuttle' | 'thimble') =>
    evaluateRig(demoRig(name))
      .figures.filter(({ id }) => id === 'peak-current')
      .map(({ title }) => title.replace(/^[^,]*/, ''));
  expect([titles('thimble'), titles('anvil'), titles('kittiwake'), titles('shuttle')]).toEqual([
    [''],
    [''],
    [', closed form'],
    [', nothing moving'],
  ]);
  expect(evaluateRig(newRig()).figures.filter(({ title }) => / closed form|nothing moving/.test(title))).toEqual([]);
});

test('the fields of a block are read by one reader, whoever asks', () => {
  const reading = new RigReading(newRig());
  expect(reading.ownOf('store')).toBe(reading.ownOf('store'));
  expect(reading.ownOf('store')).not.toBe(new RigReading(newRig()).ownOf('store'));
});
