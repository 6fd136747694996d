import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { normals } from '../numeric/index.ts';
import { rlcDischarge } from '../simulate/index.ts';
import {
  averaged,
  envelope,
  fitCharge,
  fitDecay,
  fitLine,
  fitModel,
  fitRing,
  fitShare,
  NoFit,
  studentFactor,
  withoutClipping,
  type Estimate,
  type Measured,
} from './index.ts';

/** A record of a curve with noise, as a scope takes it. */
function recorded(curve: (t: number) => number, until: number, seed: number, noise: number, n = 1200, from = 0): Measured {
  const normal = normals(seed);
  const t = Float64Array.from({ length: n }, (_, i) => from + ((until - from) * i) / (n - 1));
  return { t, y: t.map((x) => curve(x) + noise * normal()) };
}

const seeds = Array.from({ length: 200 }, (_, i) => i + 1);
const holds = (e: Estimate, truth: number) => Math.abs(e.value - truth) <= e.margin;

/**
 * Of 200 intervals of 95 % about 190 hold the truth, three standard deviations either way between 181 and 199: fewer would be a margin
 * that promises too much, and all of them one that promises nothing.
 */
function expectCoverage(name: string, hits: readonly boolean[]): void {
  const held = hits.filter(Boolean).length;
  expect(held, `${name}: ${held} of ${hits.length} intervals hold the truth`).toBeGreaterThanOrEqual(180);
  expect(held, `${name}: all of ${hits.length} hold the truth`).toBeLessThan(hits.length);
}

describe('over 200 seeds the truth lies within the stated confidence', () => {
  test('of a bleed-down: time constant, beginning and rest', () => {
    const fits = seeds.map((s) => fitDecay(recorded((t) => 388 * Math.exp(-t / 41) + 1.5, 160, s, 4)));
    expectCoverage(
      'tau',
      fits.map((f) => holds(f.tau, 41)),
    );
    expectCoverage(
      'start',
      fits.map((f) => holds(f.start, 389.5)),
    );
    expectCoverage(
      'rest',
      fits.map((f) => holds(f.rest, 1.5)),
    );
    // And it is no empty statement: the margin is a small part of the value, and the scatter is the noise.
    for (const f of fits) {
      expect(f.tau.margin / f.tau.value).toBeLessThan(0.03);
      expect(f.scatter / 4).toBeCloseTo(1, 0);
    }
  });

  test('of a ring-down, lightly, strongly and aperiodically damped: R, L and C', () => {
    const [C, V] = [120e-6, 900];
    for (const [R, L] of [
      [0.02, 3.1e-6],
      [0.12, 3.1e-6],
      [0.6, 3.1e-6],
    ] as const) {
      const { current } = rlcDischarge(R, L, C, V);
      const noise = 0.01 * Math.min(V * Math.sqrt(C / L), V / R);
      const begins = 40e-6;
      const fits = seeds.map((s) =>
        fitRing(
          recorded((t) => (t < begins ? 0 : current(t - begins)), 400e-6, s, noise, 600),
          { C, V },
        ),
      );
      expectCoverage(
        'L',
        fits.map((f) => holds(f.L, L)),
      );
      expectCoverage(
        'R',
        fits.map((f) => holds(f.R, R)),
      );
      expectCoverage(
        'C',
        fits.map((f) => f.C !== null && holds(f.C, C)),
      );
      for (const f of fits) expect(f.L.margin / L).toBeLessThan(R > 0.5 ? 0.25 : 0.05);
    }
  });

  test('of a charge with a leak: resistance from the supply, and leakage', () => {
    const [Vs, R, leak, C] = [520, 22e3, 410e3, 470e-6];
    const [reach, tau] = [(Vs * leak) / (R + leak), (C * R * leak) / (R + leak)];
    const fits = seeds.map((s) =>
      fitCharge(
        recorded((t) => -reach * Math.expm1(-t / tau), 60, s, 3),
        { C, Vs },
      ),
    );
    expectCoverage(
      'R',
      fits.map((f) => holds(f.R, R)),
    );
    expectCoverage(
      'leakage',
      fits.map((f) => f.leakage !== null && holds(f.leakage, leak)),
    );
    // Without a leak none is found, but for the few that chance makes.
    const tight = seeds.map((s) =>
      fitCharge(
        recorded((t) => -Vs * Math.expm1(-t / (R * C)), 60, s, 3),
        { C, Vs },
      ),
    );
    expect(tight.filter((f) => f.leakage !== null).length).toBeLessThan(12);
  });

  test('of speeds against what was predicted, and of a line', () => {
    const shares = seeds.map((s) => {
      const normal = normals(s);
      return fitShare([3, 4, 5, 6, 7, 8].map((predicted) => ({ predicted, measured: 0.87 * predicted + 0.1 * normal() }))).share;
    });
    expectCoverage(
      'share',
      shares.map((e) => holds(e, 0.87)),
    );
    const lines = seeds.map((s) => {
      const normal = normals(s);
      const x = [1, 2, 3, 4, 5, 6, 7, 8];
      return fitLine(
        x,
        x.map((v) => 12 + 3 * v + 0.4 * normal()),
      );
    });
    expectCoverage(
      'slope',
      lines.map((l) => holds(l.slope, 3)),
    );
    expectCoverage(
      'at zero',
      lines.map((l) => holds(l.at0, 12)),
    );
    // One that is far off is told and left out; of clean points almost none is.
    expect(lines.filter((l) => l.outliers.length > 0).length).toBeLessThan(25);
    const x = [1, 2, 3, 4, 5, 6, 7, 8];
    const spoilt = fitLine(
      x,
      x.map((v) => 12 + 3 * v + 0.01 * Math.sin(9 * v) + (v === 5 ? 20 : 0)),
    );
    expect(spoilt.outliers).toEqual([4]);
    expect(spoilt.slope.value).toBeCloseTo(3, 1);
  });
});

