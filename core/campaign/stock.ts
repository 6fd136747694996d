import { slots, type Slot, type Used, type Warmed } from '../block/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { definitionIn, ifKnown, type RigReading } from '../figure/index.ts';
import { isUnitId, printQuantity } from '../quantity/index.ts';
import { settingAt, type Campaign, type CampaignSetting, type Entry } from './campaign.ts';
import type { KeptShot, Place } from './place.ts';

/** What shots use up: wire, cans, gas, electrodes. How much is there is counted by people; how much a shot takes follows from the rig. */

/** Something that every shot takes some of. */
export interface Stock {
  /** `load.wire` of the rig, `own.1` of what people add. */
  readonly id: string;
  readonly title: string;
  /** An SI unit of the program, or a word such as “pieces”. */
  readonly unit: string;
  /** What is there; null: not counted, so nothing is said of it. */
  readonly onHand: number | null;
  /** What is done when it is used up. */
  readonly then: string;
}

/** What one shot of a rig takes, by the id of the stock, and what it lasts for where the rig says so. */
export interface Takes extends Omit<Stock, 'onHand'> {
  readonly each: number;
  readonly lasts: number | null;
}

/** What a shot takes of each thing that the blocks of a rig say is used up; what cannot be worked out is left out. */
export function takesOf({ rig, corners }: Evaluation): Takes[] {
  const reading = corners.nominal();
  return slots.flatMap((slot) => {
    const used = ifKnown<readonly Used[]>(() => definitionIn(rig, slot).uses?.(reading.ownOf(slot), reading) ?? []) ?? [];
    return used.map(({ id, title, each, lasts, then }) => ({
      id: `${slot}.${id}`,
      title,
      unit: each.unit,
      each: each.value,
      lasts: lasts?.value ?? null,
      then,
    }));
  });
}

/** What has to cool the longest between two shots, how long from one shot to the next, s, and what that rests on. */
export interface Cooling {
  readonly title: string;
  readonly seconds: number;
  readonly says: string;
}

/**
 * From shot to shot at the least, for what may lose so many watts and gets so many joules, the worst of its band: over hours the mean is what
 * it may lose.
 */
export function coolingOf({ rig, corners }: Evaluation): Cooling | null {
  const warmed = (slot: Slot, reading: RigReading): readonly Warmed[] =>
    definitionIn(rig, slot).warmed?.(reading.ownOf(slot), reading) ?? [];
  const all = slots.flatMap((slot) =>
    (ifKnown(() => warmed(slot, corners.nominal())) ?? []).map(({ title, E, P }, i): Cooling => {
      const joules = corners.bandOf((reading) => warmed(slot, reading)[i]?.E ?? E).high;
      const source = 'source' in P && P.source ? ` (${P.source})` : '';
      const says = `${title}: worst case ${printQuantity(joules, 'J')} a shot, and it may lose ${printQuantity(P.value, 'W')}${source}`;
      return { title, seconds: joules / P.value, says };
    }),
  );
  return all.reduce<Cooling | null>((most, one) => (most === null || one.seconds > most.seconds ? one : most), null);
}

/**
 * The rest after a shot: what people want, or what has to cool beyond what the run of a shot takes anyway; and what that is, where it decides.
 *
 * @param seconds s from the strap off to the strap on
 * @param wanted s that people let it rest
 */
export function restFor(
  cooling: Cooling | null,
  seconds: number,
  wanted: number,
): { readonly rest: number; readonly cools: string } {
  const cool = (cooling?.seconds ?? 0) - seconds;
  return cooling && cool > wanted ? { rest: cool, cools: cooling.says } : { rest: wanted, cools: '' };
}

/** An amount in its unit. */
export const printStock = (amount: number, unit: string): string =>
  unit !== '1' && isUnitId(unit)
    ? printQuantity(amount, unit, { trim: true })
    : `${Number(amount.toPrecision(6))} ${unit === '1' ? '' : unit}`.trim();

/** How a stock stands in a campaign. */
export interface StockLeft {
  readonly stock: Stock;
  /** What is left; null where it was never counted. */
  readonly left: number | null;
  /** What the next shot takes, and all that are left to fire. */
  readonly next: number;
  readonly needed: number;
  /** Shots of those left, in their order, that it lasts for. */
  readonly lastsFor: number;
}

const takenBy = ({ uses }: CampaignSetting, id: string): number => uses[id] ?? 0;

/** A shot that passed current took its share; one that did not fire took none. */
const took = ({ shot }: KeptShot): boolean => shot.outcome !== 'misfire';

/** What is left of each stock after the shots so far: from the last count on, or from what was there when it was planned. */
export function stocksLeft(campaign: Campaign, entries: readonly Entry[], places: readonly Place[]): StockLeft[] {
  const open = places.filter(({ standing }) => standing === 'open');
  return campaign.stocks.map((stock) => {
    const { id } = stock;
    const counted = entries.findLast((entry) => entry.kind === 'stock' && entry.of === id);
    const since = counted?.at ?? '';
    const had = counted?.kind === 'stock' ? counted.amount : stock.onHand;
    const used = places
      .flatMap(({ setting, shots }) =>
        shots.flatMap((one) => (took(one) && one.shot.at > since ? [settingAt(campaign, one.shot.campaign) ?? setting] : [])),
      )
      .reduce((sum, setting) => sum + takenBy(setting, id), 0);
    const left = had === null ? null : Math.max(0, had - used);
    const { shots: lastsFor, needed } = lastingFor(
      open.map(({ setting }) => takenBy(setting, id)),
      left ?? Infinity,
    );
    const [next] = open;
    return { stock, left, next: next ? takenBy(next.setting, id) : 0, needed, lastsFor };
  });
}

/** How many of the shots to come an amount lasts for, and what all of them take. */
export function lastingFor(takes: readonly number[], amount: number): { readonly shots: number; readonly needed: number } {
  let [sum, shots] = [0, 0];
  for (const take of takes) {
    sum += take;
    // A bottle that is just enough is enough, whatever the last digit of the sum.
    if (sum <= amount * (1 + 1e-9)) shots++;
  }
  return { shots, needed: sum };
}
