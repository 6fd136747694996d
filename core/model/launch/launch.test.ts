import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { layersInductance, layersMutual, type Layer } from '../coaxial.ts';
import { rlcDischarge } from '../../simulate/index.ts';
import { witness } from '../../test/evidence.ts';
import { offBy } from '../../test/fixtures.ts';
import { given } from '../../test/launch.ts';
import {
  conducting,
  demagnetising,
  ferromagnetic,
  launch,
  newReading,
  sleeveTurn,
  type Armature,
  type LaunchCoil,
  type StageCircuit,
} from './index.ts';

const stage = (more: Partial<StageCircuit> = {}): StageCircuit => ({
  C: 2.2e-3,
  V0: 400,
  R: 0.12,
  Vt: 0,
  freewheel: null,
  fire: { by: 'time', t: 0 },
  ...more,
});
const at = { mass: 0.02, x0: -22e-3, v0: 0, friction: 0 };

const wound = (turns: number, count: number, radius: number, pitch = 1.2e-3): LaunchCoil => {
  const layers = Array.from({ length: count }, (_, i): Layer => ({
    radius: radius + i * pitch,
    turns,
    first: (-(turns - 1) * pitch) / 2,
    pitch,
  }));
  return { layers, at: 0, L: layersInductance(layers, 0.5e-3) };
};
/** A coil alone. */
const bare = (L: number): Armature => ({
  coils: 1,
  own: 0,
  mutual: null,
  read: (_x, i, _psi, out) => {
    out.L[0] = L;
    out.h[0] = 0;
    out.c = 0;
    out.e[0] = 0;
    out.F = 0;
    out.W = 0.5 * L * (i[0] ?? 0) ** 2;
  },
});
const slug = { diameter: 9e-3, length: 30e-3, saturation: 1.6e6, susceptibility: 400 };
const coil = wound(25, 3, 6e-3);
const mass = 7800 * (Math.PI / 4) * slug.diameter ** 2 * slug.length;

