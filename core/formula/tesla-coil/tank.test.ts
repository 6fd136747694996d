import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { simulateCircuit, traceAt } from '../../circuit/index.ts';
import { holds, witness } from '../../test/evidence.ts';
import { offBy, table } from '../../test/fixtures.ts';
import { integrate } from '../../test/integrate.ts';
import {
  acBreaks,
  chargeState,
  chargeTo,
  leftAfter,
  rotaryBreaks,
  steadyAcBreaks,
  steadyBreaks,
  swingPeak,
} from '../../model/index.ts';
import { layersInductance, layersMutual, loopMutual, sheetInductance } from '../../model/index.ts';
import { coupledModes, coupledRing, coupledSamples, type CoupledLoops } from '../../model/index.ts';
import { evaluateFormula, FormulaError, secondaryFormulas, breakFormulas, tankFormulas } from '../index.ts';
import { skinTurn, spiralTurns, turnsInductance, turnsMutual } from '../../model/index.ts';

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const path = { Vs: 6000, f: 0, R: 18e3, L: 30, C: 12e-9, td: 80e-6 };

/** A transformer on a capacitor that nothing breaks, by the solver: the voltage of the capacitor. */
const unbroken = ({ Vs, f, R, L, C }: Record<'Vs' | 'f' | 'R' | 'L' | 'C', number>, until: number) =>
  simulateCircuit(
    {
      title: 'a transformer on a capacitor',
      elements: [
        { kind: 'voltage-source', name: 'V', nodes: ['a', '0'], wave: { kind: 'sine', offset: 0, amplitude: Vs, frequency: f } },
        { kind: 'inductor', name: 'L', nodes: ['a', 'b'], L, R },
        { kind: 'capacitor', name: 'C', nodes: ['b', '0'], C },
      ],
    },
    { until, maxStep: 1e-5, tolerance: 1e-6, probes: [{ of: 'voltage', element: 'C' }] },
  ).traces[0];

