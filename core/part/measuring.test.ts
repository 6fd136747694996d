import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offBy } from '../test/fixtures.ts';
import { labelledPart, reading } from '../test/parts.ts';
import {
  actOn,
  connectionsOf,
  deltaUses,
  elementValues,
  measuredOf,
  partKinds,
  newPart,
  startTest,
  valuesOf,
  verifiedBelow,
  wordOrigin,
  type TestAct,
  type TestRun,
} from './index.ts';

const act = fc.oneof(
  fc.constant<TestAct>({ act: 'discharged' }),
  fc.double({ min: -40, max: 40 }).map((volts): TestAct => ({ act: 'verified', volts })),
  fc.constant<TestAct>({ act: 'verified', volts: 0.02 }),
  fc.double({ min: -1, max: 1e4 }).map((value): TestAct => ({ act: 'measured', value })),
  fc.constant<TestAct>({ act: 'measured', value: 1e-3 }),
  fc.constant<TestAct>({ act: 'skipped' }),
);

describe('the guided test', () => {
  test('lets nobody measure a capacitor that was not discharged and verified below 1 V since it was last charged', () => {
    const can = labelledPart('capacitor', { C: '47 µF', elements: '2' });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 60 }), (acts) => {
        let run: TestRun = startTest(can);
        // What a bystander knows of the part: nothing, until it is discharged and then read below the limit.
        let state: 'unknown' | 'discharged' | 'verified' = 'unknown';
        for (const one of acts) {
          const answer = actOn(can, run, one);
          if (!answer.ok) {
            expect(answer.reason.length).toBeGreaterThan(5);
            continue;
          }
          if (one.act === 'measured' || one.act === 'skipped') expect(state).toBe('verified');
          if (one.act === 'discharged') state = 'discharged';
          if (one.act === 'verified') {
            expect(state).toBe('discharged');
            state = Math.abs(one.volts) < verifiedBelow ? 'verified' : 'unknown';
          }
          if (answer.measured?.measure.charges) state = 'unknown';
          expect(answer.run.verified).toBe(state === 'verified');
          run = answer.run;
        }
      }),
    );
  });

  test('sends a part that still bears voltage back to be discharged, whatever the sign', () => {
    const can = labelledPart('capacitor', { C: '47 µF' });
    const step = (run: TestRun, one: TestAct) => {
      const answer = actOn(can, run, one);
      if (!answer.ok) throw new Error(answer.reason);
      return answer.run;
    };
    let run = step(startTest(can), { act: 'discharged' });
    run = step(run, { act: 'verified', volts: -14 });
    expect(run.steps[run.at]?.step).toBe('discharge');
    run = step(step(run, { act: 'discharged' }), { act: 'verified', volts: 0.03 });
    expect(run.steps[run.at]).toMatchObject({ step: 'measure', measure: { id: 'capacitance' } });
    for (const id of ['capacitance', 'esr', 'insulation']) {
      expect(run.steps[run.at]).toMatchObject({ measure: { id } });
      run = step(run, { act: 'measured', value: id === 'insulation' ? 1e9 : 4e-5 });
    }
    expect([run.verified, run.steps.slice(run.at).map((s) => s.step)]).toEqual([false, ['discharge', 'verify']]);
  });

  test.each(partKinds.map((k) => k.kind))('of a %s comes to its end by doing each step, and reads every measure once', (kind) => {
    const part = newPart(kind, 'x');
    let run = startTest(part);
    const seen: string[] = [];
    while (run.at < run.steps.length) {
      const step = run.steps[run.at];
      const one: TestAct =
        step?.step === 'measure'
          ? { act: 'measured', value: Math.sqrt(step.measure.min * step.measure.max) }
          : step?.step === 'verify'
            ? { act: 'verified', volts: 0 }
            : { act: 'discharged' };
      const answer = actOn(part, run, one);
      if (!answer.ok) throw new Error(answer.reason);
      if (answer.measured) seen.push(answer.measured.measure.id);
      run = answer.run;
    }
    expect(seen).toEqual(partKinds.find((k) => k.kind === kind)?.measures.map((m) => m.id));
    expect(actOn(part, run, { act: 'discharged' }).ok).toBe(false);
  });
});

const farad = fc.double({ min: 1e-6, max: 1e-3, noNaN: true });

