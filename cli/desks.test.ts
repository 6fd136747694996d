import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from 'vitest';
import { readRigFile } from '@vast-surge/core/format';
import { predictShot } from '@vast-surge/core/shot';
import { run } from './run.ts';

const demo = (name: string) => fileURLToPath(new URL(`../demo/${name}.json`, import.meta.url));
function surge(...args: string[]): { code: number; out: string; err: string } {
  let [out, err] = ['', ''];
  const code = run(args, { out: (text) => (out += text), err: (text) => (err += text) });
  return { code, out, err };
}
/* eslint-disable @typescript-eslint/no-explicit-any */
const json = (...args: string[]): any => JSON.parse(surge(...args, '--json').out);
function rig(name: string) {
  const read = readRigFile(readFileSync(demo(name), 'utf8'));
  if (!read.ok) throw new Error(name);
  return read.document.rig;
}

describe('what a page shows, from the terminal', () => {
  test('a launch: speed, place and energy at one muzzle, and the shot log predicts the same', () => {
    const launch = json('launch', demo('shuttle'));
    expect(predictShot(rig('shuttle'), {})).toMatchObject({ speed: launch.muzzleSpeed, current: launch.peakCurrent });
    const { t, x, v } = launch.trace as { t: number[]; x: number[]; v: number[] };
    expect([t.length, x.length]).toEqual([v.length, v.length]);
    const past = x.findIndex((place) => place >= launch.muzzle);
    expect(past).toBeGreaterThan(0);
    expect(launch.muzzleSpeed).toBeGreaterThanOrEqual(Math.min(v[past - 1] ?? 0, v[past] ?? 0) - 1e-9);
    expect(launch.muzzleSpeed).toBeLessThanOrEqual(Math.max(v[past - 1] ?? 0, v[past] ?? 0) + 1e-9);
    expect(launch.suckBack).toBe(launch.muzzleSpeed < 0.98 * launch.fastest);
    expect(launch.efficiency).toBeCloseTo(launch.energy.kinetic / launch.energy.stored, 12);
    expect(launch.range.low).toBeLessThan(launch.muzzleSpeed);
  });

  test('a Marx: one peak current for terminal, shot log and the discharge that is run', () => {
    const erect = json('erect', demo('kittiwake'), '--shots', '3');
    const { current, time } = erect.predicted;
    expect(predictShot(rig('kittiwake'), {})).toMatchObject({ current: current.value, time: time.value });
    const run = json('simulate', demo('kittiwake'), '--scene', 'discharge');
    const peak = Math.max(Math.abs(run.extremes['I(Lld)'].low), Math.abs(run.extremes['I(Lld)'].high));
    expect(Math.abs(peak / current.value - 1)).toBeLessThan(2e-3);
    expect(current.low).toBeLessThan(current.value);
    expect(current.because.length).toBeGreaterThan(0);
    expect(erect.predicted.law).toMatch(/Toepler/);
    expect(erect.erects).toBe(true);
  });

  test('a gap, a bleed-down and a Tesla coil have their page’s numbers', () => {
    const figures = (name: string) => json('evaluate', demo(name)).figures;
    const figure = (name: string, id: string) => figures(name)[id]?.value;
    expect(json('gap', demo('kittiwake')).selfBreak).toBe(figure('kittiwake', 'self-break'));
    const bleed = json('bleed', demo('anvil'));
    expect(bleed.ways.find((way: { id: string }) => way.id === 'bleeder').nominal).toBe(figure('anvil', 'bleed-time'));
    const faults = json('faults', demo('anvil'));
    const shot = faults.faults.find(({ id }: { id: string }) => id === 'switch.early');
    expect(shot.carried.find(({ slot }: { slot: string }) => slot === 'load').peak / figure('anvil', 'peak-current')).toBeCloseTo(
      1,
      1,
    );
    expect(surge('faults', demo('anvil')).out).toMatch(/can kill: The earth lead is off/);
    const coil = json('tesla-coil', demo('cricket'));
    expect(coil.figures['loop-inductance'].value).toBe(figure('cricket', 'loop-inductance'));
    expect(coil.variants.map((v: { id: string }) => v.id)).toContain('as-set');
  });

  test.each([
    ['launch', 'anvil', /Anvil has no coil that launches/],
    ['erect', 'thimble', /Thimble has no Marx generator/],
    ['gap', 'shuttle', /Shuttle has no spark gap/],
    ['tesla-coil', 'anvil', /Anvil has no Tesla coil/],
  ])('%s of %s is answered with exit 2 and words', (command, name, words) => {
    expect(surge(command, demo(name))).toMatchObject({ code: 2, out: '', err: expect.stringMatching(words) });
  });

  test('a count that is none is refused by its range', () => {
    expect(surge('erect', demo('kittiwake'), '--shots', 'many').err).toMatch(
      /--shots is "many"; it must be a whole number from 1 to 2000/,
    );
  });
});

