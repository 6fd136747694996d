import { formulaTree, fractions, functions, type Formula } from './formula-tree.ts';

const signs: Readonly<Record<string, string>> = {
  '≥': '\\ge',
  '≤': '\\le',
  '≈': '\\approx',
  '…': '\\dots',
  '∫': '\\int',
  Σ: '\\sum',
  Π: '\\prod',
  '∞': '\\infty',
  ',': ',\\;',
  ';': ';\\;',
  ':': '{:}\\;',
};

const prose = (words: string): string => `\\text{${words.replace(/[\\{}$&#^_%~]/g, '\\$&')}}`;

/** `V_th` and `Vs` with what follows the first letter set low, `v″` with its primes. */
export function symbolTex(name: string): string {
  const found = /^([^_′″]+)([′″]*)(?:_(\w+))?$/u.exec(name);
  const [head = name, primes = '', low = ''] = [found?.[1], found?.[2], found?.[3]];
  const [first = '', ...rest] = [...head];
  const tail = [rest.join(''), low].filter((part) => part !== '').join(',');
  return `${first}${primes.replaceAll('″', "''").replaceAll('′', "'")}${tail === '' ? '' : `_{\\mathrm{${tail}}}`}`;
}

/** A printed number with its unit upright behind it, in brackets where it has one. */
function valueTex(printed: string): Drawn {
  const [number = '', ...unit] = printed.split(' ');
  const digits = number.replace(',', '{,}').replace('−', '-');
  const plain = /^[-\d.{},]+$/.test(digits) ? digits : prose(number);
  if (unit.length === 0) return { tex: plain };
  const bare = `${plain}\\,${prose(unit.join(' '))}`;
  return { tex: `(${bare})`, bare };
}

interface Drawn {
  readonly tex: string;
  /** Without the brackets around it, where a line above or below does their work. */
  readonly bare?: string;
}

function draw(of: Formula, symbol: (name: string) => Drawn): Drawn {
  const tex = (part: Formula) => draw(part, symbol).tex;
  const bare = (part: Formula) => {
    const drawn = draw(part, symbol);
    return drawn.bare ?? drawn.tex;
  };
  switch (of.is) {
    case 'number':
      return { tex: `${of.text.replace('−', '-')}${of.unit === undefined ? '' : `\\,${prose(of.unit)}`}` };
    case 'unit':
      return { tex: prose(of.text) };
    case 'words':
      return { tex: prose(` ${of.text} `) };
    case 'symbol':
      return symbol(of.text);
    case 'name':
      return { tex: /^d[a-zθ]/u.test(of.text) ? `\\mathrm{d}${symbolTex(of.text.slice(1))}` : symbolTex(of.text) };
    case 'sign': {
      const fraction = fractions[of.text];
      return { tex: fraction ? `\\tfrac{${fraction[0]}}{${fraction[1]}}` : (signs[of.text] ?? of.text) };
    }
    case 'sum':
      return { tex: of.terms.map(({ minus, of: term }, i) => `${minus ? '-' : i > 0 ? '+' : ''} ${tex(term)}`).join(' ') };
    case 'product':
      return { tex: of.factors.map(tex).join(of.tight ? '\\,' : ' \\cdot ') };
    case 'quotient':
      return { tex: `\\frac{${bare(of.over)}}{${bare(of.under)}}` };
    case 'power':
      return { tex: `{${tex(of.base)}}^{${bare(of.to)}}` };
    case 'root':
      return { tex: `\\sqrt{${bare(of.of)}}` };
    case 'size':
      return { tex: `\\left|${tex(of.of)}\\right|` };
    case 'brackets':
      return { tex: `\\left(${tex(of.of)}\\right)`, bare: tex(of.of) };
    case 'call': {
      const known = (functions as readonly string[]).includes(of.name);
      const name = known ? `\\${of.name}` : of.name.length > 1 ? `\\operatorname{${of.name}}` : symbolTex(of.name);
      return { tex: `${name}\\left(${bare(of.of)}\\right)` };
    }
    case 'row':
      return { tex: of.parts.map(tex).join(' ') };
  }
}

/** The formula with its symbols; null where it cannot be typeset. @param display how each symbol is written */
export function expressionTex(expression: string, display: (symbol: string) => string): string | null {
  const tree = formulaTree(expression);
  return tree && draw(tree, (name) => ({ tex: symbolTex(display(name)) })).tex;
}

/** A number with its unit, as it stands behind a sign of equality. */
export function resultTex(printed: string): string {
  const { tex, bare } = valueTex(printed);
  return bare ?? tex;
}

/**
 * The same with numbers and units in their place, and what it comes to: before what only explains it.
 *
 * @param printed of each symbol, such as `33.6 mF` @param result as it is printed
 */
export function substitutionTex(expression: string, printed: (symbol: string) => string, result: string): string | null {
  const tree = formulaTree(expression);
  if (!tree) return null;
  const tex = (of: Formula) => draw(of, (name) => valueTex(printed(name))).tex;
  const parts = tree.is === 'row' ? tree.parts : [tree];
  const ends = parts.findIndex((part) => part.is === 'sign' && /^[,;]$/.test(part.text));
  // Prose before it: then what explains cannot be told from what is explained.
  const to = ends < 1 || parts.slice(0, ends).some((part) => part.is === 'words') ? parts.length : ends;
  const first = parts.slice(0, to).map(tex).join(' ');
  const says = resultTex(result);
  return `${first === says ? first : `${first} = ${says}`} ${parts.slice(to).map(tex).join(' ')}`;
}
