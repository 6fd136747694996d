import { ifKnown, isChannelSlot, slots, Unavailable, type FigureId, type Problem } from '../block/index.ts';
import { FormulaError, type Worked } from '../formula/index.ts';
import {
  checkFigure,
  Corners,
  definitionIn,
  figureSpecs,
  figuresOf,
  missingFigures,
  reasonOf,
  type Figure,
  type RigReading,
} from '../figure/index.ts';
import { hazardOf, type Hazard } from '../hazard/index.ts';
import { joinedLadder, ladderOf, type Ladder } from '../limit/index.ts';
import { channelOf, channelTitle, inChannel, type Rig } from '../rig/index.ts';

/** A figure that could be worked out. */
type FigureKnown = Extract<Figure, { readonly ok: true }>;

/** All that is calculated about a rig. */
export interface Evaluation {
  readonly rig: Rig;
  readonly figures: readonly Figure[];
  readonly ladder: Ladder;
  readonly problems: readonly Problem[];
  /** Null where energy, voltage or charge cannot be had; a problem then says why. */
  readonly hazard: Hazard | null;
  /** What blocks can do to a person beside what the store does: figures, and what they are in words. */
  readonly beside: readonly { readonly figure: FigureKnown; readonly says: string }[];
  readonly corners: Corners;
}

/** What cannot be worked out, each reason once: with the first figure that it takes away, and how many more. */
function problemsOfFigures(corners: Corners, figures: readonly Figure[]): Problem[] {
  const found = new Map<string, Problem>();
  const lost = new Map<string, { readonly problem: Problem; readonly title: string; readonly reason: string; more: number }>();
  for (const figure of figures) {
    if (figure.ok || figureSpecs(corners.rig).get(figure.id)?.mayBeMissing) continue;
    try {
      corners.nominal().figure(figure.id);
    } catch (error) {
      const field = error instanceof Unavailable && error.field ? { field: error.field } : {};
      const slot = error instanceof Unavailable ? error.slot : figure.slot;
      const problem: Problem = { severity: 'error', slot, ...field, text: figure.reason };
      if (!(error instanceof FormulaError)) {
        const key = `${slot}.${figure.reason}`;
        if (!found.has(key)) found.set(key, problem);
        continue;
      }
      const known = lost.get(figure.reason);
      if (known) known.more += 1;
      else lost.set(figure.reason, { problem, title: figure.title, reason: figure.reason, more: 0 });
    }
  }
  const worded = [...lost.values()].map(({ problem, title, reason, more }): Problem => {
    const others = more === 0 ? '' : `, nor ${more} other ${more === 1 ? 'figure' : 'figures'}`;
    return { ...problem, text: `${title} cannot be calculated${others}. ${reason}` };
  });
  return [...found.values(), ...worded];
}

function problemsOfBlocks(corners: Corners): Problem[] {
  const reading = corners.nominal();
  return slots.flatMap((slot) => {
    try {
      return [...(definitionIn(corners.rig, slot).problems?.(reading.ownOf(slot), reading) ?? [])];
    } catch (error) {
      // What a block cannot tell because a number is missing is already a problem of that number.
      if (reasonOf(error)) return [];
      throw error;
    }
  });
}

/** A block's own word on a field stands for the bare formula error about the same thing. */
function suppressDerivedProblems(own: readonly Problem[], derived: readonly Problem[]): Problem[] {
  const chargeExplained = own.some((p) => p.slot === 'store' && p.field === 'V0' && p.severity === 'error');
  return [...own, ...derived.filter((p) => !(chargeExplained && (p.slot === 'charging' || p.slot === 'supply')))];
}

const severityOrder = (a: Problem, b: Problem) => Number(a.severity === 'warning') - Number(b.severity === 'warning');

/** Charge beside the store, at its worst corner: J, C, V. A capacitor of energy E at V has a charge of 2E/V. */
function besideStore(corners: Corners): { energy: number; charge: number; voltage: number } {
  const beside = { energy: 0, charge: 0, voltage: 0 };
  for (const slot of slots) {
    const { held } = definitionIn(corners.rig, slot);
    const all = (reading: RigReading) => held?.(reading.ownOf(slot), reading) ?? [];
    (ifKnown(() => all(corners.nominal())) ?? []).forEach(({ E, V }, i) => {
      if (!E) return;
      const energy = corners.bandOf((reading) => all(reading)[i]?.E ?? E).high;
      beside.energy += energy;
      beside.charge += (2 * energy) / V.value;
      beside.voltage = Math.max(beside.voltage, corners.bandOf((reading) => all(reading)[i]?.V ?? V).high);
    });
  }
  return beside;
}

