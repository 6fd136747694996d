import type { NearMiss } from '../rehearsal/index.ts';
import { printPercent } from '../quantity/index.ts';
import { axisOf, ratesOf, type Calibration } from '../shot/index.ts';
import { answerOf, type Answer } from './answer.ts';
import { settingAt, type Campaign, type Entry } from './campaign.ts';
import type { KeptShot } from './place.ts';
import type { Progress } from './progress.ts';
import { nextBest, sharesOf } from './next-best.ts';
import type { Moments } from './report.ts';
import { printStock } from './stock.ts';
import { settingWords } from './words.ts';

/** Everything that is kept of a campaign. */
export interface Kept {
  readonly rig: string;
  readonly campaign: Campaign;
  readonly entries: readonly Entry[];
  readonly shots: readonly KeptShot[];
  readonly progress: Progress;
  /** What its shots teach of what answers it; null of a quantity that people named themselves. */
  readonly learnt: Calibration | null;
  /** Near-misses that runs and rehearsals of the rig noticed by themselves while the campaign was under way. */
  readonly caught: readonly NearMiss[];
}

/** A line of the book: a shot or an entry, in the order of time, what corrects it beside it. */
export interface BookRow {
  readonly id: string;
  readonly at: string;
  readonly kind: 'shot' | Entry['kind'];
  readonly title: string;
  readonly by: string;
  readonly text: string;
  readonly corrections: readonly { readonly at: string; readonly by: string; readonly text: string }[];
}

const kindTitles: Readonly<Record<Exclude<Entry['kind'], 'correction'>, string>> = {
  remark: 'Remark',
  'near-miss': 'Near-miss',
  'looked-into': 'Looked into',
  setting: 'Another setting',
  stock: 'Stock',
  dropped: 'Not fired after all',
  sessions: 'Sessions changed',
  closed: 'Closed',
};

/** What was set and read at a shot, in words. */
function shotWords({ campaign, learnt }: Kept, { shot }: KeptShot): string {
  const far = learnt?.scored.find(({ at, isInside }) => at === shot.at && !isInside);
  const setting = settingAt(campaign, shot.campaign);
  const axis = axisOf(campaign.answers);
  const value = axis.of(shot);
  return [
    setting ? settingWords(setting) : '',
    shot.outcome,
    value === undefined ? '' : `${axis.name} ${axis.print(value)}`,
    far ? `outside of what was expected, ${axis.print(far.low)} to ${axis.print(far.high)}` : '',
    shot.remarks,
  ]
    .filter(Boolean)
    .join('; ');
}

function entryWords({ campaign }: Kept, entry: Exclude<Entry, { kind: 'correction' }>, moments: Moments): string {
  if (entry.kind === 'near-miss' && entry.changed !== '') return `${entry.text} Changed: ${entry.changed}`;
  if (entry.kind === 'dropped')
    return `${entry.places.length === 1 ? 'Shot' : 'Shots'} ${entry.places.map((n) => n + 1).join(', ')}: ${entry.text}`;
  if (entry.kind === 'sessions')
    return `${entry.sessions.map(({ start, seconds }) => `${moments.day(start)}, ${(seconds / 3600).toFixed(1)} h`).join('; ')}. ${entry.text}`;
  if (entry.kind === 'setting') {
    const setting = campaign.settings[entry.setting];
    return `Shot ${entry.place + 1} is fired at ${setting ? settingWords(setting) : 'a setting that it does not have'}: ${entry.text}`;
  }
  if (entry.kind === 'stock') {
    const stock = campaign.stocks.find(({ id }) => id === entry.of);
    return `${stock?.title ?? entry.of}, ${printStock(entry.amount, stock?.unit ?? '')}: ${entry.text}`;
  }
  return entry.text;
}

/** The book in the order of time. What stands in it stays; a correction stands beside what it corrects. */
export function bookOf(kept: Kept, moments: Moments): BookRow[] {
  const { entries, shots, caught } = kept;
  const correctionsOf = (id: string) =>
    entries.flatMap((entry) =>
      entry.kind === 'correction' && entry.of === id ? [{ at: entry.at, by: entry.by, text: entry.text }] : [],
    );
  const rows = [
    ...shots.map((one): BookRow => {
      const n = (one.shot.campaign?.place ?? 0) + 1;
      return {
        id: one.id,
        at: one.shot.at,
        kind: 'shot',
        title: `Shot ${n}`,
        by: '',
        text: shotWords(kept, one),
        corrections: correctionsOf(one.id),
      };
    }),
    ...caught.map(({ id, at, text }): BookRow => ({
      id,
      at: new Date(at).toISOString(),
      kind: 'near-miss',
      title: 'Near-miss, noticed by a run',
      by: '',
      text,
      corrections: correctionsOf(id),
    })),
    ...entries.flatMap((entry): BookRow[] =>
      entry.kind === 'correction'
        ? []
        : [
            {
              id: entry.id,
              at: entry.at,
              kind: entry.kind,
              title: kindTitles[entry.kind],
              by: entry.by,
              text: entryWords(kept, entry, moments),
              corrections: correctionsOf(entry.id),
            },
          ],
    ),
  ];
  return rows.sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
}