describe('a tank that is charged again and again', () => {
  test('charges as an independent integration says, damped or not, from any current', () =>
    fc.assert(
      fc.property(between(10, 2e5), between(0.01, 60), between(1e-9, 1e-7), between(0, 0.5), (R, L, C, i0) => {
        const out = { v: 0, i: 0 };
        const t = 0.7 * Math.PI * Math.sqrt(L * C);
        chargeState({ ...path, R, L, C }, i0, t, out);
        const [end = []] = integrate((_t, [v = 0, i = 0]) => [i / C, (path.Vs - R * i - v) / L], [0, i0], [t]);
        expect(Math.abs(out.v - (end[0] ?? NaN)) / path.Vs).toBeLessThan(1e-6);
        expect(Math.abs(out.i - (end[1] ?? NaN))).toBeLessThan(1e-6 * (1 + i0));
      }),
      { numRuns: 40 },
    ));

  test('swings to twice the supply through a choke without resistance, and to the supply through a resistance', () => {
    expect(swingPeak({ ...path, R: 0 })).toBeCloseTo(2 * path.Vs, 6);
    expect(swingPeak({ ...path, L: 0 })).toBe(path.Vs);
    expect(steadyBreaks({ ...path, R: 1e-3, td: 0 }, 1.999 * path.Vs)?.atBreak).toBeGreaterThan(0);
    expect(steadyBreaks({ ...path, R: 1 }, 2.001 * path.Vs)).toBeNull();
  });

  test('comes to a steady row that a plain repetition comes to as well, and whose energy adds up', () =>
    fc.assert(
      fc.property(between(2e3, 6e4), between(1, 60), between(0.3, 1.3), between(0, 2e-4), (R, L, share, td) => {
        const here = { ...path, R, L, td };
        const Vb = share * path.Vs;
        const row = steadyBreaks(here, Vb);
        fc.pre(row !== null);
        let i = 0;
        let T = 0;
        for (let n = 0; n < 60_000; n++) {
          const one = chargeTo(here, i, Vb);
          if (!one) return;
          T = one.T;
          const next = leftAfter(here, one.i1);
          if (Math.abs(next - i) < 1e-14) break;
          i = next;
        }
        expect(offBy(row.rate, 1 / (T + td))).toBeLessThan(1e-6);
        expect(offBy(row.left, i)).toBeLessThan(1e-6);
        // What the supply gives is what is stored, what the path turns into heat, and what builds up in the choke, which is nothing.
        expect(offBy(row.given, row.heat + 0.5 * here.C * Vb * Vb)).toBeLessThan(1e-6);
        // The heat of its current, summed in small steps, and its greatest.
        const at = { v: 0, i: 0 };
        const steps = 40_000;
        let [heat, most] = [0, 0];
        for (let k = 0; k < steps; k++) {
          chargeState(here, i, (T * (k + 0.5)) / steps, at);
          heat += (R * at.i * at.i * T) / steps;
          most = Math.max(most, Math.abs(at.i));
        }
        const i1 = chargeTo(here, i, Vb)?.i1 ?? NaN;
        for (let k = 0; k < 2000; k++) {
          const inGap = leftAfter({ ...here, td: (td * (k + 0.5)) / 2000 }, i1);
          heat += (R * inGap * inGap * td) / 2000;
          most = Math.max(most, Math.abs(inGap));
        }
        expect(offBy(row.heat, heat)).toBeLessThan(1e-4);
        expect(offBy(row.peak, most)).toBeLessThan(5e-3);
      }),
      { numRuns: 40 },
    ));

  test('through a rotary gap comes to the same row as a gap that breaks where it then breaks', () =>
    fc.assert(
      fc.property(between(2e3, 6e4), between(5, 60), between(300, 3000), (R, L, rate) => {
        const here = { ...path, R, L };
        const turned = rotaryBreaks(here, rate);
        // It passes while the tank still rises for the first time.
        fc.pre(turned !== null && turned.atBreak > 0.01 && Math.PI * Math.sqrt(L * here.C) > 1 / rate);
        const fixed = steadyBreaks(here, turned.Vb);
        fc.pre(fixed !== null);
        expect(offBy(turned.rate, fixed.rate)).toBeLessThan(1e-6);
        expect(offBy(turned.left, fixed.left)).toBeLessThan(1e-6);
        expect(offBy(turned.given, fixed.given)).toBeLessThan(1e-6);
      }),
      { numRuns: 40 },
    ));

  test('breaks the quicker the higher the supply and the smaller the tank, and leaves less behind a larger resistance', () =>
    fc.assert(
      fc.property(between(1.02, 1.5), between(8e3, 4e4), (by, R) => {
        const rate = (more: Partial<typeof path>) => steadyBreaks({ ...path, R, ...more }, 5000)?.rate ?? NaN;
        expect(rate({ Vs: path.Vs * by })).toBeGreaterThan(rate({}));
        expect(rate({ C: path.C / by })).toBeGreaterThan(rate({}));
        const left = (r: number) => steadyBreaks({ ...path, R: r }, 5000)?.left ?? NaN;
        expect(left(R * by)).toBeLessThan(left(R));
      }),
    ));

  test('on AC comes to its first break when the solver says, and its energy adds up', () => {
    const ac = { Vs: 9000, f: 50, R: 3e3, L: 400, C: 5e-9, td: 50e-6 };
    for (const Vb of [5000, 8000, 11_000]) {
      const first = acBreaks(ac, Vb).breaks[0];
      const trace = unbroken(ac, (first?.t ?? 1) * 1.2);
      expect(trace && Math.abs(Math.abs(traceAt(trace, first?.t ?? NaN)) / Vb - 1)).toBeLessThan(0.01);
      const rise = evaluateFormula(breakFormulas.acRise, { Vp: ac.Vs, R: ac.R, L: ac.L, C: ac.C, f: ac.f, V: Vb });
      expect(rise).toBe(first?.t);
    }
    const row = steadyAcBreaks(ac, 5000);
    // Never more than the transformer drives through its leakage.
    expect(row?.rms).toBeLessThan((1.5 * ac.Vs) / Math.SQRT2 / (2 * Math.PI * ac.f * ac.L));
    expect(row?.rate).toBeGreaterThan(2 * ac.f);
  });

  test('through a rotary gap breaks where its electrodes pass and the tank then stands above it, as often as a gap that stands when it turns fast', () => {
    const ac = { Vs: 9000, f: 50, R: 3e3, L: 400, C: 5e-9, td: 50e-6 };
    const n = 330;
    const { breaks } = acBreaks(ac, 3000, false, n);
    expect(breaks.length).toBeGreaterThan(20);
    for (const { t, v } of breaks) {
      expect(Math.abs(t * n - Math.round(t * n))).toBeLessThan(1e-9 * t * n + 1e-12);
      expect(Math.abs(v)).toBeGreaterThanOrEqual(3000);
    }
    // Until its first break nothing but the circuit has had a say in it.
    const first = breaks[0];
    const trace = unbroken(ac, (first?.t ?? 1) * 1.1);
    expect(trace && Math.abs(traceAt(trace, first?.t ?? NaN) / (first?.v ?? NaN) - 1)).toBeLessThan(5e-3);
    const rotary = steadyAcBreaks(ac, 3000, n);
    expect(rotary?.rate).toBeLessThanOrEqual(n * 1.01);
    // Between the passes nothing holds it.
    expect(rotary?.highest).toBeGreaterThanOrEqual(Math.max(...breaks.map(({ v }) => Math.abs(v))));
    expect(rotary?.given).toBeCloseTo((rotary?.heat ?? NaN) + 0.5 * ac.C * (rotary?.Vb ?? NaN) ** 2, 12);
    const [fast, stands] = [steadyAcBreaks(ac, 5000, 1e4), steadyAcBreaks(ac, 5000)];
    expect(Math.abs((fast?.rate ?? NaN) / (stands?.rate ?? NaN) - 1)).toBeLessThan(0.05);
    expect(steadyAcBreaks(ac, 60e3, n)).toBeNull();
  });

  test('is refused by name where the gap never fires, or a rotary one turns too fast', () => {
    const refused = (run: () => number) => {
      try {
        return String(run());
      } catch (error) {
        if (error instanceof FormulaError) return error.message;
        throw error;
      }
    };
    const { Vs, R, L, C: Ct, td } = path;
    expect(refused(() => evaluateFormula(breakFormulas.staticBreaks.rate, { Vs, R, L, Ct, td, Vb: 14e3 }))).toMatch(
      /^Vb: the gap never fires at this supply: the first swing reaches only \d/,
    );
    expect(refused(() => evaluateFormula(breakFormulas.rotaryGapBreaks.Vb, { Vs, R, L, Ct, td: 1e-3, n: 2000 }))).toMatch(/^n: /);
    expect(refused(() => evaluateFormula(breakFormulas.acSupplyBreaks.rate, { Vs, R, L: 400, Ct, td, f: 50, Vb: 5e5 }))).toMatch(
      /^Vb: the gap never fires/,
    );
  });

  test('a doubler sags and ripples as its charge balance says', () => {
    // 20 mA out of two capacitors of 2 µF at 50 Hz: 0.4 mC a cycle, 200 V on each, so 200 V of sag together and 100 V of ripple; by hand.
    const Rd = evaluateFormula(tankFormulas.doublerMeanResistance, { f: 50, Cd: 2e-6 });
    expect(evaluateFormula(tankFormulas.doublerSag, { I: 20e-3, Rd })).toBeCloseTo(200, 9);
    expect(evaluateFormula(tankFormulas.doublerRipple, { I: 20e-3, Rd })).toBeCloseTo(100, 9);
  });
});

