import { describe, expect, test } from 'vitest';
import { offBy } from '../test/fixtures.ts';
import { simulateCircuit, traceAt, waveAt, type Element, type Probe, type RunOptions, type Wave } from './index.ts';

const run = (elements: readonly Element[], options: RunOptions) => simulateCircuit({ title: 'test', elements }, options);
const last = (made: ReturnType<typeof run>, i = 0): number => made.traces[i]?.y.at(-1) ?? NaN;
const R = (name: string, a: string, b: string, ohms: number): Element => ({ kind: 'resistor', name, nodes: [a, b], R: ohms });
const C = (name: string, a: string, b: string, farads: number, V0 = 0): Element => ({
  kind: 'capacitor',
  name,
  nodes: [a, b],
  C: farads,
  V0,
});
const voltage = (element: string): Probe => ({ of: 'voltage', element });

describe('sources', () => {
  test.each<[string, Wave, readonly (readonly [number, number])[]]>([
    [
      'dc',
      { kind: 'dc', value: 5 },
      [
        [0, 5],
        [9, 5],
      ],
    ],
    [
      'sine',
      { kind: 'sine', offset: 1, amplitude: 2, frequency: 50 },
      [
        [0, 1],
        [5e-3, 3],
        [15e-3, -1],
      ],
    ],
    [
      'pulse',
      { kind: 'pulse', low: -1, high: 3, delay: 1, rise: 2, width: 4, fall: 1, period: 10 },
      [
        [0, -1],
        [2, 1],
        [5, 3],
        [7.5, 1],
        [9, -1],
        [12, 1],
      ],
    ],
    [
      'piecewise',
      {
        kind: 'piecewise',
        points: [
          [1, 0],
          [3, 4],
          [3, 8],
          [5, 0],
        ],
      },
      [
        [0, 0],
        [2, 2],
        [4, 4],
        [9, 0],
      ],
    ],
  ])('%s has its values at its times', (_name, wave, values) => {
    for (const [t, y] of values) expect(waveAt(wave, t)).toBeCloseTo(y, 12);
  });

  test('a current source charges a capacitor in a straight line: V = I·t/C', () => {
    const source: Element = { kind: 'current-source', name: 'I', nodes: ['0', 'a'], wave: { kind: 'dc', value: 2e-3 } };
    const made = run([source, C('C', 'a', '0', 1e-6), R('R', 'a', '0', 1e12)], { until: 0.05, probes: [voltage('C')] });
    expect(offBy(last(made), 100)).toBeLessThan(1e-6);
    expect(offBy(made.energy.supplied, 0.5 * 1e-6 * 100 ** 2)).toBeLessThan(1e-6);
  });

  test('a pulse through a resistor leaves the charge that its area gives, corners and all: Q = ∫V dt/R', () => {
    // Into a store so large that it hardly moves: 10 V, rise 1 ms, width 2 ms, fall 1 ms, twice: 60 mV·s.
    const wave: Wave = { kind: 'pulse', low: 0, high: 10, delay: 1e-3, rise: 1e-3, width: 2e-3, fall: 1e-3, period: 5e-3 };
    const made = run(
      [{ kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave }, R('R', 's', 'c', 10), C('C', 'c', '0', 1e4)],
      {
        until: 0.0101,
        probes: [voltage('C')],
      },
    );
    expect(offBy(last(made) * 1e4, 0.06 / 10)).toBeLessThan(1e-6);
  });
});

describe('switches', () => {
  test('one that follows a voltage closes above and opens below: a relaxation oscillator with the period of its RC', () => {
    const control = { by: 'voltage', nodes: ['c', '0'], above: 60, below: 20 } as const;
    const made = run(
      [
        { kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave: { kind: 'dc', value: 100 } },
        R('R', 's', 'c', 1e4),
        C('C', 'c', '0', 1e-6),
        { kind: 'switch', name: 'S', nodes: ['c', '0'], Ron: 10, control },
      ],
      { until: 0.05, tolerance: 1e-7 },
    );
    const on = made.events.filter((e) => e.what === 'on').map((e) => e.t);
    expect(offBy(on[0] ?? 0, 1e-2 * Math.log(100 / 40))).toBeLessThan(1e-6);
    // Between two closings: up from 20 to 60 V through 10 kΩ, down again through 10 Ω against what still flows in.
    const end = (100 * 10) / 10_010;
    const down = (1e4 * 10 * 1e-6) / 10_010;
    const period = 1e-2 * Math.log(80 / 40) + down * Math.log((60 - end) / (20 - end));
    expect(offBy((on[3] ?? 0) - (on[2] ?? 0), period)).toBeLessThan(1e-5);
  });

  test('one that follows a current cuts it at its level, and a freewheel takes it over', () => {
    const made = run(
      [
        { kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave: { kind: 'dc', value: 10 } },
        { kind: 'switch', name: 'S', nodes: ['s', 'm'], Ron: 1e-3, control: { by: 'time', closeAt: 0, openAt: 1e-3 } },
        { kind: 'diode', name: 'D', nodes: ['0', 'm'], Vf: 0.5, Ron: 1e-3 },
        { kind: 'inductor', name: 'L', nodes: ['m', 'o'], L: 1e-3 },
        R('R', 'o', '0', 0.1),
      ],
      { until: 3e-3, tolerance: 1e-7, probes: [{ of: 'current', element: 'L' }] },
    );
    const [trace] = made.traces;
    if (!trace) throw new Error('no trace');
    // L di/dt = 10 − 0.101·i, then −0.5 − 0.101·i.
    const peak = (10 / 0.101) * (1 - Math.exp(-0.101));
    expect(offBy(traceAt(trace, 1e-3), peak)).toBeLessThan(1e-5);
    expect(offBy(last(made), (peak + 0.5 / 0.101) * Math.exp(-0.202) - 0.5 / 0.101)).toBeLessThan(1e-4);
    expect(made.events.map((e) => `${e.element} ${e.what}`)).toEqual(['S on', 'S off', 'D on']);
    expect(made.closure).toBeLessThan(1e-5);
  });
});

