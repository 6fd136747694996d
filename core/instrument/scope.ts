import { overRange, sendNumber } from './command.ts';
import { numberOf, type InstrumentKind, type Terminal } from './instrument.ts';

export interface Scope {
  /** Hz at which it has lost 3 dB. */
  readonly bandwidth: number;
  /** Samples a second, and how many it keeps. */
  readonly rate: number;
  readonly length: number;
  /** V to either side that it shows; what is beyond is cut off. */
  readonly fullScale: number;
  /** V a division of the probe stands for. */
  readonly probe: number;
}

/** Bits of its converter, and noise in steps of it. */
const levels = 256;
const noise = 0.6;

/**
 * What a scope records of a signal: through one pole at its bandwidth, sampled (what is faster than half the rate is folded down, as
 * nothing before the samples keeps it out but that pole), cut off at full scale, in 256 steps, with noise.
 *
 * @returns V, sample by sample from the trigger
 */
export function scopeRecord(own: Scope, at: Terminal): Float64Array {
  const out = new Float64Array(own.length);
  const signal = at.signal ?? (() => at.volts);
  const dt = 1 / own.rate;
  // The pole is followed in steps finer than the samples, so that it does not depend on the rate.
  const fine = Math.min(64, Math.max(1, Math.ceil(8 * 2 * Math.PI * own.bandwidth * dt)));
  const share = -Math.expm1(-2 * Math.PI * own.bandwidth * (dt / fine));
  const step = (2 * own.fullScale) / levels;
  let y = signal(0);
  for (let i = 0; i < own.length; i++) {
    for (let k = 0; i > 0 && k < fine; k++) y += share * (signal((i - 1 + (k + 1) / fine) * dt) - y);
    const seen = y / own.probe + step * noise * (at.uniform() + at.uniform() + at.uniform() - 1.5);
    const code = Math.max(-levels / 2, Math.min(levels / 2 - 1, Math.round(seen / step)));
    out[i] = code * step * own.probe;
  }
  return out;
}

const setting =
  (key: keyof Scope, low: number, high: number): InstrumentKind<Scope>['commands'][string] =>
  (own, _at, command) => {
    const asked = numberOf(command, low, high);
    return typeof asked === 'string' ? { error: asked } : { own: { ...own, [key]: asked } };
  };

export const scope: InstrumentKind<Scope> = {
  kind: 'scope',
  title: 'Oscilloscope',
  initial: { bandwidth: 100e6, rate: 10e6, length: 1000, fullScale: 40, probe: 1 },
  suffers: (own) => own,
  commands: {
    'ACQuire:SRATe': setting('rate', 1, 5e9),
    'ACQuire:SRATe?': (own) => ({ reply: sendNumber(own.rate) }),
    'ACQuire:POINts': (own, at, command) => {
      const answer = setting('length', 10, 10_000)(own, at, command);
      return answer.own ? { own: { ...answer.own, length: Math.round(answer.own.length) } } : answer;
    },
    'CHANnel:SCALe': setting('fullScale', 1e-3, 1e3),
    'CHANnel:PROBe': setting('probe', 1e-3, 1e6),
    'CHANnel:BANDwidth?': (own) => ({ reply: sendNumber(own.bandwidth) }),
    'MEASure:VPP?': (own, at) => {
      const record = scopeRecord(own, at);
      const most = own.fullScale * own.probe;
      const [low, high] = record.reduce(([l, h], v) => [Math.min(l, v), Math.max(h, v)], [Infinity, -Infinity]);
      // A trace that touches the edge of the screen has no top that could be told.
      return { reply: sendNumber(high >= most * 0.99 || low <= -most * 0.99 ? overRange : high - low) };
    },
    'CURVe?': (own, at) => ({ reply: [...scopeRecord(own, at)].map((v) => v.toPrecision(4)).join(',') }),
  },
};
