import { expect, test } from 'vitest';
import type { Starter } from '../block/index.ts';
import { startRig, type Typed } from '../evaluation/index.ts';
import { starterBy } from '../kind/index.ts';
import { printQuantity } from '../quantity/index.ts';
import type { Rig } from '../rig/index.ts';
import { erectionShot, gapStudy, launchStudy, type LaunchStudy } from './index.ts';

function started(id: string, typed: Typed = {}): Rig {
  const made = startRig(starterBy(id) as Starter, typed);
  if (!made.ok) throw new Error(JSON.stringify(made.issues));
  return made.rig;
}
const launch = (id: string, typed?: Typed): LaunchStudy => {
  const study = launchStudy(started(id, typed), printQuantity);
  if (!study) throw new Error(`${id} launches nothing`);
  return study;
};

test.each<[string, Typed]>([
  ['marx', {}],
  ['marx', { V: '400 kV', E: '60 J' }],
  ['marx', { V: '40 kV', E: '1 J', into: 'spark' }],
  ['marx', { V: '80 kV', E: '20 J', into: 'dummy-resistor' }],
  ['multiplier-marx', {}],
])('a started %s %o erects, gap by gap, through the circuit solver', (id, typed) => {
  const shot = erectionShot(started(id, typed));
  expect(shot.erects).toBe(true);
  expect(shot.gaps.every(({ at }) => at !== null)).toBe(true);
});

test('a started coilgun throws its slug out, and does not pull it back; more stages make it faster', () => {
  const [one, three, battery] = [launch('coilgun'), launch('coilgun-stages'), launch('battery-launcher')];
  expect(one.exit).toBeGreaterThan(5);
  expect(one.said).toEqual([]);
  expect(three.exit).toBeGreaterThan(1.5 * (one.exit ?? Infinity));
  expect(battery.exit).toBeCloseTo(one.exit ?? NaN, 6);
});

test('a started gap stands where its trigger fires it, below its self-break', () => {
  for (const [id, typed] of [
    ['peaking', {}],
    ['exploding-wire', { V: '15 kV' }],
    ['can-crusher', { V: '6 kV', E: '2 kJ' }],
  ] as const) {
    const study = gapStudy(started(id, typed), printQuantity);
    const share = (study?.charged ?? 0) / (study?.selfBreak ?? NaN);
    expect(share, id).toBeGreaterThan(0.75);
    expect(share, id).toBeLessThan(0.85);
  }
});
