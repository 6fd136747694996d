import type { Act } from '../block/index.ts';
import { printQuantity } from '../quantity/index.ts';
import type { Outcome, RunEvent } from './event.ts';
import { isProofOf, type PinCheck } from './pin.ts';
import type { PlanStep, RunPlan } from './plan.ts';

export interface Reading {
  /** V */
  readonly value: number;
  readonly at: number;
  readonly step: string;
  readonly source: string;
  /** Far from what was expected, and kept all the same. */
  readonly isFar: boolean;
}

export interface Asking {
  readonly screen: string;
  readonly by: string;
  /** ms since 1970 */
  readonly at: number;
  /** Who acts gives it: nothing more is waited for. */
  readonly isGiven: boolean;
}

/**
 * s that who acts has to answer in when somebody asks for the key. Then it may be taken: a screen that is broken or empty must not lock
 * a charged store away. Common practice, no source.
 */
export const keyAnswerTime = 20;

export type Path = 'main' | 'misfire' | 'abort';

/** Where a run stands. Times are ms since 1970 by the clocks of the screens. */
export interface RunState {
  readonly at: 'not-begun' | 'running' | 'ended';
  readonly path: Path;
  readonly index: number;
  /** When the present step was come to, and the latest time that was seen. */
  readonly enteredAt: number;
  readonly lastAt: number;
  readonly acts: string;
  readonly reads: string | null;
  /** What the second person answers a hold with; null alone, and in runs from before there was one. */
  readonly pin: PinCheck | null;
  /** The screen that acts. */
  readonly actor: string;
  /** Whose device that is, in a workshop with accounts. */
  readonly account: string | null;
  /** Whoever takes over from another account asks first. */
  readonly isAskedFirst: boolean;
  /** Who asks for the key; its time is by the clock of their screen. */
  readonly asking: Asking | null;
  /** Of the present step. */
  readonly reading: Reading | null;
  readonly isAnswered: boolean;
  /** The store may be charged: true until a reading below what is aimed at, and again with every charge. */
  readonly mayBeCharged: boolean;
  /** The last reading below what is aimed at since the store could last have been charged. */
  readonly verified: Reading | null;
  readonly isStrapped: boolean;
  /** No charger can have been on since it was last isolated. */
  readonly isIsolated: boolean;
  /** When it was last isolated: from then on the store can only fall. */
  readonly isolatedAt: number | null;
  readonly charges: number;
  readonly outcomes: readonly Outcome[];
  /** It has fired since it was last charged, as it should or too early. */
  readonly hasFired: boolean;
  readonly aborts: number;
  readonly farReadings: number;
  /** When each thing was last done to the simulated rig of a rehearsal. */
  readonly actedAt: Readonly<Record<string, number>>;
}

export const notBegun: RunState = {
  at: 'not-begun',
  path: 'main',
  index: 0,
  enteredAt: 0,
  lastAt: 0,
  acts: '',
  reads: null,
  pin: null,
  actor: '',
  account: null,
  isAskedFirst: false,
  asking: null,
  reading: null,
  isAnswered: false,
  mayBeCharged: true,
  verified: null,
  isStrapped: false,
  isIsolated: true,
  isolatedAt: null,
  charges: 0,
  outcomes: [],
  hasFired: false,
  aborts: 0,
  farReadings: 0,
  actedAt: {},
};

/** Why an event had no effect. It is kept all the same. */
export type Refusal =
  | {
      readonly code:
        | 'not_begun'
        | 'begun'
        | 'ended'
        | 'not_yours'
        | 'first_step'
        | 'no_reading'
        | 'no_answer'
        | 'not_verified'
        | 'not_strapped'
        | 'not_isolated'
        | 'no_outcome'
        | 'not_here'
        | 'wrong_pin'
        | 'not_asked'
        | 'has_key';
    }
  | { readonly code: 'other_step'; readonly step: string }
  | { readonly code: 'too_early' | 'key_unanswered'; readonly left: number }
  | { readonly code: 'still_charged'; readonly value: number; readonly below: number }
  | { readonly code: 'far'; readonly value: number; readonly expected: string };

