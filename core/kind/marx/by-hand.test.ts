import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import { agrees, decades, goalOf, saidBy, typed } from '../../test/by-hand.ts';
import { integrate } from '../../test/integrate.ts';
import { marxRig } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 8 };
const definitions = { source: 'charge and energy of capacitors, worked beside the program, rigs at random', within: 1e-9 };

interface Ladder {
  readonly n: number;
  readonly C: number;
  readonly Rc: number;
  readonly R: number;
  readonly Vs: number;
}

/**
 * Stages charged through a resistance and then from stage to stage, both sides in the way each time; by a general-purpose integrator.
 *
 * @returns voltages of all stages at each time, V
 */
const ladderAt = ({ n, C, Rc, R, Vs }: Ladder, times: readonly number[]): number[][] =>
  integrate(
    (_t, v) =>
      v.map((vk, k) => {
        const into = k === 0 ? (Vs - vk) / (R + 2 * Rc) : ((v[k - 1] ?? 0) - vk) / (2 * Rc);
        const out = k === n - 1 ? 0 : (vk - (v[k + 1] ?? 0)) / (2 * Rc);
        return (into - out) / C;
      }),
    new Array<number>(n).fill(0),
    times,
  );

/** When the last stage has a voltage, s: what it lacks falls all but as an exponential, so that its logarithm is a line from point to point. */
function lastHas(ladder: Ladder, V: number): number {
  const until = 12 * ladder.n * ladder.C * (ladder.R + ladder.n * 2 * ladder.Rc);
  const times = Array.from({ length: 1201 }, (_, k) => (until * k) / 1200);
  const lacks = ladderAt(ladder, times).map((v) => Math.log(ladder.Vs - (v.at(-1) ?? NaN)));
  const after = lacks.findIndex((lack) => lack <= Math.log(ladder.Vs - V));
  const [from = NaN, to = NaN] = lacks.slice(after - 1, after + 1);
  return (until / 1200) * (after - 1 + (from - Math.log(ladder.Vs - V)) / (from - to));
}

const column = fc.record({
  n: fc.integer({ min: 2, max: 7 }),
  C: decades(1e-9, 1e-8),
  V0: decades(5e3, 20e3),
  Rc: decades(1e5, 2e6),
  R: decades(1e6, 2e7),
});
type Column = { readonly n: number; readonly C: number; readonly V0: number; readonly Rc: number; readonly R: number };
const rigOf = ({ n, C, V0, Rc, R }: Column, more: Record<string, string> = {}) =>
  marxRig({
    ...typed({ 'store.n': [n, ''], 'store.C': [C, 'F'], 'store.V0': [V0, 'V'], 'store.Rc': [Rc, 'Ω'], 'charging.R': [R, 'Ω'] }),
    ...typed({
      'supply.V': [Number((1.25 * V0).toPrecision(5)), 'V'],
      'supply.R': [0, 'Ω'],
      'store.Vg': [60, 'kV'],
      'switch.d': [40, 'mm'],
    }),
    ...more,
  });

