import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { coilFormulas, evaluateFormula } from '../../formula/index.ts';
import { layersInductance } from '../../model/index.ts';
import { newBlock, blockDefinition } from '../../kind/index.ts';
import { RigReading } from '../../figure/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { figureOf, problemsOf, solved } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';
import { windingOf } from './winding.ts';

const coilRig = (typed: Readonly<Record<string, string>> = {}): Rig =>
  rigWith(
    { 'supply.V': '60 V', 'store.C': '5 mF', 'store.V0': '38 V', 'store.ESR': '10 mΩ', ...typed },
    withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coil'))),
  );
const windingIn = (rig: Rig) => windingOf(new RigReading(rig).own('load'));

describe('the winding of a coil', () => {
  test('the same turns by turns, by layers and by the wire that they took', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 5, max: 60 }), (layers, former) => {
        const byLayers = windingIn(coilRig({ 'load.by': 'layers', 'load.m': String(layers), 'load.Df': `${former} mm` }));
        const byTurns = windingIn(coilRig({ 'load.by': 'turns', 'load.N': String(byLayers.turns), 'load.Df': `${former} mm` }));
        const byWire = windingIn(
          coilRig({ 'load.by': 'wire', 'load.lw': `${byLayers.wire * 1000 + 1} mm`, 'load.Df': `${former} mm` }),
        );
        expect([byTurns.turns, byWire.turns]).toEqual([byLayers.turns, byLayers.turns]);
        expect(byLayers.turns).toBe(layers * byLayers.perLayer);
        // No more than circles fill of squares, and what is wound is between the innermost and the outermost turn.
        expect(byLayers.packing).toBeLessThan(Math.PI / 4);
        expect(byLayers.wire).toBeGreaterThan(Math.PI * byLayers.inner * byLayers.turns);
        expect(byLayers.wire).toBeLessThan(Math.PI * byLayers.outer * byLayers.turns);
      }),
      { numRuns: 25 },
    ));

  test('as a sheet, turn by turn and as a filled section has about the same inductance', () => {
    const single = coilRig({ 'load.N': '20' });
    const w = windingIn(single);
    // Rosa's corrections of a sheet for round wire: −µ0·a·N·(5/4 − ln(2p/d) + B), B of 20 turns 0.297; from memory.
    const rosa = 4e-7 * Math.PI * (w.layers[0]?.radius ?? NaN) * 20 * (1.25 - Math.log((2 * w.pitch) / w.round) + 0.297);
    const corrected = figureOf(single, 'coil-inductance') - rosa;
    expect(offBy(corrected, layersInductance(w.layers, w.round / 2))).toBeLessThan(2e-3);
    const many = windingIn(coilRig({ 'load.d': '0.5 mm', 'load.by': 'layers', 'load.m': '12' }));
    const even = evaluateFormula(coilFormulas.multilayerInductance, {
      N: many.turns,
      D1: many.inner,
      D2: many.outer,
      l: many.length,
    });
    expect(offBy(layersInductance(many.layers, many.round / 2), even)).toBeLessThan(0.01);
    // In the grooves it is smaller outside, and has less.
    const of = (lay: string) => figureOf(coilRig({ 'load.lay': lay, 'load.N': '70' }), 'coil-inductance');
    expect(of('grooves')).toBeLessThan(of('square'));
  });

  test('what cannot be wound is named by its field', () => {
    expect(problemsOf(coilRig({ 'load.d': '50 mm' }))).toMatch(/thicker than the window/);
    expect(problemsOf(coilRig({ 'load.by': 'wire', 'load.lw': '20 mm' }))).toMatch(/too short for one turn/);
    expect(problemsOf(coilRig({ 'load.section': 'strip' }))).toMatch(/is not given|missing|empty|Width/i);
    expect(problemsOf(coilRig({ 'load.section': 'strip', 'load.w': '5 mm', 'load.t': '1 mm' }))).not.toMatch(/thicker/);
  });
});

