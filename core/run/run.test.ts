import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits, type Rig, type SheetEdits } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  notBegun,
  planOf,
  planSchema,
  replay,
  runEventSchema,
  stepAt,
  stepRun,
  voltsAtWorst,
  voltsOn,
  waitLeft,
  type RunEvent,
  type RunPlan,
  type RunState,
} from './index.ts';

function planFor(rig: Rig, edits: SheetEdits = noSheetEdits): RunPlan {
  const made = planOf('Test bank', evaluateRig(rig), edits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
}

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

/** A run that is driven by hand: every event gets an id, a time and a screen. */
class Driven {
  readonly events: RunEvent[] = [];
  now = 1e12;
  readonly plan: RunPlan;
  constructor(plan: RunPlan) {
    this.plan = plan;
  }

  get state(): RunState {
    return replay(this.plan, this.events).state;
  }
  get step() {
    const step = stepAt(this.plan, this.state);
    if (!step) throw new Error('no step');
    return step;
  }

  send(bare: Bare, { after = 1, screen = 'left' } = {}): string | null {
    this.now += after * 1000;
    const n = this.events.length;
    const id = `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
    this.events.push({ ...bare, id, at: this.now, screen } as RunEvent);
    return replay(this.plan, this.events).refusals.get(n)?.code ?? null;
  }

  /** Does whatever the present step asks for. */
  pass(volts?: number): string | null {
    const { id, reading, second, wait = 0, does } = this.step;
    if (second) this.send({ type: 'answered', step: id });
    if (reading) {
      const value = volts ?? reading.expected ?? (reading.below ?? 0) / 10;
      this.send({ type: 'read', step: id, value, source: 'typed', confirmed: true });
    }
    if (does === 'fire') return this.send({ type: 'outcome', step: id, outcome: 'fired' });
    return this.send({ type: 'done', step: id }, { after: wait + 1 });
  }

  to(test: (id: string) => boolean): this {
    for (let i = 0; i < 200 && !test(this.step.id); i++) {
      const refused = this.pass();
      if (refused) throw new Error(`${this.step.id} is refused: ${refused}`);
    }
    return this;
  }
}

const begun = (plan: RunPlan) => {
  const run = new Driven(plan);
  run.send({ type: 'began', acts: 'AB', reads: 'CD' });
  return run;
};

const plans = [demoRig('thimble'), demoRig('kittiwake'), rigWith({ 'bleeder.kind': 'none' })].map((rig) => planFor(rig));

describe('a run', () => {
  test.each(plans.map((p, i) => [i, p] as const))(
    '%s goes through all its steps to the hand-over, and its plan survives being kept',
    (_i, plan) => {
      expect(planSchema.parse(JSON.parse(JSON.stringify(plan)))).toEqual(plan);
      const run = begun(plan);
      for (const step of plan.main) {
        expect(run.step.id).toBe(step.id);
        expect(run.pass()).toBeNull();
      }
      expect(run.state).toMatchObject({ at: 'ended', isStrapped: true, mayBeCharged: false, charges: 1, outcomes: ['fired'] });
      for (const event of run.events) expect(runEventSchema.parse(event)).toEqual(event);
    },
  );

  test('with accounts the second person answers from a screen of their own, and nobody answers for both', () => {
    const [holder, reader] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];
    const plan = planFor(demoRig('thimble'));
    const pin = { salt: '00'.repeat(16), check: '11'.repeat(32) };
    const two = new Driven(plan);
    two.send({ type: 'began', acts: 'AB', reads: 'CD', pin, account: holder });
    while (!two.step.second) two.pass();
    const answer = { type: 'answered', step: two.step.id } as const;
    // Who acts has the PIN to know, from whatever screen; a screen without an account watches.
    expect(two.send({ ...answer, account: holder })).toBe('wrong_pin');
    expect(two.send({ ...answer, account: holder }, { screen: 'right' })).toBe('not_yours');
    expect(two.send(answer, { screen: 'right' })).toBe('not_yours');
    expect(two.send({ ...answer, step: 'elsewhere', account: reader }, { screen: 'right' })).toBe('other_step');
    expect(two.state.isAnswered).toBe(false);
    expect(two.send({ ...answer, account: reader }, { screen: 'right' })).toBeNull();
    // It answers, and does nothing else.
    expect([two.state.isAnswered, two.state.actor]).toEqual([true, 'left']);
    expect(two.send({ type: 'done', step: two.step.id }, { screen: 'right' })).toBe('not_yours');
    // Whoever takes over is the one who acts: the account that answered before does not answer now.
    two.send({ type: 'took-over', by: 'CD', account: reader }, { screen: 'right' });
    expect([two.state.account, two.state.actor]).toEqual([reader, 'right']);
    two.send({ type: 'back' }, { screen: 'right' });
    while (!two.step.second) two.send({ type: 'done', step: two.step.id }, { screen: 'right', after: 600 });
    expect(two.send({ ...answer, step: two.step.id, account: reader }, { screen: 'right' })).toBe('wrong_pin');
    expect(two.send({ ...answer, step: two.step.id, account: holder })).toBeNull();
    // Alone nobody else's word counts, and without accounts all is as it was.
    const alone = new Driven(plan);
    alone.send({ type: 'began', acts: 'AB', reads: null, account: holder });
    while (!alone.step.second) alone.pass();
    expect(alone.send({ type: 'answered', step: alone.step.id, account: reader }, { screen: 'right' })).toBe('not_yours');
  });

  test('no row of actions whatever ends a run without a reading below the goal, and the strap, after the last charge', () => {
    let ended = 0;
    const act = fc.record({
      kind: fc.constantFrom(
        'pass',
        'pass',
        'pass',
        'pass',
        'pass',
        'done',
        'read',
        'high',
        'answered',
        'outcome',
        'back',
        'again',
        'charge',
        'aborted',
        'took-over',
        'early',
        'other',
        'clock',
      ),
      dt: fc.integer({ min: -200, max: 400 }),
      volts: fc.double({ min: -2, max: 2, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.constantFrom(...plans), fc.array(act, { minLength: 20, maxLength: 120 }), (plan, list) => {
        const run = begun(plan);
        /** What a bystander would note: whether the store was charged, read below the goal after it, and strapped after that. */
        let clear = false;
        let strapped = false;
        for (const { kind, dt, volts } of list) {
          const before = run.state;
          if (before.at === 'ended') break;
          const step = run.step;
          const value = volts * (step.reading?.below ?? plan.numbers.below);
          const at = { after: dt };
          const n = run.events.length;
          if (kind === 'pass') run.pass(volts > 0.4 ? undefined : value);
          else if (kind === 'done' || kind === 'early')
            run.send({ type: 'done', step: kind === 'early' ? 'strap' : step.id }, at);
          else if (kind === 'read' || kind === 'high')
            run.send(
              {
                type: 'read',
                step: step.id,
                value: kind === 'high' ? plan.numbers.charged : value,
                source: 'typed',
                confirmed: true,
              },
              at,
            );
          else if (kind === 'answered') run.send({ type: 'answered', step: step.id }, at);
          else if (kind === 'outcome')
            run.send({ type: 'outcome', step: step.id, outcome: volts > 0 ? 'misfire' : 'partial' }, at);
          else if (kind === 'back') run.send({ type: 'back' }, at);
          else if (kind === 'again') run.send({ type: 'again', to: 'tool' }, at);
          else if (kind === 'charge') run.send({ type: 'again', to: 'charge' }, at);
          else if (kind === 'aborted') {
            run.send({ type: 'aborted', reason: '' }, { ...at, screen: 'right' });
            expect(run.state).toMatchObject({ path: 'abort', index: 0, mayBeCharged: true, verified: null });
          } else if (kind === 'took-over') run.send({ type: 'took-over', by: 'EF' }, at);
          else if (kind === 'clock') run.send({ type: 'clock', by: volts }, at);
          else run.send({ type: 'done', step: step.id }, { ...at, screen: 'right' });
          // The bystander looks at what was done and not at the state: the steps that were passed, and what was read at them.
          let past = notBegun;
          for (const [i, event] of run.events.entries()) {
            const next = stepRun(plan, past, event);
            if (!next.ok) {
              past = next.state;
              continue;
            }
            const at0 = stepAt(plan, past);
            const at1 = stepAt(plan, next.state);
            if (i >= n) {
              if (event.type === 'done' && (at0?.does === 'charge' || at0?.does === 'strap-off'))
                [clear, strapped] = [false, false];
              if (at1?.does === 'charge') clear = false;
              if (event.type === 'read' && Math.abs(event.value) >= plan.numbers.below) clear = false;
              else if (event.type === 'read' && at0?.does === 'verify') clear = true;
              if (event.type === 'done' && at0?.does === 'strap') strapped = true;
              if (next.state.at === 'ended') {
                ended++;
                expect([clear, strapped]).toEqual([true, true]);
              }
            }
            past = next.state;
          }
          expect(run.state).toEqual(past);
        }
      }),
      { numRuns: 300 },
    );
    expect(ended).toBeGreaterThan(5);
  });

  test('the worst-case voltage is never below what is calculated, comes to the goal in the worst time, and never falls by a way without an end', () => {
    for (const plan of plans) {
      const { numbers, curves } = plan;
      const { bleeder, tool, below, charged } = numbers;
      for (const [curve, way] of [
        [curves.bleeder, bleeder],
        [curves.tool, tool],
      ] as const) {
        if (!curve || !way?.worst) continue;
        expect(voltsOn(curve, 0)).toBeCloseTo(charged, 6);
        expect(voltsAtWorst(numbers, way.worst, way.worst) / below).toBeCloseTo(1, 9);
        expect(voltsAtWorst(numbers, way.worst, way.nominal)).toBeGreaterThan(below);
        // Of a plain bank the course is one exponential, and the slower one lies above it throughout.
        if (numbers.stages === 1)
          for (const [i, t] of curve.t.entries())
            expect(voltsAtWorst(numbers, way.worst, t)).toBeGreaterThanOrEqual((curve.v[i] ?? 0) * (1 - 1e-9));
      }
      expect(voltsAtWorst(numbers, null, 1e9)).toBe(charged);
    }
  });

  test('a reading that is not below the goal holds it, and so does one that rose again after the wait', () => {
    const run = begun(plans[0] as RunPlan).to((id) => id === 'verify');
    const { below } = run.plan.numbers;
    expect(run.pass(below * 1.02)).toBe('still_charged');
    expect(run.pass(below * 0.5)).toBeNull();
    expect(run.step.id).toBe('verify-again');
    expect(run.state.verified?.value).toBeCloseTo(below * 0.5);
    expect(run.pass(-below * 1.5)).toBe('still_charged');
    expect(run.state).toMatchObject({ verified: null, mayBeCharged: true });
    expect(run.send({ type: 'again', to: 'tool' })).toBeNull();
    expect(run.step.id).toBe('tool-apply');
  });

  test('a reading far from what is expected is asked back, and kept with a mark', () => {
    const run = begun(plans[0] as RunPlan).to((id) => id === 'charge');
    const value = run.plan.numbers.charged * 0.7;
    const typed = { type: 'read', step: 'charge', value, source: 'typed' } as const;
    expect(run.send({ ...typed, confirmed: false })).toBe('far');
    expect(run.state.reading).toBeNull();
    expect(run.send({ ...typed, confirmed: true })).toBeNull();
    expect(run.state).toMatchObject({ farReadings: 1, reading: { value, isFar: true } });
  });

  test('a wait cannot be cut short by going on early, nor by a clock that is set back; time asleep counts', () => {
    const at = () => begun(plans[0] as RunPlan).to((id) => id === 'tool-apply');
    const wait = at().step.wait ?? NaN;
    expect(wait).toBeGreaterThan(0);
    const early = at();
    expect(early.send({ type: 'done', step: 'tool-apply' }, { after: wait / 2 })).toBe('too_early');
    expect(waitLeft(early.plan, early.state, early.now, 1)).toBeCloseTo(wait / 2, 3);
    expect(waitLeft(early.plan, early.state, early.now, 10)).toBe(0);
    const back = at();
    back.send({ type: 'done', step: 'tool-apply' }, { after: -3600 });
    expect(waitLeft(back.plan, back.state, back.now, 1)).toBe(wait);
    expect(back.send({ type: 'done', step: 'tool-apply' }, { after: wait + 1 })).toBeNull();
    const asleep = at();
    asleep.send({ type: 'clock', by: 7200 }, { after: 7200 });
    expect(asleep.send({ type: 'done', step: 'tool-apply' })).toBeNull();
  });

  test('one screen acts and others watch; whoever takes over acts from there on, and what was waited for is waited for anew', () => {
    const run = begun(plans[0] as RunPlan);
    expect(run.send({ type: 'back' }, { screen: 'right' })).toBe('not_yours');
    expect(run.send({ type: 'noted', text: 'a bang next door' }, { screen: 'right' })).toBeNull();
    expect(run.send({ type: 'took-over', by: 'EF' }, { screen: 'right' })).toBeNull();
    expect(run.state).toMatchObject({ actor: 'right', acts: 'EF' });
    expect(run.send({ type: 'done', step: run.step.id })).toBe('not_yours');
    expect(run.send({ type: 'aborted', reason: 'smoke' })).toBeNull();
  });

  test('a misfire waits, isolates and comes back to the bleeding; a second shot begins over a strapped store', () => {
    const run = begun(plans[0] as RunPlan).to((id) => id === 'fire');
    run.send({ type: 'outcome', step: 'fire', outcome: 'misfire' });
    expect([run.state.path, run.step.id]).toEqual(['misfire', 'misfire-wait']);
    expect(run.send({ type: 'done', step: 'misfire-wait' })).toBe('too_early');
    run.to((id) => run.state.path === 'main' && id !== 'fire');
    expect(run.step.phase).toBe('bleed');
    run.to((id) => id === 'hand-over');
    expect(run.send({ type: 'again', to: 'charge' })).toBeNull();
    expect(run.step.phase).toBe('charge');
    run.to((id) => id === 'hand-over').pass();
    expect(run.state.isolatedAt).toBeGreaterThan(1e12);
    expect(run.state).toMatchObject({ at: 'ended', charges: 2, outcomes: ['misfire', 'fired'] });
  });
});
