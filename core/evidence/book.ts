import kept from './book.json' with { type: 'json' };

/** One comparison of a test with something outside. */
export interface Witnessed {
  readonly of: { readonly kind: 'formula' | 'model' | 'figure'; readonly id: string };
  /** What it was held against. */
  readonly source: string;
  /** The values of the source are recalled. */
  readonly memory: boolean;
  /** As a fraction. */
  readonly error: number;
  /** What the test lets pass, as a fraction. */
  readonly within: number;
  /** Where: the inputs of a formula in SI, or what else was varied. */
  readonly at: Readonly<Record<string, number>>;
}

/** All comparisons of one thing with one source. */
export interface Held {
  readonly source: string;
  readonly memory: boolean;
  readonly points: number;
  /** The greatest error, as a fraction, rounded up to two digits; nought below 1e-12. */
  readonly worst: number;
  /** What the test lets pass, as a fraction. */
  readonly within: number;
  /** Least and greatest of each thing that was varied, SI. */
  readonly range: { readonly [symbol: string]: readonly [number, number] };
}

/** How a figure of a rig is made. */
export interface Made {
  readonly title: string;
  /** Formulas in its working, its own first, as rigs of every kind of block have it. */
  readonly formulas: readonly string[];
}

export interface Book {
  readonly formula: { readonly [id: string]: readonly Held[] };
  readonly model: { readonly [id: string]: readonly Held[] };
  readonly figure: { readonly [id: string]: readonly Held[] };
  readonly made: { readonly [figure: string]: Made };
}

/** The book of evidence as the tests last wrote it. */
export const book = kept as unknown as Book;

/** Rounded up to two digits, so that what is printed is never below what was seen. */
function roundedUp(error: number): number {
  if (error < 1e-12) return 0;
  const step = 10 ** (Math.floor(Math.log10(error)) - 1);
  return Number((Math.ceil(error / step - 1e-9) * step).toPrecision(2));
}

/** What tests saw, gathered by what it was of and by source. */
export function gathered(seen: readonly Witnessed[]): Omit<Book, 'made'> {
  const rows: Record<Witnessed['of']['kind'], Record<string, Record<string, Witnessed[]>>> = {
    formula: {},
    model: {},
    figure: {},
  };
  for (const one of seen) {
    const sources = (rows[one.of.kind][one.of.id] ??= {});
    (sources[one.source] ??= []).push(one);
  }
  const held = (list: readonly Witnessed[]): Held => {
    const symbols = [...new Set(list.flatMap(({ at }) => Object.keys(at)))];
    const range = symbols.map((symbol) => {
      const values = list.flatMap(({ at }) => at[symbol] ?? []);
      return [symbol, [Math.min(...values), Math.max(...values)]] as const;
    });
    return {
      source: list[0]?.source ?? '',
      memory: list.some(({ memory }) => memory),
      points: list.length,
      worst: roundedUp(Math.max(...list.map(({ error }) => error))),
      within: Math.max(...list.map(({ within }) => within)),
      range: Object.fromEntries(range),
    };
  };
  const sorted = <T>(record: Record<string, T>) => Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1));
  const section = (kind: Witnessed['of']['kind']) =>
    Object.fromEntries(sorted(rows[kind]).map(([id, sources]) => [id, sorted(sources).map(([, list]) => held(list))]));
  return { formula: section('formula'), model: section('model'), figure: section('figure') };
}
