import type { ChoiceField, QuantityField } from '../field/index.ts';
import type { Stroke } from './glyph.ts';
import type { FieldPath, FigureId, Slot } from './names.ts';

/** What a starter asks: a quantity, or one of a few. */
export type Asked = QuantityField | ChoiceField;

/** What was wished, by the id of what was asked: in SI, or the value of a choice. */
export type Wishes = Readonly<Record<string, number | string>>;

/** A block of a new rig: its kind, and what differs from what every block of that kind begins with; null empties a field. */
export interface Setting {
  readonly kind: string;
  readonly fields?: Readonly<Record<string, number | string | null>>;
}

/** Blocks of a new rig; a place that is left out has what a new rig has there. */
export type Settings = { readonly [S in Slot]?: Setting };

/** A field that is set until a figure of the rig is what it has to be: the spacing of a gap for its self-break. */
export interface Tuned {
  readonly path: FieldPath;
  readonly figure: FigureId;
  /** What the figure has to be, V, by what the store is charged to; left out, the figure is the value of the field, as a tap that is worked out. */
  is?(V0: number): number;
}

/** Something to start with: a whole rig out of at most four wishes. */
export interface Starter {
  /** kebab-case */
  readonly id: string;
  /** A noun phrase: “Marx generator”. */
  readonly title: string;
  /** What it is for, in one sentence. */
  readonly says: string;
  /** By what else it is looked for. */
  readonly words: readonly string[];
  /** Its picture, 120 wide and 80 high. */
  readonly picture: readonly Stroke[];
  readonly asks: Readonly<Record<string, Asked>>;
  /** Fields of the rig that are a wish as it was typed, by their path; all others are assumed. */
  readonly typed: Readonly<Record<string, FieldPath>>;
  /** How many channels it has; one where it is left out. */
  channels?(wishes: Wishes): number;
  /** Why no rig can be made of these wishes, where that is known before there is one; null where it is not. */
  lacks?(wishes: Wishes): string | null;
  /** Its blocks, whose neighbours fit each other. */
  settings(wishes: Wishes): Settings;
  /** What is then set by what the rig comes to, one after another. */
  readonly tuned?: readonly Tuned[];
}
