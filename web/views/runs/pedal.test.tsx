// @vitest-environment jsdom
import { act, render } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { clear } from '../../test/render.tsx';
import { useRunKeys, useSoundKey } from './pedal.ts';

/** Steps that Space passes, and how often it was aborted. */
const done = { steps: 0, aborts: 0, sound: 0 };

function Run({ step }: { step: string }) {
  useRunKeys(step, { action: () => void done.steps++, abort: () => void done.aborts++, others: {} });
  useSoundKey(() => void done.sound++);
  return <input aria-label="Reading" />;
}

let now = 0;
const press = (key: string, init: KeyboardEventInit = {}) =>
  act(() => void window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init })));

beforeEach(() => {
  now = 10_000;
  Object.assign(done, { steps: 0, aborts: 0, sound: 0 });
  vi.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => {
  vi.restoreAllMocks();
  clear();
});

describe('the keys of run mode', () => {
  test('drumming on Space passes no step, whatever its rhythm below the time it takes to look; one press after it does', () => {
    for (const rhythm of [30, 120, 250, 400, 650]) {
      const { rerender, unmount } = render(<Run step="one" />);
      done.steps = 0;
      now += 2000;
      press(' ');
      expect(done.steps).toBe(1);
      rerender(<Run step="two" />);
      for (let i = 0; i < 40; i++) {
        now += rhythm;
        press(' ');
      }
      expect(done.steps, `every ${rhythm} ms`).toBe(1);
      now += 800;
      press(' ');
      expect(done.steps).toBe(2);
      unmount();
    }
  });

  test('a key that is held does nothing, nor does one with Ctrl; Esc aborts the second time alone, and not when it comes late', () => {
    render(<Run step="one" />);
    now += 2000;
    press(' ', { repeat: true });
    press('Enter', { ctrlKey: true });
    expect(done.steps).toBe(0);
    press('Escape');
    now += 1600;
    press('Escape');
    expect(done.aborts).toBe(0);
    now += 300;
    press('Escape');
    expect(done.aborts).toBe(1);
  });

  test('m turns the sound off, and is a letter in a field', () => {
    const { getByLabelText } = render(<Run step="one" />);
    press('m');
    expect(done.sound).toBe(1);
    act(() => void getByLabelText('Reading').dispatchEvent(new KeyboardEvent('keydown', { key: 'm', bubbles: true })));
    expect(done.sound).toBe(1);
  });
});
