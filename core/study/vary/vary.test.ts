import fc from 'fast-check';
import { mean, standardDeviation } from 'simple-statistics';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { uniformAt, uniforms } from '../../numeric/index.ts';
import { newDocument, quantityAt, rigDocumentSchema, type Rig } from '../../rig/index.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { erectionStudy } from '../marx/window.ts';
import { tankStudy } from '../tesla-coil/index.ts';
import {
  matterRowsChunk,
  mattersFrom,
  askedAxis,
  greatest,
  mattersOf,
  outputsOf,
  pointsOf,
  pointsThatMeet,
  readAxis,
  rigOfSample,
  rigAt,
  samplerOf,
  scatterChunk,
  spreadOf,
  sweepChunk,
  sweepRefusal,
  swingsOf,
  tightestLimit,
  usualAxis,
  valuesAt,
  varianceShares,
  yieldOf,
  type Axis,
} from './index.ts';

const demos = ['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'] as const;

function axisOf(rig: Rig, text: string): Axis {
  const read = readAxis(rig, askedAxis(text));
  if (!read.ok) throw new Error(`${read.at} ${read.reason}`);
  return read.axis;
}

describe('values of an axis', () => {
  const rig = demoRig('anvil');
  const of = (text: string) => axisOf(rig, text).values;

  test('rise evenly or by ratio, take preferred numbers and gauges of the standards, or a list', () => {
    expect(of('store.V0=1 kV..2 kV/5')).toEqual([1000, 1250, 1500, 1750, 2000]);
    const log = of('store.V0=10 V..1 kV/5 log');
    expect(log.map((v) => Math.round(v))).toEqual([10, 32, 100, 316, 1000]);
    // IEC 60063, E12.
    expect(of('tool.R=1k..10k/E12').map((r) => r / 1000)).toEqual([1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2, 10]);
    expect(of('store.V0=1 kV; 1.5 kV; 1200')).toEqual([1000, 1200, 1500]);
    // ASTM B258: 18 AWG is 1.024 mm, 24 AWG 0.511 mm.
    const gauges = axisOf(demoRig('shuttle'), 'load.d=24 AWG..18 AWG/AWG').values;
    expect(gauges.map((d) => Number((d * 1000).toFixed(3)))).toEqual([0.511, 0.573, 0.644, 0.723, 0.812, 0.912, 1.024]);
  });

  test('that no rig could have are refused by the entry that is wrong, with what would do', () => {
    const refused = (text: string) => {
      const read = readAxis(rig, askedAxis(text));
      return read.ok ? 'taken' : `${read.at}: ${read.reason}`;
    };
    expect(refused('store.Vo=1..2/5')).toMatch(/^path: store\.Vo is no quantity/);
    expect(refused('store.V0=-1 kV..2 kV/5')).toMatch(/^from: .*must be above 0 V/);
    expect(refused('store.V0=1 kV..2 GV/5')).toMatch(/^to: .*must be above 0 V/);
    expect(refused('store.V0=1 kV..2 mm/5')).toMatch(/^to: /);
    expect(refused('store.V0=1 kV..2 kV/1')).toMatch(/^steps: must be a whole number from 2 to 2000/);
    expect(refused('store.V0=1 kV..2 kV/1e12')).toMatch(/^steps: /);
    expect(refused('store.V0=1 kV..1 kV/5')).toMatch(/^to: must differ/);
    expect(refused('load.Rl=0 ohm..1 ohm/5 log')).toMatch(/^from: must be above 0/);
    expect(refused('tool.R=1.01k..1.1k/E6')).toMatch(/^to: no E6 value lies between/);
    expect(refused('store.V0=1 kV..2 kV/AWG')).toMatch(/^scale: wire gauges are lengths/);
    expect(refused('store.V0=1 kV')).toMatch(/^values: needs at least two/);
    expect(refused('store.V0=1 kV, much')).toMatch(/^values: "much"/);
  });

  test('counts are whole, and what nobody said is half to twice what stands there', () => {
    expect(axisOf(demoRig('anvil'), 'store.np=1..4/9').values).toEqual([1, 2, 3, 4]);
    for (const name of demos) {
      const demo = demoRig(name);
      const usual = usualAxis(demo, 'store.V0');
      const read = usual && readAxis(demo, usual);
      const now = quantityAt(demo, 'store.V0')?.value?.value ?? 0;
      expect(read?.ok && [read.axis.values[0], read.axis.values.at(-1)]).toEqual([now / 2, now * 2]);
    }
  });
});

