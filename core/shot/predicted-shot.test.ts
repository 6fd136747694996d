import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { slots } from '../block/index.ts';
import { RigReading } from '../figure/index.ts';
import { bounds } from '../quantity/index.ts';
import { normals, uniforms } from '../numeric/index.ts';
import { blockIn } from '../rig/index.ts';
import { predictedShot } from '../study/index.ts';
import { demoRig } from '../test/rigs.ts';
import { rigAsSet, type Values } from './index.ts';

interface DemoShots {
  readonly [rig: string]: { readonly shots: readonly { set: Values; measured: Values; outcome: string; remarks: string }[] };
}
const demo = JSON.parse(readFileSync(new URL('../../demo/record/shots.json', import.meta.url), 'utf8')) as DemoShots;

describe('the band of a prediction', () => {
  test.each(['thimble', 'anvil'] as const)('%s: holds nine in ten of rigs whose true values it does not know', (name) => {
    const rig = demoRig(name);
    const { current } = predictedShot(rig);
    if (!current) throw new Error('no prediction');
    const [uniform, normal] = [uniforms(11), normals(12)];
    const spans = slots.flatMap((slot) =>
      Object.entries(blockIn(rig, slot).fields).flatMap(([field, value]) =>
        typeof value === 'object' && value !== null && value.tolerance ? [{ path: `${slot}.${field}`, ...bounds(value) }] : [],
      ),
    );
    expect(spans.length).toBeGreaterThan(4);
    let held = 0;
    for (let n = 0; n < 1000; n++) {
      const truth = new Map(spans.map(({ path, low, high }) => [path, low + (high - low) * uniform()]));
      // Leads that lie otherwise than entered, contacts and warm wire: a spread of 3 % that no field of the rig has.
      const measured = new RigReading(rig, truth).figure('peak-current').value * Math.exp(0.03 * normal());
      if (measured >= current.low && measured <= current.high) held += 1;
    }
    expect(held).toBeGreaterThanOrEqual(900);
    // And it says something: it is no wider than it needs to be by a factor of two.
    expect((current.high - current.low) / current.value).toBeLessThan(0.5);
  });

  test('the shots of the demo lie within it, but for those that were remarked on', () => {
    const rows = (['thimble', 'kittiwake'] as const).flatMap((name) =>
      // A Marx takes a second or two each: the last of those that fired.
      (demo[name]?.shots ?? [])
        .filter(({ outcome, measured }) => outcome === 'fired' && measured.current !== undefined)
        .slice(name === 'kittiwake' ? -3 : 0)
        .flatMap(({ set, measured, remarks }) => {
          const { current } = predictedShot(rigAsSet(demoRig(name), set));
          return current && measured.current !== undefined
            ? [{ remarks, share: measured.current / current.value, current, I: measured.current }]
            : [];
        }),
    );
    expect(rows.length).toBeGreaterThan(5);
    const outside = rows.filter(({ I, current }) => I < current.low || I > current.high);
    expect(outside.length, JSON.stringify(rows.map(({ share }) => share))).toBeLessThanOrEqual(Math.ceil(0.15 * rows.length));
  });

  test('of a Marx has the law of its arcs in it, and says what other beginnings of them do', () => {
    const shot = predictedShot(demoRig('kittiwake'));
    const { current, time, output, starts } = shot;
    if (!current || !time || !output) throw new Error('no prediction');
    expect(shot.by).toBe('solver');
    for (const one of [current, time, output]) expect(one.low < one.value && one.value < one.high).toBe(true);
    // A later beginning moves the times and leaves the peak.
    expect(starts.map(({ from }) => from)).toEqual([1e4, 1e6]);
    const [early, late] = starts;
    expect(early?.time ?? NaN).toBeLessThan(time.value);
    expect(late?.time ?? NaN).toBeGreaterThan(time.value);
    for (const start of starts) expect(Math.abs((start.current ?? NaN) / current.value - 1)).toBeLessThan(0.01);
    expect(current.because.join()).toMatch(/arcs fall/);
  });
});
