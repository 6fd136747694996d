/**
 * Formulas as people write them, `½·{C}·{V}²`, read into a tree. What is prose among them stays prose; what cannot be read as a formula is
 * null, and is shown as it is written.
 */

type Token = { readonly is: 'number' | 'name' | 'word' | 'unit' | 'sign' | 'symbol' | 'power'; readonly text: string };

export type Formula =
  | { readonly is: 'number'; readonly text: string; readonly unit?: string }
  | { readonly is: 'unit' | 'symbol' | 'name' | 'sign' | 'words'; readonly text: string }
  | { readonly is: 'sum'; readonly terms: readonly { readonly minus: boolean; readonly of: Formula }[] }
  /** `tight`: written without a sign between. */
  | { readonly is: 'product'; readonly factors: readonly Formula[]; readonly tight: boolean }
  | { readonly is: 'quotient'; readonly over: Formula; readonly under: Formula }
  | { readonly is: 'power'; readonly base: Formula; readonly to: Formula }
  | { readonly is: 'root' | 'brackets' | 'size'; readonly of: Formula }
  | { readonly is: 'call'; readonly name: string; readonly of: Formula }
  /** Formulas, relations, separators and prose in a row. */
  | { readonly is: 'row'; readonly parts: readonly Formula[] };

export const functions = ['ln', 'log', 'exp', 'sin', 'cos', 'tan', 'tanh', 'sinh', 'cosh', 'min', 'max'] as const;
const namedFunctions = ['asin', 'acos', 'atan', 'acosh', 'asinh', 'coth'] as const;
const isFunction = (name: string): boolean => [...functions, ...namedFunctions].includes(name as 'ln');
const units = ['V', 'kV', 'cm', 'mm', 'm', 'µH', 'nH', 'pF', 'kPa', 'Pa', 'Pa·m', 'K', 'kHz', 'ms', 's', 'J', 'A', 'W'];
const raised: Readonly<Record<string, string>> = { '²': '2', '³': '3', '⁴': '4', '⁵': '5', '⁶': '6', '⁻¹': '−1' };
export const fractions: Readonly<Record<string, readonly [over: number, under: number]>> = {
  '½': [1, 2],
  '⅓': [1, 3],
  '⅔': [2, 3],
  '¼': [1, 4],
  '¾': [3, 4],
  '⅛': [1, 8],
};
const relations = ['=', '≥', '≤', '<', '>', '≈'];
const separators = [',', ';', ':', '…'];

const pieces =
  /\{(\w+)\}|(\d+(?:\.\d+)?)|(⁻¹|[²³⁴⁵⁶])|([½⅓⅔¼¾⅛√∫ΣΠ∞…^()|·×/⁄+−,;:=≥≤<>≈])|(Pa·m|[A-Za-zµΑ-ωīū][A-Za-zµΑ-ωīū’′″]*\d*(?:_\w+)?)|\s+/uy;

function tokensOf(text: string): Token[] | null {
  const tokens: Token[] = [];
  pieces.lastIndex = 0;
  while (pieces.lastIndex < text.length) {
    const found = pieces.exec(text);
    if (!found) return null;
    const [, symbol, number, power, sign, name] = found;
    if (symbol !== undefined) tokens.push({ is: 'symbol', text: symbol });
    else if (number !== undefined) tokens.push({ is: 'number', text: number });
    else if (power !== undefined) tokens.push({ is: 'power', text: power });
    else if (sign !== undefined) tokens.push({ is: 'sign', text: sign });
    else if (name !== undefined) tokens.push({ is: kindOf(name, tokens.at(-1)), text: name });
  }
  return tokens;
}

/** A letter with what stands low behind it, a differential, or letters of which one at least is Greek. */
const named = /^(?:[A-Za-z][′″]?|[A-Zd][a-zθ]|d?[a-zA-Z]\d+|d?[A-Za-z]_\w+|(?:(?!’)\P{ASCII})+\w?|\w?(?:(?!’)\P{ASCII})+)$/u;

/** Whether letters are a unit behind a number, a name, or a word of prose. */
function kindOf(name: string, before: Token | undefined): Token['is'] {
  if (units.includes(name) && (before?.is === 'number' || (before?.is === 'sign' && /[/√]/.test(before.text)))) return 'unit';
  if (isFunction(name)) return 'name';
  const isArticle = name === 'a' && (before === undefined || before.is === 'word' || /^[;,]$/.test(before.text));
  return named.test(name) && !isArticle ? 'name' : 'word';
}

