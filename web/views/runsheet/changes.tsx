import { phaseTitles, type SheetChange } from '@vast-surge/core/runsheet';
import { Button } from '../../ui/button.tsx';

const shown = (change: SheetChange) => {
  if (change.is === null) return { head: 'Gone', was: change.was, is: null };
  if (change.was === null) return { head: 'New', was: null, is: change.is };
  return { head: 'Changed', was: change.was, is: change.is };
};

/** What the sheet says now that it did not say when somebody last looked over it. */
export function Changes({ changes, onSeen }: { changes: readonly SheetChange[]; onSeen: () => void }) {
  return (
    <section aria-label="What changed" className="no-print mt-3 border-2 border-ink bg-plate p-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="mr-auto font-bold">
          The rig changed since this sheet was looked over: {changes.length} {changes.length === 1 ? 'step' : 'steps'}
        </h2>
        <Button onClick={onSeen}>Looked over</Button>
      </div>
      <ul>
        {changes.map((change) => {
          const { head, was, is } = shown(change);
          return (
            <li key={change.id} className="mt-2 border-t border-rule pt-1">
              <b>
                {head}
                {change.phase && `, ${phaseTitles[change.phase]}`}
              </b>
              {was !== null && <p className="text-dim line-through decoration-1">{was}</p>}
              {is !== null && <p>{is}</p>}
              {change.note !== null && <p className="border-l-4 border-select pl-2">Your note: {change.note}</p>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
