import { edge } from '../../numeric/index.ts';
import { setVoltage } from '../../block/index.ts';
import { gapCertainty, readObserved, triggeredFrom, triggeredTo, type Observed } from '../../kind/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { studentFactor } from '../../fit/index.ts';
import type { Certainty } from '../../formula/index.ts';
import { printAsTyped } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';

/** How a study prints its numbers. */
export type GapPrint = (value: number, unit: 'V' | 'm' | 'Pa') => string;

/** What a gap is drawn against. */
export type GapAxis = 'd' | 'p';

/** Self-break along an axis, with its band: of the calculation, the tolerances left out, and of the scatter. */
export interface GapCurve {
  readonly x: Float64Array;
  /** V; NaN where no table or formula holds */
  readonly mean: Float64Array;
  readonly low: Float64Array;
  readonly high: Float64Array;
}

/** What observed breakdowns say of a gap. */
export interface GapFit {
  /** Field enhancement that brings the calculation to their mean. */
  readonly enhancement: number;
  /** How sure that is: 95 %, as a fraction of it; null of one breakdown alone. */
  readonly uncertainty: number | null;
  /** Standard deviation of single breakdowns over their mean; null below three of them. */
  readonly scatter: number | null;
  readonly used: number;
}

export interface GapPoint extends Observed {
  /** Where it lies on either axis. */
  readonly d: number;
  readonly p: number;
  /** Self-break as calculated for how the gap stood then, V; null where no table or formula holds there. */
  readonly calculated: number | null;
}

export interface GapStudy {
  readonly selfBreak: number;
  /** What the calculation of the self-break is worth where the gap stands, beside the tolerances that were entered. */
  readonly certainty: Certainty;
  /** Voltage it is charged to, V. */
  readonly charged: number;
  readonly triggered: boolean;
  /** Where common practice sets a triggered gap: spacings or pressures are those that bring it there. */
  readonly window: { readonly low: number; readonly high: number };
  readonly points: readonly GapPoint[];
  readonly fit: GapFit | null;
  readonly advice: readonly string[];
  /** Settings at which the gap stands in the middle of its window, or breaks at the charge voltage; null where there is none. */
  readonly wanted: { readonly d: number | null; readonly p: number | null };
}

type Setting = readonly (readonly [string, number])[];

const at = (rig: Rig, values: Setting): number | null =>
  ifKnown(() => new RigReading(rig, new Map(values)).figure('self-break').value);
const certaintyAt = (rig: Rig, values: Setting): Certainty | null =>
  ifKnown(() => gapCertainty(new RigReading(rig, new Map(values)).own('switch')));

/** Self-break of the rig's gap against its spacing or its pressure, in so many points between two values. */
export function gapCurve(rig: Rig, axis: GapAxis, from: number, to: number, points = 160): GapCurve {
  const spread = 3 * new RigReading(rig).own('switch').quantity('sc').value;
  const x = Float64Array.from({ length: points }, (_, i) => from + ((to - from) * i) / (points - 1));
  const mean = x.map((value) => at(rig, [[`switch.${axis}`, value]]) ?? NaN);
  const band = x.map((value) => certaintyAt(rig, [[`switch.${axis}`, value]])?.band ?? NaN);
  return {
    x,
    mean,
    low: mean.map((V, i) => V * (1 - (band[i] ?? NaN)) * (1 - spread)),
    high: mean.map((V, i) => V * (1 + (band[i] ?? NaN)) * (1 + spread)),
  };
}

/** The value of an axis at which the self-break is a voltage, within a factor of 30 of what is set; null where there is none. */
function settingFor(rig: Rig, axis: GapAxis, V: number): number | null {
  const set = new RigReading(rig).own('switch').quantity(axis).value;
  const gauge = axis === 'p';
  let low = gauge ? 0 : set / 30;
  let high = gauge ? Math.max(1e6, set * 10) : set * 30;
  const of = (x: number) => at(rig, [[`switch.${axis}`, x]]);
  // Tables end: the bracket is drawn in until both of its ends have a voltage.
  for (let i = 0; i < 60 && of(low) === null && low < high; i++) low = gauge ? low + high / 200 : low * 1.1;
  for (let i = 0; i < 200 && of(high) === null && high > low; i++) high = gauge ? high * 0.96 : high / 1.05;
  const [bottom, top] = [of(low), of(high)];
  if (bottom === null || top === null || bottom > V || top < V) return null;
  return edge((x) => (of(x) ?? Infinity) <= V, low, high, { rounds: 60 }).middle;
}

function fitOf(points: readonly GapPoint[], enhancement: number): GapFit | null {
  const known = points.filter((point): point is GapPoint & { calculated: number } => point.calculated !== null);
  if (known.length === 0) return null;
  // What is calculated has the enhancement that is set in it.
  const ratios = known.map(({ V, calculated }) => V / calculated);
  const mean = ratios.reduce((a, b) => a + b, 0) / ratios.length;
  const deviation =
    ratios.length > 1 ? Math.sqrt(ratios.reduce((sum, r) => sum + (r - mean) ** 2, 0) / (ratios.length - 1)) / mean : null;
  return {
    enhancement: enhancement / mean,
    uncertainty: deviation === null ? null : (studentFactor(ratios.length - 1) * deviation) / Math.sqrt(ratios.length),
    scatter: ratios.length >= 3 ? deviation : null,
    used: ratios.length,
  };
}

