import { edge } from '../numeric/index.ts';
import { freewheelOf, chargeLeak, Unavailable, type ChargeLaw, type PulseLaw } from '../block/index.ts';
import { chargeLaw, hasOwnLaw, ifKnown, RigReading, thresholdOf, wheelResistance } from '../figure/index.ts';
import { FormulaError, ruled } from '../formula/index.ts';
import { dampingRatio, ladderLack, reversalFraction } from '../model/index.ts';
import { monotoneCubic } from './monotone-cubic.ts';
import type { UnitId } from '../quantity/index.ts';
import type { Rig } from '../rig/index.ts';

/** Samples of one quantity over time. `t` in s, `y` in the SI unit. */
export interface Trace {
  readonly id: string;
  readonly title: string;
  readonly unit: UnitId;
  readonly t: Float64Array;
  readonly y: Float64Array;
}

const samples = 400;

/** A curve in equal steps of time from nought. */
export const sampled = (id: string, title: string, unit: UnitId, tEnd: number, at: (t: number) => number): Trace => {
  const t = Float64Array.from({ length: samples + 1 }, (_, i) => (tEnd * i) / samples);
  return { id, title, unit, t, y: t.map(at) };
};

/** How long a charge is drawn, s: somewhat past the end, or to nine tenths of where it comes to. */
export function chargeSpan(reading: RigReading): { span: number; chargeTime: number | null } {
  const reach = reading.figure('charge-towards').value;
  const target = reading.offer('chargedTo').value;
  // A converter that rests at its cut-off has charged to it, though it comes to no more.
  const chargeTime = target < reach ? reading.figure('charge-time').value : ifKnown(() => reading.figure('charge-time').value);
  if (chargeTime !== null) {
    return { span: chargeTime * 1.15, chargeTime };
  }
  const part = ruled('nine tenths of the final voltage', 0.9 * reach, 'V', 'drawn where the charge never arrives');
  return { span: 2 * chargeLaw(reading).time(reading, part, 'time to nine tenths').value, chargeTime: null };
}

/** Charge of the store from rest in closed form: the voltage, and what flows into it. @throws Unavailable, FormulaError */
export function chargeTraces(rig: Rig): { traces: Trace[]; supplyVoltage: number; target: number; chargeTime: number | null } {
  const reading = new RigReading(rig);
  const { span, chargeTime } = chargeSpan(reading);
  const target = reading.offer('chargedTo').value;
  const { voltage, current } = chargeCurve(reading, span);
  return {
    traces: [
      sampled('store-voltage', 'store voltage', 'V', span, voltage),
      sampled('supply-current', 'supply current', 'A', span, current),
    ],
    supplyVoltage: reading.offer('sourceVoltage').value,
    target,
    chargeTime,
  };
}

/** Voltages, as shares of where a charge comes to, at which its time is asked of a law without a curve of its own. */
const marks = [0.02, 0.05, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.95, 0.98, 0.995];

function chargeCurve(reading: RigReading, span: number): { voltage(t: number): number; current(t: number): number } {
  const C = reading.figure('bank-capacitance').value;
  const Rb = chargeLeak(reading)?.value ?? Infinity;
  const reach = reading.figure('charge-towards').value;
  if (hasOwnLaw(reading)) return lawCurve(reading, C, Rb, reach, span);
  const rc = reading.figure('charging-resistance').value;
  const vs = reading.figure('charging-voltage').value;
  const ladder = reading.offers('store').ladder;
  if (ladder) {
    const [n, R, Cs] = [ladder.n.value, ladder.R.value, ladder.C.value];
    const stage = (m: number, t: number) => reach * (1 - ladderLack(n, m, R, R + rc / (1 + rc / Rb), Cs, t));
    return { voltage: (t) => stage(n, t), current: (t) => (vs - stage(1, t)) / (rc + R) };
  }
  const tau = (rc / (1 + rc / Rb)) * C;
  const voltage = (t: number) => -reach * Math.expm1(-t / tau);
  return { voltage, current: (t) => (vs - voltage(t)) / rc };
}

