import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import { newRig, withBlock } from '../../rig/index.ts';
import { agrees, decades, saidBy, typed } from '../../test/by-hand.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const runs = { numRuns: 12 };
const mu0 = 4e-7 * Math.PI;
/** Handbook values, from memory: Ω·m, 1/K, kg/m³, J/(kg·K), Pa. */
const metals = {
  copper: { rho: 1.7241e-8, alpha: 3.93e-3, density: 8960, heat: 385 },
  aluminium: { rho: 2.82e-8, alpha: 4.03e-3, density: 2700, heat: 897 },
} as const;

const winding = fc.record({
  Df: decades(0.01, 0.06),
  d: decades(0.5e-3, 3e-3),
  turns: fc.integer({ min: 4, max: 30 }),
  layers: fc.integer({ min: 1, max: 6 }),
  build: decades(2e-5, 1e-4),
  metal: fc.constantFrom('copper', 'aluminium'),
});
type Winding = typeof winding extends fc.Arbitrary<infer T> ? T : never;

const bare = withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coil')));
/** A winding of whole layers, wire on wire, as long as its turns and no longer. */
function rigOf({ Df, d, turns, layers, build, metal }: Winding, more: Record<string, string> = {}) {
  const pitch = d + 2 * build;
  return rigWith(
    {
      'load.section': 'round',
      'load.by': 'layers',
      'load.lay': 'square',
      'load.metal': metal,
      ...typed({ 'load.Df': [Df, 'm'], 'load.d': [d, 'm'], 'load.build': [build, 'm'], 'load.m': [layers, ''] }),
      ...typed({ 'load.l': [Number((turns * pitch * 1.0001).toPrecision(8)), 'm'], 'load.T': [20, '°C'] }),
      ...typed({
        'load.Rl': [2, 'mΩ'],
        'load.Ll': [500, 'nH'],
        'store.C': [1, 'mF'],
        'store.V0': [400, 'V'],
        'supply.V': [900, 'V'],
      }),
      'store.ns': '1',
      'store.np': '1',
      ...more,
    },
    bare,
  );
}

/** Radii of the layers, and where each turn of one lies along it, m. */
function placesOf({ Df, d, turns, layers, build }: Winding) {
  const pitch = d + 2 * build;
  const radii = Array.from({ length: layers }, (_, k) => Df / 2 + pitch * (k + 0.5));
  const along = Array.from({ length: turns }, (_, j) => (j - (turns - 1) / 2) * pitch);
  return { pitch, radii, along };
}

