import { describe, expect, test } from 'vitest';
import { questions } from '../block/index.ts';
import { evaluateRig } from '../evaluation/index.ts';
import { newRig, withBlock, withLoadKind } from '../rig/index.ts';
import { blockDefinitions, newBlock } from '../kind/index.ts';
import { demoRig } from '../test/rigs.ts';
import { figureGroups } from './index.ts';

describe('figures by the question they answer', () => {
  test.each(blockDefinitions.map((definition) => [definition.slot, definition.kind, definition] as const))(
    'of a rig with %s, %s: each is in one group alone, and none that can be had is lost but those in the working of others',
    (slot, _kind, definition) => {
      const rig =
        slot === 'load' ? withLoadKind(newRig(), newBlock(definition)) : withBlock(newRig(), slot, newBlock(definition));
      const { figures } = evaluateRig(rig);
      const groups = figureGroups(rig, figures);
      const ids = groups.flatMap((group) => group.figures.map(({ id }) => id));
      expect(new Set(ids).size).toBe(ids.length);
      expect(groups.map(({ title }) => title)).toEqual(Object.values(questions).filter((t) => groups.some((g) => g.title === t)));
      const lost = figures.filter((figure) => figure.ok && figure.worked.value !== 0 && !ids.includes(figure.id));
      const inner = /^(charging-(resistance|voltage)|(bank|discharge|loop)-capacitance|discharge-voltage|loop-reversal)$/;
      expect(lost.map(({ id }) => id).filter((id) => !inner.test(id))).toEqual([]);
    },
  );

  // What somebody asks first of each machine of the demo workshop: common practice, no source.
  test.each([
    ['kittiwake', 'out', ['marx-output-voltage', 'marx-top-to-top']],
    ['cricket', 'out', ['break-rate', 'secondary-peak', 'spark-length-long']],
    ['anvil', 'out', ['coil-field', 'peak-current', 'time-to-peak']],
    ['thimble', 'out', ['peak-current', 'time-to-peak', 'stored-energy']],
    ['thimble', 'charge', ['charge-time', 'repetition-rate', 'charging-current']],
    ['thimble', 'left', ['bleed-time', 'bleed-time-open']],
    ['anvil', 'wears', ['action-integral', 'coil-heating']],
  ] as const)('%s, %s: among the first are %s', (name, question, wanted) => {
    const rig = demoRig(name);
    const group = figureGroups(rig, evaluateRig(rig).figures).find((one) => one.question === question);
    const firstFew = group?.figures.slice(0, question === 'wears' ? 9 : 6).map(({ id }) => id);
    expect(firstFew).toEqual(expect.arrayContaining([...wanted]));
  });
});
