import { describe, expect, test } from 'vitest';
import { answered, campaignSchema, progressOf, type Kept, type KeptShot } from '@vast-surge/core/campaign';
import { demoDocument } from '../../test/demo.ts';
import { answerPlot } from './answer-curve.ts';

const document = demoDocument('thimble');
const begin = Date.parse('2026-05-02T10:00:00.000Z');
const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** A campaign whose current follows a law, each setting fired twice. */
function keptOf(
  settings: readonly (readonly { path: string; text: string; value: number }[])[],
  law: (values: number[]) => number,
): Kept {
  const row = settings.flatMap((_, k) => [k, k]);
  const campaign = campaignSchema.parse({
    question: 'Which?',
    answers: { measure: 'current' },
    settings: settings.map((values) => ({
      values: values.map((one) => ({ title: one.path === 'store.V0' ? 'Charged to' : 'Resistance', ...one })),
      predicted: {},
      seconds: 300,
      life: null,
    })),
    row,
    design: 'factorial',
    order: 'rising',
    before: 0,
    after: 0,
    rest: 0,
    sessions: [{ start: begin, seconds: 3600, people: 'AB' }],
    stopAfter: 3,
    by: 'AB',
  });
  const shots = row.map((k, place): KeptShot => ({
    id: id(place),
    shot: {
      at: new Date(begin + 60_000 * place).toISOString(),
      outcome: 'fired',
      set: {},
      measured: { current: law((settings[k] ?? []).map(({ value }) => value)) + (place % 2 === 0 ? 0.5 : -0.5) },
      own: [],
      sound: '',
      remarks: '',
      campaign: { id: id(900), place },
    },
  }));
  return { rig: 'Bench', campaign, entries: [], shots, progress: progressOf(campaign, [], shots), learnt: null, caught: [] };
}

const volts = (value: number) => ({ path: 'store.V0', text: `${value} V`, value });
const ohms = (value: number) => ({ path: 'load.R', text: `${value * 1e3} mΩ`, value });
const plotOf = (kept: Kept, over: number) => {
  const found = answered(kept);
  if (!found) throw new Error('no answer');
  return answerPlot(kept, document, found, over);
};

describe('the answer, drawn', () => {
  test('over one field: the curve within its band, every shot that counts, and a window with round ends around them', () => {
    const kept = keptOf([[volts(20)], [volts(28)], [volts(36)]], ([V = 0]) => 5 * V);
    const spec = plotOf(kept, 0);
    expect(spec?.traces.map(({ trace }) => trace.id)).toEqual(['mean', 'low', 'high']);
    const [mean, low, high] = spec?.traces.map(({ trace }) => trace.y) ?? [];
    mean?.forEach((y, i) => expect((low?.[i] ?? NaN) <= y && y <= (high?.[i] ?? NaN)).toBe(true));
    expect(mean?.[0]).toBeCloseTo(100, 6);
    expect(mean?.at(-1)).toBeCloseTo(180, 6);
    expect(spec?.points).toHaveLength(6);
    expect(spec?.window?.from).toBeLessThanOrEqual(20);
    expect(spec?.window?.to).toBeGreaterThanOrEqual(36);
    expect(spec?.units.left).toBe('A');
  });

  test('over either of two fields: a curve for each level of the other, told by its name, the law in each', () => {
    const settings = [20, 36].flatMap((V) => [0.15, 0.18, 0.21].map((R) => [volts(V), ohms(R)]));
    const kept = keptOf(settings, ([V = 0, R = 0]) => 4 * V - 100 * R);
    const overV = plotOf(kept, 0);
    expect(overV?.traces.map(({ trace }) => trace.title)).toEqual([
      'Resistance 150 mΩ',
      'Resistance 180 mΩ',
      'Resistance 210 mΩ',
    ]);
    expect(overV?.traces[2]?.trace.y.at(-1)).toBeCloseTo(4 * 36 - 21, 6);
    expect(overV?.traces.map(({ shade }) => shade)).toEqual([0, 0.5, 1]);
    const overR = plotOf(kept, 1);
    expect(overR?.traces.map(({ trace }) => trace.title)).toEqual(['Charged to 20 V', 'Charged to 36 V']);
    expect(overR?.traces[0]?.trace.y[0]).toBeCloseTo(80 - 15, 6);
    expect(overR?.along?.unit).toBe('Ω');
  });
});
