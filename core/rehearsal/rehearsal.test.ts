import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { benchMeter, respond } from '../instrument/index.ts';
import { noSheetEdits, type Rig } from '../rig/index.ts';
import { planOf, replay, startedBy, stepAt, type RunEvent, type RunPlan } from '../run/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  isAct,
  clashOf,
  drawFaults,
  faultIds,
  faultsOf,
  meterIn,
  scoreOf,
  worldAt,
  type FaultId,
  type Rehearsal,
  type RehearsalAct,
} from './index.ts';

function planFor(rig: Rig): RunPlan {
  const made = planOf('Test bank', evaluateRig(rig), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
}

const bank = planFor(
  rigWith({
    'supply.V': '500 V',
    'store.V0': '400 V',
    'store.Vr': '450 V',
    'meter.V': '600 V',
    'store.ns': '2',
    'store.np': '2',
  }),
);
const marx = planFor(demoRig('kittiwake'));

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

/** A trainee who does each step as it says, with eyes open or shut. */
class Trainee {
  readonly events: RunEvent[] = [];
  now = 1e12;
  readonly plan: RunPlan;
  readonly rehearsal: Rehearsal;
  constructor(plan: RunPlan, faults: readonly FaultId[], seed = 3) {
    this.plan = plan;
    this.rehearsal = { seed, speed: 1, faults };
    this.send({ type: 'began', acts: 'AB', reads: 'CD' });
  }
  get state() {
    return replay(this.plan, this.events).state;
  }
  get step() {
    return stepAt(this.plan, this.state);
  }
  get world() {
    return worldAt(this.plan, this.rehearsal, this.events, this.now);
  }
  send(bare: Bare, after = 1) {
    this.now += after * 1000;
    const id = `00000000-0000-4000-8000-${String(this.events.length).padStart(12, '0')}`;
    this.events.push({ ...bare, id, at: this.now, screen: 'left' } as RunEvent);
  }
  act(act: RehearsalAct, after = 1) {
    this.send({ type: 'acted', act }, after);
  }
  /** What the meter shows, as the instrument answers. */
  meter(): number {
    const at = { volts: this.world.volts, uniform: () => 0.5 };
    return Number(
      respond(benchMeter, { own: meterIn(this.plan, this.rehearsal, this.world), errors: [] }, 'MEAS:VOLT:DC?', at).reply,
    );
  }
  /** One step, as the sheet says; `volts` is written down in place of what the meter shows. */
  obey(volts?: number) {
    const step = this.step;
    if (!step) return;
    const { does, id, wait = 0 } = step;
    if (does === 'strap-off' || id === 'strap-off') this.act('strap-off');
    if (does === 'charge') {
      this.act('supply-on');
      const { t, v } = this.plan.curves.charge ?? { t: [0], v: [0] };
      this.now += 1000 * (t[v.findIndex((x) => x >= this.plan.numbers.charged)] ?? t.at(-1) ?? 0);
    }
    if (does === 'isolate') {
      this.act('supply-off');
      this.act('isolate');
    }
    if (does === 'bleed') this.now += 1000 * (this.plan.numbers.bleeder?.worst ?? 0);
    if (does === 'tool') this.act('tool-on');
    if (id === 'verify-again') this.act('tool-off');
    if (does === 'strap') this.act('strap-on');
    if (does === 'fire') {
      this.act('fire');
      this.send({ type: 'outcome', step: id, outcome: this.world.hasFired ? 'fired' : 'misfire' });
      return;
    }
    this.now += wait * 1000;
    if (step.second) this.send({ type: 'answered', step: id });
    if (step.reading) {
      const value = volts ?? this.meter();
      this.send({ type: 'read', step: id, value, source: 'meter', confirmed: true });
    }
    this.send({ type: 'done', step: id });
  }
  /** Obeys until a step is come to, or the run stands still. */
  until(test: (id: string) => boolean): this {
    for (let i = 0; i < 80; i++) {
      const before = this.step?.id;
      if (this.state.at === 'ended' || before === undefined || test(before)) break;
      this.obey();
      if (this.step?.id === before && this.state.path === 'main' && this.events.at(-1)?.type === 'done') break;
    }
    return this;
  }
  score() {
    return scoreOf(this.plan, this.rehearsal, this.events, this.now);
  }
}

describe('the simulated rig', () => {
  test.each([
    ['a bank', bank],
    ['a Marx', marx],
  ])(
    'of %s goes as the sheet says: charged in its time, below the goal after the time of the stick, nobody hurt',
    (_name, plan) => {
      const run = new Trainee(plan, []).until((id) => id === 'supply-isolate');
      expect(run.world.volts / plan.numbers.charged).toBeCloseTo(1, 1);
      run.until((id) => id === 'tool-apply');
      run.until(() => false);
      expect(run.state.at).toBe('ended');
      expect(run.score()).toMatchObject({ points: 100, touches: [], joules: 0, falseAlarms: [] });
    },
  );

  test('falls by the bleeder, and by the stick, in the times that the plan has', () => {
    for (const [act, seconds] of [
      [null, bank.numbers.bleeder?.nominal ?? NaN],
      ['tool-on', bank.numbers.tool.nominal],
    ] as const) {
      // The meter and the leakage help a little: they are left out by a plan without them.
      const plan: RunPlan = {
        ...bank,
        numbers: {
          ...bank.numbers,
          meter: { ...bank.numbers.meter, R: null },
          open: { nominal: 1e12, worst: null },
          bleeder: act ? null : bank.numbers.bleeder,
        },
      };
      const run = new Trainee(plan, []).until((id) => id === 'supply-isolate');
      run.act('supply-off', 0);
      run.act('isolate', 0);
      const from = run.world.volts;
      if (act) run.act(act, 0);
      const expected = (seconds * Math.log(from / bank.numbers.below)) / Math.log(bank.numbers.charged / bank.numbers.below);
      run.now += expected * 1000;
      expect(run.world.volts / bank.numbers.below).toBeCloseTo(1, 2);
    }
  });

  test('of two groups with bleeders of their own, the one whose bleeder is open keeps its half, and a stick across both does not find it', () => {
    const plan: RunPlan = {
      ...bank,
      numbers: { ...bank.numbers, meter: { ...bank.numbers.meter, R: null }, open: { nominal: 1e12, worst: null }, dump: null },
    };
    expect([plan.numbers.isBledByGroup, plan.numbers.held.find(({ id }) => id === 'group')?.count]).toEqual([true, 2]);
    const run = new Trainee(plan, ['bleeder-open']).until((id) => id === 'supply-isolate');
    run.act('supply-off', 0);
    run.act('isolate', 0);
    const from = run.world.volts;
    run.now += 3e3 * (plan.numbers.bleeder?.nominal ?? NaN);
    expect(run.world.volts / from).toBeCloseTo(1 / 2, 2);
    run.act('tool-on', 0);
    run.now += 3e3 * plan.numbers.tool.nominal;
    // The terminals show nought; the groups stand against each other, a quarter of the charge in each, which the other bleeder takes down.
    expect(run.world.volts).toBeLessThan(plan.numbers.below);
    expect(run.world.leftVolts / from).toBeLessThan(1 / 2);
    expect(run.world.leftVolts / from).toBeGreaterThan(1 / 4);
    run.act('touch-stages', 0);
    expect(run.world.leftVolts).toBeLessThan(1);
  });

  test('is the same for the same seed and events, and never creates a charge by itself', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 0, max: 3 }), (seed, n) => {
        const faults = drawFaults(bank, seed, n);
        expect(drawFaults(bank, seed, n)).toEqual(faults);
        expect(faults.length).toBe(n);
        expect(clashOf(faults)).toBeNull();
        const run = new Trainee(bank, faults, seed).until((id) => id === 'charge');
        run.now += 1e7;
        expect(run.world.volts).toBe(0);
        expect(run.world).toEqual(run.world);
      }),
      { numRuns: 30 },
    );
  });
});

