import { bleedFormulas, capacitorFormulas, FormulaError, ruled, work, type Worked } from '../../formula/index.ts';
import type { JudgedBank } from './bank.ts';

/** Resistors across the groups of a bank, that keep uneven leakage from shifting the voltage. SI units. */
export type Balance =
  | {
      readonly ok: true;
      /** The highest resistance that holds the worst group below its rating, Ω. */
      readonly resistor: Worked;
      /** Power in each at its share of the voltage, W. */
      readonly power: Worked;
      /** Current they take from the supply, A. */
      readonly current: number;
      /** Between the group that leaks most and the one that leaks least, A. */
      readonly difference: number;
      /** Time constant with which they also bleed the bank, s: each resistor on its group. */
      readonly bleeds: number;
    }
  | { readonly ok: false; readonly reason: string; readonly missing: readonly string[] };

/**
 * Sizes balancing resistors from the measured insulation of the pieces.
 *
 * @param insulationOf insulation resistance of a piece, Ω; null where it was not measured
 * @param voltage across the bank, V
 * @param given leakage difference between groups, A, to be used where insulation was not measured
 */
export function balanceOf(
  bank: JudgedBank,
  insulationOf: (id: string) => number | null,
  voltage: number,
  given: number | null = null,
): Balance {
  const { groups } = bank;
  const refuse = (reason: string, missing: readonly string[] = []): Balance => ({ ok: false, reason, missing });
  if (groups.length < 2) return refuse('nothing is in series: there is no voltage to share');
  const missing = groups.flatMap((g) => g.pieces.filter((p) => insulationOf(p.id) === null).map((p) => p.id));
  if (missing.length > 0 && given === null) return refuse('the insulation of some parts was not measured', missing);
  const leaks = groups.map((g) => g.pieces.reduce((sum, p) => sum + (g.share * voltage) / (insulationOf(p.id) ?? Infinity), 0));
  const difference = given ?? Math.max(...leaks) - Math.min(...leaks);
  const least = Math.min(...groups.map((g) => g.rating));
  const highestShare = Math.max(...groups.map((g) => g.share));
  if (difference === 0) return refuse('all groups leak alike: no resistor is needed for that');
  try {
    const across = ruled('voltage across the bank', voltage, 'V', 'the target');
    const resistor = work(
      capacitorFormulas.balanceResistor,
      {
        n: ruled('groups in series', groups.length, '1', 'the bank'),
        Vm: ruled('lowest rating of a group', least, 'V', 'the parts'),
        Vb: across,
        I: ruled(
          'difference of leakage between groups',
          difference,
          'A',
          given === null ? 'measured insulation, at each group’s share' : 'typed',
        ),
      },
      'highest balancing resistor across each group',
    );
    const power = work(
      bleedFormulas.bleedPeakPower,
      { V: ruled('voltage on the worst group', highestShare * voltage, 'V', 'the bank'), R: resistor },
      'power in each',
    );
    return {
      ok: true,
      resistor,
      power,
      current: voltage / (groups.length * resistor.value),
      difference,
      bleeds: resistor.value * Math.max(...groups.map((g) => g.capacitance)),
    };
  } catch (error) {
    if (error instanceof FormulaError) return refuse(error.message);
    throw error;
  }
}
