import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { marx } from '../test/circuits.ts';
import { witness } from '../test/evidence.ts';
import { offBy, table } from '../test/fixtures.ts';
import { integrate } from '../test/integrate.ts';
import {
  CircuitError,
  decimated,
  simulateCircuit,
  traceAt,
  type CircuitRun,
  type Element,
  type Probe,
  type RunOptions,
  type Trace,
} from './index.ts';

const run = (elements: readonly Element[], options: RunOptions): CircuitRun =>
  simulateCircuit({ title: 'test', elements }, options);
const traceOf = (made: CircuitRun, i = 0): Trace => made.traces[i] ?? { t: new Float64Array(), y: new Float64Array() };
const peakOf = ({ t, y }: Trace): { t: number; y: number } => {
  let at = 0;
  y.forEach((value, i) => {
    if (value > (y[at] ?? 0)) at = i;
  });
  return { t: t[at] ?? 0, y: y[at] ?? 0 };
};
/** First time at which a trace reaches a level, between points. */
const reaches = ({ t, y }: Trace, level: number): number => {
  const i = y.findIndex((value) => value >= level);
  const [t0, t1, y0, y1] = [t[i - 1] ?? 0, t[i] ?? 0, y[i - 1] ?? 0, y[i] ?? 0];
  return i < 1 ? t1 : t0 + ((t1 - t0) * (level - y0)) / (y1 - y0);
};
const current = (element: string): Probe => ({ of: 'current', element });
const voltage = (element: string): Probe => ({ of: 'voltage', element });
const R = (name: string, a: string, b: string, ohms: number): Element => ({ kind: 'resistor', name, nodes: [a, b], R: ohms });
const C = (name: string, a: string, b: string, farads: number, V0 = 0): Element => ({
  kind: 'capacitor',
  name,
  nodes: [a, b],
  C: farads,
  V0,
});
const L = (name: string, a: string, b: string, henries: number, I0 = 0): Element => ({
  kind: 'inductor',
  name,
  nodes: [a, b],
  L: henries,
  I0,
});
const V = (name: string, a: string, b: string, value: number): Element => ({
  kind: 'voltage-source',
  name,
  nodes: [a, b],
  wave: { kind: 'dc', value },
});

/** What the solver gave, for the book of evidence. */
const solver = (what: string) => ({ kind: 'model' as const, id: `Circuit solver: ${what}` });
const independent = 'independent integration: eighth-order Runge-Kutta method, tolerance 1e-10';

