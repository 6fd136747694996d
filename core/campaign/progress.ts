import type { Shot } from '../shot/index.ts';
import type { KeptShot, Place } from './place.ts';
import { settingAt, type Campaign, type CampaignSetting, type Entry } from './campaign.ts';
import { stocksLeft, type StockLeft } from './stock.ts';
import { schedule, type Schedule, type Session } from './schedule.ts';
import { changeSeconds } from './time.ts';

export interface Progress {
  readonly places: readonly Place[];
  readonly done: number;
  readonly dropped: number;
  /** The place that comes next; null where none is left, or the campaign is closed. */
  readonly next: Place | null;
  /** Misfires since the last shot that fired, and since the last remark: whoever looked for the reason has written it down. */
  readonly misfires: number;
  /** The last shot of it, and when. */
  readonly last: KeptShot | null;
  readonly sessions: Campaign['sessions'];
  readonly stocks: readonly StockLeft[];
  readonly closed: Extract<Entry, { kind: 'closed' }> | null;
}

/** What fired counts, and what came too early does not: it was another setting. */
const counts = ({ shot }: KeptShot): boolean => shot.outcome === 'fired' || shot.outcome === 'partial';

/** What a place is to be fired at, as a shot would say it: what the book says last, else what was planned. */
function settingRef(entries: readonly Entry[], place: number): NonNullable<Shot['campaign']> {
  const changed = entries.findLast((entry) => entry.kind === 'setting' && entry.place === place);
  return { id: '', place, ...(changed?.kind === 'setting' ? { setting: changed.setting } : {}) };
}

/** s of rest after a shot at a setting. */
export const restAfter = (campaign: Campaign, setting: CampaignSetting | null): number =>
  Math.max(campaign.rest, setting?.rest ?? 0);

/** How far a campaign is. @param shots of it, in any order; those off the list left out */
export function progressOf(campaign: Campaign, entries: readonly Entry[], shots: readonly KeptShot[]): Progress {
  const inOrder = [...shots].sort((a, b) => a.shot.at.localeCompare(b.shot.at));
  const dropped = new Set(entries.flatMap((entry) => (entry.kind === 'dropped' ? entry.places : [])));
  const closed = entries.find((entry) => entry.kind === 'closed') ?? null;
  const places = campaign.row.flatMap((_, place): Place[] => {
    const own = inOrder.filter(({ shot }) => shot.campaign?.place === place);
    const counted = own.find(counts);
    const setting = settingAt(campaign, counted?.shot.campaign ?? settingRef(entries, place));
    if (!setting) return [];
    return [{ place, setting, shots: own, standing: counted ? 'done' : dropped.has(place) ? 'dropped' : 'open' }];
  });
  const remarked = entries.findLast(({ kind }) => kind === 'remark')?.at ?? '';
  const sinceFired = inOrder.slice(inOrder.findLastIndex(counts) + 1).filter(({ shot }) => shot.at > remarked);
  return {
    places,
    done: places.filter(({ standing }) => standing === 'done').length,
    dropped: places.filter(({ standing }) => standing === 'dropped').length,
    next: closed ? null : (places.find(({ standing }) => standing === 'open') ?? null),
    misfires: sinceFired.filter(({ shot }) => shot.outcome === 'misfire').length,
    last: inOrder.at(-1) ?? null,
    sessions: entries.findLast((entry) => entry.kind === 'sessions')?.sessions ?? campaign.sessions,
    stocks: stocksLeft(campaign, entries, places),
    closed,
  };
}

const settingKey = ({ values }: CampaignSetting): string => values.map(({ path, value }) => `${path}=${value}`).join();

/**
 * What is left laid into the hours that are left: of a session under way its rest, without the preparing where something has been fired in it.
 *
 * @param now ms since 1970
 */
export function replan(campaign: Campaign, progress: Progress, now: number): Schedule<Place> {
  const { before, after } = campaign;
  const fired = progress.places.flatMap(({ shots }) => shots.map(({ shot }) => Date.parse(shot.at)));
  const sessions = progress.sessions.flatMap(({ start, seconds, people }): Session[] => {
    const end = start + 1000 * seconds;
    if (end <= now) return [];
    if (start >= now) return [{ start, seconds, people }];
    const isPrepared = fired.some((at) => at >= start && at <= now);
    const from = isPrepared ? now - 1000 * before : now;
    return [{ start: from, seconds: (end - from) / 1000, people }];
  });
  const open = progress.closed ? [] : progress.places.filter(({ standing }) => standing === 'open');
  return schedule(
    open.map((of) => ({
      of,
      seconds: of.setting.seconds + restAfter(campaign, of.setting),
      change: changeSeconds,
      setting: settingKey(of.setting),
    })),
    sessions,
    { before, after },
  );
}