describe('faults', () => {
  test('that a rig cannot have are not offered', () => {
    expect(faultsOf(planFor(rigWith({ 'bleeder.kind': 'none', 'switch.kind': 'contact' })))).not.toContain('bleeder-open');
    expect(faultsOf(planFor(rigWith({ 'switch.kind': 'contact' })))).not.toContain('pre-fire');
    // It has no dump and no guard; everything else it can have.
    expect(faultsOf(marx)).toEqual(faultIds.filter((id) => id !== 'dump-stuck' && id !== 'door-welded'));
    expect(faultsOf(planFor(demoRig('anvil')))).toContain('door-welded');
  });

  test('a meter with a lead off shows zero on a charged store: whoever believes it and goes in pays for it', () => {
    const run = new Trainee(bank, ['meter-lead-off']).until((id) => id === 'charge');
    run.act('supply-on');
    run.now += 60e3;
    expect(run.world.volts).toBeGreaterThan(300);
    expect(Math.abs(run.meter())).toBeLessThan(1);
    run.act('approach');
    const score = run.score();
    expect(score.faults[0]).toMatchObject({ isNoticed: false });
    expect(score.touches[0]?.joules).toBeCloseTo(0.5 * bank.numbers.capacitance * run.world.volts ** 2, 3);
    expect(score.points).toBe(0);
    const careful = new Trainee(bank, ['meter-lead-off']).until((id) => id === 'meter-check');
    careful.act('prove-meter');
    careful.act('mend-meter');
    careful.until((id) => id === 'supply-isolate');
    expect(careful.meter() / careful.world.volts).toBeCloseTo(1, 1);
    careful.until(() => false);
    expect(careful.score()).toMatchObject({ points: 100, faults: [{ isNoticed: true }] });
  });

  test.each<[FaultId, readonly RehearsalAct[], string]>([
    ['charger-not-isolated', ['look-isolator'], 'fire'],
    ['stage-left', ['touch-stages'], 'verify'],
    ['strap-forgotten', ['look-strap'], 'hand-over'],
    ['early-approach', ['call-back'], 'fire'],
  ])('%s is found by looking, and by nothing else in the sheet', (fault, acts, at) => {
    const blind = new Trainee(bank, [fault]).until((id) => id === at);
    expect(blind.score().faults[0]?.isNoticed).toBe(false);
    for (const act of acts) blind.act(act);
    expect(blind.score().faults[0]?.isNoticed).toBe(true);
  });

  test('what is left unfound reaches somebody, with the energy that stood there', () => {
    const stage = new Trainee(bank, ['stage-left']).until((id) => id === 'verify');
    stage.until(() => false);
    expect(stage.state.at).toBe('ended');
    expect(stage.score().touches).toMatchObject([{ who: 'other' }]);
    expect(stage.score().joules).toBeGreaterThan(0.09 * bank.numbers.energy);
    const guest = new Trainee(bank, ['early-approach']).until((id) => id === 'fire');
    guest.now += 60e3;
    expect(guest.world.touches[0]).toMatchObject({ who: 'other' });
  });

  test('behind a guard whoever opens the door finds the charger off and the dump closed; a contact that welded is found by trying', () => {
    const anvil = demoRig('anvil');
    // Somebody comes while the dump is held open and the store is full.
    const opened = (rig: Rig, faults: readonly FaultId[], hands: readonly RehearsalAct[] = []) => {
      const run = new Trainee(planFor(rig), ['early-approach', ...faults]).until((id) => id === 'charge');
      for (const act of [...hands, 'hold-off', 'supply-on'] as const) run.act(act);
      const { t, v } = run.plan.curves.charge ?? { t: [0], v: [0] };
      run.now += 1000 * (t[v.findIndex((x) => x >= run.plan.numbers.charged)] ?? t.at(-1) ?? 0);
      run.obey();
      run.until((id) => id === 'fire');
      const full = run.world.volts;
      run.now += 1000 * ((run.plan.numbers.dump?.worst ?? 0) + 11);
      return { full, world: run.world, run };
    };
    const one = rigWith({ 'guard.doors': 'one' }, anvil);
    const held = opened(anvil, []);
    expect(held.world).toMatchObject({ isAtDoor: true, isHeldOff: false, isSupplyOn: false });
    expect(held.world.volts).toBeLessThan(held.run.plan.numbers.below);
    held.run.act('fire');
    expect(held.run.world).toMatchObject({ hasFired: false, shotVolts: null });
    // Of two contacts the other one opens it; the only one does not, unless it was tried before.
    expect(opened(anvil, ['door-welded']).world.isHeldOff).toBe(false);
    const blind = opened(one, ['door-welded']);
    expect(blind.world).toMatchObject({ isHeldOff: true });
    expect(blind.world.volts).toBeGreaterThan(0.5 * blind.full);
    const tried = opened(one, ['door-welded'], ['try-guard']);
    expect(tried.world.isHeldOff).toBe(false);
    expect(tried.run.score().faults.find(({ fault }) => fault === 'door-welded')?.isNoticed).toBe(true);
  });

  test('a rebound is above the goal at the second reading, and the hold does not let go on', () => {
    const run = new Trainee(bank, ['rebound', 'bleeder-open']).until((id) => id === 'verify-again');
    run.obey();
    expect(run.step?.id).toBe('verify-again');
    expect(run.state.verified).toBeNull();
  });

  test('misfire and pre-fire are told as such; what is not there and is named counts against', () => {
    const miss = new Trainee(bank, ['misfire']).until((id) => id === 'misfire-wait');
    expect(miss.state.path).toBe('misfire');
    miss.send({ type: 'suspected', fault: 'rebound' });
    expect(miss.score()).toMatchObject({ points: 90, falseAlarms: ['rebound'] });
    const early = new Trainee(marx, ['pre-fire']).until((id) => id === 'charge');
    early.act('supply-on');
    early.now += 1e6;
    expect(early.world.hasFired).toBe(true);
    early.send({ type: 'outcome', step: 'charge', outcome: 'pre-fire' });
    expect(early.state).toMatchObject({ path: 'abort', outcomes: ['pre-fire'] });
    expect(early.score().faults[0]?.isNoticed).toBe(true);
  });
});

test('what sets a course going in a run is something that a trainee can do', () => {
  const named = Object.values(startedBy).flatMap(({ on, off }) => [on, off]);
  expect(named).toHaveLength(4);
  expect(named.filter((act) => !isAct(act))).toEqual([]);
});
