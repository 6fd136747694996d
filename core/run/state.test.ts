import { describe, expect, test } from 'vitest';
import {
  notBegun,
  pinCheck,
  pinProof,
  planSchema,
  replay,
  stepAt,
  stepRun,
  untilTaken,
  voltsAtWorst,
  type Outcome,
  type PlanStep,
  type RunEvent,
  type RunPlan,
  type RunState,
} from './index.ts';
import { near } from './state.ts';

const step = (id: string, phase: PlanStep['phase'], more: Partial<PlanStep> = {}): PlanStep => ({
  ...{ id, phase, text: id, expect: [], who: 'key', second: false, seconds: 10 },
  ...more,
});

/** A run of a made-up store of 400 V: every sort of step once, so that each rule has one place where it shows. */
const plan = planSchema.parse({
  ...{ rigName: 'Made up', people: 'two', summary: [], stops: [], emergency: [] },
  main: [
    step('look', 'prepare'),
    step('clear', 'prepare', { does: 'strap-off', second: true }),
    step('charge', 'charge', { does: 'charge', reading: { expected: 400, below: null } }),
    step('isolate', 'isolate', { does: 'isolate' }),
    step('fire', 'fire', { does: 'fire' }),
    step('drain', 'bleed', { does: 'bleed', wait: 30 }),
    step('stick', 'verify', { does: 'tool', wait: 5 }),
    step('verify', 'verify', { does: 'verify', reading: { expected: null, below: 10 } }),
    step('knob', 'verify', { does: 'held', of: 'knob', wait: 2 }),
    step('knob-read', 'verify', { of: 'knob', reading: { expected: null, below: 20 } }),
    step('strap', 'strap', { does: 'strap' }),
    step('end', 'hand-over', { does: 'hand-over' }),
  ],
  misfire: [step('misfire-wait', 'misfire', { wait: 60 }), step('misfire-off', 'misfire', { does: 'isolate' })],
  abort: [step('abort-off', 'abort', { does: 'isolate' }), step('abort-wait', 'abort', { wait: 10 })],
  numbers: {
    ...{ charged: 400, highest: 420, below: 10, goalText: 'below 10 V', energy: 80 },
    ...{ bleeder: null, open: { nominal: 900, worst: null }, tool: { nominal: 3, worst: 5 } },
    ...{ meter: { name: 'meter', most: 1000, R: 1e7 }, capacitance: 1e-3, stages: 1, selfBreak: null, pressure: null },
    ...{ shot: null, cannot: [], held: [] },
  },
  curves: { charge: null, bleeder: null, tool: null },
});

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

class Run {
  state: RunState = notBegun;
  private now = 1e12;
  private count = 0;
  constructor(
    private readonly of: RunPlan = plan,
    reads: string | null = 'CD',
  ) {
    this.send({ type: 'began', acts: 'AB', reads });
  }
  /** @returns the code of what was refused, null where nothing was */
  send(bare: Bare, after = 1, screen = 'left'): string | null {
    this.now += after * 1000;
    const id = `00000000-0000-4000-8000-${String(this.count++).padStart(12, '0')}`;
    const next = stepRun(this.of, this.state, { ...bare, id, at: this.now, screen } as RunEvent);
    this.state = next.state;
    return next.ok ? null : next.refusal.code;
  }
  get at(): string {
    return stepAt(this.of, this.state)?.id ?? 'nowhere';
  }
  done = (after = 1) => this.send({ type: 'done', step: this.at }, after);
  reads = (value: number, confirmed = true) => this.send({ type: 'read', step: this.at, value, source: 'typed', confirmed });
  answers = () => this.send({ type: 'answered', step: this.at });
  says = (outcome: Outcome) => this.send({ type: 'outcome', step: this.at, outcome });
  back = () => this.send({ type: 'back' });
  /** Does as the sheet says until a step is come to. */
  to(id: string): this {
    for (let k = 0; k < 40 && this.at !== id; k++) {
      const now = stepAt(this.of, this.state);
      if (now?.second) this.answers();
      if (now?.reading) this.reads(now.reading.expected ?? 1);
      const refused = now?.does === 'fire' ? this.says('fired') : this.done(100);
      if (refused !== null) throw new Error(`${now?.id ?? ''}: ${refused}`);
    }
    return this;
  }
}

