import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { blockDefinition, newBlock } from '../../kind/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { figureOf, marxRig } from '../../test/marx.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { erectionStudy } from '../marx/window.ts';
import { lowestAt, mattersOf, printSpan, samplerOf, scatterChunk, shotsNote, spreadOf, swingsOf, type Scatter } from './index.ts';

const n = 4000;
const alone = { seed: 1, distribution: 'uniform', withModel: false, withShots: true } as const;
const columns = (rig: Rig, outputs: readonly string[], more: Partial<Scatter> = {}) =>
  scatterChunk(rig, { ...alone, ...more, outputs }, 0, n);
const column = (rig: Rig, id: string, more: Partial<Scatter> = {}): Float64Array =>
  columns(rig, [id], more)[0] ?? new Float64Array();
const shareAbove = (values: Float64Array, bound: number): number =>
  values.filter((value) => value > bound).length / values.length;
/** Four standard errors of a share: one seed in 16,000 lies beyond. */
const within = (share: number): number => 4 * Math.sqrt((share * (1 - share)) / n);

// Area of the normal curve below −1, −1.5, −2, −2.5: tables of the normal distribution (from memory).
const areas: readonly (readonly [z: number, below: number])[] = [
  [-1, 0.158655],
  [-1.5, 0.066807],
  [-2, 0.02275],
  [-2.5, 0.00621],
];

const scatterOfGap = 0.02;
/** A gap under a trigger, whose store is charged to so many standard deviations below self-break; nothing of it has a tolerance. */
function triggered(z: number): Rig {
  const gap = withBlock(newRig(), 'switch', newBlock(blockDefinition('switch', 'spark-gap')));
  const settings = {
    'switch.b': '1',
    'switch.sc': '2 %',
    'switch.d': '6 mm',
    'switch.R': '20 mΩ',
    'switch.L': '50 nH',
    'store.C': '100 µF',
    'store.V0': '1 kV',
    'supply.V': '40 kV',
  };
  const open = rigWith(settings, gap);
  const Vb = figureOf(open, 'self-break');
  return rigWith({ 'store.V0': `${(Vb * (1 + z * scatterOfGap)).toPrecision(12)} V` }, open);
}