describe('one launch stage', () => {
  test('with a given inductance curve leaves with the speed of an independent integration', () => {
    // Answer of an independent integration: freewheel from 0.951 ms, exit at 26.7714 m/s.
    const made = launch(
      { stages: [stage({ freewheel: { Vf: 0, R: 0.01 } })], armature: given, ...at },
      { until: 20e-3, tolerance: 1e-8 },
    );
    const source = 'independent integration: eighth-order Runge-Kutta method, tolerance 1e-10';
    const free = made.events.find((e) => e.what === 'freewheels')?.t ?? NaN;
    witness({ kind: 'model', id: 'Launch: time' }, free, 0.951e-3, { source, within: 1e-3 });
    witness({ kind: 'model', id: 'Launch: speed' }, made.v.at(-1) ?? NaN, 26.7714, { source, within: 1e-5 });
  });

  test('without a slug is a plain loop of R, L and C: up to the first zero of its current', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.005, max: 0.2, noNaN: true }), fc.double({ min: 1e-5, max: 1e-3, noNaN: true }), (R, L) => {
        const made = launch({ stages: [stage({ R })], armature: bare(L), ...at }, { until: 5e-3, tolerance: 1e-9 });
        const { current } = rlcDischarge(R, L, 2.2e-3, 400);
        const end = made.events.find((e) => e.what === 'ends')?.t ?? Infinity;
        const top = made.i[0]?.reduce((a, b) => Math.max(a, b), 0) ?? NaN;
        made.t.forEach((t, k) => {
          if (t < end) expect(Math.abs((made.i[0]?.[k] ?? NaN) - current(t))).toBeLessThan(1e-5 * top);
        });
        expect(made.closure).toBeLessThan(1e-6);
      }),
      { numRuns: 20 },
    ));

  test('has its greatest current where the closed form has it, and not at the end of a step beside', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.005, max: 2, noNaN: true }), fc.double({ min: 1e-5, max: 1e-3, noNaN: true }), (R, L) => {
        const made = launch({ stages: [stage({ R })], armature: bare(L), ...at }, { until: 20e-3 });
        const { current } = rlcDischarge(R, L, 2.2e-3, 400);
        // Where its slope is nought: tan(ωt) = ω/α, tanh(kt) = k/α, t = 1/α.
        const [a, q] = [R / (2 * L), 1 / (L * 2.2e-3) - (R / (2 * L)) ** 2];
        const w = Math.sqrt(Math.abs(q));
        const top = current(q > 0 ? Math.atan2(w, a) / w : Math.atanh(w / a) / w);
        expect(offBy(made.peak[0] ?? NaN, top)).toBeLessThan(1e-4);
        expect(made.i[0]?.reduce((most, i) => Math.max(most, i), 0)).toBe(made.peak[0]);
        expect(made.t.every((t, k) => k === 0 || t >= (made.t[k - 1] ?? NaN))).toBe(true);
      }),
      { numRuns: 40 },
    ));

  test('a current that ends is over: in a diode when it comes to nought, fading through its own resistance when nothing is left', () => {
    const over = (more: Partial<StageCircuit>) =>
      launch({ stages: [stage(more)], armature: bare(80e-6), ...at }, { until: 0.5, beyond: 0.5 });
    const [wheel, faded] = [over({ Vt: 1, freewheel: { Vf: 0.8, R: 0.01 } }), over({ R: 2, Vt: 1 })];
    expect(wheel.events.map(({ what }) => what)).toEqual(['fires', 'freewheels', 'ends']);
    expect(faded.events.map(({ what }) => what)).toEqual(['fires', 'ends']);
    for (const made of [wheel, faded]) {
      expect(made.i[0]?.at(-1)).toBe(0);
      expect(made.steps).toBeLessThan(400);
      expect(made.closure).toBeLessThan(1e-4);
    }
  });

  test('no energy is made or lost, whatever the slug, the coil, the place and the friction', () =>
    fc.assert(
      fc.property(
        fc.record({
          V0: fc.integer({ min: 20, max: 900 }),
          C: fc.double({ min: 1e-4, max: 5e-3, noNaN: true }),
          R: fc.double({ min: 0.02, max: 1, noNaN: true }),
          x0: fc.double({ min: -0.04, max: 0.01, noNaN: true }),
          friction: fc.double({ min: 0, max: 3, noNaN: true }),
          wheel: fc.boolean(),
        }),
        ({ V0, C, R, x0, friction, wheel }) => {
          const made = launch(
            {
              stages: [stage({ V0, C, R, Vt: 1, freewheel: wheel ? { Vf: 0.8, R: 0.01 } : null })],
              armature: ferromagnetic(slug, [coil]),
              mass,
              x0,
              v0: 0,
              friction,
            },
            { until: 15e-3, tolerance: 1e-6 },
          );
          expect(made.closure).toBeLessThan(1e-3);
          for (const values of [made.x, made.v, made.F]) expect(values.every(Number.isFinite)).toBe(true);
        },
      ),
      { numRuns: 25 },
    ));

  test('a pulse that outlasts the way to the middle pulls the slug back; a shorter one does not', () => {
    // Common practice, no source.
    const armature = ferromagnetic(slug, [coil]);
    const exit = (C: number) =>
      launch({ stages: [stage({ C, V0: 250, R: 0.15 })], armature, mass, x0: -18e-3, v0: 0, friction: 0 }, { until: 30e-3 });
    const [short, long] = [exit(0.6e-3), exit(8e-3)];
    const least = (values: Float64Array) => values.reduce((a, b) => Math.min(a, b), Infinity);
    const most = (values: Float64Array) => values.reduce((a, b) => Math.max(a, b), -Infinity);
    expect(least(short.F)).toBeGreaterThan(-0.05 * most(short.F));
    expect(least(long.F)).toBeLessThan(-0.2 * most(long.F));
    expect(long.v.at(-1) ?? NaN).toBeLessThan(0.9 * most(long.v));
  });
});

