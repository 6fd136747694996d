import { readFileSync } from 'node:fs';
import type { StoredRun } from '@vast-surge/contract';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { planOf } from '@vast-surge/core/run';

/** A run of a rig of the demo workshop as the server would have it, before anything was done. */
export function plannedRun(name: string): StoredRun {
  const read = readRigFile(readFileSync(`demo/${name}.json`, 'utf8'));
  if (!read.ok) throw new Error('the demo cannot be read');
  const { rig, sheet, name: title } = read.document;
  const made = planOf(title, evaluateRig(rig), sheet);
  if (!made.ok) throw new Error(made.reason);
  const id = '00000000-0000-4000-8000-00000000000a';
  return {
    id,
    rigId: id,
    revisionId: id,
    revision: 1,
    rehearsal: null,
    madeAt: '2026-01-01T00:00:00.000Z',
    plan: made.plan,
    events: [],
  };
}
