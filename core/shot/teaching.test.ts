import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { capacitorFormulas, evaluateFormula } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { normals } from '../numeric/index.ts';
import { noSheetEdits, quantityAt, type Rig } from '../rig/index.ts';
import { planOf, stepAt, stepRun, notBegun, type RunEvent, type RunState } from '../run/index.ts';
import { gapStudy } from '../study/index.ts';
import { offBy } from '../test/fixtures.ts';
import { figureOf } from '../test/marx.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { fieldsOfGap, gapShots, lifeUsed, shotsOfRun, withBreakdowns, withMeasured, type Shot } from './index.ts';

const shot = (more: Partial<Shot>): Shot => ({
  at: '2026-04-11T10:00:00.000Z',
  outcome: 'fired',
  set: {},
  measured: {},
  own: [],
  sound: '',
  remarks: '',
  campaign: null,
  ...more,
});

describe('the life of capacitors', () => {
  const rig = rigWith({ 'store.ns': '1', 'store.V0': '400 V', 'store.Vr': '450 V', 'store.Nr': '10000', 'store.nl': '7' });

  test('is used up by 1/N a shot, N by the power law of voltage endurance, whatever the order; a misfire takes none', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: 100, max: 500, noNaN: true }), { minLength: 1, maxLength: 12 }), (voltages) => {
        const shots = voltages.map((voltage) => shot({ set: { voltage: 1 }, measured: { voltage } }));
        const misfires = [shot({ outcome: 'misfire', set: { voltage: 450 } })];
        const by = voltages.reduce((sum, V) => sum + (V / 450) ** 7 / 10000, 0);
        const found = lifeUsed(rig, [...misfires, ...shots]);
        expect(offBy(found?.used ?? NaN, by)).toBeLessThan(1e-9);
        expect(found?.counted).toBe(voltages.length);
        expect(offBy(lifeUsed(rig, [...shots].reverse())?.used ?? NaN, by)).toBeLessThan(1e-9);
      }),
    ));

  test('at its rating is what the label says, and halving the voltage gives 128 times as many shots at an exponent of 7', () => {
    const at = (V: number) => evaluateFormula(capacitorFormulas.lifeAtVoltage, { Vr: 450, Nr: 10000, V, n: 7 });
    expect(at(450)).toBeCloseTo(10000, 6);
    expect(offBy(at(225), 1.28e6)).toBeLessThan(1e-12);
    expect(offBy(figureOf(rig, 'life-shots'), at(400))).toBeLessThan(1e-12);
  });

  test('is not counted where nobody said what a capacitor is rated for; a shot without a voltage is told of', () => {
    expect(lifeUsed(rigWith({ 'store.Vr': '450 V' }), [shot({})])).toBeNull();
    expect(lifeUsed(rig, [shot({}), shot({ set: { voltage: 400 } })])).toMatchObject({ counted: 1, unknown: 1 });
  });
});

describe('shots by self-break of a gap', () => {
  const rig = demoRig('kittiwake');
  const d0 = quantityAt(rig, 'switch.d')?.value?.value ?? NaN;
  /** Self-break of the gap with another enhancement and spacing. */
  const breakAt = (b: number, d: number) =>
    gapStudy(rigWith({ 'switch.b': String(b), 'switch.d': `${d * 1e3} mm` }, rig), printQuantity)?.selfBreak ?? NaN;

  test('bring back the enhancement and the scatter that they were drawn with, within what is stated, in 95 of 100', () => {
    const [b, scatter, count] = [1.12, 0.03, 12];
    const spacings = Array.from({ length: count }, (_, i) => d0 * (0.8 + (0.4 * i) / count));
    const breaks = spacings.map((d) => breakAt(b, d));
    let [held, scatters] = [0, 0];
    const seeds = 200;
    for (let seed = 1; seed <= seeds; seed++) {
      const normal = normals(seed);
      const shots = spacings.map((spacing, i) =>
        shot({
          outcome: 'pre-fire',
          set: { spacing },
          measured: { voltage: (breaks[i] ?? NaN) * (1 + scatter * normal()) },
        }),
      );
      const found = gapShots(rig, shots)?.fit;
      if (!found?.uncertainty || !found.scatter) throw new Error('no fit');
      if (Math.abs(found.enhancement / b - 1) <= found.uncertainty) held += 1;
      scatters += found.scatter;
    }
    // 95 % of 200 less three standard deviations of a binomial.
    expect(held).toBeGreaterThanOrEqual(181);
    expect(offBy(scatters / seeds, scatter)).toBeLessThan(0.05);
  });

  test('are used as they are: a shot that was triggered is none, and each line is taken into the gap once', () => {
    const fired = shot({ outcome: 'fired', measured: { voltage: 15e3 } });
    const own = [1, 1, 2].map((k) => shot({ outcome: 'pre-fire', set: { spacing: d0 }, measured: { voltage: 15e3 + k } }));
    const found = gapShots(rig, [fired, ...own, shot({ outcome: 'pre-fire' })]);
    expect(found?.lines).toHaveLength(3);
    const lines = found?.lines ?? [];
    const once = withBreakdowns(rig, lines);
    const seen = (of: Rig) => gapStudy(of, printQuantity)?.points.length ?? 0;
    expect(seen(once)).toBe(seen(rig) + 3);
    expect(withBreakdowns(once, lines)).toEqual(once);
    expect(gapShots(rig, [fired])).toBeNull();
    expect(gapShots(rigWith({ 'switch.kind': 'thyristor' }, rig), own)).toBeNull();
  });

  test('accepted, are measured values of the rig, and its self-break is then what was seen', () => {
    const b = 1.07;
    const shots = [0.9, 0.95, 1, 1.05].map((k) =>
      shot({ outcome: 'pre-fire', set: { spacing: d0 * k }, measured: { voltage: breakAt(b, d0 * k) } }),
    );
    const found = gapShots(rig, shots);
    if (!found) throw new Error('no fit');
    const made = withMeasured(
      rig,
      fieldsOfGap(rig, found).filter(({ refused }) => refused === null),
    );
    expect(quantityAt(made, 'switch.b')?.value?.from).toBe('measured');
    expect(offBy(figureOf(made, 'self-break'), breakAt(b, d0))).toBeLessThan(2e-3);
  });
});

