import type { ReactNode } from 'react';
import { Dialog } from 'radix-ui';

export interface NumberProps {
  readonly title: string;
  readonly printed: string;
  /** What is printed is the worst case over the tolerances, and the working is of the nominal value. */
  readonly atWorst?: boolean;
  readonly className?: string;
}

/** A number that opens what stands behind it. */
export function NumberDialog({
  title,
  printed,
  atWorst = false,
  className = '',
  children,
}: NumberProps & { readonly children: ReactNode }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger
        className={`figure py-0.5 text-left decoration-dotted underline-offset-4 hover:underline ${className}`}
        title={`Working of ${title}`}
      >
        {printed}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[min(64rem,96vw)] -translate-x-1/2 overflow-y-auto border border-ink bg-plate p-5"
        >
          <Dialog.Title className="text-19 font-bold">
            {title}: <span className="figure">{printed}</span>
          </Dialog.Title>
          {atWorst && <p className="mt-1">In the worst case, over the tolerances. The working below is for the nominal value.</p>}
          {children}
          <Dialog.Close className="mt-3 border border-ink px-3 py-1">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
