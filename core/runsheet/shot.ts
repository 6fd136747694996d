import type { Evaluation } from '../evaluation/index.ts';
import { figureIn } from '../evaluation/index.ts';
import { ifKnown, type RigReading } from '../figure/index.ts';
import { highestVoltage } from '../block/index.ts';
import { boundsOf, ruled } from '../formula/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import type { Step } from './step.ts';

/** What the time that people need makes of the voltage of a shot. */
export interface ShotTime {
  /** V at the shot: what the sheet says it lies between. */
  readonly low: number;
  readonly high: number;
  /** s from the supply off within which it is fired; null where it is not isolated before it fires. */
  readonly within: number | null;
  /** s that the steps from the supply off to the shot take. */
  readonly needed: number;
  /** V after those seconds. */
  readonly expected: number;
  /** s in which the voltage falls to 1/e once the supply is off. */
  readonly tau: number;
  /** s from the first store charged to the last, at most; null where there is one. */
  readonly turns: number | null;
  /** V of every store at the end of each step from the charge to the shot, the first charged first. */
  readonly course: readonly { readonly step: string; readonly volts: readonly number[] }[];
  /** Why this cannot be carried out as it stands; null where it can. */
  readonly against: string | null;
  /** What would mend a loss of more than 5 %, each with its number. */
  readonly mends: readonly string[];
}

/** Share of the voltage that the time of people may cost before the sheet says so; and what a band must keep of its upper end to say anything. */
const mostLoss = 0.05;
const leastShare = 0.62;
/** s: nobody is told a shorter time to act in, and none longer. Common practice, no source. */
const [shortest, longest] = [10, 300] as const;

/** s in which a voltage falls to a share of itself. */
const fallsTo = (share: number, tau: number): number => -Math.log(share) * tau;

const twoDigitsDown = (value: number): number => {
  const step = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Number((Math.floor(value / step + 1e-9) * step).toPrecision(2));
};

/** What would keep more of the voltage. */
function mendsOf(reading: RigReading, needed: number, tau: number): string[] {
  const { bleedResistance, isSwitched } = reading.offers('bleeder');
  const R = isSwitched ? undefined : bleedResistance?.value;
  const bleedTime = ifKnown(() => reading.figure('bleed-time').value);
  const C = ifKnown(() => reading.figure('bank-capacitance').value) ?? 0;
  const allowed = needed / -Math.log(1 - mostLoss);
  // What falls besides the bleeder: its rate is what is left when that of the bleeder is taken away.
  const goalTime = bleedTime === null ? null : ifKnown(() => reading.figure('bleed-time-tenth').value / Math.LN10);
  const rest = goalTime === null ? 1 / tau : Math.max(0, 1 / tau - 1 / goalTime);
  // First what keeps it whoever acts, then what people do.
  const ofPeople = [
    `Isolate from outside the guard with one switch under the same hand as the trigger: ${printDuration(fallsTo(1 - mostLoss, tau))} cost 5 %.`,
    `Fewer acts between supply off and the shot: half of them, ${printDuration(needed / 2)}, cost ${(100 * -Math.expm1(-needed / 2 / tau)).toFixed(0)} %.`,
  ];
  const lines: string[] = [];
  if (R !== undefined && goalTime !== null && bleedTime !== null) {
    const kept = Math.exp(-needed * rest);
    lines.push(
      `A bleeder held off during the charge, connecting when power fails: only ${(100 * (1 - kept)).toFixed(kept > 0.99 ? 1 : 0)} % would be lost.`,
    );
    const rate = 1 / allowed - rest;
    if (rate > 0) {
      const factor = 1 / goalTime / rate;
      lines.push(
        `A slower bleeder: ${printQuantity(R * factor, 'Ω', { digits: 2 })} lose 5 %, and take ${printDuration(bleedTime * factor)} to the goal.`,
      );
    }
  } else if (C > 0) {
    // Leakage goes on beside the meter: what it leaves of the allowed rate is the meter's.
    const leak = ifKnown(() => reading.figure('bleed-time-open-tenth').value / Math.LN10) ?? Infinity;
    const rate = 1 / allowed - 1 / leak;
    const leaks = `${(100 * (1 - Math.exp(-needed / leak))).toFixed(1)} %`;
    lines.push(
      rate > 0
        ? `A meter of more resistance: ${printQuantity(1 / (C * rate), 'Ω', { digits: 2 })} lose 5 % together with what leaks.`
        : `A meter of far more resistance, or none between the supply off and the shot: leakage alone then takes ${leaks}.`,
    );
  }
  return [...lines, ...ofPeople];
}

/** s from one store charged to the next one under way: the switch-over and the word for it. Common practice, no source. */
const switchOver = 30;

/** What each of several stores stands at, step by step: those charged first fall while the others are charged. */
function courseOf(main: readonly Step[], V0: number, tau: number, others: number, each: number): ShotTime['course'] {
  const from = main.findIndex((s) => s.does === 'charge');
  const to = main.findIndex((s) => s.does === 'fire');
  if (from < 0 || to < from) return [];
  let passed = 0;
  return main.slice(from, to).map((step, i) => {
    // Charging ends with the last of them full; from there on all of them fall.
    if (i > 0) passed += step.seconds + (step.wait ?? 0);
    const volts = Array.from({ length: others + 1 }, (_, k) => V0 * Math.exp(-(passed + (others - k) * each) / tau));
    return { step: step.id, volts };
  });
}