/** What an event leads to. One that has no effect still tells the time. */
export type Stepped =
  { readonly ok: true; readonly state: RunState } | { readonly ok: false; readonly state: RunState; readonly refusal: Refusal };

export const stepsOn = (plan: RunPlan, path: Path): readonly PlanStep[] => plan[path];

export const stepAt = (plan: RunPlan, state: RunState): PlanStep | null => stepsOn(plan, state.path)[state.index] ?? null;

/** s that still have to pass at the present step. `speed`: how many times faster a rehearsal runs. */
export function waitLeft(plan: RunPlan, state: RunState, now: number, speed: number): number {
  const wait = stepAt(plan, state)?.wait ?? 0;
  return Math.max(0, wait - (Math.max(0, now - state.enteredAt) / 1000) * speed);
}

type Applied = { readonly ok: true; readonly state: RunState } | { readonly ok: false; readonly refusal: Refusal };

const refuse = (refusal: Refusal): Applied => ({ ok: false, refusal });
const taken = (state: RunState): Applied => ({ ok: true, state });

/** Share of what is expected that a reading of a charge may be off before it is asked back. Common practice, no source. */
export const near = 0.15;

/** Whether a reading is far from what is expected at a step: a slip of the hand, another range, or a rig that is not as planned. */
export function isFarFrom(plan: RunPlan, { reading }: PlanStep, value: number): boolean {
  if (!reading) return false;
  if (reading.expected !== null) return Math.abs(value - reading.expected) > near * Math.abs(reading.expected);
  return Math.abs(value) > 1.1 * plan.numbers.highest;
}

const enter = (plan: RunPlan, state: RunState, path: Path, index: number): RunState => {
  const next: RunState = { ...state, path, index, enteredAt: state.lastAt, reading: null, isAnswered: false };
  const does = stepAt(plan, next)?.does;
  // From the moment the charge is on the sheet the store counts as charged, whatever was read before.
  return does === 'charge' ? { ...next, mayBeCharged: true, verified: null, isIsolated: false, hasFired: false } : next;
};

/** What is so once a step has been done. */
const effects: { readonly [K in Act]?: (state: RunState) => RunState } = {
  'strap-off': (s) => ({ ...s, isStrapped: false, mayBeCharged: true, verified: null }),
  charge: (s) => ({ ...s, mayBeCharged: true, verified: null, isStrapped: false, isIsolated: false, charges: s.charges + 1 }),
  isolate: (s) => ({ ...s, isIsolated: true, isolatedAt: s.lastAt }),
  strap: (s) => ({ ...s, isStrapped: true }),
};

const firstOf = (steps: readonly PlanStep[], ...wanted: readonly ((s: PlanStep) => boolean)[]): number => {
  for (const test of wanted) {
    const index = steps.findIndex(test);
    if (index >= 0) return index;
  }
  return steps.length - 1;
};

/** Where the bleeding begins on the main path: what every branch comes back to. */
const bleedIndex = (plan: RunPlan): number =>
  firstOf(
    plan.main,
    (s) => s.phase === 'bleed',
    (s) => s.does === 'tool',
    (s) => s.phase === 'verify',
  );

/** The step after the present one: the branches lead back to where the bleeding begins. */
function advanced(plan: RunPlan, state: RunState): RunState {
  const steps = stepsOn(plan, state.path);
  if (state.index + 1 < steps.length) return enter(plan, state, state.path, state.index + 1);
  if (state.path !== 'main') return enter(plan, state, 'main', bleedIndex(plan));
  return { ...state, at: 'ended' };
}