describe('outside tables', () => {
  test.each(table('rlc-discharge'))('RLC of $R_ohm Ω, ζ = $damping_ratio: $source', (row) => {
    const [r, l, c, v] = [row['R_ohm'], row['L_H'], row['C_F'], row['V0_V']].map(Number) as [number, number, number, number];
    const made = run([C('C', 'a', '0', c, v), L('L', 'a', 'b', l), R('R', 'b', '0', r)], {
      until: 4 * Number(row['time_to_peak_s']),
      tolerance: 1e-8,
      maxStep: Number(row['time_to_peak_s']) / 400,
      probes: [current('L'), voltage('C')],
    });
    const top = peakOf(traceOf(made));
    witness(solver('peak'), top.y, Number(row['peak_current_A']), { source: row['source'] ?? '', within: 2e-5 });
    witness(solver('time'), top.t, Number(row['time_to_peak_s']), { source: row['source'] ?? '', within: 5e-3 });
    expect(made.closure).toBeLessThan(1e-6);
  });

  test.each(table('charging').filter((row) => row['way']?.includes('through R')))(
    'charging through $R_or_first Ω: $source',
    (row) => {
      const [r, c, vs] = [row['R_or_first'], row['C_F'], row['Vs_V']].map(Number) as [number, number, number];
      const made = run([V('V', 's', '0', vs), R('R', 's', 'c', r), C('C', 'c', '0', c)], {
        until: 2 * Number(row['time_s']),
        tolerance: 1e-8,
        maxStep: Number(row['time_s']) / 500,
        probes: [voltage('C')],
      });
      const at = reaches(traceOf(made), Number(row['V_V']));
      witness(solver('time'), at, Number(row['time_s']), { source: row['source'] ?? '', within: 1e-4 });
    },
  );

  test.each(table('ladder-charging'))('$stages stages charged in a ladder to $fraction: $source', (row) => {
    const [n, r, c] = [row['stages'], row['R_ohm'], row['C_F']].map(Number) as [number, number, number];
    const node = (k: number) => (k === 0 ? 's' : `n${k}`);
    const stages = Array.from({ length: n }, (_, i) => [
      R(`R${i}`, node(i), node(i + 1), r),
      C(`C${i}`, node(i + 1), '0', c),
    ]).flat();
    const made = run([V('V', 's', '0', 1), ...stages], {
      until: 1.2 * Number(row['time_s']),
      tolerance: 1e-6,
      maxStep: Number(row['time_s']) / 300,
      probes: [voltage(`C${n - 1}`)],
    });
    const at = reaches(traceOf(made), Number(row['fraction']));
    witness(solver('time'), at, Number(row['time_s']), {
      source: row['source'] ?? '',
      within: Number(row['tolerance_pct']) / 100,
    });
  });

  test.each(table('impulse'))('impulse of $C1_F F into $C2_F F: $source', (row) => {
    const [c1, c2, rf, rt] = [row['C1_F'], row['C2_F'], row['R_front_ohm'], row['R_tail_ohm']].map(Number) as [
      number,
      number,
      number,
      number,
    ];
    const circuit = [C('C1', 'a', '0', c1, 1), R('Rt', 'a', '0', rt), R('Rf', 'a', 'o', rf), C('C2', 'o', '0', c2)];
    const until = 3 * Number(row['T2_s']);
    const made = run(circuit, { until, tolerance: 1e-7, maxStep: Number(row['T1_s']) / 60, probes: [voltage('C2')] });
    const trace = traceOf(made);
    const top = peakOf(trace);
    const [t30, t90] = [reaches(trace, 0.3 * top.y), reaches(trace, 0.9 * top.y)];
    const T1 = 1.67 * (t90 - t30);
    const origin = t30 - 0.3 * T1;
    const tail = trace.t.findIndex((t, i) => t > top.t && (trace.y[i] ?? 0) <= top.y / 2);
    const source = row['source'] ?? '';
    witness(solver('peak'), top.y, Number(row['efficiency']), { source, within: 5e-4 });
    witness(solver('time'), T1, Number(row['T1_s']), { source, within: 5e-3 });
    witness(solver('time'), (trace.t[tail] ?? 0) - origin, Number(row['T2_s']), { source, within: 5e-3 });
  });
});

describe('problems with answers of an independent integration (eighth-order Runge-Kutta, tolerance 1e-10)', () => {
  test.each([
    [10, 90.706, 29.505, 3.03],
    [20, 123.703, 22.516, 6.37],
    [50, 152.279, 21.463, 16.37],
    [100, 163.916, 22.87, 33.05],
  ])('a Marx of %i stages erects', (n, kilovolts, rise, last) => {
    const made = simulateCircuit(marx(n), { until: 2e-6, tolerance: 1e-4, probes: [voltage('CL')] });
    const trace = traceOf(made);
    const top = peakOf(trace).y;
    witness(solver('peak'), top, kilovolts * 1e3, { source: independent, within: 1e-4 });
    const front = reaches(trace, 0.9 * top) - reaches(trace, 0.1 * top);
    witness(solver('time'), front, rise * 1e-9, { source: independent, within: 5e-3 });
    witness(solver('time'), made.events.at(-1)?.t ?? 0, last * 1e-9, { source: independent, within: 3e-3 });
    expect([made.events.length, made.closure < 1e-4]).toEqual([n, true]);
  });

  test('a slug is launched through a coil whose inductance it changes, freewheel and all', () => {
    const [x0, bump, m] = [20e-3, 60e-6, 0.02];
    const g = (x: number) => bump * Math.exp(-((x / x0) ** 2));
    const slope = (x: number) => (g(x) * -2 * x) / x0 ** 2;
    const made = run(
      [
        C('C', 'a', '0', 2.2e-3, 400),
        { kind: 'diode', name: 'D', nodes: ['0', 'a'], Vf: 0, Ron: 0.01 },
        {
          kind: 'coil',
          name: 'K',
          nodes: ['a', '0'],
          R: 0.12,
          states: [-22e-3, 0],
          read: (_t, _i, [x = 0, u = 0], out) => {
            out.L = 80e-6 + g(x);
            out.dLdt = slope(x) * u;
          },
          slopes: (_t, i, [x = 0, u = 0], out) => {
            out[0] = u;
            out[1] = (900 * Math.tanh((i * i * slope(x)) / 1800)) / m;
          },
        },
      ],
      { until: 20e-3, tolerance: 1e-7 },
    );
    witness(solver('time'), made.events[0]?.t ?? 0, 0.951e-3, { source: independent, within: 1e-3 });
    // The reference takes the capacitor out of the circuit when the freewheel takes over; here it stays beside it.
    witness(solver('speed of what a coil moves'), made.coils.get('K')?.[1] ?? 0, 26.7714, { source: independent, within: 3e-4 });
  });
});

