import text from '../../docs/glossary.md?raw';

export interface GlossaryTerm {
  readonly id: string;
  readonly term: string;
  /** Other names it is looked for by. */
  readonly also: readonly string[];
  /** What it is, in one sentence. */
  readonly says: string;
}

const listed = (cell: string): string[] =>
  cell
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

/** The rows of the tables of the glossary: a term, other names where its table has them, and what it is. */
export function termsIn(markdown: string): GlossaryTerm[] {
  return markdown.split('\n').flatMap((line) => {
    const cells = /^\|(.*)\|\s*$/
      .exec(line)?.[1]
      ?.split('|')
      .map((cell) => cell.trim());
    if (!cells || cells.length < 2 || /^-+$/.test(cells[0] ?? '') || ['term', 'word'].includes(cells[0] ?? '')) return [];
    const [term = '', ...rest] = cells;
    const says = (rest.at(-1) ?? '').replaceAll('**', '');
    const also = rest.length > 1 ? listed(rest[0] ?? '') : [];
    return [{ id: term.toLowerCase().replace(/[^a-z0-9]+/g, '-'), term, also, says }];
  });
}

export const glossary: readonly GlossaryTerm[] = termsIn(text);

/** The names a term is met by in a text: itself, the parts of one that names two things, and its other names. */
const namesOf = ({ term, also }: GlossaryTerm): string[] => [...listed(term), ...also].filter((name) => name.length > 3);

const byName = new Map(glossary.flatMap((one) => namesOf(one).map((name) => [name.toLowerCase(), one] as const)));
const names = [...byName.keys()].sort((a, b) => b.length - a.length);
const escaped = (name: string): string => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const anyName = new RegExp(`(?<![\\p{L}\\d-])(${names.map(escaped).join('|')})s?(?![\\p{L}\\d-])`, 'giu');

/** A text in pieces: what is plain, and each term at its first place. */
export function withTerms(plain: string): (string | { readonly word: string; readonly term: GlossaryTerm })[] {
  const pieces: (string | { word: string; term: GlossaryTerm })[] = [];
  const met = new Set<string>();
  let from = 0;
  for (const match of plain.matchAll(anyName)) {
    const term = byName.get((match[1] ?? '').toLowerCase());
    if (!term || met.has(term.id)) continue;
    met.add(term.id);
    if (match.index > from) pieces.push(plain.slice(from, match.index));
    pieces.push({ word: match[0], term });
    from = match.index + match[0].length;
  }
  if (from < plain.length) pieces.push(plain.slice(from));
  return pieces;
}