describe('a wound coil, turn by turn beside the program', () => {
  const counted = { source: 'wire, mass and voltages counted turn by turn beside the program, coils at random', within: 2e-3 };

  test('its wire, what that weighs, and its resistance cold and warm', () => {
    fc.assert(
      fc.property(winding, fc.integer({ min: -20, max: 120 }), (one, T) => {
        const { radii } = placesOf(one);
        const metal = metals[one.metal as keyof typeof metals];
        const wire = radii.reduce((sum, r) => sum + 2 * Math.PI * r * one.turns, 0);
        const section = (Math.PI / 4) * one.d ** 2;
        const R = (metal.rho * wire) / section;
        agrees(
          rigOf(one),
          {
            figures: {
              'coil-turns': one.turns * one.layers,
              'coil-wire': wire,
              'coil-mass': metal.density * wire * section,
              'coil-resistance': R,
            },
          },
          counted,
        );
        const warm = { source: 'resistance of a metal by its temperature coefficient; from memory', memory: true, within: 0.01 };
        agrees(
          rigOf(one, typed({ 'load.T': [T, '°C'] })),
          { figures: { 'coil-resistance': R * (1 + metal.alpha * (T - 20)) } },
          warm,
        );
      }),
      runs,
    );
  });

  test('the field in its middle is that of all its turns as loops of current', () => {
    fc.assert(
      fc.property(winding, (one) => {
        const rig = rigOf(one);
        const { radii, along } = placesOf(one);
        const I = new RigReading(rig).figure('peak-current').value;
        // Biot and Savart, on the axis of a loop: μ0·I·r²/(2·(r² + z²)^(3/2)).
        const B = radii.reduce(
          (sum, r) => sum + along.reduce((all, z) => all + (mu0 * I * r * r) / (2 * Math.hypot(r, z) ** 3), 0),
          0,
        );
        // The program has the wire spread evenly over its section; few turns of thick wire differ from that.
        const loops = { source: 'all turns as loops of current, Biot and Savart, beside the program', within: 0.02 };
        agrees(rig, { figures: { 'coil-field': B } }, loops);
        const [field = NaN, pressure = NaN] = (['coil-field', 'coil-pressure'] as const).map(
          (id) => new RigReading(rig).figure(id).value,
        );
        expect(pressure / (field ** 2 / (2 * mu0))).toBeCloseTo(1, 9);
      }),
      runs,
    );
  });

  test('voltages between turns and layers, and what a shot heats the wire by, from 20 °C', () => {
    fc.assert(
      fc.property(winding, (one) => {
        const rig = rigOf(one, typed({ 'load.Vi': [600, 'V'] }));
        const metal = metals[one.metal as keyof typeof metals];
        const section = (Math.PI / 4) * one.d ** 2;
        const reading = new RigReading(rig);
        const action = reading.figure('action-integral').value;
        // A section of metal by itself, its resistance rising with its heat: stepped in ten thousandths of the action.
        let rise = 0;
        for (let k = 0; k < 10_000; k++)
          rise += (metal.rho * (1 + metal.alpha * rise) * (action / 10_000)) / (metal.density * metal.heat * section ** 2);
        agrees(rig, { figures: { 'coil-turn-voltage': 400 / (one.turns * one.layers) } }, counted);
        if (one.layers > 1)
          agrees(
            rig,
            { figures: { 'coil-layer-voltage': 800 / one.layers }, limits: { 'coil-layer-voltage': [800 / one.layers, 600] } },
            counted,
          );
        fc.pre(rise < 500);
        agrees(
          rig,
          { figures: { 'coil-heating': rise } },
          { source: 'heat of a section of wire in ten thousand steps; constants from memory', memory: true, within: 0.03 },
        );
        const pulse = reading.figure('coil-pulse-resistance').value;
        agrees(rig, { figures: { 'load-energy': action * pulse } }, { ...counted, within: 1e-9 });
        // Skin and proximity only ever add.
        expect(pulse).toBeGreaterThanOrEqual(reading.figure('coil-resistance').value * (1 - 1e-9));
      }),
      runs,
    );
  });

  test('the inductance of a long single layer is that of a current sheet by Lorenz, as Nagaoka tabled it', () => {
    // Nagaoka's coefficient at diameter over length of 0.1, 0.5, 1 and 2: tables, from memory.
    for (const [ratio, k] of [
      [0.1, 0.9588],
      [0.5, 0.8181],
      [1, 0.6884],
      [2, 0.5255],
    ] as const) {
      const [N, d, build] = [60, 0.5e-3, 2e-5];
      const pitch = d + 2 * build;
      const length = N * pitch;
      const D = ratio * length;
      const rig = rigOf({ Df: Number((D - pitch).toPrecision(8)), d, turns: N, layers: 1, build, metal: 'copper' });
      const L = (k * mu0 * N ** 2 * Math.PI * (D / 2) ** 2) / length;
      agrees(
        rig,
        { figures: { 'coil-inductance': L } },
        { source: 'Nagaoka’s coefficient, from memory', memory: true, within: 0.02 },
      );
    }
  });

  test('a reading stands in place of what the wire gives, and one that is more than 15 % off is asked about', () => {
    const one: Winding = { Df: 0.03, d: 1e-3, turns: 20, layers: 2, build: 4e-5, metal: 'copper' };
    const reading = new RigReading(rigOf(one));
    const [R, L] = [reading.figure('coil-resistance').value, reading.figure('coil-inductance').value];
    const said = (field: 'Rm' | 'Lm', value: number) =>
      saidBy(rigOf(one, typed({ [`load.${field}`]: [value, field === 'Rm' ? 'Ω' : 'H'] })), 'load').includes(`warning ${field}`);
    for (const [field, wound] of [
      ['Rm', R],
      ['Lm', L],
    ] as const) {
      expect(
        [1.16, 0.84].map((k) => said(field, wound * k)),
        field,
      ).toEqual([true, true]);
      expect(
        [1.14, 0.86, 1].map((k) => said(field, wound * k)),
        field,
      ).toEqual([false, false, false]);
    }
    const measured = rigOf(one, typed({ 'load.Rm': [R * 1.1, 'Ω'], 'load.Lm': [L * 0.9, 'H'] }));
    agrees(measured, { figures: { 'coil-resistance': R * 1.1, 'coil-inductance': L * 0.9 } }, { ...counted, within: 1e-6 });
  });
});
