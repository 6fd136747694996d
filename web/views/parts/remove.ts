import { toast } from 'sonner';
import type { StoredPart } from '@vast-surge/contract';
import { writeBench } from '../../app/bench.ts';
import type { Use } from '../../app/uses.ts';

/** Takes parts off the bench, and offers to put them back. A part that a rig stands on goes only after a second word. */
export function takeOff(parts: readonly StoredPart[], uses: ReadonlyMap<string, readonly Use[]>): void {
  const ids = parts.map((p) => p.id);
  const words = parts.length === 1 ? (parts[0]?.part.tag ?? 'It') : `${parts.length} parts`;
  const off = (evenUsed: boolean) => {
    writeBench({ do: 'remove', ids, removed: true, evenUsed });
    toast(`${words}: off the bench, with everything known of ${parts.length === 1 ? 'it' : 'them'}.`, {
      duration: 12_000,
      action: { label: 'Undo', onClick: () => writeBench({ do: 'remove', ids, removed: false, evenUsed: false }) },
    });
  };
  const rigs = [...new Set(ids.flatMap((id) => (uses.get(id) ?? []).map((u) => u.name)))];
  if (rigs.length === 0) off(false);
  else
    toast.warning(
      `${words} ${parts.length === 1 ? 'is' : 'are'} used by ${rigs.join(', ')}. The rig keeps its values and the tag.`,
      {
        duration: 20_000,
        action: { label: 'Remove it anyway', onClick: () => off(true) },
      },
    );
}