describe('two coupled circuits', () => {
  const loops: CoupledLoops = { R1: 1.5, L1: 40e-6, C1: 12e-9, R2: 60, L2: 21e-3, C2: 22e-12, k: 0.12, V: 8000 };
  const tuned = (k: number): CoupledLoops => ({ ...loops, R1: 1e-6, R2: 1e-6, C2: (loops.L1 * loops.C1) / loops.L2, k });

  test('without losses and in tune are the closed form: half the difference of two cosines', () => {
    for (const k of [0.05, 0.2, 0.6]) {
      const pair = tuned(k);
      const { low, high } = coupledModes(pair);
      // f/√(1 ± k): Oberbeck; from memory.
      const f = 1 / (2 * Math.PI * Math.sqrt(pair.L1 * pair.C1));
      expect(offBy(low, f / Math.sqrt(1 + k))).toBeLessThan(1e-9);
      expect(offBy(high, f / Math.sqrt(1 - k))).toBeLessThan(1e-9);
      const dt = 1 / high / 37;
      const { v2, v1 } = coupledSamples(pair, dt, 600);
      const scale = pair.V * Math.sqrt(pair.C1 / pair.C2);
      for (let n = 0; n < 600; n += 7) {
        const [a, b] = [Math.cos(2 * Math.PI * low * n * dt), Math.cos(2 * Math.PI * high * n * dt)];
        expect(Math.abs((v1[n] ?? NaN) - (pair.V * (a + b)) / 2) / pair.V).toBeLessThan(1e-5);
        expect(Math.abs(Math.abs(v2[n] ?? NaN) - Math.abs((scale * (a - b)) / 2)) / scale).toBeLessThan(1e-5);
      }
    }
    // At 0.6 both cosines are at their ends together: all of the energy is over at one instant.
    const whole = coupledRing(tuned(0.6));
    expect(offBy(whole.peak, loops.V * Math.sqrt(loops.C1 / tuned(0.6).C2))).toBeLessThan(2e-3);
  });

  test('with losses and out of tune are what an independent integration says, and their energy adds up to half a per cent', () =>
    fc.assert(
      fc.property(between(0.02, 0.5), between(0.7, 1.4), between(0.5, 5), between(10, 300), (k, detuned, R1, R2) => {
        const pair = { ...loops, k, R1, R2, C2: tuned(k).C2 * detuned };
        const { L1, C1, L2, C2, V } = pair;
        const M = k * Math.sqrt(L1 * L2);
        const D = L1 * L2 - M * M;
        const slope = (_t: number, [v1 = 0, i1 = 0, v2 = 0, i2 = 0]: number[]) => {
          const [e1, e2] = [v1 - R1 * i1, -v2 - R2 * i2];
          return [-i1 / C1, (L2 * e1 - M * e2) / D, i2 / C2, (L1 * e2 - M * e1) / D];
        };
        const ring = coupledRing(pair);
        const [there = []] = integrate(slope, [V, 0, 0, 0], [ring.at]);
        holds('coupled-peak-voltage', pair as unknown as Record<string, number>, Math.abs(there[2] ?? NaN), {
          source: 'integrated by an extrapolation method (odex), at the time of the peak',
          within: 3e-3,
        });
        const heat = R1 * ring.S1 + R2 * ring.S2;
        expect(offBy(heat, 0.5 * C1 * V * V)).toBeLessThan(5e-3);
        expect(ring.peak).toBeLessThanOrEqual(V * Math.sqrt(C1 / C2));
      }),
      { numRuns: 25 },
    ));

  test('a coupling of one is refused by name', () => {
    const refused = () => evaluateFormula(secondaryFormulas.couplingFactor, { M: 1e-3, L1: 1e-3, L2: 1e-3 });
    expect(refused).toThrow(/^M: is as much as √\(L1·L2\): a coupling of 1 or more/);
  });
});