describe('a coil on a store', () => {
  test('of 110 Ω at 38 V passes a third of an ampere and is told what would match; of 0.4 Ω it does not say so', () => {
    // Common practice, no source: a relay coil of about 110 Ω on 38 V launches nothing, one of 0.4 Ω does.
    const relay = coilRig({ 'load.d': '0.1 mm', 'load.build': '10 µm', 'load.by': 'wire', 'load.lw': '50 m', 'load.Df': '9 mm' });
    expect(offBy(figureOf(relay, 'coil-resistance'), 110)).toBeLessThan(0.02);
    expect(offBy(figureOf(relay, 'peak-current'), 1 / 3)).toBeLessThan(0.1);
    expect(problemsOf(relay)).toMatch(/far too much resistance for this store: 110 Ω pass 3\d\d mA at 38.0 V/);
    const thick = coilRig({ 'load.d': '0.8 mm', 'load.by': 'wire', 'load.lw': '11.6 m', 'load.Df': '9 mm' });
    expect(offBy(figureOf(thick, 'coil-resistance'), 0.4)).toBeLessThan(0.02);
    expect(figureOf(thick, 'peak-current')).toBeGreaterThan(30);
    expect(problemsOf(thick)).not.toMatch(/far too much resistance/);
  });

  test('takes what was measured of it before what its wire gives, in the solver too, and says what a far one may mean', () => {
    const [bare, read] = [coilRig(), coilRig({ 'load.Rm': '70 mΩ ±1 %', 'load.Lm': '20 µH ±1 %' })];
    expect([figureOf(read, 'coil-resistance'), figureOf(read, 'coil-inductance')]).toEqual([0.07, 20e-6]);
    const of = (rig: Rig, id: 'loop-inductance' | 'loop-resistance') => figureOf(rig, id);
    expect(of(read, 'loop-inductance') - of(bare, 'loop-inductance')).toBeCloseTo(20e-6 - figureOf(bare, 'coil-inductance'), 12);
    const peak = solved(read, 'discharge').compared.find(({ id }) => id === 'peak-current');
    expect(peak?.off ?? NaN).toBeLessThan(0.02);
    const [R, L] = [figureOf(bare, 'coil-resistance'), figureOf(bare, 'coil-inductance')];
    const told = (r: number, l: number) => problemsOf(coilRig({ 'load.Rm': `${R * r} Ω`, 'load.Lm': `${L * l} H` }));
    expect(told(0.7, 0.6)).toMatch(/30 % below what its wire gives: turns are shorted[\s\S]*40 % below what its turns give/);
    expect(told(1.3, 1.3)).toMatch(/a joint is bad[\s\S]*iron was in the bore/);
    expect(told(1.05, 0.95)).not.toMatch(/Measured/);
  });

  test('is shot as the solver has it, with its leads', () => {
    const { compared } = solved(coilRig({ 'load.N': '30' }), 'discharge');
    for (const id of ['peak-current', 'time-to-peak'])
      expect(compared.find((c) => c.id === id)?.off ?? NaN, id).toBeLessThan(0.02);
  });

  test('that is to magnetise says how much voltage is lacking; one of thin wire melts', () => {
    const rig = coilRig({ 'store.V0': '400 V', 'supply.V': '500 V', 'load.Bs': '6 T', 'load.N': '30' });
    const [B, V] = [figureOf(rig, 'coil-field'), 400];
    expect(B).toBeLessThan(6);
    const said = Number(/or ([\d.]+) V on the store/.exec(problemsOf(rig).replaceAll(' kV', 'e3 V'))?.[1] ?? NaN);
    expect(offBy(said, (V * 6) / B)).toBeLessThan(0.01);
    const over = evaluateRig(coilRig({ 'store.V0': '400 V', 'supply.V': '500 V', 'load.d': '0.3 mm', 'load.N': '20' })).ladder
      .limits;
    expect(over.find((l) => l.id === 'coil-melt')?.utilisation ?? NaN).toBeGreaterThan(1);
  });
});
