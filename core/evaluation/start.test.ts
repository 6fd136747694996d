import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { setVoltage, type Asked, type Starter } from '../block/index.ts';
import { textOf } from '../field/index.ts';
import { readRigFile, writeRigFile } from '../format/index.ts';
import { groupedStore, newBlock, otherStarts, starterBy, starters, blockDefinition } from '../kind/index.ts';
import { blockIn, desksOf, newDocument, spotsOf, type Rig } from '../rig/index.ts';
import { cases } from '../test/long.ts';
import { evaluateRig, figureIn, startRig, type Typed } from './index.ts';

const started = (id: string, typed: Typed = {}): Rig => {
  const made = startRig(starterBy(id) as Starter, typed);
  if (!made.ok) throw new Error(JSON.stringify(made.issues));
  return made.rig;
};
const errors = (rig: Rig) => evaluateRig(rig).problems.filter(({ severity }) => severity === 'error');
const figure = (rig: Rig, id: Parameters<typeof figureIn>[1]) => figureIn(evaluateRig(rig), id)?.worked?.value ?? NaN;

describe.each(starters.map((starter) => [starter.id, starter] as const))('start of a %s', (id, starter) => {
  const rig = started(id);
  const evaluation = evaluateRig(rig);

  test('as it is asked has no error, is over no rating, and says of each value that it is assumed', () => {
    expect(errors(rig)).toEqual([]);
    expect(evaluation.ladder.limits.filter(({ worst }) => worst !== null && worst > 1).map(({ title }) => title)).toEqual([]);
    expect(Object.keys(starter.asks).length).toBeLessThanOrEqual(4);
    const typed = spotsOf(rig).flatMap((spot) =>
      Object.entries(blockIn(rig, spot).fields).filter(
        ([, value]) => typeof value === 'object' && value !== null && value.from !== 'default',
      ),
    );
    expect(typed).toEqual([]);
  });

  test('its neighbours fit: it is charged, and bled in some minutes', () => {
    const { figures } = evaluation;
    const of = (name: string) => figures.find((f) => f.ok && f.id === name) as { worked: { value: number } } | undefined;
    const bleed = of('bleed-time')?.worked.value;
    if (bleed !== undefined) expect(bleed).toBeLessThan(id === 'coilgun-stages' ? 900 : 300);
    expect(of('charge-towards')?.worked.value).toBeGreaterThan(setVoltage(evaluation.corners.nominal()).value);
    expect(readRigFile(writeRigFile({ ...newDocument('Started'), rig }))).toMatchObject({ ok: true });
  });

  test('any wishes give a rig without an error, or say which is out of reach and a nearest that is not', () => {
    const wish = (asked: Asked): fc.Arbitrary<string> =>
      asked.type === 'choice'
        ? fc.constantFrom(...asked.options.map(({ value }) => value))
        : fc.double({ min: 0, max: 1, noNaN: true }).map((u) => {
            const value = asked.min * (asked.max / asked.min) ** u;
            const within = Math.min(asked.max, Math.max(asked.min, asked.integer ? Math.round(value) : value));
            return textOf({ value: Number(within.toPrecision(3)) }, asked.unit);
          });
    const wishes = fc.record(Object.fromEntries(Object.entries(starter.asks).map(([key, asked]) => [key, wish(asked)])));
    fc.assert(
      fc.property(wishes, (typed) => {
        const made = startRig(starter, typed as Typed);
        if (made.ok) return errors(made.rig).length === 0;
        return made.issues.every(
          ({ asked, nearest, reason }) =>
            reason.length > 10 && (nearest === null || startRig(starter, { ...typed, [asked]: nearest } as Typed).ok),
        );
      }),
      { numRuns: cases(id.startsWith('tesla') ? 3 : 6, 40) },
    );
  });
});

test('what was typed stays as it was typed, with its tolerance; what was not is as asked', () => {
  const rig = started('bank', { V: '1.2 kV ±5 %' });
  expect(blockIn(rig, 'store').fields['V0']).toMatchObject({
    value: 1200,
    text: '1.2 kV ±5 %',
    tolerance: { minus: 0.05, plus: 0.05 },
  });
  expect(blockIn(rig, 'store').fields['V0']).not.toHaveProperty('from');
  // ½·C·V² of the energy asked for, of a capacitance of two digits.
  expect(figure(rig, 'stored-energy')).toBeGreaterThan(95);
  expect(figure(rig, 'stored-energy')).toBeLessThan(105);
});

test('each machine comes to what was wished, as its own figures say', () => {
  const marx = figure(started('marx', { V: '300 kV', E: '30 J' }), 'marx-output-voltage');
  expect(marx / 300e3).toBeGreaterThan(0.95);
  expect(marx / 300e3).toBeLessThan(1.3);
  // The gap stands so that a trigger fires it, below its self-break: its charge is four fifths of its self-break.
  const gap = started('peaking');
  expect(figure(gap, 'self-break') / 12e3).toBeCloseTo(1.25, 1);
  for (const kind of ['tesla-coil-dc', 'tesla-coil-ac']) {
    const coil = started(kind);
    expect(figure(coil, 'tuning-tap') / (blockIn(coil, 'load').fields['n'] as { value: number }).value, kind).toBeCloseTo(1, 1);
    expect(figure(coil, 'break-voltage') / figure(coil, 'discharge-voltage'), kind).toBeCloseTo(1, 1);
  }
  expect(started('coilgun-stages', { n: '5' }).channels).toHaveLength(5);
});

test('an impossible wish says which, and the nearest that is not; what cannot be read says what may stand there', () => {
  const battery = startRig(starterBy('bank') as Starter, { V: '10 V', E: '100 kJ', supply: 'battery' });
  expect(battery.ok).toBe(false);
  const small = startRig(starterBy('multiplier-marx') as Starter, { E: '20 J', Vp: '200 V' });
  if (small.ok) throw new Error('20 J through a multiplier of 200 V');
  expect(small.issues.map(({ asked }) => asked)).toContain('E');
  expect(small.issues.every(({ nearest }) => nearest !== null)).toBe(true);
  const unread = startRig(starterBy('marx') as Starter, { V: '500 A' });
  expect(unread).toMatchObject({
    ok: false,
    issues: [{ asked: 'V', reason: expect.stringMatching(/current/) as string, nearest: null }],
  });
  expect(startRig(starterBy('marx') as Starter, { into: 'a lake' })).toMatchObject({ ok: false, issues: [{ asked: 'into' }] });
});

test('starts have names of their own, and a picture of strokes within its frame', () => {
  expect(new Set(starters.map(({ id }) => id)).size).toBe(starters.length);
  for (const { title, picture } of [...starters, ...otherStarts]) {
    expect(picture.length, title).toBeGreaterThan(2);
    for (const [, x = '', y = ''] of picture.flatMap(({ d }) => [...d.matchAll(/M(-?[\d.]+) (-?[\d.]+)/g)])) {
      expect(Number(x), title).toSatisfy((n: number) => n >= 0 && n <= 120);
      expect(Number(y), title).toSatisfy((n: number) => n >= 0 && n <= 80);
    }
  }
  expect(starterBy('nothing')).toBeNull();
  expect(desksOf(started('marx')).map(({ route }) => route)).toContain('erection');
  expect(groupedStore('tank-capacitor').kind).toBe('tank-capacitor');
  expect(groupedStore('marx').kind).toBe('capacitor-bank');
  expect(newBlock(blockDefinition('store', 'marx')).kind).toBe('marx');
});
