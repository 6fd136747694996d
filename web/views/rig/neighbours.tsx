import { useMemo } from 'react';
import type { Slot } from '@vast-surge/core/block';
import { neighboursOf } from '@vast-surge/core/evaluation';
import { slotTitles } from '@vast-surge/core/kind';
import { midSentence, type Rig } from '@vast-surge/core/rig';
import { rigReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';

const listed = (titles: readonly string[]): string => {
  const words = titles.map((title) => midSentence(title));
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
};

/** After another kind of block was chosen: what stands beside it and does not fit, and the offer to bring it along. */
export function NeighbourOffer({ rig, slot, onDone }: { rig: Rig; slot: Slot; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const offer = useMemo(() => neighboursOf(rig, slot), [rig, slot]);
  if (!offer) return null;
  return (
    <div role="status" className="mb-3 border-l-4 border-select bg-plate p-2 text-14">
      <p>
        {offer.like === null
          ? `The ${listed(offer.changed)} ${offer.changed.length === 1 ? 'does' : 'do'} not fit this ${slotTitles[slot].toLowerCase()}.`
          : `The rest of this rig does not fit. “${offer.like}” among the starters does: ${listed(offer.changed)} would change.`}{' '}
        Undo takes it back.
      </p>
      <p className="mt-2 flex flex-wrap gap-2">
        <Button
          look="primary"
          onClick={() => {
            dispatch(rigReplaced(offer.rig));
            onDone();
          }}
        >
          Bring them along
        </Button>
        <Button onClick={onDone}>Leave them</Button>
      </p>
    </div>
  );
}
