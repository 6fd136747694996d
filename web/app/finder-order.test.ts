import { expect, test } from 'vitest';
import { foundBy, type Entry } from './finder-order.ts';

const entry = (title: string, ...words: string[]): Entry => ({ id: title, title, words, act: () => undefined });

test('every word must be found; a title that begins with the first word goes before all, and takes its group along', () => {
  const groups = [
    { heading: 'Runs', entries: [entry('Run of Anvil'), entry('Run of Thimble', 'the anvil stood beside it')] },
    { heading: 'Rigs', entries: [entry('The anvil rig'), entry('Anvil'), entry('Kittiwake')] },
  ];
  const titles = (search: string) =>
    foundBy(search, groups).map(({ heading, entries }) => [heading, ...entries.map((e) => e.title)]);
  expect(titles('anvil')).toEqual([
    ['Rigs', 'Anvil', 'The anvil rig'],
    ['Runs', 'Run of Anvil', 'Run of Thimble'],
  ]);
  expect(titles('  beside ANVIL ')).toEqual([['Runs', 'Run of Thimble']]);
  expect(titles('anvil nowhere')).toEqual([]);
  expect(titles('').flat()).toHaveLength(7);
});
