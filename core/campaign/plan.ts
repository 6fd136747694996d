import { evaluateRig } from '../evaluation/index.ts';
import { ifKnown } from '../figure/index.ts';
import { printExact, printQuantity } from '../quantity/index.ts';
import { blockDefinition, isInForce } from '../kind/index.ts';
import { blockIn, quantityAt, withTrialValue, type Rig, type RigDocument } from '../rig/index.ts';
import { runSheetOf, verdictWords, type Verdict } from '../runsheet/index.ts';
import { predictShot, type Values } from '../shot/index.ts';
import { compositeValues, factorial, ordered, type designs, type orders } from './design.ts';
import { schedule, type Schedule, type Session } from './schedule.ts';
import { changeSeconds, sheetTime } from './time.ts';

/** A field that is varied, with the levels it takes, SI. */
export interface Varied {
  readonly path: string;
  readonly levels: readonly number[];
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
}

/** One setting of a series. */
export interface Setting {
  readonly values: readonly { readonly path: string; readonly title: string; readonly text: string; readonly value: number }[];
  readonly predicted: Values;
  /** s from the strap off to the strap on. */
  readonly seconds: number;
  /** Shots that the capacitors last at it; null where no life is rated. */
  readonly life: number | null;
}

export interface CampaignPlan {
  readonly settings: readonly Setting[];
  /** Shot by shot: which setting. */
  readonly row: readonly number[];
  readonly shots: number;
  readonly before: number;
  readonly after: number;
  readonly schedule: Schedule<Setting>;
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
  values.reduce((made, { path, value }) => withTrialValue(made, path, value), rig);

function settingOf(document: RigDocument, varied: readonly Varied[], point: readonly number[]): Setting | string {
  const values = varied.map(({ path }, i) => ({ path, value: point[i] ?? NaN }));
  const rig = rigAtSetting(document.rig, values);
  const evaluation = evaluateRig(rig);
  const made = runSheetOf(document.name, evaluation, document.sheet);
  const shown = values.map(({ path, value }) => {
    const at = quantityAt(rig, path);
    return { path, title: at?.field.title ?? path, text: at ? printExact(value, at.field.unit) : String(value), value };
  });
  const named = shown.map(({ title, text }) => `${title} ${text}`).join(', ');
  if (!made.ok) return `${named}: ${made.reason}`;
  const { word, because } = made.sheet.verdict;
  // A series is fired: what its run sheet holds back is no setting of it.
  if (word !== 'go at most') return `${named}: ${word}. ${because}`;
  return {
    values: shown,
    predicted: predictShot(rig, {}),
    seconds: sheetTime(evaluation, made.sheet).each,
    life: ifKnown(() => evaluation.corners.nominal().figure('life-shots').value),
  };
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

/** Fields of a rig that a series may vary, with what they stand at. */
export const variedFields = (rig: Rig): { readonly path: string; readonly title: string; readonly text: string }[] =>
  setFrom.flatMap((slot) => {
    const block = blockIn(rig, slot);
    const { fields } = blockDefinition(slot, block.kind);
    return Object.entries(fields).flatMap(([id, field]) => {
      const value = block.fields[id];
      if (field.type !== 'quantity' || field.integer || typeof value !== 'object' || value === null) return [];
      if (!isInForce(block, field) || notSet.includes(field.group ?? '')) return [];
      return [{ path: `${slot}.${id}`, title: field.title, text: value.text.split('±')[0]?.trim() ?? '' }];
    });
  });

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

/**
 * A series of shots, planned: its settings with what is calculated of each, the order, and what fits into the sessions that people have.
 */
export function planSeries(document: RigDocument, series: Series): PlanAnswer {
  const { varied, replicates, sessions } = series;
  for (const one of varied) {
    const wrong = wrongLevels(document.rig, one);
    if (wrong !== null) return refuse(one.path, wrong);
  }
  const paths = varied.map(({ path }) => path);
  const again = paths.find((path, i) => paths.indexOf(path) < i);
  if (again !== undefined) return refuse(again, 'is varied twice');
  if (series.design === 'central-composite' && (varied.length < 2 || varied.length > 6))
    return refuse('vary', 'a central composite design has 2 to 6 fields that are varied; with one, list its levels');
  const number = varied.reduce((all, { levels }) => all * levels.length, 1);
  if (number > mostSettings) return refuse('vary', `${number} settings; at most ${mostSettings} are planned`);
  const found = pointsOf(series).map((point) => settingOf(document, varied, point));
  const wrong = found.find((one) => typeof one === 'string');
  if (typeof wrong === 'string') return refuse('vary', wrong);
  const settings = found.filter((one) => typeof one !== 'string');
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
  const row = ordered(settings, replicates, series.order, series.seed);
  const life = settings.reduce<number | null>(
    (sum, { life: n }) => (sum === null || n === null ? null : sum + replicates / n),
    0,
  );
  if (life !== null && life > 1)
    return refuse(
      'repeat',
      `${row.length} shots take ${life.toFixed(1)} times what the capacitors live: fewer, or at less voltage`,
    );
  const work = row.map((setting) => ({
    of: setting,
    seconds: setting.seconds + series.rest,
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
      life,
    },
  };
}