describe('samples that are shots', () => {
  test.each(areas)('a gap at %s deviations pre-fires in the share of shots that the normal curve has below', (z, below) => {
    const use = column(triggered(z), 'limit:gap-prefire');
    expect(Math.abs(shareAbove(use, 1) - below)).toBeLessThan(within(below));
  });

  test('the room that a limit leaves for scatter is not counted once more: without shots the same gap is at its limit', () => {
    const rig = triggered(-3);
    const nominal = column(rig, 'limit:gap-prefire', { withShots: false });
    expect(nominal.every((use) => Math.abs(use - 1) < 1e-9)).toBe(true);
    // In shots the use is V₀/V_b of each: its mean that of self-break itself, and not that of three deviations less.
    expect(spreadOf(column(rig, 'limit:gap-prefire'))?.mean).toBeCloseTo(1 - 3 * scatterOfGap, 2);
  });

  test.each([
    [4, {}, 3],
    [10, {}, 9],
    [5, { 'store.towers': 'two' }, 8],
  ] as const)('of the later gaps of a Marx of %i stages the weakest counts: 1 − (1 − Φ)^m', (stages, more, m) => {
    const open = marxRig({ 'store.n': String(stages), 'store.sc': '3 %', 'store.Vg': '20 kV', 'supply.V': '30 kV', ...more });
    const z = -2.5;
    const rig = rigWith({ 'store.V0': `${20 * (1 + z * 0.03)} kV`, 'switch.d': '40 mm', 'switch.sc': '0 %' }, open);
    const expected = 1 - (1 - 0.00621) ** m;
    const use = column(rig, 'limit:gap-window');
    expect(Math.abs(shareAbove(use, 1) - expected)).toBeLessThan(within(expected));
  });

  test('a gap that self-breaks gives each shot its own voltage: energy, peak and voltage go together, and scatter as its square', () => {
    const rig = rigWith({ 'switch.mode': 'self-break' }, triggered(10));
    const ids = ['self-break', 'stored-energy', 'peak-current'] as const;
    const sampler = samplerOf(rig, { ...alone, outputs: ids });
    const asTyped = sampler.inputs.map(({ value }) => value);
    const drawn = Array.from({ length: n }, (_, i) => sampler.read(asTyped, i));
    const [v = NaN, energyAt = NaN, peakAt = NaN] = ids.map((id) => figureOf(rig, id));
    for (const [V = NaN, E = NaN, peak] of drawn) {
      expect(E).toBeCloseTo(energyAt * (V / v) ** 2, 6);
      expect(peak).toBeCloseTo(peakAt * (V / v), 6);
    }
    const of = (k: number) => spreadOf(Float64Array.from(drawn, (read) => read[k] ?? NaN));
    const [voltage, energy] = [of(0), of(1)];
    // A standard deviation of n normal numbers is known to 1/√(2n); E[V²] = μ²·(1 + σ²).
    expect((voltage?.deviation ?? NaN) / v / scatterOfGap).toBeCloseTo(1, 1);
    expect((energy?.mean ?? NaN) / energyAt).toBeCloseTo(1 + scatterOfGap ** 2, 2);
    expect((energy?.deviation ?? NaN) / energyAt / (2 * scatterOfGap)).toBeCloseTo(1, 1);
  });

  test('a trigger comes as late as its jitter says, and what has no one shot stands at its mean', () => {
    const rig = demoRig('kittiwake');
    const [delay, jitter] = [figureOf(rig, 'trigger-delay'), figureOf(rig, 'trigger-jitter')];
    const fixed = samplerOf(rig, { ...alone, outputs: ['trigger-delay', 'trigger-jitter'] });
    const at = fixed.inputs.map(({ value }) => value);
    const drawn = Array.from({ length: n }, (_, i) => fixed.read(at, i));
    const spread = spreadOf(Float64Array.from(drawn, ([t]) => t ?? NaN));
    expect((spread?.deviation ?? NaN) / jitter).toBeCloseTo(1, 1);
    expect((spread?.mean ?? NaN) / delay).toBeCloseTo(1, 2);
    expect(drawn.every(([, s]) => Math.abs((s ?? NaN) / jitter - 1) < 1e-12)).toBe(true);
    const tank = samplerOf(demoRig('cricket'), { ...alone, outputs: ['break-energy', 'tank-power', 'limit:tightest'] });
    expect(tank.scattered).toEqual([]);
  });

  test('are named with their deviation, and only where what is asked depends on them', () => {
    const rig = demoRig('kittiwake');
    const of = (outputs: readonly string[], withShots = true) => samplerOf(rig, { ...alone, outputs, withShots }).scattered;
    expect(of(['trigger-delay']).map(({ title }) => title)).toEqual(['Trigger generator: delay']);
    expect(of(['limit:tightest']).map(({ title }) => title)).toContain('Marx generator: breakdown of the weakest later gap');
    expect(of(['trigger-voltage'])).toEqual([]);
    expect(of(['limit:tightest'], false)).toEqual([]);
  });

  test('a shot at the mean of everything is the rig as its page says it, but for the room left for scatter', () => {
    for (const name of ['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'] as const) {
      const rig = demoRig(name);
      const reading = new RigReading(rig, undefined, null, () => 0);
      for (const figure of evaluateRig(rig).figures)
        if (figure.ok && figure.id !== 'gap-prefire')
          expect(Math.abs(reading.figure(figure.id).value - figure.worked.value)).toBeLessThanOrEqual(
            1e-12 * Math.abs(figure.worked.value),
          );
    }
  });

  test('pre-fires come as often as in the window of an erection', () => {
    const rig = marxRig({ 'store.n': '6', 'store.sc': '4 %', 'store.V0': '15 kV', 'store.Vg': '16 kV', 'supply.V': '30 kV' });
    const shots = 300;
    const study = erectionStudy(rig, { shots, ratios: 46 });
    // Of its ratios the one that lies next to where the rig stands.
    const near = study?.rates.reduce((a, b) => (Math.abs(b.ratio - 15 / 16) < Math.abs(a.ratio - 15 / 16) ? b : a));
    const at = rigWith({ 'store.V0': `${16 * (near?.ratio ?? NaN)} kV`, 'switch.d': '40 mm' }, rig);
    const mine = shareAbove(column(at, 'limit:gap-window'), 1);
    const theirs = near?.prefire ?? NaN;
    expect(theirs).toBeGreaterThan(0.05);
    expect(Math.abs(mine - theirs)).toBeLessThan(4 * Math.sqrt((theirs * (1 - theirs)) / shots + (mine * (1 - mine)) / n));
  });

  test('a shot is the same by its number, whatever else is asked beside it', () => {
    const rig = triggered(-2);
    const one = column(rig, 'gap-prefire');
    const [, beside] = columns(rig, ['limit:gap-prefire', 'gap-prefire']);
    expect(beside).toEqual(one);
    expect(figureIn(evaluateRig(rig), 'gap-prefire')?.worked.value).toBeLessThan(spreadOf(one)?.mean ?? 0);
  });
});

