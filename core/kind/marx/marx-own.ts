import {
  chargeFormulas,
  gapFormulas,
  inductanceFormulas,
  ruled,
  storeFormulas,
  strayFormulas,
  transferFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { guessedSpacing } from '../../block/arc.ts';
import { Unavailable, type Own, type RigContext } from '../../block/context.ts';
import { isTyped } from '../../block/known.ts';
import type { FigureId } from '../../block/names.ts';
import { hardlyBelow, inThisShot } from '../gap/gap.ts';
import { readStages } from './marx-fields.ts';
import type { marxFields } from './marx-fields.ts';

/** What a Marx generator is, out of its fields. */

const sides = ruled('sides', 2, '1', 'a resistor on the live side and one on the earth side');
const single = ruled('one', 1, '1', 'a tower has one column');

export const isTwo = (own: Own<typeof marxFields>): boolean => own.is('towers', 'two');

/** What comes out at the top: to earth, or from top to top where there are two towers. */
export const outputOf = (own: Own<typeof marxFields>): FigureId => (isTwo(own) ? 'marx-top-to-top' : 'marx-output-voltage');

/** Capacitances of the stages where each was measured, F; empty where not. */
export function measuredStages(own: Own<typeof marxFields>): readonly number[] {
  const read = readStages(own.lines('Cm'));
  return read.ok ? read.values : [];
}

/** Whether every stage has a measured capacitance. */
const isMeasured = (own: Own<typeof marxFields>): boolean => measuredStages(own).length === own.quantity('n').value;

/** Capacitance of a stage: the mean of those that were measured, else as entered. */
export function stageCapacitance(own: Own<typeof marxFields>): Worked {
  const C = own.quantity('C');
  if (!isMeasured(own)) return C;
  const all = measuredStages(own);
  const mean = all.reduce((a, b) => a + b, 0) / all.length;
  return ruled('capacitance of a stage', mean, 'F', `mean of ${all.length} measured stages`);
}

/** Capacitance of each stage from the supply upwards, F. */
export function eachStage(own: Own<typeof marxFields>): readonly number[] {
  if (isMeasured(own)) return measuredStages(own);
  return new Array<number>(own.quantity('n').value).fill(own.quantity('C').value);
}

/** The ladder through which the stages are charged. */
export const ladderOf = (own: Own<typeof marxFields>) => ({
  n: own.quantity('n'),
  R: work(storeFormulas.seriesResistance, { R: own.quantity('Rc'), n: sides }, 'charging resistance of a stage, both sides'),
  C: stageCapacitance(own),
});

/** Density that the gaps behind the first stand in. */
const columnPressure = (own: Own<typeof marxFields>): Worked =>
  work(gapFormulas.absolutePressure, {
    pg: own.quantity('pg'),
    pa: own.air().pressure,
  });

/** Self-break of the later gaps, V. */
export function selfBreakBehind(own: Own<typeof marxFields>): Worked {
  const Vg = own.optional('Vg');
  if (Vg) return Vg;
  const [d, D] = [own.optional('dg'), own.optional('Dg')];
  if (!d || !D)
    throw new Unavailable(
      'store',
      'the later gaps are not given: enter their self-break, or their spacing and the sphere diameter',
      'Vg',
    );
  const { temperature } = own.air();
  return work(gapFormulas.sphereGapBreakdown, { d, D, p: columnPressure(own), T: temperature }, 'self-break, later gaps');
}

/** The gaps behind the first, of all towers: the weakest of them breaks down first. */
const gapsBehind = (own: Own<typeof marxFields>) => ({
  what: 'breakdown of the weakest later gap',
  of: (own.quantity('n').value - 1) * (isTwo(own) ? 2 : 1),
});

/** Where the weakest of the later gaps breaks down in the shot that is read, V: the mean of all where no one shot is meant. */
export const breaksBehind = (own: Own<typeof marxFields>): Worked => inThisShot(own, selfBreakBehind(own), gapsBehind(own));

/** See {@link hardlyBelow}. */
export const hardlyBelowBehind = (own: Own<typeof marxFields>, Vb: Worked): Worked => hardlyBelow(own, Vb, gapsBehind(own));

/** Stray capacitance of a stage to earth; null where it is neither entered nor can be estimated. */
export function stageStray(own: Own<typeof marxFields>): Worked | null {
  const [Cs, h, w] = [own.optional('Cs'), own.optional('hs'), own.optional('ws')];
  // A size that somebody typed says more than a stray capacitance that nobody did.
  if (Cs && (isTyped(Cs) || !h || !w)) return Cs;
  return h && w ? work(strayFormulas.columnStray, { h, w, n: own.quantity('n') }, 'stray capacitance of a stage') : null;
}

/** Spacing of the gaps behind the first, m: as entered, else guessed from what they hold. */
export const gapSpacing = (own: Own<typeof marxFields>): number =>
  own.optional('dg')?.value ?? guessedSpacing(selfBreakBehind(own).value);

/** Stray capacitance across a gap; null where it is neither entered nor can be worked out. */
export function gapStray(own: Own<typeof marxFields>): Worked | null {
  const Cg = own.optional('Cg');
  if (Cg) return Cg;
  const [d, D] = [own.optional('dg'), own.optional('Dg')];
  return d && D ? work(strayFormulas.sphereGapCapacitance, { d, D }, 'stray capacitance across a gap') : null;
}

/** Node behind the last gap: the output itself, or the near end of its lead. */
export const lastNode = (own: Own<typeof marxFields>, out: string): string => (own.optional('Lo') ? `${out}L` : out);

/** What one tower has to charge at its top: its terminal, and a load that is a capacitor. */
export function topCapacitance(rig: RigContext): Worked | null {
  const own = rig.own('store');
  const C1 = own.optional('CL');
  const load = rig.offers('load').loadCapacitance;
  // Of a load between two tops each tower charges its half, of twice the capacitance.
  const C2 =
    load &&
    rig
      .inSeries()
      .map(() => load)
      .reduce((a, b) => work(transferFormulas.parallelOfTwoCapacitances, { C1: a, C2: b }, 'load, as one tower sees it'));
  return C1 && C2
    ? work(transferFormulas.parallelOfTwoCapacitances, { C1, C2 }, 'capacitance of load and terminal')
    : (C1 ?? C2 ?? null);
}

/** Resistance of the first stage in the discharge, without its gap: ESR and front resistor. */
export function firstResistance(own: Own<typeof marxFields>): Worked {
  const Rf = own.optional('Rf');
  const ESR = own.quantity('ESR');
  return Rf ? work(chargeFormulas.seriesSum, { R1: ESR, R2: Rf }, 'ESR and front resistor of a stage') : ESR;
}

/** Resistance of a stage with its gap. */
const stageResistance = (own: Own<typeof marxFields>): Worked =>
  work(chargeFormulas.seriesSum, { R1: firstResistance(own), R2: own.quantity('Ra') }, 'resistance of a stage');

/** What one tower offers to the loop of the discharge: its stages, without the first gap. */
export function loopOf(own: Own<typeof marxFields>): { readonly R: Worked; readonly L: Worked } {
  const n = own.quantity('n');
  const behind = n.value - 1;
  const first = firstResistance(own);
  const Lo = own.optional('Lo');
  const L = work(storeFormulas.bankInductance, { L: own.quantity('L'), ns: n, np: single }, 'inductance of the stages');
  const all = Lo ? work(inductanceFormulas.inductanceSum, { L1: L, L2: Lo }, 'inductance of stages and output lead') : L;
  if (behind === 0) return { R: first, L: all };
  const gaps = ruled('later gaps', behind, '1', 'one a stage, the first is the switch');
  const others = work(storeFormulas.bankResistance, { R: stageResistance(own), ns: gaps, np: single }, 'stages after the first');
  return {
    R: work(chargeFormulas.seriesSum, { R1: first, R2: others }, 'stages in series'),
    L: all,
  };
}