/** s that pass from the supply off to the shot, step by step. */
function neededOf(main: readonly Step[]): number {
  const from = main.findIndex((s) => s.does === 'isolate');
  const to = main.findIndex((s) => s.does === 'fire');
  return from < 0 || to < from ? 0 : main.slice(from, to + 1).reduce((sum, s) => sum + s.seconds + (s.wait ?? 0), 0);
}

/** The same where it fires before it is isolated: at the self-break of the gap. */
function byItself(evaluation: Evaluation, reading: RigReading): ShotTime {
  const V = reading.offer('chargedTo');
  const scatter = ifKnown(() => reading.offer('gapScatter').value) ?? 0;
  const band = evaluation.corners.bandOf((r) => r.offer('chargedTo'));
  const set = boundsOf(reading.offers('store').setTo ?? V);
  const [low, high] = [band.low * (1 - 3 * scatter), Math.min(band.high * (1 + 3 * scatter), Math.max(set.high, band.high))];
  // Set below all that the gap may stand it is raised, and waited for, and nothing comes.
  const stands = reading.offers('switch').freeRunning ? undefined : figureIn(evaluation, 'self-break');
  const against =
    stands && stands.band.low > set.high
      ? `The gap holds ${printQuantity(stands.worked.value, 'V')} and ${printQuantity(V.value, 'V')} is set: it does not self-break. Close it, or set a higher voltage.`
      : low >= 0.6 * high
        ? null
        : `The gap fires anywhere from ${printQuantity(low, 'V')} to ${printQuantity(high, 'V')}: do not fire a shot that is no better known.`;
  return { low, high, within: null, needed: 0, expected: V.value, tau: Infinity, turns: null, course: [], against, mends: [] };
}

/** s that the store of another channel takes to charge: at a corner it may never come to its voltage, and people wait twice the usual time. */
function chargeOf({ corners }: Evaluation, channel: number): { nominal: number; most: number } {
  const time = (reading: ReturnType<typeof corners.nominal>) => (reading.channels()[channel] ?? reading).figure('charge-time');
  const nominal = ifKnown(() => time(corners.nominal()).value) ?? 0;
  return { nominal, most: nominal > 0 ? Math.min(corners.bandOf(time).high, 2 * nominal) : 0 };
}

/**
 * The voltage at the shot, with the band that the time of people makes.
 *
 * @param main the steps as they are done, each with its seconds
 */
export function shotTimeOf(evaluation: Evaluation, main: readonly Step[]): ShotTime {
  const reading = evaluation.corners.nominal();
  const { firedBy, freeRunning } = reading.offers('switch');
  if (firedBy === 'itself' || freeRunning) return byItself(evaluation, reading);
  const V0 = reading.offer('chargedTo').value;
  const fall = figureIn(evaluation, 'fall-constant');
  const [tau, fastest] = [fall?.worked.value ?? Infinity, fall?.band.low ?? Infinity];
  // A trigger that takes the charger off itself holds the store full until it is pressed.
  const drop = reading.offers('trigger').dropsCharger?.value ?? null;
  const needed = drop ?? neededOf(main);
  // Stores that are charged before the one drawn fall while it is charged: each takes its own time, and a person to change over.
  const channels = reading.channels();
  const others = channels.length - 1;
  const turn = main.find((s) => s.does === 'charge')?.seconds ?? 0;
  const charges = channels.flatMap((channel, k) => (channel === reading ? [] : [chargeOf(evaluation, k)]));
  const waiting = charges.reduce((sum, { most }) => sum + Math.max(switchOver, 2 * turn) + most, 0);
  const cap = Math.max(0.1, fallsTo(leastShare, fastest) - waiting);
  const wanted = Math.min(longest, Math.max(shortest, 4 * needed, fallsTo(1 - mostLoss, fastest)));
  const within = drop === null ? twoDigitsDown(Math.min(wanted, cap)) : null;
  const low = V0 * Math.exp(-((within ?? needed) + waiting) / fastest);
  const each = turn + (others === 0 ? 0 : charges.reduce((sum, { nominal }) => sum + nominal, 0) / others);
  const passes = needed + others * each;
  const expected = V0 * Math.exp(-passes / tau);
  const lost = 1 - expected / V0;
  const says = `Supply off to the shot takes ${printDuration(needed)}${others > 0 ? `, and the first store waits for ${others} more` : ''}`;
  const against =
    (within !== null && needed > within) || low < 0.6 * V0
      ? `${says}: ${printQuantity(V0, 'V')} falls to ${printQuantity(expected, 'V')}, worst case ${printQuantity(V0 * Math.exp(-(needed + waiting) / fastest), 'V')}. A shot needs at least 60 % of its charge, so this sheet cannot be carried out.`
      : null;
  return {
    low,
    // On until it is pressed, a charger without a cut-off takes the store on.
    high:
      drop === null
        ? V0
        : Math.max(
            V0,
            evaluation.corners.bandOf((r) => ruled('highest voltage', highestVoltage(r), 'V', 'what the supply can reach')).high,
          ),
    within,
    needed,
    expected,
    tau,
    turns: others === 0 ? null : waiting,
    course: courseOf(main, V0, tau, others, each),
    against,
    mends: lost > mostLoss ? mendsOf(reading, passes, tau) : [],
  };
}

/** Why nothing reads the store while it is charged; null where something does. */
export function blindness(evaluation: Evaluation, most: number | null): string | null {
  const V0 = evaluation.corners.nominal().offer('chargedTo').value;
  if (most !== null && most >= V0) return null;
  return `Nothing on this rig reads ${printQuantity(V0, 'V')}${most === null ? '' : `: maximum input of its meter ${printQuantity(most, 'V', { trim: true })}`}. Do not go on blind: fit a divider rated for it.`;
}
