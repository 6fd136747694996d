import type { Slot } from '../block/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { midSentence, type SheetEdits, type Waiver } from '../rig/index.ts';

/** A rating that protects people, or what bursts, and that nobody has entered. */
export interface Unrated {
  readonly limit: string;
  readonly title: string;
  readonly slot: Slot;
  /** What it would be held against at the worst corner, in SI units and as it is written; null where that is not known. */
  readonly stress: { readonly value: number; readonly text: string } | null;
  /** Who answers for it; null while nobody does, or for less than it is now. */
  readonly waiver: Waiver | null;
  /** Whether somebody answered for less than it is now. */
  readonly isOutgrown: boolean;
}

/** What is asked again only when it has grown: the last digits of a band move with every change of the program. */
const grown = 1.005;

/** Ratings that a live run asks for and that are not there, each with whoever answers for it. */
export function unratedIn({ ladder }: Evaluation, { waivers }: SheetEdits): Unrated[] {
  const missing = [
    ...ladder.limits
      .filter((l) => l.protects && l.worst === null && l.band.high > 0)
      .map(({ id, title, slot, stress, band }) => ({
        limit: id,
        title,
        slot,
        stress: { value: band.high, text: printQuantity(band.high, stress.unit) },
      })),
    ...ladder.blind.filter((l) => l.protects).map(({ id, title, slot }) => ({ limit: id, title, slot, stress: null })),
  ];
  return missing.map((one) => {
    const waiver = waivers.find(({ limit }) => limit === one.limit) ?? null;
    const isOutgrown = waiver !== null && waiver.upTo !== null && (one.stress === null || one.stress.value > grown * waiver.upTo);
    return { ...one, waiver: isOutgrown ? null : waiver, isOutgrown };
  });
}

/** What holds back a live run, and nothing else: ratings that nobody entered or answers for, and somebody alone. */
export function withheldBy(unrated: readonly Unrated[], { people, alone }: SheetEdits): string[] {
  return [
    ...unrated
      .filter(({ waiver }) => waiver === null)
      .map(({ title, stress, isOutgrown }) => {
        const against = stress === null ? '' : `, ${stress.text} worst case`;
        return `${title}: no rating is entered${against}${isOutgrown ? ', which is more than was waived' : ''}. Enter it, or waive it by name.`;
      }),
    ...(people === 'one' && alone === null
      ? ['Working alone: somebody has to take responsibility by name, with a reason and a time to call in.']
      : []),
  ];
}

/** What was waived, as it stands on the sheet. */
export const waivedWords = (unrated: readonly Unrated[], { people, alone }: SheetEdits): string[] => [
  ...unrated.flatMap(({ title, stress, waiver }) =>
    waiver === null
      ? []
      : [
          `${title}: not rated${stress === null ? '' : ` (${stress.text})`}; ${waiver.by} answers for it: ${midSentence(waiver.reason)}`,
        ],
  ),
  ...(people === 'one' && alone !== null
    ? [`One person alone; ${alone.by} answers for it: ${midSentence(alone.reason)} Calls in every ${String(alone.callIn)} min.`]
    : []),
];