describe('closed forms and a general-purpose integrator', () => {
  test('two coupled coils on a capacitor swing at 1/√(LC(1 ± k)) (normal modes of equal circuits)', () => {
    const [l, c, k] = [1e-3, 1e-6, 0.3];
    const made = run(
      [
        C('C1', 'a', '0', c, 1),
        L('L1', 'a', '0', l),
        C('C2', 'b', '0', c),
        L('L2', 'b', '0', l),
        { kind: 'coupling', name: 'K', inductors: ['L1', 'L2'], k },
      ],
      { until: 1e-3, tolerance: 1e-9, maxStep: 1e-6, probes: [voltage('C1'), voltage('C2')] },
    );
    const [w1, w2] = [1 / Math.sqrt(l * c * (1 + k)), 1 / Math.sqrt(l * c * (1 - k))];
    const { t } = traceOf(made);
    for (let i = 0; i < t.length; i += 37) {
      const at = t[i] ?? 0;
      expect(Math.abs((traceOf(made).y[i] ?? 0) - (Math.cos(w1 * at) + Math.cos(w2 * at)) / 2)).toBeLessThan(1e-5);
      expect(Math.abs((traceOf(made, 1).y[i] ?? 0) - (Math.cos(w1 * at) - Math.cos(w2 * at)) / 2)).toBeLessThan(1e-5);
    }
    expect(made.closure).toBeLessThan(1e-6);
  });

  test('a choke and a diode charge a capacitor to twice the supply, and hold it there (closed form)', () => {
    const made = run(
      [
        V('V', 's', '0', 1000),
        L('L', 's', 'm', 10),
        { kind: 'diode', name: 'D', nodes: ['m', 'c'], Vf: 0, Ron: 1e-3 },
        C('C', 'c', '0', 1e-6),
      ],
      { until: 0.02, tolerance: 1e-7, probes: [voltage('C')] },
    );
    expect(offBy(traceOf(made).y.at(-1) ?? 0, 2000)).toBeLessThan(1e-4);
    // Half a period, π·√(LC).
    const off = made.events.filter((e) => e.what === 'off').at(-1);
    expect(offBy(off?.t ?? 0, Math.PI * Math.sqrt(10 * 1e-6))).toBeLessThan(1e-4);
  });

  test('a rectifier and a reservoir: the same circuit as a differential equation with its diode as a bent line, to 1e-6', () => {
    const [Ron, Goff, r, c, f] = [150, 1e-12, 2e4, 10e-6, 50];
    const source = (t: number) => 325 * Math.sin(2 * Math.PI * f * t);
    const made = run(
      [
        { kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave: { kind: 'sine', offset: 0, amplitude: 325, frequency: f } },
        { kind: 'diode', name: 'D', nodes: ['s', 'c'], Vf: 0, Ron },
        C('C', 'c', '0', c),
        R('R', 'c', '0', r),
      ],
      { until: 0.026, tolerance: 1e-9, maxStep: 2e-6, Goff, probes: [voltage('C')] },
    );
    const slope = (t: number, [v = 0]: number[]) => {
      const u = source(t) - v;
      return [((u > 0 ? u / Ron : u * Goff) - v / r) / c];
    };
    const times = [0.003, 0.006, 0.018, 0.025];
    integrate(slope, [0], times).forEach(([v = 0], i) =>
      expect(Math.abs(traceAt(traceOf(made), times[i] ?? 0) - v) / 325).toBeLessThan(1e-6),
    );
  });

  test('halving the step divides the error by sixteen: order 4', () => {
    const at = (steps: number) => {
      const made = run([C('C', 'a', '0', 1e-6, 1), L('L', 'a', '0', 1e-3)], {
        until: 2e-4,
        tolerance: 1e3,
        maxStep: 2e-4 / steps,
        probes: [voltage('C')],
      });
      return Math.abs((traceOf(made).y.at(-1) ?? 0) - Math.cos(2e-4 / Math.sqrt(1e-9)));
    };
    const orders = [40, 80, 160].map((n) => Math.log2(at(n) / at(2 * n)));
    for (const order of orders) expect(order).toBeGreaterThan(3.7);
  });
});

