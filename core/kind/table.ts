import { slots } from '../block/index.ts';
import { allDesks, kindsOf, slotTitles } from './registry.ts';

const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');

/**
 * Every kind of block as a table in Markdown, place by place: its title, its name in a rig file, how many fields, figures and limits it
 * has, and the pages it brings with it.
 */
export function kindsTable(): string {
  const rows = slots.flatMap((slot) =>
    kindsOf(slot).map(({ title, kind, fields, figures = [], limits = [], desks = [] }, k) => [
      k === 0 ? slotTitles[slot] : '',
      title,
      `\`${kind}\``,
      ...[Object.keys(fields), figures, limits].map(({ length }) => (length === 0 ? '' : String(length))),
      desks.map((desk) => desk.title).join(', '),
    ]),
  );
  return table(['place', 'kind', 'in a rig file', 'fields', 'figures', 'limits', 'pages'], rows);
}

/**
 * The desks that kinds bring with them, as a table in Markdown.
 *
 * @param pictures folder of the pictures, as the page that has the table links to it
 */
export const desksTable = (pictures: string): string =>
  table(
    ['desk', 'of a rig with', 'what it does'],
    allDesks.map(({ title, about, of, picture }) => [picture ? `[${title}](${pictures}/${picture}.png)` : title, of, about]),
  );