/** Times to a row of voltages, joined by a monotone cubic; the current is what its slope and the bleeder take. */
function lawCurve(reading: RigReading, C: number, Rb: number, reach: number, span: number) {
  const law = chargeLaw(reading);
  const target = Math.min(reading.offer('chargedTo').value, reach);
  const points: [number, number][] = [[0, 0]];
  for (const share of [
    ...marks.map((m) => m * target),
    target * (1 - 1e-9),
    ...[0.25, 0.5, 0.75, 0.95].map((m) => target + m * (reach - target)),
  ]) {
    if (!(share > (points.at(-1)?.[1] ?? 0) * (1 + 1e-6))) continue;
    const time = timeTo(reading, law, share);
    if (time === null || time > span * 1.5) break;
    if (time > (points.at(-1)?.[0] ?? 0)) points.push([time, share]);
  }
  const curve = monotoneCubic(points);
  // Past its last point it is drawn on as it was going, and no supply takes it beyond where it comes to.
  const voltage = (t: number) => Math.min(reach, curve.value(t));
  return {
    voltage,
    current: (t: number) => (voltage(t) < reach ? Math.max(0, C * curve.slope(t) + voltage(t) / Rb) : reach / Rb),
  };
}

function timeTo(reading: RigReading, law: ChargeLaw, V: number): number | null {
  try {
    return law.time(reading, ruled('voltage on the way', V, 'V', 'drawn on the way'), 'time to it').value;
  } catch (error) {
    if (error instanceof FormulaError) return null;
    throw error;
  }
}

/** Series RLC from a charged capacitor: current and capacitor voltage at t, for any damping, without loss near critical. */
export function rlcDischarge(
  R: number,
  L: number,
  C: number,
  V: number,
): { current(t: number): number; voltage(t: number): number } {
  const a = R / (2 * L);
  const q = 1 / (L * C) - a * a;
  // s(t) = sin(wt)/w, sinh(kt)/k or t; one function of q·t² that is smooth through nought.
  const s = (t: number) => {
    const x = q * t * t;
    if (Math.abs(x) < 1e-6) return t * (1 - x / 6 + (x * x) / 120);
    return q > 0 ? Math.sin(Math.sqrt(x)) / Math.sqrt(q) : Math.sinh(Math.sqrt(-x)) / Math.sqrt(-q);
  };
  const c = (t: number) => {
    const x = q * t * t;
    return x >= 0 ? Math.cos(Math.sqrt(x)) : Math.cosh(Math.sqrt(-x));
  };
  if (q < 0) {
    // Written as two exponentials so that a strongly damped loop neither overflows nor cancels.
    const k = Math.sqrt(-q);
    const fast = a + k;
    const slow = 1 / (L * C) / fast;
    if (k > 1e-6 * a) {
      return {
        current: (t) => (V / (L * (fast - slow))) * (Math.exp(-slow * t) - Math.exp(-fast * t)),
        voltage: (t) => (V / (fast - slow)) * (fast * Math.exp(-slow * t) - slow * Math.exp(-fast * t)),
      };
    }
  }
  return {
    current: (t) => (V / L) * Math.exp(-a * t) * s(t),
    voltage: (t) => V * Math.exp(-a * t) * (c(t) + a * s(t)),
  };
}

/** Points after which a recurrence begins anew from the closed form, so that its rounding does not grow. */
const stride = 250;

/**
 * Current of a series RLC discharge at n + 1 even steps from t = 0: the closed form at the beginning of every stretch, and in it
 * the recurrence that every solution of a linear equation of second order obeys.
 */
export function rlcSeries(R: number, L: number, C: number, V: number, dt: number, n: number): Float64Array {
  const { current } = rlcDischarge(R, L, C, V);
  const out = new Float64Array(n + 1);
  const a = R / (2 * L);
  const q = 1 / (L * C) - a * a;
  const decay = Math.exp(-a * dt);
  // Twice the cosine of the step, damped; hyperbolic for a loop that does not ring.
  const turn = 2 * decay * (q >= 0 ? Math.cos(Math.sqrt(q) * dt) : Math.cosh(Math.sqrt(-q) * dt));
  const fade = decay * decay;
  for (let from = 0; from <= n; from += stride) {
    const to = Math.min(n, from + stride - 1);
    out[from] = current(from * dt);
    if (from + 1 <= to) out[from + 1] = current((from + 1) * dt);
    for (let k = from + 2; k <= to; k++) out[k] = turn * (out[k - 1] as number) - fade * (out[k - 2] as number);
  }
  return out;
}

