import { Plus } from 'lucide-react';
import { channelNoun, channelsTitle, channelTitle, mostChannels, type Rig } from '@vast-surge/core/rig';
import { channelAdded, channelRemoved } from '../app/edits.ts';
import { channelSelected } from '../app/editor.ts';
import { useAppDispatch, useShownChannel } from '../app/store.ts';

const tab = 'border border-rule px-3 py-0.5 whitespace-nowrap';

/**
 * The channels of a rig that can have several, such as the stages of a launcher: which one the page shows, one more, one less.
 * Nothing where its load stands alone.
 */
export function StageTabs({ rig, edits = false }: { rig: Rig; edits?: boolean }) {
  const dispatch = useAppDispatch();
  const shown = useShownChannel(rig);
  const noun = channelNoun(rig);
  if (noun === null || (rig.channels.length < 2 && !edits)) return null;
  const add = () => {
    dispatch(channelAdded());
    dispatch(channelSelected(rig.channels.length));
  };
  return (
    <div role="group" aria-label={channelsTitle(rig)} className="flex flex-wrap items-center gap-1 py-1.5">
      {rig.channels.map((_, k) => (
        <button
          key={k}
          type="button"
          aria-pressed={k === shown}
          className={`${tab} ${k === shown ? 'border-select bg-plate font-bold text-select' : 'hover:border-ink'}`}
          onClick={() => dispatch(channelSelected(k))}
        >
          {channelTitle(rig, k)}
        </button>
      ))}
      {edits && (
        <>
          <button
            type="button"
            className={`${tab} flex items-center gap-1 enabled:hover:border-ink disabled:opacity-50`}
            disabled={rig.channels.length >= mostChannels}
            title={
              rig.channels.length >= mostChannels
                ? `At most ${mostChannels} ${noun}s.`
                : `Adds one after the last, as a copy of it.`
            }
            onClick={add}
          >
            <Plus size={15} aria-hidden /> Add a {noun}
          </button>
          {shown > 0 && (
            <button type="button" className={`${tab} hover:border-ink`} onClick={() => dispatch(channelRemoved(shown))}>
              Remove {channelTitle(rig, shown).toLowerCase()}
            </button>
          )}
        </>
      )}
    </div>
  );
}
