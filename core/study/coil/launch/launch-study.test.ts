import { describe, expect, test } from 'vitest';
import { blockDefinition, newBlock } from '../../../kind/index.ts';
import { printQuantity } from '../../../quantity/index.ts';
import {
  inChannel,
  newDocument,
  newRig,
  noSheetEdits,
  quantityAt,
  rigDocumentSchema,
  wholeRig,
  withBlock,
  withChannelAdded,
  withTrialValue,
  type Rig,
} from '../../../rig/index.ts';
import { offBy } from '../../../test/fixtures.ts';
import { highestVoltage } from '../../../block/index.ts';
import { evaluateRig } from '../../../evaluation/index.ts';
import { RigReading } from '../../../figure/index.ts';
import { planOf } from '../../../run/index.ts';
import { runSheetMarkdown, runSheetOf } from '../../../runsheet/index.ts';
import { dischargeTraces } from '../../../simulate/index.ts';
import { figureOf, problemsOf, solved } from '../../../test/marx.ts';
import { rigWith } from '../../../test/rigs.ts';
import { asTheRig, findLaunch, gaugesBetween, launchFinder, launchStudy, withDesign, type LaunchLimits } from './index.ts';

describe('the launch of a coilgun stage', () => {
  const stage = (typed: Readonly<Record<string, string>> = {}) =>
    rigWith(
      {
        'supply.V': '400 V',
        'store.V0': '350 V',
        'store.C': '2 mF',
        'store.ESR': '20 mΩ',
        'load.Df': '14 mm',
        'load.d': '1.2 mm',
        'load.N': '90',
        'load.l': '35 mm',
        'load.ds': '11 mm',
        'load.ls': '34 mm',
        'load.xs': '30 mm',
        ...typed,
      },
      withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coilgun-stage'))),
    );
  const shot = (typed: Readonly<Record<string, string>> = {}) => {
    const made = launchStudy(stage(typed), printQuantity);
    if (!made) throw new Error('no launch');
    return made;
  };

  test('tells where every joule went, and its slug weighs what a solid one does', () => {
    const { run, projectile, efficiency } = shot();
    expect(run.closure).toBeLessThan(1e-3);
    expect(offBy(projectile.mass, 7850 * (Math.PI / 4) * 0.011 ** 2 * 0.034)).toBeLessThan(1e-9);
    expect(efficiency).toBeGreaterThan(0.001);
    // Common practice, no source: a single stage of this kind turns a few per cent into motion, and no more.
    expect(efficiency).toBeLessThan(0.15);
    expect(offBy(run.energy.stored, 0.5 * 2e-3 * 350 ** 2)).toBeLessThan(1e-9);
  });

  test('a pulse that outlasts the way to the middle is said to suck back, with the capacitance that would not', () => {
    const long = shot({ 'store.C': '20 mF' });
    expect(long.said.join()).toMatch(/Pulled back \(suck-back\): .* about .*F end in time: muzzle speed is then/);
    const suits = Number(/ about ([\d.]+) mF end in time/.exec(long.said.join())?.[1] ?? NaN);
    expect(suits).toBeLessThan(20);
    const shorter = shot({ 'store.C': `${suits} mF` });
    expect(shorter.exit).toBeGreaterThan(long.exit);
    expect(shorter.exit).toBeGreaterThan(0.9 * shorter.fastest);
    // And with less energy it does more.
    expect(shorter.efficiency).toBeGreaterThan(long.efficiency);
  });

  test('what cannot be is named by its field', () => {
    expect(() => shot({ 'load.ds': '14 mm' })).toThrow(/slug is wider than the bore/);
    expect(() => shot({ 'load.tb': '8 mm' })).toThrow(/there is no bore/);
    expect(
      evaluateRig(stage({ 'load.ls': '90 mm' }))
        .problems.map((p) => p.text)
        .join(),
    ).toMatch(/slug is longer than the coil/);
    expect(launchStudy(newRig(), printQuantity)).toBeNull();
  });
});