/** How long to draw: until a ring has died or six half cycles are seen; past the peak of a pulse that does not ring. */
function windowOf(
  halfPeriod: number,
  { R, L, C }: { R: number; L: number; C: number },
  peakTime: number,
  oneWay: boolean,
): number {
  if (!Number.isFinite(halfPeriod)) return Math.min(4 * R * C, 20 * peakTime);
  if (oneWay) return 1.6 * halfPeriod;
  return Math.min(6 * halfPeriod, Math.max(1.6 * halfPeriod, R > 0 ? (8 * L) / R : Infinity));
}

/** How long a discharge is drawn, s. */
export function dischargeSpan(reading: RigReading): number {
  const [R, L, C] = [
    reading.figure('loop-resistance').value,
    reading.figure('loop-inductance').value,
    reading.figure('loop-capacitance').value,
  ];
  const { pulse } = reading.offers('store');
  // As long as its first reflections last.
  if (pulse) return 3 * pulse.width.value;
  const wheel = freewheelOf(reading);
  // Past the quarter period the current dies in the diode.
  if (wheel && Number.isFinite(halfPeriodOf(R, L, C)))
    return halfPeriodOf(R, L, C) + (4 * L) / wheelResistance(reading, wheel.R).value;
  return windowOf(
    halfPeriodOf(R, L, C),
    { R, L, C },
    reading.figure('time-to-peak').value,
    reading.offers('switch').conduction === 'one-way',
  );
}

const halfPeriodOf = (R: number, L: number, C: number): number => {
  const zeta = dampingRatio(R, L, C);
  return zeta < 1 ? (Math.PI * Math.sqrt(L * C)) / Math.sqrt((1 - zeta) * (1 + zeta)) : Infinity;
};

/** Discharge through the switch into the load. A one-way switch opens at the first zero of the current. */
export function dischargeTraces(rig: Rig): { traces: Trace[]; peakTime: number; peakCurrent: number; opensAt: number | null } {
  const reading = new RigReading(rig);
  const R = reading.figure('loop-resistance').value;
  const L = reading.figure('loop-inductance').value;
  const C = reading.figure('loop-capacitance').value;
  const V = reading.figure('discharge-voltage').value;
  // Of stages in series the store voltage is drawn as that of one.
  const one = reading.offer('chargedTo').value / V;
  // Beside a capacitor that is charged, the store gives off only its part of the voltage of the loop.
  const C2 = reading.offers('load').loadCapacitance?.value;
  const given = C / reading.figure('discharge-capacitance').value;
  const { conduction } = reading.offers('switch');
  const wheel = freewheelOf(reading);
  const VT = thresholdOf(reading)?.value ?? 0;
  if (VT >= V)
    throw new Unavailable(
      'switch',
      'the threshold voltage of the switch is not below the voltage of the store: no current flows',
      'VT',
    );
  const peakTime = reading.figure('time-to-peak').value;
  const { pulse } = reading.offers('store');
  if (pulse) return stairs(reading, pulse, V - VT, R, peakTime);
  const halfPeriod = halfPeriodOf(R, L, C);
  const opensAt = conduction === 'one-way' && Number.isFinite(halfPeriod) ? halfPeriod : null;
  const tEnd = dischargeSpan(reading);
  const dying =
    wheel && Number.isFinite(halfPeriod)
      ? freewheeling(R, L, C, V, VT, halfPeriod, wheel.Vf.value, wheelResistance(reading, wheel.R).value, wheel.R.value)
      : null;
  const halves = dying ?? halfCycles(R, L, C, V, VT, halfPeriod, conduction === 'one-way' ? 1 : Math.ceil(tEnd / halfPeriod) + 1);
  return {
    traces: [
      // Without a threshold and without a switch that opens the whole current is one solution of the loop.
      VT === 0 && opensAt === null && !dying
        ? { ...sampled('current', 'current', 'A', tEnd, () => 0), y: rlcSeries(R, L, C, V, tEnd / samples, samples) }
        : sampled('current', 'current', 'A', tEnd, (t) => halves.current(t)),
      sampled('store-voltage', one < 1 ? 'voltage of a stage' : 'store voltage', 'V', tEnd, (t) =>
        C2 === undefined ? one * halves.voltage(t) : one * (V - given * (V - halves.voltage(t))),
      ),
      ...(C2 === undefined
        ? []
        : [sampled('load-voltage', 'voltage of the load', 'V', tEnd, (t) => (C / C2) * (V - halves.voltage(t)))]),
    ],
    peakTime,
    peakCurrent: reading.figure('peak-current').value,
    opensAt: dying ? dying.ends : opensAt,
  };
}

