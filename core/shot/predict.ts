import type { FigureId } from '../block/index.ts';
import { ifKnown, RigReading } from '../figure/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { blockIn, quantityAt, withBlock, withTrialValue, type Rig } from '../rig/index.ts';
import { launchStudy, predictedNumbers } from '../study/index.ts';
import { ofTheAir, type MeasureId, type Values } from './shot.ts';

/** Fields of a rig that a setting of a shot stands in the place of. */
const places: Readonly<Partial<Record<MeasureId, string>>> = {
  voltage: 'store.V0',
  spacing: 'switch.d',
  pressure: 'switch.p',
  airPressure: 'air.pa',
  airTemperature: 'air.Ta',
  humidity: 'air.rh',
};

/** By what name a shot has the setting of a field; undefined where it has none. */
export const measureAt = (path: string): MeasureId | undefined =>
  (Object.keys(places) as MeasureId[]).find((id) => places[id] === path);

/** Where the air was read at a shot, a rig that stands in air of the day by a barometer; what was not read is as the rig has it. */
function inAirAsRead(rig: Rig, set: Values): Rig {
  if (ofTheAir.every((id) => set[id] === undefined)) return rig;
  const air = blockIn(rig, 'air');
  const day = air.kind === 'day' ? air : newBlock(blockDefinition('air', 'day'));
  const by = set.airPressure === undefined ? (day.fields['by'] ?? 'barometer') : 'barometer';
  return withBlock(rig, 'air', { ...day, fields: { ...day.fields, by } });
}

/** The rig as it was set for a shot. Settings that the rig has no field for change nothing. */
export function rigAsSet(rig: Rig, set: Values): Rig {
  return Object.entries(places).reduce(
    (made, [measure, path]) => {
      const value = set[measure as MeasureId];
      return value === undefined || value === 0 || !quantityAt(made, path) ? made : withTrialValue(made, path, value);
    },
    inAirAsRead(rig, set),
  );
}

/** A number that can be had and is one. */
const known = (get: () => number): number | undefined => {
  const value = ifKnown(get);
  return value !== null && Number.isFinite(value) ? value : undefined;
};

const between = (low: number | undefined, high: number | undefined) =>
  low === undefined || high === undefined ? undefined : (low + high) / 2;

/** What is calculated for a shot with these settings: the same numbers that its pages show. */
export function predictShot(rig: Rig, set: Values): Values {
  const made = rigAsSet(rig, set);
  const reading = new RigReading(made);
  const figure = (id: FigureId) => known(() => reading.figure(id).value);
  const launch = ifKnown(() => launchStudy(made, printQuantity));
  const shot = launch ? { current: launch.peakCurrent, time: launch.timeToPeak } : predictedNumbers(made);
  const values: Record<string, number | undefined> = {
    voltage: known(() => reading.offer('chargedTo').value),
    current: shot.current ?? undefined,
    time: shot.time ?? undefined,
    spark: figure('spark-length') ?? between(figure('spark-length-short'), figure('spark-length-long')),
    speed: known(() => launch?.muzzle.speed ?? NaN),
  };
  return Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined)) as Values;
}