describe('several coils', () => {
  type Typed = Readonly<Record<string, string>>;
  /** Stages behind the first, by what is typed into their blocks. */
  const withStages = (rig: Rig, stages: readonly Typed[]): Rig =>
    stages.reduce((made, typed, k) => {
      const more = withChannelAdded(made);
      if (!more) throw new Error('no further stage');
      const own = Object.entries(typed).map(([path, text]) => [path.replace('.', `@${k + 2}.`), text] as const);
      return rigWith(Object.fromEntries(own), more);
    }, rig);
  const at = (place: string, sensor: string, more: Typed = {}): Typed => ({
    'load.fired': 'sensor',
    'load.at': place,
    'load.xf': sensor,
    ...more,
  });
  const three = (typed: Typed = {}, stages: readonly Typed[] = [at('60 mm', '40 mm'), at('120 mm', '104 mm')]): Rig =>
    withStages(one(typed), stages);
  const one = (typed: Typed = {}): Rig =>
    rigWith(
      {
        'supply.V': '400 V',
        'store.V0': '300 V',
        'store.C': '0.6 mF',
        'store.ESR': '20 mΩ',
        'load.Df': '14 mm',
        'load.d': '1.2 mm',
        'load.N': '75',
        'load.l': '30 mm',
        'load.ds': '11 mm',
        'load.ls': '30 mm',
        'load.xs': '22 mm',
        'load.F': '0.2 N',
        ...typed,
      },
      withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coilgun-stage'))),
    );
  const shot = (typed: Typed = {}, stages?: readonly Typed[]) => {
    const made = launchStudy(three(typed, stages), printQuantity);
    if (!made) throw new Error('no launch');
    return made;
  };

  test('each adds speed at its sensor, and what is gained is what the energy of motion says', () => {
    const { stages, exit, run, projectile, timing } = shot();
    expect(stages.map(({ fired }) => fired && Math.round(fired.x * 1e4) / 10)).toEqual([-22, 40, 104]);
    expect(stages[1]?.after ?? 0).toBeGreaterThan(stages[0]?.after ?? NaN);
    expect(exit).toBeGreaterThan(stages[1]?.after ?? NaN);
    const gained = stages.reduce((sum, { efficiency, taken }) => sum + efficiency * taken, 0);
    expect(offBy(gained, 0.5 * projectile.mass * exit ** 2)).toBeLessThan(1e-3);
    expect(run.closure).toBeLessThan(1e-4);
    // An error of nought costs nothing.
    timing?.exit.forEach((exits) => expect(offBy(exits[4] ?? NaN, exit)).toBeLessThan(1e-3));
  });

  test('a coil that is fired when it is best leaves it faster than any other place does', () => {
    const best = shot({}, [{ 'load.fired': 'best', 'load.at': '60 mm' }]);
    for (const x of [20, 30, 38, 44, 50, 56]) {
      const placed = shot({}, [at('60 mm', `${x} mm`)]);
      expect(best.exit).toBeGreaterThan(placed.exit * (1 - 1e-3));
    }
    // Fired as long after the first as that took, it does the same.
    const { t = 0 } = best.stages[1]?.fired ?? {};
    for (const by of ['after', 'time'])
      expect(
        offBy(shot({}, [{ 'load.fired': by, 'load.at': '60 mm', 'load.tf': `${(t * 1e3).toFixed(6)} ms` }]).exit, best.exit),
      ).toBeLessThan(1e-3);
  });

  test('each has a store of its own: what is stored is counted, and the stick takes one after the other', () => {
    const alone = figureOf(one(), 'stored-energy');
    expect(offBy(figureOf(three(), 'stored-energy'), 3 * alone)).toBeLessThan(1e-12);
    const unlike = three({}, [
      at('60 mm', '40 mm', { 'store.V0': '150 V' }),
      at('120 mm', '100 mm', { 'store.V0': '300 V', 'store.C': '0.3 mF' }),
    ]);
    expect(offBy(figureOf(unlike, 'stored-energy'), alone * (1 + 0.25 + 0.5))).toBeLessThan(1e-12);
    expect(figureOf(three(), 'tool-energy')).toBe(figureOf(one(), 'tool-energy'));
    expect(offBy(shot().run.energy.stored, 3 * alone)).toBeLessThan(1e-9);
    expect(offBy(shot().recharge ?? NaN, 3 * figureOf(three(), 'charge-time'))).toBeLessThan(1e-9);
    // An unlike store is held by its own voltage and energy, and a meter has to bear the highest of all.
    const high = three({ 'store.Vr': '500 V' }, [
      at('60 mm', '40 mm', { 'store.V0': '380 V', 'store.C': '0.1 mF' }),
      at('120 mm', '104 mm', { 'store.V0': '200 V', 'store.C': '2 mF' }),
    ]);
    const made = runSheetOf('Launcher', evaluateRig(high), noSheetEdits);
    const plan = planOf('Launcher', evaluateRig(high), noSheetEdits);
    expect(made.ok && runSheetMarkdown(made.sheet)).toMatch(/store of stage 2[^]*store of stage 3/);
    expect(plan.ok && plan.plan.numbers.held.map(({ volts, joules }) => [volts, Number(joules.toFixed(6))])).toEqual([
      [380, 7.22],
      [200, 40],
    ]);
    expect(plan.ok && plan.plan.numbers.highest).toBe(highestVoltage(new RigReading(inChannel(high, 1))));
    // The band of the whole has the tolerances of every store; a further stage begins as the last.
    const wide = three({}, [at('60 mm', '40 mm', { 'store.C': '0.6 mF ±20 %' }), at('120 mm', '104 mm')]);
    const energy = evaluateRig(wide).figures.find(({ id }) => id === 'stored-energy');
    expect(energy?.ok && offBy(energy.band.high, alone * 3.4)).toBeLessThan(1e-9);
  });

  test('each is seen from itself: its figures and limits, what stands once, and what a higher voltage does to it alone', () => {
    const rig = three({ 'store.Vr': '350 V' }, [
      at('60 mm', '40 mm', { 'store.V0': '360 V', 'load.N': '50' }),
      at('120 mm', '104 mm'),
    ]);
    const second = inChannel(rig, 1);
    expect(figureOf(second, 'launch-mass')).toBe(figureOf(rig, 'launch-mass'));
    expect(figureOf(second, 'coil-turns')).toBe(50);
    expect(figureOf(second, 'stored-energy')).toBeCloseTo(figureOf(rig, 'stored-energy'), 9);
    const over = (seen: Rig) =>
      evaluateRig(seen)
        .ladder.limits.filter(({ worst }) => (worst ?? 0) > 1)
        .map(({ id }) => id);
    expect(over(rig)).toContain('capacitor-voltage-of-2');
    expect(over(rig)).not.toContain('capacitor-voltage');
    expect(over(second)).toContain('capacitor-voltage');
    // What would mend it is of that stage, and does.
    const relief = evaluateRig(rig).ladder.limits.find(({ id }) => id === 'capacitor-voltage-of-2')?.relief[0];
    expect(relief?.path).toBe('store@2.V0');
    expect(over(withTrialValue(rig, relief?.path ?? '', relief?.value ?? NaN))).not.toContain('capacitor-voltage-of-2');
    // A person can answer for each by its name.
    const waivers = evaluateRig(rig).ladder.limits.map(({ id: limit }) => ({
      limit,
      by: 'Key holder',
      reason: 'Measured at half the voltage.',
      upTo: 1,
    }));
    expect(
      rigDocumentSchema.safeParse({ ...newDocument('Launcher', rig), sheet: { waivers: waivers.slice(-30) } }).error,
    ).toBeUndefined();
    // The slug is the same for all of them, from wherever it is changed.
    const thin = rigWith({ 'load.ds': '9 mm' }, second);
    expect(quantityAt(inChannel(thin, 0), 'load.ds')?.value?.value).toBeCloseTo(9e-3);
    expect(wholeRig(thin).channels[1]?.load.fields).not.toHaveProperty('ds');
  });

  test('what is stored is told, and counted in all stores, though nothing fits in the coils', () => {
    const broken = three({ 'load.d': '60 mm', 'load.ds': '90 mm' });
    expect(figureOf(broken, 'stored-energy')).toBe(figureOf(three(), 'stored-energy'));
    expect(evaluateRig(broken).hazard?.class).toBe('severe');
  });

  test('what cannot be is named, with the stage: coils that overlap, a sensor beyond the barrel, one that nothing fires', () => {
    const said = (stage: Typed, more = {}) => problemsOf(three(more, [stage]));
    expect(said(at('28 mm', '10 mm'))).toMatch(
      /Stage 2: Coil 1 and coil 2 overlap by 2\.00 mm: space their centres at least 30\.0 mm apart/,
    );
    expect(said(at('60 mm', '160 mm'), { 'load.lb': '150 mm' })).toMatch(
      /sensor of coil 2 is at 160 mm, past the muzzle at 150 mm/,
    );
    expect(said(at('60 mm', '40 mm'), { 'load.lb': '50 mm' })).toMatch(/Coil 2 ends at 75\.0 mm, past the muzzle at 50\.0 mm/);
    expect(said(at('60 mm', '-30 mm'))).toMatch(/sensor of coil 2 is at −30\.0 mm, at or before the start of the launch/);
    expect(said({ 'load.fired': 'hand' })).toMatch(/Stage 2: Choose what fires stage 2/);
    expect(said({ 'load.fired': 'sensor' })).toMatch(/Stage 2: Enter the position of the sensor/);
    expect(problemsOf(three({ 'load.fired': 'best' }))).toMatch(/first stage is fired by hand/);
    expect(said({ 'load.Df': '9 mm' })).toMatch(/Stage 2: .*slug is wider than the bore/);
    expect(said(at('60 mm', '40 mm'))).not.toMatch(/coil 2/);
  });

  test('a barrel that points up costs the energy of the way up, and what does not lift its own weight stays on its stop', () => {
    const [level, up] = [shot(), shot({ 'load.points': 'up' })];
    expect(up.exit).toBeLessThan(level.exit);
    expect(up.run.closure).toBeLessThan(1e-4);
    expect(offBy(up.rises ?? NaN, up.exit ** 2 / (2 * 9.80665))).toBeLessThan(1e-9);
    const heavy = shot({ 'load.points': 'up', 'load.ms': '900 kg' });
    expect(heavy.run.x.every((x) => x === -0.022)).toBe(true);
  });

  test('a sleeve starts behind the middle and leaves by the muzzle; before the middle it is said to leave by the breech', () => {
    const sleeve = {
      'load.what': 'sleeve',
      'load.ws': '1 mm',
      'load.ls': '15 mm',
      'store.C': '20 µF',
      'load.F': '0',
    };
    expect(shot({ ...sleeve, 'load.xs': '-18 mm' }, []).exit).toBeGreaterThan(0.1);
    expect(shot({ ...sleeve, 'load.xs': '18 mm' }, []).said.join()).toMatch(/Leaves by the breech/);
    // A pulse that outlasts its current pulls it back.
    expect(shot({ ...sleeve, 'load.xs': '-18 mm', 'store.C': '2 mF' }, []).said.join()).toMatch(
      /current in the sleeve dies within/,
    );
    expect(() => shot({ ...sleeve, 'load.ws': '6 mm' }, [])).toThrow(/wall of the sleeve fills it: 6.00 mm of at most 5.50 mm/);
  });

  test('a freewheel diode keeps the store from reversal, on the page of the rig and in the solver, and heats as much', () => {
    const rig = one({ 'load.diode': 'diode', 'load.Vd': '0.5 V', 'load.Rd': '1 mΩ', 'switch.R': '1 mΩ' });
    const open = one({ 'switch.R': '1 mΩ' });
    expect(figureOf(open, 'voltage-reversal')).toBeGreaterThan(0.1);
    expect(figureOf(rig, 'voltage-reversal')).toBeLessThan(0.01);
    const { compared } = solved(rig, 'discharge');
    // Of next to nothing: the closed form leaves out what the threshold of the diode holds back.
    expect(compared.find((c) => c.id === 'voltage-reversal')?.off ?? NaN).toBeLessThan(0.2);
    for (const id of ['peak-current', 'time-to-peak', 'action-integral'])
      expect(compared.find((c) => c.id === id)?.off ?? NaN, id).toBeLessThan(0.03);
    const traces = dischargeTraces(rig).traces;
    expect(Math.min(...(traces.find(({ id }) => id === 'store-voltage')?.y ?? [NaN]))).toBeGreaterThan(-2);
  });

  describe('the finder', () => {
    const open: LaunchLimits = {
      peakCurrent: null,
      warmer: null,
      layerVoltage: null,
      wire: null,
      outer: null,
      gap: 5e-3,
      energy: null,
    };
    const search = async (rig: Rig, limits: Partial<LaunchLimits>, seed = 1, evaluations = 300, freedom = asTheRig) => {
      const finder = launchFinder({ rig, goal: { of: 'speed' }, limits: { ...open, ...limits }, freedom });
      if (!finder) throw new Error('no finder');
      const found = await findLaunch(finder, { seed, evaluations }, (points) => Promise.resolve(points.map(finder.evaluate)));
      return { finder, found };
    };

    test('gives the same again by the same seed, more than what is there, and what the launch makes of it', async () => {
      const rig = three({}, [{ 'load.fired': 'best', 'load.at': '60 mm' }]);
      const [{ finder, found }, again] = [await search(rig, {}), await search(rig, {})];
      expect(again.found).toEqual(found);
      expect(found.score).toBeGreaterThan(finder.evaluate(finder.from).score);
      expect(found.evaluations).toBeLessThanOrEqual(300);
      const made = withDesign(rig, finder.design(found.point));
      expect(offBy(launchStudy(made, printQuantity)?.exit ?? NaN, found.score)).toBeLessThan(1e-3);
    });

    test('keeps within its limits', async () => {
      const rig = one();
      const limits = { peakCurrent: 600, wire: 12, outer: 32e-3 };
      const { finder, found } = await search(rig, limits);
      const did = finder.evaluate(found.point);
      expect(did.beyond).toBe(0);
      expect(did.peakCurrent).toBeLessThanOrEqual(600);
      expect(did.wire).toBeLessThanOrEqual(12);
      // Looser limits are no worse.
      const { found: loose } = await search(rig, {});
      expect(loose.score).toBeGreaterThan(found.score);
    });

    test('of one coil comes within a per cent of a search through every winding and start, by brute force', async () => {
      const rig = one({ 'load.d': '2 mm' });
      const { finder, found } = await search(rig, {}, 7, 500);
      let most = 0;
      for (let layers = 1; layers <= 12; layers++)
        for (let turns = 3; turns <= 40; turns += 3)
          for (const start of [0.006, 0.012, 0.018, 0.024, 0.03, 0.036, 0.042])
            most = Math.max(most, finder.evaluate([layers, turns, start]).score);
      expect(found.score).toBeGreaterThan(0.99 * most);
    });

    test('varies wire, capacitance and voltage within their ranges and an energy, and what it says is what the rig then does', async () => {
      // Sizes of the American wire gauge by its definition: 16 AWG is 1.291 mm, 22 AWG 0.644 mm.
      expect(gaugesBetween([0.64e-3, 1.3e-3])).toEqual([16, 17, 18, 19, 20, 21, 22]);
      const rig = one();
      const freedom = { wire: [0.64e-3, 1.3e-3], capacitance: [200e-6, 10e-3], voltage: [35, 400] } as const;
      const { finder, found } = await search(rig, { energy: 60 }, 5, 1500, freedom);
      const { finder: plain, found: fixed } = await search(rig, { energy: 60 }, 5, 600);
      const design = finder.design(found.point);
      expect(plain.design(fixed.point)).toMatchObject({ gauge: null, capacitance: null, voltage: null });
      expect(design.gauge).toBeGreaterThanOrEqual(16);
      expect(design.gauge).toBeLessThanOrEqual(22);
      expect(0.5 * (design.capacitance ?? NaN) * (design.voltage ?? NaN) ** 2).toBeLessThanOrEqual(60);
      expect(found.score).toBeGreaterThan(0);
      const made = withDesign(rig, design);
      expect(offBy(launchStudy(made, printQuantity)?.exit ?? NaN, found.score)).toBeLessThan(1e-3);
      expect(() =>
        launchFinder({ rig, goal: { of: 'speed' }, limits: open, freedom: { ...freedom, wire: [1e-3, 1.001e-3] } }),
      ).toThrow(/no size of the American wire gauge/);
    });

    test('the lowest peak current that reaches a speed is lower than that of the greatest speed', async () => {
      const rig = one();
      const { finder, found } = await search(rig, {});
      const gentle = launchFinder({ rig, goal: { of: 'current', speed: found.score * 0.7 }, limits: open, freedom: asTheRig });
      if (!gentle) throw new Error('no finder');
      const low = await findLaunch(gentle, { seed: 3, evaluations: 400 }, (points) =>
        Promise.resolve(points.map(gentle.evaluate)),
      );
      const did = gentle.evaluate(low.point);
      expect(did.exit).toBeGreaterThanOrEqual(found.score * 0.7);
      expect(did.peakCurrent).toBeLessThan(finder.evaluate(found.point).peakCurrent);
    });
  });
});