/** Shots that count for the answer, with the levels they were fired at. */
export const pointsOfCampaign = ({ campaign, shots }: Pick<Kept, 'campaign' | 'shots'>) => {
  const axis = axisOf(campaign.answers);
  return [...shots]
    .sort((a, b) => a.shot.at.localeCompare(b.shot.at))
    .flatMap(({ id, shot }) => {
      const setting = settingAt(campaign, shot.campaign);
      const y = axis.of(shot);
      return setting && y !== undefined && shot.outcome === 'fired'
        ? [{ id, at: shot.at, levels: setting.values.map(({ value }) => value), y }]
        : [];
    });
};

/** The setting with these levels, in words. */
const namedIn = ({ settings }: Campaign, levels: readonly number[]): string => {
  const found = settings.find(({ values }) => values.every(({ value }, i) => value === levels[i]));
  return found ? settingWords(found) : '';
};

export interface Answered {
  readonly answer: Answer;
  /** In a sentence or two, with its confidence. */
  readonly says: string;
  /** Of which setting one more shot would teach the most; null where nothing is left to choose. */
  readonly next: string | null;
}

/** The setting of which one more shot teaches the most for what the campaign asks; null where nothing is left to choose. */
function taughtBy(
  campaign: Campaign,
  points: readonly { readonly levels: readonly number[] }[],
  answer: Answer | null,
): number | null {
  const settings = campaign.settings.map(({ values }) => values.map(({ value }) => value));
  return nextBest(
    points.map(({ levels }) => levels),
    settings,
    { shares: sharesOf(answer, settings, campaign.seeks), first: campaign.design === 'next-best' ? 'opening' : 'every' },
  );
}

/**
 * Where the next place of a campaign teaches more than where it stands: index of the setting; null where it stands well, or where its places
 * were laid out before the first shot.
 */
export function betterSetting({ campaign, progress, shots }: Pick<Kept, 'campaign' | 'progress' | 'shots'>): number | null {
  if (campaign.design !== 'next-best' || !progress.next) return null;
  const points = pointsOfCampaign({ campaign, shots });
  const best = taughtBy(campaign, points, answerOf(points));
  return best === null || campaign.settings[best] === progress.next.setting ? null : best;
}

/** The answer of a campaign so far; null while its shots do not determine one. */
export function answered(kept: Pick<Kept, 'campaign' | 'shots'>): Answered | null {
  const { campaign } = kept;
  const points = pointsOfCampaign(kept);
  const answer = answerOf(points);
  if (!answer) return null;
  const axis = axisOf(campaign.answers);
  const { highest, lowest, scatter, explained } = answer;
  const next = taughtBy(campaign, points, answer);
  const told = (which: string, { levels, value, margin, confidence }: Answer['highest']) =>
    `${which} at ${namedIn(campaign, levels)}: ${axis.printMargin(value, margin)} (95 %), ahead of the other tested settings in ${printPercent(confidence, 2)} of what the fit may be`;
  return {
    answer,
    says: `${axis.name} is ${told('highest', highest)}; ${told('lowest', lowest)}. What was varied explains ${printPercent(explained, 2)} of what differs between ${answer.points} shots; the rest scatters by ${axis.print(Number(scatter.toPrecision(2)))} from shot to shot.`,
    next: next === null || !campaign.settings[next] ? null : settingWords(campaign.settings[next]),
  };
}

/** A setting of a campaign with what was read at it, and what the curve through all shots comes to there. */
export interface SettingRow {
  readonly title: string;
  /** What was read at shots that fired. */
  readonly read: readonly number[];
  readonly mean: number | null;
  readonly fitted: { readonly value: number; readonly margin: number } | null;
}

