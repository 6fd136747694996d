import * as room from './index.ts';
import { cases, isLong } from '../test/long.ts';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parseQuantity } from '../quantity/index.ts';
import { offBy } from '../test/fixtures.ts';
import {
  capacitorFormulas,
  storeFormulas,
  withDefaults,
  checkInputs,
  evaluateFormula,
  expressionText,
  formulaById,
  formulas,
  FormulaError,
  solveFormula,
  substitutionText,
  work,
  workingOf,
  type Formula,
  type SymbolSpec,
  type Values,
} from './index.ts';

const f = (id: string): Formula => {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  return formula;
};
const calc = (id: string, values: Values) => evaluateFormula(f(id), values);

/** What a refusal says, or what was computed after all. */
function refusal(run: () => number): string {
  try {
    return `computed ${run()}`;
  } catch (error) {
    if (error instanceof FormulaError) return error.message;
    throw error;
  }
}

describe('the registry', () => {
  test('holds every formula of every subject once, filed under its id', () => {
    // Every subject that the room lists, with all that is a formula in it; a row of breaks tells several things, which stand together.
    const isFormula = (one: unknown): one is Formula => typeof one === 'object' && one !== null && 'compute' in one;
    const defined = Object.entries(room)
      .filter(([name]) => name.endsWith('Formulas'))
      .flatMap(([, subject]) => Object.values(subject as object) as unknown[])
      .flatMap((one) => (isFormula(one) ? [one] : typeof one === 'object' && one !== null ? Object.values(one) : []))
      .filter(isFormula);
    expect(new Set(formulas)).toEqual(new Set(defined));
    expect(formulas.map((x) => x.id)).toEqual([...formulaById.keys()]);
    expect(formulas).toHaveLength(defined.length);
  });

  test.each(formulas)('$id declares what a reader needs', (formula) => {
    expect(formula.id).toMatch(/^[a-z]+(-[a-z]+)*$/);
    expect(formula.source.length).toBeGreaterThan(8);
    const used = new Set([...formula.expression.matchAll(/\{(\w+)\}/g)].map((m) => m[1]));
    expect(used).toEqual(new Set(Object.keys(formula.inputs)));
    expect(Object.keys(formula.inputs)).not.toContain(formula.result.symbol);
  });
});

/** A value a person might have on a bench, inside the range of a symbol. */
function ordinary(spec: SymbolSpec): fc.Arbitrary<number> {
  if (spec.integer) return fc.integer({ min: Math.max(1, spec.min), max: Math.min(60, spec.max) });
  const typical: Record<string, [number, number]> = {
    F: [1e-11, 1],
    Ω: [1e-3, 1e8],
    H: [1e-8, 1],
    V: [1, 1e5],
    m: [1e-4, 10],
    'm²': [1e-5, 1],
    'Ω·m': [1e-8, 1e-5],
    '1': [0.01, 0.9],
    A: [1e-3, 1e5],
    J: [1e-3, 1e5],
    'A²s': [1e-3, 1e6],
    s: [1e-6, 1e4],
    Pa: [1e3, 1e6],
    K: [250, 350],
  };
  const [lowest, highest] = typical[spec.unit] ?? [1e-3, 1e3];
  const low = Math.max(lowest, spec.min);
  const high = highest > low ? highest : Math.min(low * 80, spec.max);
  return fc.double({ min: Math.log(low), max: Math.log(high), noNaN: true }).map(Math.exp);
}

/** A transformer and a tank as they stand on a bench: of any two taken at random next to none ever break. */
const ofTanks: Readonly<Record<string, readonly [number, number]>> = {
  Vs: [6e3, 2e4],
  Vp: [6e3, 2e4],
  R: [100, 1e4],
  L: [10, 1000],
  Ct: [1e-9, 2e-8],
  C: [1e-9, 2e-8],
  Vb: [1e3, 5e3],
  V: [1e3, 5e3],
  n: [100, 1000],
  f: [40, 70],
  td: [1e-6, 1e-4],
};

