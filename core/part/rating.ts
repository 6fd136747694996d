import { capacitorFormulas, ruled, work, type Worked } from '../formula/index.ts';

/** A school of practice for the DC voltage that an AC-rated capacitor takes. */
export interface RatingSchool {
  readonly id: 'ac' | 'ac-peak' | 'test-peak' | 'ac-twice';
  readonly title: string;
  /** What the factor multiplies: the AC rating, or the AC test voltage of the label. */
  readonly of: 'rating' | 'test';
  readonly factor: number;
  /** Why one would follow it, and what it risks. */
  readonly argument: string;
}

/** The schools from the most careful on. Common practice, no source. */
export const ratingSchools: readonly RatingSchool[] = [
  {
    id: 'ac',
    title: 'its AC rating',
    of: 'rating',
    factor: 1,
    argument: 'The most careful: for parts of unknown history, and where the bank stands charged for hours.',
  },
  {
    id: 'ac-peak',
    title: 'AC rating × √2',
    of: 'rating',
    factor: Math.SQRT2,
    argument: 'The default: the peak it withstands on every cycle of its rated service, so nothing new is asked of it.',
  },
  {
    id: 'ac-twice',
    title: 'AC rating × 2',
    of: 'rating',
    factor: 2,
    argument: 'Above any voltage it was made for in service: some last, some do not, and a failed one may burst.',
  },
  {
    id: 'test-peak',
    title: 'AC test voltage × √2',
    of: 'test',
    factor: Math.SQRT2,
    argument:
      'A test lasts seconds and is done once on a new part; as a working voltage it spends the margin that keeps it alive.',
  },
];

export const defaultSchool = 'ac-peak';

const acRating = (volts: number, what: string) => ruled(what, volts, 'V', 'the label of the part');

/**
 * The DC voltage that a school gives an AC-rated capacitor.
 *
 * @param label AC rating and AC test voltage on the label, V rms; null where it does not say
 * @returns the worked voltage, or null where the school rests on a number that the label has not got
 * @throws FormulaError where the voltage is out of range
 */
export function dcRatingBySchool(
  school: RatingSchool,
  label: { readonly rating: number | null; readonly test: number | null },
): Worked | null {
  const volts = school.of === 'rating' ? label.rating : label.test;
  if (volts === null) return null;
  const k = ruled('factor of the school', school.factor, '1', `${school.title}; common practice, no source`);
  return work(
    capacitorFormulas.dcRatingFromAc,
    { Vac: acRating(volts, school.of === 'rating' ? 'AC rating' : 'AC test voltage'), k },
    `DC voltage by ${school.title}`,
  );
}
