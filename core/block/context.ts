import type { ChoiceIn, Fields, LinesIn, OptionIn, QuantityIn } from '../field/index.ts';
import type { Worked } from '../formula/index.ts';
import type { Chain } from './interlock.ts';
import type { Air } from './standard-air.ts';
import type { FieldId, FieldPath, FieldsIn, FigureId, Slot } from './names.ts';

/**
 * What a block may contribute to the whole. The figures of the rig ask every block for these and know nothing of kinds.
 */
export interface Offers {
  /** Voltage a supply gives without load, V. */
  readonly sourceVoltage?: Worked;
  /** Resistance in the charging path, Ω. */
  readonly chargingResistance?: Worked;
  /** Inductance in the charging path, H. */
  readonly chargingInductance?: Worked;
  /** Resistance that the mean voltage of a supply with a reservoir of its own has behind it, Ω: such a supply holds its voltage. */
  readonly meanResistance?: Worked;
  /** Set on a supply whose voltage alternates at the store: its frequency, Hz. */
  readonly alternating?: Worked;
  /** Voltage that diodes in the charging path keep back, V. */
  readonly chargingDrop?: Worked;
  /** Cycles a second of a supply that works in cycles, Hz. */
  readonly frequency?: Worked;
  /** How the store is charged, where that is not by a plain voltage behind a resistance. */
  readonly chargeLaw?: ChargeLaw;
  /** Capacitance of the store, F. */
  readonly capacitance?: Worked;
  /** Voltage the store is to be charged to, V. */
  readonly chargedTo?: Worked;
  /** What was set, V, where a gap fires below it and `chargedTo` is where it does. */
  readonly setTo?: Worked;
  /** Voltage of the store at which a gap self-breaks, V. @throws FormulaError, Unavailable where it cannot be worked out */
  readonly firesAt?: () => Worked;
  /** What its dielectric gives back after a discharge, as a share of its voltage, and how long that is waited for, s. */
  readonly absorption?: { readonly id: string; readonly share: Worked; readonly wait: Worked };
  /** Groups of capacitors in series in a store that is charged and discharged across all of them. */
  readonly groups?: Worked;
  /** Voltage the whole store is rated for, V. */
  readonly ratedVoltage?: Worked;
  /**
   * Set on a store of stages that are charged in parallel through a ladder and discharged in series: how many, the resistance
   * from each to the next, both sides together, Ω, and the capacitance, each, F.
   */
  readonly ladder?: { readonly n: Worked; readonly R: Worked; readonly C: Worked };
  /**
   * A second channel is made from this one, of the other polarity: supply, charging path, store, first switch, bleeder and meter stand
   * there again, and the load between the two tops. What is offered is that of one.
   */
  readonly isTwin?: true;
  /** The figure that holds what comes out at the top, where that is not the voltage of the discharge. */
  readonly output?: FigureId;
  /** The figure that holds the voltage at which what stands across the output certainly breaks. */
  readonly holdsOutput?: FigureId;
  /** The figure that holds the highest voltage it makes, where that stands elsewhere than at the store. */
  readonly makesVoltage?: FigureId;
  /** Set on a store that gives a pulse as a charged line does. */
  readonly pulse?: PulseLaw;
  /** Capacitance that the discharge charges, in series in its loop, F. */
  readonly loadCapacitance?: Worked;
  /** Something moves in the load while the current flows: its prediction is that of the launch. */
  readonly launches?: true;
  /** What takes the current over where it would reverse the store, a diode or a crowbar: its drop, V, and resistance, Ω. */
  readonly freewheel?: { readonly Vf: Worked; readonly R: Worked };
  /** Resistance through which the store leaks by itself, Ω. */
  readonly insulation?: Worked;
  /** Resistance in the discharge loop, Ω. */
  readonly loopResistance?: Worked;
  /** What stands in the place of that in a pulse, where the current does not fill the conductor, Ω. */
  readonly pulseResistance?: (rig: RigContext) => Worked;
  /** Inductance in the discharge loop, H. */
  readonly loopInductance?: Worked;
  /** Threshold voltage of a conducting switch, V. */
  readonly threshold?: Worked;
  /** Current below which the switch opens by itself, A; null where it does and the current is not known. */
  readonly holding?: Worked | null;
  /** Resistance of a meter or divider across the store, Ω: a charge has to feed it. */
  readonly meterResistance?: Worked;
  /** Resistance of a permanent bleeder, Ω. */
  readonly bleedResistance?: Worked;
  /** Resistance of a dump that is closed from outside the guard, Ω. */
  readonly dumpResistance?: Worked;
  /** Set on a bleeder that is held off for the charge and the shot, and falls in when power fails. */
  readonly isSwitched?: true;
  /** Resistance of the discharge tool, Ω. */
  readonly toolResistance?: Worked;
  /** Set on a switch that breaks over and over by itself while the supply is on: nothing is charged and held before a shot. */
  readonly freeRunning?: true;
  /** Times a second that a switch opens the tank to a break, Hz. */
  readonly breaks?: Worked;
  /** Standard deviation of a gap's breakdown over its mean. */
  readonly gapScatter?: Worked;
  /** Pressure of the gas in a gap, absolute, Pa. */
  readonly gasPressure?: Worked;
  /** Strength of that gas against air. */
  readonly gasStrength?: Worked;
  /** What fires the switch, where it could also be the other. */
  readonly firedBy?: 'trigger' | 'itself';
  /** What the person who fires does, where that is not pressing a trigger: a sentence of the run sheet. */
  readonly firedAs?: string;
  /** Set on a trigger that takes the charger off first: how long before the shot, s. */
  readonly dropsCharger?: Worked;
  /** The chain of contacts that holds dumps, charger and trigger. */
  readonly interlock?: Chain;
  /** The air that all of the rig stands in, where it is another than that of the tables. */
  readonly air?: Air;
  /** How far the people are at the shot, m, and what the shield before them is made of. */
  readonly people?: Worked;
  readonly shield?: string;
  /** Whether the switch lets the current turn round. */
  readonly conduction?: 'one-way' | 'both-ways';
}