describe('a step', () => {
  test('before the run begins and after it has ended nothing is done; it begins once', () => {
    const event = { type: 'back', id: '00000000-0000-4000-8000-000000000000', at: 1, screen: 'left' } as const;
    expect(stepRun(plan, notBegun, event)).toMatchObject({ ok: false, refusal: { code: 'not_begun' } });
    const run = new Run();
    expect(run.send({ type: 'began', acts: 'XY', reads: null })).toBe('begun');
    expect(run.state).toMatchObject({ acts: 'AB', mayBeCharged: true, isIsolated: true, isStrapped: false, index: 0 });
    run.to('end');
    expect(run.done()).toBeNull();
    expect(run.state.at).toBe('ended');
    expect(run.back()).toBe('ended');
    expect(run.send({ type: 'noted', text: 'after it' })).toBeNull();
  });

  test('is gone on from by its own name alone, and not back before the first', () => {
    const run = new Run();
    expect(run.back()).toBe('first_step');
    expect(run.send({ type: 'done', step: 'clear' })).toBe('other_step');
    expect(run.done()).toBeNull();
    expect(run.at).toBe('clear');
  });

  test('that a second person answers waits for the answer, and forgets it when it is left', () => {
    const run = new Run().to('clear');
    expect(run.done()).toBe('no_answer');
    expect(run.answers()).toBeNull();
    expect(run.back()).toBeNull();
    expect(run.done()).toBeNull();
    expect([run.at, run.done()]).toEqual(['clear', 'no_answer']);
  });

  test('that is read at waits for a reading, and for one below the goal where there is one', () => {
    const run = new Run().to('charge');
    expect(run.done()).toBe('no_reading');
    expect(run.reads(400)).toBeNull();
    expect(run.done()).toBeNull();
    run.to('verify');
    // The goal itself is not below it, of either sign.
    for (const value of [10, -10, 10.0001]) {
      expect(run.reads(value)).toBeNull();
      expect(run.done()).toBe('still_charged');
    }
    expect(run.reads(9.9999)).toBeNull();
    expect(run.done()).toBeNull();
  });

  test('with a wait is gone on from when the wait has passed, and a rehearsal that runs faster waits less', () => {
    const run = new Run().to('drain');
    expect(run.done(29)).toBe('too_early');
    expect(run.done(1)).toBeNull();
    const at = new Run().to('drain').state;
    const done = (after: number, speed: number) =>
      stepRun(
        plan,
        at,
        {
          type: 'done',
          step: 'drain',
          id: '00000000-0000-4000-8000-000000000000',
          at: at.lastAt + after * 1000,
          screen: 'left',
        },
        speed,
      );
    expect(done(2.9, 10)).toMatchObject({ ok: false, refusal: { code: 'too_early', left: expect.closeTo(1, 9) } });
    expect(done(3, 10).ok).toBe(true);
  });
});

describe('a clock', () => {
  test('that is set back by more than two seconds begins the wait anew; by less it is no clock that was set', () => {
    const run = new Run().to('drain');
    run.send({ type: 'noted', text: 'tells no time' });
    run.send({ type: 'suspected', fault: 'none' }, 20);
    const { lastAt, enteredAt } = run.state;
    run.send({ type: 'suspected', fault: 'none' }, -2);
    expect([run.state.lastAt, run.state.enteredAt]).toEqual([lastAt, enteredAt]);
    run.send({ type: 'suspected', fault: 'none' }, -0.001);
    expect(run.state.lastAt).toBe(lastAt - 2001);
    expect(run.state.enteredAt).toBe(run.state.lastAt);
  });

  test('that jumped back begins the wait anew, and ahead it counts', () => {
    for (const [by, isAnew] of [
      [-0.5, true],
      [0, false],
      [600, false],
    ] as const) {
      const run = new Run().to('drain');
      const { enteredAt } = run.state;
      run.send({ type: 'clock', by }, 10);
      expect(run.state.enteredAt === run.state.lastAt).toBe(isAnew);
      if (!isAnew) expect(run.state.enteredAt).toBe(enteredAt);
    }
  });
});

