import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ICAL from 'ical.js';
import { afterAll, describe, expect, test } from 'vitest';
import { commandNames, run } from './run.ts';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Runs a command as the terminal does, in this process. */
function surge(...args: string[]): { code: number; out: string; err: string } {
  let [out, err] = ['', ''];
  const code = run(args, { out: (text) => (out += text), err: (text) => (err += text) });
  return { code, out, err };
}

/** Runs the real launcher from another folder, without a database. */
function launcher(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(join(root, 'surge'), args, {
    encoding: 'utf8',
    cwd: join(root, 'demo'),
    env: { ...process.env, DATABASE_URL: '' },
  });
  return { code: status, out: stdout, err: stderr };
}

test('the launcher hands commands on, finds files from where it is called, and ends with their exit code', () => {
  expect(launcher('calc', 'stored-energy', 'C=3900u', 'V=46')).toMatchObject({
    code: 0,
    out: expect.stringContaining('E = 4.126'),
  });
  expect(launcher('evaluate', 'anvil.json')).toMatchObject({ code: 0, out: expect.stringContaining('Anvil') });
  // What the program can do the launcher hands on, and its help tells of.
  expect(
    /terminal_commands='(.*)'/
      .exec(readFileSync(join(root, 'surge'), 'utf8'))?.[1]
      ?.trim()
      .split(' ')
      .sort(),
  ).toEqual(commandNames().sort());
  const help = launcher('help').out;
  expect(commandNames().filter((name) => !new RegExp(`[ |] ?${name} `).test(help))).toEqual([]);
  expect(launcher('plan', 'thimble.json', '--vary', 'store.V0=20 V..36 V/3', '--session', '2026-12-05 10:00 3h')).toMatchObject({
    code: 0,
    out: expect.stringContaining('Thimble'),
  });
  expect(launcher('calc', 'stored-energy', 'C=0', 'V=5')).toMatchObject({
    code: 2,
    out: '',
    err: expect.stringContaining('C (capacitance) is 0 F'),
  });
});

const json = (...args: string[]) => JSON.parse(surge(...args, '--json').out) as Record<string, unknown>;

describe('surge calc', () => {
  test.each<[string[], string, number]>([
    [['stored-energy', 'C=3900u', 'V=46'], 'E', 4.1262],
    [['rlc-peak-current', 'R=20mΩ', 'L=1u', 'C=1 mF', 'V=500'], 'Ip', 10426.83],
    [['rc-charge-time', 'R=10k', 'C=470u', 'Vs=400', 'V=360'], 't', 10.82215],
    [['stored-energy', 'E=400', 'C=100u', '--solve', 'V'], 'V', 2828.4271],
    [['rlc-damping-ratio', 'ζ=1', 'L=1u', 'C=1u', '--solve', 'R'], 'R', 2],
    [['series-parallel-capacitance', 'C=10u', 'np=4', 'Cb=10u', '--solve', 'ns'], 'ns', 4],
  ])('%j', (args, symbol, value) => {
    const answer = json('calc', ...args);
    expect(answer).toMatchObject({
      id: args[0],
      symbol,
      unit: expect.any(String),
      working: { expression: expect.any(String), substitution: expect.any(String), source: expect.any(String) },
    });
    expect(Math.abs(Number(answer['value']) / value - 1)).toBeLessThan(1e-6);
  });

  test.each<[string[], RegExp]>([
    [['nonsense'], /id: there is no formula "nonsense"/],
    [['stored-energy', 'C=0', 'V=5'], /C \(capacitance\) is 0 F; it must be above 0 F/],
    [['stored-energy', 'C=1u'], /V \(voltage, V\) is missing/],
    [['stored-energy', 'C=1e30', 'V=1'], /C .*up to 100 kF/],
    [['stored-energy', 'C=5V', 'V=1'], /C .*unit of a voltage/],
    [['stored-energy', 'C=', 'V=1'], /C .*is empty/],
    [['stored-energy', 'X=1'], /X: stored-energy has no such symbol; it has C, V, E/],
    [['stored-energy', 'C=1u', 'C=2u', 'V=1'], /C is given twice/],
    [['rlc-damping-ratio', 'R=5 m', 'L=1u', 'C=1u'], /R .*doubtful/],
    [['stored-energy', 'C=1u ±5%', 'V=1'], /C .*takes no tolerance/],
    [['stored-energy', 'C', 'V=1'], /not SYMBOL=QUANTITY/],
    [['stored-energy', 'C=1u', '--solve', 'V'], /E \(stored energy\) is missing/],
    [['rc-charge-time', 'R=1k', 'C=1u', 'Vs=10', 'V=10'], /V: the voltage to reach must be below/],
    [[], /missing required argument/],
  ])('%j is refused with exit code 2, naming the field', (args, message) => {
    const { code, err, out } = surge('calc', ...args);
    expect([code, out]).toEqual([2, '']);
    expect(err).toMatch(message);
  });
});

