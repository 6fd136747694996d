import { bleedGoal, highestVoltage } from '../../block/index.ts';
import { Corners } from '../../figure/index.ts';
import { stepPreferred } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';

/** A discharge stick for a store, as it would be built: so many equal resistors in series, and what each has to bear. */
export interface Stick {
  readonly n: number;
  /** Ω of one. */
  readonly R: number;
  /** V one works at, J one takes in a pulse: twice what it gets. */
  readonly V: number;
  readonly E: number;
  /** s to the goal at the highest voltage, A at first touch. */
  readonly seconds: number;
  readonly current: number;
  /** m from tip to hand, and of the resistors end to end. */
  readonly handle: number;
  readonly body: number;
  /** mm² of the cable to the earthed side, at least. */
  readonly cable: number;
}

/** What one resistor of a stick is asked to bear at the most; more in series beyond. Common practice, no source. */
const most = { volts: 3e3, joules: 250 } as const;
/** s a stick may take to the goal, A it may begin with. Common practice, no source. */
const wanted = { seconds: 3, amperes: 50 } as const;

/** The preferred number at or above a value. */
const up = (value: number): number => stepPreferred(value * (1 - 1e-6), 1, 'E24');

/** What a stick has to do: J at most, F, V at the start and to fall below. */
export interface StickFor {
  readonly E: number;
  readonly C: number;
  readonly highest: number;
  readonly goal: number;
}

/** A stick by what it has to do, with twice the pulse energy in its resistors. */
export function stickOf({ E, C, highest, goal }: StickFor): Stick {
  const n = Math.min(10_000, Math.max(2, Math.ceil(highest / most.volts), Math.ceil((2 * E) / most.joules)));
  const digits = Math.log(Math.max(highest / goal, Math.E));
  const total = Math.max(wanted.seconds / (C * digits), highest / wanted.amperes);
  const R = up(total / n);
  return {
    n,
    R,
    V: up(highest / n),
    E: up((2 * E) / n),
    seconds: n * R * C * digits,
    current: highest / (n * R),
    // Along clean dry insulation: an arm's length at least, and a metre for every 50 kV; the resistors a metre for every 300 kV.
    handle: Math.max(0.5, highest / 50e3),
    body: Math.max(0.05 * n, highest / 300e3),
    cable: E < 100 ? 2.5 : E < 1000 ? 6 : 16,
  };
}

/**
 * A stick that discharges the store of a rig at the highest voltage that can stand on it, with twice the pulse energy in its resistors.
 *
 * @throws Unavailable, FormulaError where the rig has no store to discharge
 */
export function stickFor(rig: Rig): Stick {
  const corners = new Corners(rig);
  const nominal = corners.nominal();
  const goal = bleedGoal(nominal).voltage.value;
  const highest = highestVoltage(nominal);
  const C = corners.bandOf((reading) => reading.figure('bank-capacitance')).high;
  const charged = nominal.offer('chargedTo').value;
  const E = corners.bandOf((reading) => reading.figure('stored-energy')).high * Math.max(1, highest / charged) ** 2;
  return stickOf({ E, C, highest, goal });
}
