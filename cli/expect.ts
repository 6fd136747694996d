import { fieldIssues, wordFileIssue } from '@vast-surge/core/format';
import { printFixed, printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import {
  calibrationsOf,
  causeOf,
  measures,
  predictShot,
  ratesOf,
  shotSchema,
  type Calibration,
  type Rate,
  type Shot,
} from '@vast-surge/core/shot';
import { readJson, UsageError } from './usage.ts';

/** More shots than a rig fires between two rebuilds. */
const mostShots = 2000;

/** Shots as the shot log exports them. @throws UsageError naming what cannot be read */
export function readShots(text: string): Shot[] {
  const data = readJson('SHOTS.json', text);
  const { format, version, shots } = Object(data) as Record<string, unknown>;
  if (format !== 'vast-surge-shots' || version !== 1 || !Array.isArray(shots))
    throw new UsageError(
      'SHOTS.json: must be what the shot log saves as JSON, with "format": "vast-surge-shots" and "version": 1',
    );
  if (shots.length > mostShots) throw new UsageError(`SHOTS.json has ${shots.length} shots; at most ${mostShots} are read`);
  return shots.map((one: unknown, i) => {
    const read = shotSchema.safeParse((Object(one) as Record<string, unknown>)['shot']);
    if (read.success) return read.data;
    throw new UsageError(`SHOTS.json, shot ${i + 1}: ${fieldIssues(read.error).map(wordFileIssue).join('; ').slice(0, 300)}`);
  });
}

const rate = ({ came, of, low, high }: Rate): string =>
  `${came} of ${of} (90 %: ${printPercent(low, 2)} to ${printPercent(high, 2)})`;

/** What the shots of a rig teach of it, and what its next one is expected to be; every shot is taken to be of the rig as it is. */
export function expectNext({ name, rig }: RigDocument, shots: readonly Shot[], asJson: boolean): string {
  const now = predictShot(rig, {});
  const found = calibrationsOf(shots.map((shot) => ({ shot, predicted: predictShot(rig, shot.set) })));
  const rates = ratesOf(shots);
  const next = ({ measure, next: f }: Calibration) => {
    const c = now[measure];
    return c === undefined ? null : { calculated: c, expected: c * f.middle, low: c * f.low, high: c * f.high };
  };
  if (asJson)
    return JSON.stringify(
      { name, measures: found.map((one) => ({ ...one, next: next(one) })), rates, cause: causeOf(found) },
      null,
      2,
    );
  const lines = found.flatMap((one) => {
    const { unit, title } = measures[one.measure];
    const to = next(one);
    const inside = one.scored.filter(({ isInside }) => isInside).length;
    const print = (x: number) => printQuantity(x, unit);
    return [
      `  ${title.padEnd(24)} ${to ? `expected ${print(to.expected)} (90 %: ${print(to.low)} to ${print(to.high)}), calculated ${print(to.calculated)}` : 'not calculated'}`,
      `  ${''.padEnd(24)} measured over calculated ${printFixed(one.bias.middle, 3)} (${printFixed(one.bias.low, 3)} to ${printFixed(one.bias.high, 3)}), scatter ${printPercent(one.scatter, 2)}, ${inside} of ${one.scored.length} inside the band told before`,
      ...one.misread.map(
        ({ at, measured }) => `  ${''.padEnd(24)} not counted, far from all others: ${print(measured)} at ${at}`,
      ),
      ...(one.drift
        ? [
            `  ${''.padEnd(24)} HAS CHANGED: the last ${one.drift.shots} shots are at ${printFixed(one.drift.factor, 2)} of what the ones before lead to expect`,
          ]
        : []),
    ];
  });
  const cause = causeOf(found);
  return [
    `${name}: the next shot as it is set, from ${shots.length} ${shots.length === 1 ? 'shot' : 'shots'}`,
    ...(lines.length > 0 ? lines : ['  nothing that was measured of these shots is calculated of this rig']),
    ...(cause === null ? [] : [`  Likely: ${cause} Common practice, no source: look, with the strap on.`]),
    ...(rates ? [`  misfires ${rate(rates.misfire)}; pre-fires ${rate(rates.preFire)}`] : []),
  ].join('\n');
}
