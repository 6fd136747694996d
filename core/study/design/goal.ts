import type { Asked, FigureId, Wishes } from '../../block/index.ts';
import type { UnitId } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';
import type { Kept } from '../../part/index.ts';
import type { Range } from './corners.ts';

/** So many capacitors of the shelf in series, in so many strings. */
export interface ShelfBank {
  readonly from: 'shelf';
  /** What they are called on the shelf. */
  readonly title: string;
  /** Ids of the parts they are taken from. */
  readonly ids: readonly string[];
  readonly ns: number;
  readonly np: number;
  /** As their mean has it, before they are assigned: F of the bank, and V it bears. */
  readonly C: number;
  readonly V: number;
}

/** Capacitors that a draft stands on: of the shelf, or of a class that can be bought. */
export type DraftBank = ShelfBank | { readonly from: 'stock'; readonly class: string };

/** Something to try: plain data, so that whoever is free tries it. */
export interface Draft {
  readonly bank: DraftBank;
  /** What else differs from draft to draft, as its goal reads it. */
  readonly more: Readonly<Record<string, number | string>>;
}

/** What is at hand when drafts are made. */
export interface AtHand {
  /** Parts of the shelf that may be used; empty where it is left out. */
  readonly shelf: readonly Kept[];
  /** Room that every rating is to have, as a fraction of the stress. */
  readonly margin: number;
}

/** A rig that a draft became, or why it became none. */
export type Made = { readonly ok: true; readonly rig: Rig } | { readonly ok: false; readonly reason: string };

/** What a rig has to come to. */
export interface Measure {
  readonly title: string;
  readonly unit: UnitId;
  /** The wish that asks for it. */
  readonly wish: string;
  /** At least. */
  readonly least: number;
  /** @throws Unavailable, FormulaError where it has no such number */
  of(rig: Rig): number;
  /** Where it is a figure of the rig's page, which has its band. */
  readonly figure?: FigureId;
  /** Of others: from what to what the error of its own model puts it; that number alone if left out. Throws as `of`. */
  model?(rig: Rig): Range;
}

/** A kind of goal, in words of the job: what is asked of a person, what may reach it, and what a rig comes to. */
export interface DesignGoal {
  /** kebab-case */
  readonly id: string;
  readonly title: string;
  /** One sentence. */
  readonly says: string;
  readonly asks: Readonly<Record<string, Asked>>;
  /** Wishes that cannot be had together, by the id of what is asked; null where nothing stands against them. */
  lacks?(wishes: Wishes, at: AtHand): { readonly asked: string; readonly reason: string } | null;
  /** Everything that is to be tried, likely ones first. */
  drafts(wishes: Wishes, at: AtHand): readonly Draft[];
  make(wishes: Wishes, draft: Draft, at: AtHand): Made;
  measures(wishes: Wishes): readonly Measure[];
  /** Whether more stored energy is what is wanted; else less is. */
  wantsEnergy?(wishes: Wishes): boolean;
}
