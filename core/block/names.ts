import type { ChoiceIn, LinesIn, QuantityIn } from '../field/index.ts';

/** Places that every rig has once. */
export const rigSlots = ['supply', 'charging', 'guard', 'air'] as const;
/** Places that every channel of a rig has. */
export const channelSlots = [
  'store',
  'switch',
  'trigger',
  'crowbar',
  'leads',
  'load',
  'bleeder',
  'dump',
  'tool',
  'meter',
  'monitor',
] as const;

/** The places of a rig, in the order of the line from supply to load, then what stands below it, then what stands around it. */
export const slots = ['supply', 'charging', ...channelSlots, 'guard', 'air'] as const;
export type Slot = (typeof slots)[number];

/** Whether every channel has a place of its own for it. */
export const isChannelSlot = (slot: Slot): slot is (typeof channelSlots)[number] =>
  (channelSlots as readonly string[]).includes(slot);

/**
 * Fields of every kind of block, by `slot/kind`. Each kind adds its own beside their declaration, so that a name that no kind
 * declares does not compile, and the frame knows no kind:
 *
 *   declare module '../../block/names.ts' { interface KindFields { 'load/coil': typeof coilFields } }
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- kinds fill it
export interface KindFields {}

/** Figures, as keys: those of the whole, and what each kind adds in the same way. */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- kinds fill it
export interface FigureIds {}

/** Routes of the pages that kinds bring with them, as keys. */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- kinds fill it
export interface DeskRoutes {}
export type DeskRoute = keyof DeskRoutes;

/** What a page of a rig is for, in the order of the work. */
export type PageGroup = 'design' | 'physics' | 'procedure' | 'record';

/** A page of a rig that a kind brings with it: tab, link, finder and route come from here. */
export interface Desk {
  readonly route: DeskRoute;
  readonly group: PageGroup;
  /** Where it stands among the pages of its group, the least first. */
  readonly place: number;
  readonly title: string;
  /** What is to be had there, as a link beside the block says it. */
  readonly says: string;
  /** By what else it is looked for. */
  readonly words: readonly string[];
  /** What it does, in a sentence or two, for somebody who does not know it. */
  readonly about: string;
  /** What a rig needs to have it, after “has no”: the terminal says it of one that has not. */
  readonly of: string;
  /** Its picture in docs/screenshots, without .png. */
  readonly picture?: string;
}

/** A figure that the rig as a whole, or some kind of block, declares. */
export type FigureId = keyof FigureIds;

/** Fields of every kind that may stand in a slot. */
export type FieldsIn<S extends Slot> = {
  [K in keyof KindFields]: K extends `${S}/${string}` ? KindFields[K] : never;
}[keyof KindFields];

/** A quantity of a rig by its place: `store.V0`. */
export type FieldPath = { [S in Slot]: `${S}.${QuantityIn<FieldsIn<S>>}` }[Slot];

/** A path: one that is written down has to be that of some quantity; one that comes from elsewhere is any text. */
export type PathText<P extends string> = string extends P ? P : P extends FieldPath ? P : FieldPath;

/** The id of a field of any kind in a slot. */
export type FieldId<S extends Slot = Slot> = QuantityIn<FieldsIn<S>> | ChoiceIn<FieldsIn<S>> | LinesIn<FieldsIn<S>>;
