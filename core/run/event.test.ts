import { describe, expect, test } from 'vitest';
import { cameFrom, initialsSchema, runEventSchema } from './index.ts';

const stamp = { id: '00000000-0000-4000-8000-000000000001', at: 1e12, screen: 'left' };
const takes = (event: object): boolean => runEventSchema.safeParse({ ...stamp, ...event }).success;
const long = (length: number): string => 'a'.repeat(length);

describe('an event of a run', () => {
  test.each([
    ['the name of a step', 60, (text: string) => ({ type: 'done', step: text })],
    ['where a reading came from', 60, (text: string) => ({ type: 'read', step: 's', value: 1, confirmed: true, source: text })],
    ['the reason of an abort', 300, (text: string) => ({ type: 'aborted', reason: text })],
    ['a note', 1000, (text: string) => ({ type: 'noted', text })],
    ['what is done to a simulated rig', 40, (text: string) => ({ type: 'acted', act: text })],
    ['a fault that is suspected', 40, (text: string) => ({ type: 'suspected', fault: text })],
    ['initials', 4, (text: string) => ({ type: 'took-over', by: text })],
    ['a screen', 60, (text: string) => ({ type: 'back', screen: text })],
  ])('%s has at most %d letters', (_what, most, event) => {
    expect([takes(event(long(most))), takes(event(long(most + 1)))]).toEqual([true, false]);
  });

  test.each([
    ['a screen', { type: 'back', screen: '' }],
    ['the source of a reading', { type: 'read', step: 's', value: 1, confirmed: true, source: '' }],
    ['an act', { type: 'acted', act: '' }],
    ['a fault', { type: 'suspected', fault: '' }],
    ['a note', { type: 'noted', text: '   ' }],
  ])('%s is not empty', (_what, event) => expect(takes(event)).toBe(false));

  test.each([
    ['a reading, V', -1e7, 1e7, (value: number) => ({ type: 'read', step: 's', value, confirmed: true, source: 'typed' })],
    ['its time, ms', 0, 4e12, (at: number) => ({ type: 'back', at })],
    ['a jump of a clock, s', -4e9, 4e9, (by: number) => ({ type: 'clock', by })],
  ])('%s lies from %d to %d', (_what, low, high, event) => {
    const beyond = Math.abs(high) * 1e-9;
    expect([low, high].map((value) => takes(event(value)))).toEqual([true, true]);
    expect([low - beyond, high + beyond, NaN, Infinity].map((value) => takes(event(value)))).toEqual([
      ...Array<boolean>(4).fill(false),
    ]);
  });

  test('has nothing that is not its own, and an id that nobody else has', () => {
    expect(takes({ type: 'back' })).toBe(true);
    expect(takes({ type: 'back', step: 'one' })).toBe(false);
    expect(takes({ type: 'back', id: 'one' })).toBe(false);
    expect(takes({ type: 'forward' })).toBe(false);
    expect(takes({ type: 'outcome', step: 's', outcome: 'exploded' })).toBe(false);
    expect(takes({ type: 'again', to: 'bed' })).toBe(false);
  });

  test('stands for a person by letters and digits of any script', () => {
    const reads = (text: string) => initialsSchema.safeParse(text);
    for (const text of ['A', 'ÄB', 'Жк', 'x9', ' AB '])
      expect(reads(text), text).toMatchObject({ success: true, data: text.trim() });
    for (const text of ['', ' ', 'A B', 'A-B', 'ABCDE', '@']) expect(reads(text).success, text).toBe(false);
  });

  test('has the account of its device where that counts, whatever it says of itself', () => {
    const [mine, other] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];
    const began = { type: 'began' as const, acts: 'AB', reads: null, account: other };
    expect(cameFrom(mine, began)).toEqual({ type: 'began', acts: 'AB', reads: null, account: mine, takeOver: 'asked' });
    expect(cameFrom(null, { ...began, takeOver: 'asked' as const })).toEqual({ type: 'began', acts: 'AB', reads: null });
    const answer = { type: 'answered' as const, step: 's' };
    expect(cameFrom(mine, answer)).toEqual({ ...answer, account: mine });
    const done = { type: 'done' as const, step: 's' };
    expect(cameFrom(mine, done)).toBe(done);
  });
});
