import katex from 'katex';
import { describe, expect, test } from 'vitest';
import { displaySymbol, evaluateFormula, FormulaError, formulas, type Formula as Definition } from '@vast-surge/core/formula';
import { uniforms } from '@vast-surge/core/numeric';
import { formulaTree, fractions, type Formula } from './formula-tree.ts';
import { expressionTex, resultTex, substitutionTex, symbolTex } from './tex.ts';

const all = Object.values(formulas) as readonly Definition[];
const drawn = (tex: string): string => katex.renderToString(tex, { throwOnError: true, strict: 'ignore', output: 'html' });

// From memory: CODATA 2018, to the digits that matter here.
const constants: Readonly<Record<string, number>> = { π: Math.PI, e: Math.E, µ0: 1.25663706212e-6, ε0: 8.8541878128e-12 };

/** What a tree comes to; null where it says more than a sum: prose, relations, integrals, names that it explains itself. */
function valueOf(of: Formula, at: Readonly<Record<string, number>>): number | null {
  const each = (parts: readonly Formula[], join: (values: number[]) => number): number | null => {
    const values = parts.map((part) => valueOf(part, at));
    return values.includes(null) ? null : join(values as number[]);
  };
  switch (of.is) {
    case 'number':
      return of.unit === undefined ? Number(of.text.replace('−', '-')) : null;
    case 'symbol':
      return at[of.text] ?? null;
    case 'name':
      return constants[of.text] ?? null;
    case 'sign': {
      const fraction = fractions[of.text];
      return fraction ? fraction[0] / fraction[1] : null;
    }
    case 'sum':
      // As the formulas do it, so that small differences keep their digits.
      if (of.terms[0]?.of.is === 'call' && of.terms[0].of.name === 'exp' && of.terms[1]?.minus)
        return each([of.terms[0].of.of], ([a = NaN]) => Math.expm1(a));
      return each(
        of.terms.map((term) => term.of),
        (values) => values.reduce((sum, value, i) => (of.terms[i]?.minus ? sum - value : sum + value), 0),
      );
    case 'product':
      return each(of.factors, (values) => values.reduce((a, b) => a * b, 1));
    case 'quotient':
      return each([of.over, of.under], ([a = NaN, b = NaN]) => a / b);
    case 'power':
      return each([of.base, of.to], ([a = NaN, b = NaN]) => a ** b);
    case 'root':
      return each([of.of], ([a = NaN]) => Math.sqrt(a));
    case 'brackets':
      return valueOf(of.of, at);
    case 'size':
      return each([of.of], ([a = NaN]) => Math.abs(a));
    case 'call': {
      const parts = of.of.is === 'row' ? of.of.parts.filter((part) => part.is !== 'sign') : [of.of];
      const name = { ln: 'log', log: 'log10' }[of.name] ?? of.name;
      const known = (Math as unknown as Record<string, unknown>)[name];
      return typeof known === 'function' && of.name.length > 1
        ? each(parts, (values) => (known as (...given: number[]) => number)(...values))
        : null;
    }
    default:
      return null;
  }
}

/** Inputs at random that a formula takes, and what it makes of them. */
function* taken(formula: Definition): Generator<{ at: Readonly<Record<string, number>>; is: number }> {
  const next = uniforms(20);
  for (let i = 0; i < 120; i++) {
    const at = Object.fromEntries(
      Object.entries(formula.inputs).map(([symbol, { min, max, integer }]) => {
        const value = Math.min(max, Math.max(min, 10 ** (-5 + 8 * next())));
        return [symbol, integer ? Math.max(Math.ceil(min), Math.round(value)) : value];
      }),
    );
    try {
      yield { at, is: evaluateFormula(formula, at) };
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
    }
  }
}

describe('formulas that are typeset', () => {
  test('nearly all are, and every one of them is drawn, with symbols and with numbers', () => {
    const plain: string[] = [];
    for (const formula of all) {
      const tex = expressionTex(formula.expression, (symbol) => displaySymbol(formula, symbol));
      const numbers = substitutionTex(formula.expression, () => '−1,27 kV', '2 J');
      if (tex === null || numbers === null) plain.push(formula.id);
      else
        expect([drawn(tex).length > 0, drawn(numbers).includes('kV')], formula.id).toEqual([true, /\{/.test(formula.expression)]);
    }
    expect(plain.length).toBeLessThan(0.05 * all.length);
  });

  test('what is drawn is what is calculated: the tree of each comes to what the formula does', () => {
    let compared = 0;
    const differing: string[] = [];
    for (const formula of all) {
      const tree = formulaTree(formula.expression);
      if (!tree) continue;
      const seen = [...taken(formula)].slice(0, 12).map(({ at, is }) => ({ says: valueOf(tree, at), is }));
      if (seen.length === 0 || seen.some(({ says }) => says === null)) continue;
      compared += 1;
      const off = Math.max(...seen.map(({ says, is }) => Math.abs((says ?? NaN) - is) / Math.max(Math.abs(is), 1e-300)));
      if (!(off < 1e-6)) differing.push(`${formula.id}: ${formula.expression}`);
    }
    expect(differing).toEqual([]);
    expect(compared).toBeGreaterThan(150);
  });

  test.each([
    ['1/2π·{f}', '\\frac{1}{2\\,π} \\cdot f'],
    ['{a}·{b}/{c}·{d}', '\\frac{a \\cdot b}{c} \\cdot d'],
    ['({R1} + {R2})/{C}', '\\frac{ R_{\\mathrm{1}} + R_{\\mathrm{2}}}{C}'],
    ['24 kV/cm·δ', '\\frac{24\\,\\text{kV}}{\\text{cm}} \\cdot δ'],
    ['√({d}/10 cm)', '\\sqrt{\\frac{d}{10\\,\\text{cm}}}'],
  ])('%s keeps together what belongs together', (expression, tex) => {
    expect(expressionTex(expression, (symbol) => symbol)).toBe(tex);
  });

  test('what it comes to stands before what only explains it, and last where there is prose', () => {
    const numbers = (expression: string) => substitutionTex(expression, () => '3 V', '7 A');
    expect(numbers('{V}·x,  x = {V}/2')).toMatch(/^\(3.*x = 7\\,\\text\{A\} ,.*x = \\frac/);
    expect(numbers('the greater of {V}, and 2')).toMatch(/= 7\\,\\text\{A\} $/);
  });

  test('a number keeps its sign, its decimal sign and its unit; what a symbol is called is drawn and not obeyed', () => {
    expect(resultTex('−1,27 kJ')).toBe('-1{,}27\\,\\text{kJ}');
    expect(resultTex('1e9 m')).toBe('\\text{1e9}\\,\\text{m}');
    expect(symbolTex('V_th')).toBe('V_{\\mathrm{th}}');
    expect(resultTex('5 \\input{x}')).toBe('5\\,\\text{\\\\input\\{x\\}}');
    expect(formulaTree('({R} + ')).toBeNull();
    expect(formulaTree('[{R}]')).toBeNull();
  });
});