describe('a reading', () => {
  test('is asked back where it is far from what is expected: more than a share of it, or above all that can stand there', () => {
    const charge = () => new Run().to('charge');
    const most = 400 * (1 + near);
    expect(charge().reads(most, false)).toBeNull();
    expect(charge().reads(most + 0.01, false)).toBe('far');
    expect(charge().reads(400 * (1 - near) - 0.01, false)).toBe('far');
    const verify = () => new Run().to('verify');
    // Where nothing is expected: a tenth above the highest voltage, of either sign.
    expect(verify().reads(462, false)).toBeNull();
    expect(verify().reads(-462.1, false)).toBe('far');
    expect(new Run().to('look').reads(1e6, false)).toBeNull();
    const kept = charge();
    kept.reads(100);
    kept.reads(400);
    expect(kept.state).toMatchObject({ farReadings: 1, reading: { value: 400, isFar: false, step: 'charge', source: 'typed' } });
  });

  test('tells below the goal only at the step that verifies, and above it at any', () => {
    const run = new Run().to('verify');
    expect(run.state).toMatchObject({ mayBeCharged: true, verified: null });
    run.reads(2);
    expect(run.state).toMatchObject({ mayBeCharged: false, verified: { value: 2 } });
    run.done();
    // What keeps a charge of its own tells nothing of the store.
    run.done(5);
    expect([run.at, run.reads(300)]).toEqual(['knob-read', null]);
    expect(run.state).toMatchObject({ mayBeCharged: false, verified: { value: 2 }, reading: { value: 300 } });
    expect(run.done()).toBe('still_charged');
    // Gone to again it is by itself, and the reading of the whole stands.
    expect(run.send({ type: 'again', to: 'tool' })).toBeNull();
    expect([run.at, run.state.verified?.value]).toEqual(['knob', 2]);
    run.to('strap');
    // Elsewhere than where it is verified a low reading changes nothing, and a high one all.
    expect(run.reads(3)).toBeNull();
    expect(run.state).toMatchObject({ mayBeCharged: false, verified: { value: 2 } });
    expect(run.reads(-10)).toBeNull();
    expect(run.state).toMatchObject({ mayBeCharged: true, verified: null });
    expect(run.done()).toBe('not_verified');
  });
});

describe('the order of isolated, verified, strapped', () => {
  test('what is gone back over has to be done again', () => {
    const run = new Run().to('end');
    expect(run.state).toMatchObject({ isStrapped: true, isIsolated: true, mayBeCharged: false });
    run.back();
    expect([run.at, run.state.isStrapped]).toEqual(['strap', false]);
    run.back();
    run.back();
    expect([run.at, run.state.verified?.value]).toEqual(['knob', 1]);
    run.back();
    expect([run.at, run.state.verified, run.state.mayBeCharged]).toEqual(['verify', null, true]);
    const before = new Run().to('fire');
    expect(before.state.isIsolated).toBe(true);
    before.back();
    expect([before.at, before.state.isIsolated]).toEqual(['isolate', false]);
  });

  test('the strap goes on over what was read, and off that is isolated; the end needs all three', () => {
    const at = new Run().to('strap').state;
    const done = (state: Partial<RunState>, at0: RunState = at, id = 'strap') => {
      const next = stepRun(
        plan,
        { ...at0, ...state },
        { type: 'done', step: id, id: '00000000-0000-4000-8000-000000000000', at: at0.lastAt, screen: 'left' },
      );
      return next.ok ? null : next.refusal.code;
    };
    expect(done({ verified: null })).toBe('not_verified');
    expect(done({ isIsolated: false })).toBe('not_isolated');
    expect(done({})).toBeNull();
    const end = new Run().to('end').state;
    expect(done({ isStrapped: false }, end, 'end')).toBe('not_strapped');
    expect(done({ verified: null }, end, 'end')).toBe('not_verified');
    expect(done({ isIsolated: false }, end, 'end')).toBe('not_isolated');
    // Of a sheet that has no hand-over the last step is held to the same.
    const short: RunPlan = { ...plan, main: [...plan.main.slice(0, -1), step('last', 'hand-over')] };
    const last = new Run(short).to('last');
    for (const [state, code] of [
      [{ verified: null }, 'not_verified'],
      [{ isStrapped: false }, 'not_strapped'],
      [{ isIsolated: false }, 'not_isolated'],
      [{}, null],
    ] as const) {
      const next = stepRun(
        short,
        { ...last.state, ...state },
        { type: 'done', step: 'last', id: '00000000-0000-4000-8000-000000000000', at: last.state.lastAt, screen: 'left' },
      );
      expect(next.ok ? null : next.refusal.code).toBe(code);
    }
  });

  test('the sheet charges again only from its end, and whatever was read before then counts no more', () => {
    expect(new Run().to('strap').send({ type: 'again', to: 'charge' })).toBe('not_here');
    const run = new Run().to('end');
    expect(run.send({ type: 'again', to: 'charge' })).toBeNull();
    expect([run.at, run.state.mayBeCharged, run.state.isIsolated]).toEqual(['charge', true, false]);
    expect(run.state.verified).toBeNull();
    // With the charger on nobody goes to the stick.
    expect(run.send({ type: 'again', to: 'tool' })).toBe('not_isolated');
    run.to('end').done();
    expect(run.state).toMatchObject({ charges: 2, outcomes: ['fired', 'fired'], at: 'ended' });
    const unread = new Run().to('end');
    unread.reads(50);
    expect(unread.send({ type: 'again', to: 'charge' })).toBe('not_verified');
  });

  test('to the stick again nothing that was read stands, and where there is none it is the bleeding', () => {
    const run = new Run().to('strap');
    expect(run.send({ type: 'again', to: 'tool' })).toBeNull();
    expect([run.at, run.state.verified, run.state.mayBeCharged]).toEqual(['stick', null, true]);
    const without = (gone: readonly string[]): RunPlan => ({ ...plan, main: plan.main.filter(({ id }) => !gone.includes(id)) });
    for (const [gone, to] of [
      [['stick'], 'drain'],
      [['stick', 'drain'], 'verify'],
    ] as const) {
      const other = new Run(without(gone)).to('strap');
      other.send({ type: 'again', to: 'tool' });
      expect(other.at).toBe(to);
    }
  });
});