function besideFigures(rig: Rig, figures: readonly Figure[]): Evaluation['beside'] {
  return slots.flatMap((slot) =>
    (definitionIn(rig, slot).warns ?? []).flatMap(({ figure: id, says }) => {
      const figure = figures.find((f) => f.id === id);
      return figure?.ok ? [{ figure, says }] : [];
    }),
  );
}

/** What stands beside the store and has more energy than it: that is what is spoken of first. */
export function leadsHazard(evaluation: Pick<Evaluation, 'beside' | 'figures'>): Evaluation['beside'][number] | null {
  const store = evaluation.figures.find((f) => f.id === 'stored-energy');
  const energies = evaluation.beside.filter(({ figure }) => figure.worked.unit === 'J');
  const [most] = [...energies].sort((a, b) => b.figure.band.high - a.figure.band.high);
  return most && store?.ok && most.figure.band.high > store.band.high ? most : null;
}

function hazardOfFigures(figures: readonly Figure[], corners: Corners): Hazard | null {
  const worst = (id: FigureId) => {
    const figure = figures.find((f) => f.id === id);
    return figure?.ok ? figure.band.high : null;
  };
  const energy = worst('stored-energy');
  const own = worst('stored-charge');
  if (energy === null || own === null) return null;
  const beside = besideStore(corners);
  // Of several stores a person meets the worst.
  const channels = corners.rig.channels.map((_, k) => k);
  const most = (of: (channel: RigReading) => Worked) =>
    Math.max(...channels.map((k) => corners.bandOf((reading) => of(reading.channels()[k] ?? reading)).high));
  const voltage = most((channel) => channel.offer('chargedTo'));
  const charge = channels.length > 1 ? most((channel) => channel.figure('stored-charge')) : own;
  return hazardOf({
    energy: energy + beside.energy,
    charge: charge + beside.charge,
    voltage: Math.max(voltage, beside.voltage),
  });
}

const problemsOf = (corners: Corners, figures: readonly Figure[]): Problem[] =>
  suppressDerivedProblems(problemsOfBlocks(corners), problemsOfFigures(corners, figures));

/** What is wrong in a rig as it is seen: no figure of it can be had. Without the corners it costs a tenth of an evaluation. */
export function errorsOf(rig: Rig): Problem[] {
  const corners = new Corners(rig);
  return problemsOf(corners, missingFigures(corners)).filter(({ severity }) => severity === 'error');
}

/** What the channels that a rig is not seen from have against it. */
const othersOf = (rig: Rig): { channel: number; ladder: Ladder; problems: Problem[] }[] =>
  rig.channels.flatMap((_, channel) => {
    if (channel === channelOf(rig)) return [];
    const corners = new Corners(inChannel(rig, channel));
    const problems = problemsOf(corners, missingFigures(corners));
    return [{ channel, ladder: ladderOf(corners), problems }];
  });

/** The limits of a whole rig, all its channels, without what would relieve them: for whoever asks a rig many times. */
export function limitsOf(corners: Corners): Ladder {
  const { rig } = corners;
  const others = rig.channels.flatMap((_, channel) =>
    channel === channelOf(rig) ? [] : [[channel, ladderOf(new Corners(inChannel(rig, channel)), false)] as const],
  );
  return joinedLadder(rig, ladderOf(corners, false), others);
}

/**
 * Works a rig out: figures with their bands, limits tightest first, hazard class, and what is inconsistent and why.
 *
 * @returns an answer for every rig that its schema lets through; what cannot be calculated says why, and nothing is NaN
 */
export function evaluateRig(rig: Rig): Evaluation {
  const corners = new Corners(rig);
  const figures = figuresOf(corners);
  const others = rig.channels.length > 1 ? othersOf(rig) : [];
  const own = problemsOf(corners, figures);
  // Of supply and charging path the same thing is said once.
  const more = others.flatMap(({ channel, problems: found }) =>
    found
      .filter(({ slot, text }) => isChannelSlot(slot) || !own.some((known) => known.text === text))
      .map((p) => ({ ...p, channel, text: `${channelTitle(rig, channel)}: ${p.text}` })),
  );
  const problems = [...own, ...more].sort(severityOrder);
  const [hazard, beside] = [hazardOfFigures(figures, corners), besideFigures(rig, figures)];
  const ladder = joinedLadder(
    rig,
    ladderOf(corners),
    others.map(({ channel, ladder: of }) => [channel, of] as const),
  );
  return { rig, figures, ladder, problems, hazard, beside, corners };
}

/** A figure of an evaluation that could be worked out. */
export function figureIn(evaluation: Evaluation, id: FigureId): Extract<Figure, { ok: true }> | null {
  const figure = evaluation.figures.find((f) => f.id === id);
  if (!figure) checkFigure(id);
  return figure?.ok ? figure : null;
}
