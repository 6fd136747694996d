import { expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { newRig, withBlock } from '../../rig/index.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../../kind/index.ts';

const converter = (V0: string) =>
  rigWith(
    { 'supply.Voff': '400 V', 'store.V0': V0, 'store.C': '1 mF', 'charging.R': '10 Ω' },
    withBlock(newRig(), 'supply', newBlock(blockDefinition('supply', 'battery-converter'))),
  );
const time = (V0: string) => figureIn(evaluateRig(converter(V0)), 'charge-time')?.worked.value ?? NaN;

test('a cut-off set to the charge voltage is the usual case, and is charged to', () => {
  expect(time('400 V')).toBeGreaterThan(time('398 V'));
  expect(time('400 V')).toBeLessThan(1.2 * time('398 V'));
  // Above the cut-off nothing charges.
  expect(time('405 V')).toBeNaN();
});

test('behind a resistor and beside a bleeder it is the usual case all the same: charged, with its losses, and no complaint', () => {
  const rig = rigWith({ 'bleeder.R': '33 kΩ', 'store.V0': '400 V', 'store.Vr': '450 V' }, converter('400 V'));
  const { problems } = evaluateRig(rig);
  expect(problems.filter(({ severity }) => severity === 'error')).toEqual([]);
  for (const id of ['charge-time', 'charging-energy-lost', 'source-energy', 'battery-charges'] as const)
    expect(figureIn(evaluateRig(rig), id)?.worked.value ?? NaN, id).toBeGreaterThan(0);
  // What the charging resistor lost is less than a tenth of what is stored: 30 W through 10 Ω.
  expect(figureIn(evaluateRig(rig), 'charging-energy-lost')?.worked.value).toBeLessThan(8);
  const above = evaluateRig(converter('405 V')).problems.map(({ text }) => text);
  expect(above.filter((text) => text.includes('cannot charge the bank')).length).toBe(1);
});
