import {
  behindDoor,
  chainFaults,
  chainHoles,
  chainPhases,
  chainState,
  ifKnown,
  twoDumpsFrom,
  type Chain,
  type ChainHole,
  type ChainState,
} from '../../block/index.ts';
import type { Evaluation } from '../../evaluation/index.ts';

/** The interlock of a rig: its chain, where everything stands in each phase, and every single failure tried. */
export interface InterlockStudy {
  readonly chain: Chain;
  /** A dump that sticks counts: the store is too much for a stick. */
  readonly strict: boolean;
  readonly phases: readonly { readonly id: string; readonly title: string; readonly state: ChainState }[];
  /** Behind an open door, the key still on. */
  readonly failures: readonly {
    readonly id: string;
    readonly title: string;
    readonly state: ChainState;
    readonly holes: readonly ChainHole[];
  }[];
  readonly holes: readonly ChainHole[];
}

/** @returns null of a rig without a guard */
export function interlockStudy(evaluation: Evaluation): InterlockStudy | null {
  const reading = evaluation.corners.nominal();
  const chain = reading.offers('guard').interlock;
  if (!chain) return null;
  const strict = (ifKnown(() => reading.figure('stored-energy').value) ?? 0) > twoDumpsFrom;
  const holes = chainHoles(chain, strict);
  return {
    chain,
    strict,
    phases: chainPhases.map(({ id, title, hands: where }) => ({ id, title, state: chainState(chain, where) })),
    failures: chainFaults(chain).map((fault) => ({
      id: fault.id,
      title: fault.title,
      state: chainState(chain, behindDoor, fault),
      holes: holes.filter((hole) => hole.fault.id === fault.id),
    })),
    holes,
  };
}