describe('a sweep', () => {
  test.each(demos)('of %s says at each point what the page of that rig says: figure, band, tightest limit', (name) => {
    const rig = demoRig(name);
    const axes = [
      axisOf(
        rig,
        `store.V0=${(quantityAt(rig, 'store.V0')?.value?.value ?? 0) / 2} V..${quantityAt(rig, 'store.V0')?.value?.value} V/3`,
      ),
    ];
    const sweep = { axes, outputs: ['peak-current', 'stored-energy', tightestLimit] };
    expect(sweepRefusal(rig, sweep)).toBeNull();
    for (const { at, outputs, tightest, over } of sweepChunk(rig, sweep, 0, 3)) {
      const page = evaluateRig(rigAt(rig, axes, at));
      for (const [k, id] of (['peak-current', 'stored-energy'] as const).entries()) {
        const figure = figureIn(page, id);
        expect(outputs[k]).toEqual({ value: figure?.worked.value, low: figure?.band.low, high: figure?.band.high });
      }
      const [first] = page.ladder.limits;
      expect(tightest).toEqual({ id: `limit:${first?.id ?? ''}`, use: first?.worst });
      expect(outputs[2]?.value).toBe(first?.worst);
      expect(over.length).toBe(page.ladder.limits.filter(({ worst }) => (worst ?? 0) > 1).length);
    }
  });

  test('is the same whoever has which stretch of it, and goes through every point once', () => {
    const rig = demoRig('thimble');
    const axes = [axisOf(rig, 'store.V0=20 V..40 V/3'), axisOf(rig, 'load.R=50m..70m/4')];
    const sweep = { axes, outputs: ['peak-current'] };
    const whole = sweepChunk(rig, sweep, 0, pointsOf(sweep));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 12 }), (cut) => {
        expect([...sweepChunk(rig, sweep, 0, cut), ...sweepChunk(rig, sweep, cut, 12)]).toEqual(whole);
      }),
      { seed: 26, numRuns: 8 },
    );
    expect(new Set(whole.map(({ at }) => at.join())).size).toBe(12);
    expect(valuesAt(axes, 1)).toEqual([20, axes[1]?.values[1]]);
  });

  test('that is too large, of nothing, or of a rig that cannot be evaluated is refused with what would do', () => {
    const rig = demoRig('thimble');
    const axis = (path: string, n: number) => axisOf(rig, `${path}/${n}`);
    const large = { axes: [axis('store.V0=20 V..40 V', 1000), axis('load.R=50m..70m', 1000)], outputs: ['peak-current'] };
    expect(sweepRefusal(rig, large)).toBe('1,000,000 points are asked for; at most 20,000, such as 141 of each field.');
    expect(sweepRefusal(rig, { axes: [], outputs: ['peak-current'] })).toContain('Choose a field');
    expect(sweepRefusal(rig, { ...large, axes: [large.axes[0] as Axis, large.axes[0] as Axis] })).toContain('varied once');
    expect(sweepRefusal(rig, { axes: [large.axes[0] as Axis], outputs: [] })).toContain('Choose what to draw');
    expect(() => sweepChunk(rig, { axes: [axis('store.V0=20 V..40 V', 2)], outputs: ['peak-curent'] }, 0, 1)).toThrow('declares');
  });

  test('asks the solver too, which agrees with the closed form where nothing is left out', () => {
    const rig = demoRig('thimble');
    const axes = [axisOf(rig, 'store.V0=20 V..40 V/2')];
    const points = sweepChunk(rig, { axes, outputs: ['peak-current', 'solver:current'] }, 0, 2);
    for (const { outputs } of points) expect((outputs[1]?.value ?? 0) / (outputs[0]?.value ?? 1)).toBeCloseTo(1, 2);
  });
});