class Reader {
  private at = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  private get next(): Token | undefined {
    return this.tokens[this.at];
  }
  private sign(...signs: readonly string[]): string | null {
    const { next } = this;
    if (next?.is !== 'sign' || !signs.includes(next.text)) return null;
    this.at += 1;
    return next.text;
  }

  /** All up to a closing bracket, or to the end. @throws Error where a bracket or an operand is missing */
  row(until: string | null = null): Formula {
    const parts: Formula[] = [];
    while (this.next && !(this.next.is === 'sign' && this.next.text === until)) {
      if (this.next.is === 'word' || this.next.is === 'unit') {
        const words: string[] = [];
        while (this.next?.is === 'word' || this.next?.is === 'unit') words.push(this.tokens[this.at++]?.text ?? '');
        parts.push({ is: 'words', text: words.join(' ') });
        continue;
      }
      const between = this.sign(...separators, ...relations);
      parts.push(between === null ? this.sum() : { is: 'sign', text: between });
    }
    const [only] = parts;
    return parts.length === 1 && only ? only : { is: 'row', parts };
  }

  private sum(): Formula {
    const terms: { minus: boolean; of: Formula }[] = [];
    for (;;) {
      const sign = this.sign('−', '+');
      const [first] = terms;
      if (sign === null && first) return terms.length === 1 && !first.minus ? first.of : { is: 'sum', terms };
      terms.push({ minus: sign === '−', of: this.product() });
    }
  }

  /** Factors from left to right; what is divided stands above all that was there before. */
  private product(): Formula {
    let so = this.tight();
    for (;;) {
      if (this.sign('/', '⁄') !== null) so = { is: 'quotient', over: so, under: this.tight() };
      else if (this.sign('·', '×') !== null) {
        const before = so.is === 'product' && !so.tight ? so.factors : [so];
        so = { is: 'product', factors: [...before, this.tight()], tight: false };
      } else return so;
    }
  }

  /** What is written without a sign between belongs together before all else: 1/2π is 1/(2π). */
  private tight(): Formula {
    const factors = [this.power()];
    while (this.operandFollows()) factors.push(this.power());
    const [only] = factors;
    return factors.length === 1 && only ? only : { is: 'product', factors, tight: true };
  }

  private operandFollows(): boolean {
    const { next } = this;
    if (next?.is === 'sign') return ['(', '√', '∫'].includes(next.text);
    return next?.is === 'symbol' || next?.is === 'name' || next?.is === 'number';
  }

  private power(): Formula {
    let base = this.primary();
    for (;;) {
      const { next } = this;
      if (next?.is === 'power') {
        this.at += 1;
        base = { is: 'power', base, to: { is: 'number', text: raised[next.text] ?? next.text } };
      } else if (this.sign('^') !== null) {
        const minus = this.sign('−') !== null;
        const to = this.primary();
        base = { is: 'power', base, to: minus ? { is: 'sum', terms: [{ minus, of: to }] } : to };
      } else return base;
    }
  }

  private primary(): Formula {
    const next = this.tokens[this.at++];
    if (!next) throw new Error('an operand is missing');
    if (next.is === 'number') {
      const unit = this.next;
      if (unit?.is !== 'unit') return { is: 'number', text: next.text };
      this.at += 1;
      return { is: 'number', text: next.text, unit: unit.text };
    }
    if (next.is === 'symbol' || next.is === 'unit') return { is: next.is, text: next.text };
    if (next.is === 'name') {
      if (this.sign('(') !== null) return { is: 'call', name: next.text, of: this.closed(')') };
      return isFunction(next.text) ? { is: 'call', name: next.text, of: this.tight() } : { is: 'name', text: next.text };
    }
    if (next.text === '(') return { is: 'brackets', of: this.closed(')') };
    if (next.text === '|') return { is: 'size', of: this.closed('|') };
    if (next.text === '√') return { is: 'root', of: this.primary() };
    if (fractions[next.text] || /^[∫ΣΠ∞]$/u.test(next.text)) return { is: 'sign', text: next.text };
    throw new Error(`${next.text} stands where an operand is wanted`);
  }

  private closed(by: string): Formula {
    const inner = this.row(by);
    if (this.sign(by) === null) throw new Error(`${by} is missing`);
    return inner;
  }
}

/** @param expression with symbols in braces @returns null where the text is no formula that can be drawn */
export function formulaTree(expression: string): Formula | null {
  const tokens = tokensOf(expression);
  if (!tokens) return null;
  try {
    return new Reader(tokens).row();
  } catch {
    return null;
  }
}
