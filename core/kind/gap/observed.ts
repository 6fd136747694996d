import { parseQuantity, wordQuantityIssue, type UnitId } from '../../quantity/index.ts';

/** A breakdown that somebody saw: at what voltage, and how the gap stood then where it stood otherwise than now. */
export interface Observed {
  /** Line it stands on, from 1. */
  readonly line: number;
  /** V */
  readonly V: number;
  /** m; null where the spacing is not said */
  readonly d: number | null;
  /** Pa, as the gauge of the gap reads; null where the pressure is not said */
  readonly p: number | null;
  /** Whether the line says that its pressure is by the gauge or absolute (psig, bara); null where it is read as the gap is. */
  readonly reading: 'gauge' | 'absolute' | null;
  readonly note: string;
}

export type ReadObserved =
  { readonly ok: true; readonly observed: readonly Observed[] } | { readonly ok: false; readonly reason: string };

/** Units by which a quantity in a line is told from its words. */
const kinds: readonly { readonly key: 'V' | 'd' | 'p'; readonly unit: UnitId; readonly pattern: RegExp; readonly max: number }[] =
  [
    { key: 'V', unit: 'V', pattern: /^[kM]?V$/, max: 1e7 },
    { key: 'd', unit: 'm', pattern: /^(mm|cm|m|µm|um|in|inch)$/, max: 1 },
    { key: 'p', unit: 'Pa', pattern: /^(Pa|hPa|kPa|MPa|bar|mbar|psi|psig|psia|barg|bara|mmHg|Torr|torr|atm)$/, max: 5e6 },
  ];
const amount = /^([+-]?[\d.,]+(?:e[+-]?\d+)?(?:\/\d+)?)\s*([A-Za-zµ]+)$/;
const number = /^[+-]?[\d.,]+(?:e[+-]?\d+)?(?:\/\d+)?$/;

/** "gauge" and "absolute" behind a pressure say what it is; elsewhere they are words. */
const readingWords: Readonly<Record<string, Observed['reading']>> = {
  gauge: 'gauge',
  gage: 'gauge',
  absolute: 'absolute',
  abs: 'absolute',
};

/**
 * Reads observed breakdowns, one to a line: "27 kV at 8 psi", "18.6 kV 5.7 mm, self-break". A voltage has to be there; spacing
 * and pressure may be; all other words are a note. A line that begins with a dash is kept and not read.
 *
 * @returns the breakdowns, or the first line that cannot be read, with the reason
 */
export function readObserved(text: string): ReadObserved {
  const observed: Observed[] = [];
  const lines = text.split('\n');
  for (const [i, line] of lines.entries()) {
    // A line that begins with a dash is a trial that was noted: it is no breakdown.
    if (/^\s*(-|$)/.test(line)) continue;
    const found: { V?: number; d?: number; p?: number } = {};
    let reading: Observed['reading'] = null;
    const words: string[] = [];
    const tokens = line.trim().split(/[\s;]+/);
    for (let k = 0; k < tokens.length; k++) {
      const token = (tokens[k] ?? '').replace(/,$/, '');
      const next = tokens[k + 1]?.replace(/,$/, '');
      const joined = number.test(token) && next !== undefined ? `${token} ${next}` : token;
      const [, , unit = ''] = amount.exec(joined) ?? [];
      const kind = kinds.find(({ pattern }) => pattern.test(unit));
      const said = readingWords[token.toLowerCase()];
      if (said && found.p !== undefined && reading === null) {
        reading = said;
        continue;
      }
      if (!kind) {
        words.push(token);
        continue;
      }
      const where = `line ${i + 1}, "${joined}"`;
      if (found[kind.key] !== undefined)
        return {
          ok: false,
          reason: `${where}: there is another ${kind.unit === 'V' ? 'voltage' : kind.unit === 'm' ? 'spacing' : 'pressure'} before it`,
        };
      const [, plain = joined, by] = /^(.*(?:psi|bar))([ga])$/.exec(joined) ?? [];
      if (by) reading = by === 'g' ? 'gauge' : 'absolute';
      const read = parseQuantity(plain, kind.unit);
      if (!read.ok) return { ok: false, reason: `${where}: ${wordQuantityIssue(read.issue)}` };
      const { value } = read.quantity;
      const least = kind.key === 'p' ? 0 : Number.MIN_VALUE;
      if (!(value >= least && value <= kind.max))
        return {
          ok: false,
          reason: `${where}: must be ${kind.key === 'p' ? 'from 0 Pa to 5 MPa' : kind.key === 'V' ? 'above 0 V up to 10 MV' : 'above 0 m up to 1 m'}`,
        };
      found[kind.key] = value;
      if (joined !== token) k += 1;
    }
    if (found.V === undefined) return { ok: false, reason: `line ${i + 1} has no voltage: write it as "18.5 kV at 6 mm"` };
    observed.push({ line: i + 1, V: found.V, d: found.d ?? null, p: found.p ?? null, reading, note: words.join(' ') });
  }
  return observed.length <= 200 ? { ok: true, observed } : { ok: false, reason: 'more than 200 breakdowns: keep the last ones' };
}
