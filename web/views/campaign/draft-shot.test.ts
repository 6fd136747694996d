import { describe, expect, test } from 'vitest';
import { campaignSchema, progressOf, type Campaign } from '@vast-surge/core/campaign';
import { shotSchema } from '@vast-surge/core/shot';
import { isDraft, newDraft, readReading, shotFrom, type DraftShot } from './draft-shot.ts';

const setting = (value: number) => ({
  values: [{ path: 'store.V0', title: 'Charged to', text: `${value} V`, value }],
  predicted: { voltage: value, current: 5 * value },
  seconds: 300,
  life: null,
});
const campaignOf = (answers: Campaign['answers']) =>
  campaignSchema.parse({
    question: 'Which?',
    answers,
    settings: [setting(20), setting(30)],
    row: [0, 1],
    design: 'factorial',
    order: 'rising',
    before: 0,
    after: 0,
    rest: 0,
    sessions: [{ start: 0, seconds: 3600, people: 'AB' }],
    stopAfter: 3,
    by: 'AB',
  });
const id = '00000000-0000-4000-8000-000000000900';
const draft = (more: Partial<DraftShot>): DraftShot => ({ ...newDraft(), ...more });
const about = { people: ['AB', ' '], air: { airPressure: 99e3 }, at: '2026-05-02T08:10:00.000Z' };

describe('the shot of a place', () => {
  const campaign = campaignOf({ measure: 'current' });
  const [first] = progressOf(campaign, [], []).places;
  if (!first) throw new Error('no place');

  test('is what the schema of shots takes: set, air, reading, who acted', () => {
    const shot = shotFrom(campaign, id, first, draft({ reading: '97 A', remarks: 'Dull.' }), about);
    expect(shotSchema.parse(shot)).toEqual(shot);
    expect(shot).toMatchObject({
      set: { voltage: 20, airPressure: 99e3 },
      measured: { current: 97 },
      remarks: 'Dull. · AB acted',
      campaign: { id, place: 0 },
    });
    expect(shot).not.toHaveProperty('campaign.setting');
  });

  test('at another setting than planned says at which', () => {
    const entry = {
      kind: 'setting' as const,
      id,
      at: '2026-05-02T08:00:00.000Z',
      by: 'AB',
      place: 0,
      setting: 1,
      text: 'More there.',
    };
    const [moved] = progressOf(campaign, [entry], []).places;
    if (!moved) throw new Error('no place');
    expect(shotFrom(campaign, id, moved, draft({ reading: '150 A' }), about)).toMatchObject({
      set: { voltage: 30 },
      campaign: { place: 0, setting: 1 },
    });
  });

  test('what cannot be read is told by name, and nothing is taken for a reading', () => {
    expect(readReading({ measure: 'current' }, draft({}))).toBe(
      'Peak current is empty: enter what was read, or say that it did not fire',
    );
    expect(readReading({ measure: 'current' }, draft({ outcome: 'misfire' }))).toEqual({ measured: {}, own: [] });
    expect(readReading({ measure: 'current' }, draft({ reading: '97 V' }))).toMatch(/^Peak current .*A/);
    const light = { name: 'Light', unit: 'mV' };
    expect(readReading(light, draft({ reading: '3.2' }))).toEqual({ measured: {}, own: [{ ...light, value: 3.2 }] });
    for (const reading of ['dull', '1e20', '3 mV'])
      expect(readReading(light, draft({ reading }))).toMatch(/^Light is ".*"; it must be a number in mV, without its unit/);
  });
});

test('a draft that the device kept is known again; anything else is none', () => {
  expect(isDraft(JSON.parse(JSON.stringify(draft({ reading: '97 A', air: { humidity: 0.5 } }))))).toBe(true);
  expect(isDraft({ ...newDraft(), outcome: 'exploded' })).toBe(false);
  expect(isDraft(null)).toBe(false);
});
