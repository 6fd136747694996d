import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { gapFields } from './gap.ts';
import { readObserved } from './observed.ts';

const only = (line: string) => {
  const read = readObserved(line);
  if (!read.ok) throw new Error(read.reason);
  expect(read.observed).toHaveLength(1);
  return read.observed[0];
};

describe('observed breakdowns, one to a line', () => {
  test('the examples in the help of the field are read as they say', () => {
    const examples = [...(gapFields.seen.help ?? '').matchAll(/"([^"]+)"/g)].map(([, line = '']) => line);
    expect(examples.length).toBeGreaterThan(1);
    for (const line of examples) expect(only(line)?.V, line).toBeGreaterThan(1000);
    // 1 psi = 6894.757 Pa (NIST SP 811).
    expect(only('27 kV at 8 psi, self-break')).toMatchObject({
      V: 27e3,
      d: null,
      note: expect.stringContaining('self-break') as string,
    });
    expect(only('27 kV at 8 psi, self-break')?.p).toBeCloseTo(8 * 6894.757, 0);
  });

  test('voltage, spacing and pressure may stand in any order, among any words; a dash keeps a line as a note', () => {
    const said = ['18.6 kV', '5.7 mm', '1.2 bar'] as const;
    const word = fc.constantFrom('at', 'loud', 'humid,', 'electrodes', 'third');
    fc.assert(
      fc.property(
        fc.shuffledSubarray([0, 1, 2], { minLength: 3 }),
        fc.array(word, { minLength: 3, maxLength: 3 }),
        (order, words) => {
          const line = order.map((k, i) => `${words[i] ?? ''} ${said[k] ?? ''}`).join(' ');
          const one = only(line);
          expect(one?.V).toBeCloseTo(18.6e3, 6);
          expect(one?.d).toBeCloseTo(5.7e-3, 9);
          expect(one?.p).toBeCloseTo(1.2e5, 3);
          expect(readObserved(`- ${line}\n\n`)).toEqual({ ok: true, observed: [] });
        },
      ),
      { seed: 3 },
    );
  });

  test.each([
    ['5.7 mm', /voltage/],
    ['18 kV 19 kV', /another voltage before it/],
    ['18 kV 5 mm 6 mm', /another spacing before it/],
    ['18 kV\n400 kV at -3 mm', /line 2/],
  ])('%s is refused with its line and the reason', (text, reason) => {
    const read = readObserved(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.reason).toMatch(reason);
  });
});
