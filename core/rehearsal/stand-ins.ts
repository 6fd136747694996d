import {
  benchMeter,
  charger,
  fieldMeter,
  highVoltageProbe,
  pressureGauge,
  scope,
  type InstrumentKind,
  type Terminal,
} from '../instrument/index.ts';
import type { RunPlan } from '../run/index.ts';
import { rlcDischarge } from '../simulate/index.ts';
import { meterIn } from './instrument.ts';
import type { Rehearsal } from './rehearsal.ts';
import type { World } from './world.ts';

/** How an instrument of a rehearsal stands at a time. */
interface Standing {
  readonly plan: RunPlan;
  readonly rehearsal: Rehearsal;
  readonly world: World;
}

/** An instrument on the rig of a rehearsal. */
export interface RehearsalInstrument<S = unknown> {
  readonly id: string;
  readonly title: string;
  readonly kind: InstrumentKind<S>;
  /** The question that has its reading as an answer, and what that is in. */
  readonly asks: string;
  readonly unit: 'V' | 'Pa';
  /** It reads the voltage of the store, so that a step can take its reading. */
  readonly readsStore: boolean;
  /** What it is set to and has suffered; left out where it keeps that itself. */
  own?(at: Standing): S;
  terminal(at: Standing): Omit<Terminal, 'uniform'>;
}

const onStore = ({ world }: Standing) => ({ volts: world.isStrapOn ? 0 : world.volts });

const define = <S>(instrument: RehearsalInstrument<S>): RehearsalInstrument => instrument as unknown as RehearsalInstrument;

/** The last shot as it stood across the store, V over s from its beginning; the store itself where there was none. */
function lastShot({ plan, world }: Standing): (t: number) => number {
  const { loop, charged } = plan.numbers;
  if (!world.hasFired || !loop || !(loop.L > 0)) return () => (world.isStrapOn ? 0 : world.volts);
  const { voltage } = rlcDischarge(loop.R, loop.L, loop.C, charged);
  return voltage;
}

/** The instruments that a rehearsal has beside the eyes of the trainee. A new one is one entry. */
export const rehearsalInstruments: readonly RehearsalInstrument[] = [
  define({
    id: 'rehearsal-meter',
    title: 'Meter of the rehearsal',
    kind: benchMeter,
    asks: 'MEAS:VOLT:DC?',
    unit: 'V',
    readsStore: true,
    own: ({ plan, rehearsal, world }) => meterIn(plan, rehearsal, world),
    terminal: onStore,
  }),
  define({
    id: 'rehearsal-probe',
    title: 'High-voltage probe',
    kind: highVoltageProbe,
    asks: 'MEAS:VOLT:DC?',
    unit: 'V',
    readsStore: true,
    terminal: onStore,
  }),
  define({
    id: 'rehearsal-field-meter',
    title: 'Electrostatic field meter',
    kind: fieldMeter,
    asks: 'MEAS:VOLT:STAT?',
    unit: 'V',
    readsStore: true,
    terminal: onStore,
  }),
  define({
    id: 'rehearsal-charger',
    title: 'Charger, what it shows at its output',
    kind: charger,
    asks: 'MEAS:VOLT:DC?',
    unit: 'V',
    readsStore: false,
    own: ({ plan, rehearsal, world }) => ({
      set: plan.numbers.charged,
      most: plan.numbers.highest,
      isOn: world.isSupplyOn,
      isStuck: rehearsal.faults.includes('charger-not-isolated'),
    }),
    // Behind an open isolator it sees its own output alone.
    terminal: (at) => (at.world.isIsolatorOpen ? { volts: 0 } : onStore(at)),
  }),
  define({
    id: 'rehearsal-gauge',
    title: 'Pressure gauge of the gap',
    kind: pressureGauge,
    asks: 'MEAS:PRES?',
    unit: 'Pa',
    readsStore: false,
    terminal: (at) => ({ ...onStore(at), ...(at.plan.numbers.pressure === null ? {} : { pressure: at.plan.numbers.pressure }) }),
  }),
  define({
    id: 'rehearsal-scope',
    title: 'Oscilloscope, peak to peak of the last shot',
    kind: scope,
    asks: 'MEAS:VPP?',
    unit: 'V',
    readsStore: false,
    own: (at) => {
      const { loop, charged } = at.plan.numbers;
      // Twenty periods or time constants of the loop on the screen, the probe chosen so that the charge fills it.
      const span = loop ? 20 * Math.max(Math.sqrt(loop.L * loop.C), loop.R * loop.C * 0.2) : 1;
      return {
        ...scope.initial,
        length: 1000,
        rate: Math.min(5e9, Math.max(1, 1000 / span)),
        probe: Math.max(1, (1.25 * charged) / scope.initial.fullScale),
      };
    },
    terminal: (at) => ({ ...onStore(at), signal: lastShot(at) }),
  }),
];
