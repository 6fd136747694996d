// @vitest-environment jsdom
import { expect, test, vi } from 'vitest';
import { afterPress } from './after-press.ts';

const send = (type: string) => window.dispatchEvent(new Event(type));

test('without a press at once; under a press only when it is over and its click has come', () => {
  vi.useFakeTimers();
  const done: string[] = [];
  afterPress(() => done.push('now'));
  expect(done).toEqual(['now']);
  send('pointerdown');
  afterPress(() => done.push('later'));
  expect(done).toEqual(['now']);
  send('pointerup');
  done.push('click');
  vi.runAllTimers();
  expect(done).toEqual(['now', 'click', 'later']);
  // Once: the next press is another one.
  send('pointerdown');
  send('pointercancel');
  vi.runAllTimers();
  expect(done).toHaveLength(3);
  vi.useRealTimers();
});
