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

  /** Of curves that are exponentials: what is expected can be worked out by hand. τ of 20 s by the bleeder, of 2 s by the stick. */
  const falling = (tau: number) => {
    const t = Array.from({ length: 2001 }, (_, i) => i / 20);
    return { t, v: t.map((x) => 100 * Math.exp(-x / tau)) };
  };
  const made = (more: Partial<(typeof plans)[number]['numbers']> = {}): (typeof plans)[number] => {
    const [thimble] = plans;
    if (!thimble) throw new Error('no plan');
    const rising = falling(4);
    return {
      ...thimble,
      curves: { charge: { ...rising, v: rising.v.map((v) => 100 - v) }, bleeder: falling(20), tool: falling(2) },
      numbers: {
        ...thimble.numbers,
        ...{ charged: 100, below: 5, bleeder: { nominal: 60, worst: 90 }, tool: { nominal: 6, worst: 9 }, isSwitched: false },
        ...more,
      },
    };
  };

  test('a stick finds what the bleeder has left when it touches, at whatever speed a rehearsal runs', () => {
    const plan = made();
    const step = { ...stepOf(plan, 'tool'), seconds: 15 };
    const volts = (state: Partial<RunState>, elapsed: number, speed = 1, of = plan) =>
      expectedAt(of, at(step, state), step, elapsed * 1000, speed)?.volts;
    const since = (s: number) => ({ isolatedAt: 1e12 - 1000 * s });
    expect(volts(since(7), 0)).toBeCloseTo(100 * Math.exp(-7 / 20), 2);
    expect(volts(since(7), 0, 4)).toBeCloseTo(100 * Math.exp(-28 / 20), 2);
    // Hands are at it for fifteen seconds, while the bleeder goes on; three seconds later the stick has taken its part of that.
    expect(volts(since(7), 15)).toBeCloseTo(100 * Math.exp(-22 / 20), 2);
    expect(volts(since(7), 18)).toBeCloseTo(100 * Math.exp(-22 / 20) * Math.exp(-3 / 2), 2);
    // Not before the charger is off, and nothing of a bleeder that is held off or not there.
    expect(volts({ isolatedAt: null }, 15)).toBeCloseTo(100, 6);
    expect(volts(since(7), 15, 1, made({ isSwitched: true }))).toBeCloseTo(100, 6);
    expect(volts(since(7), 15, 1, { ...plan, curves: { ...plan.curves, bleeder: null } })).toBeCloseTo(100, 6);
    expect(volts(since(7), 0, 1, made({ charged: 0 }))).toBeCloseTo(100, 6);
  });

  test('what is calculated, the worst case behind it, what to come to and how far along it is', () => {
    const plan = made();
    const [charge, bleed, tool] = (['charge', 'bleed', 'tool'] as const).map((does) => ({ ...stepOf(plan, does), seconds: 10 }));
    if (!charge || !bleed || !tool) throw new Error('no step');
    expect(expectedAt(plan, at(charge), charge, 14_000)).toMatchObject({
      ...{ does: 'charge', seconds: 4, mark: 100, worst: null, span: null, grace: 10 },
      volts: expect.closeTo(100 * (1 - Math.exp(-1)), 2),
    });
    // Its step began five seconds after the charger was off.
    expect(expectedAt(plan, at(bleed, { isolatedAt: 1e12 - 5000 }), bleed, 15_000)).toMatchObject({
      ...{ does: 'bleed', seconds: 20, mark: 5, grace: 0, span: { nominal: 60, worst: 90 } },
      volts: expect.closeTo(100 * Math.exp(-1), 2),
      worst: expect.closeTo(100 * Math.exp((-Math.log(20) * 20) / 90), 9),
    });
    expect(expectedAt(plan, at(bleed, { isolatedAt: 1e12 + 5000 }), bleed, 15_000)?.seconds).toBe(15);
    expect(expectedAt(plan, at(bleed), bleed, 15_000, 3)?.seconds).toBe(45);
    const acted = (actedAt: RunState['actedAt']) => expectedAt(plan, at(tool, { actedAt }), tool, 15_000, 2, true)?.seconds;
    expect(acted({})).toBe(0);
    expect(acted({ 'tool-on': 1e12 + 5000 })).toBe(20);
    expect(acted({ 'tool-on': 1e12 + 5000, 'tool-off': 1e12 + 6000 })).toBe(0);
    expect(acted({ 'tool-on': 1e12 + 6000, 'tool-off': 1e12 + 5000 })).toBe(18);
    expect(expectedAt(plan, at(tool), { ...tool, does: 'strap' }, 0)).toBeNull();
    const full = (more: Partial<RunState>) => expectedAt(plan, at(bleed, more), bleed, 0)?.isFromFull;
    expect([full({}), full({ charges: 1 }), full({ charges: 1, aborts: 1 }), full({ charges: 1, hasFired: true })]).toEqual([
      ...[false, true, false, false],
    ]);
  });

  test('an alarm begins where the sheet says it does, on both sides', () => {
    const plan = made();
    const step = { ...stepOf(plan, 'charge'), seconds: 10 };
    const charging = (elapsed: number) => {
      const expected = expectedAt(plan, at(step), step, elapsed * 1000);
      if (!expected) throw new Error('nothing is expected');
      return expected;
    };
    const risen = charging(14);
    // 15 % of the charge is what a reading may be off.
    expect(deviationOf(plan, risen, risen.volts + 14.99)).toBeNull();
    expect(deviationOf(plan, risen, risen.volts + 15.01)?.what).toBe('15.0 V over what is calculated.');
    expect(deviationOf(plan, risen, risen.volts - 14.99)).toBeNull();
    // For as long as hands may take longer than planned, nothing is said of a charge that is behind.
    expect(deviationOf(plan, risen, risen.volts - 15.01)).toBeNull();
    const later = charging(20.1);
    expect(deviationOf(plan, later, later.volts - 15.01)?.act).toContain('treat it as charged');
    expect(deviationOf(plan, charging(20), 0)).toBeNull();
    expect(deviationOf(plan, charging(9), -20)?.what).toBe('20.0 V over what is calculated.');
    expect(deviationOf(plan, { ...charging(9), volts: 50 }, 0)).toBeNull();
    const bleed = stepOf(plan, 'bleed');
    const bleeding = expectedAt(plan, at(bleed, { charges: 1 }), bleed, 20_000);
    if (!bleeding) throw new Error('nothing is expected');
    const most = bleeding.worst ?? NaN;
    // 2 % of the charge is what a meter of the bench is off.
    expect(deviationOf(plan, bleeding, most + 1.99)).toBeNull();
    expect(deviationOf(plan, bleeding, -most - 2.01)?.what).toMatch(/^2\.01 V over the worst case: the bleeder/);
    expect(deviationOf(plan, { ...bleeding, worst: 1, volts: 1 }, 4.99)).toBeNull();
    expect(deviationOf(plan, { ...bleeding, worst: 1, volts: 1 }, 5)?.what).toMatch(/^4\.00 V over/);
    // Too low for a bank that has not fired: below a fifth of what is calculated, while a quarter of the charge is there.
    const low = { ...bleeding, volts: 26, worst: 40 };
    expect(deviationOf(plan, low, 5.21)).toBeNull();
    expect(deviationOf(plan, low, 5.19)?.act).toContain('prove the meter');
    expect(deviationOf(plan, { ...low, volts: 25 }, 0)).toBeNull();
    expect(deviationOf(plan, { ...low, isFromFull: false }, 0)).toBeNull();
    const stick = { ...low, does: 'tool' as const, grace: 10, seconds: 10 };
    expect(deviationOf(plan, stick, 90)).toBeNull();
    expect(deviationOf(plan, { ...stick, seconds: 10.1 }, 90)?.what).toContain('the discharge stick');
    expect(deviationOf(plan, { ...stick, seconds: 10.1 }, 0)).toBeNull();
  });
});
