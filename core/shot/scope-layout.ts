import { averaged, envelope } from '../fit/index.ts';

/**
 * How a file of a scope is laid out: which of its columns is the time, which are taken and as what. It is asked once and known again by
 * its signature.
 */
export interface ScopeLayout {
  readonly delimiter: ',' | ';' | '\t' | ' ';
  readonly decimal: '.' | ',';
  /** Lines before the first sample. */
  readonly headerLines: number;
  /** Column of the time; null: samples at an even interval. */
  readonly timeColumn: number | null;
  /** s for one of the unit of the time column, or s from one sample to the next where there is none. */
  readonly timeUnit: number;
  readonly channels: readonly ScopeChannel[];
}

export interface ScopeChannel {
  readonly column: number;
  readonly name: string;
  /** What it is. */
  readonly quantity: 'voltage' | 'current';
  /** V or A for one of what stands there: unit and probe. */
  readonly factor: number;
  /** V or A added afterwards. */
  readonly offset: number;
}

/** Most columns that a file may have, and most that are taken at once. */
export const mostColumns = 1000;
export const mostChannels = 4;
/** Most samples that are taken. */
const mostSamples = 20_000_000;

const delimiters = [',', ';', '\t', ' '] as const;

const cellsOf = (line: string, delimiter: ScopeLayout['delimiter']): string[] =>
  delimiter === ' ' ? line.trim().split(/ +/) : line.split(delimiter).map((c) => c.trim());

/** A number as a scope writes it; NaN where it is none. */
export function readNumber(cell: string, decimal: ScopeLayout['decimal']): number {
  const text = cell.trim().replace(/^"(.*)"$/, '$1');
  if (text === '' || !/^[-+]?[\d.,]+(e[-+]?\d+)?$/i.test(text)) return NaN;
  return Number(decimal === ',' ? text.replace(/\./g, '').replace(',', '.') : text);
}

/** Seconds of one unit that stands in a heading such as "Time (us)" or "[ms]". */
function timeUnitIn(heading: string): number {
  const [, prefix = ''] = /[([\s,]\s*(n|u|µ|μ|m)?s(?:ec|econds)?\s*[)\]]?\s*$/i.exec(heading) ?? [];
  return { n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3 }[prefix.toLowerCase()] ?? 1;
}

/** Volts or amperes of one unit in a heading such as "CH1 (mV)". */
function valueUnitIn(heading: string): { factor: number; quantity: ScopeChannel['quantity'] } {
  const [, prefix = '', unit = 'V'] = /[([\s,]\s*(m|u|µ|k)?(V|A|Volts?|Amps?)\s*[)\]]?\s*$/i.exec(heading) ?? [];
  const factor = { m: 1e-3, u: 1e-6, µ: 1e-6, k: 1e3 }[prefix] ?? 1;
  return { factor, quantity: /^a/i.test(unit) ? 'current' : 'voltage' };
}

/** Why a file is no oscilloscope trace. */
export class NoScopeFile extends Error {
  constructor(reason: string) {
    super(reason);
    this.name = 'NoScopeFile';
  }
}

/**
 * The layout that the first lines of a file look like.
 *
 * @param head its first lines, as text
 * @throws NoScopeFile where they hold no table of numbers
 */
