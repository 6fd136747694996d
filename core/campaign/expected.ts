import { axisOf } from '../shot/index.ts';
import { answerOf } from './answer.ts';
import { answered, pointsOfCampaign, type Kept } from './book.ts';
import type { CampaignSetting } from './campaign.ts';
import type { KeptShot } from './place.ts';

/** What a shot is expected to come to, SI or in the unit of a quantity that people named. */
export interface ExpectedShot {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  /** How many cases of a hundred the band holds. */
  readonly share: 90 | 95;
  /** By the calculation alone; null where nothing is calculated of it. */
  readonly calculated: number | null;
}

/**
 * What the next shot at a setting is expected to come to: what is calculated, by as much off as in the shots before; where nothing is
 * calculated, what the curve through the shots comes to. Null where neither is known.
 */
export function expectedAt(kept: Kept, { values, predicted }: CampaignSetting): ExpectedShot | null {
  const { answers } = kept.campaign;
  const calculated = 'measure' in answers ? predicted[answers.measure] : undefined;
  if (calculated !== undefined && kept.learnt) {
    const { low, middle, high } = kept.learnt.next;
    return { value: calculated * middle, low: calculated * low, high: calculated * high, share: 90, calculated };
  }
  const found = answered(kept)?.answer.at(values.map(({ value }) => value));
  if (!found) return null;
  const { value, next } = found;
  return { value, low: value - next, high: value + next, share: 95, calculated: calculated ?? null };
}

/** The last reading against the band that was told before it. */
export interface LastReading {
  readonly shot: KeptShot;
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly isInside: boolean;
  /** Somebody wrote down what it was. */
  readonly isLookedInto: boolean;
}

/** The last reading of a campaign against what was expected of it; null while no band could be told before one. */
export function lastReading(kept: Kept): LastReading | null {
  const { campaign, entries, shots, learnt } = kept;
  const axis = axisOf(campaign.answers);
  const lookedInto = (id: string) => entries.some((entry) => entry.kind === 'looked-into' && entry.shot === id);
  if (learnt) {
    const last = learnt.scored.at(-1);
    const shot = shots.find((one) => one.shot.at === last?.at);
    return last && shot
      ? { shot, value: last.measured, low: last.low, high: last.high, isInside: last.isInside, isLookedInto: lookedInto(shot.id) }
      : null;
  }
  const points = pointsOfCampaign({ campaign, shots });
  const last = points.at(-1);
  const before = points.slice(0, -1);
  const shot = shots.find(({ id }) => id === last?.id);
  // Beyond what was tested before the curve says nothing of a reading.
  if (!last || !shot || !before.some(({ levels }) => levels.every((x, i) => x === last.levels[i]))) return null;
  const told = answerOf(before)?.at(last.levels);
  if (!told) return null;
  const [low, high] = [told.value - told.next, told.value + told.next];
  const value = axis.of(shot.shot) ?? NaN;
  return { shot, value, low, high, isInside: value >= low && value <= high, isLookedInto: lookedInto(shot.id) };
}
