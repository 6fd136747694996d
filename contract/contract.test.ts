import { describe, expect, test } from 'vitest';
import { newDocument, newRig } from '@vast-surge/core/rig';
import { createRigSchema, faultMessages, faults, faultSchema, saveRigSchema, storedRigSchema } from './index.ts';

describe('the contract', () => {
  test('words every fault once and gives it a status that fits', () => {
    for (const [code, status] of Object.entries(faults)) {
      expect(faultMessages[code as keyof typeof faults]).toMatch(/^[A-Z].*\.$/);
      expect(status).toBeGreaterThanOrEqual(400);
      expect(faultSchema.parse({ code, message: 'x' })).toEqual({ code, message: 'x', fields: [] });
    }
    expect(faultSchema.safeParse({ code: 'nonsense', message: 'x' }).success).toBe(false);
  });

  test('what the server keeps is what the client reads, unchanged by a second reading', () => {
    const stored = {
      id: '33333333-3333-4333-8333-333333333333',
      version: 1,
      createdAt: '2026-01-01T00:00:00.000Z',
      updatedAt: '2026-01-01T00:00:00.000Z',
      archivedAt: null,
      branchedFrom: null,
      revision: { number: 2, version: 1 },
      document: newDocument('Bank'),
    };
    const once = storedRigSchema.parse(stored);
    expect(once).toEqual(stored);
    expect(storedRigSchema.parse(JSON.parse(JSON.stringify(once)))).toEqual(once);
  });

  test.each<[string, { safeParse(value: unknown): { success: boolean } }, unknown]>([
    ['a save without its version', saveRigSchema, { document: { name: 'x', rig: newRig() } }],
    ['a save of version 0', saveRigSchema, { version: 0, document: { name: 'x', rig: newRig() } }],
    ['a save of version 1.5', saveRigSchema, { version: 1.5, document: { name: 'x', rig: newRig() } }],
    ['a save with something more', saveRigSchema, { version: 1, force: true, document: { name: 'x', rig: newRig() } }],
    ['a new rig without an id', createRigSchema, { document: { name: 'x', rig: newRig() } }],
  ])('%s is refused', (_name, schema, value) => expect(schema.safeParse(value).success).toBe(false));
});
