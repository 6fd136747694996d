import { describe, expect, test } from 'vitest';
import { type Slot } from '../block/index.ts';
import { blockDefinition, blockDefinitions, changeKind, isInForce, newBlock, type Block } from '../kind/index.ts';
import { readQuantityText, type BlockField } from '../field/index.ts';
import { newRig, withBlock } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { evaluateRig } from './index.ts';

/** Every field that counts only with a choice of its block. */
const conditional = blockDefinitions.flatMap((definition) =>
  Object.entries(definition.fields).flatMap(([id, spec]) =>
    spec.onlyWith ? [{ definition, id, spec, with: spec.onlyWith }] : [],
  ),
);

/** All numbers of a rig, and what is wrong with it. */
const told = (slot: Slot, block: Block, from = newRig()) => {
  const { figures, ladder, problems } = evaluateRig(withBlock(from, slot, block));
  const numbers = figures.map((f) => [f.id, f.ok ? [f.worked.value, f.band.low, f.band.high] : f.reason]);
  return JSON.stringify([numbers, ladder.limits.map(({ id, worst }) => [id, worst]), problems.map(({ text }) => text)]);
};

const other = (spec: BlockField) => {
  if (spec.type === 'choice') return spec.options.at(-1)?.value ?? '';
  if (spec.type === 'lines') return '';
  const middle = Math.min(Math.max(spec.min, 1e-9) * 7 + 1e-6, spec.max);
  const read = readQuantityText(
    spec,
    `${spec.integer ? Math.min(spec.max, Math.max(3, spec.min)) : middle} ${spec.unit === '1' ? '' : spec.unit}`,
  );
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};

describe('a field that is not in force', () => {
  test.each(conditional.map((one) => [`${one.definition.slot}/${one.definition.kind} ${one.id}`, one] as const))(
    '%s names a choice of its block and changes no number of the rig',
    (_name, { definition, id, spec, with: { choice, values } }) => {
      const chooses = definition.fields[choice];
      if (chooses?.type !== 'choice') throw new Error(`${choice} is no choice of its block`);
      const options = chooses.options.map(({ value }) => value);
      for (const value of values) expect(options).toContain(value);
      const slot = definition.slot as Slot;
      const rest = options.filter((value) => !values.includes(value));
      expect(rest.length).toBeGreaterThan(0);
      for (const value of rest) {
        const block = newBlock(definition);
        const set: Block = { ...block, fields: { ...block.fields, [choice]: value } };
        expect(isInForce(set, spec)).toBe(false);
        const changed: Block = { ...set, fields: { ...set.fields, [id]: other(spec) } };
        const from = definition.kind === 'tank-secondary' ? demoRig('cricket') : newRig();
        expect(told(slot, changed, from), value).toBe(told(slot, set, from));
      }
    },
  );

  test('what a meter bears is not carried over to another kind; what is typed of the circuit is', () => {
    const [voltmeter, divider] = [blockDefinition('meter', 'voltmeter'), blockDefinition('meter', 'divider')];
    const read = (definition: typeof voltmeter, id: string, text: string) => {
      const spec = definition.fields[id];
      if (spec?.type !== 'quantity') throw new Error(`no field ${id}`);
      const made = readQuantityText(spec, text);
      if (!made.ok) throw new Error(made.reason);
      return made.value;
    };
    const hand: Block = { kind: 'voltmeter', fields: { ...newBlock(voltmeter).fields, V: read(voltmeter, 'V', '1000 V') } };
    expect(changeKind(hand, voltmeter, divider).fields['V']).toEqual(newBlock(divider).fields['V']);
    const [resistor, chain] = [blockDefinition('charging', 'resistor'), blockDefinition('charging', 'chain')];
    const typed: Block = { kind: 'resistor', fields: { ...newBlock(resistor).fields, R: read(resistor, 'R', '3.3 kΩ') } };
    expect(changeKind(typed, resistor, chain).fields['R']).toEqual(typed.fields['R']);
  });
});
