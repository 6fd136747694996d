import { overRange, sendNumber } from './command.ts';
import { numberOf, type Answer, type InstrumentKind, type Terminal } from './instrument.ts';

/** A number that is normal about nought with a standard deviation of one, out of two even ones. */
const normal = ({ uniform }: Terminal): number => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());

const rounded = (value: number, step: number): number => Math.round(value / step) * step;

export interface BenchMeter {
  /** Selected range, full scale, V; null: it finds its range by itself. */
  readonly range: number | null;
  /** V it may see. */
  readonly most: number;
  /** Share of what is there that it shows; below 1 with a flat battery, 0 with a lead off. */
  readonly gain: number;
  /** An overload has destroyed its input: it shows nought from then on, which is what makes it dangerous. */
  readonly isDestroyed: boolean;
}

const meterRanges = [0.6, 6, 60, 600, 1000] as const;

const meterRange = (own: BenchMeter, volts: number): number =>
  own.range ?? [...meterRanges, own.most].find((top) => Math.abs(volts) <= top) ?? own.most;

/** V as the meter shows them: of its range, in steps of a six-thousandth, half a per cent and two steps off at most. */
function shown(own: BenchMeter, at: Terminal): number {
  if (own.isDestroyed) return 0;
  const seen = at.volts * own.gain;
  const top = meterRange(own, seen);
  if (Math.abs(seen) > top * 1.05) return overRange;
  const step = top / 6000;
  return rounded(seen * (1 + 0.0025 * normal(at)) + step * normal(at) * 0.7, step);
}

const range = (own: BenchMeter, command: Parameters<typeof numberOf>[0]): Answer<BenchMeter> => {
  if (command.parameters[0]?.toUpperCase() === 'AUTO') return { own: { ...own, range: null } };
  const asked = numberOf(command, 0, own.most);
  if (typeof asked === 'string') return { error: asked };
  return { own: { ...own, range: [...meterRanges, own.most].find((top) => top >= asked) ?? own.most } };
};

/** A hand or bench meter: ranges, an overload that destroys it, a flat battery, a lead that is off. */
export const benchMeter: InstrumentKind<BenchMeter> = {
  kind: 'bench-meter',
  title: 'Bench meter',
  initial: { range: null, most: 1000, gain: 1, isDestroyed: false },
  suffers: (own, at) => (own.isDestroyed || Math.abs(at.volts) <= 1.2 * own.most ? own : { ...own, isDestroyed: true }),
  commands: {
    'MEASure:VOLTage:DC?': (own, at) => ({ reply: sendNumber(shown(own, at)) }),
    'READ?': (own, at) => ({ reply: sendNumber(shown(own, at)) }),
    'CONFigure:VOLTage:DC': (own, _at, command) => range(own, command),
    'VOLTage:DC:RANGe': (own, _at, command) => range(own, command),
    'VOLTage:DC:RANGe?': (own, at) => ({ reply: sendNumber(meterRange(own, at.volts * own.gain)) }),
  },
};

export interface HighVoltageProbe {
  /** Division, such as 1000. */
  readonly ratio: number;
  /** V it may see. */
  readonly most: number;
  /** With its earth lead off it shows next to nothing, and its case is live. */
  readonly isEarthed: boolean;
  /** It has flashed over along its body: it shows half, and marks are on it. */
  readonly hasFlashedOver: boolean;
}

/** A divider probe before a meter: answers with the voltage at its tip. */
export const highVoltageProbe: InstrumentKind<HighVoltageProbe> = {
  kind: 'high-voltage-probe',
  title: 'High-voltage probe',
  initial: { ratio: 1000, most: 40e3, isEarthed: true, hasFlashedOver: false },
  suffers: (own, at) => (Math.abs(at.volts) <= 1.3 * own.most ? own : { ...own, hasFlashedOver: true }),
  commands: {
    'MEASure:VOLTage:DC?': (own, at) => {
      const seen = at.volts * (own.hasFlashedOver ? 0.5 : 1) * (own.isEarthed ? 1 : 0.02);
      // Two per cent of the reading and the last step of the meter behind it, common practice, no source.
      return { reply: sendNumber(rounded(seen * (1 + 0.01 * normal(at)), own.ratio * 1e-3)) };
    },
    'PROBe:RATio?': (own) => ({ reply: sendNumber(own.ratio) }),
  },
};