describe('a Marx generator, worked out beside the program', () => {
  test('the last stage is full when a ladder of its resistors says so, and the first has gone on by then', () => {
    fc.assert(
      fc.property(column, (one) => {
        const Vs = Number((1.25 * one.V0).toPrecision(5));
        const ladder = { ...one, Vs };
        const by = { 'ladder-90': lastHas(ladder, 0.9 * Vs), 'ladder-99': lastHas(ladder, 0.99 * Vs) };
        const odex = { source: 'the ladder integrated by odex, a general-purpose integrator', within: 1e-4 };
        const full = lastHas(ladder, one.V0);
        agrees(rigOf(one), { figures: { ...by, 'charge-time': full } }, odex);
        const [stages = []] = ladderAt(ladder, [full]);
        agrees(
          rigOf(one, typed({ 'store.Vr': [15, 'kV'] })),
          { limits: { 'first-stage-voltage': [stages[0] ?? NaN, 15e3], 'capacitor-voltage': [one.V0, 15e3] } },
          odex,
        );
        // The bleeder of these rigs is none to speak of; its stage next to the supply draws through both sides.
        agrees(rigOf(one), { figures: { 'charging-current': Vs / (one.R + 2 * one.Rc) } }, { ...definitions, within: 1e-6 });
      }),
      runs,
    );
  });

  test('erected, a load of capacitance shares the charge of all stages in series', () => {
    fc.assert(
      fc.property(column, decades(1e-12, 3e-10), (one, CL) => {
        const rig = rigOf(one, typed({ 'store.CL': [CL, 'F'], 'store.Vw': [90, 'kV'] }));
        const erected = one.C / one.n;
        const out = (one.n * one.V0 * erected) / (erected + CL);
        const E = (one.C * one.V0 ** 2) / 2;
        agrees(
          rig,
          {
            figures: {
              'marx-ideal-voltage': one.n * one.V0,
              'marx-output-voltage': out,
              'marx-efficiency': out / (one.n * one.V0),
              'stage-energy': E,
              'stored-energy': one.n * E,
              'discharge-capacitance': erected,
              'discharge-voltage': one.n * one.V0,
              'bank-capacitance': one.n * one.C,
            },
            limits: { 'output-lead': [one.n * one.V0, 90e3] },
          },
          definitions,
        );
        expect(new RigReading(rig).figure('stage-energy').value * one.n).toBeCloseTo(
          new RigReading(rig).figure('stored-energy').value,
          9,
        );
      }),
      runs,
    );
  });

  test('a stage that is cut off from its ladder keeps its charge for as long as its leakage takes, to a goal of its own', () => {
    fc.assert(
      fc.property(column, decades(1e9, 1e12), (one, Ri) => {
        const rig = rigOf(one, typed({ 'store.Ri': [Ri, 'Ω'] }));
        const time = Ri * one.C * Math.log(one.V0 / goalOf(one.C, one.V0));
        agrees(rig, { figures: { 'stage-float-time': time } }, { ...definitions, within: 1e-7 });
      }),
      runs,
    );
  });

  test('along each body stands the stage voltage, and a surface bears what it is rated for as it is', () => {
    const bodies = fc.record({
      lc: decades(0.02, 0.2),
      lb: decades(0.02, 0.2),
      lf: decades(0.02, 0.2),
      lt: decades(0.02, 0.2),
      Es: decades(1e5, 5e5),
      ks: fc.integer({ min: 20, max: 150 }),
    });
    fc.assert(
      fc.property(column, bodies, (one, { lc, lb, lf, lt, Es, ks }) => {
        const lengths = typed({ 'store.lc': [lc, 'm'], 'store.lb': [lb, 'm'], 'store.lf': [lf, 'm'], 'store.lt': [lt, 'm'] });
        const rig = rigOf(one, { ...lengths, ...typed({ 'store.Es': [Es, 'V/m'], 'store.ks': [ks / 100, ''] }) });
        const bears = Es * (ks / 100);
        agrees(
          rig,
          {
            limits: {
              'ladder-flashover': [one.V0 / lc, bears],
              'body-flashover': [one.V0 / lb, bears],
              'front-flashover': [one.V0 / lf, bears],
              'tail-flashover': [one.V0 / lt, bears],
              // Its resistors end to end are the way of an arc from the top to earth.
              'column-flashover': [(one.n * one.V0) / (one.n * lc), bears],
            },
          },
          definitions,
        );
        agrees(
          rigWith({ 'store.lc': '', 'store.lb': '', 'store.lf': '', 'store.lt': '' }, rig),
          {
            unjudged: [
              'ladder-flashover',
              'body-flashover',
              'front-flashover',
              'tail-flashover',
              'column-flashover',
              'output-lead',
            ],
          },
          definitions,
        );
      }),
      runs,
    );
  });

  test('the later gaps hold what they are set to, less three deviations of their scatter', () => {
    fc.assert(
      fc.property(column, decades(6e3, 40e3), fc.integer({ min: 0, max: 12 }), (one, Vg, percent) => {
        const rig = rigOf(one, typed({ 'store.Vg': [Vg, 'V'], 'store.sc': [percent, '%'] }));
        agrees(
          rig,
          { figures: { 'stage-self-break': Vg }, limits: { 'gap-window': [one.V0, Vg * (1 - (3 * percent) / 100)] } },
          definitions,
        );
      }),
      runs,
    );
  });

  test('measured stages stand in place of the one that was entered, where there are as many as stages', () => {
    fc.assert(
      fc.property(column, fc.array(decades(1e-9, 1e-8), { minLength: 1, maxLength: 8 }), (one, measured) => {
        const rig = rigOf(one, { 'store.Cm': measured.map((C) => `${C} F`).join(', ') });
        const isAll = measured.length === one.n;
        const all = isAll ? measured.reduce((a, b) => a + b, 0) : one.n * one.C;
        agrees(
          rig,
          {
            figures: {
              'bank-capacitance': all,
              'stage-energy': (all / one.n / 2) * one.V0 ** 2,
              'stored-energy': (all / 2) * one.V0 ** 2,
            },
          },
          definitions,
        );
        const isWarned = saidBy(rig, 'store').includes('warning Cm');
        expect(isWarned).toBe(!isAll);
      }),
      runs,
    );
  });
});
