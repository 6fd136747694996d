import { highestVoltage, slots, type Instrument, type Phase } from '../block/index.ts';
import { definitionIn } from '../figure/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { printQuantity } from '../quantity/index.ts';

/** In these the strap is on; in all others, the first included, the store counts as charged, whatever was done before. */
const strapped: readonly Phase[] = ['instruments', 'strap', 'hand-over'];

/** What may be connected in a phase and what must not, a line for each instrument. */
export interface Connections {
  readonly on: readonly string[];
  readonly off: readonly string[];
}

function wordOf({ name, at, most, lowOnly }: Instrument, stands: number): { on: boolean; text: string } {
  if (at === 'earthed lead')
    return {
      on: true,
      text: `${name}, in the earthed lead: should its earth come off, ${printQuantity(stands, 'V')} can stand on it`,
    };
  if (lowOnly) return { on: false, text: `${name}: it was there for a low voltage` };
  if (most === null) return { on: false, text: `${name}: what it may see is not known` };
  return stands <= most
    ? {
        on: true,
        text: `${name}: at most ${printQuantity(stands, 'V')} of the ${printQuantity(most, 'V', { trim: true })} it may see`,
      }
    : {
        on: false,
        text: `${name}: ${printQuantity(stands, 'V')} can stand here, it may see ${printQuantity(most, 'V', { trim: true })}`,
      };
}

/**
 * Of each instrument of the rig, whether it may be connected in a phase of the run sheet. What counts is the highest voltage
 * that can stand on the store at the worst corner, and not what a bleeder should have left of it.
 */
export function connectionsIn(phase: Phase, evaluation: Evaluation): Connections {
  if (strapped.includes(phase)) return { on: [], off: [] };
  const reading = evaluation.corners.nominal();
  const stands = highestVoltage(reading);
  const words = slots
    .flatMap((slot) => definitionIn(evaluation.rig, slot).instruments?.(reading.own(slot)) ?? [])
    .map((instrument) => wordOf(instrument, stands));
  return { on: words.filter((w) => w.on).map((w) => w.text), off: words.filter((w) => !w.on).map((w) => w.text) };
}
