import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { StoredShot } from '@vast-surge/contract';
import { airIn, airOfLast, sameAir } from './air-of-last.ts';
import { fromBase64, toBase64 } from '../../app/base64.ts';
import { shotsCsv, shotsMarkdown } from './export.ts';

test('samples come back as they were sent, whatever they are and however many', () => {
  fc.assert(
    fc.property(fc.array(fc.double(), { maxLength: 50 }), fc.integer({ min: 1, max: 400 }), (values, times) => {
      const list = Float64Array.from(Array.from({ length: times }, () => values).flat());
      expect([...fromBase64(toBase64(list))]).toEqual([...list]);
    }),
    { numRuns: 40 },
  );
});

const shot = (n: number, more: Partial<StoredShot['shot']> = {}): StoredShot => ({
  id: `00000000-0000-4000-8000-00000000000${n}`,
  rigId: 'r',
  rigName: n === 3 ? 'Kittiwake' : 'Thimble',
  revisionId: 'v',
  revision: 1,
  runId: null,
  version: 1,
  updatedAt: '2026-03-04T10:00:00.000Z',
  shot: {
    at: '2026-03-04T10:00:00.000Z',
    outcome: 'fired',
    set: { voltage: 30 },
    measured: { current: 90.5 },
    own: [],
    sound: '',
    remarks: '',
    campaign: null,
    ...more,
  },
  predicted: { current: 95.25 },
  files: [],
});

test('an export holds set, predicted and measured of each shot in SI units, and no text of a user becomes a formula or a mark', () => {
  const rows = shotsCsv([shot(1, { remarks: '=1+1' }), shot(2)])
    .trim()
    .split('\r\n')
    .join('\n')
    .split('\n');
  expect(rows).toHaveLength(3);
  expect(rows[0]).toContain('set voltage / V');
  expect(rows[1]).toContain("'=1+1");
  expect(rows[2]).toMatch(/,30,.*95\.25.*90\.5/);
  expect(shotsMarkdown('Thimble', [shot(1, { remarks: '**loud** | *x*' })])).toContain('\\*\\*loud\\*\\* \\| \\*x\\*');
});

test('the air of a shot is parted from what was set, whole and without loss, and is the last one’s for an afternoon', () => {
  const set = { voltage: 11e3, pressure: 2e5, airPressure: 84e3, airTemperature: 303.15 };
  const { air, rest } = airIn(set);
  expect({ ...rest, ...air }).toEqual(set);
  expect(Object.keys(rest)).toEqual(['voltage', 'pressure']);
  expect([sameAir(air, { ...air }), sameAir(air, { ...air, airPressure: 85e3 }), sameAir(air, {})]).toEqual([true, false, false]);
  const last = [{ shot: { ...shot(1).shot, at: '2026-03-04T10:00:00.000Z', set } }];
  expect(airOfLast(last, '2026-03-04T15:00:00.000Z')?.values).toEqual(air);
  expect(airOfLast(last, '2026-03-04T17:00:00.000Z')).toBeNull();
});