describe('what takes many shots at a point', () => {
  const at = (rig: Rig, text: string, outputs: readonly string[]) =>
    sweepChunk(rig, { axes: [axisOf(rig, text)], outputs }, 0, 1).map(({ outputs: read }) => read.map(({ value }) => value))[0];

  test('is what the page of it shows of that rig: the window of a Marx, the pace of a tank', () => {
    const marx = rigWith({ 'store.n': '2' }, demoRig('kittiwake'));
    const study = erectionStudy(rigWith({ 'store.sc': '4 %' }, marx));
    expect(at(marx, 'store.sc=4 %..5 %/2', ['solver:erects', 'solver:prefires'])).toEqual([study?.erectsFrom, study?.holdsTo]);
    expect(study?.erectsFrom).toBeGreaterThan(0);
    const tank = demoRig('cricket');
    const gap = at(tank, 'switch.sc=3 %..4 %/2', ['solver:rate', 'solver:pace']);
    const { pace } = tankStudy(rigWith({ 'switch.sc': '3 %' }, tank), 1);
    expect(gap).toEqual([pace?.rate, pace?.spread]);
  });

  test('is asked of rigs that have it alone, and has no value where the point has none', () => {
    const ids = (rig: Rig) => outputsOf(rig).flatMap(({ id, from }) => (from === 'solver' ? [id] : []));
    expect(ids(demoRig('anvil'))).not.toEqual(expect.arrayContaining(['solver:erects']));
    expect(ids(demoRig('kittiwake'))).toEqual(expect.arrayContaining(['solver:erects', 'solver:prefires']));
    expect(ids(demoRig('shuttle'))).toEqual(['solver:current', 'solver:time', 'solver:does']);
    expect(at(demoRig('thimble'), 'store.V0=20 V..40 V/2', ['solver:erects'])).toEqual([NaN]);
  });
});

describe('points that meet a goal', () => {
  const rig = demoRig('anvil');
  const axes = [axisOf(rig, 'store.V0=1 kV..3 kV/9'), axisOf(rig, 'store.np=1..3/3')];
  const outputs = ['peak-current', 'stored-energy'];
  const points = sweepChunk(rig, { axes, outputs }, 0, 27);

  test('are those whose page says so, the one with most to spare first; each other one is counted once by what it fell', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40_000 }), fc.integer({ min: 0, max: 40_000 }), fc.boolean(), (a, b, atWorst) => {
        const goal = { from: Math.min(a, b), to: Math.max(a, b) };
        const { met, lost, total } = pointsThatMeet(points, outputs, [goal, null], atWorst);
        expect(met.length + lost.reduce((sum, { count }) => sum + count, 0)).toBe(total);
        const uses = met.map(({ tightest }) => tightest?.use ?? 0);
        expect(uses).toEqual([...uses].sort((x, y) => x - y));
        for (const { at, outputs: read } of met) {
          const page = evaluateRig(rigAt(rig, axes, at));
          const peak = figureIn(page, 'peak-current');
          expect(peak?.worked.value).toBe(read[0]?.value);
          const [low = NaN, high = NaN] = atWorst ? [peak?.band.low, peak?.band.high] : [read[0]?.value, read[0]?.value];
          expect(low >= goal.from && high <= goal.to).toBe(true);
          expect(page.ladder.limits.every(({ worst }) => (worst ?? 0) <= 1)).toBe(true);
        }
      }),
      { seed: 27, numRuns: 12 },
    );
  });

  test('name what holds the others back, and ends that are left out hold nothing', () => {
    const all = pointsThatMeet(points, outputs, [null, null], false);
    expect(all.met.length).toBeGreaterThan(0);
    expect(all.lost.every(({ by }) => by.startsWith('limit:'))).toBe(true);
    const none = pointsThatMeet(
      points,
      outputs,
      [
        { from: 1e6, to: null },
        { from: null, to: 1 },
      ],
      false,
    );
    expect([none.met, none.lost]).toEqual([[], [{ by: 'peak-current', count: 27 }]]);
    const nothing = { value: NaN, low: NaN, high: NaN };
    const blind = [{ at: [1], outputs: [nothing], tightest: null, over: [] }];
    expect(pointsThatMeet(blind, ['peak-current'], [{ from: 0, to: null }], false).met).toEqual([]);
    expect(pointsThatMeet(blind, ['peak-current'], [null], true).met).toEqual(blind);
  });
});

