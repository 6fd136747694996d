import type { ReactNode } from 'react';
import { Dialog } from 'radix-ui';
import type { Worked } from '@vast-surge/core/formula';
import type { Rig } from '@vast-surge/core/rig';
import { WorkingLines } from './working-lines.tsx';

interface Props {
  readonly title: string;
  readonly printed: string;
  /** The number with its tree, or how to get it when it is asked for. */
  readonly worked: Worked | (() => Worked | null);
  /** The rig whose fields its inputs are; null where it is of no rig. */
  readonly rig: Rig | null;
  /** What is printed is the worst corner of the tolerances, and the working is of the nominal value. */
  readonly atWorst?: boolean;
  readonly className?: string;
}

/** Worked out when the dialog opens, and not before. */
function Working({ rig, worked }: Pick<Props, 'rig' | 'worked'>) {
  const tree = typeof worked === 'function' ? worked() : worked;
  return tree ? <WorkingLines rig={rig} worked={tree} /> : <p className="mt-2">This number is not available any more.</p>;
}

/** A number that opens what stands behind it. */
export function NumberDialog({
  title,
  printed,
  atWorst = false,
  className = '',
  children,
}: Pick<Props, 'title' | 'printed' | 'atWorst' | 'className'> & { readonly children: ReactNode }) {
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

/** A number that shows its working when asked, wherever it stands. */
export const WorkedNumber = ({ worked, rig, ...number }: Props) => (
  <NumberDialog {...number}>
    <Working rig={rig} worked={worked} />
  </NumberDialog>
);
