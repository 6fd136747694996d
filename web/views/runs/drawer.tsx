import type { ReactNode } from 'react';
import { useWide } from '../../ui/use-wide.ts';

/** A part beside the step: open in a column of its own, a line that opens on a phone. */
export function Drawer({ title, says, children }: { title: string; says?: string; children: ReactNode }) {
  const isWide = useWide();
  if (isWide)
    return (
      <section aria-label={title} className="mb-4">
        <h2 className="mb-1 text-17 font-bold">{title}</h2>
        {children}
      </section>
    );
  return (
    <details className="border-b border-rule">
      <summary className="flex min-h-[48px] cursor-pointer items-center gap-3 py-2 text-17">
        <span aria-hidden className="text-12 in-open:rotate-90">
          ▶
        </span>
        <span role="heading" aria-level={2} className="font-bold">
          {title}
        </span>
        {says !== undefined && <span className="ml-auto text-right text-14 text-dim">{says}</span>}
      </summary>
      <div className="pb-3">{children}</div>
    </details>
  );
}
