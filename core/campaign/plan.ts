import { evaluateRig } from '../evaluation/index.ts';
import { ifKnown } from '../figure/index.ts';
import { inSI, printAsTyped, printQuantity } from '../quantity/index.ts';
import { blockDefinition, isInForce } from '../kind/index.ts';
import {
  blockIn,
  channelNoun,
  numberedSpot,
  quantityAt,
  spotAt,
  withTrialValue,
  type Rig,
  type RigDocument,
  type Spot,
} from '../rig/index.ts';
import { runSheetOf, verdictWords, type Verdict } from '../runsheet/index.ts';
import { predictShot, type Values } from '../shot/index.ts';
import { mostStocks } from './campaign.ts';
import { compositeValues, factorial, ordered, type designs, type orders } from './design.ts';
import { pathsOf } from './hands.ts';
import { bestSequence } from './next-best.ts';
import { schedule, type Schedule, type Session } from './schedule.ts';
import { settingsNamed, settingWords } from './words.ts';
import { coolingOf, lastingFor, restFor, takesOf, type Stock, type Takes } from './stock.ts';
import { changeSeconds, sheetTime } from './time.ts';

/** A field that is varied, with the levels it takes, SI. */
export interface Varied {
  readonly path: string;
  readonly levels: readonly number[];
  /** How a person wrote one of them, for its unit; left out: as the rig has it. */
  readonly typed?: string;
}

export interface Series {
  readonly varied: readonly Varied[];
  readonly design: (typeof designs)[number];
  readonly replicates: number;
  readonly order: (typeof orders)[number];
  readonly seed: number;
  /** s that coils, resistors and electrodes cool after a shot. */
  readonly rest: number;
  readonly sessions: readonly Session[];
  /** What people count before they begin: of what the rig uses up how much is there, and what else a shot takes. */
  readonly stocks?: readonly AskedStock[];
}

/** A stock as it is asked about: one of the rig by its id, with what is there; one of people's own with what each shot takes. */
export type AskedStock =
  | { readonly id: string; readonly onHand: number }
  | { readonly title: string; readonly unit: string; readonly each: number; readonly onHand: number | null };

/** A stock in a plan: what all of its shots take, and for how many of them it lasts. */
export interface PlannedStock {
  readonly stock: Stock;
  readonly needed: number;
  readonly lastsFor: number;
}

/** One setting of a series. */
export interface Setting {
  readonly values: readonly { readonly path: string; readonly title: string; readonly text: string; readonly value: number }[];
  readonly predicted: Values;
  /** s from the strap off to the strap on. */
  readonly seconds: number;
  /** Shots that the capacitors last at it; null where no life is rated. */
  readonly life: number | null;
  /** s of rest after a shot, beside what its run takes, and what has to cool that long. */
  readonly rest: number;
  readonly cools: string;
  /** What a shot takes of each stock, by its id. */
  readonly uses: Readonly<Record<string, number>>;
}

export interface CampaignPlan {
  readonly settings: readonly Setting[];
  /** Shot by shot: which setting. */
  readonly row: readonly number[];
  readonly shots: number;
  readonly before: number;
  readonly after: number;
  readonly schedule: Schedule<Setting>;
  readonly stocks: readonly PlannedStock[];
  /** Share of the life of the capacitors that all of it takes; null where no life is rated. */
  readonly life: number | null;
}

export type PlanAnswer =
  { readonly ok: true; readonly plan: CampaignPlan } | { readonly ok: false; readonly field: string; readonly reason: string };
/** More settings than anybody fires. */
const mostSettings = 400;

const refuse = (field: string, reason: string): PlanAnswer => ({ ok: false, field, reason });

/** A rig with what a setting sets. */
export const rigAtSetting = (rig: Rig, values: readonly { readonly path: string; readonly value: number }[]): Rig =>
  values.reduce(
    (made, { path, value }) => pathsOf(made, path).reduce((of, one) => withTrialValue<string>(of, one, value), made),
    rig,
  );

/** A setting with what its rig uses up. */
interface Asked {
  readonly setting: Setting;
  readonly takes: readonly Takes[];
}

