import { triggeredFrom, triggeredTo } from '../kind/index.ts';
import { ifKnown, RigReading } from '../figure/index.ts';
import { ladderLack } from '../model/index.ts';
import type { UnitId } from '../quantity/index.ts';
import { staysConnected, type FieldsIn, type FigureId } from '../block/index.ts';
import type { QuantityIn } from '../field/index.ts';
import { blockIn, hasDesk, type Rig } from '../rig/index.ts';
import { gapPrint, gapStudy } from './gap/gap-study.ts';

/** What people see when a rig with gaps does not do what it should. */
export const symptoms = [
  { id: 'no-spark', title: 'No spark at all' },
  { id: 'free-running', title: 'It pre-fires, again and again' },
  { id: 'resistor-arcs', title: 'Arcs run along the resistors' },
  { id: 'first-only', title: 'Only the first gap fires' },
  { id: 'weak', title: 'It fires, but the output is weak' },
  { id: 'steady-arc', title: 'A steady arc stays in the gap' },
  { id: 'supply-trips', title: 'The supply trips, or has died' },
] as const;
export type SymptomId = (typeof symptoms)[number]['id'];

/** A cause that the rig's own numbers speak for or against. */
export interface Cause {
  readonly id: string;
  readonly cause: string;
  /** The number that shows it. */
  readonly shown: string;
  /** Whether the number speaks for it. */
  readonly likely: boolean;
  /** The one change to try next. */
  readonly change: string;
}

/** Current above which an arc in air at a short gap goes on by itself. Common practice, no source: some ten milliamperes. */
const holdsArc = 10e-3;

type Print = (value: number, unit: UnitId) => string;

interface Numbers {
  readonly rig: Rig;
  readonly reading: RigReading;
  readonly print: Print;
  /** A figure, or null where the rig does not give it. */
  figure(id: FigureId): number | null;
  own(field: QuantityIn<FieldsIn<'store'>>): number | null;
}

type Rule = (n: Numbers) => Cause | null;

const percent = (x: number) => `${(x * 100).toFixed(0)} %`;
const charged = ({ reading }: Numbers) => reading.offer('chargedTo').value;

const firstGap =
  (side: 'wide' | 'close'): Rule =>
  ({ rig, print }) => {
    const study = hasDesk(rig, 'gap') ? gapStudy(rig, print) : null;
    if (!study) return null;
    const shown = gapPrint(rig, print);
    const share = study.charged / study.selfBreak;
    const likely = side === 'wide' ? share < (study.triggered ? triggeredFrom.value : 1) : share > triggeredTo.value;
    const { d, p } = study.wanted;
    const set = new RigReading(rig).own('switch').quantity('d').value;
    const to = d !== null && Math.abs(d / set - 1) > 5e-3 ? `${d > set ? 'Open' : 'Close'} the gap to ${shown(d, 'm')}` : null;
    return {
      id: `first-gap-${side}`,
      cause: side === 'wide' ? 'The first gap is set too wide' : 'The first gap is set too close, or its pressure has gone',
      shown: `${print(study.charged, 'V')} is ${percent(share)} of its self-break at ${print(study.selfBreak, 'V')}`,
      likely,
      change: `${to ?? 'Leave its spacing'}${p !== null && p > 0 ? `, or set its pressure to ${shown(p, 'Pa')}` : ''}.`,
    };
  };

const supplyShort: Rule = (n) => {
  const reach = n.figure('charge-towards');
  if (reach === null) return null;
  const V0 = charged(n);
  return {
    id: 'supply-short',
    cause: 'The supply does not bring the store to its voltage',
    shown: `reaches ${n.print(reach, 'V')}; needs ${n.print(V0, 'V')}`,
    likely: reach < V0 * 1.02,
    change:
      'Measure the voltage of the store with a meter rated for it before anything is turned; then raise the supply or the bleeder.',
  };
};

