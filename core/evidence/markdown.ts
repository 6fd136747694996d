import { formulaById, formulas } from '../formula/index.ts';
import type { Book, Held } from './book.ts';
import { standingOf, standings, wordError, wordRangeOf } from './standing.ts';

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');
const row = (...cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |`;
const heading = (...titles: readonly string[]): string[] => [row(...titles), row(...titles.map(() => '---'))];

const checks = (list: readonly Held[], id: string | null): string[] =>
  list.map((held) => {
    const formula = id === null ? null : (formulaById.get(id) ?? null);
    const where = wordRangeOf(held, formula);
    return `${held.source}${held.memory && !held.source.includes('from memory') ? ' (from memory)' : ''}: ${held.points} points, worst ${wordError(held.worst)}${where ? `; ${where}` : ''}`;
  });

/** The book of evidence as a document. */
export function evidenceMarkdown(book: Book): string {
  const subjects = [...new Set(formulas.map(({ subject }) => subject))];
  const count = (standing: string) => formulas.filter((f) => standingOf(f, book) === standing).length;
  const points = Object.values(book.formula).flatMap((list) => list.map((held) => held.points));
  const lines = [
    '# The book of evidence',
    '',
    '`npm run evidence` writes this from the tests, and `./surge test` fails where it is not what the tests see. An error is the greatest one seen, as a fraction of the value it was checked against. “From memory” means that the value of the source was recalled.',
    '',
    ...heading('Standing', 'Formulas', 'What it means'),
    ...Object.entries(standings).map(([id, { title, means }]) => row(title, String(count(id)), means)),
    '',
    `${points.reduce((a, b) => a + b, 0)} points of ${Object.keys(book.formula).length} formulas were checked against something outside. All ${formulas.length} are asked backwards for every symbol at random, and refuse what lies outside their ranges.`,
    '',
    '## Formulas',
    ...subjects.flatMap((subject) => [
      '',
      `### ${subject}`,
      '',
      ...heading('Formula', 'Standing', 'Checked against', 'Its own source'),
      ...formulas
        .filter((formula) => formula.subject === subject)
        .map((formula) =>
          row(
            `${formula.title} (\`${formula.id}\`)`,
            standings[standingOf(formula, book)].title,
            checks(book.formula[formula.id] ?? [], formula.id).join('<br>') || '—',
            formula.source,
          ),
        ),
    ]),
    '',
    '## Models',
    '',
    ...heading('Model', 'Checked against'),
    ...Object.entries(book.model).map(([id, list]) => row(id, checks(list, null).join('<br>'))),
    '',
    '## Figures of a rig',
    '',
    'A figure is the formulas of its working; those that were also checked against something as a whole say so.',
    '',
    ...heading('Figure', 'Made of', 'Checked as a whole against'),
    ...Object.entries(book.made).map(([id, { title, formulas: made }]) =>
      row(
        `${title} (\`${id}\`)`,
        made.map((one) => `\`${one}\``).join(', ') || 'given',
        checks(book.figure[id] ?? [], null).join('<br>') || '—',
      ),
    ),
    '',
  ];
  return lines.join('\n');
}
