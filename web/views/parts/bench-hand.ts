import { useState } from 'react';
import type { StoredPart } from '@vast-surge/contract';
import { underUnits, type Measure } from '@vast-surge/core/part';
import { wordQuantityIssue } from '@vast-surge/core/quantity';
import { writeBench } from '../../app/bench.ts';
import { parseTyped } from '../../ui/typed.ts';

/** Who measures with what: typed once, kept on this device for the next part. */
interface Hand {
  readonly instrument: string;
  readonly by: string;
}

const key = 'vast-surge.hand';

function savedHand(): Hand {
  try {
    const { instrument, by } = JSON.parse(localStorage.getItem(key) ?? '') as Partial<Hand>;
    return { instrument: String(instrument ?? '').slice(0, 80), by: String(by ?? '').slice(0, 40) };
  } catch {
    return { instrument: '', by: '' };
  }
}

function saveHand(hand: Hand): void {
  try {
    localStorage.setItem(key, JSON.stringify(hand));
  } catch {
    // Only a convenience: a full device costs typing it again.
  }
}

interface Conditions {
  /** By measure: frequency, voltage or current, as typed. */
  readonly under: Readonly<Record<string, string>>;
  readonly hand: Hand;
  readonly units: Readonly<Record<string, string>>;
}

export function useConditions() {
  const [conditions, setConditions] = useState<Conditions>(() => ({ under: {}, hand: savedHand(), units: {} }));
  const setHand = (hand: Hand) => {
    saveHand(hand);
    setConditions((c) => ({ ...c, hand }));
  };
  return {
    ...conditions,
    setHand,
    setUnder: (id: string, text: string) => setConditions((c) => ({ ...c, under: { ...c.under, [id]: text } })),
    setUnit: (id: string, unit: string) => setConditions((c) => ({ ...c, units: { ...c.units, [id]: unit } })),
  };
}

export type Held = ReturnType<typeof useConditions>;

function underOf(measure: Measure, { under }: Conditions): { ok: true; value: number | null } | { ok: false; reason: string } {
  const text = under[measure.id] ?? '';
  if (measure.at === undefined || text.trim() === '') return { ok: true, value: null };
  const read = parseTyped(text, underUnits[measure.at]);
  return read.ok
    ? { ok: true, value: read.quantity.value }
    : { ok: false, reason: `${measure.at} ${wordQuantityIssue(read.issue)}` };
}

/** Adds a reading. @returns why it was not, or null */
export function addReading(
  stored: StoredPart,
  measure: Measure,
  element: number,
  value: number,
  held: Conditions,
): string | null {
  const under = underOf(measure, held);
  if (!under.ok) return under.reason;
  const { instrument, by } = held.hand;
  writeBench({
    do: 'read',
    readings: [
      {
        partId: stored.id,
        reading: { measure: measure.id, element, value, at: new Date().toISOString(), instrument, under: under.value, by },
      },
    ],
  });
  return null;
}
