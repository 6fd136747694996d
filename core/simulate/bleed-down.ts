import { edge } from '../numeric/index.ts';
import { bleedGoal, type OneOpen } from '../block/index.ts';
import { blockDefinition } from '../kind/index.ts';
import { Corners, type RigReading } from '../figure/index.ts';
import { ladderLack } from '../model/index.ts';
import { blockIn, type Rig } from '../rig/index.ts';
import { sampled, type Trace } from './closed-form.ts';

/** How long a bleed-down is drawn, s: past the goal at the worst corner of the bleeder, or of the insulation without one. */
export function bleedSpan(corners: Corners): number {
  const nominal = corners.nominal();
  const V0 = nominal.offer('chargedTo').value;
  const bleeder = nominal.offers('bleeder').bleedResistance;
  const slow = bleeder
    ? corners.at(corners.bandOf((reading) => reading.figure('bleed-time-tenth')).highAt).figure('bleed-time-tenth').value /
      Math.LN10
    : nominal.offer('insulation').value * nominal.figure('bank-capacitance').value;
  return slow * Math.max(Math.log(V0 / bleedGoal(nominal).voltage.value) * 1.25, Math.LN10 * 1.2);
}

/** The store with one resistor of its bleeder open; null where that leaves no way of its own. */
export const oneOpenOf = (reading: RigReading, rig: Rig): OneOpen | null =>
  blockDefinition('bleeder', blockIn(rig, 'bleeder').kind).oneOpen?.(reading.ownOf('bleeder'), reading) ?? null;

/** A way in which the store loses its charge, as a curve. */
interface Way {
  readonly id: string;
  readonly title: string;
  /** V that is aimed at, in the corner the way is seen in: of a larger store it is less. */
  readonly goal: number;
  /** V after so many seconds. */
  volts(t: number): number;
}

/** Every way down: through the bleeder, with one of its strings open, at the worst corner, through dump and stick, and with the bleeder open. */
function waysOf(rig: Rig): { readonly ways: readonly Way[]; readonly charged: number; readonly span: number } {
  const corners = new Corners(rig);
  const nominal = corners.nominal();
  const V0 = nominal.offer('chargedTo').value;
  const bleeder = nominal.offers('bleeder').bleedResistance?.value;
  // The corner in which it takes longest: its voltage, its capacitance and its resistor together.
  const worst = bleeder === undefined ? null : corners.at(corners.bandOf((reading) => reading.figure('bleed-time')).highAt);
  const oneOpen = oneOpenOf(nominal, rig);
  const dump = nominal.offers('dump').dumpResistance;
  const through = (id: string, title: string, R: number, V0: number, reading = nominal): Way => {
    const { ladder } = reading.offers('store');
    const C = reading.figure('bank-capacitance').value;
    const goal = bleedGoal(reading).voltage.value;
    if (!ladder) return { id, title, goal, volts: (t) => V0 * Math.exp(-t / (R * C)) };
    const [n, Rl, Cs] = [ladder.n.value, ladder.R.value, ladder.C.value];
    return { id, title: `${title}, last stage`, goal, volts: (t) => V0 * ladderLack(n, n, Rl, R + Rl, Cs, t) };
  };
  const tau = nominal.offer('insulation').value * nominal.figure('bank-capacitance').value;
  const leaking: Way = {
    id: 'open',
    title: 'bleeder open',
    goal: bleedGoal(nominal).voltage.value,
    volts: (t) => V0 * Math.exp(-t / tau),
  };
  return {
    ways: [
      ...(bleeder === undefined ? [] : [through('bleeder', 'bleeder', bleeder, V0)]),
      ...(worst
        ? [
            through(
              'worst',
              'bleeder, worst case',
              worst.offers('bleeder').bleedResistance?.value ?? Infinity,
              worst.offer('chargedTo').value,
              worst,
            ),
          ]
        : []),
      ...(oneOpen ? [through('one-open', 'one string open', oneOpen.R.value, oneOpen.V0.value)] : []),
      leaking,
      ...(dump ? [through('dump', 'dump, bleeder open', dump.value, V0)] : []),
      through('tool', 'discharge stick', nominal.offer('toolResistance').value, V0),
    ],
    charged: V0,
    span: bleedSpan(corners),
  };
}

/** Bleed-down of the store by each way, all for as long as the bleeder takes. */
export function bleedTraces(rig: Rig): { traces: Trace[]; charged: number } {
  const { ways, charged, span } = waysOf(rig);
  return { traces: ways.map(({ id, title, volts }) => sampled(id, title, 'V', span, volts)), charged };
}

const samples = 240;
/** Nothing is drawn beyond, s: some three hundred years. */
const longest = 1e10;

/**
 * Bleed-down by each way, each until it is below what is aimed at and no further, in equal ratios of time: ways of seconds and of days
 * stand in one picture. A way that never comes there, or begins there, is not among them.
 */
export function bleedTracesToGoal(rig: Rig): Trace[] {
  const passing = waysOf(rig).ways.flatMap((way) => {
    if (!(way.volts(0) > way.goal) || way.volts(longest) > way.goal) return [];
    return [{ way, end: edge((t) => way.volts(t) > way.goal, 1e-9, longest, { isRatio: true, within: 1e-9 }).middle }];
  });
  const from = Math.min(...passing.map(({ end }) => end)) / 20;
  return passing.map(({ way: { id, title, volts }, end }) => {
    const t = Float64Array.from({ length: samples + 1 }, (_, i) => from * (end / from) ** (i / samples));
    return { id, title, unit: 'V', t, y: t.map(volts) };
  });
}