/** What keeps a step from being done; null where nothing does. */
function standsAgainst(plan: RunPlan, state: RunState, step: PlanStep, speed: number): Refusal | null {
  const left = waitLeft(plan, state, state.lastAt, speed);
  if (left > 0) return { code: 'too_early', left };
  if (step.reading) {
    if (!state.reading) return { code: 'no_reading' };
    const { below } = step.reading;
    if (below !== null && Math.abs(state.reading.value) >= below)
      return { code: 'still_charged', value: state.reading.value, below };
  }
  if (step.second && !state.isAnswered) return { code: 'no_answer' };
  if (step.does === 'fire') return { code: 'no_outcome' };
  if (step.does === 'strap' || step.does === 'hand-over') {
    if (!state.verified) return { code: 'not_verified' };
    if (!state.isIsolated) return { code: 'not_isolated' };
  }
  if (step.does === 'hand-over' && !state.isStrapped) return { code: 'not_strapped' };
  // A run whose last step is no hand-over still ends only over a verified and strapped store.
  if (state.path === 'main' && state.index === plan.main.length - 1) {
    if (!state.verified) return { code: 'not_verified' };
    if (!state.isStrapped) return { code: 'not_strapped' };
    if (!state.isIsolated) return { code: 'not_isolated' };
  }
  return null;
}

function read(plan: RunPlan, state: RunState, step: PlanStep, event: Extract<RunEvent, { type: 'read' }>): Applied {
  const isFar = isFarFrom(plan, step, event.value);
  if (isFar && !event.confirmed) {
    const { expected, below } = step.reading ?? { expected: null, below: null };
    return refuse({
      code: 'far',
      value: event.value,
      expected: expected === null ? `below ${printQuantity(below ?? plan.numbers.below, 'V')}` : printQuantity(expected, 'V'),
    });
  }
  const reading: Reading = { value: event.value, at: state.lastAt, step: event.step, source: event.source, isFar };
  // What keeps a charge of its own tells nothing of the store, either way.
  if (step.of !== undefined) return taken({ ...state, reading });
  const isBelow = Math.abs(event.value) < plan.numbers.below;
  const verifies = step.does === 'verify';
  return taken({
    ...state,
    reading,
    farReadings: state.farReadings + (isFar ? 1 : 0),
    // A reading at another step tells that a store is charged, and never that it is not.
    ...(isBelow ? (verifies ? { verified: reading, mayBeCharged: false } : {}) : { verified: null, mayBeCharged: true }),
  });
}

function again(plan: RunPlan, state: RunState, to: 'tool' | 'charge'): Applied {
  if (to === 'tool') {
    if (!state.isIsolated) return refuse({ code: 'not_isolated' });
    // What keeps a charge of its own is gone to again by itself: the reading of the whole stands.
    const of = stepAt(plan, state)?.of;
    const beside = of === undefined ? -1 : plan.main.findIndex((s) => s.does === 'held' && s.of === of);
    if (beside >= 0) return taken(enter(plan, state, 'main', beside));
    const index = firstOf(
      plan.main,
      (s) => s.does === 'tool',
      (s) => s.phase === 'bleed',
      (s) => s.phase === 'verify',
    );
    return taken(enter(plan, { ...state, verified: null, mayBeCharged: true }, 'main', index));
  }
  // Another shot is begun from the end, over a store that is verified and strapped.
  const step = stepAt(plan, state);
  if (state.path !== 'main' || step?.does !== 'hand-over') return refuse({ code: 'not_here' });
  if (!state.verified) return refuse({ code: 'not_verified' });
  const index = plan.main.findIndex((s) => s.phase === 'charge');
  return index < 0 ? refuse({ code: 'not_here' }) : taken(enter(plan, state, 'main', index));
}

/** The clock of an event: never backwards, so that no wait gets shorter. A clock that was set back begins the wait anew. */
function withClock(state: RunState, at: number): RunState {
  if (at >= state.lastAt) return { ...state, lastAt: at };
  return state.lastAt - at > 2000 ? { ...state, lastAt: at, enteredAt: at } : state;
}

/** Acts of the screen that does not act are refused; an abort and a note come from any. */
const fromAnyScreen = new Set<RunEvent['type']>(['aborted', 'noted', 'asked-for-key', 'took-over', 'began']);