function onBench(formula: Formula, symbol: string, spec: SymbolSpec): fc.Arbitrary<number> {
  const range = formula.id.startsWith('tank-ac') ? ofTanks[symbol] : undefined;
  return range ? fc.double({ min: range[0], max: range[1], noNaN: true }) : ordinary(spec);
}

const inputsOf = (formula: Formula): fc.Arbitrary<Values> =>
  fc
    .record(Object.fromEntries(Object.entries(formula.inputs).map(([symbol, spec]) => [symbol, onBench(formula, symbol, spec)])))
    .filter((values) => checkInputs(formula, values) === null);

/** Formulas that integrate or search at each use: asked backwards they take some thousand times as long. */
const isIntegral = ({ id }: Formula) =>
  /^(rectifier|doubler|power-limited|choke-charge|current-limited|ladder|impulse|multilayer|time-to-action|lamp-on|tank-|spiral-|coupled-(peak|primary|secondary)|toroid|tuning-tap)/.test(
    id,
  );

/** Symbols that are asked for: of integrals one that is outside the search in them, and in the long run the capacitance as well. */
const askedBackwards = (formula: Formula): string[] => {
  const symbols = Object.keys(formula.inputs);
  if (!isIntegral(formula)) return symbols;
  return [...symbols.filter((symbol) => symbol === 'C' && isLong), ...symbols.slice(-1)];
};

test('a result that just touches the target where it turns round is found', () => {
  // What a charge beside a bleeder loses is least at some supply voltage between two that the search looks at.
  const values = { R: 1, Rb: 1, C: 1, V: 1 };
  const least = Array.from({ length: 4000 }, (_, i) => 2.1 + i * 1e-4).reduce(
    (best, Vs) => (calc('charging-loss', { ...values, Vs }) < calc('charging-loss', { ...values, Vs: best }) ? Vs : best),
    3,
  );
  const E = calc('charging-loss', { ...values, Vs: least });
  expect(offBy(solveFormula(f('charging-loss'), 'Vs', { ...values, [f('charging-loss').result.symbol]: E }), least)).toBeLessThan(
    1e-3,
  );
});