export function guessLayout(head: string): ScopeLayout {
  // Control characters that no text has: what is read is a picture, a program or a record in a form of its own.
  const odd = [...head.slice(0, 4000)].filter((c) => c < ' ' && !'\r\n\t'.includes(c)).length;
  if (odd > 2 || head.includes('\u0000'))
    throw new NoScopeFile('it is not text: it may be in the scope’s own format; save it there as CSV');
  const lines = head
    .replace(/^\uFEFF/, '')
    .trimEnd()
    .split(/\r?\n/);
  const tries = delimiters.flatMap((delimiter) =>
    (['.', ','] as const).flatMap((decimal) => {
      if (decimal === delimiter) return [];
      const numeric = lines.map((line) => {
        const cells = cellsOf(line, delimiter);
        const good = cells.filter((c) => Number.isFinite(readNumber(c, decimal))).length;
        return good >= 1 && good >= cells.filter((c) => c !== '').length - 1 ? good : 0;
      });
      // Headings may look like rows: what most lines are is the table, and it begins where three of them stand together.
      return [...new Set(numeric)].flatMap((columns) => {
        if (columns === 0) return [];
        const first = numeric.findIndex((n, i) => n === columns && (numeric[i + 1] ?? n) === n && (numeric[i + 2] ?? n) === n);
        const rows = first < 0 ? 0 : numeric.slice(first).filter((n) => n === columns).length;
        return [{ delimiter, decimal, first, columns, rows }];
      });
    }),
  );
  const best = tries.reduce<(typeof tries)[number] | null>(
    (b, t) => (!b || t.rows * Math.min(t.columns, 3) > b.rows * Math.min(b.columns, 3) ? t : b),
    null,
  );
  if (!best || best.rows < 2) throw new NoScopeFile('no two lines of it have numbers in the same columns');
  const firstCells = cellsOf(lines[best.first] ?? '', best.delimiter);
  if (firstCells.length > mostColumns)
    throw new NoScopeFile(
      `it has ${firstCells.length} columns, and at most ${mostColumns} can be looked through: save fewer channels`,
    );
  const headings = cellsOf(lines[best.first - 1] ?? '', best.delimiter);
  const columns = firstCells.flatMap((c, i) => (Number.isFinite(readNumber(c, best.decimal)) ? [i] : []));
  const times = lines
    .slice(best.first, best.first + 50)
    .map((line) => readNumber(cellsOf(line, best.delimiter)[columns[0] ?? 0] ?? '', best.decimal));
  // A second record in the file goes back once; the reader refuses it there, by its place.
  const steps = times.filter(Number.isFinite).slice(1);
  const rising = steps.filter((t, i) => t > (times[i] ?? t)).length;
  const rises = rising > 0.9 * steps.length;
  const hasTime = columns.length > 1 && rises;
  const timeColumn = hasTime ? (columns[0] ?? 0) : null;
  return {
    delimiter: best.delimiter,
    decimal: best.decimal,
    headerLines: best.first,
    timeColumn,
    timeUnit: timeColumn === null ? 1e-6 : timeUnitIn(headings[timeColumn] ?? ''),
    channels: columns
      .filter((c) => c !== timeColumn)
      .slice(0, mostChannels)
      .map((column) => ({
        column,
        name: (headings[column] ?? '').replace(/^"(.*)"$/, '$1').slice(0, 40) || `column ${column + 1}`,
        ...valueUnitIn(headings[column] ?? ''),
        offset: 0,
      })),
  };
}

/** What a layout is known again by: its headings and how many columns it has, but none of its numbers. */
export function layoutSignature(
  head: string,
  { delimiter, headerLines }: Pick<ScopeLayout, 'delimiter' | 'headerLines'>,
): string {
  const lines = head.replace(/^\uFEFF/, '').split(/\r?\n/);
  const words = lines
    .slice(Math.max(0, headerLines - 3), headerLines)
    .map((line) => line.replace(/(?<![a-z\d])[-+]?\d[\d.,e+-]*/gi, '#'))
    .join('|');
  return `${delimiter}${cellsOf(lines[headerLines] ?? '', delimiter).length}|${words}`.slice(0, 300);
}

/** Samples on their way into arrays that grow. */
export class ScopeReader {
  private t = new Float64Array(1024);
  private y: Float64Array[];
  private n = 0;
  /** Rows without a number where one was wanted. */
  missing = 0;
  private readonly layout: ScopeLayout;

  constructor(layout: ScopeLayout) {
    this.layout = layout;
    this.y = layout.channels.map(() => new Float64Array(1024));
  }

  private grow(): void {
    const more = (a: Float64Array) => {
      const b = new Float64Array(a.length * 2);
      b.set(a);
      return b;
    };
    this.t = more(this.t);
    this.y = this.y.map(more);
  }

