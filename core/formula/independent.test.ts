import { isLong } from '../test/long.ts';
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { holds } from '../test/evidence.ts';

interface Point {
  readonly formula: string;
  readonly by: string;
  readonly values: Readonly<Record<string, number>>;
  readonly expected: number;
}
const fixture = new URL('../test/fixtures/independent.json', import.meta.url);
const script = new URL('../test/record/independent.py', import.meta.url);
const points = JSON.parse(readFileSync(fixture, 'utf8')) as Point[];
const formulas = [...new Set(points.map(({ formula }) => formula))];

/** Formulas that are sums over few points or closed in on only so far; all others agree to ten digits or so. */
const within: Readonly<Record<string, number>> = {
  // The one is sampled over 60 periods, the other closes in on each peak.
  'coupled-primary-current': 2e-3,
  'coupled-secondary-current': 2e-3,
  // Both step through a cycle, in 4000 parts there and in fewer here, and the one that is read between two voltages of a table.
  'doubler-current': 5e-3,
  'impulse-front-time': 1e-6,
  'impulse-tail-time': 1e-6,
  'rectifier-current': 1e-6,
  'skin-resistance-ratio': 1e-6,
  'tank-ac-rise': 1e-4,
  'tank-ac-rise-loss': 1e-4,
};

describe('formulas worked out another way by a general library, at random', () => {
  test.each(formulas)('%s', (id) => {
    for (const { values, expected, by } of points.filter(({ formula }) => formula === id))
      holds(id, values, expected, { source: `numpy and scipy: ${by}`, within: within[id] ?? 1e-8 });
  });
});

// The recording itself is checked each time; that it is still what its script gives, at length.
const hasLibrary = isLong && spawnSync('python3', ['-c', 'import scipy'], { cwd: '/' }).status === 0;

test.runIf(hasLibrary)('the recording is what its script gives here', { timeout: 300_000 }, () => {
  const { stdout } = spawnSync('python3', [script.pathname, '--print'], { encoding: 'utf8', cwd: '/', maxBuffer: 1 << 26 });
  const now = JSON.parse(stdout) as Point[];
  expect(now).toHaveLength(points.length);
  now.forEach(({ formula, values, expected }, i) => {
    const was = points[i];
    expect({ formula, values }).toEqual({ formula: was?.formula, values: was?.values });
    expect(Math.abs(expected / (was?.expected ?? NaN) - 1), formula).toBeLessThan(1e-7);
  });
});