describe.each(formulas)('$id', (formula) => {
  test('refuses every input out of its range, by name, and stays finite inside', () => {
    fc.assert(
      fc.property(inputsOf(formula), fc.constantFrom(...Object.keys(formula.inputs)), (values, symbol) => {
        const spec = formula.inputs[symbol];
        if (!spec) throw new Error('unreachable');
        expect(Number.isFinite(evaluateFormula(formula, values))).toBe(true);
        const bad = [
          spec.min - 1,
          spec.max * 2 + 1,
          NaN,
          Infinity,
          ...(spec.open ? [spec.min] : []),
          ...(spec.integer ? [1.5] : []),
        ];
        for (const value of bad) {
          const message = refusal(() => evaluateFormula(formula, { ...values, [symbol]: value }));
          expect(message).toContain(`${symbol} (`);
          expect(message).toContain('it must be');
        }
        const { [symbol]: _, ...rest } = values;
        expect(refusal(() => evaluateFormula(formula, rest))).toContain('is missing');
      }),
      { numRuns: isIntegral(formula) ? cases(1, 4) : cases(4, 20) },
    );
  });

  test('asked backwards for any symbol, gives a value that computes to the same result', () => {
    const { onlyForwards } = formula;
    if (onlyForwards !== undefined) {
      // It says so, whatever is asked for, and searches for nothing.
      for (const symbol of Object.keys(formula.inputs))
        expect(refusal(() => solveFormula(formula, symbol, {}))).toContain(onlyForwards);
      return;
    }
    fc.assert(
      fc.property(inputsOf(formula), fc.constantFrom(...askedBackwards(formula)), (values, symbol) => {
        const result = evaluateFormula(formula, values);
        fc.pre(
          result >= formula.result.min && result <= formula.result.max && !(formula.result.open && result === formula.result.min),
        );
        const { [symbol]: was = NaN, ...rest } = values;
        let back: number;
        try {
          back = solveFormula(formula, symbol, { ...rest, [formula.result.symbol]: result });
        } catch (error) {
          // Where the result no longer depends on the symbol to the last digits, saying so is the right answer.
          if (!(error instanceof FormulaError)) throw error;
          // So it is where the result falls and rises again: two values give it, and both are named.
          if (error.issue.code === 'not_unique') {
            const unit = formula.inputs[symbol]?.unit ?? '1';
            const named = error.issue.reason.replace(/^.*: /, '').split(/, | and /);
            // Printed with six digits: the result lies between what is a little to either side of them, or they end its range.
            const holds = named.every((text) => {
              const one = parseQuantity(text, unit);
              if (!one.ok) return false;
              const [a = null, b = null] = [1 - 2e-6, 1 + 2e-6].map((k) => {
                const near = { ...values, [symbol]: one.quantity.value * k };
                return checkInputs(formula, near) === null ? formula.compute(near) - result : null;
              });
              return a === null || b === null || a * b <= 0;
            });
            if (named.length > 1 && holds) return;
            const passes = Array.from({ length: 4000 }, (_, i) => was * 10 ** (i / 400 - 5 + 1e-4)).map((x) => {
              const near = { ...values, [symbol]: x };
              return checkInputs(formula, near) === null ? Math.sign(formula.compute(near) - result) : NaN;
            });
            const turns = passes.filter((sign, i) => i > 0 && sign * (passes[i - 1] ?? 0) < 0).length;
            const level = passes.filter((sign) => sign === 0).length;
            if (turns >= 2 || level > 0) return;
          }
          const flat = [0.9, 1.1].some((k) => {
            const near = { ...values, [symbol]: formula.inputs[symbol]?.integer ? was + Math.sign(k - 1) : was * k };
            return checkInputs(formula, near) !== null || offBy(formula.compute(near), result) < 1e-7;
          });
          // Of an integral the digits are fewer: next to where two numbers cancel, no value may give the result to the last of them.
          const cancels =
            isIntegral(formula) &&
            [1 - 1e-3, 1 + 1e-3].some((k) => {
              const near = { ...values, [symbol]: was * k };
              return checkInputs(formula, near) !== null || offBy(formula.compute(near), result) > 0.05;
            });
          expect(flat || cancels, error.message).toBe(true);
          return;
        }
        // Next to where two numbers cancel, the last digit of the symbol moves the result by more than that.
        const lastDigit = [1 - 4e-16, 1 + 4e-16].map((k) => {
          const near = { ...values, [symbol]: back * k };
          return checkInputs(formula, near) === null ? Math.abs(formula.compute(near) - result) : 0;
        });
        const again = evaluateFormula(formula, { ...values, [symbol]: back });
        expect(Math.abs(again - result)).toBeLessThanOrEqual(1e-8 * Math.abs(result) + 4 * Math.max(...lastDigit) + 1e-300);
      }),
      { numRuns: isIntegral(formula) ? 1 : cases(6, 60) },
    );
  });

  test('its working shows the result and every input', () => {
    fc.assert(
      fc.property(inputsOf(formula), (values) => {
        const text = substitutionText(formula, values, evaluateFormula(formula, values));
        expect(text).not.toMatch(/[{}]|NaN|undefined/);
        expect(expressionText(formula)).not.toMatch(/[{}]/);
      }),
      { numRuns: cases(4, 10) },
    );
  });
});

