import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { blockDefinitions, kindsTable } from './index.ts';

test('the page of all kinds is what the registry says: npm run schema writes it', () => {
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
  const written = cells(readFileSync(new URL('../../docs/kinds.md', import.meta.url), 'utf8'));
  expect(written).toEqual(cells(kindsTable()));
  expect(written).toHaveLength(blockDefinitions.length + 1);
});
