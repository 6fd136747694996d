import type { SheetEdits } from '../rig/index.ts';

/** What to do when somebody was shocked or the bank burns: on every sheet and in every run. It defers to local first-aid practice. */
export interface Emergency {
  readonly title: string;
  readonly lines: readonly string[];
}

/** @param hasDump whether there is a dump that is closed from outside the guard */
export function emergencyCards({ call }: Pick<SheetEdits, 'call'>, hasDump: boolean): Emergency[] {
  const number = call === '' ? 'the emergency number, which is not written here yet' : call;
  const off = `Power off at the isolator, outside the guard${hasDump ? '; dump closed from outside' : ''}.`;
  return [
    {
      title: 'Somebody was shocked',
      lines: [
        off,
        `Do not touch them, and do not reach in, before ${hasDump ? 'the dump has closed and ' : ''}the stick has been put across the store: whatever shocked them may still be charged.`,
        `Somebody else calls ${number}: an electric shock, where, how many are hurt.`,
        'No breathing, no answer: chest compressions at once, a defibrillator as soon as there is one, until help takes over.',
        'Anyone who was shocked sees a doctor, even if they feel well: the heart can fail later.',
        'Local first-aid practice comes before this card.',
      ],
    },
    {
      title: 'Fire, or something burst',
      lines: [
        off,
        `Everybody out and away: smoke of capacitors is poisonous, and others may burst. Call ${number}.`,
        'Fight a small fire only with the power off and the store discharged, with carbon dioxide, standing at the exit.',
        'Nobody goes back in before the store has been read and strapped as in this sheet.',
      ],
    },
  ];
}