describe('a ferromagnetic slug', () => {
  const read = (x: number, i: number) => {
    const out = newReading(1);
    ferromagneticOnce.read(x, Float64Array.of(i), 0, out);
    return out;
  };
  const ferromagneticOnce = ferromagnetic(slug, [coil]);

  test('at small currents the force is the gradient of the stored energy, ½·i²·dL/dx; it is drawn to the middle', () => {
    for (const x of [-0.03, -0.02, -0.008, 0.012]) {
      const L = (z: number) => {
        const { L: own, h, c } = read(z, 0.01);
        return (own[0] ?? 0) + c * (h[0] ?? 0) ** 2;
      };
      const d = 1e-5;
      const gradient = (0.5 * 0.01 ** 2 * (L(x + d) - L(x - d))) / (2 * d);
      expect(offBy(read(x, 0.01).F, gradient)).toBeLessThan(1e-4);
      expect(Math.sign(read(x, 50).F)).toBe(-Math.sign(x));
    }
    expect(Math.abs(read(0, 50).F)).toBeLessThan(1e-9);
  });

  test('saturates: the force grows with the square of the current at first, then with the current alone', () => {
    const growth = (i: number) => read(-0.015, 2 * i).F / read(-0.015, i).F;
    expect(growth(0.05)).toBeCloseTo(4, 1);
    expect(growth(5000)).toBeCloseTo(2, 1);
  });

  test('its field is that of the coil over its length: a thin short one sees the field on the axis', () => {
    const thin = ferromagnetic({ ...slug, diameter: 0.4e-3, length: 0.8e-3 }, [coil]);
    const out = newReading(1);
    thin.read(0, Float64Array.of(1), 0, out);
    // Sum of the loops on the axis: a²/2(a² + z²)^1.5 each.
    const H = coil.layers.reduce((sum, { radius, turns, first, pitch }) => {
      for (let k = 0; k < turns; k++) sum += radius ** 2 / (2 * (radius ** 2 + (first + k * pitch) ** 2) ** 1.5);
      return sum;
    }, 0);
    expect(offBy(out.h[0] ?? NaN, H)).toBeLessThan(0.01);
  });

  test('the longer, the less it demagnetises itself: a sphere-like one by about a third', () => {
    // Bozorth, Ferromagnetism: a cylinder as long as wide about 0.31, ten times as long about 0.02 to 0.04; from memory.
    expect(demagnetising(1)).toBeCloseTo(0.31, 1);
    expect(demagnetising(10)).toBeGreaterThan(0.015);
    expect(demagnetising(10)).toBeLessThan(0.05);
  });
});

describe('several stages', () => {
  const coils = [0, 0.05, 0.1].map((place) => ({ ...coil, at: place }));
  const armature = ferromagnetic(slug, coils);
  const run = (fire: readonly StageCircuit['fire'][]) =>
    launch(
      {
        stages: fire.map((f) => stage({ C: 0.5e-3, V0: 300, R: 0.15, freewheel: { Vf: 0.8, R: 0.01 }, fire: f })),
        armature,
        mass,
        x0: -18e-3,
        v0: 0,
        friction: 0,
      },
      { until: 40e-3 },
    );

  test('side by side share what two rows of loops do, and store it: no energy is made or lost while both conduct', () => {
    const [near, far] = [wound(25, 3, 6e-3), { ...wound(25, 3, 6e-3), at: 0.032 }];
    const pair = ferromagnetic(slug, [near, { ...far, layers: near.layers }]);
    const M = near.layers.reduce(
      (sum, a) => sum + far.layers.reduce((rest, b) => rest + layersMutual(a, { ...b, first: b.first + far.at }), 0),
      0,
    );
    expect(offBy(pair.mutual?.[1] ?? NaN, M)).toBeLessThan(5e-3);
    const made = launch(
      {
        stages: [stage({ R: 0.05 }), stage({ R: 0.05, V0: 250, fire: { by: 'time', t: 2e-4 } })],
        armature: pair,
        mass,
        x0: -18e-3,
        v0: 0,
        friction: 0,
      },
      { until: 15e-3, tolerance: 1e-7 },
    );
    expect(made.peak).toEqual(made.i.map((trace) => trace.reduce((a, b) => Math.max(a, b), 0)));
    expect(made.closure).toBeLessThan(1e-4);
    // At rest and without iron: two coupled lossless circuits alike swing together as one with L + M.
    const air = ferromagnetic({ ...slug, susceptibility: 1e-9 }, [near, { ...near, at: 0.032 }]);
    const both = launch(
      { stages: [stage({ R: 0, C: 1e-4 }), stage({ R: 0, C: 1e-4 })], armature: air, mass: 1e9, x0: 0, v0: 0, friction: 0 },
      { until: 5e-3, tolerance: 1e-9 },
    );
    const together = Math.PI * Math.sqrt((near.L + (air.mutual?.[1] ?? NaN)) * 1e-4);
    expect(offBy(both.events.find((e) => e.what === 'ends')?.t ?? NaN, together)).toBeLessThan(1e-5);
  });

  test('fired by place each adds speed; by the delays that this took they do the same', () => {
    const byPlace = run([
      { by: 'time', t: 0 },
      { by: 'position', x: 0.05 - 18e-3 },
      { by: 'position', x: 0.1 - 18e-3 },
    ]);
    const fires = byPlace.events.filter((e) => e.what === 'fires').map((e) => e.t);
    expect(fires).toHaveLength(3);
    const [t0 = 0, t1 = 0, t2 = 0] = fires;
    const speedAt = (t: number) => byPlace.v[byPlace.t.findIndex((x) => x >= t)] ?? NaN;
    expect(speedAt(t2)).toBeGreaterThan(speedAt(t1));
    expect(byPlace.v.at(-1) ?? 0).toBeGreaterThan(speedAt(t2));
    expect(byPlace.closure).toBeLessThan(1e-3);
    const byDelay = run([
      { by: 'time', t: 0 },
      { by: 'delay', t: t1 - t0 },
      { by: 'delay', t: t2 - t1 },
    ]);
    expect(offBy(byDelay.v.at(-1) ?? NaN, byPlace.v.at(-1) ?? NaN)).toBeLessThan(1e-4);
    // A delay that is off costs speed.
    const late = run([
      { by: 'time', t: 0 },
      { by: 'delay', t: t1 - t0 + 2e-3 },
      { by: 'delay', t: t2 - t1 },
    ]);
    expect(late.v.at(-1) ?? NaN).toBeLessThan(byPlace.v.at(-1) ?? NaN);
  });
});

