import { gapFormulas, marxFormulas, ruled, work, type Worked } from '../formula/index.ts';
import type { RigContext } from './context.ts';
import { standardAir } from './standard-air.ts';

/**
 * How far a spark jumps: one law for its length, for what a distance needs and for whether it jumps. A voltage that stands, or a pulse of
 * many microseconds, breaks down what a needle gap or a rod against a plane does. The short pulse of a small generator needs more for the
 * same distance: 10 to 20 kV/cm, likely 13. Its least is that of the longer pulse.
 */
export interface SparkVoltage {
  /** V that bridge the distance at the least, likely, and in any case. */
  readonly least: Worked;
  readonly likely: Worked;
  readonly most: Worked;
}

export type SparkVerdict = 'reaches' | 'may reach' | 'does not reach';
export type SparkShape = 'plane' | 'points';

/** Common practice, no source: ten stages of 20 kV throw 11 to 15 cm. */
const likelyGradient = ruled(
  'voltage a length, likely',
  1.3e6,
  'V/m',
  'common practice, no source: 10 to 20 kV/cm of a short pulse',
);
const mostGradient = ruled(
  'voltage a length, at most',
  2e6,
  'V/m',
  'common practice, no source: 10 to 20 kV/cm of a short pulse',
);
/** The laws of needles and rods are good to so much. */
const band = 0.2;
const lower = ruled('lower end of its band', 1 - band, '1', 'needles and rods scatter by 15 to 20 %');
const upper = ruled('upper end of its band', 1 + band, '1', 'needles and rods scatter by 15 to 20 %');

/** Metres of standard air to which the table of needles goes; farther apart the ends hardly matter, and the standard of rods holds. */
const needlesTo = 0.381;

const slow = (shape: SparkShape, d: Worked, delta: Worked): Worked =>
  shape === 'points'
    ? work(
        d.value * delta.value > needlesTo ? gapFormulas.rodGapBreakdown : gapFormulas.needleGapBreakdown,
        { d, delta },
        'voltage that bridges the distance',
      )
    : work(gapFormulas.rodPlaneBreakdown, { d, delta }, 'voltage that bridges the distance');

/** Whether the output is the short pulse of a generator: of stages that erect. */
export const isShortPulse = (rig: RigContext): boolean => rig.offers('store').ladder !== undefined;

/** What bridges a distance in air of a relative density, V. @throws FormulaError where no law holds for it */
export function sparkVoltage(d: Worked, shape: SparkShape, shortPulse: boolean, density: Worked): SparkVoltage {
  const V = slow(shape, d, density);
  const least = work(gapFormulas.timesShare, { V, k: lower }, 'least voltage that may bridge it');
  const standing = work(gapFormulas.timesShare, { V, k: upper }, 'voltage that bridges it in any case');
  if (!shortPulse) return { least, likely: V, most: standing };
  const needs = (g: Worked) => {
    const V20 = work(marxFormulas.sparkNeeds, { l: d, g });
    return density === standardAir.density ? V20 : work(gapFormulas.timesShare, { V: V20, k: density }, 'in the air of the day');
  };
  const higher = (a: Worked, b: Worked) => (a.value >= b.value ? a : b);
  return { least, likely: higher(needs(likelyGradient), V), most: higher(needs(mostGradient), standing) };
}

export const sparkVerdict = (V: number, { least, most }: SparkVoltage): SparkVerdict =>
  V >= most.value ? 'reaches' : V >= least.value ? 'may reach' : 'does not reach';

/** How long the spark of a short pulse is likely to be, m. */
export const likelySpark = (V: Worked): Worked => work(marxFormulas.sparkLength, { V, g: likelyGradient }, 'likely spark length');

const margin = ruled('margin on top', 1.5, '1', 'common practice, no source');

/** What must be clear around an output, m: how far it may reach at the least voltage that any law asks for, half as far again. */
export const sparkClearance = (V: Worked): Worked =>
  work(
    gapFormulas.sparkClearance,
    { V, b: ruled('band of the law', band, '1', 'rods scatter by 20 %'), m: margin },
    'minimum clearance',
  );
