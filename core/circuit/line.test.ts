import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import { afterAll, describe, expect, test } from 'vitest';
import { hasNgspice, ngspiceMeasures } from '../test/ngspice.ts';
import { netlistText, readNetlist, simulateCircuit, traceAt, type Element, type Netlist, type Probe } from './index.ts';

const line = (
  from: readonly [string, string],
  to: readonly [string, string],
  Z0: number,
  delay: number,
  V0 = 0,
  name = 'T1',
): Element[] => [
  { kind: 'line-end', name, nodes: from, far: `${name}_far`, Z0, delay, V0 },
  { kind: 'line-end', name: `${name}_far`, nodes: to, far: name, Z0, delay, V0 },
];
const resistor = (name: string, nodes: readonly [string, string], R: number): Element => ({ kind: 'resistor', name, nodes, R });
const closing = (name: string, nodes: readonly [string, string], closeAt = 0): Element => ({
  kind: 'switch',
  name,
  nodes,
  Ron: 1e-3,
  control: { by: 'time', closeAt },
});
const step = (name: string, node: string, R: number): Element => ({
  kind: 'voltage-source',
  name,
  nodes: [node, '0'],
  wave: { kind: 'pulse', low: 0, high: 1, delay: 0, rise: 1e-15, width: 1, fall: 1e-15 },
  R,
});
const at = (node: string): Probe => ({ of: 'nodes', nodes: [node, '0'] });

const run = (elements: readonly Element[], until: number, probes: readonly Probe[], tolerance = 1e-5) => {
  const netlist: Netlist = { title: 'line', elements };
  const made = simulateCircuit(netlist, { until, tolerance, probes });
  return { ...made, v: (i: number, t: number) => traceAt(made.traces[i] ?? { t: new Float64Array(), y: new Float64Array() }, t) };
};

