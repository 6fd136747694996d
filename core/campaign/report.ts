import ical from 'ical-generator';
import { printDuration, printPercent, printQuantity } from '../quantity/index.ts';
import type { CampaignPlan, PlannedStock, Setting } from './plan.ts';
import type { Place } from './place.ts';
import type { Schedule } from './schedule.ts';
import { printStock } from './stock.ts';
import { changeSeconds } from './time.ts';
import { settingsNamed, settingWords } from './words.ts';

/** How moments are written where the people are: the core has neither a clock nor a time zone. */
export interface Moments {
  /** `2026-12-05 10:00` */
  readonly day: (ms: number) => string;
  /** `10:03` */
  readonly hour: (ms: number) => string;
}

/** What is calculated of it, in words. */
export const settingTold = ({ predicted }: Setting): string =>
  [
    predicted.current === undefined ? '' : `${printQuantity(predicted.current, 'A')}`,
    predicted.time === undefined ? '' : `at ${printQuantity(predicted.time, 's')}`,
    predicted.speed === undefined ? '' : `${printQuantity(predicted.speed, 'm/s')}`,
  ]
    .filter(Boolean)
    .join(' ');

/** A stock of a plan in words: what all shots take, and how far what is there goes. */
export function stockWords({ stock: { title, unit, onHand }, needed, lastsFor }: PlannedStock, shots: number): string {
  const takes = `${title}: all ${shots} shots take ${printStock(Number(needed.toPrecision(3)), unit)}`;
  if (onHand === null) return `${takes}; how much is there is not counted`;
  const there = `${printStock(onHand, unit)} ${onHand === 1 ? 'is' : 'are'} there`;
  if (lastsFor >= shots) return `${takes}, ${there}`;
  return `${takes}, ${there}: for ${lastsFor}, then ${printStock(Number((needed - onHand).toPrecision(3)), unit)} more`;
}

/** What has to cool longer than people wanted to rest, the slowest setting of a plan; null where nothing has to. */
export function coolingWords({ settings }: Pick<CampaignPlan, 'settings'>): string | null {
  const slowest = settings.filter(({ cools }) => cools !== '').sort((a, b) => b.rest - a.rest)[0];
  return slowest
    ? `${slowest.cools}: ${printDuration(slowest.rest)} of rest after a shot at ${settingWords(slowest)}, which is planned in.`
    : null;
}

/** What the times of a plan are, and what is not in them. */
export const planTimes = `Times are those of the run sheet, at its pace, and of the charge as calculated, with ${printDuration(changeSeconds)} for each change of a setting (common practice, no source). The rest after a shot is what you enter, or what a coil or resistor needs to lose its heat (its energy over the power it may lose), whichever is longer.`;

/** A plan as Markdown. */
export function planMarkdown(name: string, plan: CampaignPlan, { day, hour }: Moments): string {
  const { schedule, shots, before, after, life, settings, stocks } = plan;
  const days = schedule.sessions.flatMap(({ session, shots: booked, free }, i) => [
    '',
    `## Session ${i + 1}: ${day(session.start)}, ${printDuration(session.seconds)}`,
    '',
    `${session.people ? `${session.people}. ` : ''}Prepare: ${printDuration(before)}. Hand over: ${printDuration(after)}. Free: ${printDuration(Math.max(1, free))}.`,
    '',
    '| strap off | shot | set | calculated |',
    '| --- | --- | --- | --- |',
    ...booked.map(
      ({ of, start, changes }, k) =>
        `| ${hour(start)} | ${k + 1} | ${changes || k === 0 ? '**set:** ' : ''}${settingWords(of)} | ${settingTold(of)} |`,
    ),
  ]);
  const dropped = schedule.dropped.length;
  const cooling = coolingWords(plan);
  return [
    `# ${name}: ${shots} shots at ${settings.length} settings`,
    ...days,
    '',
    dropped === 0
      ? 'All of them fit.'
      : `**${dropped} of ${shots} shots do not fit**, the last of the order: ${settingsNamed(schedule.dropped)}. Add a session, or take fewer levels.`,
    ...(life === null ? [] : ['', `Life of the capacitors used up by it: ${printPercent(life, 2)}.`]),
    ...(cooling === null ? [] : ['', cooling]),
    ...(stocks.length === 0 ? [] : ['', ...stocks.map((one) => `- ${stockWords(one, shots)}.`)]),
    '',
    `${planTimes} Local codes and licensed practice come first.`,
  ].join('\n');
}

/** A plan as rows of a table: SI units, moments in UTC. */
export const planRows = (plan: CampaignPlan): Readonly<Record<string, string | number>>[] =>
  plan.schedule.sessions.flatMap(({ shots }, i) =>
    shots.map(({ of, start, end }) => ({
      session: i + 1,
      start: new Date(start).toISOString(),
      end: new Date(end).toISOString(),
      ...Object.fromEntries(of.values.map(({ path, text }) => [path, text])),
      'calculated current / A': of.predicted.current ?? '',
      'calculated time / s': of.predicted.time ?? '',
    })),
  );

/** Sessions as events of a calendar, their shots in the description. */
export function planCalendar(name: string, { schedule }: Pick<CampaignPlan, 'schedule'>, { hour }: Moments): string {
  const made = ical({ name: `Vast Surge: ${name}`, prodId: { company: 'vast-surge', product: 'plan', language: 'EN' } });
  schedule.sessions.forEach(({ session, shots }, i) => {
    made.createEvent({
      id: `${i + 1}-${session.start}@vast-surge`,
      stamp: new Date(session.start),
      start: new Date(session.start),
      end: new Date(session.start + 1000 * session.seconds),
      summary: `${name}: session ${i + 1}, ${shots.length} shots`,
      description: [session.people ?? '', ...shots.map(({ of, start }) => `${hour(start)} ${settingWords(of)}`)]
        .filter(Boolean)
        .join('\n'),
    });
  });
  return `${made.toString().trimEnd()}\r\n`;
}

/** The hours that are left of a campaign as a calendar, those alone in which something is fired. */
export function leftCalendar(name: string, { sessions }: Schedule<Place>, moments: Moments): string {
  const fired = sessions
    .filter(({ shots }) => shots.length > 0)
    .map((one) => ({ ...one, shots: one.shots.map((shot) => ({ ...shot, of: shot.of.setting })) }));
  return planCalendar(name, { schedule: { sessions: fired, dropped: [] } }, moments);
}