describe('laws', () => {
  const rlc = {
    L: fc.double({ min: -18, max: 0, noNaN: true }).map(Math.exp),
    C: fc.double({ min: -16, max: 0, noNaN: true }).map(Math.exp),
  };

  test('peak current, time to peak and reversal pass through critical damping without a step', () => {
    fc.assert(
      fc.property(rlc.L, rlc.C, fc.double({ min: 1e-9, max: 2e-3, noNaN: true }), (L, C, e) => {
        const R = (zeta: number) => 2 * zeta * Math.sqrt(L / C);
        const at = (id: string, zeta: number) =>
          calc(id, id === 'rlc-peak-current' ? { R: R(zeta), L, C, V: 1000 } : { R: R(zeta), L, C });
        for (const id of ['rlc-peak-current', 'rlc-time-to-peak']) {
          const middle = at(id, 1);
          // Slopes at ζ = 1 are −2/3 (peak) and −1/3 (time) of the value: nothing larger can be a smooth change.
          expect(offBy(at(id, 1 - e), middle)).toBeLessThan(e);
          expect(offBy(at(id, 1 + e), middle)).toBeLessThan(e);
          expect(at(id, 1 - e)).toBeGreaterThanOrEqual(middle);
          expect(at(id, 1 + e)).toBeLessThanOrEqual(middle);
        }
        expect(at('rlc-voltage-reversal', 1 - e)).toBeLessThan(1e-20);
        expect(at('rlc-voltage-reversal', 1 + e)).toBe(0);
      }),
    );
  });

  test('more resistance always means less current, an earlier peak and less reversal', () => {
    fc.assert(
      fc.property(
        rlc.L,
        rlc.C,
        fc.double({ min: 0, max: 20, noNaN: true }),
        fc.double({ min: 0.001, max: 1, noNaN: true }),
        (L, C, zeta, more) => {
          const R = 2 * zeta * Math.sqrt(L / C);
          const R2 = 2 * (zeta + more) * Math.sqrt(L / C);
          expect(calc('rlc-peak-current', { R: R2, L, C, V: 1 })).toBeLessThan(calc('rlc-peak-current', { R, L, C, V: 1 }));
          expect(calc('rlc-time-to-peak', { R: R2, L, C })).toBeLessThan(calc('rlc-time-to-peak', { R, L, C }));
          expect(calc('rlc-voltage-reversal', { R: R2, L, C })).toBeLessThanOrEqual(calc('rlc-voltage-reversal', { R, L, C }));
        },
      ),
    );
  });

  test('what the supply gives is what is stored, lost in the charging resistor and bled away', () => {
    // Energy balance of the charge by a fine midpoint sum of the exponentials, beside the closed integral.
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        fc.double({ min: 1.2, max: 1e4, noNaN: true }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (R, ratio, x) => {
          const [C, Vs, Rb] = [1e-4, 100, R * ratio];
          const vth = (Vs * Rb) / (R + Rb);
          const tau = (R / (1 + R / Rb)) * C;
          const T = -tau * Math.log1p(-x);
          const n = 4000;
          let [supplied, bled] = [0, 0];
          for (let i = 0; i < n; i++) {
            const v = -vth * Math.expm1((-T * (i + 0.5)) / n / tau);
            supplied += (((Vs - v) / R) * Vs * T) / n;
            bled += ((v * v) / Rb) * (T / n);
          }
          const lost = calc('charging-loss', { R, Rb, C, Vs, V: x * vth });
          expect(offBy(0.5 * C * (x * vth) ** 2 + lost + bled, supplied)).toBeLessThan(1e-5);
        },
      ),
    );
  });

  test('a full charge without a bleeder loses as much as it stores', () => {
    const lost = calc('charging-loss', { R: 1e3, Rb: 1e16, C: 1e-3, Vs: 400, V: 400 * (1 - 1e-9) });
    expect(offBy(lost, calc('stored-energy', { C: 1e-3, V: 400 }))).toBeLessThan(1e-6);
  });

  test('of all spreads inside a tolerance none puts more on one capacitor than the worst case says', () => {
    const spread = fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(
        spread,
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (at, m, p) => {
          const C = at.map((u) => (u < 0 ? 1 + u * m : 1 + u * p));
          const inverse = C.map((c) => 1 / c);
          const highest = Math.max(...inverse) / inverse.reduce((a, b) => a + b);
          expect(highest).toBeLessThanOrEqual(calc('series-element-voltage', { V: 1, ns: C.length, m, p }) * (1 + 1e-12));
        },
      ),
    );
  });
});