function settingOf(document: RigDocument, { varied, rest, stocks = [] }: Series, point: readonly number[]): Asked | string {
  const values = varied.map(({ path, typed }, i) => {
    const value = point[i] ?? NaN;
    const at = quantityAt(document.rig, path);
    const as = typed ?? at?.value?.text ?? '';
    const text = at ? inSI(() => printAsTyped(value, at.field.unit, as, { digits: 12, trim: true })) : String(value);
    return { path, title: titleOf(document.rig, path), text, value };
  });
  const rig = rigAtSetting(document.rig, values);
  const evaluation = evaluateRig(rig);
  const made = runSheetOf(document.name, evaluation, document.sheet);
  const named = settingWords({ values });
  if (!made.ok) return `${named}: ${made.reason}`;
  const { word, because } = made.sheet.verdict;
  // A series is fired: what its run sheet holds back is no setting of it.
  if (word !== 'go at most') return `${named}: ${word}. ${because}`;
  const seconds = sheetTime(evaluation, made.sheet).each;
  const takes = takesOf(evaluation);
  const own = stocks.flatMap((one, i) => ('each' in one ? [[ownStock(i), one.each] as const] : []));
  const setting = {
    values,
    predicted: predictShot(rig, {}),
    seconds,
    life: ifKnown(() => evaluation.corners.nominal().figure('life-shots').value),
    ...restFor(coolingOf(evaluation), seconds, rest),
    uses: Object.fromEntries([...takes.map(({ id, each }) => [id, each] as const), ...own]),
  };
  return { setting, takes };
}

const ownStock = (i: number): string => `own.${i + 1}`;

/** Stocks of a series: what the rig uses up at any of its settings, with what is there of it, and what people add. */
function stocksOf(found: readonly Asked[], asked: readonly AskedStock[]): Stock[] {
  const ofRig = found.flatMap(({ takes }) => takes).filter(({ id }, i, all) => all.findIndex((one) => one.id === id) === i);
  const counted = (id: string) => asked.find((one) => 'id' in one && one.id === id)?.onHand;
  return [
    ...ofRig.map(({ id, title, unit, then, lasts }) => ({ id, title, unit, then, onHand: counted(id) ?? lasts })),
    ...asked.flatMap((one, i) =>
      'each' in one ? [{ id: ownStock(i), title: one.title, unit: one.unit, onHand: one.onHand, then: 'Bring more of it' }] : [],
    ),
  ];
}

/** What is wrong with a stock that people add; null where nothing is. */
function wrongStock(stocks: readonly AskedStock[]): string | null {
  for (const one of stocks) {
    const bad = (amount: number | null) => amount !== null && !(amount >= 0 && amount <= 1e12);
    if (bad(one.onHand) || ('each' in one && bad(one.each)))
      return `${'each' in one ? one.title : one.id} must be an amount from 0 to 1e12`;
    if ('each' in one && one.title.trim() === '') return 'a stock needs a name';
  }
  return stocks.length > mostStocks ? `has ${stocks.length} stocks; at most ${mostStocks} are counted` : null;
}

/** How a rig stands at one setting: what its run sheet says there, and what is calculated. */
export interface Standing {
  readonly word: Verdict['word'];
  /** The verdict in words, and the act that would turn it. */
  readonly says: string;
  readonly act: string;
  readonly predicted: Values;
}

/** How a rig stands at one setting, whatever its sheet says. */
export function standingAt(
  document: RigDocument,
  values: readonly { readonly path: string; readonly value: number }[],
): Standing {
  const rig = rigAtSetting(document.rig, values);
  const made = runSheetOf(document.name, evaluateRig(rig), document.sheet);
  const predicted = predictShot(rig, {});
  if (!made.ok) return { word: 'not now', says: made.reason, act: made.reason, predicted };
  const { verdict } = made.sheet;
  return { word: verdict.word, says: verdictWords(verdict), act: verdict.turn ?? verdict.because, predicted };
}

/** Slots of which something is set from shot to shot. */
const setFrom = ['store', 'switch', 'load'] as const;

