import { useEffect, useState } from 'react';
import { beep } from './sound.ts';

/** s that are counted aloud before a shot; a rehearsal counts somewhat faster, but so that one can follow. */
const count = 10;
const fastest = 4;

export interface Count {
  /** s that are left; null before it began. */
  readonly left: number | null;
  readonly start: () => void;
}

/** The count before a shot: seen, and heard where sound is on. */
export function useCount(stepKey: string, speed: number): Count {
  const [begun, setBegun] = useState<{ key: string; at: number } | null>(null);
  const [now, setNow] = useState(0);
  const isOn = begun !== null && begun.key === stepKey;
  useEffect(() => {
    if (!isOn) return;
    const timer = setInterval(() => setNow(performance.now()), 100);
    return () => clearInterval(timer);
  }, [isOn]);
  const left = isOn
    ? Math.max(0, Math.ceil(count - ((Math.max(now, begun.at) - begun.at) / 1000) * Math.min(speed, fastest)))
    : null;
  useEffect(() => {
    if (left === null) return;
    beep(left === 0 ? 1320 : 660, left === 0 ? 0.6 : 0.12);
  }, [left]);
  return {
    left,
    start: () => {
      const at = performance.now();
      setNow(at);
      setBegun({ key: stepKey, at });
    },
  };
}
