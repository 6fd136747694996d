import type { FieldSpec } from '../field/index.ts';
import type { Part } from '../part/index.ts';
import type { FigureSpec, LimitSpec, Offers, Own, Problem, RigContext, Slot, StepSpec } from './context.ts';

/** Graphical symbols of the line, by their meaning in IEC 60617. */
export type Glyph =
  | 'dc-source'
  | 'resistor'
  | 'capacitor-bank'
  | 'make-contact'
  | 'thyristor'
  | 'thyristor-pair'
  | 'resistor-inductor'
  | 'resistor-down'
  | 'absent'
  | 'probe'
  | 'voltmeter';

/**
 * One kind of block: everything the rest of the program knows about it. The form, the file schema, the line, the figures,
 * the limits and the run sheet are all drawn from this declaration.
 */
export interface BlockDefinition {
  readonly slot: Slot;
  /** kebab-case; unique within its slot. */
  readonly kind: string;
  readonly title: string;
  glyph(own: Own): Glyph;
  readonly fields: Readonly<Record<string, FieldSpec>>;
  /** The kind of part it may stand on, and which of its fields take which value of such a part. */
  readonly takes?: {
    readonly part: string;
    readonly fields: Readonly<Record<string, string>>;
    choices?(part: Part): Readonly<Record<string, string>>;
    /** Why a part of that kind does not suit all the same; null where it does. */
    unsuited?(part: Part): string | null;
  };
  /** The number its label on the line bears. */
  key(own: Own, rig: RigContext): { readonly text: string; readonly detail?: string };
  offers(own: Own): Offers;
  readonly figures?: readonly FigureSpec[];
  readonly limits?: readonly LimitSpec[];
  problems?(own: Own, rig: RigContext): readonly Problem[];
  steps?(own: Own, rig: RigContext): readonly StepSpec[];
}

/** Checks the declaration against the type and keeps its literal kind and slot. */
export const defineBlock = <const T extends BlockDefinition>(definition: T): T => definition;
