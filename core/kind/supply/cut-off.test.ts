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
