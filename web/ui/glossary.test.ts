import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { glossary, termsIn, withTerms } from './glossary.ts';

describe('the glossary in the interface', () => {
  test('has every row of the tables of the document, each with a sentence and an address of its own', () => {
    const rows = readFileSync('docs/glossary.md', 'utf8')
      .split('\n')
      .filter((line) => line.startsWith('|') && !/^\|\s*(-+|term|word)\s*\|/.test(line));
    expect(glossary).toHaveLength(rows.length);
    expect(new Set(glossary.map(({ id }) => id)).size).toBe(glossary.length);
    for (const { term, says } of glossary) expect(says.length, term).toBeGreaterThan(10);
    expect(termsIn('no table\n| term | what it is |\n| --- | --- |\n| gap | air between two |')).toEqual([
      { id: 'gap', term: 'gap', also: [], says: 'air between two' },
    ]);
  });

  test.each([
    ['Charging resistor: voltage, each', 'Charging resistor'],
    ['No pre-fire below', 'pre-fire'],
    ['Corona, or dielectric absorption again', 'dielectric absorption'],
    ['A crowbar across it', 'crowbar'],
  ])('%s: the term in it is %s', (text, word) => {
    const pieces = withTerms(text);
    expect(pieces.flatMap((piece) => (typeof piece === 'string' ? [] : [piece.word]))).toContain(word);
  });

  test('no text is lost or changed by its terms, and none is marked twice or within another word', () => {
    const words = fc.constantFrom(...glossary.map(({ term }) => term), 'and', 'unmagnetisers', '42 kV', 'the', ', ');
    fc.assert(
      fc.property(fc.array(words, { maxLength: 12 }), (list) => {
        const text = list.join(' ');
        const pieces = withTerms(text);
        expect(pieces.map((piece) => (typeof piece === 'string' ? piece : piece.word)).join('')).toBe(text);
        const ids = pieces.flatMap((piece) => (typeof piece === 'string' ? [] : [piece.term.id]));
        expect(new Set(ids).size).toBe(ids.length);
        expect(withTerms('unmagnetisers')).toEqual(['unmagnetisers']);
      }),
      { seed: 5 },
    );
  });
});