/** How a charged line or network of sections discharges: a source of its voltage behind its impedance, for the length of its pulse. */
export interface PulseLaw {
  /** Ω, and s */
  readonly Z: Worked;
  readonly width: Worked;
  /** Lines one behind the other at the load, where there are several: each brings its voltage. */
  readonly inRow?: Worked;
  /** Its first section, H and F: how steep the pulse begins; null of a line, whose edge is as steep as the rest of the loop lets it. */
  readonly first: { readonly L: Worked; readonly C: Worked } | null;
}

/** How the voltage of the store rises: what a supply or a charging path puts in the place of a voltage behind a resistance. */
export interface ChargeLaw {
  /** Voltage that the store comes to if it is left alone, V. */
  reach(rig: RigContext): Worked;
  /** Time from nought to a voltage, s. */
  time(rig: RigContext, V: Worked, title: string): Worked;
  /** Energy lost on the way to a voltage, J. */
  loss(rig: RigContext, V: Worked): Worked;
  /** Greatest current of the charge, A. */
  peak(rig: RigContext): Worked;
  /** It gives no more than a current, also into a short and into a store that has rung to the other polarity. */
  readonly isLimited?: true;
}

/** A number that cannot be had from this rig, with the reason in words a user can act on. */
export class Unavailable extends Error {
  readonly slot: Slot;
  readonly field: FieldId | undefined;
  constructor(slot: Slot, reason: string, field?: FieldId) {
    super(reason);
    this.name = 'Unavailable';
    this.slot = slot;
    this.field = field;
  }
}

/**
 * How a block reads its own fields. A name that the kind does not declare does not compile; where fields of several kinds may stand
 * in a slot, one that none of them declares does not.
 */
export type Own<F = Fields> = Reader<QuantityIn<F>, ChoiceIn<F>, OptionIn<F>, LinesIn<F>>;

/** The same by the names alone: who reads more may stand in for who reads less. */
export interface Reader<
  Q extends string,
  C extends string,
  O extends readonly [choice: string, value: string],
  L extends string,
> {
  /** @throws Unavailable where the field is empty */
  readonly quantity: (field: Q) => Worked;
  readonly optional: (field: Q) => Worked | null;
  readonly choice: (field: C) => string;
  /** Whether a choice stands at a value. */
  readonly is: (...chosen: O) => boolean;
  /** Lines as they were typed. */
  readonly lines: (field: L) => string;
  /** A quantity as it was typed, in its own unit; empty where it is not given. */
  readonly typed: (field: Q) => string;
  /** The air that the block stands in. */
  readonly air: () => Air;
  /**
   * How far off its mean something lies in the shot that is read, in standard deviations; null where no one shot is meant and its mean counts.
   *
   * @param what as a reader of the study knows it
   * @param s its standard deviation over its mean
   * @param of how many there are, of which the lowest counts
   */
  readonly drawn: (what: string, s: Worked, of?: number) => Worked | null;
  /** See {@link once}. */
  readonly once: <T>(key: object, make: () => T) => T;
}

/**
 * The same function, worked out once for each reading of a rig, or for each block of one: for what several figures are made of.
 * It may read fields and figures of what it is given, and nothing else.
 */
export const once =
  <R extends { readonly once: <T>(key: object, make: () => T) => T }, T>(make: (of: R) => T): ((of: R) => T) =>
  (of) =>
    of.once(make, () => make(of));