describe('a run', () => {
  const rig = demoRig('thimble');
  const made = planOf('Thimble', evaluateRig(rig), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  const { plan } = made;
  let at = Date.UTC(2026, 5, 1);
  let ids = 0;
  type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;
  const event = (bare: Bare): RunEvent => {
    // Every wait is over an hour later.
    at += 3600e3;
    ids += 1;
    return { ...bare, id: `00000000-0000-4000-8000-${String(ids).padStart(12, '0')}`, at, screen: 'one' } as RunEvent;
  };
  /** Events that walk a run to its end, each shot with an outcome and a voltage. */
  function walk(outcomes: readonly ('fired' | 'misfire')[], volts: number): RunEvent[] {
    const events: RunEvent[] = [event({ type: 'began', acts: 'AB', reads: null })];
    let state: RunState = stepRun(plan, notBegun, events[0] as RunEvent).state;
    const left = [...outcomes];
    const put = (bare: Bare) => {
      const one = event(bare);
      events.push(one);
      const stepped = stepRun(plan, state, one);
      state = stepped.state;
      return stepped.ok;
    };
    for (let i = 0; i < 400 && state.at === 'running'; i++) {
      const step = stepAt(plan, state);
      if (!step) break;
      if (step.reading && !state.reading)
        put({
          type: 'read',
          step: step.id,
          value: step.reading.expected === null ? 0 : volts,
          source: 'by eye',
          confirmed: true,
        });
      if (step.second) put({ type: 'answered', step: step.id });
      const outcome = left[0];
      if (step.does === 'fire' && outcome) {
        left.shift();
        put({ type: 'outcome', step: step.id, outcome });
      } else if (step.does === 'hand-over' && left.length > 0) put({ type: 'again', to: 'charge' });
      else if (!put({ type: 'done', step: step.id })) break;
    }
    return events;
  }

  test('writes down each of its shots with the voltage that was read before it, the same however often it is asked', () => {
    const charged = plan.numbers.charged;
    const events = walk(['fired', 'misfire', 'fired'], charged * 0.97);
    const shots = shotsOfRun(plan, events);
    expect(shots.map(({ shot: s }) => s.outcome)).toEqual(['fired', 'misfire', 'fired']);
    const hasReading = plan.main.some((s) => (s.phase === 'charge' || s.phase === 'isolate') && s.reading);
    for (const { id, shot: s } of shots) {
      expect(events.find((e) => e.id === id)?.type).toBe('outcome');
      expect(s.set.voltage).toBe(charged);
      expect(s.measured.voltage).toBe(hasReading ? charged * 0.97 : undefined);
    }
    expect(shotsOfRun(plan, events)).toEqual(shots);
    // An outcome that had no effect is no shot.
    const [again] = events.filter((e) => e.type === 'outcome');
    expect(again && shotsOfRun(plan, [...events, { ...again, id: '00000000-0000-4000-8000-00000000ffff' }])).toEqual(shots);
  });
});