/** s until a screen may take over without an answer, by its own clock; 0 where it may, null where it has to ask first. */
export function untilTaken(state: RunState, screen: string, account: string | null, now: number): number | null {
  // One's own run on another device of one's own is nobody else's.
  if (!state.isAskedFirst || (account !== null && account === state.account)) return 0;
  if (state.asking?.screen !== screen) return null;
  return state.asking.isGiven ? 0 : Math.max(0, keyAnswerTime - Math.max(0, now - state.asking.at) / 1000);
}

/** Somebody asks for the key: by whatever clock, it moves nothing of the run. */
function asksForKey(state: RunState, event: Extract<RunEvent, { type: 'asked-for-key' }>): Applied {
  if (event.screen === state.actor) return refuse({ code: 'has_key' });
  return taken({ ...state, asking: { screen: event.screen, by: event.by, at: event.at, isGiven: false } });
}

function takesOver(state: RunState, event: Extract<RunEvent, { type: 'took-over' }>): Applied {
  const left = untilTaken(state, event.screen, event.account ?? null, event.at);
  if (left === null) return refuse({ code: 'not_asked' });
  if (left > 0) return refuse({ code: 'key_unanswered', left });
  // Two clocks cannot be compared: what is to be waited for is waited for anew.
  return taken({
    ...state,
    actor: event.screen,
    account: event.account ?? null,
    acts: event.by,
    asking: null,
    lastAt: event.at,
    enteredAt: event.at,
  });
}

/** Who acts answers whoever asks for the key. */
const answersKey = (state: RunState, isGiven: boolean): Applied =>
  state.asking === null
    ? refuse({ code: 'not_asked' })
    : taken({ ...state, asking: isGiven ? { ...state.asking, isGiven } : null });

/** An answer of somebody else than who acts, by an account of their own: it counts from their own screen, and needs no PIN. */
const isOthersAnswer = ({ account, reads }: RunState, event: RunEvent): boolean =>
  event.type === 'answered' && reads !== null && account !== null && event.account !== undefined && event.account !== account;

type Later = Exclude<RunEvent, { type: 'began' | 'noted' | 'asked-for-key' | 'took-over' }>;

function applied(plan: RunPlan, state: RunState, event: Later, speed: number): Applied {
  const step = stepAt(plan, state);
  if (!step) return refuse({ code: 'not_here' });
  if ('step' in event && event.step !== step.id) return refuse({ code: 'other_step', step: step.id });
  switch (event.type) {
    case 'clock':
      // Set back, the wait begins anew; ahead, the device has slept, and what it slept counts.
      return taken(event.by < 0 ? { ...state, enteredAt: state.lastAt } : state);
    case 'aborted':
      return taken(enter(plan, { ...state, aborts: state.aborts + 1, mayBeCharged: true, verified: null }, 'abort', 0));
    case 'answered':
      if (isOthersAnswer(state, event)) return step.second ? taken({ ...state, isAnswered: true }) : refuse({ code: 'not_here' });
      if (step.second && state.pin && !(event.proof !== undefined && isProofOf(state.pin, event.proof)))
        return refuse({ code: 'wrong_pin' });
      return taken({ ...state, isAnswered: true });
    case 'gave-key':
    case 'kept-key':
      return answersKey(state, event.type === 'gave-key');
    case 'pin-set':
      return state.reads === null ? refuse({ code: 'not_here' }) : taken({ ...state, pin: event.pin });
    case 'read':
      return read(plan, state, step, event);
    case 'outcome': {
      // A gap that self-breaks does so whenever there is a charge: what it left is bled as after an abort.
      if (event.outcome === 'pre-fire' && state.path === 'main' && ['charge', 'isolate', 'fire'].includes(step.phase))
        return taken(
          enter(
            plan,
            { ...state, outcomes: [...state.outcomes, 'pre-fire'], hasFired: true, mayBeCharged: true, verified: null },
            'abort',
            0,
          ),
        );
      if (step.does !== 'fire') return refuse({ code: 'not_here' });
      const after = { ...state, outcomes: [...state.outcomes, event.outcome], hasFired: event.outcome !== 'misfire' };
      return taken(
        event.outcome === 'misfire' && plan.misfire.length > 0 ? enter(plan, after, 'misfire', 0) : advanced(plan, after),
      );
    }
    case 'back': {
      if (state.index === 0) return refuse({ code: 'first_step' });
      const index = state.index - 1;
      const undone = stepsOn(plan, state.path)[index]?.does;
      // What is gone back over is not so any more: it has to be done again.
      const lost =
        undone === 'verify'
          ? { verified: null, mayBeCharged: true }
          : undone === 'strap'
            ? { isStrapped: false }
            : undone === 'isolate'
              ? { isIsolated: false }
              : {};
      return taken(enter(plan, { ...state, ...lost }, state.path, index));
    }
    case 'again':
      return again(plan, state, event.to);
    case 'acted':
      return taken({ ...state, actedAt: { ...state.actedAt, [event.act]: state.lastAt } });
    case 'suspected':
      return taken(state);
    case 'done': {
      const against = standsAgainst(plan, state, step, speed);
      if (against) return refuse(against);
      const effect = step.does ? effects[step.does] : undefined;
      return taken(advanced(plan, effect ? effect(state) : state));
    }
    default:
      return refuse(event satisfies never);
  }
}

