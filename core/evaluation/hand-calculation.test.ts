import fc from 'fast-check';
import { test } from 'vitest';
import { decades, goalOf } from '../test/by-hand.ts';
import { witness } from '../test/evidence.ts';
import { rigWith } from '../test/rigs.ts';
import { evaluateRig, figureIn } from './index.ts';
import type { FigureId } from '../block/index.ts';

/**
 * A bank worked out once more, straight from the definitions and without any code of the program: what a careful person
 * with a pocket calculator writes down. Source: circuit theory; the peak is found by stepping, not by the closed form.
 */
function byHand(p: {
  C: number;
  ns: number;
  np: number;
  V0: number;
  ESR: number;
  ESL: number;
  Rsw: number;
  R: number;
  L: number;
  Vs: number;
  Ri: number;
  Rc: number;
  Rb: number;
  Rt: number;
  nt: number;
}) {
  const C = (p.C / p.ns) * p.np;
  const Rloop = (p.ESR * p.ns) / p.np + p.Rsw + p.R;
  const Lloop = (p.ESL * p.ns) / p.np + p.L;
  // The discharge by the trapezoidal rule with steps far below every time constant, until the current has passed its peak.
  const h = Math.min(Math.sqrt(Lloop * C), Lloop / Rloop) / 2000;
  let [v, i, t, peak, peakAt] = [p.V0, 0, 0, 0, 0];
  for (let step = 0; step < 2e6; step++) {
    const a = h / (2 * Lloop);
    const b = h / (2 * C);
    const rhsI = i + a * (v - Rloop * i);
    const rhsV = v - b * i;
    const next = (rhsI + a * rhsV) / (1 + a * Rloop + a * b);
    v = rhsV - b * next;
    t += h;
    if (next < i) break;
    i = next;
    [peak, peakAt] = [i, t];
  }
  const Rcharge = p.Ri + p.Rc;
  const goal = goalOf(C, p.V0);
  // The meter of a new rig has 10 MΩ and stands beside the bleeder.
  const beside = 1 / (1 / p.Rb + 1 / 10e6);
  const through = (Rcharge * beside) / (Rcharge + beside);
  const towards = (p.Vs * beside) / (Rcharge + beside);
  return {
    'bank-capacitance': C,
    'stored-energy': (C * p.V0 ** 2) / 2,
    'stored-charge': C * p.V0,
    'loop-resistance': Rloop,
    'loop-inductance': Lloop,
    'peak-current': peak,
    'time-to-peak': peakAt,
    'peak-di-dt': p.V0 / Lloop,
    'action-integral': (C * p.V0 ** 2) / 2 / Rloop,
    'load-energy': (((C * p.V0 ** 2) / 2) * p.R) / Rloop,
    'charge-towards': towards,
    'charge-time': through * C * (Math.log(towards) - Math.log(towards - p.V0)),
    'bleed-time': p.Rb * C * (Math.log(p.V0) - Math.log(goal)),
    'bleeder-power': p.V0 ** 2 / p.Rb,
    'tool-energy': (C * p.V0 ** 2) / 2 / p.nt,
    'tool-peak-power': p.V0 ** 2 / (p.Rt * p.nt),
    'tool-time': p.Rt * p.nt * C * (Math.log(p.V0) - Math.log(goal)),
  };
}

test('any bank: every headline figure is that of a calculation by hand', () => {
  const bank = fc.record({
    C: decades(1e-6, 1e-2),
    ns: fc.integer({ min: 1, max: 6 }),
    np: fc.integer({ min: 1, max: 8 }),
    V0: decades(60, 5000),
    ESR: decades(1e-3, 0.1),
    ESL: decades(1e-8, 1e-7),
    Rsw: decades(1e-4, 1e-2),
    R: decades(1e-2, 10),
    L: decades(3e-7, 1e-5),
    Ri: decades(1, 1000),
    Rc: decades(100, 1e5),
    Rb: decades(1e5, 1e7),
    Rt: decades(100, 5000),
    nt: fc.integer({ min: 1, max: 5 }),
  });
  fc.assert(
    fc.property(bank, (numbers) => {
      const Vs = Number((3 * numbers.V0).toPrecision(4));
      const text = (value: number, unit: string) => `${value} ${unit}`;
      const evaluation = evaluateRig(
        rigWith({
          'supply.V': text(Vs, 'V'),
          'supply.R': text(numbers.Ri, 'Ω'),
          'charging.R': text(numbers.Rc, 'Ω'),
          'store.C': text(numbers.C, 'F'),
          'store.ns': String(numbers.ns),
          'store.np': String(numbers.np),
          'store.V0': text(numbers.V0, 'V'),
          'store.ESR': text(numbers.ESR, 'Ω'),
          'store.ESL': text(numbers.ESL, 'H'),
          'switch.R': text(numbers.Rsw, 'Ω'),
          'load.R': text(numbers.R, 'Ω'),
          'load.L': text(numbers.L, 'H'),
          'load.length': '',
          'bleeder.R': text(numbers.Rb, 'Ω'),
          'tool.R': text(numbers.Rt, 'Ω'),
          'tool.n': String(numbers.nt),
        }),
      );
      // The supply gives three times the charge, so that any bleeder here lets the bank reach it.
      for (const [id, value] of Object.entries(byHand({ ...numbers, Vs })) as [FigureId, number][]) {
        const tolerance = id === 'time-to-peak' ? 2e-3 : id === 'peak-current' ? 1e-5 : 1e-9;
        const against = { source: 'worked from the definitions by other code, banks at random', within: tolerance };
        witness({ kind: 'figure', id }, figureIn(evaluation, id)?.worked.value ?? NaN, value, against);
      }
    }),
    { numRuns: 40 },
  );
}, 60_000);