describe('asking backwards', () => {
  test('a whole number that does not exist is answered with its neighbours', () => {
    expect(refusal(() => solveFormula(f('series-parallel-capacitance'), 'ns', { C: 10e-6, np: 4, Cb: 13e-6 }))).toMatch(
      /no whole number .*3 gives 13\.3333 µF, 4 gives 10 µF/,
    );
  });
  test('a result that many values give is said to be so', () => {
    expect(refusal(() => solveFormula(f('rlc-voltage-reversal'), 'R', { L: 1e-6, C: 1e-3, k: 0 }))).toMatch(/any value from/);
  });
  test('a result that no value gives names the reachable range', () => {
    expect(refusal(() => solveFormula(f('rlc-peak-current'), 'R', { L: 1e-6, C: 1e-3, V: 100, Ip: 1e5 }))).toMatch(
      /R: no value .* between/,
    );
  });
  test('a value next to where the formula ends is found: a loop hardly wider than twice its wire', () => {
    const L = calc('loop-inductance', { D: 0.02001, d: 0.01 });
    expect(offBy(solveFormula(f('loop-inductance'), 'D', { L, d: 0.01 }), 0.02001)).toBeLessThan(1e-9);
    const short = calc('straight-wire-inductance', { l: 0.0101, d: 0.01 });
    expect(offBy(solveFormula(f('straight-wire-inductance'), 'l', { L: short, d: 0.01 }), 0.0101)).toBeLessThan(1e-9);
  });
  test('a symbol that is none, or a missing result, is named', () => {
    expect(refusal(() => solveFormula(f('stored-energy'), 'Q', { E: 1, C: 1 }))).toContain('Q is not a symbol');
    expect(refusal(() => solveFormula(f('stored-energy'), 'V', { C: 1 }))).toContain('E (stored energy, J) is missing');
  });
});

test('a worked number keeps the whole tree it came from', () => {
  const given = (title: string, value: number, unit: 'F' | 'V' | '1', path: string) => ({
    kind: 'given' as const,
    title,
    value,
    unit,
    origin: { from: 'typed' as const, path },
  });
  const bank = work(storeFormulas.seriesParallelCapacitance, {
    C: given('capacitance', 1e-3, 'F', 'storeFormulas.C'),
    ns: given('series', 2, '1', 'storeFormulas.ns'),
    np: given('parallel', 4, '1', 'storeFormulas.np'),
  });
  const lines = workingOf(work(storeFormulas.storedEnergy, { C: bank, V: given('voltage', 100, 'V', 'storeFormulas.V0') }));
  expect(lines.map((l) => [l.depth, l.formulaId, l.substitution])).toEqual([
    [0, 'stored-energy', 'E = ½·(2 mF)·(100 V)² = 10 J'],
    [1, 'series-parallel-capacitance', 'C_b = (1 mF)·4/2 = 2 mF'],
  ]);
  expect(lines[1]?.inputs.map((i) => i.origin)).toEqual(
    ['storeFormulas.C', 'storeFormulas.np', 'storeFormulas.ns']
      .map((path) => ({ from: 'typed', path }))
      .sort(
        (a, b) =>
          ['storeFormulas.C', 'storeFormulas.ns', 'storeFormulas.np'].indexOf(a.path) -
          ['storeFormulas.C', 'storeFormulas.ns', 'storeFormulas.np'].indexOf(b.path),
      ),
  );
});

test('the DC rating of an AC capacitor is √2 of it unless another school is asked for', () => {
  const { dcRatingFromAc } = capacitorFormulas;
  const asked = (values: Record<string, number>) =>
    evaluateFormula(dcRatingFromAc as unknown as Formula, withDefaults(dcRatingFromAc as unknown as Formula, values));
  expect(asked({ Vac: 440 })).toBeCloseTo(440 * Math.SQRT2, 9);
  expect(asked({ Vac: 440, k: 2 })).toBe(880);
});

test('balancing resistors of the highest value hold the worst string just at what one may bear (network solved by hand)', () => {
  const [n, Vm, Vb, I] = [4, 450, 1600, 2e-3];
  const R = capacitorFormulas.balanceResistor.compute({ n, Vm, Vb, I });
  // The capacitor that leaks nothing has V1; each of the others V2, and V1/R = V2/R + I.
  const V2 = (Vb - R * I) / n;
  expect(V2 * (n - 1) + (V2 + R * I)).toBeCloseTo(Vb, 9);
  expect(V2 + R * I).toBeCloseTo(Vm, 9);
});