/** A circuit at random: everything is tied to earth by a resistor, so that it can be solved. */
const randomCircuit: fc.Arbitrary<Element[]> = fc
  .array(
    fc.record({
      kind: fc.constantFrom('R', 'C', 'L', 'D', 'V', 'G'),
      a: fc.nat(4),
      b: fc.nat(4),
      size: fc.double({ min: 0, max: 1, noNaN: true }),
      start: fc.double({ min: -1, max: 1, noNaN: true }),
    }),
    { minLength: 2, maxLength: 14 },
  )
  .map((parts) => {
    const scale = (low: number, high: number, x: number) => low * (high / low) ** x;
    const made = parts.flatMap(({ kind, a, b, size, start }, i): Element[] => {
      if (a === b) return [];
      const [p, q] = [String(a), String(b)];
      if (kind === 'R') return [R(`R${i}`, p, q, scale(1, 1e4, size))];
      if (kind === 'C') return [C(`C${i}`, p, q, scale(1e-9, 1e-5, size), 100 * start)];
      if (kind === 'L')
        return [{ kind: 'inductor', name: `L${i}`, nodes: [p, q], L: scale(1e-6, 1e-2, size), R: 0.1, I0: start }];
      if (kind === 'D') return [{ kind: 'diode', name: `D${i}`, nodes: [p, q], Vf: 0.7, Ron: scale(0.01, 1, size) }];
      if (kind === 'G')
        return [
          { kind: 'gap', name: `G${i}`, nodes: [p, q], breakdown: scale(20, 200, size), arc: { law: 'fixed', R: 0.5 }, L: 1e-6 },
        ];
      return [{ kind: 'voltage-source', name: `V${i}`, nodes: [p, q], wave: { kind: 'dc', value: 100 * start }, R: 1 }];
    });
    return [...made, ...[1, 2, 3, 4].map((node) => R(`T${node}`, String(node), '0', 1e4))];
  });

