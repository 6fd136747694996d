import type { Trace as CircuitTrace } from '../circuit/index.ts';
import type { CircuitPart } from './circuit-part.ts';
import type { Fields, FieldValue } from '../field/index.ts';
import type { Worked } from '../formula/index.ts';
import type { Part } from '../part/index.ts';
import type { FigureSpec, LimitSpec, Offers, Own, Problem, RigContext, StepSpec } from './context.ts';
import type { FaultMode } from './fault.ts';
import type { Glyph } from './glyph.ts';
import type { Desk, FigureId, Slot } from './names.ts';
import type { Used, Warmed } from './shot-needs.ts';
import type { ToolPart } from './wired.ts';

export type { CircuitPart } from './circuit-part.ts';

/** What is simulated of a rig: its charge, its discharge into the load, or its bleed-down. */
export interface Scene {
  /** A dump is a bleed of its own: the bleeder is taken for open then. */
  readonly of: 'charge' | 'discharge' | 'bleed' | 'dump';
  /** Whether the charger is still connected while the store is discharged. */
  readonly charger: boolean;
  /** Whether a supply that works in cycles is drawn with all of them, or as its mean. */
  readonly cycles: boolean;
}

/** Values of the fields of a block, by id. */
export type FieldValues = Readonly<Record<string, FieldValue>>;

/** Nodes a block is connected to, and what the names of its elements end with. */
export interface Terminals {
  readonly plus: string;
  readonly minus: string;
  /** Terminal of the store that is not earth. */
  readonly store: string;
  readonly tag: string;
}

/** Something that a block has read, and where it may be. */
export interface Instrument {
  readonly name: string;
  /** Across the bank it sees all of its voltage; in the earthed lead next to nothing, as long as the earth holds. */
  readonly at: 'bank' | 'earthed lead';
  /** Maximum input voltage, V; null where that is not known. */
  readonly most: number | null;
  /** Input resistance, Ω. */
  readonly R?: number;
  /** It is there for a comparison at a low voltage alone, and off before the charge. */
  readonly lowOnly?: boolean;
  /** Held in a hand or on leads with tips: off above 1 kV, and at every shot. */
  readonly isHand?: boolean;
}

/** A store, or the group of it that is left, with one resistor of its bleeder open. */
export interface OneOpen {
  readonly title: string;
  /** V that stands there, and Ω that it loses it through, beside the capacitance of the store. */
  readonly V0: Worked;
  readonly R: Worked;
}

/** A capacitor, or each of several, that holds charge which the terminals of the store do not show. */
export interface HeldCharge {
  /** kebab-case; its steps on the run sheet are named by it. */
  readonly id: string;
  /** One of them, as a run sheet calls it: “group”; and how many there are. */
  readonly one: string;
  readonly count: number;
  readonly title: string;
  /** V across it at most. */
  readonly V: Worked;
  /** What takes it down by itself, in words, */
  readonly through: string;
  /** and in numbers: Ω, beside F; left out where nothing known does. */
  readonly R?: Worked;
  readonly C?: Worked;
  /** J in one of them. */
  readonly E1: Worked;
  /** J in all of them together, where that is not in the stored energy already: the hazard class counts it. */
  readonly E?: Worked;
  /** What to do about it. */
  readonly then: string;
  /** How the tool is put to it, where that is more than across each. */
  readonly how?: string;
}

/** A block run by itself under a load that its closed forms know, and what is read off. */
export type Trial<F = Fields> = TrialBy<Own<F>>;

/** The same by how it reads its block. */
export interface TrialBy<O> {
  /** Figures it answers for. */
  readonly figures: readonly FigureId[];
  circuit(own: O, rig: RigContext): { readonly parts: readonly CircuitPart[]; readonly until: number; readonly node: string };
  /** What the voltage of the node says, by figure. */
  read(own: O, rig: RigContext, voltage: CircuitTrace): Readonly<Partial<Record<FigureId, number>>>;
}

/**
 * One kind of block: everything the rest of the program knows about it. The form, the file schema, the line, the figures,
 * the limits and the run sheet are all drawn from this declaration.
 */
