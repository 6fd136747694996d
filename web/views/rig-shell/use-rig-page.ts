import { useOutletContext } from 'react-router';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';

/** What every page of a rig is given by the shell around it. */
export interface RigPageContext {
  readonly id: string;
  /** The rig as it stands in this page, all its channels. */
  readonly document: RigDocument;
  /** The same as seen from the channel that is shown. */
  readonly seen: RigDocument;
  /** What it comes to, from that channel; some milliseconds behind what is typed. */
  readonly evaluation: Evaluation;
  /** Opens the dialog that saves a revision. */
  saveRevision(): void;
}

export const useRigPage = (): RigPageContext => useOutletContext<RigPageContext>();