describe('laws', () => {
  test('energy closes to better than 0.1 % over circuits at random', () =>
    fc.assert(
      fc.property(randomCircuit, (elements) => {
        const made = run(elements, { until: 1e-3, tolerance: 1e-5 });
        expect([made.outcome, made.closure < 1e-3]).toEqual(['done', true]);
      }),
      { numRuns: 150 },
    ));

  test('the same seed scatters gaps alike, another one otherwise', () => {
    const fire = (seed: number) =>
      run(
        [
          V('V', 's', '0', 2000),
          R('R', 's', 'a', 1e6),
          C('C', 'a', '0', 1e-9),
          { kind: 'gap', name: 'G', nodes: ['a', '0'], breakdown: 1000, scatter: 0.05, arc: { law: 'fixed', R: 1 }, L: 1e-8 },
        ],
        { until: 2e-3, seed },
      ).events[0]?.t;
    expect(fire(7)).toBe(fire(7));
    expect(fire(7)).not.toBe(fire(8));
  });

  test('capacitors that meet share their charge and lose the known energy: C1·C2/(C1 + C2)·ΔV²/2', () => {
    const made = run([C('C1', 'a', '0', 2e-6, 100), C('C2', 'a', '0', 1e-6, 40), R('R', 'a', '0', 1e9)], {
      until: 1e-3,
      probes: [voltage('C1')],
    });
    expect(offBy(traceOf(made).y[0] ?? 0, 80)).toBeLessThan(1e-6);
    expect(offBy(made.energy.shared, 0.5 * (2e-6 / 3) * 60 ** 2)).toBeLessThan(1e-6);
  });

  test('an arc of Toepler’s falls as k·d over the charge that has passed', () => {
    const made = run(
      [
        C('C', 'a', '0', 1e-7, 2e4),
        {
          kind: 'gap',
          name: 'G',
          nodes: ['a', 'b'],
          breakdown: 1.9e4,
          arc: { law: 'toepler', k: 1e-2, d: 5e-3, Rmin: 0.01 },
          L: 1e-7,
        },
        R('R', 'b', '0', 1),
      ],
      {
        until: 1e-6,
        tolerance: 1e-6,
        probes: [voltage('C'), current('G'), voltage('G')],
      },
    );
    const [v, i, u] = [traceOf(made), traceOf(made, 1), traceOf(made, 2)];
    const at = v.t.findIndex((t) => t > 2e-7);
    const charge = 1e-7 * (2e4 - (v.y[at] ?? 0));
    const [i0, i1] = [i.y[at - 1] ?? 0, i.y[at + 1] ?? 0];
    const inductive = (1e-7 * (i1 - i0)) / ((v.t[at + 1] ?? 0) - (v.t[at - 1] ?? 0));
    expect(offBy(((u.y[at] ?? 0) - inductive) / (i.y[at] ?? 1), 5e-5 / charge)).toBeLessThan(0.02);
    expect(made.closure).toBeLessThan(1e-3);
  });

  test('a thyristor lets go below its holding current, and not before; a short gate that it outlasts is no fault', () => {
    const circuit = (latching: number): Element[] => [
      C('C', 'a', '0', 100e-6, 400),
      {
        kind: 'thyristor',
        name: 'T',
        nodes: ['a', 'b'],
        Vf: 1,
        Ron: 1e-3,
        gate: { from: 1e-5, until: 3e-5 },
        latching,
        holding: 2,
        turnOff: 5e-5,
      },
      L('L', 'b', 'c', 1e-3),
      R('R', 'c', '0', 0.2),
    ];
    const options = { until: 3e-3, tolerance: 1e-6, probes: [current('L')] };
    const made = run(circuit(1), options);
    expect(made.events.map((e) => e.what)).toEqual(['on', 'off']);
    expect(offBy(traceAt(traceOf(made), (made.events[1]?.t ?? 0) - 1e-9), 2)).toBeLessThan(0.05);
    // 400 V on 1 mH for 20 µs is 8 A: below a latching current of 20 A it does not stay on.
    expect(run(circuit(20), options).events.map((e) => Math.round(e.t * 1e6))).toEqual([10, 30]);
  });

  test('a constant-power supply fills a capacitor as ½CV² = P·t says, and stops at its cut-off', () => {
    const made = run(
      [
        { kind: 'power-source', name: 'P', nodes: ['a', '0'], P: 50, Imax: 5, Voff: 400, Von: 380 },
        C('C', 'a', '0', 1e-3),
        R('R', 'a', '0', 1e7),
      ],
      {
        until: 3,
        tolerance: 1e-6,
        probes: [voltage('C')],
      },
    );
    // Below P/Imax = 10 V it gives 5 A: 2 ms and half a joule less.
    expect(offBy(reaches(traceOf(made), 300), 2e-3 + (0.5e-3 * (300 ** 2 - 10 ** 2)) / 50)).toBeLessThan(1e-3);
    expect(Math.max(...traceOf(made).y)).toBeLessThan(400.1);
    expect(made.events.some((e) => e.what === 'off')).toBe(true);
  });
});

