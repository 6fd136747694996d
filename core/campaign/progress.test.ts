import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, test } from 'vitest';
import { newDocument } from '../rig/index.ts';
import { calibrationOf } from '../shot/index.ts';
import { testCampaign, testId, testShot } from '../test/campaigns.ts';
import { demoRig } from '../test/rigs.ts';
import { answered, bookOf, campaignMarkdown, campaignRows } from './book.ts';
import { campaignSchema, entrySchema, type Campaign, type Check, type Entry } from './campaign.ts';
import { planSeries, standingAt } from './plan.ts';
import type { KeptShot } from './place.ts';
import { progressOf, replan } from './progress.ts';
import { leftCalendar, type Moments } from './report.ts';
import { shotVerdict, type Evidence } from './verdict.ts';

const day = 86_400_000;
const begin = Date.parse('2026-05-02T10:00:00.000Z');
const moments: Moments = {
  day: (ms) => new Date(ms).toISOString().slice(0, 16).replace('T', ' '),
  hour: (ms) => new Date(ms).toISOString().slice(11, 16),
};
const document = { ...newDocument('Bench'), rig: demoRig('thimble') };

function campaignWith(more: Partial<Campaign> = {}): Campaign {
  const sessions = [{ start: begin, seconds: 3 * 3600, people: 'AB acts' }];
  const made = planSeries(document, {
    varied: [{ path: 'store.V0', levels: [20, 28, 36] }],
    design: 'factorial',
    replicates: 3,
    order: 'rising',
    seed: 1,
    rest: 60,
    sessions,
  });
  if (!made.ok) throw new Error(made.reason);
  const { settings, row, before, after } = made.plan;
  return testCampaign({ settings, row, before, after, rest: 60, sessions, stopAfter: 2, ...more });
}

const id = testId;
const shotAt = (n: number, place: number, current: number | null, minutes = 10 * n): KeptShot =>
  testShot(n, place, begin + 60_000 * minutes, current === null ? { outcome: 'misfire' } : { measured: { current } });
const entry = (n: number, more: object, minutes = 10 * n + 5): Entry =>
  entrySchema.parse({ id: id(500 + n), at: new Date(begin + 60_000 * minutes).toISOString(), by: 'CD', text: 'said', ...more });

describe('progress of a campaign', () => {
  const campaign = campaignWith();

  test('a misfire is fired again, what is left out is not; closed is closed', () => {
    const shots = [shotAt(1, 0, 100), shotAt(2, 1, null)];
    const progress = progressOf(campaign, [], shots);
    expect([progress.done, progress.misfires, progress.next?.place]).toEqual([1, 1, 1]);
    expect(progress.next?.shots).toHaveLength(1);
    const left = progressOf(campaign, [entry(1, { kind: 'dropped', places: [1, 2] })], shots);
    expect([left.dropped, left.next?.place, left.places[2]?.standing]).toEqual([2, 3, 'dropped']);
    const closed = progressOf(campaign, [entry(1, { kind: 'closed' })], shots);
    expect([closed.next, closed.closed?.by]).toEqual([null, 'CD']);
  });

  test('what is left is laid into the hours that are left; nothing twice, nothing before now, in order', () => {
    const progress = progressOf(campaign, [], [shotAt(1, 0, 100)]);
    for (const minutes of [0, 15, 60, 120, 170, 400]) {
      const now = begin + 60_000 * minutes;
      const laid = replan(campaign, progress, now);
      const booked = laid.sessions.flatMap(({ shots }) => shots);
      expect([...booked.map(({ of }) => of.place), ...laid.dropped.map(({ place }) => place)]).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
      const from = minutes > 10 ? now : begin;
      expect(booked.every(({ start, end }) => start >= from && end <= begin + 3 * 3600e3)).toBe(true);
    }
    expect(replan(campaign, progress, begin + 4 * 3600e3).dropped).toHaveLength(8);
    // Other hours, and they all fit again.
    const hours = [{ start: begin + 7 * day, seconds: 3 * 3600, people: '' }];
    const again = progressOf(campaign, [entry(1, { kind: 'sessions', sessions: hours })], [shotAt(1, 0, 100)]);
    expect(replan(campaign, again, begin + 4 * 3600e3).dropped).toHaveLength(0);
  });

  test('goes into a calendar with who is there, read back by a standard parser', () => {
    const progress = progressOf(campaign, [], [shotAt(1, 0, 100)]);
    const text = leftCalendar('Bench', replan(campaign, progress, begin - day), moments);
    const [event] = new ICAL.Component(ICAL.parse(text) as unknown[])
      .getAllSubcomponents('vevent')
      .map((one) => new ICAL.Event(one));
    expect(event?.description.split('\n')[0]).toBe('AB acts');
    expect(event?.description.split('\n')).toHaveLength(1 + 8);
    expect(event?.startDate.toJSDate().getTime()).toBe(begin);
  });

  test('a law: every open place once, in order, whatever was fired, left out, and however late it is', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ place: fc.nat(8), fired: fc.boolean(), minutes: fc.nat(150) }), { maxLength: 15 }),
        fc.array(fc.nat(8), { maxLength: 4 }),
        fc.nat(300),
        (fired, dropped, late) => {
          const shots = fired.map(({ place, fired: did, minutes }, n) => shotAt(n, place, did ? 100 : null, minutes));
          const entries = dropped.length > 0 ? [entry(1, { kind: 'dropped', places: dropped })] : [];
          const progress = progressOf(campaign, entries, shots);
          const open = progress.places.filter(({ standing }) => standing === 'open').map(({ place }) => place);
          expect(progress.done + progress.dropped + open.length).toBe(9);
          expect(progress.next?.place ?? null).toBe(open[0] ?? null);
          const laid = replan(campaign, progress, begin + 60_000 * late);
          const booked = laid.sessions.flatMap((session) => session.shots);
          expect([...booked.map(({ of }) => of.place), ...laid.dropped.map(({ place }) => place)]).toEqual(open);
          expect(booked.every(({ start, end }, k) => end > start && (k === 0 || start >= (booked[k - 1]?.end ?? 0)))).toBe(true);
        },
      ),
      { seed: 24, numRuns: 150 },
    );
  });
});