describe('samples', () => {
  test('numbers by their place are even, and one place tells nothing of its neighbours', () => {
    const n = 40_000;
    const column = (dimension: number, from = 0) => Array.from({ length: n }, (_, i) => uniformAt(7, i + from, dimension));
    const [a, b, next] = [column(0), column(1), column(0, 1)];
    const bins = new Array<number>(50).fill(0);
    for (const u of a) bins[Math.floor(u * 50)] = (bins[Math.floor(u * 50)] ?? 0) + 1;
    const chi = bins.reduce((sum, count) => sum + (count - n / 50) ** 2 / (n / 50), 0);
    // Chi squared of 49 degrees of freedom: 0.1 % and 99.9 % points, 23.98 and 85.35 (tables, from memory).
    expect(chi).toBeGreaterThan(23.98);
    expect(chi).toBeLessThan(85.35);
    const correlation = (x: number[], y: number[]) => mean(x.map((v, i) => (v - 0.5) * ((y[i] ?? 0) - 0.5))) * 12;
    for (const other of [b, next, Array.from({ length: n }, (_, i) => uniformAt(8, i, 0))])
      expect(Math.abs(correlation(a, other))).toBeLessThan(4 / Math.sqrt(n));
  });

  test.each(demos)('of %s are rigs: each has the figures that the rig with its values has', (name) => {
    const rig = demoRig(name);
    const outputs = ['peak-current', 'stored-energy'];
    const sampler = samplerOf(rig, { outputs, seed: 5, distribution: 'uniform', withModel: false, withShots: false });
    for (const sample of [0, 17]) {
      const values = sampler.drawn(sample);
      const axes = sampler.inputs.map(({ path, title }) => ({
        path,
        title,
        unit: '1' as const,
        typed: '',
        isLog: false,
        isWhole: false,
        values: [],
      }));
      const page = evaluateRig(rigAt(rig, axes, values));
      const read = sampler.read(values, sample);
      // Opened as a rig of its own it can be kept, and says the same to the digits that are typed.
      const drawn = sampler.inputs.map(({ path }, k) => [path, values[k] ?? NaN] as const);
      const own = rigOfSample(rig, drawn);
      expect(rigDocumentSchema.safeParse({ ...newDocument('Sample'), rig: own }).success).toBe(true);
      const peak = figureIn(evaluateRig(own), 'peak-current')?.worked.value ?? NaN;
      expect(peak / (read[0] ?? NaN)).toBeCloseTo(1, 4);
      outputs.forEach((id, k) => expect(read[k]).toBeCloseTo(figureIn(page, id as 'peak-current')?.worked.value ?? NaN, 9));
    }
  });

  test('judge the limits of every channel, by the names that the ladder of the rig has', () => {
    const rig = rigWith({ 'store@3.Vr': '300 V' }, demoRig('shuttle'));
    const [first] = evaluateRig(rig).ladder.limits;
    expect(first?.id).toMatch(/-of-3$/);
    const outputs = [tightestLimit, `limit:${first?.id ?? ''}`];
    const sampler = samplerOf(rig, { outputs, seed: 1, distribution: 'uniform', withModel: false, withShots: false });
    const at = sampler.inputs.map(({ value }) => value);
    const [tightest, own] = sampler.read(at, 0);
    expect(own).toBeCloseTo(first?.utilisation ?? NaN, 9);
    expect(tightest).toBe(own);
    // Its own voltage scatters it, and no other stage's.
    const k = sampler.inputs.findIndex(({ path }) => path === 'store@3.V0');
    const input = sampler.inputs[k];
    expect(sampler.read(at.with(k, input?.high ?? NaN), 0)[1]).toBeCloseTo(
      ((own ?? NaN) * (input?.high ?? NaN)) / (input?.value ?? NaN),
      9,
    );
  });

  test('are the same bytes however they are cut, and others by another seed', () => {
    const rig = demoRig('kittiwake');
    const scatter = {
      outputs: ['peak-current', tightestLimit],
      seed: 3,
      distribution: 'normal',
      withModel: true,
      withShots: false,
    } as const;
    const whole = scatterChunk(rig, scatter, 0, 30);
    const cut = [scatterChunk(rig, scatter, 0, 11), scatterChunk(rig, scatter, 11, 30)];
    whole.forEach((column, k) => expect([...(cut[0]?.[k] ?? []), ...(cut[1]?.[k] ?? [])]).toEqual([...column]));
    expect(scatterChunk(rig, { ...scatter, seed: 4 }, 0, 30)[0]).not.toEqual(whole[0]);
    expect(() => scatterChunk(rig, { ...scatter, outputs: ['solver:current'] }, 0, 1)).toThrow(RangeError);
  });

  // The peak of an underdamped series RLC in closed form, drawn here by another generator; two means and deviations of so many samples each.
  test('scatter as the closed form of a series circuit does, drawn by other means', () => {
    const rig = rigWith({
      'store.C': '100 µF ±10 %',
      'store.V0': '1 kV ±2 %',
      'store.ESR': '20 mΩ',
      'load.R': '50 mΩ ±10 %',
      'load.L': '5 µH ±10 %',
    });
    const inputs = samplerOf(rig, {
      outputs: ['peak-current'],
      seed: 1,
      distribution: 'uniform',
      withModel: false,
      withShots: false,
    }).inputs;
    const n = 4000;
    const [samples = new Float64Array()] = scatterChunk(
      rig,
      { outputs: ['peak-current'], seed: 1, distribution: 'uniform', withModel: false, withShots: false },
      0,
      n,
    );
    const nominal = evaluateRig(rig);
    const [R0, L0] = [
      figureIn(nominal, 'loop-resistance')?.worked.value ?? NaN,
      figureIn(nominal, 'loop-inductance')?.worked.value ?? NaN,
    ];
    const next = uniforms(99);
    const spread = (path: string) => {
      const input = inputs.find((one) => one.path === path);
      const u = 2 * next() - 1;
      return input ? (u >= 0 ? u * (input.high - input.value) : u * (input.value - input.low)) : 0;
    };
    const at = (path: string) => quantityAt<string>(rig, path)?.value?.value ?? NaN;
    const own = Array.from({ length: n }, () => {
      const [V, C] = [at('store.V0') + spread('store.V0'), at('store.C') + spread('store.C')];
      const [R, L] = [R0 + spread('load.R'), L0 + spread('load.L')];
      const alpha = R / (2 * L);
      const omega = Math.sqrt(1 / (L * C) - alpha ** 2);
      const t = Math.atan2(omega, alpha) / omega;
      return (V / (omega * L)) * Math.exp(-alpha * t) * Math.sin(omega * t);
    });
    const got = spreadOf(samples);
    const error = standardDeviation(own) / Math.sqrt(n);
    expect(inputs.map(({ path }) => path).sort()).toEqual(['load.L', 'load.R', 'store.C', 'store.V0']);
    expect(Math.abs((got?.mean ?? 0) - mean(own))).toBeLessThan(4 * Math.SQRT2 * error);
    expect(Math.abs((got?.deviation ?? 0) / standardDeviation(own) - 1)).toBeLessThan(4 / Math.sqrt(n));
  });

  test('percentiles of a known distribution lie in their intervals, 19 times out of 20', () => {
    let [held, asked] = [0, 0];
    for (let seed = 1; seed <= 60; seed++) {
      const spread = spreadOf(Float64Array.from({ length: 400 }, (_, i) => uniformAt(seed, i, 0)));
      for (const { share, low, high } of spread?.percentiles ?? []) {
        asked += 1;
        held += low <= share && share <= high ? 1 : 0;
      }
    }
    expect(held / asked).toBeGreaterThan(0.93);
    expect(held / asked).toBeLessThan(1);
  });

  // NIST Statistical Reference Datasets, univariate: NumAcc3 (values, mean and deviation from memory).
  test('mean and deviation hold for numbers that differ in their last digits', () => {
    const numbers = [1000000.2, ...Array.from({ length: 500 }, () => [1000000.1, 1000000.3]).flat()];
    const spread = spreadOf(Float64Array.from(numbers));
    expect(spread?.mean).toBeCloseTo(1000000.2, 8);
    expect(spread?.deviation).toBeCloseTo(0.1, 4);
  });

  test('all that is there is counted once, what has no number is told, and goals are counted with what they may be', () => {
    const samples = Float64Array.from([1, 2, 3, 4, NaN, 5, 6, 7, 8, Infinity]);
    const spread = spreadOf(samples);
    expect([spread?.n, spread?.missing, spread?.bars.reduce((sum, { count }) => sum + count, 0)]).toEqual([8, 2, 8]);
    const { met, low, high } = yieldOf(samples, { from: 3, to: 6 });
    expect([met, low < 0.4, high > 0.4]).toEqual([4, true, true]);
    expect(greatest(samples, 2)).toEqual([8, 7]);
    expect(spreadOf(Float64Array.from([NaN]))).toBeNull();
    expect(spreadOf(Float64Array.from([2, 2, 2]))?.bars).toEqual([{ from: 2, to: 2, count: 3 }]);
  });
});