/** What nobody sets from shot to shot, whatever its number. */
const notSet: readonly string[] = ['ratings', 'protection', 'life'];

/** "5.6 mF" of "5.6 mF −10/+30 %". */
const withoutTolerance = (text: string): string => /^(.*?)(?:\s*±|\s+[-−+]\d|$)/.exec(text)?.[1]?.trim() ?? text;

/** A field that a series may vary, with what it stands at. */
export interface VariedField {
  readonly path: string;
  readonly title: string;
  readonly text: string;
}

function fieldsAt(rig: Rig, spot: Spot): VariedField[] {
  const block = blockIn(rig, spot);
  const { fields } = blockDefinition(spotAt(spot).slot, block.kind);
  // How far a screw goes in one turn is a property of it.
  const screws = Object.values(fields).flatMap((field) => (field.type === 'quantity' ? (field.turnedBy ?? []) : []));
  return Object.entries(fields).flatMap(([id, field]) => {
    const value = block.fields[id];
    if (field.type !== 'quantity' || field.integer || typeof value !== 'object' || value === null) return [];
    if (!isInForce(block, field) || notSet.includes(field.group ?? '') || screws.includes(id)) return [];
    return [{ path: `${spot}.${id}`, title: field.title, text: withoutTolerance(value.text) }];
  });
}

/** Fields of a rig that a series may vary; what stands at the same value in all channels is one, set in all of them. */
export function variedFields(rig: Rig): VariedField[] {
  const noun = channelNoun(rig) ?? 'channel';
  const valueAt = (path: string) => quantityAt<string>(rig, path)?.value?.value;
  return setFrom.flatMap((slot) => {
    const first = fieldsAt(rig, slot);
    if (rig.channels.length < 2) return first;
    const isAlike = ({ path }: VariedField) => pathsOf(rig, path).every((one) => valueAt(one) === valueAt(path));
    const alike = first.filter(isAlike).map((one) => ({ ...one, title: `${one.title}, every ${noun}` }));
    const known = new Set(alike.map(({ path }) => path));
    return [
      ...alike,
      ...rig.channels.flatMap((_, k) =>
        fieldsAt(rig, numberedSpot(slot, k))
          .filter(({ path }) => !known.has(`${slot}.${path.split('.')[1] ?? ''}`))
          .map((one) => ({ ...one, title: `${one.title}, ${noun} ${k + 1}` })),
      ),
    ];
  });
}

/** What a varied field is called: as the list of them does, else as the rig does. */
const titleOf = (rig: Rig, path: string): string =>
  variedFields(rig).find((one) => one.path === path)?.title ?? quantityAt<string>(rig, path)?.field.title ?? path;

/** What is wrong with the levels of a field; null where nothing is. */
function wrongLevels(rig: Rig, { path, levels }: Varied): string | null {
  const at = quantityAt(rig, path);
  if (!at) return 'is no quantity of this rig';
  const { min, max, unit, title } = at.field;
  const out = levels.find((value) => !(value >= min && value <= max));
  if (out !== undefined)
    return `${title} is ${printQuantity(out, unit)}; it must be from ${printQuantity(min, unit)} to ${printQuantity(max, unit)}`;
  const twice = levels.find((value, i) => levels.slice(0, i).some((other) => Math.abs(other - value) <= 1e-9 * Math.abs(value)));
  return twice === undefined ? null : `two levels are the same: ${printQuantity(twice, unit)}`;
}

/** Points of the design, in SI values of each field. */
function pointsOf({ varied, design }: Series): number[][] {
  if (design === 'central-composite')
    return compositeValues(varied.map(({ levels }) => ({ low: Math.min(...levels), high: Math.max(...levels) })));
  return factorial(varied.map(({ levels }) => levels.length)).map((point) => point.map((i, k) => varied[k]?.levels[i] ?? NaN));
}

/** Which settings of those that were asked for can be fired, as a sentence behind the reason why not all can. */
function whatWorks(good: readonly Setting[], of: number): string {
  if (good.length === 0) return ` None of the ${of} settings can be fired: change the rig, or what else is set.`;
  return ` These can be fired: ${settingsNamed(good)}.`;
}

