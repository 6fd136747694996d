import fc from 'fast-check';
import { linearRegression } from 'simple-statistics';
import { describe, expect, test } from 'vitest';
import { normals, uniforms } from '../numeric/index.ts';
import { controlChart } from '../shot/index.ts';
import { answerOf, type Point } from './answer.ts';
import { nextBest } from './next-best.ts';

describe('the answer of a campaign', () => {
  test('two levels of one factor: the line of a general-purpose library', () => {
    const [normal, uniform] = [normals(3), uniforms(4)];
    for (let n = 0; n < 20; n++) {
      const [a, b] = [10 * uniform(), 5 * uniform()];
      const points = Array.from({ length: 12 }, (_, i): Point => {
        const x = i % 2 === 0 ? 3 : 7;
        return { levels: [x], y: a + b * x + 0.3 * normal() };
      });
      const { m, b: c } = linearRegression(points.map(({ levels: [x = NaN], y }) => [x, y]));
      const answer = answerOf(points);
      expect(answer?.at([3]).value).toBeCloseTo(c + 3 * m, 9);
      expect(answer?.at([7]).value).toBeCloseTo(c + 7 * m, 9);
    }
  });

  test('of two levels the margin is that of a mean with a common scatter', () => {
    // Student’s t on 8 − 2 degrees of freedom, 97.5 %: 2.4469. Tables of the t distribution; from memory.
    const low = [4.1, 4.4, 3.9, 4.0];
    const high = [6.0, 6.3, 6.1, 5.6];
    const points = [...low.map((y): Point => ({ levels: [1], y })), ...high.map((y): Point => ({ levels: [2], y }))];
    const mean = (all: readonly number[]) => all.reduce((s, v) => s + v, 0) / all.length;
    const squares = [low, high].reduce((sum, all) => sum + all.reduce((s, v) => s + (v - mean(all)) ** 2, 0), 0);
    const margin = 2.4469 * Math.sqrt(squares / 6 / 4);
    const answer = answerOf(points);
    expect(answer?.at([1]).value).toBeCloseTo(mean(low), 9);
    expect((answer?.at([1]).margin ?? NaN) / margin).toBeCloseTo(1, 2);
    expect(answer?.highest.levels).toEqual([2]);
    expect(answer?.highest.confidence).toBeGreaterThan(0.999);
  });

  test('a curve with a top inside is found there; its band holds the truth in nine and a half of ten', () => {
    const truth = (x: number) => 20 - 0.8 * (x - 5) ** 2;
    const levels = [2, 3.5, 5, 6.5, 8];
    let [held, of, tops] = [0, 0, 0];
    for (let n = 0; n < 150; n++) {
      const normal = normals(1000 + n);
      const points = levels.flatMap((x) => Array.from({ length: 3 }, (): Point => ({ levels: [x], y: truth(x) + normal() })));
      const answer = answerOf(points);
      if (!answer) throw new Error('no answer');
      tops += answer.highest.levels[0] === 5 ? 1 : 0;
      for (const x of levels) {
        const { value, margin } = answer.at([x]);
        of += 1;
        held += Math.abs(value - truth(x)) <= margin ? 1 : 0;
      }
    }
    expect(held / of).toBeGreaterThan(0.93);
    expect(held / of).toBeLessThan(0.97);
    expect(tops / 150).toBeGreaterThan(0.9);
  });

  test.each([0.3, 1, 3])('says how sure it is, and is as often right as it says: differences up to %f deviations', (reach) => {
    // A series kept aside, its truth known: of answers told with so much confidence that share has to be right.
    const told: { confidence: number; right: boolean }[] = [];
    for (let n = 0; n < 400; n++) {
      const [uniform, normal] = [uniforms(50 + n), normals(9000 + n)];
      const slope = 2 * reach * (uniform() - 0.5);
      const points = [1, 2].flatMap((x) =>
        Array.from({ length: 5 }, (): Point => ({ levels: [x], y: 10 + slope * x + normal() })),
      );
      const best = answerOf(points)?.highest;
      if (best) told.push({ confidence: best.confidence, right: best.levels[0] === (slope > 0 ? 2 : 1) });
    }
    const said = told.reduce((sum, one) => sum + one.confidence, 0) / told.length;
    const right = told.filter((one) => one.right).length / told.length;
    expect(Math.abs(said - right)).toBeLessThan(0.08);
  });

  test('a series kept aside, with drift: fired in rounds the answer holds, in blocks the drift is taken for it', () => {
    // Nothing differs between the settings; each shot has a little less than the one before.
    const drift = (order: readonly number[], seed: number) => {
      const normal = normals(seed);
      return answerOf(order.map((x, i): Point => ({ levels: [x], y: 10 - 0.05 * i + 0.1 * normal() })));
    };
    const blocks = [1, 2, 3].flatMap((x) => Array.from({ length: 8 }, () => x));
    const rounds = Array.from({ length: 8 }, (_, i) => [1, 2, 3].map((x) => ((x + i) % 3) + 1)).flat();
    const difference = (answer: ReturnType<typeof answerOf>) => (answer?.at([3]).value ?? NaN) - (answer?.at([1]).value ?? NaN);
    expect(Math.abs(difference(drift(rounds, 5)))).toBeLessThan(0.2);
    expect(difference(drift(blocks, 5))).toBeLessThan(-0.6);
  });

  test('is the same in whatever unit a level stands, and follows the scale of what was measured', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.double({ min: 1e-6, max: 1e6, noNaN: true }), (seed, scale) => {
        const normal = normals(seed);
        const points = [1, 2, 4].flatMap((x) => Array.from({ length: 3 }, (): Point => ({ levels: [x], y: 5 + x + normal() })));
        const [one, other] = [
          answerOf(points),
          answerOf(points.map(({ levels: [x = NaN], y }) => ({ levels: [x * scale], y: y * scale }))),
        ];
        const [a, b] = [one?.at([2]), other?.at([2 * scale])];
        expect((b?.value ?? NaN) / scale / (a?.value ?? NaN)).toBeCloseTo(1, 9);
        expect((b?.margin ?? NaN) / scale / (a?.margin ?? NaN)).toBeCloseTo(1, 6);
      }),
      { seed: 17, numRuns: 40 },
    );
  });

  test('there is none of one setting, or of as many shots as terms', () => {
    expect(answerOf([])).toBeNull();
    expect(answerOf([1, 2, 3].map((y) => ({ levels: [4], y })))).toBeNull();
    expect(answerOf([1, 2].map((x) => ({ levels: [x], y: x })))).toBeNull();
    // Three settings once each: no curve, but a line with one degree of freedom.
    expect(answerOf([1, 2, 3].map((x) => ({ levels: [x], y: x + (x === 2 ? 0.1 : 0) })))?.scatter).toBeGreaterThan(0);
  });

  test('the next best point: what was not fired first; then, of a line, an end rather than the middle', () => {
    const all = [[1], [2], [3]];
    expect(nextBest([[1]], all)).toBe(1);
    // Three terms over three levels as often each: the ends are known worst.
    const even = nextBest([[1], [2], [3], [2]], all);
    expect([0, 2]).toContain(even);
    expect(nextBest([[1], [1], [1], [2], [3], [3], [3]], all)).toBe(1);
    expect(nextBest([[1]], [[1]])).toBeNull();
  });
});

test('control limits of single values: a published example', () => {
  // Ten flow rates: mean 50.81, mean range between neighbours 1.8778, limits 55.8041 and 45.8159. NIST/SEMATECH e-Handbook of Statistical
  // Methods, individuals control charts; from memory.
  const chart = controlChart([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]);
  expect(chart?.centre).toBeCloseTo(50.81, 9);
  expect(chart?.range.mean).toBeCloseTo(1.8778, 4);
  expect(chart?.high).toBeCloseTo(55.8041, 3);
  expect(chart?.low).toBeCloseTo(45.8159, 3);
  expect(chart?.beyond).toEqual([]);
  expect(controlChart([1, 2, 3])).toBeNull();
  // One beyond, and nine in a row on one side.
  expect(controlChart([1, 1.1, 0.9, 1, 1.1, 0.9, 1, 3, 1, 1.1, 0.9, 1, 1, 1.1, 0.9])?.beyond).toEqual([7]);
  expect(
    controlChart([
      ...Array.from({ length: 9 }, (_, i) => 1 + 0.01 * (i % 2)),
      ...Array.from({ length: 9 }, (_, i) => 2 + 0.01 * (i % 2)),
    ])?.shift,
  ).toBe(8);
});