describe('the verdict of the next shot', () => {
  const campaign = campaignWith();
  const made = (n: number, what: Check['what'], at: number): Check => ({
    id: id(n),
    at: new Date(at).toISOString(),
    by: 'AB',
    what,
    text: '',
  });
  const now = begin + 3600e3;
  const good: Evidence = {
    now,
    sheet: { word: 'go at most', says: 'as set', because: '' },
    checks: [
      made(1, 'discharge-stick', now - 3 * day),
      made(2, 'voltage-meter', now - 200 * day),
      made(3, 'interlock', now - 30 * day),
      made(4, 'fire-and-aid', now - 300 * day),
    ],
    rehearsed: [40, 95, null],
    hasGuard: true,
    acts: 'AB',
    reads: 'CD',
    reading: null,
    lifeUsed: 0.1,
  };
  const progress = progressOf(campaign, [], [shotAt(1, 0, 100)]);
  const far = { shot: shotAt(1, 0, 97), value: 97, low: 98, high: 102, isInside: false, isLookedInto: false };
  const without = {
    ...progress,
    stocks: [
      {
        stock: { id: 'own.1', title: 'Foil', unit: 'sheets', onHand: 3, then: 'Bring more of it' },
        left: 0.5,
        next: 1,
        needed: 8,
        lastsFor: 0,
      },
    ],
  };
  const judge = (more: Partial<Evidence>, of = progress) => shotVerdict(campaign, of, { ...good, ...more }, moments);

  test('is go where everything is in order', () => {
    expect(judge({}).word).toBe('go at most');
  });

  test.each([
    ['limits', { sheet: { word: 'not now', says: 'too fast', because: 'Raise the bleeder' } }, 'not now'],
    ['limits', { sheet: { word: 'do not fire', says: 'over', because: 'Lower it' } }, 'do not fire'],
    ['life', { lifeUsed: 1.02 }, 'do not fire'],
    ['cooled', { now: begin + 10 * 60_000 + 30_000 }, 'not now'],
    ['discharge-stick', { checks: good.checks.slice(1) }, 'not now'],
    ['discharge-stick', { now: now + 29 * day, checks: good.checks }, 'not now'],
    ['rehearsed', { rehearsed: [79.9, null] }, 'not now'],
    ['guard', { hasGuard: false }, 'not now'],
    ['band', { reading: 'pending' }, 'not now'],
    ['band', { reading: far }, 'not now'],
    ['people', { reads: ' ab ' }, 'not now'],
    ['people', { acts: '' }, 'not now'],
  ] as const)('%s turns it, and names one act', (gate, more, word) => {
    const verdict = judge(more as Partial<Evidence>);
    expect(verdict.word).toBe(word);
    const open = verdict.gates.filter(({ ok }) => !ok).map(({ id: one }) => one as string);
    expect(open).toContain(gate);
    expect(verdict.gates.every(({ ok, act }) => ok === (act === null))).toBe(true);
  });

  test('what is used up holds it back, with what is done about it', () => {
    const gate = judge({}, without).gates.find(({ id: one }) => one === 'stock');
    expect(gate).toMatchObject({ ok: false, act: 'Bring more of it, and enter it in the book' });
    expect(gate?.says).toBe('Foil: 0.5 sheets, for 0 shots');
    expect(judge({}, without).word).toBe('not now');
  });

  test('misfires in a row stop it until somebody has written down what it was', () => {
    const shots = [shotAt(1, 0, 100), shotAt(2, 1, null), shotAt(3, 1, null)];
    const judged = (...entries: Entry[]) => judge({}, progressOf(campaign, entries, shots));
    expect(judged().gates.find(({ id: one }) => one === 'misfires')?.ok).toBe(false);
    expect(judged(entry(1, { kind: 'remark' }, 15)).word).toBe('not now');
    expect(judged(entry(1, { kind: 'near-miss' }, 40)).word).toBe('not now');
    expect(judged(entry(1, { kind: 'remark' }, 40)).word).toBe('go at most');
  });

  test('a reading is told with its band, and once it was looked into it holds nothing back', () => {
    const band = (reading: Evidence['reading']) => judge({ reading }).gates.find(({ id: one }) => one === 'band');
    expect(band(far)?.says).toBe('Peak current 97.0 A at shot 1; expected from 98.0 A to 102 A');
    expect(band({ ...far, isLookedInto: true })).toMatchObject({ ok: true, says: expect.stringMatching(/looked into$/) });
    expect(band(null)).toMatchObject({ ok: true, says: 'no reading yet that a band was told before' });
  });

  test('the standing of a rig at a setting is that of its sheet there', () => {
    const values = campaign.settings[2]?.values ?? [];
    expect(standingAt(document, values)).toMatchObject({ word: 'go at most' });
    expect(standingAt(document, values).predicted.current).toBe(campaign.settings[2]?.predicted.current);
    expect(standingAt(document, [{ path: 'store.V0', value: 200 }]).word).not.toBe('go at most');
  });
});