/** How a block sees the rig it stands in. */
export interface RigContext {
  own<S extends Slot>(slot: S): Own<FieldsIn<S>>;
  offers(slot: Slot): Offers;
  /** Every channel of the rig in its order, this one among them, each as seen from itself. */
  channels(): readonly RigContext[];
  /** The channels whose stores one discharge takes in series: this one, and where there is any the one that is made from it. */
  inSeries(): readonly RigContext[];
  /** @throws Unavailable where no block offers it */
  offer<K extends keyof Offers>(name: K): NonNullable<Offers[K]>;
  /** Time from nought to a voltage, the last stage of a ladder last, by the one law of this rig's supply and charging path, s. @throws Unavailable, FormulaError */
  chargeTime(V: Worked, title: string): Worked;
  /** A figure of the rig by its id. @throws Unavailable, FormulaError */
  figure(id: FigureId): Worked;
  /** See {@link once}. */
  once<T>(key: object, make: () => T): T;
}

/** What somebody asks of a rig, as the headings of its figures say it. */
export const questions = {
  out: 'What comes out',
  charge: 'How it charges',
  wears: 'What wears',
  left: 'What is left',
  reaches: 'What reaches a person',
} as const;
export type Question = keyof typeof questions;

/** A number that belongs on the rig's page, or in a block's corner of it. */
export interface FigureSpec<Id extends FigureId = FigureId> {
  readonly id: Id;
  readonly title: string;
  /** The block it is shown with. */
  readonly slot: Slot;
  /** What it answers, where that is not what its block is there for. */
  readonly asks?: Question;
  /** Its absence is part of a design and no mistake. */
  readonly mayBeMissing?: true;
  /** It is asked for before the figures that every rig has. */
  readonly leads?: true;
  /** What a shot comes to. Where stages erect one after another the prediction is the solver's, and this says that it is the closed form. */
  readonly ofShot?: true;
  /** @throws Unavailable, FormulaError where the rig does not determine it */
  compute(rig: RigContext): Worked;
}

/** A stress against its rating. */
export interface LimitSpec {
  readonly id: string;
  readonly title: string;
  readonly slot: Slot;
  stress(rig: RigContext): Worked;
  /** Null where the rating is not known: the limit is then shown and cannot be judged. */
  rating(rig: RigContext): Worked | null;
  /** Fields (`store.V0`) whose change would bring it to its rating, most natural first. */
  readonly levers: readonly FieldPath[];
  /** Listed only where both sides are known: a stress that most rigs need not ask about. */
  readonly onlyIfKnown?: true;
  /** Its rating protects people, or what bursts: without it nobody runs the rig, unless a person of a name waives it. */
  readonly protects?: true;
  /** What the comparison leaves out, in one sentence. */
  readonly note?: string;
}

export interface Problem {
  readonly severity: 'error' | 'warning';
  readonly slot: Slot;
  /** The channel it is of, from 0, where that is not the one the rig is seen from. */
  readonly channel?: number;
  readonly field?: FieldId;
  readonly text: string;
}

/** The parts of a run sheet, in the order they are done. The last two are branches, entered only when called for. */
export const phases = [
  'prepare',
  'instruments',
  'commission',
  'charge',
  'isolate',
  'fire',
  'bleed',
  'verify',
  'strap',
  'hand-over',
  'misfire',
  'abort',
] as const;
export type Phase = (typeof phases)[number];

/** What a step does to the store. A run keeps account by them of what may be charged, and keeps them in their order. */
export const acts = [
  'strap-off',
  'hold-off',
  'charge',
  'isolate',
  'fire',
  'dump',
  'bleed',
  'tool',
  'prove',
  'verify',
  'prove-again',
  'held',
  'strap',
  'hand-over',
] as const;
export type Act = (typeof acts)[number];

/** One thing to do. Numbers in it are worked, so that the sheet shows where they come from. */
export interface StepSpec {
  readonly id: string;
  readonly phase: Phase;
  readonly text: string;
  readonly expect?: readonly {
    readonly label: string;
    readonly worked: Worked;
    readonly print: 'duration' | 'quantity';
    /** Which side of its band is told: the worst is high of most, and low of how long something may go on. */
    readonly use: 'nominal' | 'high' | 'low';
  }[];
  /** Nobody goes on until this is true. */
  readonly hold?: string;
  readonly caution?: string;
  readonly does?: Act;
  /** What keeps a charge of its own, by its id: the step is about that and not about the store. */
  readonly of?: string;
  /** s that it takes a person, where that is not what such an act usually takes. */
  readonly seconds?: number;
  /** The voltage of the store is read here: what is expected, V, and what it has to be below for the run to go on, V. */
  readonly reading?: { readonly expected?: Worked; readonly below?: Worked };
  /** What has to pass here at the least, s; of a figure its worst corner counts. */
  readonly wait?: Worked;
  /** The second person has to answer before the run goes on. */
  readonly second?: true;
}
