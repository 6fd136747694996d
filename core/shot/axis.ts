import { printOwn } from '../field/index.ts';
import { printMargin, printQuantity, type UnitId } from '../quantity/index.ts';
import { measurable, measures, settable, settingTitle, type MeasureId, type Shot, type Values } from './shot.ts';

/** What a series of shots is drawn over, or against: a setting, a measure, or a quantity of one's own. */
export interface Axis {
  readonly key: string;
  readonly title: string;
  /** The same without its unit, in a sentence. */
  readonly name: string;
  readonly of: (shot: Shot) => number | undefined;
  /** What was calculated of it; of settings and one's own quantities nothing is. */
  readonly predicted: (predicted: Values) => number | undefined;
  /** `like`: beside others on a scale, in the prefix of this one and without zeros at its end. */
  readonly print: (value: number, like?: number) => string;
  readonly printMargin: (value: number, margin: number) => string;
}

const printedIn = (unit: UnitId): Pick<Axis, 'print' | 'printMargin'> => ({
  print: (value, like) => printQuantity(value, unit, like === undefined ? {} : { trim: true, like }),
  printMargin: (value, margin) => printMargin(value, margin, unit),
});

const none = (): undefined => undefined;

const ofSetting = (id: MeasureId): Axis => ({
  key: `set-${id}`,
  title: settingTitle(id),
  name: settingTitle(id),
  of: (shot) => shot.set[id],
  predicted: none,
  ...printedIn(measures[id].unit),
});

const ofMeasure = (id: MeasureId): Axis => ({
  key: id,
  title: measures[id].title,
  name: measures[id].title,
  of: (shot) => shot.measured[id],
  predicted: (predicted) => predicted[id],
  ...printedIn(measures[id].unit),
});

/** One name in two units is two quantities: nothing says that they can be laid over each other. */
const keyOf = ({ name, unit }: { readonly name: string; readonly unit: string }): string =>
  `own-${name.trim().toLowerCase()}/${unit.trim()}`;

/** A quantity that people named themselves, in the unit that they gave it. */
export interface OwnAxis extends Axis {
  readonly unit: string;
}

const ofOwn = (name: string, unit: string): OwnAxis => {
  const key = keyOf({ name, unit });
  return {
    key,
    name,
    unit,
    title: unit === '1' ? name : `${name}, ${unit}`,
    of: (shot) => shot.own.find((one) => keyOf(one) === key)?.value,
    predicted: none,
    print: (value) => printOwn(value, unit),
    printMargin: (value, margin) => {
      // Digits that the margin leaves none of say nothing.
      const places = Math.max(0, Math.min(12, 1 - Math.floor(Math.log10(margin || 1))));
      return `${printOwn(Number(value.toFixed(places)), '1')} ± ${printOwn(Number(margin.toPrecision(2)), unit)}`;
    },
  };
};

/** Quantities of their own that these shots have, each once, the first that was entered first. */
export function ownIn(shots: readonly Shot[]): { readonly name: string; readonly unit: string }[] {
  const found = new Map<string, { name: string; unit: string }>();
  for (const shot of shots)
    for (const { name, unit } of shot.own) {
      const key = keyOf({ name, unit });
      if (!found.has(key)) found.set(key, { name: name.trim(), unit: unit.trim() });
    }
  return [...found.values()];
}

/** An axis for each of these: what a table of shots has a column of. */
export const ownAxes = (shots: readonly Shot[]): readonly OwnAxis[] => ownIn(shots).map(({ name, unit }) => ofOwn(name, unit));

/**
 * What these shots can be drawn over, and what against it: every setting, measure and quantity of their own that one of them has.
 */
export function axesOf(shots: readonly Shot[]): { readonly over: readonly Axis[]; readonly against: readonly Axis[] } {
  const has = ({ of }: Axis): boolean => shots.some((shot) => of(shot) !== undefined);
  const settings = settable.map(ofSetting).filter(has);
  const measured = measurable.map(ofMeasure).filter(has);
  const own = ownAxes(shots);
  return { over: [...settings, ...own, ...measured], against: [...measured, ...own] };
}

/** The axis of a measure, or of a quantity that people named. */
export const axisOf = (what: { readonly measure: MeasureId } | { readonly name: string; readonly unit: string }): Axis =>
  'measure' in what ? ofMeasure(what.measure) : ofOwn(what.name, what.unit);