describe('gaps and thyristors', () => {
  test('a gap whose strength comes back from zero rings through the zeros of its current, as if it did not let go', () => {
    const ring = (recovery: object) =>
      run(
        [
          C('C', 'a', '0', 1e-8, 1100),
          { kind: 'gap', name: 'G', nodes: ['a', 'b'], breakdown: 1000, arc: { law: 'fixed', R: 0.1 }, L: 1e-6, ...recovery },
          R('R', 'b', '0', 1),
        ],
        { until: 2e-6, tolerance: 1e-7, probes: [voltage('C')] },
      );
    const made = ring({ recovery: 1e-6 });
    expect(made.events.filter((e) => e.what === 'off').length).toBeGreaterThan(2);
    expect(Math.abs(last(made) - last(ring({}))) / 1100).toBeLessThan(1e-3);
    expect(made.closure).toBeLessThan(1e-4);
  });

  test('an arc of Rompe and Weizel’s falls as d/√(2·a·∫i²dt)', () => {
    const arc = { law: 'rompe-weizel', a: 1e-4, d: 5e-3, Rmin: 1e-3 } as const;
    const made = run(
      [
        C('C', 'a', '0', 1e-7, 2e4),
        { kind: 'gap', name: 'G', nodes: ['a', 'b'], breakdown: 1.9e4, arc, L: 1e-7 },
        R('R', 'b', '0', 5),
      ],
      {
        until: 2e-6,
        tolerance: 1e-6,
        probes: [{ of: 'current', element: 'G' }, voltage('G')],
      },
    );
    const [i, u] = made.traces;
    if (!i || !u) throw new Error('no trace');
    let square = 0;
    const at = i.t.findIndex((t) => t > 6e-7);
    for (let k = 1; k <= at; k++)
      square += ((i.t[k] ?? 0) - (i.t[k - 1] ?? 0)) * (((i.y[k] ?? 0) ** 2 + (i.y[k - 1] ?? 0) ** 2) / 2);
    const inductive = (1e-7 * ((i.y[at + 1] ?? 0) - (i.y[at - 1] ?? 0))) / ((i.t[at + 1] ?? 0) - (i.t[at - 1] ?? 0));
    expect(offBy(((u.y[at] ?? 0) - inductive) / (i.y[at] ?? 1), arc.d / Math.sqrt(2 * arc.a * square))).toBeLessThan(0.05);
    expect(made.closure).toBeLessThan(1e-3);
  });

  test('a thyristor reversed for less than its turn-off time conducts again, for longer it blocks', () => {
    // Forward, 20 µs or 200 µs in reverse, then forward again with no gate.
    const conducts = (reverse: number) => {
      const wave: Wave = {
        kind: 'piecewise',
        points: [
          [0, 100],
          [1e-3, 100],
          [1.001e-3, -100],
          [1.001e-3 + reverse, -100],
          [1.002e-3 + reverse, 100],
        ],
      };
      const made = run(
        [
          { kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave },
          {
            kind: 'thyristor',
            name: 'T',
            nodes: ['s', 'o'],
            Vf: 1,
            Ron: 0.01,
            gate: { from: 1e-5, until: 1e-4 },
            latching: 1,
            holding: 0.5,
            turnOff: 1e-4,
          },
          R('R', 'o', '0', 10),
        ],
        { until: 2e-3, probes: [{ of: 'current', element: 'T' }] },
      );
      return last(made);
    };
    expect(conducts(2e-5)).toBeCloseTo(99 / 10.01, 3);
    expect(Math.abs(conducts(2e-4))).toBeLessThan(1e-6);
  });
});