describe('a delta can', () => {
  /** Capacitance between two nodes of three, by eliminating the open one from the capacitance matrix (Kirchhoff). */
  const across = (m: readonly (readonly number[])[], a: number, open: number | null): number => {
    const at = (i: number, j: number) => m[i]?.[j] ?? NaN;
    if (open === null) return at(a, a);
    return at(a, a) - (at(a, open) * at(open, a)) / at(open, open);
  };
  const matrix = (c12: number, c23: number, c31: number) => [
    [c12 + c31, -c12, -c31],
    [-c12, c12 + c23, -c23],
    [-c31, -c23, c23 + c31],
  ];

  test('every connection has the capacitance that its capacitance matrix gives', () =>
    fc.assert(
      fc.property(farad, farad, farad, (c12, c23, c31) => {
        const m = matrix(c12, c23, c31);
        for (const use of deltaUses({ c12, c23, c31, rating: 1 })) {
          const [lone] = use.ends[0].length === 1 ? use.ends[0] : use.ends[1];
          const open = use.open[0] === undefined ? null : use.open[0] - 1;
          // One end at 1 V, the other at zero: the charge drawn is the diagonal entry, less what an open terminal takes back.
          const expected = across(m, (lone ?? 1) - 1, open);
          expect(offBy(use.capacitance, expected)).toBeLessThan(1e-9);
        }
      }),
    ));

  test('read from one terminal to the other two joined, its elements come out as they are', () =>
    fc.assert(
      fc.property(farad, farad, farad, (c12, c23, c31) => {
        const readings = [c12 + c31, c12 + c23, c23 + c31].map((sum, i) => reading('capacitance', sum, i + 1));
        const can = labelledPart('capacitor', { C: '60 µF', elements: '3', connection: 'delta', use: 'short-12' }, readings);
        elementValues(can, 'capacitance').forEach((c, i) =>
          expect(Math.abs(c - ([c12, c23, c31][i] ?? NaN))).toBeLessThan(1e-12),
        );
        const use = connectionsOf(can).find((u) => u.id === 'short-12');
        expect(offBy(use?.capacitance ?? NaN, c23 + c31)).toBeLessThan(1e-6);
      }),
    ));

  test('read terminal to terminal with the third open, its elements come out as they are', () =>
    fc.assert(
      fc.property(farad, farad, farad, (c12, c23, c31) => {
        const seen = [c12 + (c23 * c31) / (c23 + c31), c23 + (c31 * c12) / (c31 + c12), c31 + (c12 * c23) / (c12 + c23)];
        const can = labelledPart(
          'capacitor',
          { C: '60 µF', elements: '3', connection: 'delta', read: 'pairs', use: 'short-12' },
          seen.map((value, i) => reading('capacitance', value, i + 1)),
        );
        elementValues(can, 'capacitance').forEach((c, i) => expect(offBy(c, [c12, c23, c31][i] ?? NaN)).toBeLessThan(1e-6));
      }),
    ));

  test('one element shorted leaves the other two in parallel (common practice, no source), at the voltage of one', () => {
    const can = labelledPart('capacitor', { C: '40 µF', elements: '3', connection: 'delta', use: 'short-23', Vac: '400 V' });
    expect(valuesOf(can)['C']?.value).toBeCloseTo(80e-6, 12);
    expect(valuesOf(can)['Vdc']?.value).toBeCloseTo(400 * Math.SQRT2, 6);
    const open = connectionsOf(can).find((u) => u.id === 'open-3');
    expect(open).toMatchObject({ capacitance: expect.closeTo(60e-6, 12), floatsAt: expect.closeTo(0.5, 9) });
  });

  test('readings that no three capacitors give make no connection', () => {
    const readings = [10e-6, 10e-6, 90e-6].map((sum, i) => reading('capacitance', sum, i + 1));
    const can = labelledPart('capacitor', { C: '40 µF', elements: '3', connection: 'delta', use: 'short-23' }, readings);
    expect(connectionsOf(can)).toEqual([]);
    expect(valuesOf(can)['C']).toBeUndefined();
  });
});

describe('values that a rig takes', () => {
  test('are the mean of what was measured, else the label, and say which', () => {
    const bare = labelledPart('resistor', { R: '1 kΩ ±5 %', P: '50 W' });
    expect(valuesOf(bare)['R']).toMatchObject({ value: 1000, from: 'label', count: 0, tolerance: { minus: 0.05, plus: 0.05 } });
    const measured = { ...bare, readings: [reading('resistance', 980), reading('resistance', 1020), reading('resistance', 9e9)] };
    const struck = { ...measured, readings: measured.readings.map((r, i) => (i === 2 ? { ...r, struck: true as const } : r)) };
    const R = valuesOf(struck)['R'];
    expect(R).toMatchObject({ value: 1000, from: 'measured', count: 2 });
    expect(R?.tolerance?.plus).toBeCloseTo(0.02, 9);
    expect(R && wordOrigin(R)).toBe('2 readings, −2.0 % to +2.0 %');
    expect(measuredOf(struck, 'resistance')?.count).toBe(2);
    expect(valuesOf(struck)['P']?.from).toBe('label');
  });

  test('of two elements in series are half the capacitance and twice the voltage, in parallel the other way round', () => {
    const two = (use: string) =>
      valuesOf(labelledPart('capacitor', { C: '10 µF', elements: '2', Vdc: '450 V', use, ESR: '20 mΩ' }));
    expect(two('series')).toMatchObject({
      C: { value: expect.closeTo(5e-6, 12) },
      Vdc: { value: expect.closeTo(900, 9) },
      ESR: { value: 0.04 },
    });
    expect(two('parallel')).toMatchObject({ C: { value: 20e-6 }, Vdc: { value: 450 }, ESR: { value: 0.01 } });
  });

  test('of uneven elements in series the smallest reaches its rating first: 10 and 30 µF at 450 V bear 600 V (worked by hand)', () => {
    const can = labelledPart('capacitor', { C: '20 µF', elements: '2', Vdc: '450 V', use: 'series' }, [
      reading('capacitance', 10e-6, 1),
      reading('capacitance', 30e-6, 2),
    ]);
    expect(valuesOf(can)['Vdc']?.value).toBeCloseTo(600, 9);
    expect(valuesOf(can)['C']?.value).toBeCloseTo(7.5e-6, 12);
  });
});