describe('a fit', () => {
  test('of a line by the general method is the textbook one, covariance included', () => {
    // The first data set of the four by Anscombe (1973), with its regression: 3.00 + 0.500 x, standard errors 1.12 and 0.118.
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
    const fitted = fitModel(x, y, (v, [a = 0, b = 0]) => a + b * v, [1, 1]);
    expect(fitted?.values[0]).toBeCloseTo(3.0, 2);
    expect(fitted?.values[1]).toBeCloseTo(0.5, 3);
    expect(Math.sqrt(fitted?.covariance[0]?.[0] ?? NaN)).toBeCloseTo(1.1247, 3);
    expect(Math.sqrt(fitted?.covariance[1]?.[1] ?? NaN)).toBeCloseTo(0.1179, 3);
    const line = fitLine(x, y);
    expect(line.slope.margin).toBeCloseTo(studentFactor(9) * 0.1179, 3);
  });

  test('takes its factor from Student: 95 % of handbook tables (from memory)', () => {
    for (const [freedom, t] of [
      [1, 12.706],
      [4, 2.776],
      [9, 2.262],
      [30, 2.042],
      [1e6, 1.96],
    ] as const)
      expect(studentFactor(freedom) / t).toBeCloseTo(1, 1.9);
  });

  test('of clipped samples leaves them out and finds what it would have found', () => {
    const clean = recorded((t) => 388 * Math.exp(-t / 41), 160, 3, 1);
    const clipped = { t: clean.t, y: clean.y.map((v) => Math.min(v, 300)) };
    const { clipped: n } = withoutClipping(clipped);
    expect(n).toBeGreaterThan(50);
    const fit = fitDecay(clipped);
    expect(fit.clipped).toBe(n);
    expect(fit.tau.value).toBeCloseTo(41, 0);
  });

  test('that cannot be made says why', () => {
    const flat = recorded(() => 12, 10, 1, 0.1);
    const few = recorded((t) => 5 - t, 3, 1, 0.1, 5);
    for (const [act, words] of [
      [() => fitDecay(flat), /does not fall by a third/],
      [() => fitDecay(few), /5 usable points, and at least 8/],
      [() => fitCharge(flat, { C: 1e-6, Vs: 500 }), /does not rise by a fifth/],
      [
        () =>
          fitRing(
            recorded(() => 0, 1, 1, 1),
            { C: 1e-6 },
          ),
        /no discharge of R, L and C|no peak/,
      ],
      [() => fitShare([{ predicted: 3, measured: 2 }]), /at least 2 are needed/],
      [() => fitLine([2, 2, 2], [1, 2, 3]), /same in all of them/],
    ] as const) {
      expect(act).toThrow(NoFit);
      expect(act).toThrow(words);
    }
  });
});

test('a thinned trace keeps every spike, an averaged one its mean, and neither is longer than it may be', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 1, maxLength: 3000 }),
      fc.integer({ min: 10, max: 400 }),
      (list, most) => {
        const trace = { t: Float64Array.from(list, (_, i) => i), y: Float64Array.from(list) };
        const thin = envelope(trace, most);
        expect(thin.t.length).toBeLessThanOrEqual(Math.max(most, 1));
        expect([Math.min(...thin.y), Math.max(...thin.y)]).toEqual([Math.min(...list), Math.max(...list)]);
        expect([...thin.t]).toEqual([...thin.t].sort((a, b) => a - b));
        const mean = averaged(trace, most);
        expect(mean.t.length).toBeLessThanOrEqual(most);
        const n = Math.ceil(list.length / most);
        const whole = list.slice(0, n * Math.floor(list.length / n));
        const sum = (a: ArrayLike<number>) => Array.from(a).reduce((s, v) => s + v, 0);
        if (n > 1) expect(sum(mean.y) * n).toBeCloseTo(sum(whole), 5);
      },
    ),
  );
});