/** How full the last stage is after the charge time of all stages as one capacitor: what an impatient person waits. */
const farStage: Rule = (n) => {
  const ladder = n.reading.offers('store').ladder;
  const [Rs, full] = [n.figure('charging-resistance'), n.figure('ladder-95')];
  if (!ladder || Rs === null || full === null) return null;
  const [stages, R, C] = [ladder.n.value, ladder.R.value, ladder.C.value];
  const soon = 2 * (Rs + R) * stages * C;
  const last = 1 - ladderLack(stages, stages, R, Rs + R, C, soon);
  return {
    id: 'far-stage',
    cause: 'Fired before the far stages are full',
    shown: `the last stage has ${percent(last)} ${n.print(soon, 's')} after the supply goes on; 95 % takes ${n.print(full, 's')}`,
    likely: last < 0.9,
    change: `Wait ${n.print(full, 's')} before firing, or use smaller charging resistors.`,
  };
};

const gapsBehind =
  (side: 'wide' | 'close'): Rule =>
  (n) => {
    const [Vg, sc] = [n.figure('stage-self-break'), n.own('sc')];
    if (Vg === null || sc === null) return null;
    const V0 = charged(n);
    const least = V0 / (1 - 3 * sc) / 0.97;
    const most = 1.75 * V0;
    const range = `Set them to break between ${n.print(least, 'V')} and ${n.print(most, 'V')}`;
    return side === 'wide'
      ? {
          id: 'gaps-wide',
          cause: 'The later gaps are set too wide',
          shown: `the second sees ${n.print(2 * V0, 'V')} when the first has fired, ${percent((2 * V0) / Vg)} of its self-break`,
          likely: Vg > most,
          change: `${range}: close all of them alike.`,
        }
      : {
          id: 'gaps-close',
          cause: 'A later gap pre-fires',
          shown: `self-break ${n.print(Vg, 'V')}, scatter ${percent(sc)}; the stages are charged to ${percent(V0 / Vg)} of it`,
          likely: V0 > Vg * (1 - 3 * sc),
          change: `${range}: open all of them alike.`,
        };
  };

const shortResistors: Rule = (n) => {
  const [lc, clean, ks] = [n.own('lc'), n.own('Es'), n.own('ks')];
  if (clean === null || ks === null) return null;
  const Es = clean * ks;
  const V0 = charged(n);
  return {
    id: 'short-resistors',
    cause: 'The charging resistors are too short for the voltage',
    shown:
      lc === null
        ? `each sees ${n.print(V0, 'V')} when the stages erect; their length is not entered`
        : `each sees ${n.print(V0, 'V')} along ${n.print(lc, 'm')}: ${n.print(V0 / lc, 'V/m')}, and ${n.print(Es, 'V/m')} is permitted`,
    likely: lc === null || V0 / lc > Es,
    change: `Make each at least ${n.print(V0 / Es, 'm')} long, as a string of several in a sleeve; clean and dry.`,
  };
};

/** What the output gap holds stands along the resistors: a gap that is too long makes them the shorter way. */
const longOutputGap: Rule = (n) => {
  const [holds, out] = [n.figure('spark-needs-most'), n.figure('marx-output-voltage')];
  const [lc, Es, ks] = [n.own('lc'), n.own('Es'), n.own('ks')];
  const stages = n.reading.offers('store').ladder?.n.value;
  if (holds === null || out === null || lc === null || Es === null || ks === null || stages === undefined) return null;
  const bears = Es * ks * lc * stages;
  const stands = Math.min(holds, out);
  return {
    id: 'long-output-gap',
    cause: 'The output gap is the longer way: the arc takes the resistors',
    shown: `up to ${n.print(stands, 'V')} at the top before the output gap breaks; the resistors from top to earth hold ${n.print(bears, 'V')}`,
    likely: stands > bears,
    change: 'Shorten the output gap until it breaks well below that, then lengthen it step by step; clean and dry the resistors.',
  };
};

