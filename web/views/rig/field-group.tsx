import { useState, type ReactNode } from 'react';
import type { GroupOfFields } from '@vast-surge/core/kind';

/** What a fold says of what is in it. */
function stateOf({ group, fields, missing, assumed, entered }: GroupOfFields): string {
  if (group === 'protection') return entered === 0 ? 'none entered' : `${entered} of ${fields.length} entered`;
  const parts = [...(missing > 0 ? [`${missing} missing`] : []), ...(assumed > 0 ? [`${assumed} assumed`] : [])];
  return parts.length === 0 ? `complete, ${fields.length}` : `${parts.join(', ')} of ${fields.length}`;
}

/** Folds that were opened stay so from block to block, as long as the page is there. */
const opened = new Set<string>(['essentials']);

/** A group of fields that folds; one in which something is wrong opens itself, and does not close under the hands that mend it. */
export function FieldGroup({ of, isWrong, children }: { of: GroupOfFields; isWrong: boolean; children: ReactNode }) {
  const [isOpen, setOpen] = useState(() => opened.has(of.group));
  // What is wrong opens it, and mending that leaves it open.
  if (isWrong && !isOpen) setOpen(true);
  const shows = isOpen || isWrong;
  return (
    <details
      className="border-b border-rule"
      open={shows}
      onToggle={(event) => {
        // The browser has closed it already: what is wrong stays in sight.
        if (isWrong) event.currentTarget.open = true;
        const next = event.currentTarget.open;
        if (next) opened.add(of.group);
        else opened.delete(of.group);
        setOpen(next);
      }}
    >
      <summary className="flex min-h-[32px] cursor-pointer items-baseline gap-2 py-1">
        <span aria-hidden className="w-3 text-12">
          {shows ? '▾' : '▸'}
        </span>
        <h3 className="text-14 font-bold">{of.title}</h3>
        <span className={`ml-auto text-13 ${of.missing > 0 ? '' : 'text-dim'}`}>{stateOf(of)}</span>
      </summary>
      {children}
    </details>
  );
}