describe('a line without loss', () => {
  const [Z, td] = [50, 100e-9];

  test('a charged cable gives half of its voltage into its own impedance, for twice its delay', () => {
    const cable = run(
      [
        ...line(['a', '0'], ['b', '0'], Z, td, 10e3),
        closing('S1', ['a', 'l']),
        resistor('Rl', ['l', '0'], Z),
        resistor('Ro', ['b', '0'], 1e9),
      ],
      400e-9,
      [at('l')],
    );
    expect(cable.v(0, 50e-9)).toBeCloseTo(5e3, -1);
    expect(cable.v(0, 195e-9)).toBeCloseTo(5e3, -1);
    expect(Math.abs(cable.v(0, 205e-9))).toBeLessThan(5);
    // Half of C·V², C = delay over impedance, and all of it in the load.
    expect(cable.energy.before).toBeCloseTo((0.5 * td * 10e3 ** 2) / Z, 9);
    expect(cable.closure).toBeLessThan(1e-4);
  });

  test.each([
    [25, 'less'],
    [150, 'more'],
  ])('into %d Ω, %s than its own, it goes down by steps of the reflection', (R) => {
    const reflection = (R - Z) / (R + Z);
    const cable = run(
      [
        ...line(['a', '0'], ['b', '0'], Z, td, 1e3),
        closing('S1', ['a', 'l']),
        resistor('Rl', ['l', '0'], R),
        resistor('Ro', ['b', '0'], 1e12),
      ],
      11 * td,
      [at('l')],
    );
    for (let n = 0; n < 5; n++) {
      const expected = ((1e3 * R) / (R + Z)) * reflection ** n;
      expect(cable.v(0, (2 * n + 1) * td)).toBeCloseTo(expected, 0);
    }
    expect(cable.closure).toBeLessThan(1e-4);
  });

  test('two in series that are charged and shorted between are a Blumlein: all of the voltage into twice the impedance', () => {
    // The middle conductor is charged; the load lies between the two outer ones.
    const made = run(
      [
        ...line(['m', '0'], ['m1', '0'], Z, td, -20e3, 'T1'),
        ...line(['m1', 'o'], ['e', 'e2'], Z, td, -20e3, 'T2'),
        closing('S1', ['m', '0']),
        resistor('Rl', ['o', '0'], 2 * Z),
        resistor('Re', ['e', 'e2'], 1e9),
        resistor('Rf', ['e2', '0'], 1e9),
      ],
      400e-9,
      [at('o')],
    );
    expect(Math.abs(made.v(0, 50e-9))).toBeLessThan(20);
    expect(Math.abs(made.v(0, 200e-9))).toBeCloseTo(20e3, -3);
    expect(Math.abs(made.v(0, 290e-9))).toBeCloseTo(20e3, -3);
    expect(Math.abs(made.v(0, 310e-9))).toBeLessThan(200);
    expect(made.closure).toBeLessThan(1e-3);
  });

  test('a step into a capacitance at its end charges it through the impedance: (1 − e^(−t/ZC)) twice the wave', () => {
    const C = 2e-9;
    const made = run(
      [step('V1', 's', Z), ...line(['s', '0'], ['e', '0'], Z, td), { kind: 'capacitor', name: 'C1', nodes: ['e', '0'], C }],
      280e-9,
      [at('e')],
      1e-6,
    );
    for (const t of [150e-9, 200e-9, 270e-9]) expect(made.v(0, t)).toBeCloseTo(-Math.expm1(-(t - td) / (Z * C)), 4);
    expect(Math.abs(made.v(0, 99e-9))).toBeLessThan(1e-9);
  });

  test('halving the tolerance keeps the order: the error falls with it, with lines as without', () => {
    const C = 2e-9;
    const error = (tolerance: number) => {
      const made = run(
        [
          step('V1', 's', 20),
          ...line(['s', '0'], ['e', '0'], Z, td),
          { kind: 'capacitor', name: 'C1', nodes: ['e', '0'], C },
          { kind: 'inductor', name: 'L1', nodes: ['e', 'x'], L: 1e-6 },
          resistor('R1', ['x', '0'], 30),
        ],
        900e-9,
        [at('e')],
        tolerance,
      );
      return made.v(0, 900e-9);
    };
    const best = error(1e-9);
    const [coarse, fine] = [Math.abs(error(1e-3) - best), Math.abs(error(1e-6) - best)];
    expect(fine).toBeLessThan(1e-5);
    expect(fine).toBeLessThan(Math.max(coarse / 20, 1e-7));
  });

  test('whatever ends it, no energy is made or lost, and it is read back from its deck as it was', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 500, noNaN: true }),
        fc.double({ min: 1e-9, max: 1e-6, noNaN: true }),
        fc.double({ min: 1, max: 1000, noNaN: true }),
        fc.double({ min: 1e-10, max: 1e-8, noNaN: true }),
        fc.double({ min: 1e-8, max: 1e-5, noNaN: true }),
        (Z0, delay, R, C, L) => {
          const elements: Element[] = [
            ...line(['a', '0'], ['b', '0'], Z0, delay, 1e3),
            closing('S1', ['a', 'l']),
            { kind: 'inductor', name: 'L1', nodes: ['l', 'k'], L },
            resistor('R1', ['k', '0'], R),
            { kind: 'capacitor', name: 'C1', nodes: ['b', '0'], C, V0: 1e3 },
          ];
          const made = run(elements, 6 * delay, [at('l')]);
          expect(made.closure).toBeLessThan(2e-3);
          const read = readNetlist(netlistText({ title: 'line', elements: elements.filter(({ kind }) => kind !== 'switch') }));
          if (!read.ok) throw new Error(JSON.stringify(read.issues));
          expect(read.netlist.elements).toMatchObject(elements.filter(({ kind }) => kind !== 'switch'));
        },
      ),
      { seed: 5, numRuns: 40 },
    );
  });

  test('a line with one end, or with two that differ, is named', () => {
    const [one, other] = line(['a', '0'], ['b', '0'], Z, td);
    const tries = (elements: readonly (Element | undefined)[]) => () =>
      run(
        elements.flatMap((e) => e ?? []),
        1e-6,
        [],
      );
    expect(tries([one])).toThrow(/T1, T1_far: is the end of a line/);
    expect(tries([one, other && ({ ...other, Z0: 75 } as Element)])).toThrow(/is not like it/);
    expect(tries([one && ({ ...one, delay: 0 } as Element), other])).toThrow(/delay is 0/);
  });
});

