import type { Worked } from '../formula/index.ts';
import type { CircuitPart } from './circuit-part.ts';
import type { Slot } from './names.ts';

/** What a rig is doing when something in it fails, as it stands behind a comma. */
export const faultMoments = {
  charge: 'during the charge',
  charged: 'charged and held',
  held: 'charged, the supply still on',
  early: 'during the charge, at full voltage',
  shot: 'at the shot',
  after: 'after a shot, the charger still on',
  bleed: 'while it bleeds',
  dump: 'while it is dumped',
} as const;
export type FaultMoment = keyof typeof faultMoments;

/** An element of the circuit of a rig, with the block that it belongs to. */
export interface PlacedPart extends CircuitPart {
  readonly slot: Slot;
  /** Parts alike in parallel that it stands for: each has its share of the current. One if left out. */
  readonly count?: number;
}

/**
 * One way in which a part of a rig fails: what the circuit is then. A short has some resistance that nobody knows; what depends on it is
 * told over a span of it.
 */
export interface FaultMode {
  /** kebab-case; unique in its slot. */
  readonly id: string;
  readonly title: string;
  readonly moment: FaultMoment;
  /** What happens, in a sentence or two. */
  readonly says: string;
  /** The circuit with the fault in it. @param R Ω of a short, where it `shorts` */
  circuit(parts: readonly PlacedPart[], R: number): readonly PlacedPart[];
  readonly shorts?: true;
  /** Names of the elements that stand for what failed: what goes into them is the energy of the fault. */
  readonly into?: readonly string[];
  /** Elements of what failed that take none of it: they are not told among those that carry it. */
  readonly failed?: readonly string[];
  /** J that what failed is stated to withstand; null where nobody says, left out where it is no part with a case. */
  readonly withstands?: Worked | null;
  /** The lead of what failed that a fuse would stand in: name of its element. */
  readonly lead?: string;
  /** A²s at which a fuse that breaks the voltage melts in that lead; left out where there is none. */
  readonly fuse?: number;
  /** A capacitor that takes more voltage than its share: its element, and what it is rated for. */
  readonly strained?: { readonly title: string; readonly element: string; readonly rating: Worked | null };
  /** s that it is run for, of a short by its resistance; as long as such a moment lasts if left out. */
  readonly until?: (R: number) => number;
  /** Where a voltage stands that should not: what it is, and its node. */
  readonly strays?: readonly { readonly title: string; readonly node: string; readonly rating?: Worked | null }[];
  /** A person stands in the path: what goes into them is no loss of a part. */
  readonly isPerson?: true;
  /** The store keeps all of its charge, as the meter may not show. */
  readonly leavesCharged?: true;
  /** It may come at any moment of the charge: what is left is told over shares of the voltage. */
  readonly anyMoment?: true;
  /** Pieces that hold charge that the terminals do not show: names of their capacitors. */
  readonly cutOff?: readonly string[];
}