/** The shots in their order. */
function rowOf(settings: readonly Setting[], { order, replicates, seed }: Series): Setting[] {
  if (order !== 'as-taught') return ordered(settings, replicates, order, seed);
  const levels = settings.map(({ values }) => values.map(({ value }) => value));
  return bestSequence(levels, replicates * settings.length).flatMap((i) => settings[i] ?? []);
}

/**
 * A series of shots, planned: its settings with what is calculated of each, the order, and what fits into the sessions that people have.
 */
export function planSeries(document: RigDocument, series: Series): PlanAnswer {
  const { varied, sessions } = series;
  for (const one of varied) {
    const wrong = wrongLevels(document.rig, one);
    if (wrong !== null) return refuse(one.path, wrong);
  }
  const wrongOne = wrongStock(series.stocks ?? []);
  if (wrongOne !== null) return refuse('stock', wrongOne);
  const paths = varied.map(({ path }) => path);
  const again = paths.find((path, i) => paths.indexOf(path) < i);
  if (again !== undefined) return refuse(again, 'is varied twice');
  if (series.design === 'central-composite' && (varied.length < 2 || varied.length > 6))
    return refuse('vary', 'a central composite design has 2 to 6 fields that are varied; with one, list its levels');
  const number = varied.reduce((all, { levels }) => all * levels.length, 1);
  if (number > mostSettings) return refuse('vary', `${number} settings; at most ${mostSettings} are planned`);
  if ((series.design === 'next-best') !== (series.order === 'as-taught'))
    return refuse('order', 'shots that go where they teach the most have an order of their own, “as-taught”, and no other');
  if (series.design === 'next-best' && number < 3)
    return refuse('vary', 'to go where a shot teaches the most there must be 3 settings or more');
  const found = pointsOf(series).map((point) => settingOf(document, series, point));
  const wrong = found.find((one) => typeof one === 'string');
  const asked = found.filter((one) => typeof one !== 'string');
  if (typeof wrong === 'string')
    return refuse(
      'vary',
      `${wrong}${/[.?!]$/.test(wrong) ? '' : '.'}${whatWorks(
        asked.map(({ setting }) => setting),
        found.length,
      )}`,
    );
  const settings = asked.map(({ setting }) => setting);
  const evaluation = evaluateRig(document.rig);
  const sheet = runSheetOf(document.name, evaluation, document.sheet);
  if (!sheet.ok) return refuse('rig', sheet.reason);
  const { before, after } = sheetTime(evaluation, sheet.sheet);
  const least = Math.min(...settings.map(({ seconds }) => seconds));
  const short = sessions.find(({ seconds }) => seconds < before + changeSeconds + least + after);
  if (short)
    return refuse(
      'session',
      `of ${Math.round(short.seconds / 60)} min has no room for one shot: preparing takes ${Math.ceil(before / 60)} min, a shot ${Math.ceil((least + changeSeconds) / 60)} min, handing over ${Math.ceil(after / 60)} min`,
    );
  const row = rowOf(settings, series);
  const life = row.reduce<number | null>((sum, { life: n }) => (sum === null || n === null ? null : sum + 1 / n), 0);
  if (life !== null && life > 1)
    return refuse(
      'repeat',
      `${row.length} shots take ${life.toFixed(1)} times what the capacitors live: fewer, or at less voltage`,
    );
  const work = row.map((setting) => ({
    of: setting,
    seconds: setting.seconds + setting.rest,
    change: changeSeconds,
    setting: setting.values.map(({ path, text }) => `${path}=${text}`).join(),
  }));
  return {
    ok: true,
    plan: {
      settings,
      row: row.map((one) => settings.indexOf(one)),
      shots: row.length,
      before,
      after,
      schedule: schedule(work, sessions, { before, after }),
      stocks: stocksOf(asked, series.stocks ?? []).map((stock) => {
        const { shots, needed } = lastingFor(
          row.map(({ uses }) => uses[stock.id] ?? 0),
          stock.onHand ?? Infinity,
        );
        return { stock, needed, lastsFor: shots };
      }),
      life,
    },
  };
}