/** Decks written out here for ngspice 39, a general-purpose simulator with a lossless line of its own; as recorded where it is not installed. */
const recording = new URL('../test/fixtures/ngspice-lines.json', import.meta.url);
const recorded = (existsSync(recording) ? JSON.parse(readFileSync(recording, 'utf8')) : {}) as Record<
  string,
  Record<string, number>
>;
const anew: Record<string, Record<string, number>> = {};
const installed = hasNgspice();
afterAll(() => {
  if (process.env['RECORD'] === '1') writeFileSync(recording, `${JSON.stringify(anew, null, 2)}\n`);
});

const times = [35, 65, 125, 175, 235, 285, 355, 425] as const;
const asked = [...times.map((t) => `.meas tran v${t} FIND v(l) AT=${t}n`), '.tran 0.02n 450n 0 0.02n uic', '.end'];
const closer = ['Vc c 0 PULSE(0 1 0 1p 1p 1 2)', 'S1 a l c 0 SM', '.model SM SW(VT=0.5 VH=0.1 RON=1m ROFF=1e12)'];

describe('against the line of ngspice', () => {
  test.each([
    [
      'a charged cable into an inductance and a resistance',
      ['T1 a 0 b 0 Z0=50 TD=100n IC=10k,0,10k,0', 'Ro b 0 1e9', 'Ll l k 1u', 'Rl k 0 20'],
      [
        ...line(['a', '0'], ['b', '0'], 50, 100e-9, 10e3),
        resistor('Ro', ['b', '0'], 1e9),
        { kind: 'inductor', name: 'Ll', nodes: ['l', 'k'], L: 1e-6 },
        resistor('Rl', ['k', '0'], 20),
      ],
    ],
    [
      'two cables one behind the other, the second ending in a capacitor, into a resistance',
      ['T1 a 0 b 0 Z0=50 TD=40n IC=5k,0,5k,0', 'T2 b 0 d 0 Z0=93 TD=25n IC=5k,0,5k,0', 'C1 d 0 1n IC=5k', 'Rl l 0 35'],
      [
        ...line(['a', '0'], ['b', '0'], 50, 40e-9, 5e3),
        ...line(['b', '0'], ['d', '0'], 93, 25e-9, 5e3, 'T2'),
        { kind: 'capacitor', name: 'C1', nodes: ['d', '0'], C: 1e-9, V0: 5e3 },
        resistor('Rl', ['l', '0'], 35),
      ],
    ],
  ] as [string, string[], Element[]][])('%s: the voltage of the load within 1 %% of its greatest', (name, deck, elements) => {
    const made = installed
      ? ngspiceMeasures(
          [`* ${name}`, ...deck, ...closer, ...asked, ''].join('\n'),
          times.map((t) => `v${t}`),
        )
      : recorded[name];
    if (!made) throw new Error('not recorded');
    anew[name] = { ...made };
    const own = run([...elements, closing('S1', ['a', 'l'])], 450e-9, [at('l')]);
    const greatest = Math.max(...times.map((t) => Math.abs(made[`v${t}`] ?? NaN)));
    for (const t of times) expect(Math.abs(own.v(0, t * 1e-9) - (made[`v${t}`] ?? NaN)), `${t} ns`).toBeLessThan(0.01 * greatest);
  });
});
