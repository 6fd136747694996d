import { useEffect, useRef, useState } from 'react';

const stored = 'vast-surge.pedal';
/** A foot pedal sends a key of its own; these are the ones that do the action of a step unless another was chosen. */
const usual = [' ', 'Enter', 'PageDown'];

export const pedalKey = (): string | null => localStorage.getItem(stored);

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

const onButton = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && ['BUTTON', 'A', 'SUMMARY'].includes(target.tagName);

/**
 * A key that is pressed within this time after the step changed is the end of the last press, and no new one; each such press begins
 * the time anew, so that drumming on a key, or a pedal that chatters, passes no step. ms
 */
const settle = 700;

interface Keys {
  /** The one action of the step. */
  action(): void;
  abort(): void;
  /** Further keys by name. */
  readonly others: Readonly<Record<string, () => void>>;
}

/** In a field keys are text, but for a pedal, which is no key of a keyboard; on a button they press it. */
const isOfTheField = (target: EventTarget | null, isUsual: boolean) => inField(target) || (isUsual && onButton(target));

/** Esc once arms it, and once more within this time breaks off. ms */
const twiceWithin = 1500;

function escapesInARow(setArmed: (isArmed: boolean) => void, abort: () => void) {
  let last = -Infinity;
  let timer = 0;
  return {
    one(now: number): void {
      clearTimeout(timer);
      const isSecond = now - last < twiceWithin;
      last = isSecond ? -Infinity : now;
      setArmed(!isSecond);
      if (isSecond) abort();
      else timer = window.setTimeout(() => setArmed(false), twiceWithin);
    },
    end: () => clearTimeout(timer),
  };
}

/**
 * The keys of run mode: one for the action of the step (also the pedal's), Esc twice for an abort, and those of the step.
 *
 * @param step what is on the screen: a key that is held or pressed while it changes does nothing to the next
 * @returns whether Esc was pressed once
 */
export function useRunKeys(step: string, keys: Keys): boolean {
  const latest = useRef(keys);
  const since = useRef(0);
  const [isArmed, setArmed] = useState(false);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    since.current = performance.now();
  }, [step]);
  useEffect(() => {
    const escapes = escapesInARow(setArmed, () => latest.current.abort());
    const onKey = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
      const now = performance.now();
      if (event.key === 'Escape') {
        event.preventDefault();
        escapes.one(now);
        return;
      }
      const isPedal = event.key === pedalKey();
      const isUsual = usual.includes(event.key);
      if (!isPedal && isOfTheField(event.target, isUsual)) return;
      const other = latest.current.others[event.key.toLowerCase()];
      if (!isPedal && !isUsual && !other) return;
      event.preventDefault();
      if (now - since.current < settle) {
        since.current = now;
        return;
      }
      if (isPedal || isUsual) latest.current.action();
      else other?.();
    };
    window.addEventListener('keydown', onKey);
    return () => {
      escapes.end();
      window.removeEventListener('keydown', onKey);
    };
  }, []);
  return isArmed;
}

/** The key that turns sound and voice on and off, at any time of a run. */
export function useSoundKey(toggle: () => void): void {
  const latest = useRef(toggle);
  useEffect(() => {
    latest.current = toggle;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'm' || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!inField(event.target)) latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/** Waits for the next key, which becomes the pedal's; Esc chooses none. */
export function choosePedal(onChosen: (key: string | null) => void): void {
  const take = (event: KeyboardEvent) => {
    event.preventDefault();
    event.stopImmediatePropagation();
    window.removeEventListener('keydown', take, true);
    const key = event.key === 'Escape' ? null : event.key;
    if (key === null) localStorage.removeItem(stored);
    else localStorage.setItem(stored, key);
    onChosen(key);
  };
  window.addEventListener('keydown', take, true);
}
