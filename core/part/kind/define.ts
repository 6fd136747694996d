import type { FieldSpec } from '../../field/index.ts';
import type { UnitId } from '../../quantity/index.ts';

/** Unit of what belongs to a reading beside its value. */
export const underUnits = { frequency: 'Hz', voltage: 'V', current: 'A' } as const satisfies Record<string, UnitId>;

/** Something that a guided test of a part measures. */
export interface Measure {
  /** kebab-case; unique within its kind. */
  readonly id: string;
  readonly title: string;
  readonly unit: UnitId;
  /** Range of a reading that can be meant, SI; a reading of nought or below is refused where `min` is not below it. */
  readonly min: number;
  readonly max: number;
  /** The field of the label it stands against, and whose place it takes in a rig. */
  readonly field?: string;
  /** What belongs to the reading beside its value. */
  readonly at?: keyof typeof underUnits;
  /** The value a rig may take from it where no field of the label stands against it. */
  readonly gives?: string;
  /** Several elements in one case are read one by one. */
  readonly perElement?: boolean;
  /** It leaves the part charged: discharge and verify come again before anything else is touched. */
  readonly charges?: boolean;
  readonly how: string;
}

/** Statistics of the readings of one measure. SI units. */
export interface Measured {
  readonly measure: string;
  readonly count: number;
  readonly mean: number;
  /** Standard deviation of the readings; 0 of a single one. */
  readonly spread: number;
  readonly low: number;
  readonly high: number;
  /** Difference of the mean from the label as a fraction; null where the label does not say. */
  readonly fromLabel: number | null;
}

export const conditions = ['unknown', 'good', 'suspect', 'failed'] as const;
export type Condition = (typeof conditions)[number];

/** A condition that the readings speak for, with the reason; the person decides. */
export interface Verdict {
  readonly condition: Exclude<Condition, 'unknown'>;
  readonly reason: string;
}

/** How a kind sees the part it judges. */
export interface PartReading {
  /** SI value of a field of the label; null where it is not known. */
  label(field: string): number | null;
  choice(field: string): string;
  measured(measure: string): Measured | null;
}

/** One kind of part: its label, what is measured on it and in which order, and what the readings say of it. */
export interface PartKind {
  /** kebab-case. */
  readonly kind: string;
  readonly title: string;
  /** What tags of its parts begin with: C-017. */
  readonly prefix: string;
  /** Values that a line of the shelf shows, the first that is known. */
  readonly shows: readonly string[];
  readonly fields: Readonly<Record<string, FieldSpec>>;
  /** Whether it can hold a charge: it is discharged and verified before it is measured. */
  readonly holdsCharge: boolean;
  /** In the order in which they are done. */
  readonly measures: readonly Measure[];
  /** What to watch for when one handles it. */
  readonly cautions: readonly string[];
  /** The gravest thing that the readings say; null where they say nothing yet. */
  verdict?(part: PartReading): Verdict | null;
  /** What one reading is taken between, where that is not the element itself: terminals of a can. */
  elementTitle?(part: PartReading, element: number): string | null;
  /** Values of the elements from the means of their readings, where a reading is not of one element alone. */
  elements?(part: PartReading, measure: string, means: ReadonlyMap<number, number>): readonly number[] | null;
}

export const definePartKind = <const T extends PartKind>(kind: T): T => kind;
