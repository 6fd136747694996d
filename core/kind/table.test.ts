import { existsSync, readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { allDesks, blockDefinitions, desksTable, kindsTable } from './index.ts';

const page = (path: string) => new URL(`../../${path}`, import.meta.url);
/** Cells of the table in a text, without what a formatter does to their widths. */
const cells = (text: string) =>
  text
    .split('\n')
    .filter((line) => line.startsWith('|') && !/^\| ?-/.test(line))
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim()),
    );

test('the page of all kinds is what the registry says: npm run schema writes it', () => {
  const written = cells(readFileSync(page('docs/kinds.md'), 'utf8'));
  expect(written).toEqual(cells(kindsTable()));
  expect(written).toHaveLength(blockDefinitions.length + 1);
});

test('the page of all pages lists the desks that the registry has, each with a picture that is there', () => {
  const [, inside = ''] = readFileSync(page('docs/pages.md'), 'utf8').split(/<!-- (?:desks: npm run schema|end) -->/);
  expect(cells(inside)).toEqual(cells(desksTable('screenshots')));
  expect(cells(inside)).toHaveLength(allDesks.length + 1);
  for (const { picture } of allDesks)
    if (picture) expect(existsSync(page(`docs/screenshots/${picture}.png`)), picture).toBe(true);
});