describe('what matters', () => {
  // Ishigami and Homma 1990, a = 7, b = 0.1: the shares in closed form.
  test('shares of variance are those of the Ishigami function', () => {
    const [a, b] = [7, 0.1];
    const f = (u: readonly number[]) => {
      const [x1 = 0, x2 = 0, x3 = 0] = u.map((v) => Math.PI * (2 * v - 1));
      return Math.sin(x1) + a * Math.sin(x2) ** 2 + b * x3 ** 4 * Math.sin(x1);
    };
    const pi4 = Math.PI ** 4;
    const v1 = 0.5 * (1 + (b * pi4) / 5) ** 2;
    const v2 = a ** 2 / 8;
    const v13 = ((b ** 2 * pi4 ** 2) / 2) * (1 / 9 - 1 / 25);
    const all = v1 + v2 + v13;
    const wanted = [
      [v1 / all, (v1 + v13) / all],
      [v2 / all, v2 / all],
      [0, v13 / all],
    ];
    const { shares, variance } = varianceShares(f, 3, 8192, 26);
    expect(Math.abs(variance / all - 1)).toBeLessThan(0.05);
    shares.forEach(({ first, firstError, total, totalError }, k) => {
      expect(Math.abs(first - (wanted[k]?.[0] ?? 0))).toBeLessThan(4 * firstError + 0.005);
      expect(Math.abs(total - (wanted[k]?.[1] ?? 0))).toBeLessThan(4 * totalError + 0.005);
      expect(totalError).toBeLessThan(0.02);
    });
  });

  test('rows that several work out, in stretches and in any order, come to what one comes to', () => {
    const rig = demoRig('anvil');
    const ask = (from: number, to: number) => matterRowsChunk(rig, 'peak-current', 5, from, to);
    const whole = mattersOf(rig, 'peak-current', { seed: 5, rows: 40 });
    const later = ask(13, 40);
    const rows = [...ask(0, 5), ...ask(5, 13), ...later];
    expect(mattersFrom(swingsOf(rig, 'peak-current'), rows)).toEqual(whole);
    expect(rows).toHaveLength(40);
    expect(ask(7, 7)).toEqual([]);
    // What each field does alone is told before any row is there.
    expect(mattersFrom(swingsOf(rig, 'peak-current'), [])).toMatchObject({ swings: whole.swings, nominal: whole.nominal });
    // A row without a value is left out, as if it had not been asked for.
    const [first, ...others] = rows;
    if (!first) throw new Error('there is no row');
    const spoilt = [{ ...first, b: NaN }, ...others];
    expect(mattersFrom(swingsOf(rig, 'peak-current'), spoilt)).toEqual(mattersFrom(swingsOf(rig, 'peak-current'), others));
  });

  test('of a sum each has its square, far from nought as well, and nothing acts together', () => {
    const weights = [1, 2, 3, 0];
    const whole = weights.reduce((sum, w) => sum + w * w, 0);
    const { shares } = varianceShares((u) => 1e4 + weights.reduce((sum, w, k) => sum + w * (u[k] ?? 0), 0), 4, 4096, 3);
    shares.forEach(({ first, firstError, total, totalError }, k) => {
      const share = (weights[k] ?? 0) ** 2 / whole;
      expect(Math.abs(first - share)).toBeLessThan(4 * firstError + 1e-9);
      expect(Math.abs(total - share)).toBeLessThan(4 * totalError + 1e-9);
    });
  });

  test.each(demos)('of %s: a swing is the figure with that field at the end of its tolerance, the widest first', (name) => {
    const rig = demoRig(name);
    const { nominal, swings } = swingsOf(rig, 'peak-current');
    expect(nominal).toBeCloseTo(figureIn(evaluateRig(rig), 'peak-current')?.worked.value ?? NaN, 9);
    const [most] = swings;
    if (most?.cause.of !== 'field') throw new Error('nothing is uncertain');
    const { path, high } = most.cause.field;
    const axes = [{ path, title: '', unit: '1' as const, typed: '', isLog: false, isWhole: false, values: [] }];
    const page = evaluateRig(rigAt(rig, axes, [high]));
    expect(most.atHigh).toBeCloseTo(figureIn(page, 'peak-current')?.worked.value ?? NaN, 9);
    const widths = swings.map(({ atLow, atHigh }) => Math.abs(atHigh - atLow));
    expect(widths).toEqual([...widths].sort((a, b) => b - a));
    const { shares } = mattersOf(rig, 'peak-current', { rows: 64 });
    expect(shares.length).toBe(swings.length);
    expect(Math.max(...shares.map(({ total }) => total))).toBeGreaterThan(0.2);
  });
});

test('what can be asked of a rig has a value there, and each is named once', () => {
  for (const name of demos) {
    const outputs = outputsOf(demoRig(name));
    expect(new Set(outputs.map(({ id }) => id)).size).toBe(outputs.length);
    expect(outputs.filter(({ from }) => from === 'limit').length).toBeGreaterThan(5);
    expect(outputs.map(({ id }) => id)).toEqual(expect.arrayContaining(['peak-current', tightestLimit, 'solver:current']));
  }
});
