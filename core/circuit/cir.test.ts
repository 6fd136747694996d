import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cirNumber } from './cir.ts';
import { netlistText, readNetlist, simulateCircuit, type Element, type Netlist } from './index.ts';

const value = fc.double({ min: 1e-12, max: 1e9, noNaN: true });
const node = fc.constantFrom('0', 'a', 'b', 'out', '12');
const nodes = fc.tuple(node, node);
const wave = fc.oneof(
  value.map((v) => ({ kind: 'dc' as const, value: v })),
  fc
    .tuple(value, value, value)
    .map(([offset, amplitude, frequency]) => ({ kind: 'sine' as const, offset, amplitude, frequency })),
  fc.array(fc.tuple(value, value), { minLength: 1, maxLength: 5 }).map((points) => ({
    kind: 'piecewise' as const,
    points: points.sort(([a], [b]) => a - b),
  })),
);
const element: fc.Arbitrary<(name: string) => Element> = fc.oneof(
  fc.tuple(nodes, value).map(([n, R]) => (i: string): Element => ({ kind: 'resistor', name: `R${i}`, nodes: n, R })),
  fc
    .tuple(nodes, value, value)
    .map(([n, C, V0]) => (i: string): Element => ({ kind: 'capacitor', name: `C${i}`, nodes: n, C, V0 })),
  fc
    .tuple(nodes, value, value)
    .map(([n, L, I0]) => (i: string): Element => ({ kind: 'inductor', name: `L${i}`, nodes: n, L, I0, R: 0 })),
  fc
    .tuple(nodes, wave)
    .map(([n, w]) => (i: string): Element => ({ kind: 'voltage-source', name: `V${i}`, nodes: n, wave: w, R: 0 })),
  fc.tuple(nodes, value).map(([n, Vf]) => (i: string): Element => ({ kind: 'diode', name: `D${i}`, nodes: n, Vf, Ron: 1e-3 })),
  fc.tuple(nodes, value).map(([n, breakdown]) => (i: string): Element => ({
    kind: 'gap',
    name: `X${i}`,
    nodes: n,
    breakdown,
    L: 1e-8,
    arc: { law: 'fixed', R: 0.1 },
    fireAt: 1e-6,
  })),
  fc.tuple(nodes, value, fc.constantFrom('toepler', 'rompe-weizel')).map(([n, v, law]) => (i: string): Element => ({
    kind: 'gap',
    name: `X${i}`,
    nodes: n,
    breakdown: v,
    scatter: 0.03,
    recovery: 1e-3,
    L: 1e-8,
    arc: law === 'toepler' ? { law, k: v, d: 1e-2, Rmin: 0.1 } : { law: 'rompe-weizel', a: v, d: 1e-2, Rmin: 0.1 },
  })),
  fc.tuple(nodes, value, fc.boolean()).map(([n, v, bothWays]) => (i: string): Element => ({
    kind: 'thyristor',
    name: `X${i}`,
    nodes: n,
    Vf: 1,
    Ron: v,
    gate: { from: 0, until: v },
    latching: 0.1,
    holding: 0.05,
    turnOff: 1e-5,
    bothWays,
  })),
  fc.tuple(nodes, value, value).map(([n, P, Voff]) => (i: string): Element => ({
    kind: 'power-source',
    name: `X${i}`,
    nodes: n,
    P,
    Imax: 1,
    Voff,
    Von: Voff / 2,
  })),
  fc
    .tuple(
      nodes,
      fc.oneof(
        fc.record({ by: fc.constant('time' as const), closeAt: value }),
        fc.record({ by: fc.constant('voltage' as const), nodes, above: value, below: value }),
        fc.record({ by: fc.constant('current' as const), of: fc.constant('R1'), above: value, below: value }),
      ),
    )
    .map(([n, control]) => (i: string): Element => ({ kind: 'switch', name: `S${i}`, nodes: n, Ron: 1e-3, control })),
);

describe('a netlist file', () => {
  test('is read back as it was written', () =>
    fc.assert(
      fc.property(fc.array(element, { minLength: 1, maxLength: 12 }), (makers) => {
        const netlist: Netlist = { title: 'made up', elements: makers.map((make, i) => make(String(i))) };
        expect(readNetlist(netlistText(netlist, (e) => `what ${e.name} is`))).toEqual({ ok: true, netlist });
      }),
    ));

  test.each<[string, number]>([
    ['4.7u', 4.7e-6],
    ['10MEG', 1e7],
    ['10meg', 1e7],
    ['5m', 5e-3],
    ['100pF', 1e-10],
    ['2.2kOhm', 2200],
    ['1e-9', 1e-9],
    ['1.5E3k', 1.5e6],
    ['33', 33],
  ])('%s is %d (old line syntax: M is milli, MEG is mega)', (text, expected) =>
    expect(cirNumber(text)).toBeCloseTo(expected, 15),
  );

  test('goes on over lines, with comments, brackets and any case, and is solved', () => {
    const text = '* bank\nv1 in 0 dc 10 ; supply\nr1 in c\n+ 1k\nc1 c 0 1u ic=2\n.END\nrubbish that is never read';
    const read = readNetlist(text);
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    const made = simulateCircuit(read.netlist, { until: 1e-3, tolerance: 1e-8, probes: [{ of: 'nodes', nodes: ['c', '0'] }] });
    expect(made.traces[0]?.y.at(-1)).toBeCloseTo(10 - 8 * Math.exp(-1), 6);
  });

  test.each<[string, RegExp]>([
    ['R1 a 0', /1: resistance is missing/],
    ['R1 a', /1: two nodes are wanted/],
    ['R1 a 0 ten', /1: resistance is "ten", which is no number/],
    ['* x\nQ1 a b c', /2: begins with "Q1"; a line is one of R, C, L/],
    ['.include /etc/passwd', /1: .*(begins with|two nodes)/],
    ['R1 a 0 `rm -rf`', /1: resistance is/],
    ['X1 a 0 TUBE VB=3', /1: X is a GAP, an SCR or a POWER; "TUBE" is not known/],
    ['V1 a 0 PWL(0 1 2)', /1: PWL takes pairs/],
    ['V1 a 0 PWL(1 1 0 2)', /1: the times of PWL must not fall/],
    ['X1 a 0 GAP VB=3 LAW=WISH', /1: LAW is one of FIXED, TOEPLER, ROMPE/],
    ['V1 a 0 SIN(0 1 50 1m)', /1: SIN takes no delay/],
    ['S1 a 0 RON=1', /1: CLOSE \(time at which it closes\) is missing/],
    ['R'.repeat(1024 * 1024 + 1), /1: the file has 1048577 characters/],
  ])('%.30s is refused by line and reason', (text, reason) => {
    const read = readNetlist(text);
    expect(read.ok ? 'taken' : read.issues.map((i) => `${i.line}: ${i.reason}`).join()).toMatch(reason);
  });

  test('no text makes the reader throw', () =>
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(() => readNetlist(text)).not.toThrow();
      }),
    ));
});