/** How lengths and pressures of a gap are printed: in the units in which its spacing and its pressure were typed. */
export function gapPrint(rig: Rig, print: GapPrint): GapPrint {
  const own = new RigReading(rig).own('switch');
  const [d, p] = [own.typed('d'), own.typed('p')];
  return (value, unit) =>
    unit === 'm' ? printAsTyped(value, unit, d) : unit === 'Pa' ? printAsTyped(value, unit, p) : print(value, unit);
}

/** "open the gap by 0.8 mm", "raise the pressure by 12 kPa": what brings the gap to a setting. */
function adviceOf(study: Omit<GapStudy, 'advice'>, set: { d: number; p: number }, print: GapPrint): string[] {
  const { selfBreak: Vb, charged, triggered, window, wanted } = study;
  const share = `${((charged / Vb) * 100).toFixed(0)} % of self-break`;
  const aim = triggered ? (window.low + window.high) / 2 : charged;
  const ways: string[] = [];
  if (wanted.d !== null && Math.abs(wanted.d / set.d - 1) > 5e-3)
    ways.push(
      `${wanted.d > set.d ? 'open' : 'close'} the gap by ${print(Math.abs(wanted.d - set.d), 'm')}, to ${print(wanted.d, 'm')}`,
    );
  if (wanted.p !== null && Math.abs(wanted.p - set.p) > 500)
    ways.push(
      `${wanted.p > set.p ? 'raise' : 'lower'} the pressure by ${print(Math.abs(wanted.p - set.p), 'Pa')}, to ${print(wanted.p, 'Pa')}`,
    );
  const do_ = ways.length > 0 ? ` To bring its self-break to ${print(aim, 'V')}: ${ways.join(', or ')}.` : '';
  if (!triggered)
    return [
      charged < Vb * 0.99
        ? `It does not fire at ${print(charged, 'V')}, which is ${share}.${do_}`
        : charged > Vb * 1.01
          ? `It fires at ${print(Vb, 'V')}, before the store has its ${print(charged, 'V')}.${do_}`
          : `It fires at about the ${print(charged, 'V')} of the store.`,
    ];
  const x = charged / Vb;
  if (x >= 1) return [`It self-breaks at ${print(Vb, 'V')}, before it is triggered at ${print(charged, 'V')}.${do_}`];
  if (x > charged / window.low) return [`At ${share} it may pre-fire while one waits: back it off.${do_}`];
  if (x < charged / window.high) return [`At ${share} the trigger may miss: bring it nearer.${do_}`];
  return [
    charged / window.low < triggeredTo.value
      ? `It is at ${share}: within common practice, and three times its scatter below self-break.`
      : `It is at ${share}, within the 70 to 85 % of common practice.`,
  ];
}

/** Pressure of an observed breakdown as the gap reads its own, Pa; null where none was said. */
function pressureOf({ p, reading }: Observed, reads: 'gauge' | 'absolute', air: number): number | null {
  if (p === null || reading === null || reading === reads) return p;
  return reading === 'absolute' ? p - air : p + air;
}

/**
 * A spark gap as it is set, what was observed of it, and what to turn.
 *
 * @returns null where the switch of the rig is no spark gap or its setting has no table
 */
export function gapStudy(rig: Rig, print: GapPrint): GapStudy | null {
  const selfBreak = at(rig, []);
  if (selfBreak === null) return null;
  const reading = new RigReading(rig);
  const own = reading.own('switch');
  const charged = setVoltage(reading).value;
  const triggered = own.is('mode', 'triggered');
  const set = { d: own.quantity('d').value, p: own.quantity('p').value };
  const reads = own.is('reading', 'absolute') ? 'absolute' : 'gauge';
  const read = readObserved(own.lines('seen'));
  const points = (read.ok ? read.observed : []).map((seen): GapPoint => {
    const [d, p] = [seen.d ?? set.d, pressureOf(seen, reads, own.air().pressure.value) ?? set.p];
    return {
      ...seen,
      d,
      p,
      calculated: at(rig, [
        ['switch.d', d],
        ['switch.p', p],
      ]),
    };
  });
  // Its own scatter may ask for more distance from self-break than practice does.
  const nearest = Math.min(triggeredTo.value, 1 - 3 * own.quantity('sc').value);
  const window = { low: charged / Math.max(nearest, 0.3), high: charged / Math.min(triggeredFrom.value, Math.max(nearest, 0.3)) };
  const aim = triggered ? (window.low + window.high) / 2 : charged;
  const study = {
    selfBreak,
    certainty: gapCertainty(own),
    charged,
    triggered,
    window,
    points,
    fit: fitOf(points, own.quantity('b').value),
    wanted: { d: settingFor(rig, 'd', aim), p: settingFor(rig, 'p', aim) },
  };
  return { ...study, advice: adviceOf(study, set, gapPrint(rig, print)) };
}