describe('conducting sleeve', () => {
  const sleeve = { diameter: 9e-3, length: 12e-3, wall: 0.6e-3, resistivity: 2.82e-8 };
  const armature = conducting(sleeve, [coil]);
  const sleeveMass = 2700 * Math.PI * sleeve.diameter * sleeve.wall * sleeve.length;

  test('is coupled to the coil as a row of loops is, by Maxwell, turn by turn', () => {
    const out = newReading(1);
    const rings: Layer = { radius: sleeve.diameter / 2, turns: 200, first: 0, pitch: sleeve.length / 200 };
    let most = 0;
    for (const x of [0, 0.006, 0.015, 0.03]) {
      armature.read(x, Float64Array.of(0), 0, out);
      const sheet = { ...rings, first: x - sleeve.length / 2 + rings.pitch / 2 };
      const M = coil.layers.reduce((sum, layer) => sum + layersMutual(sheet, layer), 0) / 200;
      most = Math.max(most, M);
      expect(Math.abs((out.h[0] ?? NaN) - M)).toBeLessThan(2e-3 * most);
    }
  });

  test('held fast it is a transformer with its secondary shorted: the closed form of two coupled loops', () => {
    // At rest in the middle and without resistance in the coil: sinusoidal currents, L(1 − k²) seen from the store.
    const perfect = conducting({ ...sleeve, resistivity: 1e-16 }, [coil]);
    const out = newReading(1);
    perfect.read(0, Float64Array.of(0), 0, out);
    const leak = (out.L[0] ?? 0) - (out.h[0] ?? 0) ** 2 / sleeveTurn(sleeve).L;
    const made = launch(
      { stages: [stage({ R: 0, C: 1e-4, V0: 100 })], armature: perfect, mass: 1e9, x0: 0, v0: 0, friction: 0 },
      { until: 5e-3, tolerance: 1e-9 },
    );
    const source = 'two coupled loops, the second shorted, in closed form';
    const ends = made.events.find((e) => e.what === 'ends')?.t ?? NaN;
    const most = made.i[0]?.reduce((a, b) => Math.max(a, b), 0) ?? NaN;
    witness({ kind: 'model', id: 'Launch: time' }, ends, Math.PI * Math.sqrt(leak * 1e-4), { source, within: 1e-5 });
    witness({ kind: 'model', id: 'Launch: current' }, most, 100 * Math.sqrt(1e-4 / leak), { source, within: 1e-3 });
  });

  test('is pushed away from the middle, to either side alike, while the current rises; no energy is made or lost', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 2e-3, max: 0.02, noNaN: true }),
        fc.integer({ min: 50, max: 900 }),
        fc.boolean(),
        (from, V0, wheel) => {
          const shot = (x0: number) =>
            launch(
              {
                stages: [stage({ V0, C: 5e-4, freewheel: wheel ? { Vf: 0.8, R: 0.01 } : null })],
                armature,
                mass: sleeveMass,
                x0,
                v0: 0,
                friction: 0,
              },
              { until: 10e-3, tolerance: 1e-7 },
            );
          const [on, back] = [shot(from), shot(-from)];
          // While the current rises; the dying current of a freewheel can hold it back again.
          const [top, fall] = [on.v.reduce((a, b) => Math.max(a, b), 0), back.v.reduce((a, b) => Math.min(a, b), 0)];
          expect(top).toBeGreaterThan(0);
          expect(on.F[3] ?? NaN).toBeGreaterThan(0);
          expect(Math.abs((on.v.at(-1) ?? NaN) + (back.v.at(-1) ?? NaN))).toBeLessThan(1e-4 * top);
          expect(offBy(fall, -top)).toBeLessThan(2e-2);
          expect(on.closure).toBeLessThan(1e-3);
          expect(on.energy.armature).toBeGreaterThan(0);
        },
      ),
      { numRuns: 20 },
    ));
});