/**
 * One event, applied. Pure: the same events always give the same state.
 *
 * @param speed how many times faster than the clock a rehearsal runs; 1 of a live run
 * @returns the state after it, and why it had no effect where it had none
 */
export function stepRun(plan: RunPlan, before: RunState, event: RunEvent, speed = 1): Stepped {
  const stays = (code: 'begun' | 'not_begun' | 'ended' | 'not_yours'): Stepped => ({
    ok: false,
    state: before,
    refusal: { code },
  });
  if (event.type === 'began') {
    if (before.at !== 'not-begun') return stays('begun');
    const { acts, reads, pin = null, at, screen: actor } = event;
    const first: RunState = {
      ...notBegun,
      at: 'running',
      acts,
      reads,
      pin: reads === null ? null : pin,
      actor,
      account: event.account ?? null,
      isAskedFirst: event.takeOver === 'asked',
      lastAt: at,
      enteredAt: at,
    };
    return { ok: true, state: enter(plan, first, 'main', 0) };
  }
  if (event.type === 'noted') return { ok: true, state: before };
  if (before.at !== 'running') return stays(before.at === 'ended' ? 'ended' : 'not_begun');
  if (event.screen !== before.actor && !fromAnyScreen.has(event.type) && !isOthersAnswer(before, event))
    return stays('not_yours');
  // Another screen has another clock: neither moves what is waited for here.
  if (event.type === 'asked-for-key' || event.type === 'took-over') {
    const asked = event.type === 'asked-for-key' ? asksForKey(before, event) : takesOver(before, event);
    return asked.ok ? asked : { ...asked, state: before };
  }
  const state = withClock(before, event.at);
  const result = applied(plan, state, event, speed);
  return result.ok ? result : { ...result, state };
}

export interface Replayed {
  readonly state: RunState;
  /** By the place of the event. */
  readonly refusals: ReadonlyMap<number, Refusal>;
  /** Place of the event after which the present step was come to; -1 before any. */
  readonly entered: number;
}

/** A run from its beginning. Events that have no effect are passed over, and told with the reason. */
export function replay(plan: RunPlan, events: readonly RunEvent[], speed = 1): Replayed {
  let state = notBegun;
  let entered = -1;
  const refusals = new Map<number, Refusal>();
  for (const [i, event] of events.entries()) {
    const next = stepRun(plan, state, event, speed);
    if (!next.ok) refusals.set(i, next.refusal);
    if (next.state.enteredAt !== state.enteredAt || next.state.index !== state.index || next.state.path !== state.path)
      entered = i;
    state = next.state;
  }
  return { state, refusals, entered };
}