describe('a rehearsal from the terminal', () => {
  test('says what is carried out and what cannot be, and takes no pace and no fault that there is not', () => {
    const played = json('rehearse', demo('anvil'), '--pace', '4');
    expect(played).toMatchObject({ executable: true, unexecutable: [], fired: true, inBand: true });
    const sheet = surge('runsheet', demo('anvil')).out;
    expect(sheet).toMatch(/Voltage at the shot: \*\*1\.84 kV, 1\.\d+ kV to 1\.94 kV\*\*/);
    expect(played.band.high).toBe(1940);
    for (const section of ['Charge', 'Isolate', 'Fire', 'Bleed', 'Verify', 'Strap']) expect(sheet).toContain(`## ${section}`);
    const marx = json('rehearse', demo('kittiwake'), '--fault', 'bleeder-open', '--seed', '3');
    expect(marx).toMatchObject({ executable: true, fired: true, inBand: true });
    const late = json('rehearse', demo('kittiwake'), '--pace', '30');
    expect(late).toMatchObject({ executable: false, fired: false, voltageAtShot: null });
    expect(late.unexecutable[0].reason).toMatch(/have passed since the supply was off/);
    expect(marx.worstHandEnergy).toBeLessThanOrEqual(1);
    expect(surge('rehearse', demo('anvil')).out).toContain('Carried out as written.');
    for (const pace of ['0', '61', 'soon', ''])
      expect(surge('rehearse', demo('anvil'), '--pace', pace)).toMatchObject({ code: 2 });
    expect(surge('rehearse', demo('anvil'), '--fault', 'ghost')).toMatchObject({
      code: 2,
      err: expect.stringMatching(/must be one of bleeder-open, /),
    });
    expect(surge('rehearse', demo('anvil'), '--fault', 'wrong-range', '--fault', 'meter-battery')).toMatchObject({ code: 2 });
  });
});

describe('one capacitor from the terminal', () => {
  test('has its sheet, and every option that is wrong is named with its range', () => {
    const discharge = (...options: string[]) => surge('discharge', ...options);
    const made = JSON.parse(discharge('--C', '470u', '--V', '400', '--R', '2.2k', '--json').out) as Record<string, unknown>;
    // t = R·C·ln(400 V/50 V).
    expect(made).toMatchObject({ below: 50, isByHand: true, hold: { value: 10 }, resistor: { isAtHand: true, R: 2200 } });
    expect(2200 * 470e-6 * Math.log(8)).toBeLessThan(10);
    expect(discharge('--C', '10 uF', '--V', '315').out).toMatch(/^# Discharge one capacitor: 10\.0 µF at 315 V\n\n\*\*496 mJ/);
    for (const [option, value] of [
      ['--C', 'lots'],
      ['--V', '-3'],
      ['--R', '0'],
      ['--dielectric', 'cheese'],
    ] as const) {
      const base = { '--C': '470u', '--V': '400', [option]: value };
      expect(discharge(...Object.entries(base).flat())).toMatchObject({ code: 2, out: '', err: expect.stringContaining(option) });
    }
  });
});
