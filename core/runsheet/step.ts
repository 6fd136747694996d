import type { Act, Phase } from '../block/index.ts';
import type { Worked } from '../formula/index.ts';

/** One thing to do, numbered within its sheet. */
export interface Step {
  readonly number: number;
  readonly id: string;
  readonly phase: Phase;
  readonly text: string;
  readonly expect: readonly {
    readonly label: string;
    readonly printed: string;
    readonly worked: Worked;
    readonly use: 'nominal' | 'high' | 'low';
  }[];
  readonly hold?: string;
  readonly caution?: string;
  readonly does?: Act;
  /** Who does it: the key holder, who alone switches and touches; with the reader, who reads aloud; or both, who answer. */
  readonly who: 'key' | 'reader' | 'both';
  /** V of the store that are expected, and V it has to be below before the run goes on. */
  readonly reading?: { readonly expected: number | null; readonly below: number | null };
  /** s that have to pass here at the least. */
  readonly wait?: number;
  readonly second: boolean;
  /** What keeps a charge of its own, by its id: the step is about that and not about the store. */
  readonly of?: string;
  /** s that it takes a person, besides what has to be waited for. */
  readonly seconds: number;
  /** What a person wrote beside it. */
  readonly note?: string;
  /** It does not follow from the rig: a person added it. */
  readonly isAdded: boolean;
}

export const phaseTitles: { readonly [K in Phase]: string } = {
  prepare: 'Prepare',
  instruments: 'Instruments',
  commission: 'Commission',
  charge: 'Charge',
  isolate: 'Isolate the charger',
  fire: 'Fire',
  bleed: 'Bleed',
  verify: 'Verify',
  strap: 'Strap',
  'hand-over': 'Hand over',
  misfire: 'Misfire',
  abort: 'Abort',
};

export const whoWords: { readonly [K in Step['who']]: string } = {
  key: 'key holder',
  reader: 'key holder, reader reads',
  both: 'both',
};
