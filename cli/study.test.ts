import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parquetReadObjects } from 'hyparquet';
import Papa from 'papaparse';
import { afterAll, describe, expect, test } from 'vitest';
import { run } from './run.ts';

const folder = mkdtempSync(join(tmpdir(), 'surge-study-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function surge(...args: string[]) {
  let [out, err] = ['', ''];
  const code = run(args, { out: (text) => (out += text), err: (text) => (err += text) });
  return { code, out, err };
}
const study = (...args: string[]) => surge('study', 'demo/anvil.json', ...args);
type Row = Record<string, number | string | null>;
const rowsOf = (file: string): Row[] =>
  Papa.parse<Row>(readFileSync(file, 'utf8').trim(), { header: true, dynamicTyping: true }).data;

describe('surge study', () => {
  test('varies a field, says what each point comes to, and writes the same into CSV and Parquet', async () => {
    const [csv, parquet] = [join(folder, 'sweep.csv'), join(folder, 'sweep.parquet')];
    const asked = ['--vary', 'store.V0=1 kV..2 kV/5', '--vary', 'store.np=1..3/3', '--figures', 'peak-current,limit:tightest'];
    const { code, out } = study(...asked, '--out', csv);
    expect(code).toBe(0);
    expect(out).toMatch(/^Store, charged to +Store, strings in parallel +Peak current/);
    expect(out).toMatch(/^2 kV +3 +[\d.]+ kA/m);
    study(...asked, '--out', parquet);
    const rows = rowsOf(csv);
    expect(rows.length).toBe(15);
    // Read back by another program's reader of the format.
    const bytes = readFileSync(parquet);
    const file = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
    expect(await parquetReadObjects({ file })).toEqual(rows);
    const page = JSON.parse(surge('evaluate', 'demo/anvil.json', '--json').out) as {
      figures: Record<string, { value: number }>;
    };
    expect(study('--vary', 'store.V0=1940 V, 2 kV', '--figures', 'peak-current', '--out', csv).code).toBe(0);
    expect(rowsOf(csv)[0]?.['peak-current (A)']).toBe(page.figures['peak-current']?.value);
  });

  test('lists the points that meet a goal, and what the others ruled out by', () => {
    const asked = ['--vary', 'store.V0=1 kV..3 kV/9', '--figures', 'peak-current', '--goal', 'peak-current=10 kA..'];
    const { code, out } = study(...asked);
    expect(code).toBe(0);
    const [, met = '', total = ''] = /^(\d+) of (\d+) points meet the goal/m.exec(out) ?? [];
    expect([Number(met) > 0, total]).toEqual([true, '9']);
    expect(out).toMatch(/^ {2}\d+ ruled out by peak-current$/m);
    expect(out).toMatch(/^ {2}\d+ ruled out by the limit [\w-]+$/m);
    const data = JSON.parse(study(...asked, '--worst', '--json').out) as { met: { outputs: { low: number }[] }[] };
    expect(data.met.every(({ outputs }) => (outputs[0]?.low ?? 0) >= 10_000)).toBe(true);
    expect(study(...asked.slice(0, 4), '--goal', 'peak-current=1 MA..').out).toMatch(/^0 of 9 points meet the goal/);
  });

  test('scatters tolerances by a seed, counts what meets a goal, and says how sure that is', () => {
    const asked = ['--scatter', '400', '--figures', 'peak-current', '--goal', 'peak-current=17 kA..'];
    const one = study(...asked);
    expect(one.out).toMatch(/^400 samples of \d+ fields with a tolerance, seed 1, uniform within the tolerance/);
    expect(one.out).toMatch(/peak-current within the goal: [\d.]+ % of samples, [\d.]+ % to [\d.]+ % with 95 % confidence/);
    expect(study(...asked).out).toBe(one.out);
    expect(study(...asked, '--seed', '2').out).not.toBe(one.out);
    const file = join(folder, 'samples.csv');
    expect(study(...asked, '--distribution', 'normal', '--out', file).code).toBe(0);
    const rows = rowsOf(file);
    expect([rows.length, Object.keys(rows[0] ?? {}).includes('store.C (F)')]).toEqual([400, true]);
  });

  test('without either says what a figure depends on, the widest first', () => {
    const { code, out } = study('--figures', 'peak-current');
    expect(code).toBe(0);
    expect(out).toMatch(
      /^Peak current: 17\.3 kA\n {2}Field or scatter +over +at its low end +at its high end +share of variance/,
    );
  });

  test.each([
    [['--vary', 'store.Vo=1..2/3'], '--vary store.Vo=1..2/3: store.Vo is no quantity'],
    [['--vary', 'store.V0=1 kV..2 kV/3', '--scatter', '200'], 'ask for one of them'],
    [
      ['--vary', 'store.V0=1 kV..2 kV/2000', '--vary', 'store.C=1 uF..1 mF/2000'],
      '4,000,000 points are asked for; at most 20,000',
    ],
    [['--scatter', '5'], '--scatter is "5"; it must be a whole number from 100 to 1000000'],
    [['--scatter', '200', '--figures', 'solver:current'], 'takes closed forms'],
    [['--scatter', '200', '--goal', 'charge-time=1 s..'], 'is none of the figures that are asked'],
    [['--scatter', '200', '--goal', 'peak-current=1 kA'], 'must be a range'],
    [['--scatter', '200', '--goal', 'peak-current=1 mm..'], '--goal peak-current, "1 mm"'],
    [['--scatter', '200', '--distribution', 'odd'], '--distribution is "odd"; it must be one of uniform, normal'],
    [['--figures', 'peak-curent'], '--figures has "peak-curent", which this rig does not have; it has stored-energy'],
    [['--vary', 'store.V0=1 kV..2 kV/3', '--out', 'x.txt'], 'its name must end in .csv or .parquet'],
    [['--vary', 'store.V0=1 kV..2 kV/3', '--out', '/nowhere/x.csv'], '--out: /nowhere/x.csv cannot be written'],
  ])('%j is refused by name', (args, words) => {
    const { code, out, err } = study(...args);
    expect([code, out]).toEqual([2, '']);
    expect(err).toContain(words);
  });
});

describe('surge design', () => {
  const design = (...args: string[]) => surge('design', ...args);

  test('with --worst the goal holds over the tolerances too, and says so', () => {
    const asked = ['energy', 'V=700 V', 'E=60 J', '--within', 'margin=20 %'];
    const [nominal, worst] = [design(...asked, '--json'), design(...asked, '--json', '--worst')].map(
      ({ out }) =>
        (JSON.parse(out) as { designs: { title: string; reached: { value: number; band: { low: number } }[] }[] }).designs,
    );
    expect(worst?.length).toBeGreaterThan(0);
    for (const { reached } of worst ?? []) expect(reached[0]?.band.low).toBeGreaterThanOrEqual(60);
    expect(nominal?.some(({ reached }) => (reached[0]?.band.low ?? NaN) < 60)).toBe(true);
    expect(design(...asked, '--worst').out).toContain('designs meet the goal at the worst corner, with every limit judged');
  });

  test('finds whole rigs out of a shelf, with what each takes, and writes one as a rig file', () => {
    const file = join(folder, 'designed.json');
    const asked = ['energy', 'V=900 V', 'E=30 J', '--within', 'budget=400', '--shelf', 'demo/bench/shelf.json'];
    const { code, out } = design(...asked, '--out', file);
    expect(code).toBe(0);
    expect(out).toMatch(/designs meet the goal with every limit judged/);
    expect(out).toMatch(/Store: \d+ × .*on the shelf: C-0/);
    const { designs } = JSON.parse(design(...asked, '--json').out) as {
      designs: { voltage: number; cost: number; energy: number }[];
    };
    const page = JSON.parse(surge('evaluate', file, '--json').out) as { figures: Record<string, { value: number }> };
    expect(page.figures['stored-energy']?.value).toBe(designs[0]?.energy);
    expect(designs.every(({ cost }) => cost <= 400)).toBe(true);
  });

  test('a wish or a bound that there is not, or that cannot be had, ends with its name', () => {
    expect(design('gold').err).toMatch(/GOAL "gold" is not one of energy, field/);
    expect(design('field', 'Q=4').err).toMatch(/WISH "Q=4" is not one of B=/);
    expect(design('field', 'B=4 V').err).toMatch(/B: /);
    expect(design('energy', 'E=10 J', '--within', 'money=4').err).toMatch(/--within "money=4"/);
    expect(design('pulse', 'V=100 kV', '--within', 'budget=1', '--out', join(folder, 'none.json')).err).toMatch(
      /no design meets/,
    );
  });
});
