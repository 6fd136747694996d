import { expect, test } from 'vitest';
import { withBlock, blockIn, newDocument, type RigDocument } from '@vast-surge/core/rig';
import { partsOf, usesIn } from './uses.ts';

const on = (document: RigDocument, ...ids: string[]): RigDocument => {
  const store = blockIn(document.rig, 'store');
  return { ...document, rig: withBlock(document.rig, 'store', { ...store, parts: ids.map((id) => ({ id, tag: id })) }) };
};
const stored = (id: string, document: RigDocument) => ({
  id,
  version: 1,
  createdAt: '',
  updatedAt: '',
  archivedAt: null,
  branchedFrom: null,
  revision: null,
  document,
});

test('a part is used by every rig that stands on it, and each says whether it is built; what cannot be read is passed over', () => {
  const built = { ...on(newDocument('Built'), 'a', 'b', 'a'), built: true };
  const plan = on(newDocument('Plan'), 'b');
  const uses = usesIn([stored('1', built), { id: '2', name: 'Strange', unreadable: 'kind' }, stored('3', plan)]);
  expect(partsOf(built.rig)).toEqual(['a', 'b']);
  expect(uses.get('a')).toEqual([{ rigId: '1', name: 'Built', built: true }]);
  expect(uses.get('b')?.map((u) => u.name)).toEqual(['Built', 'Plan']);
  expect(uses.has('c')).toBe(false);
});