describe('the book', () => {
  const campaign = campaignWith();
  const shots = campaign.row.map((_, place) => shotAt(place + 1, place, 90 + 20 * Math.floor(place / 3) + (place % 3)));
  const entries = [
    entry(1, { kind: 'near-miss', text: 'Reached over the bar.', changed: 'A lid.' }),
    entry(2, { kind: 'correction', of: id(2), text: 'It was | 93 A.' }),
    entry(9, { kind: 'closed', text: 'The highest.' }),
  ];
  const records = shots.map(({ shot }) => ({ shot, predicted: { current: shot.measured.current } }));
  const learnt = calibrationOf(records, 'current');
  const caught = [{ id: id(800), at: begin + 12 * 60_000, text: 'A hold was refused.' }];
  const kept = { rig: 'Bench', campaign, entries, shots, progress: progressOf(campaign, entries, shots), learnt, caught };

  test('is in order, and what is corrected stands with its correction', () => {
    const rows = bookOf(kept, moments);
    expect(rows.map(({ at }) => at)).toEqual(rows.map(({ at }) => at).toSorted());
    expect(rows).toHaveLength(shots.length + 3);
    // What a run noticed by itself stands among them, at its time.
    const noticed = rows.findIndex(({ id: one }) => one === id(800));
    expect(rows[noticed]).toMatchObject({ kind: 'near-miss', title: 'Near-miss, noticed by a run', text: 'A hold was refused.' });
    expect((rows[noticed - 1]?.at ?? '') < (rows[noticed]?.at ?? '')).toBe(true);
    expect(rows.find(({ id: one }) => one === id(2))).toMatchObject({
      text: expect.stringContaining('91.0 A'),
      corrections: [{ text: 'It was | 93 A.' }],
    });
    expect(rows.find(({ title }) => title === 'Near-miss')?.text).toBe('Reached over the bar. Changed: A lid.');
  });

  test('answers in a sentence; the report has it with every setting, reading and line of the book', () => {
    expect(answered(kept)?.says).toMatch(/^Peak current is highest at Charged to 36 V: 131(\.0)? ± .* A \(95 %\)/);
    const text = campaignMarkdown(kept, moments);
    expect(text).toContain(`## Answer\n\n${answered(kept)?.says}`);
    expect(text).toMatch(/\| Charged to 20 V \| 3 \| 90\.0 A, 91\.0 A, 92\.0 A \| 9\d.* ± .* A \|/);
    expect(text).toContain('## 2026-05-02');
    expect(text).toContain('It was \\| 93 A.');
    const rows = campaignRows(kept);
    expect(rows).toHaveLength(9);
    expect(rows[0]).toMatchObject({ shot: 1, 'store.V0': 20, 'measured current': 90, outcome: 'fired' });
  });

  test('a reading far off is told by the book itself, with what was expected', () => {
    const far = records.map((one, i) => (i === 8 ? { ...one, predicted: { current: 80 } } : one));
    const rows = bookOf({ ...kept, learnt: calibrationOf(far, 'current') }, moments);
    expect(rows.find(({ id: one }) => one === id(9))?.text).toMatch(/outside of what was expected, \d+\.\d A to \d+\.\d A/);
    expect(rows.filter(({ text }) => text.includes('outside of what'))).toHaveLength(1);
  });

  test('a book takes no empty line and no strange one', () => {
    expect(entrySchema.safeParse({ ...entries[0], text: ' ' }).success).toBe(false);
    expect(entrySchema.safeParse({ ...entries[0], by: '' }).success).toBe(false);
    expect(entrySchema.safeParse({ ...entries[0], kind: 'erased' }).success).toBe(false);
    expect(campaignSchema.safeParse({ ...campaign, row: [0, 3] }).error?.issues[0]?.message).toMatch(
      /setting that it does not have/,
    );
  });
});
