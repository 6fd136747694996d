import { ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import type { JudgedBank, JudgedGroup } from './bank.ts';

/** The numbers of a composed bank, each with its working. SI units. */
export interface BankWorking {
  /** Bank voltage at which the first group reaches its rating at the worst corner, V. */
  readonly usable: Worked;
  /** At the voltage it is to be charged to, J. */
  readonly energy: Worked;
  /** Of each group, what it sees at that voltage at the worst corner, V. */
  readonly groups: readonly Worked[];
}

/** @param voltage the bank is to be charged to, V, above 0 */
export function bankWorking(bank: JudgedBank, voltage: number): BankWorking {
  const share = (group: JudgedGroup) =>
    ruled(
      'its worst-case share',
      Math.min(1, group.worstShare),
      '1',
      '1/C of the group over the sum of all 1/C, this group at the least and all others at the most that their readings allow',
    );
  const V = ruled('voltage it is to be charged to', voltage, 'V', 'the target');
  const first = bank.groups.reduce((a, b) => (b.rating / b.worstShare < a.rating / a.worstShare ? b : a));
  return {
    usable: work(
      storeFormulas.usableVoltage,
      { Vr: ruled('rating of the group that is first', first.rating, 'V', 'the lowest DC limit of its parts'), s: share(first) },
      'what the bank withstands, worst case',
    ),
    energy: work(
      storeFormulas.storedEnergy,
      {
        C: ruled(
          'capacitance of the bank',
          bank.capacitance,
          'F',
          '1/C added over the groups, C over the parts of each, as measured',
        ),
        V,
      },
      'energy at that voltage',
    ),
    groups: bank.groups.map((group, i) =>
      work(storeFormulas.groupVoltage, { V, s: share(group) }, `voltage on group ${i + 1}, worst case`),
    ),
  };
}
