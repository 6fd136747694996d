import { printDuration, printPercent } from '../quantity/index.ts';
import { axisOf } from '../shot/index.ts';
import { checkIds, checks, settingAt, type Campaign, type Check } from './campaign.ts';
import type { LastReading } from './expected.ts';
import { restAfter, type Progress } from './progress.ts';
import type { Moments } from './report.ts';
import { printStock } from './stock.ts';

/** What the next shot of a campaign is judged by. */
export interface Evidence {
  /** ms since 1970 */
  readonly now: number;
  /** What the run sheet says of the rig at the setting of the next shot. */
  readonly sheet: { readonly word: string; readonly says: string; readonly because: string };
  readonly checks: readonly Check[];
  /** Points of the rehearsals of this rig that ended; null: it was not scored. */
  readonly rehearsed: readonly (number | null)[];
  readonly hasGuard: boolean;
  readonly acts: string;
  readonly reads: string;
  /** The last reading against its band; null where there is none, `pending` while it is worked out. */
  readonly reading: LastReading | null | 'pending';
  /** Share of the capacitors' life that the shots of this rig used up; null where none is rated. */
  readonly lifeUsed: number | null;
}

/** One thing that has to be so, whether it is, and the one act that makes it so. */
export interface Gate {
  readonly id: string;
  readonly title: string;
  readonly ok: boolean;
  readonly says: string;
  /** Null where it is so. */
  readonly act: string | null;
  /** The page of the rig where that is done. */
  readonly page?: string;
}

export interface ShotVerdict {
  readonly word: 'go at most' | 'not now' | 'do not fire';
  readonly gates: readonly Gate[];
}

const day = 86_400_000;
/** A rehearsal counts from so many points of a hundred on: less and something that matters was missed. */
const enoughPoints = 80;

function checkGates({ checks: made, now, hasGuard }: Evidence, moments: Moments): Gate[] {
  return checkIds
    .filter((id) => id !== 'interlock' || hasGuard)
    .map((id) => {
      const { title, days } = checks[id];
      const last = made
        .filter(({ what }) => what === id)
        .map(({ at }) => Date.parse(at))
        .reduce((a, b) => Math.max(a, b), -Infinity);
      const ok = now - last <= days * day;
      const when = Number.isFinite(last) ? `last on ${moments.day(last)}` : 'no date is kept';
      return {
        id,
        title,
        ok,
        says: `${when}; holds for ${days} days`,
        act: ok ? null : 'Do it, and write down that it was done',
      };
    });
}

/** What the next shot takes that is not there any more. */
function stockGate({ stocks }: Progress): Gate {
  const counted = stocks.filter(({ left }) => left !== null);
  const short = counted.find(({ left, next }) => left !== null && next > left * (1 + 1e-9));
  const told = counted.map(
    ({ stock: { title, unit }, left, lastsFor }) => `${title}: ${printStock(left ?? 0, unit)}, for ${printShots(lastsFor)}`,
  );
  return {
    id: 'stock',
    title: 'What the shot takes',
    ok: !short,
    says: told.length === 0 ? 'nothing is counted' : told.join('; '),
    act: short ? `${short.stock.then}, and enter it in the book` : null,
  };
}

const printShots = (n: number): string => `${n} ${n === 1 ? 'shot' : 'shots'}`;

/** What is to be done about the last reading, and how it stands. */
function readingTold({ answers }: Campaign, { reading }: Evidence): [act: string | null, says: string] {
  if (reading === 'pending') return ['Wait for it', 'being calculated'];
  if (reading === null) return [null, 'no reading yet that a band was told before'];
  const axis = axisOf(answers);
  const { shot, value, low, high, isInside, isLookedInto } = reading;
  const told = `${axis.name} ${axis.print(value)} at shot ${(shot.shot.campaign?.place ?? 0) + 1}; expected from ${axis.print(low)} to ${axis.print(high)}`;
  if (isInside) return [null, told];
  return isLookedInto ? [null, `${told}, looked into`] : ['Look into it, and write down what it was', told];
}

/**
 * Whether the next shot of a campaign may be fired, from evidence; each no with the one act that turns it. It judges what was entered and
 * calculated: what stands at the rig is for those who stand there.
 */
export function shotVerdict(campaign: Campaign, progress: Progress, evidence: Evidence, moments: Moments): ShotVerdict {
  const { now, sheet, acts, reads, rehearsed, lifeUsed, hasGuard } = evidence;
  const lastSetting = progress.last && settingAt(campaign, progress.last.shot.campaign);
  const rest = restAfter(campaign, lastSetting);
  const readyAt = progress.last ? Date.parse(progress.last.shot.at) + 1000 * rest : -Infinity;
  const best = rehearsed.reduce<number | null>((most, points) => (points === null ? most : Math.max(most ?? 0, points)), null);
  const [first, second] = [acts.trim().toLowerCase(), reads.trim().toLowerCase()];
  const people =
    first !== '' && second !== '' && first !== second
      ? null
      : 'Enter the initials of two different people: who acts, and who reads';
  const gate = (id: string, title: string, act: string | null, says: string, page?: string): Gate => ({
    id,
    title,
    ok: act === null,
    says,
    act,
    ...(page === undefined ? {} : { page }),
  });
  const limits = sheet.word === 'go at most';
  const isWornOut = lifeUsed !== null && lifeUsed >= 1;
  const gates = [
    gate('limits', 'Limits of the rig at this setting', limits ? null : sheet.because, sheet.says, 'run-sheet'),
    gate(
      'life',
      'Life of the capacitors',
      isWornOut ? 'Renew the capacitors, and enter that in the rig' : null,
      lifeUsed === null ? 'no life is rated' : `${printPercent(lifeUsed, 2)} used up by the shots that were written down`,
    ),
    gate(
      'cooled',
      'Rest after the last shot',
      now < readyAt ? `Wait until ${moments.hour(readyAt)}` : null,
      rest > 0 ? `${printDuration(rest)}${lastSetting?.cools ? `. ${lastSetting.cools}` : ''}` : 'none is set',
    ),
    stockGate(progress),
    gate(
      'misfires',
      'Misfires in a row',
      progress.misfires >= campaign.stopAfter ? 'Bleed, strap, and look for the reason; write it down as a remark' : null,
      `${progress.misfires} of ${campaign.stopAfter} at which this campaign stops`,
    ),
    gate('band', 'Last reading inside its band', ...readingTold(campaign, evidence)),
    gate(
      'rehearsed',
      'Sheet of this rig rehearsed',
      best !== null && best >= enoughPoints ? null : `Rehearse it to ${enoughPoints} points or more`,
      best === null ? 'no rehearsal of this rig has ended' : `best: ${Math.round(best)} of 100`,
      'rehearse',
    ),
    gate(
      'guard',
      'Distance, hearing and shield',
      hasGuard ? null : 'Enter a guard: where people stand, and what is between',
      hasGuard ? 'a guard is entered; its limits are among those of the rig' : 'no guard is entered',
      'guard',
    ),
    ...checkGates(evidence, moments),
    gate('people', 'Who acts, who reads', people, people ? 'two are needed' : `${acts.trim()} acts, ${reads.trim()} reads`),
  ];
  const word = sheet.word === 'do not fire' || isWornOut ? 'do not fire' : gates.every(({ ok }) => ok) ? 'go at most' : 'not now';
  return { word, gates };
}