describe('primary and secondary', () => {
  test('a row of turns on a cylinder is the sum that windings are made of, and near the current sheet', () => {
    const [r, pitch, wire, n] = [0.06, 4e-3, 1e-3, 30];
    const turns = spiralTurns(r, pitch, Math.PI / 2, n);
    const sum = layersInductance([{ radius: r, turns: n, first: 0, pitch }], wire);
    // The other sum has the field within the wire as well, µ0·r/4 a turn.
    const inner = n * (Math.PI * 1e-7 * r);
    expect(offBy(turnsInductance(turns, wire), sum - inner)).toBeLessThan(1e-9);
    expect(offBy(turnsInductance(turns, wire), n * n * sheetInductance(2 * r, n * pitch))).toBeLessThan(0.05);
  });

  // Wheeler's own limits: a spiral whose depth is more than a fifth of its mean radius within 5 %, a coil longer than 0.4 D within 1 %.
  test.each([
    [0.06, 0.012, 10],
    [0.1, 0.015, 9],
    [0.04, 0.008, 14],
  ])('a flat spiral from %f m at %f m of %d turns is Wheeler’s within 5 %%', (r0, pitch, n) => {
    const exact = evaluateFormula(secondaryFormulas.spiralInductance, { r0, p: pitch, a: 0, n, d: pitch * 0.6 });
    const r = r0 + (n * pitch) / 2;
    const source = 'spiral-inductance, the sum over all pairs of turns';
    holds('wheeler-flat', { r, c: n * pitch, n }, exact, { source, within: 0.05 });
  });

  test.each(table('mutual-inductance-loops'))('loops of $radius_a_m m and $radius_b_m m, $distance_m m apart: $source', (row) => {
    const [a, b, z] = [row['radius_a_m'], row['radius_b_m'], row['distance_m']].map(Number) as [number, number, number];
    const turn = [{ r: a, z: 0, share: 1 }];
    const M = turnsMutual(turn, { r: b, z: z - 1e-7, l: 2e-7, N: 1 });
    const source = row['source'] ?? '';
    witness({ kind: 'model', id: 'Coaxial loops: mutual inductance' }, M, Number(row['mutual_H']), { source, within: 1e-4 });
    witness({ kind: 'model', id: 'Coaxial loops: mutual inductance' }, loopMutual(a, b, z), Number(row['mutual_H']), {
      source,
      within: 1e-5,
    });
  });

  test('the coupling of a helix and a layer is that of all their loops, one by one', () => {
    const [n, N, r1, r2, l] = [7, 400, 0.09, 0.055, 0.4];
    const primary = spiralTurns(r1, 0.012, Math.PI / 2, n);
    const z = -0.02;
    const sheet = turnsMutual(primary, { r: r2, z, l, N });
    const loops = layersMutual(
      { radius: r1, turns: n, first: 0.006, pitch: 0.012 },
      { radius: r2, turns: N, first: z + l / N / 2, pitch: l / N },
    );
    expect(offBy(sheet, loops)).toBeLessThan(1e-5);
  });

  test('a part of a turn adds its part: inductance grows with the tap without a jump', () =>
    fc.assert(
      fc.property(between(1, 15), between(0.001, 0.05), between(0, 1), (n, step, a) => {
        const L = (turns: number) => turnsInductance(spiralTurns(0.08, 0.012, Math.asin(a), turns), 0.004);
        expect(L(n + step)).toBeGreaterThan(L(n));
        expect(L(n + step) - L(n)).toBeLessThan(L(n) * (step * 4 + 1e-9) + 4 * step * skinTurn(0.3, 0.004));
      }),
    ));

  test('the tap that is in tune has the inductance that was asked for', () => {
    const wound = { r0: 0.09, p: 0.014, a: 0.3, d: 0.008 };
    for (const n of [2.3, 7, 11.81]) {
      const L = evaluateFormula(secondaryFormulas.spiralInductance, { ...wound, n });
      expect(evaluateFormula(secondaryFormulas.tuningTap, { ...wound, L })).toBeCloseTo(n, 6);
    }
  });
});

