import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { deviationOf, expectedAt, notBegun, planOf, voltsOn, type PlanStep, type RunState } from './index.ts';

const planFor = (name: Parameters<typeof demoRig>[0]) => {
  const made = planOf(name, evaluateRig(demoRig(name)), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
};

const plans = (['thimble', 'kittiwake', 'anvil'] as const).map(planFor);

/** A state at a step, come to at 1e12 ms. */
const at = (step: PlanStep, more: Partial<RunState> = {}): RunState => ({
  ...notBegun,
  at: 'running',
  path: 'main',
  enteredAt: 1e12,
  lastAt: 1e12,
  ...more,
  acts: step.id,
});

const stepOf = (plan: (typeof plans)[number], does: 'charge' | 'bleed' | 'tool'): PlanStep => {
  const step = [...plan.main, ...plan.abort].find((s) => s.does === does);
  if (!step) throw new Error(`no step ${does}`);
  return step;
};

describe('what is expected at a step', () => {
  test('the worst case is never below what is calculated, however long it goes on, and both fall', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...plans),
        fc.constantFrom('bleed' as const, 'tool' as const),
        fc.double({ min: 0, max: 1e7, noNaN: true }),
        fc.double({ min: 0, max: 1e7, noNaN: true }),
        (plan, does, s, later) => {
          if (does === 'bleed' && !plan.curves.bleeder) return;
          const step = stepOf(plan, does);
          const [now, then] = [s, s + later].map((seconds) => expectedAt(plan, at(step), step, seconds * 1000));
          if (!now || !then) throw new Error('nothing is expected');
          expect(now.worst ?? Infinity).toBeGreaterThanOrEqual(now.volts);
          expect(then.volts).toBeLessThanOrEqual(now.volts * (1 + 1e-9));
          expect(then.worst ?? 0).toBeLessThanOrEqual((now.worst ?? Infinity) * (1 + 1e-9));
          // What lies between the two, or below them in the late course, is no reason to shout.
          for (const share of [0, 0.5, 1]) {
            const between = now.volts + share * ((now.worst ?? now.volts) - now.volts);
            expect(deviationOf(plan, now, between)).toBeNull();
          }
        },
      ),
      { seed: 7, numRuns: 300 },
    );
  });

  test('a bleeder that is open is said within its own time, with the number and with what to do (closed form of an RC)', () => {
    const [plan] = plans;
    if (!plan) throw new Error('no plan');
    const step = stepOf(plan, 'bleed');
    const worst = plan.numbers.bleeder?.worst ?? 0;
    const { charged, below } = plan.numbers;
    const now = expectedAt(plan, at(step), step, worst * 1000);
    if (!now) throw new Error('nothing is expected');
    // After the worst time the worst case has just come to the goal: an RC of V(t) = V0·(goal/V0)^(t/worst).
    expect(now.worst).toBeCloseTo(Math.max(below, now.volts), 6);
    const found = deviationOf(plan, now, charged * 0.97);
    expect(found?.what).toMatch(/over the worst case: the bleeder is weak or open/);
    expect(Number.parseFloat(found?.what ?? '')).toBeCloseTo(charged * 0.97 - (now.worst ?? 0), 0);
    expect(found?.act).toMatch(/discharge stick/);
  });

  test('a bleeder works from the moment the charger is off, not from its step on; a rise ends at its top and stays there', () => {
    for (const plan of plans) {
      if (plan.curves.bleeder) {
        const step = stepOf(plan, 'bleed');
        const late = expectedAt(plan, at(step, { isolatedAt: 1e12 - 30_000 }), step, 10_000);
        const plain = expectedAt(plan, at(step), step, 40_000);
        expect(late?.volts).toBe(plain?.volts);
      }
      const { charge } = plan.curves;
      if (charge) expect(voltsOn(charge, 1e9)).toBe(charge.v.at(-1));
    }
  });

  test('in a rehearsal the course begins with what was done, runs at its pace, and stands still before it', () => {
    for (const plan of plans) {
      const step = stepOf(plan, 'tool');
      const seconds = (state: RunState) => expectedAt(plan, state, step, 20_000, 10, true)?.seconds;
      expect(seconds(at(step))).toBe(0);
      expect(seconds(at(step, { actedAt: { 'tool-on': 1e12 + 5000 } }))).toBe(150);
      expect(seconds(at(step, { actedAt: { 'tool-on': 1e12 + 5000, 'tool-off': 1e12 + 6000 } }))).toBe(0);
      // On the rig itself nobody says when the hand did it: it counts when a person has had the time for it.
      expect(expectedAt(plan, at(step), step, 1000 * (step.seconds + 20), 1)?.seconds).toBeCloseTo(20, 9);
      expect(expectedAt(plan, at(step), step, 500 * step.seconds, 1)?.seconds).toBe(0);
    }
  });

  test('a meter that shows nothing over a bank that was charged and has not fired is not taken for an empty bank', () => {
    for (const plan of plans) {
      if (!plan.curves.bleeder) continue;
      const step = stepOf(plan, 'bleed');
      const of = (more: Partial<RunState>) => {
        const expected = expectedAt(plan, at(step, { charges: 1, ...more }), step, 0);
        return expected && deviationOf(plan, expected, 0);
      };
      expect(of({})?.act).toMatch(/Treat it as charged/);
      // After a shot less is as it should be; after an abort nobody knows how far it was charged.
      expect(of({ hasFired: true })).toBeNull();
      expect(of({ aborts: 1 })).toBeNull();
    }
  });

  // Walked through as a person does it: the step is read, the hand goes to the switch or to the stick, and only then does anything move.
  test('nothing is called off while hands are still at it, however fast the rig: neither the supply nor the stick', () => {
    for (const plan of plans) {
      for (const does of ['charge', 'tool'] as const) {
        if (!plan.curves[does]) continue;
        const step = stepOf(plan, does);
        const stays = does === 'charge' ? 0 : plan.numbers.charged;
        for (const share of [0, 0.3, 0.8, 1, 1.5, 1.9]) {
          const expected = expectedAt(plan, at(step, { charges: 1 }), step, share * step.seconds * 1000);
          expect(expected && deviationOf(plan, expected, stays), `${does} after ${share} of its seconds`).toBeNull();
        }
        // Long after, it is: the supply does not reach the bank, the stick makes no contact.
        const late = expectedAt(
          plan,
          at(step, { charges: 1 }),
          step,
          1000 * (3 * step.seconds + 50 * (plan.curves[does]?.t.at(-1) ?? 1)),
        );
        expect(late && deviationOf(plan, late, stays), does).not.toBeNull();
      }
      const charging = stepOf(plan, 'charge');
      const early = expectedAt(plan, at(charging), charging, 0);
      expect(early && deviationOf(plan, early, plan.numbers.charged)?.what).toMatch(/over what is calculated/);
    }
  });

  test('a stick takes down what the bleeder has left; an empty bank under it is no alarm', () => {
    for (const plan of plans) {
      if (!plan.curves.bleeder || plan.numbers.isSwitched) continue;
      const step = stepOf(plan, 'tool');
      const bled = expectedAt(
        plan,
        at(step, { charges: 1, isolatedAt: 1e12 - 1000 * (plan.numbers.bleeder?.nominal ?? 0) }),
        step,
        0,
      );
      if (!bled) throw new Error('nothing is expected');
      expect(bled.volts).toBeLessThan(plan.numbers.below * 1.2);
      expect(bled.worst).toBeGreaterThanOrEqual(plan.numbers.charged * (1 - 1e-9));
      for (const volts of [0, bled.volts, plan.numbers.below]) expect(deviationOf(plan, bled, volts)).toBeNull();
    }
  });
});