/** A charged line into the rest of its loop: a step for each way there and back, each by its reflection smaller than the last. */
function stairs(reading: RigReading, pulse: PulseLaw, V: number, R: number, peakTime: number) {
  const [Z, width] = [pulse.Z.value, pulse.width.value];
  const first = reading.figure('peak-current').value;
  const reflection = (R - Z) / (R + Z);
  const tEnd = dischargeSpan(reading);
  const oneWay = reading.offers('switch').conduction === 'one-way';
  const opensAt = oneWay && reflection < 0 ? width : null;
  const step = (t: number): number => (opensAt !== null && t > opensAt ? NaN : Math.floor(t / width));
  const current = (t: number): number => {
    const n = step(t);
    return Number.isNaN(n) ? 0 : first * reflection ** n;
  };
  // The charge that is left in it: each step takes its current for its width, and the far end sees it half a step late.
  const voltage = (t: number): number => {
    const end = opensAt !== null ? Math.min(t, opensAt) : t;
    const n = Math.floor(end / width);
    const gone = Math.max(0, Math.min(1, (end - (n + 0.5) * width) / 1e-12));
    return V * reflection ** n + gone * V * (reflection ** (n + 1) - reflection ** n);
  };
  return {
    traces: [
      sampled('current', 'current', 'A', tEnd, current),
      sampled('store-voltage', 'voltage of its last section', 'V', tEnd, voltage),
    ],
    peakTime,
    peakCurrent: first,
    opensAt,
  };
}

/**
 * Half cycles joined: in each, the store swings about the threshold voltage of the switch, whose sign follows the current.
 * With no threshold this is the plain series RLC.
 */
function halfCycles(R: number, L: number, C: number, V0: number, VT: number, half: number, most: number) {
  const k = reversalFraction(dampingRatio(R, L, C));
  const starts: number[] = [V0];
  while (starts.length < most && Number.isFinite(half)) {
    const v = starts.at(-1) ?? 0;
    const drive = Math.abs(v) - VT;
    if (drive <= 0) break;
    starts.push(-Math.sign(v) * (drive * k - VT));
  }
  const unit = rlcDischarge(R, L, C, 1);
  const piece = (t: number) => {
    const i = Number.isFinite(half) ? Math.floor(t / half) : 0;
    const start = starts[Math.min(i, starts.length - 1)] ?? 0;
    const ended = i >= Math.min(starts.length, most);
    return {
      start,
      drive: Math.max(0, Math.abs(start) - VT),
      local: Number.isFinite(half) ? t - i * half : t,
      ended,
      last: starts.at(-1) ?? 0,
    };
  };
  const end = () => {
    const v = starts.at(-1) ?? 0;
    const drive = Math.abs(v) - VT;
    return drive <= 0 ? v : -Math.sign(v) * (drive * k - VT);
  };
  return {
    current: (t: number) => {
      const p = piece(t);
      return p.ended ? 0 : Math.sign(p.start) * p.drive * unit.current(p.local);
    },
    voltage: (t: number) => {
      const p = piece(t);
      if (p.ended) return end();
      return p.drive === 0 ? p.start : Math.sign(p.start) * (VT + p.drive * unit.voltage(p.local));
    },
  };
}

/** The first quarter of a swing, and from the zero of the store voltage on a current that dies in the diode across the store. */
function freewheeling(R: number, L: number, C: number, V: number, VT: number, half: number, Vf: number, Rw: number, Rd: number) {
  const swing = halfCycles(R, L, C, V, VT, half, 1);
  const from = edge((t) => swing.voltage(t) > -Vf, 0, half, { rounds: 60 }).above;
  const I = swing.current(from);
  const tau = L / Rw;
  // Towards what the drops would drive, which it never comes to: it ends at zero.
  const below = Rw > 0 ? (VT + Vf) / Rw : 0;
  const ends = below > 0 ? from + tau * Math.log1p(I / below) : Infinity;
  const wheel = (t: number) => (t >= ends ? 0 : (I + below) * Math.exp(-(t - from) / tau) - below);
  return {
    ends: Number.isFinite(ends) ? ends : null,
    current: (t: number) => (t < from ? swing.current(t) : wheel(t)),
    voltage: (t: number) => (t < from ? swing.voltage(t) : -Vf - Rd * wheel(t)),
  };
}
