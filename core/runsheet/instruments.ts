import { highestVoltage, slots, type Instrument, type Phase } from '../block/index.ts';
import { definitionIn, ifKnown } from '../figure/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { meterFormulas, ruled, work } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';

/** In these the strap is on; in all others, the first included, the store counts as charged, whatever was done before. */
const strapped: readonly Phase[] = ['instruments', 'strap', 'hand-over'];

/** V above which nothing that is held in a hand is on a store. Common practice, no source. */
const mostByHand = 1000;

/** What must be off in a phase, and what stays on with its reason, a line for each instrument. */
export interface Connections {
  readonly on: readonly string[];
  readonly off: readonly string[];
}

/** What leads a hand apart, a hand beside the loop of the shot, share with it. */
const leads = ruled(
  'inductance shared with the loop of the shot',
  15e-9,
  'H',
  'two leads 0.1 m apart, 0.1 m beside a straight wire, for 0.1 m: μ0/2π·0.1 m·ln 2; common practice',
);

/** What leads pick up of the shot, as it is written; null where its rise is not known. */
function pickup(evaluation: Evaluation): string | null {
  const M = leads;
  return ifKnown(() => {
    const S = evaluation.corners.nominal().figure('peak-di-dt');
    return printQuantity(work(meterFormulas.loopOutput, { M, S }, 'picked up by leads').value, 'V', { digits: 2 });
  });
}

/** Whether the shot comes when it likes: then every moment of the charge is a shot. */
const comesByItself = (evaluation: Evaluation): boolean => {
  const { firedBy, freeRunning } = evaluation.corners.nominal().offers('switch');
  return firedBy === 'itself' || freeRunning === true;
};

/** Why a hand instrument is off in a phase; null where it may stay. */
function offByHand(phase: Phase, stands: number, evaluation: Evaluation): string | null {
  if (stands > mostByHand) return `${printQuantity(stands, 'V')} can stand here, and nothing held in a hand is on more than 1 kV`;
  if (phase === 'fire') return 'no hand instrument is on the bank at a shot';
  return phase === 'charge' && comesByItself(evaluation)
    ? 'the gap self-breaks, and no hand instrument is on the bank then'
    : null;
}

function wordOf(instrument: Instrument, phase: Phase, stands: number, evaluation: Evaluation): { on: boolean; text: string } {
  const { name, at, most, lowOnly } = instrument;
  const atShot = phase === 'fire' || (phase === 'charge' && comesByItself(evaluation));
  const picks = atShot ? pickup(evaluation) : null;
  const shot =
    picks === null ? '' : `; at the shot its leads pick up some ${picks}: twisted, close to the return, earthed at one point`;
  if (at === 'earthed lead')
    return {
      on: true,
      text: `${name}, in the earthed lead, for it measures the shot: next to nothing, and ${printQuantity(stands, 'V')} should its earth come off${shot}`,
    };
  if (lowOnly) return { on: false, text: `${name}: it was there for a low voltage` };
  if (most === null) return { on: false, text: `${name}: what it may see is not known` };
  if (stands > most)
    return {
      on: false,
      text: `${name}: ${printQuantity(stands, 'V')} can stand here, it may see ${printQuantity(most, 'V', { trim: true })}`,
    };
  const hand = instrument.isHand === true ? offByHand(phase, stands, evaluation) : null;
  if (hand !== null) return { on: false, text: `${name}: ${hand}` };
  return {
    on: true,
    text: `${name}, for it tells what stands there: at most ${printQuantity(stands, 'V')} of the ${printQuantity(most, 'V', { trim: true })} it may see${shot}`,
  };
}

const instrumentsIn = (evaluation: Evaluation): Instrument[] => {
  const reading = evaluation.corners.nominal();
  return slots.flatMap((slot) => [...(definitionIn(evaluation.rig, slot).instruments?.(reading.ownOf(slot)) ?? [])]);
};

/**
 * Of each instrument of the rig, whether it must be off in a phase of the run sheet, and why it stays on where it does. What counts is the
 * highest voltage that can stand on the store at the worst corner, and not what a bleeder should have left of it.
 */
export function connectionsIn(phase: Phase, evaluation: Evaluation): Connections {
  if (strapped.includes(phase)) return { on: [], off: [] };
  const stands = highestVoltage(evaluation.corners.nominal());
  const words = instrumentsIn(evaluation).map((instrument) => wordOf(instrument, phase, stands, evaluation));
  return { on: words.filter((w) => w.on).map((w) => w.text), off: words.filter((w) => !w.on).map((w) => w.text) };
}

/** The highest voltage that an instrument across the store may see while it is charged, V; null where there is none, or it is not known. */
export function readsUpTo(evaluation: Evaluation): number | null {
  const stands = highestVoltage(evaluation.corners.nominal());
  const across = instrumentsIn(evaluation).flatMap((instrument) => {
    const { at, most, lowOnly, isHand } = instrument;
    if (at !== 'bank' || most === null || lowOnly) return [];
    return isHand === true && offByHand('charge', stands, evaluation) !== null ? [Math.min(most, mostByHand)] : [most];
  });
  return across.length === 0 ? null : Math.max(...across);
}