export interface FieldMeter {
  /** m from what it looks at; it is made for 25 mm. */
  readonly distance: number;
}

/** A field meter held near the terminal: it touches nothing and loads nothing, and its distance is its error. */
export const fieldMeter: InstrumentKind<FieldMeter> = {
  kind: 'field-meter',
  title: 'Electrostatic field meter',
  initial: { distance: 0.025 },
  suffers: (own) => own,
  commands: {
    'MEASure:VOLTage:STATic?': (own, at) => {
      // The field of a plate goes with one over the distance; it tells 10 V steps, and nothing below 20 V.
      const seen = (at.volts * 0.025) / own.distance;
      const value = rounded(seen * (1 + 0.05 * normal(at)), 10);
      return { reply: sendNumber(Math.abs(value) > 20e3 ? overRange : value) };
    },
    DISTance: (own, _at, command) => {
      const asked = numberOf(command, 0.005, 0.3);
      return typeof asked === 'string' ? { error: asked } : { own: { ...own, distance: asked } };
    },
    'DISTance?': (own) => ({ reply: sendNumber(own.distance) }),
  },
};

export interface Charger {
  /** V at which it stops. */
  readonly set: number;
  readonly most: number;
  readonly isOn: boolean;
  /** Its cut-off does not act: it goes on past what is set. */
  readonly isStuck: boolean;
}

/** A charger with a cut-off. It answers with what stands at its output. */
export const charger: InstrumentKind<Charger> = {
  kind: 'charger',
  title: 'Charger with cut-off',
  initial: { set: 0, most: 1000, isOn: false, isStuck: false },
  suffers: (own, at) => (own.isOn && !own.isStuck && at.volts >= own.set ? { ...own, isOn: false } : own),
  commands: {
    VOLTage: (own, _at, command) => {
      const asked = numberOf(command, 0, own.most);
      return typeof asked === 'string' ? { error: asked } : { own: { ...own, set: asked } };
    },
    'VOLTage?': (own) => ({ reply: sendNumber(own.set) }),
    OUTPut: (own, _at, command) => {
      const word = command.parameters[0]?.toUpperCase();
      if (word === undefined) return { error: 'missing' };
      if (word === 'ON' || word === '1') return { own: { ...own, isOn: own.set > 0 } };
      return word === 'OFF' || word === '0' ? { own: { ...own, isOn: false } } : { error: 'syntax' };
    },
    'OUTPut?': (own) => ({ reply: own.isOn ? '1' : '0' }),
    'MEASure:VOLTage:DC?': (_own, at) => ({ reply: sendNumber(rounded(at.volts * (1 + 0.01 * normal(at)), 1)) }),
  },
};

export interface PressureGauge {
  /** Pa, top of its dial. */
  readonly most: number;
  /** Pa at which its needle hangs; null: it moves. */
  readonly stuckAt: number | null;
}

const standardPressure = 101_325;

/** A gauge that shows pressure above the air around it, Pa. */
export const pressureGauge: InstrumentKind<PressureGauge> = {
  kind: 'pressure-gauge',
  title: 'Pressure gauge',
  initial: { most: 400e3, stuckAt: null },
  suffers: (own, at) => {
    const over = (at.pressure ?? standardPressure) - standardPressure;
    return own.stuckAt === null && over > 1.3 * own.most ? { ...own, stuckAt: own.most } : own;
  },
  commands: {
    'MEASure:PRESsure?': (own, at) => {
      const over = (at.pressure ?? standardPressure) - standardPressure;
      return { reply: sendNumber(own.stuckAt ?? rounded(Math.min(own.most, Math.max(0, over)), own.most / 250)) };
    },
  },
};
