import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../figure/index.ts';
import type { Rig } from '../rig/index.ts';
import { integrate } from '../test/integrate.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { bleedTraces, chargeTraces, dischargeTraces, rlcDischarge, rlcSeries, type Trace } from './index.ts';

const peak = (values: Iterable<number>) => Math.max(...[...values].map(Math.abs));

/** Largest difference of a trace from reference values, as a fraction of the trace's own peak. */
function difference(trace: Trace, reference: readonly number[]): number {
  const scale = peak(trace.y);
  return Math.max(...reference.map((y, i) => Math.abs((trace.y[i] ?? NaN) - y))) / scale;
}

const find = (traces: readonly Trace[], id: string): Trace => {
  const trace = traces.find((t) => t.id === id);
  if (!trace) throw new Error(`no trace ${id}`);
  return trace;
};

function loopOf(rig: Rig) {
  const reading = new RigReading(rig);
  return {
    R: reading.figure('loop-resistance').value,
    L: reading.figure('loop-inductance').value,
    C: reading.figure('bank-capacitance').value,
    V: reading.offer('chargedTo').value,
    VT: reading.offers('switch').threshold?.value ?? 0,
  };
}

describe('discharge against a general-purpose integrator', () => {
  const film = { 'supply.V': '2 kV', 'store.C': '100 µF', 'store.V0': '1.5 kV', 'load.L': '2 µH' };
  test.each<[string, Rig]>([
    ['ringing', rigWith({ ...film, 'load.R': '20 mΩ' })],
    ['nearly critical', rigWith({ ...film, 'load.R': '317 mΩ' })],
    ['damped', rigWith({ ...film, 'load.R': '5 Ω' })],
    ['strongly damped', rigWith({ ...film, 'load.R': '500 Ω' })],
  ])('%s', (_name, rig) => {
    const { R, L, C, V } = loopOf(rig);
    const { traces } = dischargeTraces(rig);
    const current = find(traces, 'current');
    const states = integrate((_t, [v = 0, i = 0]) => [-i / C, (v - R * i) / L], [V, 0], [...current.t]);
    expect(
      difference(
        find(traces, 'store-voltage'),
        states.map(([v = 0]) => v),
      ),
    ).toBeLessThan(1e-7);
    expect(
      difference(
        current,
        states.map(([, i = 0]) => i),
      ),
    ).toBeLessThan(1e-7);
  });

  test('a pair of thyristors with a threshold, over three half cycles', () => {
    const rig = rigWith({
      'supply.V': '60 V',
      'store.V0': '50 V',
      'load.R': '2 mΩ',
      'load.L': '2 µH',
      'store.ESR': '1 mΩ',
      'switch.kind': 'thyristor',
      'switch.direction': 'both-ways',
      'switch.VT': '2 V',
      'switch.R': '0 Ω',
    });
    const { R, L, C, V, VT } = loopOf(rig);
    const { traces } = dischargeTraces(rig);
    const current = find(traces, 'current');
    // Each half cycle by itself, so that the integrator never crosses the kink at zero.
    const half = Math.PI / Math.sqrt(1 / (L * C) - (R / (2 * L)) ** 2);
    let start = V;
    for (let n = 0; n < 3; n++) {
      const sign = Math.sign(start);
      const inside = [...current.t].map((t, i) => ({ t: t - n * half, i })).filter(({ t }) => t >= 0 && t <= half);
      const states = integrate(
        (_t, [v = 0, i = 0]) => [-i / C, (v - R * i - sign * VT) / L],
        [start, 0],
        [...inside.map(({ t }) => t), half],
      );
      inside.forEach(({ i }, k) =>
        expect(Math.abs((current.y[i] ?? NaN) - (states[k]?.[1] ?? NaN)), `half cycle ${n}`).toBeLessThan(1e-6 * peak(current.y)),
      );
      start = states.at(-1)?.[0] ?? NaN;
    }
  });

  test('a one-way thyristor opens at the first zero and leaves the bank where the figure says', () => {
    const rig = rigWith({
      'supply.V': '60 V',
      'store.V0': '50 V',
      'load.R': '2 mΩ',
      'load.L': '2 µH',
      'store.ESR': '1 mΩ',
      'switch.kind': 'thyristor',
      'switch.direction': 'one-way',
      'switch.VT': '2 V',
    });
    const { traces, opensAt } = dischargeTraces(rig);
    const current = find(traces, 'current');
    const after = [...current.t].findIndex((t) => t > (opensAt ?? Infinity));
    expect([...current.y.slice(after)].every((i) => i === 0)).toBe(true);
    expect(current.y.every((i) => i >= 0)).toBe(true);
    expect(find(traces, 'store-voltage').y.at(-1)).toBeCloseTo(-new RigReading(rig).figure('reversed-voltage').value, 9);
  });
});

