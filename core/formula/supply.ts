import { chargeIntegral, standstill, type Drive } from './charge-integral.ts';
import { defineFormula, type SymbolSpec } from './define.ts';
import { doublerCharge, doublerMean, doublerStandstill, rectifierDrive } from './rectifier.ts';
import {
  capacitance,
  charge,
  count,
  current,
  energy,
  fraction,
  inductance,
  inductanceFromZero,
  positiveVoltage,
  power,
  ratio,
  resistance,
  resistanceFromZero,
  time,
  voltage,
} from './symbol.ts';

const subject = 'Supply';

const frequency = (title = 'frequency'): SymbolSpec => ({ title, unit: 'Hz', min: 0, max: 1e9, open: true });
const positiveCurrent = (title = 'current'): SymbolSpec => ({ ...current(title), open: true });
const positivePower = (title = 'power'): SymbolSpec => ({ ...power(title), open: true });
const efficiency = (title = 'efficiency'): SymbolSpec => ({ ...fraction(title), open: true });

export const constantCurrentChargeTime = defineFormula({
  id: 'constant-current-charge-time',
  title: 'Time to charge a capacitor with a constant current',
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
  title: 'Time to charge a capacitor with a constant power',
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
  reason: 'the voltage to reach must be below what the supply comes to across this resistance',
};
/** At the voltage to reach more must still come in than leaks away. */
const stillFlows = (I: number, { V, Rb }: { readonly V: number; readonly Rb: number }) => (I > V / Rb ? null : unreachable);

export const currentLimitedReach = defineFormula({
  id: 'current-limited-reach',
  title: 'Voltage a supply with a current limit comes to across a resistance',
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
  assumptions: [
    'the capacitor starts empty',
    'the limit is sharp: constant current up to the corner, constant voltage behind it',
  ],
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
  source: 'integral of the current limit and of the exponential behind it, by Gauss and Legendre',
  assumptions: ['the capacitor starts empty', 'losses inside the supply are not in it'],
  relation: (values) => stillFlows(limitedCurrent(values, values.V), values),
  compute: (values) =>
    values.R === 0
      ? 0
      : chargeIntegral(limitedDrive(values), values.C, values.Rb, values.V, [values.Vs - values.I * values.R]).heat,
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
  const discriminant = Vs * Vs - 4 * R * P;
  return [P / I - I * R, ...(discriminant > 0 ? [Vs - (P * R) / Vs] : []), Vs - I * R];
};
const poweredReach = (values: Omit<Powered, 'C' | 'V'>): number =>
  standstill((v) => poweredCurrent(values, v), values.Rb, 0, values.Vs);

export const powerLimitedReach = defineFormula({
  id: 'power-limited-reach',
  title: 'Voltage a constant-power supply comes to across a resistance',
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

export const rectifiedPeakVoltage = defineFormula({
  id: 'rectified-peak-voltage',
  title: 'Peak of an alternating voltage',
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
  title: 'A voltage less the drops of diodes in its way',
  subject,
  result: { symbol: 'Vd', ...voltage('voltage behind the diodes'), display: 'V_d' },
  inputs: {
    V: voltage('voltage before the diodes'),
    n: { ...count('diodes in its way'), min: 0 },
    Vf: voltage('drop of one diode'),
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
    : { symbol: 'R' as const, reason: 'resistance and reactance must not both be nought: the current would have no limit' };
const towardsRectified = (values: Pick<Rectified, 'Vp' | 'R' | 'X' | 'p' | 'Rb'>) =>
  standstill(meanOf(rectifiedDrive(values)), values.Rb, 0, values.Vp);
const cycleMean = 'mean over a cycle of the steady state of R, X and the rectifier into a store that stands at v';

export const rectifierReach = defineFormula({
  id: 'rectifier-reach',
  title: 'Voltage a rectifier comes to across a resistance',
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
  title: 'Mean current of a rectifier into a store that stands at a voltage',
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
  Rc: resistanceFromZero('charging resistance behind the doubler'),
  C: capacitance(),
  Rb: resistance('resistance across the store'),
  V: voltage('voltage to reach'),
};
const doublerBasis =
  'each capacitor charged once a cycle by the half waves of R and X, in series into the store: v = 2u − I/(f·Cd) − I·Rc';

export const doublerReach = defineFormula({
  id: 'doubler-reach',
  title: 'Voltage a doubler comes to across a resistance',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: { Vp: doubled.Vp, R: doubled.R, X: doubled.X, f: doubled.f, Cd: doubled.Cd, Rc: doubled.Rc, Rb: doubled.Rb },
  expression: 'v where ī({Vp}, {R}, {X}, {f}, {Cd}, {Rc}, v) = v/{Rb}',
  source: `${doublerBasis}; solved by halving`,
  assumptions: ['steady state', 'a large store: its ripple is small'],
  relation: ({ R, X }) => someImpedance(R, X),
  compute: ({ Rb, ...doubler }) => doublerStandstill(doubler, Rb),
});

export const doublerCurrent = defineFormula({
  id: 'doubler-current',
  title: 'Mean current of a doubler into a store that stands at a voltage',
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

export const repetitionRate = defineFormula({
  id: 'repetition-rate',
  title: 'Charges a second that a current can feed',
  subject,
  result: { symbol: 'N', title: 'charges a second', unit: 'Hz', min: 0, max: 1e12 },
  inputs: { I: current('mean charging current'), C: capacitance(), V: positiveVoltage('charge voltage') },
  expression: '{I}/({C}·{V})',
  source: 'charge balance: each charge takes C·V',
  assumptions: ['the supply charges all the time between shots', 'each shot empties the store'],
  compute: ({ I, C, V }) => I / (C * V),
  inverse: {
    I: ({ N = 0, C = 0, V = 0 }) => N * C * V,
    C: ({ N = 0, I = 0, V = 0 }) => I / (N * V),
    V: ({ N = 0, I = 0, C = 0 }) => I / (N * C),
  },
});

export const meanChargingCurrent = defineFormula({
  id: 'mean-charging-current',
  title: 'Mean current of a charge',
  subject,
  result: { symbol: 'I', ...current('mean charging current') },
  inputs: { Q: charge('charge brought in'), t: { ...time('charge time'), open: true } },
  expression: '{Q}/{t}',
  source: 'definition of a mean current',
  assumptions: ['what leaks meanwhile is not in it'],
  compute: ({ Q, t }) => Q / t,
  inverse: { Q: ({ I = 0, t = 0 }) => I * t, t: ({ I = 0, Q = 0 }) => Q / I },
});

export const meanPower = defineFormula({
  id: 'mean-power',
  title: 'Mean power over a time',
  subject,
  result: { symbol: 'P', ...power('mean power') },
  inputs: { E: energy(), t: { ...time(), open: true } },
  expression: '{E}/{t}',
  source: 'definition of a mean power',
  assumptions: [],
  compute: ({ E, t }) => E / t,
  inverse: { E: ({ P = 0, t = 0 }) => P * t, t: ({ P = 0, E = 0 }) => E / P },
});

export const energySum = defineFormula({
  id: 'energy-sum',
  title: 'Two energies together',
  subject,
  result: { symbol: 'Et', ...energy('energy of both'), display: 'E_t' },
  inputs: { E1: energy('first energy'), E2: energy('second energy') },
  expression: '{E1} + {E2}',
  source: 'energy is conserved',
  assumptions: [],
  compute: ({ E1, E2 }) => E1 + E2,
  inverse: { E1: ({ Et = 0, E2 = 0 }) => Et - E2, E2: ({ Et = 0, E1 = 0 }) => Et - E1 },
});

export const chargingEfficiency = defineFormula({
  id: 'charging-efficiency',
  title: 'Share of the energy that ends in the store',
  subject,
  result: { symbol: 'eta', ...fraction('charging efficiency'), display: 'η' },
  inputs: { E: { ...energy('energy stored'), open: true }, El: energy('energy lost on the way') },
  expression: '{E}/({E} + {El})',
  source: 'energy is conserved',
  assumptions: [],
  compute: ({ E, El }) => E / (E + El),
  inverse: { E: ({ eta = 0, El = 0 }) => (eta * El) / (1 - eta), El: ({ eta = 0, E = 0 }) => E / eta - E },
});

export const inputCurrent = defineFormula({
  id: 'converter-input-current',
  title: 'Current a converter takes from a source with inner resistance',
  subject,
  result: { symbol: 'Iin', ...current('input current'), display: 'I_in' },
  inputs: {
    P: power('output power'),
    eta: { ...efficiency(), display: 'η' },
    E: positiveVoltage('source voltage without load'),
    Ri: resistanceFromZero('inner resistance of the source'),
  },
  expression: '2·({P}/{eta})/({E} + √({E}² − 4·{Ri}·{P}/{eta}))',
  source: 'P/η = I·(E − I·Ri), the smaller root',
  assumptions: ['the efficiency does not depend on the load'],
  relation: ({ P, eta, E, Ri }) =>
    4 * Ri * (P / eta) <= E * E
      ? null
      : {
          symbol: 'P',
          reason: 'the source cannot give this power: at most E²/(4·Ri) comes out of it, and then its voltage is half',
        },
  compute: ({ P, eta, E, Ri }) => (2 * (P / eta)) / (E + Math.sqrt(E * E - 4 * Ri * (P / eta))),
});

export const loadedVoltage = defineFormula({
  id: 'loaded-voltage',
  title: 'Voltage of a source under load',
  subject,
  result: { symbol: 'Vl', ...voltage('voltage under load'), display: 'V_l' },
  inputs: { E: voltage('voltage without load'), I: current(), Ri: resistanceFromZero('inner resistance') },
  expression: '{E} − {I}·{Ri}',
  source: "Ohm's law",
  assumptions: [],
  relation: ({ E, I, Ri }) =>
    I * Ri <= E ? null : { symbol: 'I', reason: 'the source cannot give more than its short-circuit current' },
  compute: ({ E, I, Ri }) => E - I * Ri,
  inverse: { E: ({ Vl = 0, I = 0, Ri = 0 }) => Vl + I * Ri, I: ({ Vl = 0, E = 0, Ri = 0 }) => (E - Vl) / Ri },
});

export const batteryCharges = defineFormula({
  id: 'battery-charges',
  title: 'Charges of the store that a battery holds',
  subject,
  result: { symbol: 'N', ...ratio('charges') },
  inputs: {
    Q: charge('capacity of the battery'),
    V: voltage('voltage under load'),
    eta: { ...efficiency(), display: 'η' },
    E: { ...energy('energy of one charge out of the converter'), open: true },
  },
  expression: '{Q}·{V}·{eta}/{E}',
  source: 'energy balance',
  assumptions: ['the whole capacity is used at the loaded voltage', 'nothing is taken between charges'],
  compute: ({ Q, V, eta, E }) => (Q * V * eta) / E,
  inverse: {
    Q: ({ N = 0, V = 0, eta = 0, E = 0 }) => (N * E) / (V * eta),
    E: ({ N = 0, V = 0, eta = 0, Q = 0 }) => (Q * V * eta) / N,
  },
});

export const flybackPower = defineFormula({
  id: 'flyback-power',
  title: 'Power of a flyback converter',
  subject,
  result: { symbol: 'P', ...power('output power') },
  inputs: {
    L: inductance('primary inductance'),
    I: current('peak primary current'),
    f: frequency('cycles a second'),
    eta: { ...efficiency(), display: 'η' },
  },
  expression: '½·{L}·{I}²·{f}·{eta}',
  source: 'energy of the primary at each cycle',
  assumptions: ['discontinuous: the core is empty at the end of each cycle'],
  compute: ({ L, I, f, eta }) => 0.5 * L * I * I * f * eta,
  inverse: {
    L: ({ P = 0, I = 0, f = 0, eta = 0 }) => P / (0.5 * I * I * f * eta),
    f: ({ P = 0, I = 0, L = 0, eta = 0 }) => P / (0.5 * I * I * L * eta),
    I: ({ P = 0, L = 0, f = 0, eta = 0 }) => Math.sqrt(P / (0.5 * L * f * eta)),
  },
});

export const flybackReverseVoltage = defineFormula({
  id: 'flyback-reverse-voltage',
  title: 'Reverse voltage on the diode of a flyback converter',
  subject,
  result: { symbol: 'Vr', ...voltage('reverse voltage'), display: 'V_r' },
  inputs: { V: voltage('output voltage'), Vin: voltage('input voltage'), N: ratio('turns ratio, secondary to primary', 1e6) },
  expression: '{V} + {N}·{Vin}',
  source: 'transformer action while the switch conducts',
  assumptions: ['ringing with the leakage comes on top: measure it'],
  compute: ({ V, Vin, N }) => V + N * Vin,
  inverse: { V: ({ Vr = 0, Vin = 0, N = 0 }) => Vr - N * Vin },
});

/** Next of the R10 numbers in which fuses are made. */
const nextPreferred = (value: number): number => {
  const series = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10];
  const decade = 10 ** Math.floor(Math.log10(value));
  return decade * (series.find((x) => x * decade >= value * (1 - 1e-12)) ?? 10);
};

export const fuseRating = defineFormula({
  id: 'fuse-rating',
  title: 'Rating of an input fuse',
  subject,
  result: { symbol: 'If', ...current('fuse rating'), display: 'I_f' },
  inputs: {
    I: positiveCurrent('greatest steady input current'),
    k: { title: 'margin over the input current', unit: '1', min: 1, max: 10, default: 1.5 },
  },
  expression: 'next R10 number above {k}·{I}',
  source: 'common practice, no source: 1.25 to 1.6 times the running current, slow-blow; ratings in the R10 series',
  assumptions: ['a hint for the first trial: inrush and breaking capacity are not in it'],
  compute: ({ I, k }) => nextPreferred(k * I),
});