describe('what cannot be solved is refused by name', () => {
  test.each<[string, Element[], RegExp]>([
    ['nothing', [], /the circuit is empty/],
    ['a resistor of zero', [R('R1', 'a', '0', 0)], /R1: R is 0; it must be above 0/],
    ['a capacitor that is no number', [C('C1', 'a', '0', NaN)], /C1: C is NaN/],
    ['a name twice', [R('R1', 'a', '0', 1), R('R1', 'b', '0', 1)], /R1: this name is given twice/],
    ['a node that nothing ties', [R('R1', 'a', '0', 1), R('R2', 'x', 'y', 1)], /R2: nothing ties node x, y to node 0/],
    [
      'sources in a loop',
      [V('V1', 'a', '0', 1), V('V2', 'a', '0', 2), R('R', 'a', '0', 1)],
      /V1, V2: ideal voltage sources in a loop/,
    ],
    ['a source shorted', [V('V1', 'a', 'a', 1), R('R', 'a', '0', 1)], /V1: ideal voltage sources in a loop/],
    [
      'a coupling of one',
      [L('L1', 'a', '0', 1), R('R', 'a', '0', 1), { kind: 'coupling', name: 'K1', inductors: ['L1', 'R'], k: 0.5 }],
      /K1, R: couples something that is no inductor/,
    ],
    [
      'a coupling too tight',
      [L('L1', 'a', '0', 1), L('L2', 'b', '0', 1), { kind: 'coupling', name: 'K1', inductors: ['L1', 'L2'], k: 1 }],
      /K1: k is 1; it must lie between/,
    ],
    [
      'an oscillation for years',
      [
        R('R', 'a', '0', 1),
        {
          kind: 'voltage-source',
          name: 'V',
          nodes: ['a', '0'],
          wave: { kind: 'pulse', low: 0, high: 1, delay: 0, rise: 1e-9, width: 1e-9, fall: 1e-9, period: 1e-8 },
        },
      ],
      /more than 200000 corners/,
    ],
  ])('%s', (_what, elements, reason) => expect(() => run(elements, { until: 3e8 })).toThrow(reason));

  test('a run is cancelled with what it has, and ends at its most steps', () => {
    let asked = 0;
    const bank = [C('C', 'a', '0', 1e-6, 1), L('L', 'a', '0', 1e-3)];
    const cancelled = run(bank, { until: 1, maxStep: 1e-5, cancelled: () => ++asked > 3, probes: [voltage('C')] });
    expect([cancelled.outcome, cancelled.t > 0, traceOf(cancelled).t.at(-1)]).toEqual(['cancelled', true, cancelled.t]);
    expect(run(bank, { until: 1, maxSteps: 100 })).toMatchObject({ outcome: 'too_many_steps' });
    expect(() => run(bank, { until: -1 })).toThrow(CircuitError);
    expect(() => run(bank, { until: 1, probes: [voltage('X')] })).toThrow(/X: is probed and is not there/);
  });
});

test('a trace with fewer points keeps every extreme', () =>
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 3000 }),
      fc.integer({ min: 8, max: 400 }),
      (values, most) => {
        const trace = { t: Float64Array.from(values.map((_, i) => i)), y: Float64Array.from(values) };
        const few = decimated(trace, most);
        expect([Math.min(...few.y), Math.max(...few.y)]).toEqual([Math.min(...values), Math.max(...values)]);
        expect(few.t.length).toBeLessThanOrEqual(Math.max(most, 8) + 4);
        expect([few.t[0], few.t.at(-1)]).toEqual([trace.t[0], trace.t.at(-1)]);
      },
    ),
  ));
