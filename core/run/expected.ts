import type { Act } from '../block/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { voltsAtWorst, voltsOn, type PlanCurve, type PlanStep, type RunPlan } from './plan.ts';
import { near, type RunState } from './state.ts';

/** What the store should do at a step: the curve it runs along, and how far along it is. */
export interface Expected {
  readonly does: 'charge' | 'bleed' | 'tool';
  readonly curve: PlanCurve;
  /** s along the curve. */
  readonly seconds: number;
  /** V by calculation now; V at the most, with every tolerance against it (null where nothing says). */
  readonly volts: number;
  readonly worst: number | null;
  /** V to stop at, or to come below. */
  readonly mark: number;
  /** s, nominal and worst, of the way that takes it down; null of a charge. */
  readonly span: { readonly nominal: number; readonly worst: number | null } | null;
  /** It has fired since it was charged: less than this stands on it, unless the shot did not discharge it. */
  readonly hasFired: boolean;
  /** It was charged all the way and has not fired: its voltage is known. */
  readonly isFromFull: boolean;
  /** s along the curve before which nothing is called off: nobody knows when the hand did it. */
  readonly grace: number;
}

/** What sets a course going when somebody does it with their hands, in a rehearsal: acts of `core/rehearsal`, whose tests hold them to it. */
export const startedBy: { readonly [A in Act]?: { readonly on: string; readonly off: string } } = {
  charge: { on: 'supply-on', off: 'supply-off' },
  tool: { on: 'tool-on', off: 'tool-off' },
};

/** s that a course has been going on for at a step; 0 where it was not set going, or hands are still at it. */
function secondsAlong(state: RunState, step: PlanStep, elapsed: number, speed: number, isRehearsal: boolean): number {
  const now = state.enteredAt + elapsed;
  const hands = step.does && startedBy[step.does];
  if (hands && isRehearsal) {
    const on = state.actedAt[hands.on];
    if (on === undefined || on < (state.actedAt[hands.off] ?? -Infinity)) return 0;
    return (Math.max(0, now - on) / 1000) * speed;
  }
  // On the rig itself the supply goes on, and the stick to the store, when a person has done it.
  if (hands) return Math.max(0, (elapsed / 1000) * speed - step.seconds);
  // A bleeder works from the moment at which the charger is off, and not only from its step on.
  const since = state.isolatedAt === null ? state.enteredAt : Math.min(state.isolatedAt, state.enteredAt);
  return (Math.max(0, now - since) / 1000) * speed;
}

/** V that a bleeder has left of a full charge at a time, ms; null without one, where it is held off, and before the charger is off. */
export function leftByBleeder({ curves, numbers }: RunPlan, { isolatedAt }: RunState, at: number, speed: number): number | null {
  if (!curves.bleeder || numbers.isSwitched || isolatedAt === null) return null;
  return voltsOn(curves.bleeder, (Math.max(0, at - isolatedAt) / 1000) * speed);
}

/** The share of a full charge that a stick finds when it touches. */
function shareFound(plan: RunPlan, state: RunState, touched: number, speed: number): number {
  const left = leftByBleeder(plan, state, touched, speed);
  return left === null || !(plan.numbers.charged > 0) ? 1 : Math.min(1, left / plan.numbers.charged);
}

/**
 * What is expected of the store at a step.
 *
 * @param elapsed ms since the step was come to
 * @param speed how many times faster than the clock a rehearsal runs
 * @param isRehearsal then the course begins with what was done to the simulated rig, and not with the step
 * @returns null at a step along which nothing moves
 */
export function expectedAt(
  plan: RunPlan,
  state: RunState,
  step: PlanStep,
  elapsed: number,
  speed = 1,
  isRehearsal = false,
): Expected | null {
  const { does } = step;
  if (does !== 'charge' && does !== 'bleed' && does !== 'tool') return null;
  const { charge, bleeder, tool } = plan.curves;
  const curve = does === 'charge' ? charge : does === 'bleed' ? bleeder : tool;
  if (!curve) return null;
  const { numbers } = plan;
  const seconds = secondsAlong(state, step, elapsed, speed, isRehearsal);
  const span = does === 'charge' ? null : does === 'bleed' ? numbers.bleeder : numbers.tool;
  // A stick takes down what the bleeder has left until it touches.
  const touched = state.enteredAt + elapsed - (seconds / speed) * 1000;
  const volts = voltsOn(curve, seconds) * (does === 'tool' ? shareFound(plan, state, touched, speed) : 1);
  return {
    does,
    curve,
    seconds,
    volts,
    worst: span ? Math.max(volts, voltsAtWorst(numbers, span.worst, seconds)) : null,
    mark: does === 'charge' ? numbers.charged : numbers.below,
    span,
    hasFired: state.hasFired,
    isFromFull: state.charges > 0 && state.aborts === 0 && !state.hasFired,
    grace: isRehearsal || does === 'bleed' ? 0 : step.seconds,
  };
}

/** Share of the charge that a reading may be over the worst case before it is said: what a meter of the bench is good to. Common practice, no source. */
const meterShare = 0.02;

export interface Deviation {
  /** What is wrong and how bad; what to do. */
  readonly what: string;
  readonly act: string;
}

const text = (volts: number): string => printQuantity(volts, 'V');

/**
 * What a voltage that is read, or shown now, says against what is expected; null where it agrees, and where a person may still be at it.
 *
 * @param volts V
 */
export function deviationOf(plan: RunPlan, expected: Expected, volts: number): Deviation | null {
  const { charged, below } = plan.numbers;
  const value = Math.abs(volts);
  const { does } = expected;
  const isEarly = expected.seconds <= expected.grace;
  if (does === 'charge') {
    const off = value - expected.volts;
    if (Math.abs(off) <= near * charged || (off < 0 && isEarly)) return null;
    return off > 0
      ? {
          what: `${text(off)} over what is calculated.`,
          act: `It charges faster than planned: part of the bank may be missing. Supply off at ${text(charged)}, no later.`,
        }
      : {
          what: `${text(-off)} below what is calculated.`,
          act: 'The supply does not reach the bank, something leaks, or the meter lead is off. Supply off; treat it as charged.',
        };
  }
  const most = expected.worst ?? expected.volts;
  const over = value - most;
  if (!(isEarly && does === 'tool') && value >= below && over > Math.max(meterShare * charged, meterShare * most))
    return does === 'bleed'
      ? {
          what: `${text(over)} over the worst case: the bleeder is weak or open.`,
          act: 'Do not wait on it. Go on with the discharge stick, at arm’s length.',
        }
      : {
          what: `${text(over)} over the worst case: the discharge stick conducts badly or makes no contact.`,
          act: 'Leave it on, check its contact and its lead. If the voltage does not fall, use the second stick.',
        };
  // A bank that has not fired is not empty before its time: a lead is off, or the meter reads another range.
  if (does === 'bleed' && expected.isFromFull && expected.volts > 0.25 * charged && value < 0.2 * expected.volts)
    return {
      what: `${text(expected.volts - value)} below what is calculated.`,
      act: 'A meter lead may be off, or something else discharges it. Treat it as charged; prove the meter on a known source.',
    };
  return null;
}
