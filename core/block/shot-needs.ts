import type { Worked } from '../formula/index.ts';

/** What one shot uses up of something that has to be there, or that is renewed after so much of it. */
export interface Used {
  /** kebab-case; unique within its block. */
  readonly id: string;
  readonly title: string;
  readonly each: Worked;
  /** What it lasts for, in the same unit, where the rig says so; left out where it is a stock that somebody has to count. */
  readonly lasts?: Worked;
  /** What is done when it is used up. */
  readonly then: string;
}

/** What has to cool between two shots: J that one shot leaves in it, and W that it may lose for as long as one likes. */
export interface Warmed {
  readonly title: string;
  readonly E: Worked;
  readonly P: Worked;
}
