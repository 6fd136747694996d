import { chargeIntegral, standstill, type Drive } from '../../model/index.ts';
import { defineFormula, type SymbolSpec } from '../define.ts';
import { doublerCharge, doublerMean } from './doubler.ts';
import { rectifierDrive } from '../../model/index.ts';
import {
  capacitance,
  count,
  current,
  energy,
  inductanceFromZero,
  positiveVoltage,
  power,
  resistance,
  resistanceFromZero,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Supply';

const frequency = (title = 'frequency'): SymbolSpec => ({ title, unit: 'Hz', min: 0, max: 1e9, open: true });
const positiveCurrent = (title = 'current'): SymbolSpec => ({ ...current(title), open: true });
const positivePower = (title = 'power'): SymbolSpec => ({ ...power(title), open: true });

export const constantCurrentChargeTime = defineFormula({
  id: 'constant-current-charge-time',
  title: 'Time to charge a capacitor at constant current',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: { I: positiveCurrent('charging current'), C: capacitance(), V: voltage('voltage to reach') },
  expression: '{C}·{V}/{I}',
  source: 'i = C·dv/dt at constant i',
  assumptions: ['the capacitor starts empty', 'nothing leaks'],
  compute: ({ I, C, V }) => (C * V) / I,
  inverse: {
    I: ({ t = 0, C = 0, V = 0 }) => (C * V) / t,
    C: ({ t = 0, I = 0, V = 0 }) => (I * t) / V,
    V: ({ t = 0, I = 0, C = 0 }) => (I * t) / C,
  },
});

export const constantPowerChargeTime = defineFormula({
  id: 'constant-power-charge-time',
  title: 'Time to charge a capacitor at constant power',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: { P: positivePower('power into the capacitor'), C: capacitance(), V: voltage('voltage to reach') },
  expression: '½·{C}·{V}²/{P}',
  source: 'energy balance: P·t = ½·C·V²',
  assumptions: ['the capacitor starts empty', 'no current limit at low voltage', 'nothing leaks'],
  compute: ({ P, C, V }) => (0.5 * C * V * V) / P,
  inverse: {
    P: ({ t = 0, C = 0, V = 0 }) => (0.5 * C * V * V) / t,
    C: ({ t = 0, P = 0, V = 0 }) => (2 * P * t) / (V * V),
    V: ({ t = 0, P = 0, C = 0 }) => Math.sqrt((2 * P * t) / C),
  },
});

/** Inputs of a charge from a supply that gives at most a current I and at most a voltage Vs behind R. */
const limited = {
  I: positiveCurrent('current limit'),
  R: resistanceFromZero('charging resistance'),
  C: capacitance(),
  Vs: positiveVoltage('supply voltage'),
  Rb: resistance('resistance across the store'),
  V: voltage('voltage to reach'),
};
type Limited = { readonly [K in keyof typeof limited]: number };
/** What a voltage behind a resistance gives at most; without a resistance anything up to that voltage. */
const behindResistance = (R: number, Vs: number, v: number): number => (R > 0 ? (Vs - v) / R : v <= Vs ? Infinity : 0);
const limitedCurrent = ({ I, R, Vs }: Pick<Limited, 'I' | 'R' | 'Vs'>, v: number): number =>
  Math.max(0, Math.min(I, behindResistance(R, Vs, v)));
const limitedDrive = (values: Limited) => (v: number, out: Drive) => {
  out.current = limitedCurrent(values, v);
  out.heat = out.current * out.current * values.R;
};
const limitedReach = ({ I, R, Vs, Rb }: Pick<Limited, 'I' | 'R' | 'Vs' | 'Rb'>) => Math.min(I * Rb, Vs / (1 + R / Rb));
const unreachable = {
  symbol: 'V' as const,
  reason: 'the voltage to reach must be below what the supply reaches across this resistance',
};
/** At the voltage to reach more must still come in than leaks away. */
const stillFlows = (I: number, { V, Rb }: { readonly V: number; readonly Rb: number }) => (I > V / Rb ? null : unreachable);

export const currentLimitedReach = defineFormula({
  id: 'current-limited-reach',
  title: 'Voltage of a current-limited supply across a resistance',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: { I: limited.I, R: limited.R, Vs: limited.Vs, Rb: limited.Rb },
  expression: 'min({I}·{Rb}, {Vs}·{Rb}/({R} + {Rb}))',
  source: "Ohm's law; Thévenin's theorem",
  assumptions: ['steady state'],
  compute: limitedReach,
});

export const currentLimitedChargeTime = defineFormula({
  id: 'current-limited-charge-time',
  title: 'Time to charge a capacitor from a supply with a current limit',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: limited,
  expression: '∫ {C} dv/(i − v/{Rb}),  i = min({I}, ({Vs} − v)/{R}),  v from 0 to {V}',
  source: 'integral in two pieces: with Vk = Vs − I·R and τ = R‖Rb·C,  t = −Rb·C·ln(1 − Vk/(I·Rb)) + τ·ln((Vth − Vk)/(Vth − V))',
  assumptions: ['the capacitor starts empty', 'the limit is sharp: constant current up to the corner, constant voltage after it'],
  relation: (values) => stillFlows(limitedCurrent(values, values.V), values),
  compute: ({ I, R, C, Vs, Rb, V }) => {
    const corner = Math.max(0, Math.min(V, Vs - I * R));
    const first = -Rb * C * Math.log1p(-corner / (I * Rb));
    if (V <= corner || R === 0) return first;
    const towards = Vs / (1 + R / Rb);
    return first + (R / (1 + R / Rb)) * C * Math.log((towards - corner) / (towards - V));
  },
});

export const currentLimitedChargingLoss = defineFormula({
  id: 'current-limited-charging-loss',
  title: 'Energy lost in the charging resistance, supply with a current limit',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: limited,
  expression: '{R}·∫ i² dt,  i = min({I}, ({Vs} − v)/{R}),  v from 0 to {V} with {C} and {Rb}',
  source: 'integral of the current limit and of the exponential after it, by Gauss and Legendre',
  assumptions: ['the capacitor starts empty', 'losses inside the supply are not in it'],
  relation: (values) => stillFlows(limitedCurrent(values, values.V), values),
  compute: (values) =>
    values.R === 0
      ? 0
      : chargeIntegral(limitedDrive(values), values.C, values.Rb, values.V, [values.Vs - values.I * values.R]).heat,
});

export const currentLimitedCurrent = defineFormula({
  id: 'current-limited-current',
  title: 'Current of a current-limited supply into a store at a voltage',
  subject,
  result: { symbol: 'i', ...current('charging current') },
  inputs: { I: limited.I, R: limited.R, Vs: limited.Vs, V: voltage('voltage of the store') },
  expression: 'max(0, min({I}, ({Vs} − {V})/{R}))',
  source: "Ohm's law behind a sharp limit",
  assumptions: [],
  compute: ({ V, ...values }) => limitedCurrent(values, V),
});

/** The same with a power that is constant between the current limit and the highest voltage. */
const powered = { P: positivePower('power into the charging path'), ...limited };
type Powered = { readonly [K in keyof typeof powered]: number };
const poweredCurrent = ({ P, I, R, Vs }: Pick<Powered, 'P' | 'I' | 'R' | 'Vs'>, v: number): number => {
  // u·i = P with u = v + i·R; written so that a small R loses no digits.
  const byPower = (2 * P) / (v + Math.sqrt(v * v + 4 * R * P));
  return Math.max(0, Math.min(I, byPower, behindResistance(R, Vs, v)));
};
const poweredDrive = (values: Powered) => (v: number, out: Drive) => {
  out.current = poweredCurrent(values, v);
  out.heat = out.current * out.current * values.R;
};
/** Voltages at which current limit, power and voltage limit take turns. */
const poweredCorners = ({ P, I, R, Vs }: Powered): number[] => {
  // The last watt goes where u comes to Vs: there i is P/Vs.
  return [P / I - I * R, Vs - (P * R) / Vs, Vs - I * R];
};
const poweredReach = (values: Omit<Powered, 'C' | 'V'>): number =>
  standstill((v) => poweredCurrent(values, v), values.Rb, 0, values.Vs);

export const powerLimitedReach = defineFormula({
  id: 'power-limited-reach',
  title: 'Voltage of a constant-power supply across a resistance',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: { P: powered.P, I: powered.I, R: powered.R, Vs: powered.Vs, Rb: powered.Rb },
  expression: 'v where min({I}, {P}/u, ({Vs} − v)/{R}) = v/{Rb}',
  source: 'what comes in leaks away; solved by halving',
  assumptions: ['steady state'],
  compute: poweredReach,
});

export const powerLimitedChargeTime = defineFormula({
  id: 'power-limited-charge-time',
  title: 'Time to charge a capacitor from a constant-power supply',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: powered,
  expression: '∫ {C} dv/(i − v/{Rb}),  i = min({I}, {P}/(v + i·{R}), ({Vs} − v)/{R}),  v from 0 to {V}',
  source: 'integral by Gauss and Legendre between the corners of the characteristic',
  assumptions: ['the capacitor starts empty', 'constant power between the current limit and the highest voltage'],
  relation: (values) => stillFlows(poweredCurrent(values, values.V), values),
  compute: (values) => chargeIntegral(poweredDrive(values), values.C, values.Rb, values.V, poweredCorners(values)).time,
});

export const powerLimitedChargingLoss = defineFormula({
  id: 'power-limited-charging-loss',
  title: 'Energy lost in the charging resistance, constant-power supply',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: powered,
  expression: '{R}·∫ i² dt,  i = min({I}, {P}/(v + i·{R}), ({Vs} − v)/{R}),  v from 0 to {V} with {C} and {Rb}',
  source: 'integral by Gauss and Legendre between the corners of the characteristic',
  assumptions: ['the capacitor starts empty', 'losses inside the supply are not in it'],
  relation: (values) => stillFlows(poweredCurrent(values, values.V), values),
  compute: (values) =>
    values.R === 0 ? 0 : chargeIntegral(poweredDrive(values), values.C, values.Rb, values.V, poweredCorners(values)).heat,
});

export const powerLimitedCurrent = defineFormula({
  id: 'power-limited-current',
  title: 'Current of a constant-power supply into a store at a voltage',
  subject,
  result: { symbol: 'i', ...current('charging current') },
  inputs: { P: powered.P, I: limited.I, R: limited.R, Vs: limited.Vs, V: voltage('voltage of the store') },
  expression: 'min({I}, {P}/({V} + i·{R}), ({Vs} − {V})/{R})',
  source: 'u·i = P with u = V + i·R, between a current and a voltage limit',
  assumptions: [],
  compute: ({ V, ...values }) => poweredCurrent(values, V),
});

export const rectifiedPeakVoltage = defineFormula({
  id: 'rectified-peak-voltage',
  title: 'Peak of an AC voltage',
  subject,
  result: { symbol: 'Vp', ...voltage('peak voltage'), display: 'V_p' },
  inputs: { Vrms: voltage('rms voltage') },
  expression: '√2·{Vrms}',
  source: 'definition of the rms value of a sine',
  assumptions: ['a sine; a loaded or saturated transformer gives less'],
  compute: ({ Vrms }) => Math.SQRT2 * Vrms,
  inverse: { Vrms: ({ Vp = 0 }) => Vp / Math.SQRT2 },
});

export const voltageLessDrops = defineFormula({
  id: 'voltage-less-drops',
  title: 'Voltage after diode drops',
  subject,
  result: { symbol: 'Vd', ...voltage('voltage after the diodes'), display: 'V_d' },
  inputs: {
    V: voltage('voltage before the diodes'),
    n: { ...count('diodes in its way'), min: 0 },
    Vf: voltage('drop per diode'),
  },
  expression: '{V} − {n}·{Vf}',
  source: "Kirchhoff's voltage law",
  assumptions: ['a constant forward drop'],
  relation: ({ V, n, Vf }) =>
    n * Vf <= V ? null : { symbol: 'Vf', reason: 'the drops of the diodes must not be above the voltage' },
  compute: ({ V, n, Vf }) => V - n * Vf,
  inverse: { V: ({ Vd = 0, n = 0, Vf = 0 }) => Vd + n * Vf, Vf: ({ Vd = 0, V = 0, n = 0 }) => (V - Vd) / n },
});

export const leakageInductance = defineFormula({
  id: 'leakage-inductance',
  title: 'Inductance that limits a transformer to its short-circuit current',
  subject,
  result: { symbol: 'L', ...inductanceFromZero('leakage inductance') },
  inputs: {
    V: positiveVoltage('open-circuit voltage, rms'),
    I: positiveCurrent('short-circuit current, rms'),
    R: resistanceFromZero('winding resistance'),
    f: frequency(),
  },
  expression: '√(({V}/{I})² − {R}²)/(2π·{f})',
  source: 'impedance of a resistance and an inductance in series',
  assumptions: ['leakage does not depend on the current; saturation is left out'],
  relation: ({ V, I, R }) =>
    V / I >= R ? null : { symbol: 'I', reason: 'the winding resistance alone limits to less than this short-circuit current' },
  compute: ({ V, I, R, f }) => Math.sqrt((V / I) ** 2 - R * R) / (2 * Math.PI * f),
});

export const reactance = defineFormula({
  id: 'reactance',
  title: 'Reactance of an inductance',
  subject,
  result: { symbol: 'X', ...resistanceFromZero('reactance') },
  inputs: { L: inductanceFromZero(), f: frequency() },
  expression: '2π·{f}·{L}',
  source: 'definition',
  assumptions: [],
  compute: ({ L, f }) => 2 * Math.PI * f * L,
  inverse: { L: ({ X = 0, f = 0 }) => X / (2 * Math.PI * f), f: ({ X = 0, L = 0 }) => X / (2 * Math.PI * L) },
});

const rectified = {
  Vp: positiveVoltage('peak voltage less diode drops'),
  R: resistanceFromZero('series resistance'),
  X: resistanceFromZero('series reactance'),
  p: { ...count('pulses a cycle: 1 half-wave, 2 bridge'), max: 2 },
  C: capacitance(),
  Rb: resistance('resistance across the store'),
  V: voltage('voltage to reach'),
};
type Rectified = { readonly [K in keyof typeof rectified]: number };
const meanOf = (drive: (v: number, out: Drive) => void) => {
  const out: Drive = { current: 0, heat: 0 };
  return (v: number) => {
    drive(v, out);
    return out.current;
  };
};
const rectifiedDrive =
  ({ Vp, R, X, p }: Pick<Rectified, 'Vp' | 'R' | 'X' | 'p'>) =>
  (v: number, out: Drive) =>
    rectifierDrive(Vp, R, X, p, v, out);
const someImpedance = (R: number, X: number) =>
  R > 0 || X > 0
    ? null
    : { symbol: 'R' as const, reason: 'resistance and reactance must not both be zero: the current would have no limit' };
const towardsRectified = (values: Pick<Rectified, 'Vp' | 'R' | 'X' | 'p' | 'Rb'>) =>
  standstill(meanOf(rectifiedDrive(values)), values.Rb, 0, values.Vp);
const cycleMean = 'mean over a cycle of the steady state of R, X and the rectifier into a store that stands at v';

export const rectifierReach = defineFormula({
  id: 'rectifier-reach',
  title: 'Voltage of a rectifier across a resistance',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: { Vp: rectified.Vp, R: rectified.R, X: rectified.X, p: rectified.p, Rb: rectified.Rb },
  expression: 'v where ī({Vp}, {R}, {X}, {p}, v) = v/{Rb}',
  source: `${cycleMean}; solved by halving`,
  assumptions: ['a large store: its ripple is small'],
  relation: ({ R, X }) => someImpedance(R, X),
  compute: towardsRectified,
});

export const rectifierCurrent = defineFormula({
  id: 'rectifier-current',
  title: 'Mean current of a rectifier into a store at a voltage',
  subject,
  result: { symbol: 'I', ...current('mean current') },
  inputs: { Vp: rectified.Vp, R: rectified.R, X: rectified.X, p: rectified.p, V: voltage('voltage of the store') },
  expression: 'ī = ({p}/2π)·∫ i dθ,  {X}·di/dθ + {R}·i = {Vp}·sin θ − {V}',
  source: `${cycleMean}, by Gauss and Legendre`,
  assumptions: ['a sine', 'saturation of the transformer is left out'],
  relation: ({ R, X }) => someImpedance(R, X),
  compute: ({ V, ...values }) => meanOf(rectifiedDrive(values))(V),
});

export const rectifierChargeTime = defineFormula({
  id: 'rectifier-charge-time',
  title: 'Time to charge a capacitor from a transformer and rectifier',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: rectified,
  expression: '∫ {C} dv/(ī − v/{Rb}),  ī of {Vp}, {R}, {X}, {p} at v,  v from 0 to {V}',
  source: `${cycleMean}; integral by Gauss and Legendre`,
  assumptions: ['the capacitor starts empty', 'a charge of many cycles', 'saturation of the transformer is left out'],
  relation: (values) => someImpedance(values.R, values.X) ?? stillFlows(meanOf(rectifiedDrive(values))(values.V), values),
  compute: (values) => chargeIntegral(rectifiedDrive(values), values.C, values.Rb, values.V).time,
});

export const rectifierChargingLoss = defineFormula({
  id: 'rectifier-charging-loss',
  title: 'Energy lost while charging from a transformer and rectifier',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: rectified,
  expression: '{R}·∫ i² dt,  i of {Vp}, {R}, {X}, {p} at v,  v from 0 to {V} with {C} and {Rb}',
  source: `${cycleMean}; integral by Gauss and Legendre`,
  assumptions: ['the capacitor starts empty', 'losses in the iron and in the diodes are left out'],
  relation: (values) => someImpedance(values.R, values.X) ?? stillFlows(meanOf(rectifiedDrive(values))(values.V), values),
  compute: (values) => chargeIntegral(rectifiedDrive(values), values.C, values.Rb, values.V).heat,
});

const doubled = {
  Vp: rectified.Vp,
  R: resistanceFromZero('resistance of the winding'),
  X: resistanceFromZero('reactance of the winding'),
  f: frequency(),
  Cd: capacitance('capacitance of each doubler capacitor'),
  Rc: resistanceFromZero('charging resistance after the doubler'),
  C: capacitance(),
  Rb: resistance('resistance across the store'),
  V: voltage('voltage to reach'),
};
const doublerBasis =
  'the cycle stepped through until it repeats: each half wave of R and X charges one capacitor, both in series feed the store';

export const doublerReach = defineFormula({
  id: 'doubler-reach',
  title: 'Voltage of a doubler across a resistance',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: { Vp: doubled.Vp, R: doubled.R, X: doubled.X, f: doubled.f, Cd: doubled.Cd, Rc: doubled.Rc, Rb: doubled.Rb },
  expression: 'v where ī({Vp}, {R}, {X}, {f}, {Cd}, {Rc}, v) = v/{Rb}',
  source: `${doublerBasis}; solved by halving`,
  assumptions: ['steady state', 'a large store: its ripple is small'],
  relation: ({ R, X }) => someImpedance(R, X),
  compute: ({ Rb, ...doubler }) => standstill((v) => doublerMean(doubler, v), Rb, 0, 2 * doubler.Vp),
});

export const doublerCurrent = defineFormula({
  id: 'doubler-current',
  title: 'Mean current of a doubler into a store at a voltage',
  subject,
  result: { symbol: 'I', ...current('mean current') },
  inputs: {
    Vp: doubled.Vp,
    R: doubled.R,
    X: doubled.X,
    f: doubled.f,
    Cd: doubled.Cd,
    Rc: doubled.Rc,
    V: voltage('voltage of the store'),
  },
  expression: 'ī of {Vp}, {R}, {X}, {f}, {Cd}, {Rc} at {V}',
  source: doublerBasis,
  assumptions: ['a sine', 'saturation of the transformer is left out'],
  relation: ({ R, X }) => someImpedance(R, X),
  compute: ({ V, ...doubler }) => doublerMean(doubler, V),
});

export const doublerChargeTime = defineFormula({
  id: 'doubler-charge-time',
  title: 'Time to charge a capacitor from a doubler',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: doubled,
  expression: '∫ {C} dv/(ī − v/{Rb}),  ī of {Vp}, {R}, {X}, {f}, {Cd}, {Rc} at v,  v from 0 to {V}',
  source: `${doublerBasis}; integral by Gauss and Legendre`,
  assumptions: ['the capacitors start empty', 'a charge of many cycles', 'saturation of the transformer is left out'],
  relation: (values) => someImpedance(values.R, values.X) ?? stillFlows(doublerMean(values, values.V), values),
  compute: ({ C, Rb, V, ...doubler }) => doublerCharge(doubler, C, Rb, V).time,
});

export const doublerChargingLoss = defineFormula({
  id: 'doubler-charging-loss',
  title: 'Energy lost while charging from a doubler',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: doubled,
  expression: '∫ (P − v·ī) dt,  P and ī of {Vp}, {R}, {X}, {f}, {Cd}, {Rc} at v,  v from 0 to {V} with {C} and {Rb}',
  source: `${doublerBasis}; integral by Gauss and Legendre`,
  assumptions: ['the capacitors start empty', 'losses in the iron and in the diodes are left out'],
  relation: (values) => someImpedance(values.R, values.X) ?? stillFlows(doublerMean(values, values.V), values),
  compute: ({ C, Rb, V, ...doubler }) => doublerCharge(doubler, C, Rb, V).heat,
});
