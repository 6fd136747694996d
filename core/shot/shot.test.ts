import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { fitCharge, fitDecay, fitRing } from '../fit/index.ts';
import { quantityAt } from '../rig/index.ts';
import { chargeTraces, rlcDischarge } from '../simulate/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  fieldsOfFit,
  guessLayout,
  layoutSignature,
  NoScopeFile,
  predictShot,
  ScopeReader,
  withMeasured,
  type ScopeLayout,
} from './index.ts';
import type { FigureId } from '../block/index.ts';

/** A whole file, read as the page reads it. */
function readAll(text: string, layout: ScopeLayout = guessLayout(text.slice(0, 5000))) {
  const reader = new ScopeReader(layout);
  const cells = (line: string) => (layout.delimiter === ' ' ? line.trim().split(/ +/) : line.split(layout.delimiter));
  for (const line of text.split(/\r?\n/).slice(layout.headerLines)) if (line.trim() !== '') reader.row(cells(line));
  return reader.end();
}

const n = 40;
const time = (i: number) => i * 2e-6;
const volts = (i: number) => 100 * Math.exp(-i / 9);

describe('a file of a scope', () => {
  const rows = (row: (i: number) => string) => Array.from({ length: n }, (_, i) => row(i)).join('\n');
  test.each<[string, string, Partial<ScopeLayout>]>([
    [
      'commas, one heading',
      `Time (s),CH1 (V)\n${rows((i) => `${time(i)},${volts(i)}`)}`,
      { delimiter: ',', timeUnit: 1, headerLines: 1 },
    ],
    [
      'semicolons and decimal commas, microseconds, millivolts',
      `Record;7\n\nt [us];Kanal A [mV]\n${rows((i) => `${String(time(i) * 1e6).replace('.', ',')};${String(volts(i) * 1e3).replace('.', ',')}`)}`,
      { delimiter: ';', decimal: ',', timeUnit: 1e-6, headerLines: 3 },
    ],
    ['tabs, no heading', rows((i) => `${time(i).toExponential(6)}\t${volts(i)}`), { delimiter: '\t', headerLines: 0 }],
    ['spaces in columns', rows((i) => `  ${time(i).toExponential(5)}   ${volts(i).toFixed(6)}`), { delimiter: ' ' }],
    [
      'a mark of the byte order, a comma behind each row',
      `\uFEFFs,V\n${rows((i) => `${time(i)},${volts(i)},`)}`,
      { delimiter: ',' },
    ],
  ])('with %s is read to its numbers', (_what, text, expected) => {
    const layout = guessLayout(text.slice(0, 3000));
    expect(layout).toMatchObject(expected);
    const record = readAll(text, layout);
    expect(record.t.length).toBe(n);
    expect(record.t[7]).toBeCloseTo(time(7), 9);
    expect(record.channels[0]?.y[7]).toBeCloseTo(volts(7), 4);
    expect(record.said).toEqual([]);
  });

  test('of one column alone is taken at an even interval', () => {
    const layout = guessLayout(rows((i) => String(Math.sin(i))));
    expect(layout).toMatchObject({ timeColumn: null, timeUnit: 1e-6 });
    expect(
      readAll(
        rows((i) => String(Math.sin(i))),
        layout,
      ).t[10],
    ).toBeCloseTo(1e-5);
  });

  test('whatever layout it is written in, it is read back', () => {
    const layout = fc.record({
      delimiter: fc.constantFrom(',' as const, ';' as const, '\t' as const),
      head: fc.array(fc.constantFrom('Model,X', 'Points;1200', '', 'Date 2026-03-01'), { maxLength: 4 }),
      columns: fc.integer({ min: 1, max: 6 }),
      values: fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 12, maxLength: 40 }),
    });
    fc.assert(
      fc.property(layout, ({ delimiter, head, columns, values }) => {
        const body = values.map((v, i) =>
          [(i * 1e-3).toFixed(4), ...Array.from({ length: columns }, (_, k) => String(v + k))].join(delimiter),
        );
        const record = readAll([...head, ...body].join('\n'));
        expect(record.t.length).toBe(values.length);
        record.channels.forEach((c, k) => expect([...c.y]).toEqual(values.map((v) => v + k)));
      }),
    );
  });

  test.each<[string, () => unknown, RegExp]>([
    ['binary noise', () => guessLayout('\u0000\u0001PNG\u0003\u0004 1,2\n3,4'), /not text/],
    ['prose', () => guessLayout('This is a letter.\nIt has no numbers in it.\n'), /no two lines/],
    [
      'a thousand columns and one',
      () => guessLayout(`${Array(1001).fill('1').join(',')}\n`.repeat(4)),
      /1001 columns, and at most 1000/,
    ],
    [
      'two records, one behind the other',
      () => readAll(`${rows((i) => `${time(i)},1`)}\n${rows((i) => `${time(i)},2`)}`),
      /sample 41 the time goes back/,
    ],
    [
      'a time with too few digits',
      () => readAll('0.001,1\n0.001,2\n0.001,3\n', { ...guessLayout('1,1\n2,2\n3,3\n'), timeColumn: 0 }),
      /time does not advance/,
    ],
    ['one sample', () => readAll('x,y\n1,2\n', { ...guessLayout('x,y\n1,2\n3,4\n'), headerLines: 1 }), /fewer than two samples/],
  ])('that is %s is refused with the reason', (_what, read, words) => {
    expect(read).toThrow(NoScopeFile);
    expect(read).toThrow(words);
  });

  test('with missing samples or two time bases says so', () => {
    const holes = rows((i) => (i === 5 || i === 6 ? `${time(i)},` : i === 20 ? '' : `${time(i)},${volts(i)}`));
    expect(readAll(`s,V\n${holes}`).said.join(' ')).toMatch(
      /2 rows without a number were left out.*Samples are missing in 2 places/,
    );
    const bases = Array.from({ length: 60 }, (_, i) => `${i < 30 ? i : 30 + (i - 30) * 10},1`).join('\n');
    expect(readAll(bases).said.join(' ')).toMatch(/uneven.*two time bases/);
  });

  test('is known again by its headings, whatever numbers it holds', () => {
    const of = (text: string) => layoutSignature(text, guessLayout(text));
    const [a, b] = [`t (us),CH1 (V)\n${rows((i) => `${i},${volts(i)}`)}`, `t (us),CH1 (V)\n${rows((i) => `${i * 5},${i}`)}`];
    expect(of(a)).toBe(of(b));
    expect(of(a)).not.toBe(of(b.replace('CH1', 'CH2')));
  });
});

