import { slots } from '../block/index.ts';
import { kindsOf, slotTitles } from './registry.ts';

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
  const head = ['place', 'kind', 'in a rig file', 'fields', 'figures', 'limits', 'pages'];
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  return [line(head), line(head.map(() => '---')), ...rows.map(line)].join('\n');
}