export interface BlockDefinition<F extends Fields = Fields> {
  readonly slot: Slot;
  /** kebab-case; unique within its slot. */
  readonly kind: string;
  readonly title: string;
  /** What a rig that has it is called: "Marx generator"; left out where it makes no rig another. */
  readonly makes?: string;
  glyph(own: Own<NoInfer<F>>): Glyph;
  readonly fields: F;
  /** The kind of part it may stand on, and which of its fields take which value of such a part. */
  readonly takes?: {
    readonly part: string;
    readonly fields: { readonly [K in keyof F & string]?: string | undefined };
    choices?(part: Part): Readonly<Record<string, string>>;
    /** Why a part of that kind does not suit all the same; null where it does. */
    unsuited?(part: Part): string | null;
  };
  /** Pages of its own, the most asked for first. */
  readonly desks?: readonly Desk[];
  /** Set on a store that composed groups of parts make up. */
  readonly isOfGroups?: true;
  /** The number its label on the line bears. */
  key(own: Own<NoInfer<F>>, rig: RigContext): { readonly text: string; readonly detail?: string };
  offers(own: Own<NoInfer<F>>): Offers;
  /** The elements it becomes between its terminals; a block that is no part of the circuit becomes none. */
  circuit?(own: Own<NoInfer<F>>, rig: RigContext, at: Terminals, scene: Scene): readonly CircuitPart[];
  /** Nodes that the switch of the rig stands between, where that is not the terminal of the store and the load. */
  switchBetween?(own: Own<NoInfer<F>>): { readonly plus: string; readonly minus: string };
  /**
   * Set on a load that may stand in several channels, each with a store and a switch of its own: what one of them is called, and
   * the fields of the next, by those of the last.
   */
  readonly channels?: { readonly one: string; next(last: FieldValues): FieldValues };
  /** What its closed forms leave out beside such elements, said where the solver comes to another number. */
  leavesOut?(own: Own<NoInfer<F>>, scene: Scene): string | null;
  /** Of a discharge tool: its parts as they are wired, from its tip to the lead on the earthed side. */
  wired?(own: Own<NoInfer<F>>): readonly ToolPart[];
  /** Of a bleeder: the store with one of its resistors open, as far as that leaves a way; null where it leaves none. */
  oneOpen?(own: Own<NoInfer<F>>, rig: RigContext): OneOpen | null;
  /** What keeps charge of its own, whatever stands at the terminals of the store. */
  held?(own: Own<NoInfer<F>>, rig: RigContext): readonly HeldCharge[];
  /** What one shot of it uses up: wire, gas, electrodes. */
  uses?(own: Own<NoInfer<F>>, rig: RigContext): readonly Used[];
  /** What of it has to cool between two shots. */
  warmed?(own: Own<NoInfer<F>>, rig: RigContext): readonly Warmed[];
  /** Figures of what it can do to a person that the store’s numbers do not say: at their worst they stand above all, and on the run sheet. */
  readonly warns?: readonly { readonly figure: FigureId; readonly says: string }[];
  /** Circuits of the block alone, run to see what its closed forms say. */
  readonly trials?: readonly Trial<F>[];
  readonly figures?: readonly FigureSpec[];
  readonly limits?: readonly LimitSpec[];
  /** How it fails, beside what any block of its place does. */
  faults?(own: Own<NoInfer<F>>, rig: RigContext, at: Terminals): readonly FaultMode[];
  problems?(own: Own<NoInfer<F>>, rig: RigContext): readonly Problem[];
  steps?(own: Own<NoInfer<F>>, rig: RigContext): readonly StepSpec[];
  /** The run sheet says of each, phase by phase, whether it must be off, and why it stays on where it does. */
  instruments?(own: Own<NoInfer<F>>): readonly Instrument[];
}

/**
 * Checks the declaration against the type: its functions read the fields that it declares and no others. Whoever has the definition
 * afterwards knows that it is a kind, and not which.
 */
export const defineBlock = <const F extends Fields>(definition: BlockDefinition<F>): BlockDefinition =>
  definition as unknown as BlockDefinition;