  /** Takes one row of cells. @throws NoScopeFile where time goes back, or there are too many */
  row(cells: readonly string[]): void {
    const { timeColumn, timeUnit, channels, decimal } = this.layout;
    const time =
      timeColumn === null ? (this.n + this.missing) * timeUnit : readNumber(cells[timeColumn] ?? '', decimal) * timeUnit;
    const values = channels.map((c) => readNumber(cells[c.column] ?? '', decimal) * c.factor + c.offset);
    if (!Number.isFinite(time) || values.some((v) => !Number.isFinite(v))) {
      this.missing += 1;
      return;
    }
    if (this.n > 0 && time <= (this.t[this.n - 1] ?? 0)) {
      const where = `sample ${this.n + this.missing + 1}`;
      throw new NoScopeFile(
        time === this.t[this.n - 1]
          ? `at ${where} the time does not advance: it has too few digits, or is not a time`
          : `at ${where} the time goes back: the file has two records or two time bases; save one`,
      );
    }
    if (this.n >= mostSamples) throw new NoScopeFile(`it has more than ${mostSamples} samples: save a shorter stretch`);
    if (this.n === this.t.length) this.grow();
    this.t[this.n] = time;
    values.forEach((v, k) => {
      const channel = this.y[k];
      if (channel) channel[this.n] = v;
    });
    this.n += 1;
  }

  /** @throws NoScopeFile where there are too few */
  end(): ScopeRecord {
    if (this.n < 2) throw new NoScopeFile('it has fewer than two samples with a number in every column that is taken');
    const t = this.t.slice(0, this.n);
    const said: string[] = [];
    if (this.missing > 0) said.push(`${this.missing} rows without a number were left out.`);
    const steps = t.subarray(1).map((v, i) => v - (t[i] ?? 0));
    const median = Float64Array.from(
      steps.length > 10_000 ? steps.filter((_, i) => i % Math.ceil(steps.length / 10_000) === 0) : steps,
    ).sort()[Math.floor(Math.min(steps.length, 10_000) / 2)];
    const gaps = median ? steps.filter((s) => s > 1.5 * median).length : 0;
    if (gaps > 0)
      said.push(
        gaps > Math.max(3, steps.length / 20)
          ? `The time steps are uneven in ${gaps} places: there may be two time bases in it.`
          : `Samples are missing in ${gaps} ${gaps === 1 ? 'place' : 'places'}: the line between is not measured.`,
      );
    return {
      t,
      channels: this.layout.channels.map((c, k) => ({
        name: c.name,
        quantity: c.quantity,
        y: (this.y[k] ?? new Float64Array()).slice(0, this.n),
      })),
      said,
    };
  }
}

export interface ScopeRecord {
  readonly t: Float64Array;
  readonly channels: readonly { readonly name: string; readonly quantity: 'voltage' | 'current'; readonly y: Float64Array }[];
  /** What is to be known about it. */
  readonly said: readonly string[];
}

/** Points that are kept of each channel of a record: for drawing, and for fits. */
const kept = 20_000;

export interface KeptChannel {
  readonly name: string;
  readonly quantity: ScopeChannel['quantity'];
  /** Thinned for drawing: no spike is lost. */
  readonly t: Float64Array;
  readonly y: Float64Array;
  /** Means of neighbours, for fits. */
  readonly meanT: Float64Array;
  readonly meanY: Float64Array;
}

/** A record as it is kept, however long it was. */
export interface KeptRecord {
  readonly samples: number;
  readonly said: readonly string[];
  readonly channels: readonly KeptChannel[];
}

export const keptRecord = ({ t, channels, said }: ScopeRecord): KeptRecord => ({
  samples: t.length,
  said,
  channels: channels.map(({ name, quantity, y }) => {
    const [thin, mean] = [envelope({ t, y }, kept), averaged({ t, y }, kept)];
    // Copies: what is short enough would else be the record itself.
    return { name, quantity, t: thin.t.slice(), y: thin.y.slice(), meanT: mean.t.slice(), meanY: mean.y.slice() };
  }),
});
