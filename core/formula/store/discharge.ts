import { edge } from '../../numeric/index.ts';
import { defineFormula } from '../define.ts';
import { dampingRatio, dampingShape, reversalFraction } from '../../model/index.ts';
import {
  action,
  capacitance,
  current,
  energy,
  fraction,
  inductance,
  positiveVoltage,
  ratio,
  resistance,
  resistanceFromZero,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Discharge';
const series = 'series RLC circuit, capacitor charged, current zero at first';
const linear = ['R, L and C are constant: no arc, no saturation, no heating', 'nothing else is connected during the discharge'];

export const rlcDampingRatio = defineFormula({
  id: 'rlc-damping-ratio',
  title: 'Damping ratio of a series RLC discharge',
  subject,
  result: { symbol: 'zeta', ...ratio('damping ratio', 1e30), display: 'ζ' },
  inputs: { R: resistanceFromZero('loop resistance'), L: inductance('loop inductance'), C: capacitance() },
  expression: '({R}/2)·√({C}/{L})',
  source: `${series}: characteristic equation s² + (R/L)s + 1/(LC) = 0`,
  assumptions: linear,
  compute: ({ R, L, C }) => dampingRatio(R, L, C),
  inverse: {
    R: ({ zeta = 0, L = 0, C = 0 }) => 2 * zeta * Math.sqrt(L / C),
    L: ({ zeta = 0, R = 0, C = 0 }) => C * (R / (2 * zeta)) ** 2,
    C: ({ zeta = 0, R = 0, L = 0 }) => L * ((2 * zeta) / R) ** 2,
  },
});

/** The time to the peak over √(LC), of a loop that rings or of one that does not. */
const shapeInForce = ({ R, L, C }: { readonly R: number; readonly L: number; readonly C: number }): string =>
  `ζ = ({R}/2)·√({C}/{L}),  h = ${dampingRatio(R, L, C) < 1 ? 'acos(ζ)/√(1 − ζ²)' : 'acosh(ζ)/√(ζ² − 1)'}`;

export const rlcPeakCurrent = defineFormula({
  id: 'rlc-peak-current',
  title: 'Peak current of a series RLC discharge',
  subject,
  result: { symbol: 'Ip', ...current('peak current'), display: 'I_p' },
  inputs: {
    R: resistanceFromZero('loop resistance'),
    L: inductance('loop inductance'),
    C: capacitance(),
    V: voltage('initial voltage'),
  },
  expression: '{V}·√({C}/{L})·e^(−ζ·h(ζ)),  ζ = ({R}/2)·√({C}/{L}),  h = acos(ζ)/√(1 − ζ²), or acosh(ζ)/√(ζ² − 1) above 1',
  branch: (values) => `{V}·√({C}/{L})·e^(−ζ·h),  ${shapeInForce(values)}`,
  source: `${series}: maximum of i(t)`,
  assumptions: linear,
  compute: ({ R, L, C, V }) => {
    const zeta = dampingRatio(R, L, C);
    return V * Math.sqrt(C / L) * Math.exp(-zeta * dampingShape(zeta));
  },
  inverse: {
    V: ({ Ip = 0, R = 0, L = 0, C = 0 }) => {
      const zeta = dampingRatio(R, L, C);
      return Ip / (Math.sqrt(C / L) * Math.exp(-zeta * dampingShape(zeta)));
    },
  },
});

export const rlcTimeToPeak = defineFormula({
  id: 'rlc-time-to-peak',
  title: 'Time to the peak current of a series RLC discharge',
  subject,
  result: { symbol: 'tp', ...time('time to peak'), display: 't_p' },
  inputs: { R: resistanceFromZero('loop resistance'), L: inductance('loop inductance'), C: capacitance() },
  expression: '√({L}·{C})·h(ζ),  ζ = ({R}/2)·√({C}/{L}),  h = acos(ζ)/√(1 − ζ²), or acosh(ζ)/√(ζ² − 1) above 1',
  branch: (values) => `√({L}·{C})·h,  ${shapeInForce(values)}`,
  source: `${series}: di/dt = 0`,
  assumptions: linear,
  compute: ({ R, L, C }) => Math.sqrt(L * C) * dampingShape(dampingRatio(R, L, C)),
});

export const rlcVoltageReversal = defineFormula({
  id: 'rlc-voltage-reversal',
  title: 'Voltage reversal of a series RLC discharge',
  subject,
  result: { symbol: 'k', ...fraction('voltage reversal, as a fraction of the initial voltage') },
  inputs: { R: resistanceFromZero('loop resistance'), L: inductance('loop inductance'), C: capacitance() },
  expression: 'e^(−π·ζ/√(1 − ζ²)),  ζ = ({R}/2)·√({C}/{L});  zero when ζ ≥ 1',
  branch: ({ R, L, C }) =>
    dampingRatio(R, L, C) < 1 ? 'e^(−π·ζ/√(1 − ζ²)),  ζ = ({R}/2)·√({C}/{L})' : '0, for ({R}/2)·√({C}/{L}) ≥ 1',
  source: `${series}: capacitor voltage at the first zero of the current`,
  assumptions: linear,
  compute: ({ R, L, C }) => reversalFraction(dampingRatio(R, L, C)),
});

export const actionIntegral = defineFormula({
  id: 'action-integral',
  title: 'Action integral of a complete discharge',
  subject,
  result: { symbol: 'A', ...action() },
  inputs: { C: capacitance(), V: voltage('initial voltage'), R: resistance('loop resistance') },
  expression: '{C}·{V}²/(2·{R})',
  source: 'energy balance: ∫ i² dt = stored energy / R, whatever the inductance',
  assumptions: ['all the energy ends as heat in R', 'R is constant'],
  compute: ({ C, V, R }) => (C * V * V) / (2 * R),
  inverse: {
    C: ({ A = 0, V = 0, R = 0 }) => (2 * A * R) / (V * V),
    V: ({ A = 0, C = 0, R = 0 }) => Math.sqrt((2 * A * R) / C),
    R: ({ A = 0, C = 0, V = 0 }) => (C * V * V) / (2 * A),
  },
});

export const actionOfHalfCycle = defineFormula({
  id: 'action-integral-half-cycle',
  title: 'Action integral up to the first zero of the current',
  subject,
  result: { symbol: 'A', ...action() },
  inputs: {
    C: capacitance(),
    V: voltage('voltage that drives the discharge'),
    k: fraction('voltage reversal'),
    R: resistance('loop resistance'),
  },
  expression: '{C}·{V}²·(1 − {k}²)/(2·{R})',
  source: 'energy balance between the start and the first zero of the current',
  assumptions: ['the switch opens at the first zero of the current and stays open', 'R is constant'],
  compute: ({ C, V, k, R }) => (C * V * V * (1 - k * k)) / (2 * R),
  inverse: {
    C: ({ A = 0, V = 0, k = 0, R = 0 }) => (2 * A * R) / (V * V * (1 - k * k)),
    V: ({ A = 0, C = 0, k = 0, R = 0 }) => Math.sqrt((2 * A * R) / (C * (1 - k * k))),
    R: ({ A = 0, C = 0, V = 0, k = 0 }) => (C * V * V * (1 - k * k)) / (2 * A),
  },
});

export const initialRateOfRise = defineFormula({
  id: 'initial-di-dt',
  title: 'Steepest rise of the discharge current',
  subject,
  result: { symbol: 'S', title: 'rate of rise of current', unit: 'A/s', min: 0, max: 1e18 },
  inputs: { V: voltage('voltage that drives the discharge'), L: inductance('loop inductance') },
  expression: '{V}/{L}',
  source: 'v = L·di/dt at the first instant, when the current is zero',
  assumptions: ['the switch closes at once; a real closing time only lowers it'],
  compute: ({ V, L }) => V / L,
  inverse: { V: ({ S = 0, L = 0 }) => S * L, L: ({ S = 0, V = 0 }) => V / S },
});

export const driveVoltage = defineFormula({
  id: 'drive-voltage',
  title: 'Driving voltage behind the switch',
  subject,
  result: { symbol: 'Vd', ...voltage('voltage that drives the discharge'), display: 'V_d' },
  inputs: { V: positiveVoltage('voltage of the store'), VT: voltage('threshold voltage of the switch') },
  expression: '{V} − {VT}',
  source:
    'a conducting thyristor as a threshold voltage in series with its slope resistance (IEC 60747-6, on-state characteristic; from memory)',
  assumptions: ['current flows one way: exact up to the first zero of the current'],
  relation: ({ V, VT }) =>
    VT < V
      ? null
      : { symbol: 'VT', reason: 'the threshold voltage of the switch is not below the voltage of the store: no current flows' },
  compute: ({ V, VT }) => V - VT,
  inverse: { V: ({ Vd = 0, VT = 0 }) => Vd + VT, VT: ({ Vd = 0, V = 0 }) => V - Vd },
});

export const storeReversal = defineFormula({
  id: 'store-reversal',
  title: 'Voltage reversal of the store behind a switch with a threshold',
  subject,
  result: { symbol: 'kv', ...fraction('voltage reversal of the store'), display: 'k_v' },
  inputs: {
    k: fraction('voltage reversal of the ideal loop'),
    V: positiveVoltage('voltage of the store'),
    VT: voltage('threshold voltage of the switch'),
  },
  expression: '(({V} − {VT})·{k} − {VT})/{V}, not below zero',
  source: 'the store swings about the threshold voltage of the switch during the first half cycle',
  assumptions: ['threshold voltage constant during conduction'],
  relation: ({ V, VT }) =>
    VT < V
      ? null
      : { symbol: 'VT', reason: 'the threshold voltage of the switch is not below the voltage of the store: no current flows' },
  compute: ({ k, V, VT }) => Math.max(0, ((V - VT) * k - VT) / V),
});

export const reversedVoltage = defineFormula({
  id: 'reversed-voltage',
  title: 'Voltage left on a store when its switch opens at the first zero of the current',
  subject,
  result: { symbol: 'Vr', ...voltage('reversed voltage left on the store'), display: 'V_r' },
  inputs: { k: fraction('voltage reversal of the store'), V: voltage('initial voltage') },
  expression: '{k}·{V}',
  source: 'definition of voltage reversal',
  assumptions: ['the switch opens at the first zero of the current and stays open'],
  compute: ({ k, V }) => k * V,
  inverse: { k: ({ Vr = 0, V = 0 }) => Vr / V, V: ({ Vr = 0, k = 0 }) => Vr / k },
});

export const heatFromAction = defineFormula({
  id: 'energy-from-action',
  title: 'Heat in a resistance from the action integral',
  subject,
  result: { symbol: 'E', ...energy('heat in the resistance') },
  inputs: { A: action(), R: resistanceFromZero() },
  expression: '{A}·{R}',
  source: "Joule's law: E = R·∫ i² dt",
  assumptions: ['R is constant during the pulse'],
  compute: ({ A, R }) => A * R,
  inverse: { A: ({ E = 0, R = 0 }) => E / R, R: ({ E = 0, A = 0 }) => E / A },
});

export const parallelDischargeShare = defineFormula({
  id: 'parallel-discharge-share',
  title: 'Share of a discharge in one of two parallel resistances',
  subject,
  result: { symbol: 's', ...fraction('share of the energy') },
  inputs: { R: resistance('resistance of this path'), Rp: resistance('resistance of the other path') },
  expression: '{Rp}/({R} + {Rp})',
  source: "Joule's law: both see one voltage, power goes as 1/R",
  assumptions: ['both stay connected from beginning to end', 'no inductance decides which carries first'],
  compute: ({ R, Rp }) => 1 / (1 + R / Rp),
  inverse: { R: ({ s = 0, Rp = 0 }) => (Rp * (1 - s)) / s, Rp: ({ s = 0, R = 0 }) => (R * s) / (1 - s) },
});

export const backfeedCurrent = defineFormula({
  id: 'backfeed-current',
  title: 'Reverse current of a ringing store through its charger',
  subject,
  result: { symbol: 'Ib', ...current('current through the charger'), display: 'I_b' },
  inputs: {
    k: fraction('voltage reversal'),
    V: voltage('charge voltage'),
    Vs: voltage('supply voltage'),
    R: resistance('charging resistance'),
  },
  expression: '({Vs} + {k}·{V})/{R}',
  source: "Ohm's law on the charging path at the reversed peak: its rectifier conducts, forwards",
  assumptions: ['the charger is still connected', 'no inductance in the charging path', 'the charger holds its voltage'],
  compute: ({ k, V, Vs, R }) => (Vs + k * V) / R,
  inverse: {
    R: ({ Ib = 0, k = 0, V = 0, Vs = 0 }) => (Vs + k * V) / Ib,
    Vs: ({ Ib = 0, k = 0, V = 0, R = 0 }) => Ib * R - k * V,
  },
});

export const limitedBackfeedCurrent = defineFormula({
  id: 'limited-backfeed-current',
  title: 'Reverse current of a ringing store through a current-limited charger',
  subject,
  result: { symbol: 'Ib', ...current('current through the charger'), display: 'I_b' },
  inputs: {
    k: fraction('voltage reversal'),
    V: voltage('charge voltage'),
    I: { ...current('what the charger gives into a short') },
    R: resistance('charging resistance'),
  },
  expression: '{I} + {k}·{V}/{R}',
  source: 'Kirchhoff’s current law: the limit of the charger, and what the reversed store drives through its output diodes',
  assumptions: ['the charger is still connected and keeps its limit', 'no inductance in the charging path'],
  compute: ({ k, V, I, R }) => I + (k * V) / R,
  inverse: {
    R: ({ Ib = 0, k = 0, V = 0, I = 0 }) => (k * V) / (Ib - I),
    I: ({ Ib = 0, k = 0, V = 0, R = 0 }) => Ib - (k * V) / R,
  },
});

export const freewheelDecay = defineFormula({
  id: 'freewheel-decay-time',
  title: 'Decay time of a current through a diode',
  subject,
  result: { symbol: 't', ...time('time to 5 % of it') },
  inputs: { L: inductance('loop inductance'), R: resistance('resistance of the path through the diode') },
  expression: '3·{L}/{R}',
  source: 'i(t) = I·e^(−t·R/L): e^−3 is 5 %',
  assumptions: ['the drop of the diode, which ends it sooner, is left out'],
  compute: ({ L, R }) => (3 * L) / R,
  inverse: { L: ({ t = 0, R = 0 }) => (t * R) / 3, R: ({ t = 0, L = 0 }) => (3 * L) / t },
});

export const earthKick = defineFormula({
  id: 'earth-kick',
  title: 'Voltage along a lead while the current rises',
  subject,
  result: { symbol: 'Vk', ...voltage('voltage along the lead'), display: 'V_k' },
  inputs: {
    S: { title: 'rate of rise', unit: 'A/s', min: 0, max: 1e18 },
    Le: { ...inductance('inductance of the lead'), display: 'L_e' },
    L: inductance('inductance of the whole loop'),
  },
  expression: '{S}·min({Le}, {L})',
  source: 'v = L·di/dt: a lead takes its share of the voltage that drives the loop, and never more than all of it',
  assumptions: ['the lead is part of the loop', 'at the first instant, when the current rises fastest'],
  compute: ({ S, Le, L }) => S * Math.min(Le, L),
});

/** Current and capacitor voltage of a series RLC discharge at an instant. */
function rlcAt(R: number, L: number, C: number, V: number, t: number): { i: number; v: number } {
  const a = R / (2 * L);
  const x = a * a - 1 / (L * C);
  const b = Math.sqrt(Math.abs(x));
  // e^(−at)·sin(bt)/b and e^(−at)·cos(bt), or those of sinh and cosh, without overflow.
  let [s, c] = [t * Math.exp(-a * t), Math.exp(-a * t)];
  if (b * t > 1e-6) {
    if (x < 0) [s, c] = [(Math.exp(-a * t) * Math.sin(b * t)) / b, Math.exp(-a * t) * Math.cos(b * t)];
    else {
      // a − b as 1/(LC)/(a + b): far above the critical damping it is a small difference of large numbers.
      const [slow, fast] = [Math.exp(-t / (L * C * (a + b))), Math.exp(-(a + b) * t)];
      [s, c] = [(slow - fast) / (2 * b), (slow + fast) / 2];
    }
  }
  return { i: (V / L) * s, v: V * (c + a * s) };
}

export const timeToAction = defineFormula({
  id: 'time-to-action',
  title: 'Time at which the action integral reaches a value',
  subject,
  result: { symbol: 't', ...time('time from the start') },
  inputs: {
    A: action('action to be reached'),
    R: resistance('loop resistance'),
    L: inductance('loop inductance'),
    C: capacitance(),
    V: positiveVoltage('initial voltage'),
  },
  expression: 't at which ∫ i² dt = {A}, by energy: (½{C}{V}² − ½{C}·v² − ½{L}·i²)/{R}, v and i those of the series RLC loop',
  source: 'energy balance of the closed form of the series RLC loop',
  assumptions: ['R is constant: that of a wire rises several times before it bursts', 'the current flows both ways'],
  relation: ({ A, R, C, V }) =>
    A <= (0.999 * C * V * V) / (2 * R) ? null : { symbol: 'A', reason: 'the whole discharge has hardly that much action' },
  compute: ({ A, R, L, C, V }) => {
    const soon = Math.min(Math.sqrt(L * C), L / R);
    const done = (t: number) => {
      // At first it is a small difference of large energies: there the current itself is summed, after Simpson.
      if (t < soon) {
        let sum = 0;
        for (let k = 1; k < 64; k++) sum += (k % 2 === 1 ? 4 : 2) * rlcAt(R, L, C, V, (t * k) / 64).i ** 2;
        return ((sum + rlcAt(R, L, C, V, t).i ** 2) * t) / 192;
      }
      const { i, v } = rlcAt(R, L, C, V, t);
      return (0.5 * C * (V * V - v * v) - 0.5 * L * i * i) / R;
    };
    let high = Math.min(Math.sqrt(L * C), R * C || Infinity);
    for (let k = 0; k < 200 && done(high) < A; k++) high *= 2;
    return edge((t) => done(t) < A, 0, high).middle;
  },
});

export const freewheelCurrent = defineFormula({
  id: 'freewheel-current',
  title: 'Current when a freewheel diode takes it over',
  subject,
  result: { symbol: 'If', ...current('current at the zero of the store voltage'), display: 'I_f' },
  inputs: {
    V: voltage('voltage that drives the discharge'),
    R: resistanceFromZero('loop resistance'),
    L: inductance('loop inductance'),
    C: capacitance(),
  },
  expression: '{V}·√({C}/{L})·exp(−ζ·(½π + asin ζ)/√(1 − ζ²)),  ζ = ½{R}·√({C}/{L})',
  source: `${series}: where its capacitor voltage first passes zero`,
  assumptions: ['the drop of the diode is small against the voltage', ...linear],
  relation: ({ R, L, C }) =>
    dampingRatio(R, L, C) < 0.95 ? null : { symbol: 'R', reason: 'the loop hardly rings: the store is barely reversed' },
  compute: ({ V, R, L, C }) => {
    const zeta = dampingRatio(R, L, C);
    const root = Math.sqrt((1 - zeta) * (1 + zeta));
    return V * Math.sqrt(C / L) * Math.exp((-zeta * (Math.PI / 2 + Math.asin(zeta))) / root);
  },
});

export const clampedReversal = defineFormula({
  id: 'clamped-reversal',
  title: 'Voltage reversal behind a freewheel diode',
  subject,
  result: { symbol: 'k', ...fraction('voltage reversal') },
  inputs: {
    Vf: voltage('drop of the diode'),
    I: current('current that it takes over'),
    R: resistanceFromZero('resistance of its path'),
    V: positiveVoltage('voltage of the store'),
  },
  expression: '({Vf} + {I}·{R})/{V}',
  source: "Ohm's law on the path of the diode, which lies across the store",
  assumptions: ['its leads have no inductance'],
  relation: ({ Vf, I, R, V }) =>
    Vf + I * R <= V ? null : { symbol: 'R', reason: 'the diode and its path drop more than the store holds: they clamp nothing' },
  compute: ({ Vf, I, R, V }) => (Vf + I * R) / V,
});

export const actionOfFreewheel = defineFormula({
  id: 'action-integral-freewheel',
  title: 'Action integral with a freewheel diode',
  subject,
  result: { symbol: 'A', ...action() },
  inputs: {
    C: capacitance(),
    V: voltage('voltage that drives the discharge'),
    L: inductance('loop inductance'),
    I: current('current that the diode takes over'),
    R: resistance('loop resistance'),
    Rw: { ...resistance('resistance of the loop through the diode'), display: 'R_w' },
  },
  expression: '(½{C}·{V}² − ½{L}·{I}²)/{R} + ½{L}·{I}²/{Rw}',
  source: 'energy balance: up to the zero of the store voltage, and of the field from there',
  assumptions: ['R is constant', 'drops of diode and switch take nothing of the field: an upper bound'],
  relation: ({ C, V, L, I }) =>
    L * I * I <= C * V * V * (1 + 1e-9) ? null : { symbol: 'I', reason: 'the field cannot hold more than was stored' },
  compute: ({ C, V, L, I, R, Rw }) => (0.5 * C * V * V - 0.5 * L * I * I) / R + (0.5 * L * I * I) / Rw,
});
