import { cases } from '../test/long.ts';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits, type Rig, type SheetEdits } from '../rig/index.ts';
import { planOf, type RunPlan } from '../run/index.ts';
import { runSheetMarkdown, runSheetOf } from '../runsheet/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { marxRig } from '../test/marx.ts';
import { faultIds, faultsOf, play, type FaultId } from './index.ts';

function planFor(rig: Rig, edits: SheetEdits = noSheetEdits): RunPlan {
  const made = planOf('Test bank', evaluateRig(rig), edits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
}

const paces = [2, 9, 45] as const;
const alone = { pace: null, faults: [], seed: 7 };

/** What must be so of any sheet, however slow the hands and whatever is broken. */
function holdsUp(plan: RunPlan, name: string): void {
  const faults: (FaultId | null)[] = [null, ...faultsOf(plan)];
  for (const pace of paces)
    for (const fault of faults) {
      const at = `${name}, ${pace} s, ${fault ?? 'no fault'}`;
      const played = play(plan, { pace, faults: fault ? [fault] : [], seed: 11 });
      // Nothing but a tool made for it meets more than 1 J, and every sheet that cannot be carried out is named as such.
      expect(played.worstHandEnergy, at).toBeLessThanOrEqual(1);
      expect(played.executable, at).toBe(played.unexecutable.length === 0);
      for (const { reason } of played.unexecutable) expect(reason.length, at).toBeGreaterThan(20);
      if (fault === null && played.executable) expect([played.fired, played.inBand], at).toEqual([true, true]);
      if (fault === null && played.fired) expect(played.inBand, at).toBe(true);
      if (fault === 'misfire') expect(played.fired, at).toBe(false);
      if (played.executable) expect(played.band?.low ?? NaN, at).toBeGreaterThanOrEqual(0.6 * (played.band?.high ?? NaN));
      // The day ends at a strap, whatever happened.
      if (played.executable)
        expect(
          played.contacts.some(({ who }) => who === 'strap'),
          at,
        ).toBe(true);
    }
}

/** Rigs of many kinds: a bank in groups, its bleeder fast, slow, across each group or none; a gap of either sort; a Marx. */
const decade = (low: number, high: number) =>
  fc.double({ min: Math.log10(low), max: Math.log10(high), noNaN: true }).map((x) => Number((10 ** x).toPrecision(3)));
const anyBank = fc
  .record({
    V0: decade(20, 3000),
    C: decade(10e-6, 0.3),
    ns: fc.integer({ min: 1, max: 4 }),
    Rb: decade(1e3, 1e7),
    bleeder: fc.constantFrom('permanent', 'switched', 'each-element', 'none'),
    Rt: decade(10, 2000),
    tight: fc.constantFrom(false, false, false, true),
    dumped: fc.constantFrom(true, true, false),
  })
  .map(({ V0, C, ns, Rb, bleeder, Rt, tight, dumped }) => {
    const rig = rigWith({
      'supply.V': `${V0 * 1.3} V`,
      'store.V0': `${V0} V`,
      'store.C': `${C} F`,
      'store.ns': `${ns}`,
      'store.Vr': `${V0 * 2} V`,
      'meter.V': `${tight ? V0 / 2 : V0 * 3} V`,
      'tool.R': `${Rt} Ω`,
      'tool.n': '3',
      'bleeder.kind': bleeder,
      ...(dumped ? { 'dump.kind': 'relay', 'dump.R': `${Rt} Ω`, 'dump.n': '2' } : {}),
    });
    if (bleeder === 'none') return rig;
    return rigWith(
      { 'bleeder.R': `${Rb} Ω`, 'bleeder.n': '1', ...(bleeder === 'each-element' ? { 'bleeder.ng': `${ns}` } : {}) },
      rig,
    );
  });
const anyMarx = fc
  .record({ n: fc.integer({ min: 2, max: 8 }), Rb: decade(1e6, 1e9), d: decade(2, 8) })
  .map(({ n, Rb }) => marxRig({ 'store.n': `${n}`, 'bleeder.kind': 'permanent', 'bleeder.R': `${Rb} Ω`, 'bleeder.n': '1' }));

describe('a run sheet in the hands of a person', () => {
  test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
    'of %s holds up at any pace, with any fault',
    (name) => {
      holdsUp(planFor(demoRig(name)), name);
    },
  );

  test('of any rig holds up at any pace, with any fault', () => {
    let carriedOut = 0;
    const runs = cases(8, 500);
    fc.assert(
      fc.property(fc.oneof({ arbitrary: anyBank, weight: 4 }, { arbitrary: anyMarx, weight: 1 }), (rig) => {
        const made = planOf('any', evaluateRig(rig), noSheetEdits);
        if (!made.ok) {
          expect(made.reason.length).toBeGreaterThan(10);
          return;
        }
        if (play(made.plan, { ...alone, pace: 2 }).executable) carriedOut += 1;
        holdsUp(made.plan, JSON.stringify(rig).slice(0, 60));
      }),
      { numRuns: runs, seed: 20_261 },
    );
    // A test of sheets that all refuse themselves would say nothing.
    expect(carriedOut).toBeGreaterThan(runs / 6);
  }, 1_200_000);

  test('a Marx whose bleeder empties it meanwhile is not fired at a sixth of its voltage: it is named, with what would mend it', () => {
    const quick = rigWith(
      { 'bleeder.kind': 'permanent', 'bleeder.R': '33 MΩ', 'bleeder.n': '4', 'meter.R1': '1 GΩ', 'meter.R2': '1 MΩ' },
      demoRig('kittiwake'),
    );
    const evaluation = evaluateRig(quick);
    const made = runSheetOf('Marx', evaluation);
    if (!made.ok) throw new Error(made.reason);
    expect(made.sheet.verdict.word).toBe('not now');
    expect(made.sheet.shot.mends.join(' ')).toMatch(/held off during the charge/);
    const text = runSheetMarkdown(made.sheet);
    expect(text.split('\n')[2]).toMatch(/not now/);
    const played = play(planFor(quick), alone);
    expect(played).toMatchObject({ executable: false, fired: false, voltageAtShot: null });
  });

  test('a gap fired by self-break is not isolated before; one that stands more than is set does not fire, and is named', () => {
    const gap = { 'switch.mode': 'self-break', 'store.Vg': '40 kV', 'meter.V': '60 kV', 'supply.V': '40 kV' };
    const closed = planFor(marxRig({ ...gap, 'switch.d': '2.5 mm', 'store.V0': '12 kV' }));
    const order = closed.main
      .map(({ does }) => does)
      .filter((does) => does === 'charge' || does === 'isolate' || does === 'fire');
    expect(order).toEqual(['charge', 'fire', 'isolate']);
    for (const pace of [2, 30, 60])
      expect(play(closed, { ...alone, pace })).toMatchObject({ executable: true, fired: true, inBand: true });
    expect(closed.numbers.shot?.high).toBeLessThan(12e3);
    const open = planFor(marxRig({ ...gap, 'switch.d': '12 mm', 'store.V0': '12 kV' }));
    expect(open.numbers.cannot.join(' ')).toMatch(/does not self-break/);
    expect(play(open, alone)).toMatchObject({ executable: false, fired: false });
  });

  test('beyond a kilojoule hands come after a dump: without one the sheet stands still, with one that sticks nobody meets it', () => {
    const big = { 'supply.V': '2.6 kV', 'store.V0': '2 kV', 'store.C': '10 mF', 'store.Vr': '3 kV', 'meter.V': '5 kV' };
    const slow = { 'bleeder.R': '100 kΩ', 'bleeder.n': '1', 'supply.R': '10 Ω' };
    const bare = runSheetOf('20 kJ', evaluateRig(rigWith({ ...big, ...slow })));
    if (!bare.ok) throw new Error(bare.reason);
    expect(bare.sheet.verdict).toMatchObject({ word: expect.stringMatching(/not now|do not fire/) });
    expect(bare.sheet.cannot.join(' ')).toMatch(/a hand-held discharge never comes first/);
    const plan = planFor(rigWith({ ...big, ...slow, 'dump.kind': 'relay', 'dump.R': '500 Ω', 'dump.n': '2' }));
    expect(plan.numbers.cannot).toEqual([]);
    const ids = plan.main.map(({ id }) => id);
    expect(ids.indexOf('dump-close')).toBeLessThan(ids.indexOf('tool-apply'));
    expect(ids.indexOf('dump-open')).toBeGreaterThan(ids.indexOf('strap-off'));
    const first = (fault: FaultId | null) =>
      play(plan, { pace: 4, faults: fault ? [fault] : [], seed: 2 }).contacts.find(({ step }) => step === 'tool-apply');
    expect(first(null)?.joules).toBeLessThan(1);
    // The bleeder is waited for to its worst time, whatever the dump has done; with the bleeder open the dump alone has done it.
    expect(first('dump-stuck')?.joules).toBeLessThan(1.2);
    expect(first('bleeder-open')?.joules).toBeLessThan(1);
  });

  test('a third of a farad at 52 V is bled below 2.4 V, and the sheet says for how long', () => {
    const rig = rigWith({ 'store.C': '336 mF', 'store.V0': '52 V', 'tool.R': '10 Ω', 'tool.n': '1' });
    const plan = planFor(rig);
    expect(plan.numbers.below).toBe(2.4);
    const tool = plan.main.find((step) => step.id === 'tool-apply');
    // t = RC·ln(52/2.4) = 10.3 s at nominal; tolerances make it longer.
    expect(tool?.wait ?? 0).toBeGreaterThanOrEqual(10 * 0.336 * Math.log(52 / 2.4) - 1e-9);
    expect(tool?.expect.find(({ label }) => label === 'Stick on for at least')).toBeDefined();
  });

  test('hands of their own pace move what is printed, and a step keeps the time it was given', () => {
    const rig = demoRig('anvil');
    const usual = planFor(rig);
    const slow = planFor(rig, { ...noSheetEdits, pace: 20 });
    expect(slow.numbers.shot?.within ?? 0).toBeGreaterThan(usual.numbers.shot?.within ?? 0);
    expect(slow.numbers.shot?.low ?? 0).toBeLessThan(usual.numbers.shot?.low ?? 0);
    expect(play(slow, alone)).toMatchObject({ executable: true, inBand: true });
    const one = planFor(rig, { ...noSheetEdits, seconds: { fire: 30 } });
    expect(one.main.find(({ id }) => id === 'fire')?.seconds).toBe(30);
  });

  test('stores charged in turn: each is followed step by step, the first is what the shot is told of, and it may fall too far', () => {
    const three = rigWith(
      { 'bleeder.R': '220 kΩ', 'bleeder.n': '1', 'meter.R': '100 MΩ', 'store.Ri': '4 MΩ' },
      demoRig('shuttle'),
    );
    const made = runSheetOf('three', evaluateRig(three));
    if (!made.ok) throw new Error(made.reason);
    const { shot, main } = made.sheet;
    const [charged, isolated] = shot.course.map(({ volts }) => volts);
    // The first has fallen for two turns when the last is full; then all fall alike: v = V0·e^(−t/τ).
    expect(charged?.length).toBe(3);
    expect(charged?.[2]).toBe(340);
    expect(charged?.[0]).toBeLessThan(charged?.[1] ?? 0);
    for (const k of [0, 1, 2]) expect((isolated?.[k] ?? 0) / (charged?.[k] ?? 1)).toBeCloseTo(Math.exp(-3 / shot.tau), 6);
    expect(main.find(({ does }) => does === 'charge')?.expect.map(({ label }) => label)).toContain('All stores charged within');
    const plan = planFor(three);
    const played = play(plan, alone);
    expect(played).toMatchObject({ executable: true, fired: true, inBand: true });
    expect((played.voltageAtShot ?? 0) / shot.expected).toBeCloseTo(1, 2);
    const slow = play(plan, { ...alone, pace: 60 });
    expect(slow.executable).toBe(false);
    expect(slow.unexecutable[0]?.reason).toMatch(/after the first, and all are charged within/);
    holdsUp(plan, 'three');
  });

  test('a bleeder of half a day is not waited for; behind a dump no longer than until the meter reads below the goal', () => {
    const slow = {
      'supply.V': '500 V',
      'store.V0': '400 V',
      'store.C': '1 mF',
      'store.Vr': '450 V',
      'bleeder.R': '20 MΩ',
      'bleeder.n': '1',
    };
    const plain = planFor(rigWith({ ...slow, 'meter.R': '100 MΩ', 'meter.V': '600 V' }));
    expect(plain.main.find(({ id }) => id === 'bleed-wait')?.text).toMatch(/Do not wait for this bleeder/);
    expect(play(plain, alone).seconds).toBeLessThan(3600);
    const dumped = planFor(
      rigWith({ ...slow, 'meter.R': '100 MΩ', 'meter.V': '600 V', 'dump.kind': 'relay', 'dump.R': '1 kΩ', 'dump.n': '1' }),
    );
    expect(play(dumped, alone)).toMatchObject({ executable: true, inBand: true });
    expect(play(dumped, alone).seconds).toBeLessThan(3600);
    // A misfire, and the dump sticks: everybody stays outside until the meter is down, and the tool meets next to nothing.
    const stuck = play(dumped, { ...alone, faults: ['dump-stuck', 'misfire'] });
    expect(stuck.seconds).toBeGreaterThan(1e4);
    expect(stuck.contacts.find(({ step }) => step === 'misfire-tool')?.joules).toBeLessThan(1.3);
  });

  test('a stick too weak for what keeps a charge of its own is found by its reading, and again by the energy at its strap', () => {
    const plan = planFor(demoRig('anvil'));
    const [group] = plan.numbers.held;
    if (!group) throw new Error('no group');
    const weak: RunPlan = { ...plan, numbers: { ...plan.numbers, held: [{ ...group, tool: 0.01, toolTau: 1e4 }] } };
    const hands = { pace: 5, faults: ['stage-left' as const], seed: 3 };
    const strap = (of: RunPlan) => play(of, hands).contacts.find(({ step, who }) => step === 'group-strap' && who === 'strap');
    expect(strap(plan)?.joules).toBeLessThan(1);
    const played = play(weak, hands);
    expect(played.contacts.filter(({ step }) => step === 'group-tool').length).toBeGreaterThan(1);
    expect(played.executable).toBe(false);
    expect(strap(weak)).toBeUndefined();
  });

  test('every fault has a name, and the greatest stick contact is the whole store where nothing has bled it', () => {
    const plan = planFor(
      rigWith({ 'supply.V': '500 V', 'store.V0': '400 V', 'store.Vr': '450 V', 'meter.V': '600 V', 'bleeder.R': '200 kΩ' }),
    );
    expect(faultIds).toContain('bleeder-open');
    const played = play(plan, { pace: 5, faults: ['misfire'], seed: 1 });
    const tool = played.contacts.find(({ step }) => step === 'misfire-tool');
    // E = ½CV² of what the bleeder has left after the minute of the misfire.
    expect(tool?.joules ?? 0).toBeCloseTo(0.5 * plan.numbers.capacitance * (tool?.volts ?? 0) ** 2, 9);
    expect(played).toMatchObject({ unexecutable: [], executable: true, fired: false });
  });
});