describe('what matters where shots scatter', () => {
  test('the lowest of m lies at a place of its own distribution where 1 − (1 − Φ)^m says', () => {
    // Area below so many deviations: tables of the normal distribution (from memory).
    for (const [z, below] of areas)
      for (const m of [1, 5, 40]) expect(lowestAt(1 - (1 - below) ** m, m), `${z} of ${m}`).toBeCloseTo(z, 4);
    expect(lowestAt(0.5, 1)).toBeCloseTo(0, 6);
    expect(lowestAt(0.975, 1)).toBeCloseTo(1.959964, 5);
    // At the very ends it stays where a million shots would find it.
    expect([lowestAt(0, 1), lowestAt(1, 1)].every((z) => Math.abs(z) <= 5 && Number.isFinite(z))).toBe(true);
  });

  test('a gap and a voltage share the variance by their own: σ² of a normal, t²/3 of what is even within t', () => {
    const rig = triggered(-3);
    const V0 = new RigReading(rig).offer('chargedTo').value;
    const t = 0.04;
    const known = rigWith({ 'store.V0': `${V0} V ±4 %` }, rig);
    const { causes, swings, shares, nominal } = mattersOf(known, 'limit:gap-prefire', { rows: 2048 });
    const place = (of: 'field' | 'shots') => causes.findIndex((cause) => cause.of === of);
    const whole = t ** 2 / 3 + scatterOfGap ** 2;
    for (const [of, variance] of [
      ['field', t ** 2 / 3],
      ['shots', scatterOfGap ** 2],
    ] as const) {
      const share = shares[place(of)];
      expect(Math.abs((share?.first ?? NaN) - variance / whole)).toBeLessThan(4 * (share?.firstError ?? NaN) + 0.01);
      expect(Math.abs((share?.total ?? NaN) - variance / whole)).toBeLessThan(4 * (share?.totalError ?? NaN) + 0.01);
    }
    // Two deviations either way of a gap at its mean: V0/(Vb·(1 ± 2σ)).
    expect(nominal).toBeCloseTo(1 - 3 * scatterOfGap, 9);
    const gap = swings.find(({ cause }) => cause.of === 'shots');
    expect(gap?.atLow).toBeCloseTo(nominal / (1 - 2 * scatterOfGap), 5);
    expect(gap?.atHigh).toBeCloseTo(nominal / (1 + 2 * scatterOfGap), 5);
    const voltage = swings.find(({ cause }) => cause.of === 'field');
    expect(voltage?.atHigh).toBeCloseTo(nominal * 1.04, 9);
    expect(swings.map(({ index }) => shares[index]?.index)).toEqual(swings.map(({ index }) => index));
  });

  test('says over what each was moved, and that a shot leaves no room for its own scatter; else nothing of it', () => {
    const rig = triggered(-3);
    const alone = swingsOf(rig, 'limit:gap-prefire');
    expect(alone.swings.map(({ cause }) => printSpan(rig, cause))).toEqual(['shot to shot, σ 2.0 %, 2σ each way']);
    expect(shotsNote(alone)).toMatch(/^Each point is a shot/);
    const column = demoRig('kittiwake');
    const later = swingsOf(column, 'limit:gap-window').swings.find(({ cause }) => cause.of === 'shots');
    expect(later && printSpan(column, later.cause)).toMatch(/lowest of \d+, 2σ each way$/);
    const peak = swingsOf(demoRig('anvil'), 'peak-current');
    expect(peak.causes.every(({ of }) => of === 'field')).toBe(true);
    expect(shotsNote(peak)).toBeNull();
    const [widest] = peak.swings;
    expect(widest && printSpan(demoRig('anvil'), widest.cause)).toMatch(/ to /);
  });
});