describe('how a shot went', () => {
  test('a step that fires is passed by its outcome alone, and elsewhere there is none', () => {
    const run = new Run().to('fire');
    expect(run.done()).toBe('no_outcome');
    expect(run.says('partial')).toBeNull();
    expect([run.at, run.state.hasFired, run.state.outcomes]).toEqual(['drain', true, ['partial']]);
    expect(run.says('fired')).toBe('not_here');
  });

  test('a misfire has a path of its own that comes back to the bleeding; without one it goes on', () => {
    const run = new Run().to('fire');
    expect(run.says('misfire')).toBeNull();
    expect([run.at, run.state.path, run.state.hasFired]).toEqual(['misfire-wait', 'misfire', false]);
    expect(run.done(59)).toBe('too_early');
    expect(run.done(2)).toBeNull();
    const { isolatedAt } = run.state;
    expect(run.done()).toBeNull();
    expect([run.at, run.state.path]).toEqual(['drain', 'main']);
    expect(run.state.isolatedAt).toBeGreaterThan(isolatedAt ?? Infinity);
    const plain = new Run({ ...plan, misfire: [] }).to('fire');
    plain.says('misfire');
    expect([plain.at, plain.state.path]).toEqual(['drain', 'main']);
  });

  test('a gap breaks by itself from the charge to the shot: then it is bled as after an abort', () => {
    for (const id of ['charge', 'isolate', 'fire']) {
      const run = new Run().to(id);
      expect(run.says('pre-fire'), id).toBeNull();
      expect(run.state).toMatchObject({
        ...{ path: 'abort', index: 0, hasFired: true, mayBeCharged: true, verified: null },
        ...{ outcomes: ['pre-fire'], aborts: 0 },
      });
    }
    for (const id of ['look', 'drain', 'verify']) expect(new Run().to(id).says('pre-fire'), id).toBe('not_here');
  });

  test('an abort is everybody’s, from any step, and leads back to the bleeding', () => {
    const run = new Run().to('strap');
    expect(run.send({ type: 'aborted', reason: 'smoke' }, 1, 'right')).toBeNull();
    expect(run.state).toMatchObject({ path: 'abort', index: 0, aborts: 1, mayBeCharged: true, verified: null });
    run.done();
    run.done(11);
    expect([run.at, run.state.path]).toEqual(['drain', 'main']);
    const without: RunPlan = { ...plan, main: plan.main.filter(({ phase }) => phase !== 'bleed') };
    const other = new Run(without);
    other.send({ type: 'aborted', reason: '' });
    other.done();
    other.done(11);
    expect(other.at).toBe('stick');
  });
});

