import type { ReactNode } from 'react';
import { partKinds } from '@vast-surge/core/part';

/** A labelled line of a form of the bench. */
export function FormRow({
  id,
  label,
  help,
  children,
}: {
  id: string;
  label: string;
  help?: string | undefined;
  children: ReactNode;
}) {
  return (
    <div className="grid grid-cols-[132px_minmax(0,1fr)] gap-2 border-b border-rule py-1" title={help}>
      <label htmlFor={id} className="pt-1 leading-tight">
        {label}
      </label>
      {children}
    </div>
  );
}

/** The kinds of part, as options. */
export const partKindOptions = partKinds.map(({ kind, title }) => (
  <option key={kind} value={kind}>
    {title}
  </option>
));
