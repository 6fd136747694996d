import { Unavailable, type Asked, type Wishes } from '../../block/index.ts';
import { evaluateRig, figureIn, readWishes, type Evaluation, type OutOfReach, type Typed } from '../../evaluation/index.ts';
import { quantity, within } from '../../field/index.ts';
import { FormulaError, ProgramError } from '../../formula/index.ts';
import type { Kept } from '../../part/index.ts';
import { printPercent, printQuantity, type UnitId } from '../../quantity/index.ts';
import { blockIn, type Rig } from '../../rig/index.ts';
import { billOf, type BillLine } from './bill.ts';
import { rangeOver, type Range } from './corners.ts';
import { hasRoom, valueIn, withRatings } from './fit.ts';
import type { Merits } from './front.ts';
import type { AtHand, DesignGoal, Draft, Measure } from './goal.ts';
import { designGoal } from './goals/index.ts';
import { switchTitle } from './rigs.ts';
import { capacitorClass } from './stock.ts';

/** What a design may not go beyond. Each may be left empty but the margin. */
export const designBounds = {
  energy: quantity('Stored energy, at most', 'J', within(0.1, 1e6), null),
  current: quantity('Peak current, at most', 'A', within(1, 1e6), null),
  outletV: quantity('Outlet voltage', 'V', within(1, 1000), null),
  outletI: quantity('Outlet current', 'A', within(0.1, 200), null),
  budget: quantity('Budget', '1', within(0, 1e6), null),
  margin: quantity('Margin to every rating', '1', within(0, 2), '10 %'),
} as const satisfies Readonly<Record<string, Asked>>;

/** What is wanted, as it was typed. */
export interface DesignQuestion {
  readonly goal: string;
  readonly typed: Typed;
  readonly bounds: Typed;
  /** Parts that may be used; empty where the shelf is left out. */
  readonly shelf: readonly Kept[];
  /** Whether the goal has to hold over the tolerances as well, as the bounds do; nominally alone if left out. */
  readonly atWorst?: boolean;
}

/** The same read: SI. */
export interface ReadQuestion {
  readonly goal: DesignGoal;
  readonly wishes: Wishes;
  readonly bounds: Readonly<Record<keyof typeof designBounds, number>>;
  readonly at: AtHand;
  readonly atWorst: boolean;
}

export type ReadDesign =
  | { readonly ok: true; readonly question: ReadQuestion }
  /** What cannot be had, by the id of a wish or of a bound. */
  | { readonly ok: false; readonly issues: readonly OutOfReach[] };

/** @throws ProgramError for a goal that there is not */
export function readDesign({ goal: id, typed, bounds, shelf, atWorst = false }: DesignQuestion): ReadDesign {
  const goal = designGoal(id);
  if (!goal) throw new ProgramError(`there is no goal “${id}”`);
  const [wished, bounded] = [readWishes(goal, typed), readWishes({ asks: designBounds }, bounds)];
  const issues = [...wished.issues, ...bounded.issues];
  if (issues.length > 0) return { ok: false, issues };
  const of = Object.fromEntries(Object.entries(bounded.wishes).map(([name, value]) => [name, Number(value)]));
  const limits = of as ReadQuestion['bounds'];
  if (Number.isFinite(limits.outletV) !== Number.isFinite(limits.outletI)) {
    const asked = Number.isFinite(limits.outletV) ? 'outletI' : 'outletV';
    return {
      ok: false,
      issues: [{ asked, reason: 'An outlet is its voltage and its current: enter both, or neither.', nearest: null }],
    };
  }
  const at = { shelf, margin: limits.margin };
  const lack = goal.lacks?.(wished.wishes, at);
  if (lack) return { ok: false, issues: [{ ...lack, nearest: null }] };
  return { ok: true, question: { goal, wishes: wished.wishes, bounds: limits, at, atWorst } };
}

/** Everything that is tried for a question. */
export const draftsOf = ({ goal, wishes, at }: ReadQuestion): readonly Draft[] => goal.drafts(wishes, at);

/**
 * A number that was wanted: what it comes to nominally, and from what to what over all tolerances where the page of the rig has that, or
 * where the goal has to hold over them. SI.
 */
export interface Reached {
  readonly title: string;
  readonly unit: UnitId;
  readonly value: number;
  readonly band: Range | null;
}

/** A rig that meets what is wanted. */
export interface Designed {
  readonly ok: true;
  readonly title: string;
  readonly rig: Rig;
  readonly bill: readonly BillLine[];
  readonly merits: Merits;
  readonly reached: readonly Reached[];
  /** V that the store is charged to, of a Marx each stage; J and A at the worst corner. */
  readonly voltage: number;
  readonly mostEnergy: number;
  readonly peakCurrent: number;
  readonly tightest: { readonly title: string; readonly use: number };
}