/** The settings of a campaign with what they came to. @param found null while the shots determine no curve */
export function settingRows({ campaign, shots }: Pick<Kept, 'campaign' | 'shots'>, found: Answered | null): SettingRow[] {
  const points = pointsOfCampaign({ campaign, shots });
  return campaign.settings.map((setting) => {
    const levels = setting.values.map(({ value }) => value);
    const read = points.flatMap((one) => (one.levels.every((x, i) => x === levels[i]) ? [one.y] : []));
    return {
      title: settingWords(setting),
      read,
      mean: read.length === 0 ? null : read.reduce((a, b) => a + b, 0) / read.length,
      fitted: found?.answer.at(levels) ?? null,
    };
  });
}

/** A row for each shot: what a spreadsheet or a notebook repeats the series from. SI units, moments in UTC. */
export const campaignRows = ({ campaign, shots }: Kept): Readonly<Record<string, string | number>>[] =>
  [...shots]
    .sort((a, b) => a.shot.at.localeCompare(b.shot.at))
    .map(({ id, shot }) => {
      const setting = settingAt(campaign, shot.campaign);
      return {
        shot: (shot.campaign?.place ?? 0) + 1,
        id,
        at: shot.at,
        outcome: shot.outcome,
        ...Object.fromEntries((setting?.values ?? []).map(({ path, value }) => [path, value])),
        ...Object.fromEntries(Object.entries(shot.set).map(([key, value]) => [`set ${key}`, value ?? ''])),
        ...Object.fromEntries(Object.entries(setting?.predicted ?? {}).map(([key, value]) => [`calculated ${key}`, value ?? ''])),
        ...Object.fromEntries(Object.entries(shot.measured).map(([key, value]) => [`measured ${key}`, value ?? ''])),
        ...Object.fromEntries(shot.own.map(({ name, unit, value }) => [`${name} / ${unit}`, value])),
        remarks: shot.remarks,
      };
    });

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

/** The report of a campaign as Markdown, from which another group can repeat it. */
export function campaignMarkdown(kept: Kept, moments: Moments): string {
  const { rig, campaign, progress, shots } = kept;
  const rates = ratesOf(shots.map(({ shot }) => shot));
  const found = answered(kept);
  const book = bookOf(kept, moments);
  const days = [...new Set(book.map(({ at }) => moments.day(Date.parse(at)).slice(0, 10)))];
  const axis = axisOf(campaign.answers);
  return [
    `# ${campaign.question}`,
    '',
    `${rig}. Planned by ${campaign.by}: ${campaign.row.length} shots at ${campaign.settings.length} settings, ${axis.name} is what answers it.`,
    `Fired: ${progress.done}; left out: ${progress.dropped}; left: ${progress.places.length - progress.done - progress.dropped}.`,
    ...(rates
      ? [
          `Misfires: ${rates.misfire.came} of ${rates.misfire.of} (90 %: ${printPercent(rates.misfire.low, 2)} to ${printPercent(rates.misfire.high, 2)}). Pre-fires: ${rates.preFire.came} of ${rates.preFire.of}.`,
        ]
      : []),
    '',
    '## Answer',
    '',
    found ? found.says : 'The shots so far do not determine one.',
    ...(progress.closed ? ['', `Closed by ${progress.closed.by}: ${progress.closed.text}`] : []),
    '',
    '## Settings',
    '',
    '| setting | shots | measured | by the curve (95 %) |',
    '| --- | --- | --- | --- |',
    ...settingRows(kept, found).map(
      ({ title, read, fitted }) =>
        `| ${cell(title)} | ${read.length} | ${read.map((v) => axis.print(v)).join(', ')} | ${fitted ? axis.printMargin(fitted.value, fitted.margin) : ''} |`,
    ),
    ...(progress.stocks.length === 0
      ? []
      : [
          '',
          '## What was used up',
          '',
          ...progress.stocks.map(
            ({ stock, left }) =>
              `- ${stock.title}: ${left === null ? 'not counted' : `${printStock(Number(left.toPrecision(3)), stock.unit)} left`}.`,
          ),
        ]),
    ...days.flatMap((one) => [
      '',
      `## ${one}`,
      '',
      '| time | what | by | |',
      '| --- | --- | --- | --- |',
      ...book
        .filter(({ at }) => moments.day(Date.parse(at)).startsWith(one))
        .map(
          ({ at, title, by, text, corrections }) =>
            `| ${moments.hour(Date.parse(at))} | ${title} | ${by} | ${cell(text)}${corrections.map((c) => ` **Corrected (${c.by}):** ${cell(c.text)}`).join('')} |`,
        ),
    ]),
    '',
    'Calculated values are not measured ones. Local codes and licensed practice come first.',
  ].join('\n');
}