test('surge formulas lists what the terminal contract names', () => {
  const listed = (JSON.parse(surge('formulas', '--json').out) as { id: string; inputs: Record<string, unknown> }[]).map(
    (f) => `${f.id} ${Object.keys(f.inputs).join(',')}`,
  );
  for (const wanted of [
    'stored-energy C,V',
    'stored-charge C,V',
    'series-parallel-capacitance C,ns,np',
    'rc-charge-time R,C,Vs,V',
    'rc-bleed-time R,C,V0,V',
    'bleed-peak-power R,V',
    'rlc-damping-ratio R,L,C',
    'rlc-peak-current R,L,C,V',
    'rlc-time-to-peak R,L,C',
    'rlc-voltage-reversal R,L,C',
    'action-integral C,V,R',
    'straight-wire-inductance l,d',
    'loop-inductance D,d',
  ])
    expect(listed).toContain(wanted);
});

describe('surge evaluate and surge runsheet', () => {
  const anvil = join(root, 'demo/anvil.json');
  test('the JSON has figures by id, limits and problems', () => {
    const answer = json('evaluate', anvil) as {
      figures: Record<string, Record<string, unknown>>;
      limits: Record<string, unknown>[];
      problems: unknown[];
    };
    expect(answer.figures['stored-energy']).toMatchObject({
      value: expect.any(Number),
      unit: 'J',
      low: expect.any(Number),
      high: expect.any(Number),
    });
    for (const l of answer.limits)
      expect(l).toMatchObject({ id: expect.any(String), stress: expect.any(Number), unit: expect.any(String) });
    expect(answer.limits[0]).toMatchObject({ rating: expect.any(Number), utilisation: expect.any(Number) });
    expect(Array.isArray(answer.problems)).toBe(true);
  });
  test('the text is for a person, and the run sheet is Markdown', () => {
    expect(surge('evaluate', anvil).out).toMatch(/Hazard: can kill[\s\S]*Limits, tightest first/);
    expect(surge('runsheet', anvil).out).toMatch(/^# Run sheet: Anvil/);
  });
  test.each<[string, string, RegExp]>([
    ['truncated', '{"format":', /not complete JSON/],
    ['of a newer version', '{"format":"vast-surge-rig","version":9}', /newer Vast Surge/],
    [
      'with a bad field',
      '{"format":"vast-surge-rig","version":1,"name":"x","rig":{"supply":{"kind":"dc-source","fields":{"V":"0"}}}}',
      /rig\.supply\.fields\.V is 0 V/,
    ],
    ['of fifty megabytes', ' '.repeat(50 * 1024 * 1024), /larger than any that is read here/],
  ])('a file %s is refused with exit code 2', (_name, text, message) => {
    const path = join(mkdtempSync(join(tmpdir(), 'surge-')), 'rig.json');
    writeFileSync(path, text);
    for (const command of ['evaluate', 'runsheet']) {
      const { code, err } = surge(command, path);
      expect(code).toBe(2);
      expect(err).toMatch(message);
    }
  });
  test('a file that is not there is refused', () =>
    expect(surge('evaluate', '/nowhere/rig.json')).toMatchObject({ code: 2, err: expect.stringContaining('cannot be read') }));
});

describe('surge simulate', () => {
  const folder = mkdtempSync(join(tmpdir(), 'surge-simulate-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const file = (text: string): string => {
    const path = join(folder, `${Math.random().toString(36).slice(2)}.cir`);
    writeFileSync(path, text);
    return path;
  };

  test('runs a netlist, says how its energy closes, and writes its traces', () => {
    // 100 µF at 100 V through 10 Ω and 1 mH: ζ = 1.58, half a joule.
    const path = file('* bank\nC1 a 0 100u IC=100\nL1 a b 1m\nR1 b 0 10\n');
    const out = join(folder, 'trace.csv');
    const made = surge('simulate', path, '--until', '5m', '--out', out, '--json');
    const said = JSON.parse(made.out) as {
      outcome: string;
      closure: number;
      energy: { before: number };
      extremes: Record<string, { high: number }>;
    };
    expect([made.code, said.outcome]).toEqual([0, 'done']);
    expect(said.energy.before).toBeCloseTo(0.5, 9);
    expect(said.closure).toBeLessThan(1e-4);
    // The closed form of the overdamped discharge: roots −5000 ± 3873 1/s.
    const [s1, s2] = [-5000 + Math.sqrt(1.5e7), -5000 - Math.sqrt(1.5e7)];
    const at = Math.log(s2 / s1) / (s1 - s2);
    const peak = (100 / (1e-3 * (s1 - s2))) * (Math.exp(s1 * at) - Math.exp(s2 * at));
    expect((said.extremes['I(L1)']?.high ?? 0) / peak).toBeCloseTo(1, 3);
    const [head, first] = readFileSync(out, 'utf8').split('\n');
    expect(head).toBe('t,V(a),V(b),I(L1)');
    expect(first?.split(',').map((cell) => Math.round(Number(cell)))).toEqual([0, 100, 0, 0]);
    expect(surge('simulate', path, '--until', '5 ms').out).toMatch(/bank: done at 5\.00 ms;/);
    expect(surge('simulate', new URL('../demo/thimble-rectifier.cir', import.meta.url).pathname, '--until', '1 s').out).toContain(
      'D1 on at',
    );
  });

  test('takes a rig file as well, in each of its scenes, and writes its circuit, which runs to the same end', () => {
    const anvil = join(root, 'demo/anvil.json');
    const cir = join(folder, 'anvil.cir');
    const first = surge('simulate', anvil, '--until', '300u', '--cir', cir, '--json');
    expect(first.code).toBe(0);
    expect(readFileSync(cir, 'utf8')).toMatch(/^\* Anvil: discharge\n\* ESL and ESR of the bank\nLst /);
    const again = surge('simulate', cir, '--until', '300u', '--json');
    const peak = (text: string) => (JSON.parse(text) as { extremes: Record<string, { high: number }> }).extremes['I(Lld)']?.high;
    expect(peak(first.out)).toBeGreaterThan(17e3);
    expect(peak(again.out)).toBe(peak(first.out));
    expect(surge('simulate', anvil, '--scene', 'charge', '--until', '80').out).toMatch(/Anvil: charge: done at 80\.0 s/);
    expect(surge('simulate', anvil, '--scene', 'party', '--until', '1').err).toMatch(
      /--scene is "party"; it must be one of charge/,
    );
    expect(surge('simulate', join(root, 'package.json'), '--until', '1').err).toMatch(/not a rig file/);
  });

  test.each<[string, string, string[], RegExp]>([
    ['a line that is none', 'C1 a 0 1u\nZZ\n', ['--until', '1m'], /FILE\.cir, line 2: "ZZ": a line begins with R, C, L/],
    ['a floating node', 'C1 a b 1u\nR1 c 0 1\n', ['--until', '1m'], /C1: nothing ties node a, b to node 0/],
    ['a resistor of zero', 'R1 a 0 0\n', ['--until', '1m'], /R1: R is 0; it must be above 0/],
    ['no time', 'R1 a 0 1\n', ['--until', '0'], /until is 0 s; it must be above 0 s/],
    ['a voltage for a time', 'R1 a 0 1\n', ['--until', '5 V'], /--until "V" is the unit of a voltage/],
    ['a tolerance out of range', 'R1 a 0 1\n', ['--until', '1m', '--tolerance', '3'], /--tolerance must be from 1e-12 to 0\.1/],
  ])('%s is refused by name, with exit code 2', (_name, text, options, message) => {
    const { code, err } = surge('simulate', file(text), ...options);
    expect([code, err]).toEqual([2, expect.stringMatching(message)]);
  });
});

describe('surge compose', () => {
  const folder = mkdtempSync(join(tmpdir(), 'surge-compose-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const file = (text: string): string => {
    const path = join(folder, `${Math.random().toString(36).slice(2)}.csv`);
    writeFileSync(path, text);
    return path;
  };
  const shelf = ['id,capacitance,rating', ...[1010, 960, 1120, 880, 1040, 930, 990].map((c, i) => `P${i + 1},${c} µF,450 V`)];

  test('the JSON names groups, shares and the usable voltage; every part is used once or spare', () => {
    const { code, out } = surge('compose', file(shelf.join('\n')), '--voltage', '1.2 kV', '--json');
    const made = JSON.parse(out) as {
      ns: number;
      np: number;
      meets: boolean;
      usableVoltage: number;
      usableVoltageWorst: number;
      groups: { parts: string[]; share: number }[];
      spares: string[];
    };
    expect([code, made.ns, made.np, made.meets]).toEqual([0, 3, 2, true]);
    expect(made.usableVoltage).toBeGreaterThan(made.usableVoltageWorst);
    expect(made.usableVoltageWorst).toBeGreaterThan(1200);
    expect(made.groups.reduce((sum, g) => sum + g.share, 0)).toBeCloseTo(1, 12);
    expect([...made.groups.flatMap((g) => g.parts), ...made.spares].sort()).toEqual(['P1', 'P2', 'P3', 'P4', 'P5', 'P6', 'P7']);
  });

  test('a table as other programs write it is read too: byte-order mark, semicolons, decimal commas, other names of columns', () => {
    const text = '\uFEFFPart;C;Tolerance;V\r\nleft;1,5 mF;±2 %;450\r\nright;1,5 mF;2 %;450\r\n';
    const { code, out } = surge('compose', file(text), '--voltage', '800', '--ns', '2', '--np', '1');
    expect([code, out]).toEqual([
      0,
      expect.stringMatching(/usable to 900 V, at the worst corner of the measurements 882[.\d]* V/),
    ]);
  });

  test('an export of the bench is composed by what was measured, of the capacitors that a filter finds', () => {
    const json = file(readFileSync(new URL('../demo/bench/shelf.json', import.meta.url), 'utf8'));
    const options = ['--voltage', '2.4 kV', '--margin', '5%', '--energy', '200 J', '--filter', 'film good C<50u', '--json'];
    const { code, out } = surge('compose', json, ...options);
    const made = JSON.parse(out) as { ns: number; np: number; meets: boolean; groups: { parts: string[] }[] };
    expect([code, made.ns, made.np, made.meets]).toEqual([0, 3, 7, true]);
    expect(made.groups.flatMap((g) => g.parts).every((tag) => /^C-0[012]\d$/.test(tag))).toBe(true);
    const csv = 'id,tag,kind,name,quantity,C,Vac\n,A,capacitor,x,3,1 µF,250 V\n,B,resistor,y,1,,\n';
    expect(surge('compose', file(csv), '--voltage', '300', '--json').out).toContain('"A#3"');
    const bad = surge('compose', file(csv.replace('1 µF', '-1 µF')), '--voltage', '300');
    expect([bad.code, bad.err]).toEqual([2, expect.stringMatching(/row 2, C: is −1 µF; it must be above 0 F/)]);
    expect(surge('compose', json, '--voltage', '5', '--filter', 'C>').err).toMatch(/--filter C> is followed by a value/);
    expect(surge('compose', json, '--voltage', '5', '--filter', 'nothing-like-it').err).toMatch(/no capacitor in it fits/);
  });

  test.each<[string, string, string[], RegExp]>([
    ['a column that is not there', 'id,C\na,1u\n', ['--voltage', '5'], /no column for rating; it may be named rating, dc rating/],
    [
      'rows that cannot be read',
      'id,C,V\na,lots,5 V\n,1u,5 A\n',
      ['--voltage', '5'],
      /row 2, C: "lots" is not a quantity[\s\S]*row 3, id: is empty[\s\S]*row 3, V: "A" is the unit of a current/,
    ],
    ['an id twice', 'id,C,V\na,1u,5\na,1u,5\n', ['--voltage', '5'], /a: this id is given twice/],
    ['no rows', 'id,C,V\n', ['--voltage', '5'], /a head and no rows/],
    ['a broken quote', 'id,C,V\n"a,1u,5\n', ['--voltage', '5'], /row \d: .*[Qq]uote/],
    [
      'too many parts',
      ['id,C,V', ...Array.from({ length: 501 }, (_, i) => `p${i},1u,5`)].join('\n'),
      ['--voltage', '5'],
      /there are 501, and at most 500/,
    ],
    ['a voltage of another kind', shelf.join('\n'), ['--voltage', '5 A'], /--voltage "A" is the unit of a current/],
    ['more than there is', shelf.join('\n'), ['--voltage', '5', '--ns', '4', '--np', '2'], /there are 7, and 8 are needed/],
  ])('%s is refused by name, with exit code 2', (_name, text, options, message) => {
    const { code, err } = surge('compose', file(text), ...options);
    expect([code, err]).toEqual([2, expect.stringMatching(message)]);
  });
});

test('surge expect learns from shots as the shot log saves them, and names what it cannot read', () => {
  const folder = mkdtempSync(join(tmpdir(), 'surge-expect-'));
  const path = join(folder, 'shots.json');
  const shot = (voltage: number, current: number, i: number) => ({
    shot: { at: `2026-05-01T10:${10 + i}:00.000Z`, outcome: 'fired', set: { voltage }, measured: { current } },
  });
  const write = (shots: unknown) => {
    writeFileSync(path, JSON.stringify({ format: 'vast-surge-shots', version: 1, shots }));
  };
  try {
    const thimble = join(root, 'demo/thimble.json');
    // Nine tenths of 5.03 A a volt, which is what the page of Thimble calculates at any voltage.
    write([20, 24, 28, 32, 36, 30, 26].map((V, i) => shot(V, 0.9 * 5.03 * V * (1 + 0.004 * Math.sin(5 * i)), i)));
    const text = surge('expect', thimble, path).out;
    expect(text).toMatch(/Peak current +expected 16\d A \(90 %: 16\d A to 17\d A\), calculated 186 A/);
    expect(text).toMatch(/misfires 0 of 7 \(90 %: 0 % to 35 %\)/);
    const { measures } = json('expect', thimble, path) as { measures: { measure: string; bias: { middle: number } }[] };
    expect(measures.find(({ measure }) => measure === 'current')?.bias.middle).toBeCloseTo(0.9, 1);
    write([{ shot: { at: 'yesterday', outcome: 'fired', set: {}, measured: {} } }]);
    expect(surge('expect', thimble, path)).toMatchObject({
      code: 2,
      err: expect.stringMatching(/shot 1: at must be a date and time/),
    });
    writeFileSync(path, '{"shots": []}');
    expect(surge('expect', thimble, path)).toMatchObject({
      code: 2,
      err: expect.stringMatching(/what the shot log saves as JSON/),
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
});

describe('surge plan', () => {
  const thimble = join(root, 'demo/thimble.json');
  const plan = (...more: string[]) =>
    surge('plan', thimble, '--vary', 'store.V0=20 V..36 V/5', '--session', '2026-12-05 10:00 3h', ...more);

  test('five voltages, three shots each, one Saturday: what is set when, what is calculated, and that all of it fits', () => {
    const { out } = plan();
    expect(out).toMatch(/^# Thimble: 15 shots at 5 settings/);
    expect(out.match(/\*\*set:\*\*/g)).toHaveLength(5);
    expect(out).toMatch(/\| 10:0\d \| 1 \| \*\*set:\*\* Charged to/);
    expect(out).toMatch(/All of them fit\./);
    expect(surge('plan', thimble, '--vary', 'store.V0=20 V, 30 V', '--session', '2026-12-05 10:00 30min').out).toMatch(
      /of 6 shots do not fit/,
    );
    expect(plan('--format', 'csv').out.split('\n')[0]).toContain('store.V0');
  });

  test('what shots use up is counted, the own and that of the rig; who is there stands with the hours', () => {
    const { out } = plan('--stock', 'Foil=1 of 4 sheets', '--session', '2026-12-12 10:00 2h / IW holds the key');
    expect(out).toContain('- Foil: all 15 shots take 15 sheets, 4 sheets are there: for 4, then 11 sheets more.');
    expect(out).toContain('IW holds the key. Prepare');
    expect(plan('--stock', 'Foil').err).toMatch(/--stock is "Foil"; it must say what a shot takes/);
    expect(plan('--have', 'load.wire=2 m').err).toMatch(/--have load\.wire: is not used up by this rig/);
    const taught = plan('--design', 'next-best', '--format', 'json');
    expect((JSON.parse(taught.out) as { shots: number }).shots).toBe(15);
  });

  test('as a calendar, read back by another reader: an event for each session, with its hours', () => {
    const { out } = plan('--session', '2026-12-12 10:00 2h', '--format', 'ics');
    const events = new ICAL.Component(ICAL.parse(out) as unknown[])
      .getAllSubcomponents('vevent')
      .map((one) => new ICAL.Event(one));
    expect(events).toHaveLength(2);
    expect(events.map((event) => event.duration.toSeconds())).toEqual([10_800, 7200]);
    expect(events[0]?.startDate.toJSDate()).toEqual(new Date(2026, 11, 5, 10));
    expect(events[0]?.summary).toMatch(/^Thimble: session 1, \d+ shots$/);
    expect(events[0]?.description).toMatch(/10:0\d Charged to/);
  });

  test.each<[string[], RegExp]>([
    [['--vary', 'store.V0=20 V, 20 V'], /--vary store\.V0: (two levels are the same|is varied twice)/],
    [['--vary', 'store.X=1'], /--vary store\.X: is no quantity of this rig/],
    [['--vary', 'store.V0=ten'], /--vary store\.V0, "ten"/],
    [['--session', 'Saturday'], /--session is "Saturday"; it must be a start and a length/],
    [['--repeat', '0'], /--repeat is "0"; it must be a whole number from 1 to 100/],
    [['--order', 'any'], /--order is "any"; it must be one of blocks, rising, random, latin/],
  ])('%j is refused, naming the option', (args, message) => {
    expect(plan(...args)).toMatchObject({ code: 2, out: '', err: expect.stringMatching(message) });
  });
});

describe('surge campaign', () => {
  const folder = mkdtempSync(join(tmpdir(), 'surge-'));
  afterAll(() => rmSync(folder, { recursive: true }));

  /** The demo's campaign that is answered, as its page saves it. */
  function saved(change: (file: Record<string, unknown>) => object = (file) => file): string {
    const [demo] = JSON.parse(readFileSync(join(root, 'demo/record/campaigns.json'), 'utf8')) as Record<string, unknown>[];
    const { plan, shots, question, answers, order, rest, sessions, stopAfter, by } = demo as Record<string, never> & {
      plan: object;
      shots: { place: number }[];
      sessions: { start: string }[];
    };
    const campaignId = '00000000-0000-4000-8000-000000000900';
    const file = {
      format: 'vast-surge-campaign',
      version: 1,
      rigName: 'Kittiwake',
      campaign: {
        ...plan,
        question,
        answers,
        order,
        rest,
        stopAfter,
        by,
        design: 'factorial',
        sessions: sessions.map((one) => ({ ...one, start: Date.parse(one.start) })),
      },
      entries: [],
      shots: shots.map(({ place, ...shot }, n) => ({
        id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
        shot: { ...shot, set: {}, campaign: { id: campaignId, place } },
        predicted: {},
      })),
    };
    const path = join(folder, 'campaign.json');
    writeFileSync(path, JSON.stringify(change(file)));
    return path;
  }

  test('says the answer, every shot, and what is left in the hours that are named', () => {
    const path = saved();
    expect(surge('campaign', path).out).toMatch(/## Answer\n\nLight is highest at Stages charged to 16\.6 kV/);
    expect(surge('campaign', path, '--format', 'csv').out.split('\n')).toHaveLength(1 + 26);
    const half = saved((file) => ({
      ...file,
      shots: (file['shots'] as { shot: { campaign: { place: number } } }[]).filter(({ shot }) => shot.campaign.place < 20),
    }));
    const left = JSON.parse(surge('campaign', half, '--format', 'json', '--session', '2099-12-05 10:00 3h').out) as {
      fired: number;
      left: number;
      sessions: { shots: { shot: number }[] }[];
      withoutHour: number[];
    };
    expect([left.fired, left.left]).toEqual([20, 4]);
    expect([...left.sessions.flatMap(({ shots }) => shots.map(({ shot }) => shot)), ...left.withoutHour]).toEqual([
      21, 22, 23, 24,
    ]);
    const calendar = surge('campaign', half, '--format', 'ics', '--session', '2099-12-05 10:00 3h').out;
    expect(new ICAL.Component(ICAL.parse(calendar) as unknown[]).getAllSubcomponents('vevent')).toHaveLength(1);
  });

  test.each<[(file: Record<string, unknown>) => object, RegExp]>([
    [(file) => ({ ...file, format: 'other' }), /CAMPAIGN\.json: .*format must be "vast-surge-campaign"/],
    [(file) => ({ ...file, entries: [{ kind: 'erased' }] }), /CAMPAIGN\.json: .*entries/],
    [(file) => ({ ...file, campaign: { ...(file['campaign'] as object), row: [99] } }), /setting that it does not have/],
  ])('what is no campaign is refused by its field', (change, message) => {
    expect(surge('campaign', saved(change))).toMatchObject({ code: 2, out: '', err: expect.stringMatching(message) });
  });
});
