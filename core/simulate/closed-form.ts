import { Unavailable } from '../block/index.ts';
import { Corners, RigReading } from '../figure/index.ts';
import { dampingRatio, reversalFraction } from '../formula/index.ts';
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

const sampled = (id: string, title: string, unit: UnitId, tEnd: number, at: (t: number) => number): Trace => {
  const t = Float64Array.from({ length: samples + 1 }, (_, i) => (tEnd * i) / samples);
  return { id, title, unit, t, y: t.map(at) };
};

/** Charge of the store from rest: v(t) = Vth·(1 − e^(−t/τ)). @throws Unavailable, FormulaError */
export function chargeTraces(rig: Rig): { traces: Trace[]; supplyVoltage: number; target: number; chargeTime: number | null } {
  const reading = new RigReading(rig);
  const vs = reading.offer('sourceVoltage').value;
  const rc = reading.figure('charging-resistance').value;
  const rb = reading.offers('bleeder').bleedResistance?.value ?? Infinity;
  const c = reading.figure('bank-capacitance').value;
  const vth = reading.figure('charge-towards').value;
  const tau = (rc / (1 + rc / rb)) * c;
  const target = reading.offer('chargedTo').value;
  const chargeTime = target < vth ? reading.figure('charge-time').value : null;
  const tEnd = chargeTime === null ? 5 * tau : Math.max(chargeTime * 1.15, tau * 0.2);
  const v = (t: number) => -vth * Math.expm1(-t / tau);
  return {
    traces: [
      sampled('store-voltage', 'store voltage', 'V', tEnd, v),
      sampled('supply-current', 'supply current', 'A', tEnd, (t) => (vs - v(t)) / rc),
    ],
    supplyVoltage: vs,
    target,
    chargeTime,
  };
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

/** Discharge through the switch into the load. A one-way switch opens at the first zero of the current. */
export function dischargeTraces(rig: Rig): { traces: Trace[]; peakTime: number; peakCurrent: number; opensAt: number | null } {
  const reading = new RigReading(rig);
  const R = reading.figure('loop-resistance').value;
  const L = reading.figure('loop-inductance').value;
  const C = reading.figure('bank-capacitance').value;
  const V = reading.offer('chargedTo').value;
  const { threshold, conduction } = reading.offers('switch');
  const VT = threshold?.value ?? 0;
  if (VT >= V)
    throw new Unavailable(
      'switch',
      'the threshold voltage of the switch is not below the voltage of the store: no current flows',
      'VT',
    );
  const peakTime = reading.figure('time-to-peak').value;
  const zeta = dampingRatio(R, L, C);
  const halfPeriod = zeta < 1 ? (Math.PI * Math.sqrt(L * C)) / Math.sqrt((1 - zeta) * (1 + zeta)) : Infinity;
  const opensAt = conduction === 'one-way' && zeta < 1 ? halfPeriod : null;
  const tEnd = windowOf(halfPeriod, { R, L, C }, peakTime, conduction === 'one-way');
  const halves = halfCycles(R, L, C, V, VT, halfPeriod, conduction === 'one-way' ? 1 : Math.ceil(tEnd / halfPeriod) + 1);
  return {
    traces: [
      sampled('current', 'current', 'A', tEnd, (t) => halves.current(t)),
      sampled('store-voltage', 'store voltage', 'V', tEnd, (t) => halves.voltage(t)),
    ],
    peakTime,
    peakCurrent: reading.figure('peak-current').value,
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

/** Bleed-down of the store: through the bleeder, at the worst corner, through the tool, and with the bleeder open. */
export function bleedTraces(rig: Rig): { traces: Trace[]; charged: number } {
  const corners = new Corners(rig);
  const nominal = corners.nominal();
  const C = nominal.figure('bank-capacitance').value;
  const V0 = nominal.offer('chargedTo').value;
  const bleeder = nominal.offers('bleeder').bleedResistance?.value;
  const insulation = nominal.offer('insulation').value;
  const worst = bleeder === undefined ? null : corners.at(corners.bandOf((reading) => reading.figure('bleed-time-tenth')).highAt);
  const slow = worst ? worst.figure('bleed-time-tenth').value / Math.LN10 : insulation * C;
  const tEnd = slow * Math.max(Math.log(V0 / 50) * 1.25, Math.LN10 * 1.2);
  const decay = (id: string, title: string, tau: number) => sampled(id, title, 'V', tEnd, (t) => V0 * Math.exp(-t / tau));
  return {
    traces: [
      ...(bleeder === undefined ? [] : [decay('bleeder', 'bleeder', bleeder * C)]),
      ...(worst ? [decay('worst', 'bleeder, worst tolerance', slow)] : []),
      decay('open', 'bleeder open', insulation * C),
      decay('tool', 'discharge tool', nominal.offer('toolResistance').value * C),
    ],
    charged: V0,
  };
}