describe('what is predicted of a shot', () => {
  test('is what the rig page has, at the settings of the shot', () => {
    const rig = demoRig('thimble');
    const full = predictShot(rig, {});
    expect(full.current).toBeCloseTo(figureIn(evaluateRig(rig), 'peak-current')?.worked.value ?? NaN, 9);
    const half = predictShot(rig, { voltage: (full.voltage ?? 0) / 2 });
    expect(half.voltage).toBeCloseTo((full.voltage ?? 0) / 2, 9);
    expect(half.current ?? NaN).toBeLessThan((full.current ?? NaN) / 2 + 1e-9);
    expect(predictShot(demoRig('shuttle'), {}).speed).toBeGreaterThan(1);
    expect(predictShot(demoRig('kittiwake'), {}).spark).toBeGreaterThan(0);
  });
});

describe('a fit that is accepted', () => {
  // The trace is made by the model of another rig: its own value has to come out of it.
  const said = (rig: ReturnType<typeof rigWith>, path: string) => quantityAt(rig, path)?.value?.value ?? NaN;

  test('gives the bleeder, the charging resistor, and inductance and resistance of the load', () => {
    // A leak that takes a tenth of it is told apart from the bleeder.
    const planned = rigWith({ 'switch.kind': 'contact', 'store.Ri': '70 kΩ' });
    const real = rigWith({ 'bleeder.R': '7 kΩ', 'charging.R': '47 Ω', 'load.L': '9 µH', 'load.R': '40 mΩ' }, planned);
    const { traces, supplyVoltage } = chargeTraces(real);
    const charge = traces.find((t) => t.id === 'store-voltage');
    if (!charge) throw new Error('no traces');
    const figure = (id: FigureId) => figureIn(evaluateRig(real), id)?.worked.value ?? NaN;
    const [R, L, C, V] = (['loop-resistance', 'loop-inductance', 'loop-capacitance', 'discharge-voltage'] as const).map(
      figure,
    ) as [number, number, number, number];
    const t = Float64Array.from({ length: 900 }, (_, i) => (i / 900) * 12 * Math.sqrt(L * C));
    const ring = { t, y: t.map((x) => rlcDischarge(R, L, C, V).current(x)) };
    const store = figure('bank-capacitance');
    // The bleeder of 7 kΩ beside a leak of 70 kΩ.
    const tau = (store * 7e3 * 70e3) / 77e3;
    const bleed = { t: t.map((_, i) => (i * tau) / 200), y: t.map((_, i) => 48 * Math.exp(-i / 200)) };
    const fits = [
      { kind: 'bleed', fit: fitDecay(bleed) },
      { kind: 'charge', fit: fitCharge(charge, { C: store, Vs: supplyVoltage }) },
      { kind: 'ring', fit: fitRing(ring, { C, V }) },
    ] as const;
    const made = fits.reduce((rig, fit) => withMeasured(rig, fieldsOfFit(rig, fit)), planned);
    for (const path of ['bleeder.R', 'charging.R', 'load.L', 'load.R']) {
      expect(said(made, path) / said(real, path), path).toBeCloseTo(1, 1.7);
      expect(quantityAt(made, path)?.value?.from).toBe('measured');
    }
  });

  test('that would leave less than nothing for the load says so and changes nothing', () => {
    const rig = rigWith({ 'store.ESL': '5 µH', 'switch.kind': 'contact' });
    const t = Float64Array.from({ length: 600 }, (_, i) => i * 1e-7);
    const fit = fitRing({ t, y: t.map((x) => 100 * Math.exp(-x * 2e4) * Math.sin(x * 1e6)) }, { C: 1e-6 });
    const fields = fieldsOfFit(rig, { kind: 'ring', fit });
    expect(fields.find((f) => f.path === 'load.L')?.refused).toMatch(/more than was measured/);
    expect(
      withMeasured(
        rig,
        fields.filter((f) => f.path === 'load.L'),
      ),
    ).toBe(rig);
  });
});
