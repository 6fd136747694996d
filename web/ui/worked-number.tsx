import type { Worked } from '@vast-surge/core/formula';
import type { Rig } from '@vast-surge/core/rig';
import { NumberDialog, type NumberProps } from './number-dialog.tsx';
import { WorkingLines } from './working-lines.tsx';

interface Props extends NumberProps {
  /** The number with its tree, or how to get it when it is asked for. */
  readonly worked: Worked | (() => Worked | null);
  /** The rig whose fields its inputs are; null where it is of no rig. */
  readonly rig: Rig | null;
}

/** Worked out when the dialog opens, and not before. */
function Working({ rig, worked }: Pick<Props, 'rig' | 'worked'>) {
  const tree = typeof worked === 'function' ? worked() : worked;
  return tree ? <WorkingLines rig={rig} worked={tree} /> : <p className="mt-2">This number is not available any more.</p>;
}

/** A number that shows its working when asked, wherever it stands. */
export const WorkedNumber = ({ worked, rig, ...number }: Props) => (
  <NumberDialog {...number}>
    <Working rig={rig} worked={worked} />
  </NumberDialog>
);
