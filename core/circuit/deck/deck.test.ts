import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { deckNumber, netlistText, readNetlist, recordedCoil, simulateCircuit, type Element, type Netlist } from '../index.ts';

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
    // Two at one time are a step, which other simulators do not take.
    points: points.sort(([a], [b]) => a - b).filter(([t], k) => k === 0 || t !== points[k - 1]?.[0]),
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
        fc
          .tuple(nodes, fc.integer({ min: 1, max: 1000 }), fc.integer({ min: 1, max: 1000 }))
          .map(([n, a, b]) => ({ by: 'voltage' as const, nodes: n, above: Math.max(a, b), below: Math.min(a, b) })),
      ),
    )
    .map(([n, control]) => (i: string): Element => ({ kind: 'switch', name: `S${i}`, nodes: n, Ron: 1e-3, control })),
);

describe('a netlist file', () => {
  test('is read back as it was written', () =>
    fc.assert(
      fc.property(fc.array(element, { minLength: 1, maxLength: 12 }), (makers) => {
        const netlist: Netlist = { title: 'made up', elements: makers.map((make, i) => make(String(i))) };
        const text = netlistText(netlist, { comment: (e) => `what ${e.name} is`, until: 2e-3 });
        expect(readNetlist(text)).toEqual({ ok: true, netlist, until: 2e-3 });
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
    ['4k7', 4700],
    ['2u2', 2.2e-6],
    ['1r5', 1.5],
    ['4.7µ', 4.7e-6],
    ['10µF', 1e-5],
  ])('%s is %d (old line syntax: M is milli, MEG is mega)', (text, expected) =>
    expect(deckNumber(text)).toBeCloseTo(expected, 15),
  );

  test('goes on over lines, with comments, brackets and any case, and is solved', () => {
    const text = '* bank\nv1 in 0 DC 10 ; supply\nr1 in c\n+ 1k\nc1 c 0 1u ic=2\n.END\nrubbish that is never read';
    const read = readNetlist(text);
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    const made = simulateCircuit(read.netlist, { until: 1e-3, tolerance: 1e-8, probes: [{ of: 'nodes', nodes: ['c', '0'] }] });
    expect(made.traces[0]?.y.at(-1)).toBeCloseTo(10 - 8 * Math.exp(-1), 6);
  });

  const solvedAt = (text: string, node: string, until: number): number => {
    const read = readNetlist(text);
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    const made = simulateCircuit(read.netlist, { until, tolerance: 1e-8, probes: [{ of: 'nodes', nodes: [node, '0'] }] });
    return made.traces[0]?.y.at(-1) ?? NaN;
  };

  test.each<[string, string, number]>([
    ['blanks about =', 'Bank\nC1 a 0 10u IC = 400\nR1 a 0 1meg', 400],
    ['a source with DC and a shape', 'V1 a 0 DC 0 PULSE(0 7 0 0 0 1 2)\nR1 a 0 1k', 7],
    ['a source with a value and a shape', 'V1 a 0 0 SIN(0 5 1k 0 0 90)\nR1 a 0 1k', 5],
    ['a pulse without width stays', 'V1 a 0 PULSE(0 9)\nR1 a 0 1k', 9],
    ['a sine that begins later', 'V1 a 0 SIN(3 5 1k 1)\nR1 a 0 1k', 3],
    ['AC is of another analysis', 'V1 a 0 DC 4 AC 1 0\nR1 a 0 1k', 4],
    ['an exponential', 'V1 a 0 EXP(0 10 0 1n 1 1)\nR1 a 0 1k', 10],
    ['parameters and sums', '.param v0=6 n={2*v0}\nV1 a 0 {n/4 + sqrt(v0^2)}\nR1 a 0 4k7', 9],
    ['initial voltages of nodes', 'C1 a b 1u\nC2 b 0 1u\nR1 a 0 1meg\nR2 b 0 1meg\n.ic V(a)=8 v(b) = 3', 8],
    [
      'a sub-circuit with a value of its own',
      'V1 in 0 9\nX1 in a half r=2k\n.subckt half p q r=1k\nR1 p q {r}\nR2 q 0 {r}\n.ends',
      4.5,
    ],
    ['a model of a switch', 'V1 in 0 9\nV2 c 0 1\nS1 in a c 0 sm\nR1 a 0 1k\n.model sm SW(VT=0.5 VH=0.1 RON=1m)', 9],
    ['several coils that share flux', 'V1 a 0 2\nL1 a 0 1m\nL2 b 0 1m\nL3 c 0 1m\nK1 L1 L2 L3 0.5\nR2 b 0 1g\nR3 c 0 1g', 2],
  ])('%s', (_what, text, expected) => expect(solvedAt(text, 'a', 1e-6)).toBeCloseTo(expected, 2));

  test('a diode of a model drops what its exponential does at 1 A', () => {
    const V = solvedAt('V1 in 0 10\nD1 in a dm\nR1 a 0 9.2\n.model dm D(IS=1e-14 N=1)', 'a', 1e-6);
    // 0.02585·ln(1e14) = 0.833 V, by hand.
    expect(10 - V).toBeCloseTo(0.834, 2);
  });

  test('a coil that was recorded is read back, and its flux is kept', () => {
    const coil = recordedCoil(
      'Lld',
      ['a', '0'],
      [
        [0, 1e-3],
        [1e-3, 2e-3],
      ],
    );
    const source: Element = { kind: 'voltage-source', name: 'V1', nodes: ['a', '0'], wave: { kind: 'dc', value: 1 }, R: 1e-3 };
    const text = netlistText({ title: 'coil', elements: [source, coil] }, { until: 1e-3 });
    const read = readNetlist(text);
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    const made = simulateCircuit(read.netlist, { until: 1e-3, tolerance: 1e-8, probes: [{ of: 'current', element: 'Lld' }] });
    // φ = V·t, i = φ/L = 1e-3/2e-3.
    expect(made.traces[0]?.y.at(-1)).toBeCloseTo(0.5, 3);
  });

  test('a gap’s scatter is written out: nothing in a deck is left to chance', () => {
    const gap: Element = {
      kind: 'gap',
      name: 'S1',
      nodes: ['a', '0'],
      breakdown: 1e4,
      scatter: 0.05,
      L: 1e-8,
      arc: { law: 'fixed', R: 1 },
    };
    const text = netlistText({ title: 'gap', elements: [gap] }, { until: 1e-6 });
    expect(text).toBe(netlistText({ title: 'gap', elements: [gap] }, { until: 1e-6, seed: 1 }));
    expect(text).not.toBe(netlistText({ title: 'gap', elements: [gap] }, { until: 1e-6, seed: 2 }));
    const read = readNetlist(text);
    if (!read.ok || read.netlist.elements[0]?.kind !== 'gap') throw new Error('not read');
    expect(read.netlist.elements[0]).not.toHaveProperty('scatter');
    expect(read.netlist.elements[0].breakdown).not.toBe(1e4);
  });

  test.each<[string, RegExp]>([
    ['R1 a 0', /1: resistance is missing/],
    ['R1 a', /1: the second node is missing/],
    ['R1 a 0 ten', /1: resistance is "ten" is no number/],
    ['* x\nQ1 a b c', /2: "Q1": a line begins with R, C, L/],
    ['R1 a 0 5\n.include /etc/passwd', /2: ".include" is not read here/],
    ['R1 a 0 `rm -rf`', /1: resistance is "`rm" is no number/],
    ['R1 a 0 5 tc=1m', /1: "TC=1m" is not understood there/],
    ['R1 a 0 5 7', /1: "7" is not understood there/],
    ['R1 a 0 10x', /1: resistance is "10x" is no number/],
    ['C1 a 0 1u IC=', /1: "IC=" has nothing on one side/],
    ['C1 a 0 1u IC=4 IC=5', /1: "IC=5": IC stands there twice/],
    ['D1 a 0 nomodel', /1: "nomodel" is no .model of this deck/],
    ['D1 a 0 dm\nR1 a 0 1\n.model dm D(BV=100)', /1: "BV=100" is not understood there; it takes IS, N and RS/],
    ['X1 a 0 TUBE VB=3', /1: "TUBE" is no .subckt of this deck; GAP, SCR and POWER are known/],
    ['X1 a 0 vs_gap vb=3 colour=red', /1: "COLOUR=red" is not understood there/],
    ['V1 a 0 PWL(0 1 2)', /1: PWL takes pairs/],
    ['V1 a 0 PWL(1 1 0 2)', /1: the times of PWL must not fall/],
    ['V1 a 0 DC 0 TRAPEZ(1 2)', /1: "TRAPEZ" is not understood there/],
    ['X1 a 0 GAP VB=3 LAW=WISH', /1: LAW is one of FIXED, TOEPLER, ROMPE/],
    ['S1 a 0 RON=1 OPEN=2', /1: /],
    ['Title\nR1 a 0 {2*x}', /2: resistance is "{2\*x}": "x" is no number and no parameter/],
    ['a\nR1 a 0 5\n\n\n* c\n+ 1\nL1 a 0 2m banana', /7: "banana" is not understood there/],
    ['V1 a 0 5\nX1 a 0 s\n.subckt s p q\nX1 p q s\n.ends', /"s" stands in itself/],
    ['only words\n', /1: /],
    ['R'.repeat(1024 * 1024 + 1), /1: the file has 1048577 characters/],
  ])('%.30s is refused by line and word', (text, reason) => {
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