describe('a toroid', () => {
  const epsilon0 = 8.8541878128e-12;

  test('as thin as a wire is the ring of wire: 4π²ε0R/ln(8R/r); from memory', () => {
    const [R, r] = [1, 3e-4];
    const thin = (4 * Math.PI ** 2 * epsilon0 * R) / Math.log((8 * R) / r);
    holds('toroid-capacitance', { D: 2 * (R + r), d: 2 * r }, thin, {
      source: 'ring of thin wire: 4π²ε0R/ln(8R/r)',
      memory: true,
      within: 1e-4,
    });
  });

  test('of any shape is what rings of charge on its surface come to, solved for one potential', () => {
    /** Potential on ring b of a unit charge on ring a, by the elliptic integral that loops have as well: averaged here. */
    const potential = (r1: number, z1: number, r2: number, z2: number) => {
      const n = 4000;
      let sum = 0;
      for (let k = 0; k < n; k++) {
        const phi = (Math.PI * (k + 0.5)) / n;
        sum += 1 / Math.sqrt(r1 * r1 + r2 * r2 - 2 * r1 * r2 * Math.cos(phi) + (z1 - z2) ** 2);
      }
      return sum / n / (4 * Math.PI * epsilon0);
    };
    for (const [R, r] of [
      [0.12, 0.04],
      [0.1, 0.06],
    ] as const) {
      const n = 60;
      const at = Array.from({ length: n }, (_, k) => (2 * Math.PI * (k + 0.5)) / n);
      const rings = at.map((t) => [R + r * Math.cos(t), r * Math.sin(t)] as const);
      const width = (2 * Math.PI * r) / n;
      const P = rings.map(([r1, z1], i) =>
        rings.map(([r2, z2], j) =>
          i === j
            ? // A strip of charge at its own middle: the ring at the mean of the logarithms of all distances, width/2e.
              Math.log((8 * r1 * 2 * Math.E) / width) / (4 * Math.PI ** 2 * epsilon0 * r1)
            : potential(r1, z1, r2, z2),
        ),
      );
      // Gauss and Jordan on the symmetric system P·q = 1.
      const rows = P.map((row) => [...row, 1]);
      for (let i = 0; i < n; i++) {
        const pivot = rows[i]?.[i] ?? NaN;
        for (let j = 0; j < n; j++) {
          if (j === i) continue;
          const f = (rows[j]?.[i] ?? 0) / pivot;
          rows[j] = (rows[j] ?? []).map((x, m) => x - f * (rows[i]?.[m] ?? 0));
        }
      }
      const q = rows.reduce((sum, row, i) => sum + (row[n] ?? 0) / (row[i] ?? NaN), 0);
      const source = 'rings of charge on its surface, solved for one potential';
      holds('toroid-capacitance', { D: 2 * (R + r), d: 2 * r }, q, { source, within: 5e-3 });
    }
  });

  test('grows with either measure, and is never above that of the ball around it', () =>
    fc.assert(
      fc.property(between(0.05, 2), between(0.02, 0.45), between(1.01, 1.3), (D, share, by) => {
        const C = (outer: number, tube: number) => evaluateFormula(secondaryFormulas.toroidCapacitance, { D: outer, d: tube });
        fc.pre(share * by < 0.49);
        expect(C(D, share * D * by)).toBeGreaterThan(C(D, share * D));
        expect(offBy(C(D * by, share * D * by), by * C(D, share * D))).toBeLessThan(1e-6);
        expect(C(D, share * D)).toBeLessThan(4 * Math.PI * epsilon0 * (D / 2));
      }),
      { numRuns: 20 },
    ));
});

test('two loops share as much flux seen from either', () => {
  expect(offBy(loopMutual(0.1, 0.04, 0.03), loopMutual(0.04, 0.1, -0.03))).toBeLessThan(1e-12);
});