const strays: Rule = (n) => {
  const [ideal, output] = [n.figure('marx-ideal-voltage'), n.figure('marx-output-voltage')];
  if (ideal === null || output === null) return null;
  return {
    id: 'strays',
    cause: 'Strays and the load take the voltage',
    shown: `of ${n.print(ideal, 'V')} ${n.print(output, 'V')} are left, ${percent(output / ideal)}`,
    likely: output < 0.8 * ideal,
    change:
      'Larger stage capacitors, or less capacitance at the output: a smaller terminal, more distance to everything earthed.',
  };
};

const corona: Rule = (n) => {
  const [onset, output] = [n.figure('terminal-corona'), n.figure('marx-output-voltage')];
  if (onset === null || output === null) return null;
  return {
    id: 'corona',
    cause: 'Corona from the terminal drains the charge',
    shown: `it begins at ${n.print(onset, 'V')}, the output is ${n.print(output, 'V')}`,
    likely: output > onset,
    change: 'A larger sphere on the terminal, tape or a bead on every edge near it.',
  };
};

const feedsArc: Rule = (n) => {
  const [I, R, V] = [n.figure('charging-current'), n.figure('charging-resistance'), n.figure('charging-voltage')];
  if (I === null) return null;
  return {
    id: 'feeds-arc',
    cause: 'The supply feeds the arc, so it does not go out',
    shown: `${n.print(I, 'A')} can flow through the charging path; some ${n.print(holdsArc, 'A')} hold an arc (common practice, no source)`,
    likely: I > holdsArc,
    change:
      V !== null && R !== null
        ? `Raise the charging resistance from ${n.print(R, 'Ω')} to ${n.print(V / (holdsArc / 2), 'Ω')} or more, or blow the gap.`
        : 'Put a resistor or a choke into the charging path, or blow the gap.',
  };
};

const overload: Rule = (n) => {
  const I = n.figure('charging-current');
  const limit = n.reading.own('supply').optional('I')?.value ?? null;
  if (I === null || limit === null) return null;
  return {
    id: 'overload',
    cause: 'The charge draws more than the supply can give',
    shown: `${n.print(I, 'A')} at first, of ${n.print(limit, 'A')}`,
    likely: I > limit,
    change: 'Raise the charging resistance until its first current is below the rating.',
  };
};

const connected: Rule = (n) => ({
  id: 'connected',
  cause: 'The charger is still connected when it is fired',
  shown: staysConnected(n.reading)
    ? 'this rig is entered as fired with it connected'
    : 'this rig is entered as isolated before it is fired',
  likely: staysConnected(n.reading),
  change: 'Isolate it before the count; fit a resistor in each of its leads, and a diode rated for the whole voltage.',
});

const rules: { readonly [K in SymptomId]: readonly Rule[] } = {
  'no-spark': [firstGap('wide'), supplyShort, farStage],
  'free-running': [firstGap('close'), gapsBehind('close'), feedsArc],
  'resistor-arcs': [shortResistors, longOutputGap, gapsBehind('wide')],
  'first-only': [gapsBehind('wide'), farStage, shortResistors],
  weak: [farStage, strays, corona, gapsBehind('wide')],
  'steady-arc': [feedsArc, firstGap('close')],
  'supply-trips': [overload, connected, feedsArc],
};

/**
 * Causes of a symptom, with the number of the rig that speaks for or against each, those that it speaks for first.
 *
 * @param print how a number is written
 */
export function causesOf(rig: Rig, symptom: SymptomId, print: Print): Cause[] {
  const reading = new RigReading(rig);
  const fields = blockIn(rig, 'store').fields;
  const numbers: Numbers = {
    rig,
    reading,
    print,
    figure: (id) => ifKnown(() => reading.figure(id).value),
    own: (field) => (field in fields ? (ifKnown(() => reading.own('store').optional(field)?.value) ?? null) : null),
  };
  const causes = rules[symptom].flatMap((rule) => ifKnown(() => rule(numbers)) ?? []);
  return [...causes.filter((c) => c.likely), ...causes.filter((c) => !c.likely)];
}
