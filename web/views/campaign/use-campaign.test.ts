import { expect, test } from 'vitest';
import type { StoredCampaign, StoredShot } from '@vast-surge/contract';
import type { Campaign, Entry } from '@vast-surge/core/campaign';
import { calibrationOf } from '@vast-surge/core/shot';
import { lastRead, outsideOf } from './use-campaign.ts';

const shot = (n: number, current: number | null): StoredShot => ({
  id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
  rigId: '',
  rigName: 'Bench',
  revisionId: '',
  revision: 1,
  runId: null,
  version: 1,
  updatedAt: '',
  predicted: { current: 100 },
  files: [],
  shot: {
    at: new Date(1e12 + 6e5 * n).toISOString(),
    outcome: current === null ? 'misfire' : 'fired',
    set: {},
    measured: current === null ? {} : { current },
    own: [],
    sound: '',
    remarks: '',
    campaign: null,
  },
});
const stored = (shots: readonly StoredShot[], entries: readonly Entry[] = []): StoredCampaign => ({
  id: '',
  rigId: '',
  rigName: 'Bench',
  revisionId: '',
  revision: 1,
  madeAt: '',
  campaign: { answers: { measure: 'current' } } as Campaign,
  entries,
  shots,
});

test('a reading far off holds the next shot back until it is looked into, whatever did not fire since', () => {
  const steady = [100, 101, 99, 100, 101, 99].map((current, i) => shot(i, current));
  const judged = (shots: readonly StoredShot[], entries: readonly Entry[] = []) =>
    outsideOf(calibrationOf(shots, 'current'), stored(shots, entries));
  expect(judged(steady)).toBeNull();
  const far = [...steady, shot(6, 80), shot(7, null)];
  expect(judged(far)?.shot.id).toBe(far[6]?.id);
  // What is written of the last reading is written of that one, not of the misfire behind it.
  expect(lastRead(stored(far))?.id).toBe(far[6]?.id);
  const entry: Entry = {
    id: shot(90, 1).id,
    at: '',
    by: 'AB',
    kind: 'looked-into',
    shot: far[6]?.id ?? '',
    text: 'A bolt was loose.',
  };
  expect(judged(far, [entry])).toBeNull();
  expect(outsideOf(null, stored(far))).toBeNull();
});