/** A draft that does not, and by what. */
export interface Fallen {
  readonly ok: false;
  readonly title: string;
  /** A limit, a bound or a wish: what several fell by is counted together. */
  readonly by: string;
  readonly reason: string;
}

export type Outcome = Designed | Fallen;

/** A supply takes this much more than it gives. Common practice, no source. */
const supplyTakes = 1.25;

/** What a draft is called among others. */
function draftTitle({ bank, more }: Draft): string {
  const what = bank.from === 'shelf' ? `${bank.ns}s × ${bank.np}p of ${bank.title}` : capacitorClass(bank.class).title;
  const switched = switchTitle[String(more['switch'])];
  const { n, N } = more;
  return [
    what,
    ...(n === undefined ? [] : [`${n} ${Number(n) === 1 ? 'stage' : 'stages'}`]),
    ...(N === undefined ? [] : [`coil of ${N} turns`]),
    ...(switched === undefined ? [] : [switched]),
    ...(more['clamp'] === 'diode' ? ['diode across the coil'] : []),
  ].join(', ');
}

/** What a number of a rig is, or that it has none. */
function measured(of: () => number): number {
  try {
    return of();
  } catch (error) {
    if (error instanceof Unavailable || error instanceof FormulaError) return NaN;
    throw error;
  }
}

/** Of numbers that were set to be what is wanted. */
const slack = 1 - 1e-6;

/** Attempts at a rig whose goal holds over the tolerances: each is aimed by how far the one before went. */
const mostAims = 4;
/** What a goal that holds over the tolerances may be met by without another try at less. */
const nearEnough = 1.08;

/** How far each number that was wanted goes at its worst corner, as a share of what was wanted; NaN where it has none there. */
const sharesAtWorst = ({ goal, wishes }: ReadQuestion, { reached }: Designed) =>
  goal
    .measures(wishes)
    .map(({ wish, least }, k) => ({ wish, reached: reached[k], share: (reached[k]?.band?.low ?? NaN) / least }));

/** What a draft comes to: a whole rig with nothing left unjudged, or what it falls by. */
export function tryDraft(question: ReadQuestion, draft: Draft): Outcome {
  if (!question.atWorst) return tryAim(question, question.wishes, draft);
  // What was aimed at and fell short, and what did not: between them lies the least that is enough.
  let below: Wishes | null = null;
  let above: { readonly aim: Wishes; readonly outcome: Designed } | null = null;
  let aim = question.wishes;
  let outcome: Outcome = tryAim(question, aim, draft);
  for (let round = 1; outcome.ok; round++) {
    const shares = sharesAtWorst(question, outcome);
    const short = shares.find(({ share }) => !(share >= slack));
    if (!short) above = { aim, outcome };
    else if (above === null && (round === mostAims || !shares.every(({ share }) => share > 0.2)))
      return fellShort(outcome.title, short.reached, short.share);
    else below = aim;
    const isNear = !short && shares.every(({ share }) => share < nearEnough);
    if (above && (round === mostAims || isNear || below === null)) return above.outcome;
    aim = above && below ? halfway(below, above.aim) : raised(aim, shares);
    outcome = tryAim(question, aim, draft);
  }
  return above?.outcome ?? outcome;
}

/** Wishes raised by what is missing, and a little more, as a number does not rise in proportion. */
const raised = (aim: Wishes, shares: ReturnType<typeof sharesAtWorst>): Wishes => ({
  ...aim,
  ...Object.fromEntries(
    shares.filter(({ share }) => share < slack).map(({ wish, share }) => [wish, (Number(aim[wish]) * 1.005) / share]),
  ),
});

const halfway = (below: Wishes, above: Wishes): Wishes =>
  Object.fromEntries(
    Object.entries(above).map(([id, high]) => {
      const low = Number(below[id]);
      return [id, low > 0 && low < Number(high) ? Math.sqrt(low * Number(high)) : high];
    }),
  );

const fellShort = (title: string, reached: Reached | undefined, share: number): Fallen => ({
  ok: false,
  title,
  by: `${reached?.title ?? 'the goal'}, worst case`,
  reason:
    reached?.band && Number.isFinite(share)
      ? `it comes to ${printQuantity(reached.band.low, reached.unit)} at the worst corner`
      : 'it has no number at some corner',
});

