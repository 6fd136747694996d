import { useMemo } from 'react';
import { partsUsed, type RigDocument } from '@vast-surge/core/rig';
import { builtSet } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useShelf } from '../../app/bench.ts';
import { useUses } from '../../app/uses.ts';

/** Whether the rig stands on the bench, and other built rigs that have parts of it. */
export function Built({ id, document }: { id: string; document: RigDocument }) {
  const dispatch = useAppDispatch();
  const uses = useUses(id);
  const { bench } = useShelf();
  const clashes = useMemo(() => {
    if (!document.built) return [];
    const byRig = new Map<string, string[]>();
    for (const part of partsUsed(document.rig)) {
      const stored = bench.parts.get(part);
      const others = (uses.get(part) ?? []).filter((u) => u.built);
      // A line of several alike can serve as many rigs as there are pieces of it.
      if (others.length >= (stored?.part.quantity ?? 1))
        for (const use of others) byRig.set(use.name, [...(byRig.get(use.name) ?? []), stored?.part.tag ?? part.slice(0, 8)]);
    }
    return [...byRig];
  }, [uses, bench, document]);
  return (
    <div className="mt-4">
      <label className="flex items-baseline gap-2">
        <input type="checkbox" checked={document.built} onChange={(event) => dispatch(builtSet(event.target.checked))} />
        <span>
          Built <span className="block text-13 text-dim">Its parts are in use here.</span>
        </span>
      </label>
      {clashes.map(([name, tags]) => (
        <p key={name} role="alert" className="mt-1 border-l-4 border-warning pl-2">
          ⚠ {name} is built with {tags.join(', ')} too. A part is in one built rig at a time.
        </p>
      ))}
    </div>
  );
}