describe('the second person', () => {
  const [holder, reader] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];

  test('answers with the PIN; another PIN is set by a run of two alone', () => {
    const salt = '0123456789abcdef';
    const begin = { type: 'began', acts: 'AB', reads: 'CD', pin: pinCheck(salt, '4711'), id: holder, at: 1e12, screen: 'left' };
    const at = (state: RunState, bare: object) =>
      stepRun(plan, state, { ...bare, id: holder, at: 1e12, screen: 'left' } as RunEvent);
    const clear = at(at(notBegun, begin).state, { type: 'done', step: 'look' }).state;
    const answer = (state: RunState, pin: string) => at(state, { type: 'answered', step: 'clear', proof: pinProof(salt, pin) });
    expect(answer(clear, '4712')).toMatchObject({ ok: false, refusal: { code: 'wrong_pin' }, state: { isAnswered: false } });
    expect(at(clear, { type: 'answered', step: 'clear' }).ok).toBe(false);
    expect(answer(clear, '4711')).toMatchObject({ ok: true, state: { isAnswered: true } });
    const other = at(clear, { type: 'pin-set', pin: pinCheck(salt, '90210') }).state;
    expect([answer(other, '4711').ok, answer(other, '90210').ok]).toEqual([false, true]);
    expect(new Run(plan, null).send({ type: 'pin-set', pin: pinCheck(salt, '1234') })).toBe('not_here');
    expect(at(notBegun, { ...begin, reads: null }).state.pin).toBeNull();
  });

  test('a key that is asked for is free after its time, at once where it is given, and never unasked', () => {
    const asked: RunState = { ...notBegun, at: 'running', isAskedFirst: true, account: holder, actor: 'left' };
    expect(untilTaken({ ...asked, isAskedFirst: false }, 'right', reader, 0)).toBe(0);
    expect(untilTaken(asked, 'right', holder, 0)).toBe(0);
    expect(untilTaken(asked, 'right', reader, 0)).toBeNull();
    expect(untilTaken({ ...asked, account: null }, 'right', null, 0)).toBeNull();
    const asking = { screen: 'right', by: 'CD', at: 5000, isGiven: false };
    expect(untilTaken({ ...asked, asking }, 'third', reader, 1e9)).toBeNull();
    expect(untilTaken({ ...asked, asking }, 'right', reader, 5000)).toBe(20);
    expect(untilTaken({ ...asked, asking }, 'right', reader, 4000)).toBe(20);
    expect(untilTaken({ ...asked, asking }, 'right', reader, 24_000)).toBe(1);
    expect(untilTaken({ ...asked, asking }, 'right', reader, 25_001)).toBe(0);
    expect(untilTaken({ ...asked, asking: { ...asking, isGiven: true } }, 'right', reader, 5000)).toBe(0);
  });
});

test('a run read again tells what was refused by its place, and since when the present step stands', () => {
  const stamped = (bare: object, k: number) =>
    ({ ...bare, id: `00000000-0000-4000-8000-00000000000${k}`, at: 1e12 + 1000 * k, screen: 'left' }) as RunEvent;
  const events = [
    { type: 'began', acts: 'AB', reads: 'CD' },
    { type: 'done', step: 'look' },
    { type: 'done', step: 'clear' },
    { type: 'noted', text: 'a bang next door' },
    { type: 'answered', step: 'clear' },
    { type: 'back' },
    { type: 'back' },
  ].map(stamped);
  const read = replay(plan, events);
  expect([...read.refusals].map(([place, { code }]) => [place, code])).toEqual([
    [2, 'no_answer'],
    [6, 'first_step'],
  ]);
  expect(read.entered).toBe(5);
  expect(replay(plan, events.slice(0, 5)).entered).toBe(1);
  expect(replay(plan, [])).toMatchObject({ entered: -1, state: { at: 'not-begun' } });
});

test('the worst case of a way without an end never falls, and stands at the charge before the run of the way', () => {
  expect(voltsAtWorst(plan.numbers, null, 1e6)).toBe(400);
  expect(voltsAtWorst(plan.numbers, 5, 0)).toBeCloseTo(400, 9);
  expect(voltsAtWorst(plan.numbers, 5, 5)).toBeCloseTo(10, 9);
});
