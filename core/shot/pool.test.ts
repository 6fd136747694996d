import { expect, test } from 'vitest';
import { withBlock } from '../rig/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { withMeasured } from './accept.ts';
import { isComparable } from './pool.ts';

test('shots are pooled over states of a rig between which only settings and measured values differ', () => {
  const rig = demoRig('kittiwake');
  expect(isComparable(rig, rig)).toBe(true);
  expect(isComparable(rig, rigWith({ 'store.V0': '11 kV', 'switch.p': '9 psi', 'switch.d': '4.1 mm' }, rig))).toBe(true);
  expect(isComparable(rig, withBlock(rig, 'air', newBlock(blockDefinition('air', 'day'))))).toBe(true);
  expect(isComparable(rig, withBlock(rig, 'trigger', newBlock(blockDefinition('trigger', 'hand-rod'))))).toBe(true);
  const read = withMeasured(rig, [{ path: 'load.L', unit: 'H', value: 3e-6, margin: 1e-7, was: null, refused: null }]);
  expect(isComparable(rig, read)).toBe(true);
  expect(isComparable(rig, rigWith({ 'store.C': '4.7 nF' }, rig))).toBe(false);
  expect(isComparable(rig, rigWith({ 'store.n': '5' }, rig))).toBe(false);
  expect(isComparable(rig, withBlock(rig, 'load', newBlock(blockDefinition('load', 'spark'))))).toBe(false);
});
