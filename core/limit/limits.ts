import { isChannelSlot, slots, type LimitSpec, type Slot } from '../block/index.ts';
import { givens, modelSpread, type Worked } from '../formula/index.ts';
import type { Corners } from '../figure/index.ts';
import { definitionIn, reasonOf, type Band } from '../figure/index.ts';
import { channelTitle, midSentence, numberedSpot, spotAt, type Rig } from '../rig/index.ts';
import { reliefOf, type Relief } from './relief.ts';

/** A stress against its rating. `utilisation` is a fraction of the rating; null where the rating is not known. */
export interface Limit {
  readonly id: string;
  readonly title: string;
  readonly slot: Slot;
  /** The channel it belongs to, from 0, where that is not the one the rig is seen from. */
  readonly channel?: number;
  readonly stress: Worked;
  /** Range of the stress over the tolerances. */
  readonly band: Band;
  readonly rating: Worked | null;
  readonly utilisation: number | null;
  /** At the worst corner, with the error of the formulas: what the ladder is sorted by and what decides whether it is over. */
  readonly worst: number | null;
  readonly note?: string;
  /** Nobody runs the rig without its rating, unless it is waived by name. */
  readonly protects: boolean;
  /** For a limit that is over at its worst corner: single changes that bring it to its rating. */
  readonly relief: readonly Relief[];
}

/** A limit that cannot be worked out, with the reason. */
export interface BlindLimit {
  readonly id: string;
  readonly title: string;
  readonly slot: Slot;
  readonly channel?: number;
  readonly protects: boolean;
  readonly reason: string;
}

export interface Ladder {
  /** Tightest first; those without a rating after all others. */
  readonly limits: readonly Limit[];
  readonly blind: readonly BlindLimit[];
}

export const limitSpecs = (rig: Rig): LimitSpec[] => slots.flatMap((slot) => definitionIn(rig, slot).limits ?? []);

function limitOf(corners: Corners, spec: LimitSpec, seeksRelief: boolean): Limit | BlindLimit {
  const { id, title, slot, note } = spec;
  const protects = spec.protects === true;
  try {
    const nominal = corners.nominal();
    const stress = spec.stress(nominal);
    const rating = spec.rating(nominal);
    const band = corners.bandOf((reading) => spec.stress(reading));
    const head = { id, title, slot, stress, band, rating, protects, ...(note === undefined ? {} : { note }) };
    if (!rating) return { ...head, utilisation: null, worst: null, relief: [] };
    const leaves = [...givens(rating, givens(stress)).values()];
    const ratio = corners.band((reading) => ratioAt(spec, reading), leaves);
    const unsure = modelFactor(stress, rating);
    const worst = ratio.high * unsure;
    return {
      ...head,
      utilisation: stress.value / rating.value,
      worst,
      // Where it has no value at its worst corner nothing can be sought that brings it to its rating.
      relief: seeksRelief && worst > 1 && Number.isFinite(worst) ? reliefOf(corners.rig, spec, ratio.highAt, unsure) : [],
    };
  } catch (error) {
    const known = reasonOf(error);
    if (!known) throw error;
    return { id, title, slot, protects, reason: known.reason };
  }
}

/** By how much a utilisation may be greater because formulas behind stress and rating are only so good: independent errors together. */
function modelFactor(stress: Worked, rating: Worked): number {
  const up = stress.value > 0 ? modelSpread(stress).up / stress.value : 0;
  const down = rating.value > 0 ? Math.min(0.9, modelSpread(rating).down / rating.value) : 0;
  return 1 + Math.hypot(up, 1 / (1 - down) - 1);
}

/** Stress over rating of one reading; null ratings never reach here. */
function ratioAt(spec: LimitSpec, reading: ReturnType<Corners['nominal']>): number {
  const rating = spec.rating(reading);
  return rating ? spec.stress(reading).value / rating.value : 0;
}

const order = (a: Limit, b: Limit) => (b.worst ?? -1) - (a.worst ?? -1);

/**
 * All limits of the rig that `corners` reads.
 *
 * @param seeksRelief false where nobody reads what would relieve one: seeking it takes most of the time
 */
export function ladderOf(corners: Corners, seeksRelief = true): Ladder {
  const all = limitSpecs(corners.rig).flatMap((spec) => {
    const limit = limitOf(corners, spec, seeksRelief);
    return spec.onlyIfKnown && !('rating' in limit && limit.rating) ? [] : [limit];
  });
  return {
    limits: all.filter((l): l is Limit => 'stress' in l).sort(order),
    blind: all.filter((l): l is BlindLimit => !('stress' in l)),
  };
}

/** Limits of another channel, as they stand among those of the one the rig is seen from: each says which it is of. */
const ofChannel = (rig: Rig, channel: number) => {
  const path = (own: string): string => {
    const [spot = '', id = ''] = own.split('.');
    return `${numberedSpot(spotAt(spot).slot, channel)}.${id}`;
  };
  const named = <L extends Limit | BlindLimit>(limit: L): L => ({
    ...limit,
    id: `${limit.id}-of-${channel + 1}`,
    title: `${channelTitle(rig, channel)}: ${midSentence(limit.title)}`,
    channel,
  });
  return {
    limits: (list: readonly Limit[]) =>
      list.map((limit) => ({ ...named(limit), relief: limit.relief.map((relief) => ({ ...relief, path: path(relief.path) })) })),
    blind: (list: readonly BlindLimit[]) => list.map(named),
  };
};

/** Beyond what sums differ by in their last digits; two without a rating say the same. */
const isTighter = ({ worst }: Limit, known: Limit): boolean =>
  worst !== null && (known.worst === null || worst > known.worst * (1 + 1e-9));

/** The ladder of the channel a rig is seen from, with the limits of all others; of supply and charging path the tightest stands. */
export function joinedLadder(rig: Rig, own: Ladder, others: readonly (readonly [channel: number, ladder: Ladder])[]): Ladder {
  return others.reduce<Ladder>((all, [channel, ladder]) => {
    const of = ofChannel(rig, channel);
    const counts = (limit: Limit) => {
      const known = all.limits.find(({ id, slot }) => slot === limit.slot && id.replace(/-of-\d+$/, '') === limit.id);
      return isChannelSlot(limit.slot) || !known || isTighter(limit, known);
    };
    return {
      limits: [...all.limits, ...of.limits(ladder.limits.filter(counts))].sort(order),
      // What cannot be told of a channel is never passed over; of supply and charging path it is said once.
      blind: [
        ...all.blind,
        ...of.blind(ladder.blind.filter(({ slot, id }) => isChannelSlot(slot) || !all.blind.some((known) => known.id === id))),
      ],
    };
  }, own);
}

/** The tightest limit of a block, or of the whole rig. */
export const tightest = (ladder: Ladder, slot?: Slot): Limit | undefined =>
  ladder.limits.find((l) => l.worst !== null && (slot === undefined || (l.slot === slot && l.channel === undefined)));
