import { readFileSync } from 'node:fs';
import type { StoredRun } from '@vast-surge/contract';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { planOf, replay, type RunEvent } from '@vast-surge/core/run';
import type { Running } from '../views/runs/use-run.ts';

/** A run as its page has it, at a step: what is done there is told to `act`. */
export function runningAt(
  { plan }: StoredRun,
  began: RunEvent,
  state: Partial<Running['state']>,
  elapsed: number,
  act: Running['act'],
): Running {
  const replayed = replay(plan, [began]);
  return {
    ...replayed,
    state: { ...replayed.state, ...state },
    events: [],
    waiting: [],
    isAway: false,
    isUnkept: false,
    barred: null,
    ahead: 0,
    act,
    isActing: true,
    speed: 1,
    elapsed,
    untilTaken: 0,
  };
}

const planned = new Map<string, StoredRun>();

/** A run of a rig of the demo workshop as the server would have it, before anything was done; planned once, as nothing changes it. */
export function plannedRun(name: string): StoredRun {
  const known = planned.get(name);
  if (known) return known;
  const read = readRigFile(readFileSync(`demo/${name}.json`, 'utf8'));
  if (!read.ok) throw new Error('the demo cannot be read');
  const { rig, sheet, name: title } = read.document;
  const made = planOf(title, evaluateRig(rig), sheet);
  if (!made.ok) throw new Error(made.reason);
  const id = '00000000-0000-4000-8000-00000000000a';
  const run: StoredRun = {
    id,
    rigId: id,
    revisionId: id,
    revision: 1,
    rehearsal: null,
    madeAt: '2026-01-01T00:00:00.000Z',
    plan: made.plan,
    events: [],
  };
  planned.set(name, run);
  return run;
}
