import { readFileSync } from 'node:fs';

/** Rows of a table of published or independently computed check values; each row names its source. */
export function table(name: string): Record<string, string>[] {
  const text = readFileSync(new URL(`./fixtures/${name}.csv`, import.meta.url), 'utf8');
  const [head = [], ...rows] = text
    .trim()
    .split('\n')
    .filter((line) => !line.startsWith('#'))
    .map(cells);
  return rows.map((row) => Object.fromEntries(head.map((key, i) => [key, row[i] ?? ''])));
}

/** The cells of a line; a quoted cell may hold commas. The fixtures have no quotes inside quotes. */
const cells = (line: string): string[] =>
  [...line.matchAll(/("([^"]*)"|[^,]*)(,|$)/g)]
    .slice(0, -1)
    .map((m) => m[2] ?? m[1] ?? '')
    .concat(line.endsWith(',') ? [''] : []);

/** |a − b| as a fraction of b; of nought, |a − b| itself. */
export const offBy = (a: number, b: number): number => (b === 0 ? Math.abs(a) : Math.abs(a / b - 1));