/** A number that was wanted, of a rig that has it nominally. */
function reachedBy(measure: Measure & { readonly value: number }, evaluation: Evaluation, atWorst: boolean): Reached {
  const { title, unit, value, figure, of, model } = measure;
  const { rig } = evaluation;
  const range = (): Range | null => {
    if (figure !== undefined) {
      const band = figureIn(evaluation, figure)?.band;
      return band ? { low: band.low, high: band.high } : null;
    }
    if (!atWorst) return null;
    return rangeOver(rig, (one) => {
      if (model) return model(one);
      const at = measured(() => of(one));
      return { low: at, high: at };
    });
  };
  return { title, unit, value, band: range() };
}

/** The same, of a rig that is made for these wishes and has to come to those of the question. */
function tryAim({ goal, wishes, bounds, at, atWorst }: ReadQuestion, aim: Wishes, draft: Draft): Outcome {
  const title = draftTitle(draft);
  const falls = (by: string, reason: string): Fallen => ({ ok: false, title, by, reason });
  const made = goal.make(aim, draft, at);
  if (!made.ok) return falls('the goal', made.reason);
  const rated = withRatings(made.rig, draft.bank, at.shelf, at.margin);
  if (!rated.ok) return falls(rated.by, rated.reason);
  const { rig, bought } = rated;
  const evaluation = evaluateRig(rig);
  const [error] = evaluation.problems.filter(({ severity }) => severity === 'error');
  if (error) return falls('a fault of the rig', error.text);
  const { limits, blind } = evaluation.ladder;
  const unjudged = limits.find(({ worst }) => worst === null) ?? blind[0];
  if (unjudged) return falls(unjudged.title, 'it cannot be judged');
  const [tightest] = limits;
  if (!tightest || tightest.worst === null) return falls('its limits', 'it has none that can be judged');
  const tight = limits.find((limit) => !hasRoom(limit, at.margin));
  if (tight) return falls(tight.title, `at ${printPercent(tight.worst ?? NaN, 3)} of its rating at the worst corner`);
  const reached = goal.measures(wishes).map((measure) => ({ ...measure, value: measured(() => measure.of(rig)) }));
  const short = reached.find(({ value, least }) => !(value >= least * slack));
  if (short)
    return falls(short.title, `it comes to ${Number.isFinite(short.value) ? printQuantity(short.value, short.unit) : 'nothing'}`);
  const high = (id: Parameters<typeof figureIn>[1]) => figureIn(evaluation, id)?.band.high ?? NaN;
  const nominal = (id: Parameters<typeof figureIn>[1]) => figureIn(evaluation, id)?.worked.value ?? NaN;
  const power = high('charging-voltage') * high('charging-current') * supplyTakes;
  const bill = billOf(rig, draft.bank, bought, at.shelf);
  const sum = (of: (line: BillLine) => number) => bill.reduce((total, line) => total + of(line), 0);
  const cost = Number(sum(({ price }) => price).toPrecision(3));
  const over = (
    [
      ['energy', high('stored-energy'), bounds.energy, 'J'],
      ['current', high('peak-current'), bounds.current, 'A'],
      ['outletI', power / bounds.outletV, bounds.outletI, 'A'],
      ['budget', cost, bounds.budget, '1'],
    ] as const
  ).find(([, value, most]) => Number.isFinite(most) && !(value <= most));
  if (over) {
    const [bound, value, , unit] = over;
    return falls(
      designBounds[bound].title,
      `it comes to ${unit === '1' ? String(value) : printQuantity(value, unit)}${unit === '1' ? '' : ' at the worst corner'}`,
    );
  }
  return {
    ok: true,
    title,
    rig,
    bill,
    merits: {
      cost,
      energy: nominal('stored-energy'),
      margin: 1 / tightest.worst - 1,
      mass: Number(sum(({ mass }) => mass).toPrecision(3)),
    },
    reached: reached.map((measure) => reachedBy(measure, evaluation, atWorst)),
    voltage: valueIn(blockIn(rig, 'store'), 'V0'),
    mostEnergy: high('stored-energy'),
    peakCurrent: high('peak-current'),
    tightest: { title: tightest.title, use: tightest.worst },
  };
}

/** What drafts fell by, the commonest first, each with one of them. */
export function fallenBy(outcomes: readonly Outcome[]): { readonly by: string; readonly count: number; readonly such: Fallen }[] {
  const all = new Map<string, Fallen[]>();
  for (const one of outcomes) if (!one.ok) all.set(one.by, [...(all.get(one.by) ?? []), one]);
  return [...all]
    .flatMap(([by, list]) => (list[0] ? [{ by, count: list.length, such: list[0] }] : []))
    .sort((a, b) => b.count - a.count);
}
