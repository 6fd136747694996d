import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { rigWith } from '../test/rigs.ts';

/**
 * Stores left to what lies across them, and stores charged in turn: computed by the closed form of RC circuits and by time integration
 * (worst disagreement 2e-11). One row: what is across the store, how long it is left, V at the start, V left.
 */
interface Row {
  readonly what: string;
  readonly C: number;
  readonly bleeder: string;
  readonly leakage: string;
  readonly divider: string;
  readonly seconds: number;
  readonly from: number;
  readonly left: number;
}

const rows: Row[] = readFileSync(new URL('../test/fixtures/procedure-voltage.csv', import.meta.url), 'utf8')
  .split('\n')
  .map((line) => line.replace(/^"charged, then left"/, 'turn').split(','))
  .filter(([kind]) => kind === 'isolated' || kind === 'turn')
  .map(([kind, store, C, bleeder = '', leakage = '', divider = '', , , , seconds, from, left]) => ({
    what: `${kind ?? ''}, ${store ?? ''}`,
    C: Number(C),
    bleeder,
    leakage,
    divider,
    seconds: Number(seconds),
    from: Number(from),
    left: Number(left),
  }));

describe('the voltage of a store that is left to itself', () => {
  test('has rows to be held against', () => expect(rows.length).toBeGreaterThan(15));

  test.each(rows)('$what: falls as the table has it', ({ C, bleeder, leakage, divider, seconds, from, left }) => {
    const rig = rigWith({
      'supply.V': `${from * 1.2} V`,
      'store.V0': `${from} V`,
      'store.C': `${C} F`,
      'store.Ri': leakage === '' ? '100 TΩ' : `${leakage} Ω`,
      'meter.R': divider === '' ? '100 TΩ' : `${divider} Ω`,
      'meter.V': '100 kV',
      ...(bleeder === '' ? { 'bleeder.kind': 'none' } : { 'bleeder.R': `${bleeder} Ω`, 'bleeder.n': '1' }),
    });
    const tau = figureIn(evaluateRig(rig), 'fall-constant')?.worked.value ?? NaN;
    expect((from * Math.exp(-seconds / tau)) / left).toBeCloseTo(1, 4);
  });
});
