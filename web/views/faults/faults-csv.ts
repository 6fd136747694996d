import Papa from 'papaparse';
import { faultLevels, type FaultStudy } from '@vast-surge/core/study';

/** The table as it stands on the page, in SI units. */
export const faultsCsv = ({ faults, blind }: FaultStudy): string =>
  Papa.unparse([
    ...faults.map(({ slot, title, moment, level, because, into, top, reversal, left }) => ({
      block: slot,
      fault: title,
      when: moment,
      consequence: faultLevels[level],
      because,
      'energy into it, least / J': into?.low ?? '',
      'energy into it, most / J': into?.high ?? '',
      'store, most / V': top,
      'store, reversal': reversal,
      'left / V': left[0]?.V ?? '',
      'left / J': left[0]?.E ?? '',
    })),
    ...blind.map(({ slot, title, reason }) => ({ block: slot, fault: title, consequence: 'not worked out', because: reason })),
  ]);
