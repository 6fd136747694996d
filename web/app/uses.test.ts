import { expect, test } from 'vitest';
import { blockIn, newDocument, partsUsed, withBlock } from '@vast-surge/core/rig';
import { usesByPart } from './uses.ts';

test('a part is used by every rig that stands on it, and each says whether it is built', () => {
  const { rig } = newDocument('Built');
  const store = { ...blockIn(rig, 'store'), parts: ['a', 'b', 'a'].map((id) => ({ id, tag: id })) };
  const parts = partsUsed(withBlock(rig, 'store', store));
  expect(parts).toEqual(['a', 'b']);
  const uses = usesByPart([
    { rigId: '1', name: 'Built', built: true, parts },
    { rigId: '3', name: 'Plan', built: false, parts: ['b'] },
  ]);
  expect(uses.get('a')).toEqual([{ rigId: '1', name: 'Built', built: true }]);
  expect(uses.get('b')?.map((u) => u.name)).toEqual(['Built', 'Plan']);
  expect(uses.has('c')).toBe(false);
});
