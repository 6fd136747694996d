import type { ReactNode } from 'react';
import { Dialog } from 'radix-ui';

interface Props {
  readonly title: ReactNode;
  /** A line under the title that says what happens. */
  readonly says?: ReactNode;
  readonly onClose: () => void;
  /** Tailwind classes for its width; it never is wider than the screen. */
  readonly width?: string;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A sheet over the page that is open as long as it is drawn; Esc and a click beside it close it. */
export function Sheet({ title, says, onClose, width = 'w-[min(40rem,96vw)]', className = '', children }: Props) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content
          {...(says === undefined ? { 'aria-describedby': undefined } : {})}
          className={`fixed top-[6vh] left-1/2 z-50 max-h-[88vh] -translate-x-1/2 overflow-y-auto border border-ink bg-plate p-5 ${width} ${className}`}
        >
          <Dialog.Title className="text-19 font-bold">{title}</Dialog.Title>
          {says !== undefined && <Dialog.Description className="mt-1 text-14 text-dim">{says}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