describe('the series RLC', () => {
  test('energy stored before is energy dissipated and left, at any damping', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 30, noNaN: true }),
        fc.double({ min: -14, max: -6, noNaN: true }),
        fc.double({ min: -12, max: -4, noNaN: true }),
        (zeta, lnL, lnC) => {
          const [L, C, V] = [Math.exp(lnL), Math.exp(lnC), 1000];
          const R = 2 * zeta * Math.sqrt(L / C);
          const at = rlcDischarge(R, L, C, V);
          const end = 3 * Math.sqrt(L * C);
          const n = 2000;
          const h = end / n;
          const power = (k: number) => R * at.current(k * h) ** 2;
          let heat = power(0) + power(n);
          for (let k = 1; k < n; k++) heat += power(k) * (k % 2 === 1 ? 4 : 2);
          heat *= h / 3;
          const left = 0.5 * C * at.voltage(end) ** 2 + 0.5 * L * at.current(end) ** 2;
          // The initial rise lasts L/R: at ζ = 30 that is 30 steps, and Simpson's rule is still good to 1e-5.
          expect(Math.abs((heat + left) / (0.5 * C * V * V) - 1)).toBeLessThan(1e-4);
        },
      ),
    );
  });

  test('is one smooth function through critical damping', () => {
    const [L, C] = [2e-6, 3e-4];
    for (const t of [1e-6, 2.4e-5, 1e-3]) {
      const at = (e: number) => rlcDischarge(2 * (1 + e) * Math.sqrt(L / C), L, C, 100);
      const exact = (100 / L) * t * Math.exp(-t / Math.sqrt(L * C));
      for (const e of [-1e-4, -1e-8, -1e-13, 0, 1e-13, 1e-8, 1e-4])
        expect(Math.abs(at(e).current(t) / exact - 1)).toBeLessThan(Math.abs(e) * (1 + t / Math.sqrt(L * C)) ** 2 + 1e-9);
    }
  });
});

test('charging beside a bleeder follows the integrator, and reaches its target at the charge time', () => {
  const rig = demoRig('anvil');
  const reading = new RigReading(rig);
  const [Rc, Rb, C, Vs] = [
    reading.figure('charging-resistance').value,
    1 / (1 / reading.offer('bleedResistance').value + 1 / reading.offer('meterResistance').value),
    reading.figure('bank-capacitance').value,
    reading.offer('sourceVoltage').value,
  ];
  const { traces, chargeTime, target } = chargeTraces(rig);
  const voltage = find(traces, 'store-voltage');
  const states = integrate(
    (_t, [v = 0, e = 0]) => [((Vs - v) / Rc - v / Rb) / C, 0 * e + (Vs - v) ** 2 / Rc],
    [0, 0],
    [...voltage.t, chargeTime ?? NaN].sort((a, b) => a - b),
  );
  const atTarget = states[[...voltage.t].filter((t) => t <= (chargeTime ?? 0)).length];
  expect(atTarget?.[0]).toBeCloseTo(target, 6);
  expect(Math.abs((atTarget?.[1] ?? NaN) / reading.figure('charging-energy-lost').value - 1)).toBeLessThan(1e-8);
  expect(voltage.y.at(-1)).toBeCloseTo(states.at(-1)?.[0] ?? NaN, 6);
});

test('bleed-down passes 50 V at the bleed time, the worst tolerance last of the two, the open bleeder hardly falls', () => {
  const rig = demoRig('anvil');
  const { traces } = bleedTraces(rig);
  const crossing = (id: string) => {
    const { t, y } = find(traces, id);
    const i = y.findIndex((v) => v < 50);
    return i < 0 ? Infinity : (t[i] ?? Infinity);
  };
  const time = new RigReading(rig).figure('bleed-time').value;
  const step = (find(traces, 'bleeder').t[1] ?? 0) * 1.01;
  expect(crossing('bleeder')).toBeGreaterThanOrEqual(time);
  expect(crossing('bleeder')).toBeLessThan(time + step);
  expect(crossing('worst')).toBeGreaterThan(crossing('bleeder'));
  expect(crossing('open')).toBe(Infinity);
});

test('a row of currents is that of the closed form at every point, ringing or not', () => {
  for (const [R, n] of [
    [0.05, 2000],
    [0.283, 1000],
    [5, 3000],
    [0, 777],
  ] as const) {
    const row = rlcSeries(R, 2e-6, 100e-6, 1e4, 2.5e-7, n);
    const { current } = rlcDischarge(R, 2e-6, 100e-6, 1e4);
    const top = row.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
    for (let k = 0; k <= n; k++) expect(Math.abs((row[k] ?? NaN) - current(k * 2.5e-7)), `${R} ${k}`).toBeLessThan(1e-10 * top);
  }
});
