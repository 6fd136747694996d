import { defineFormula } from '../define.ts';
import {
  capacitance,
  current,
  energy,
  fraction,
  positiveVoltage,
  resistance,
  resistanceFromZero,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Charge';

export const rcChargeTime = defineFormula({
  id: 'rc-charge-time',
  title: 'Time to charge a capacitor through a resistor',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: {
    R: resistance('charging resistance'),
    C: capacitance(),
    Vs: positiveVoltage('supply voltage'),
    V: voltage('voltage to reach'),
  },
  expression: '{R}·{C}·ln({Vs}/({Vs} − {V}))',
  source: 'v(t) = Vs·(1 − e^(−t/RC)) from rest, solved for t',
  assumptions: ['the capacitor starts empty', 'the supply voltage stays constant'],
  relation: ({ V, Vs }) =>
    V < Vs
      ? null
      : {
          symbol: 'V',
          reason: 'the voltage to reach must be below the supply voltage Vs, which is approached but never reached',
        },
  compute: ({ R, C, Vs, V }) => -R * C * Math.log1p(-V / Vs),
  inverse: {
    R: ({ t = 0, C = 0, Vs = 0, V = 0 }) => -t / (C * Math.log1p(-V / Vs)),
    C: ({ t = 0, R = 0, Vs = 0, V = 0 }) => -t / (R * Math.log1p(-V / Vs)),
    Vs: ({ t = 0, R = 0, C = 0, V = 0 }) => -V / Math.expm1(-t / (R * C)),
    V: ({ t = 0, R = 0, C = 0, Vs = 0 }) => -Vs * Math.expm1(-t / (R * C)),
  },
});

export const loadedSupplyVoltage = defineFormula({
  id: 'divider-voltage',
  title: 'Steady-state voltage of a divider',
  subject,
  result: { symbol: 'Vth', ...voltage('voltage the store is charged towards'), display: 'V_th' },
  inputs: {
    Vs: voltage('supply voltage'),
    R: resistance('charging resistance'),
    Rb: resistance('resistance across the store'),
  },
  expression: '{Vs}·{Rb}/({R} + {Rb})',
  source: "Thévenin's theorem",
  assumptions: ['steady state: the store draws no current of its own'],
  compute: ({ Vs, R, Rb }) => (Vs * Rb) / (R + Rb),
  inverse: {
    Vs: ({ Vth = 0, R = 0, Rb = 0 }) => (Vth * (R + Rb)) / Rb,
    R: ({ Vth = 0, Vs = 0, Rb = 0 }) => (Rb * (Vs - Vth)) / Vth,
    Rb: ({ Vth = 0, Vs = 0, R = 0 }) => (R * Vth) / (Vs - Vth),
  },
});

export const parallelResistance = defineFormula({
  id: 'parallel-resistance',
  title: 'Two resistances in parallel',
  subject,
  result: { symbol: 'Rp', ...resistance('resistance of both'), display: 'R_p' },
  inputs: { R1: resistance('first resistance'), R2: resistance('second resistance') },
  expression: '{R1}·{R2}/({R1} + {R2})',
  source: "Ohm's and Kirchhoff's laws",
  assumptions: [],
  compute: ({ R1, R2 }) => R1 / (1 + R1 / R2),
  inverse: {
    R1: ({ Rp = 0, R2 = 0 }) => (Rp * R2) / (R2 - Rp),
    R2: ({ Rp = 0, R1 = 0 }) => (Rp * R1) / (R1 - Rp),
  },
});

export const seriesSum = defineFormula({
  id: 'resistance-sum',
  title: 'Two resistances in series',
  subject,
  result: { symbol: 'Rt', ...resistanceFromZero('total resistance'), display: 'R_t' },
  inputs: { R1: resistanceFromZero('first resistance'), R2: resistanceFromZero('second resistance') },
  expression: '{R1} + {R2}',
  source: "Kirchhoff's laws",
  assumptions: [],
  compute: ({ R1, R2 }) => R1 + R2,
  inverse: { R1: ({ Rt = 0, R2 = 0 }) => Rt - R2, R2: ({ Rt = 0, R1 = 0 }) => Rt - R1 },
});

export const voltageSum = defineFormula({
  id: 'voltage-sum',
  title: 'Two voltages in series',
  subject,
  result: { symbol: 'Vt', ...voltage('total voltage'), display: 'V_t' },
  inputs: { V1: { ...voltage('first voltage'), display: 'V_1' }, V2: { ...voltage('second voltage'), display: 'V_2' } },
  expression: '{V1} + {V2}',
  source: "Kirchhoff's laws",
  assumptions: [],
  compute: ({ V1, V2 }) => V1 + V2,
  inverse: { V1: ({ Vt = 0, V2 = 0 }) => Vt - V2, V2: ({ Vt = 0, V1 = 0 }) => Vt - V1 },
});

export const timeSum = defineFormula({
  id: 'time-sum',
  title: 'Two times, one after the other',
  subject,
  result: { symbol: 't', ...time('time of both') },
  inputs: { t1: { ...time('first time'), display: 't_1' }, t2: { ...time('second time'), display: 't_2' } },
  expression: '{t1} + {t2}',
  source: 'they follow each other',
  assumptions: [],
  compute: ({ t1, t2 }) => t1 + t2,
  inverse: { t1: ({ t = 0, t2 = 0 }) => t - t2, t2: ({ t = 0, t1 = 0 }) => t - t1 },
});

export const chargingLoss = defineFormula({
  id: 'charging-loss',
  title: 'Energy lost in the charging resistance up to a voltage',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: {
    R: resistance('charging resistance'),
    Rb: resistance('resistance across the store'),
    C: capacitance(),
    Vs: positiveVoltage('supply voltage'),
    V: voltage('voltage reached'),
  },
  expression: '{R}·∫ i² dt,  i = ({Vs} − v)/{R},  v from 0 to {V} with {C} and {Rb}',
  source:
    'integral of the exponential current: with Vth, τ of the Thévenin circuit, E = R·(a²t + 2abτ·x + ½b²τ·x(2 − x)), a = (Vs − Vth)/R, b = Vth/R, x = V/Vth',
  assumptions: ['the capacitor starts empty', 'with no bleeder and a full charge the loss equals the energy stored'],
  relation: ({ R, Rb, Vs, V }) =>
    V < (Vs * Rb) / (R + Rb)
      ? null
      : { symbol: 'V', reason: 'the voltage reached must be below what the supply and the bleeder divide to' },
  compute: ({ R, Rb, C, Vs, V }) => {
    const vth = (Vs * Rb) / (R + Rb);
    const tau = (R / (1 + R / Rb)) * C;
    const x = V / vth;
    // Vs − Vth = Vs·R/(R + Rb), written so that a bleeder of 1e16 ohm loses no digits.
    const a = Vs / (R + Rb);
    const b = vth / R;
    return R * (-a * a * tau * Math.log1p(-x) + 2 * a * b * tau * x + 0.5 * b * b * tau * x * (2 - x));
  },
});

export const initialCurrent = defineFormula({
  id: 'charging-current',
  title: 'Current into an empty capacitor at the first instant',
  subject,
  result: { symbol: 'I', ...current('initial charging current') },
  inputs: { Vs: voltage('supply voltage'), R: resistance('charging resistance') },
  expression: '{Vs}/{R}',
  source: "Ohm's law",
  assumptions: ['the capacitor starts empty'],
  compute: ({ Vs, R }) => Vs / R,
  inverse: { Vs: ({ I = 0, R = 0 }) => I * R, R: ({ I = 0, Vs = 0 }) => Vs / I },
});

export const shareOfVoltage = defineFormula({
  id: 'share-of-voltage',
  title: 'Voltage ratio',
  subject,
  result: { symbol: 'x', ...fraction('share') },
  inputs: { V: voltage('voltage'), Vs: positiveVoltage('voltage it is a share of') },
  expression: '{V}/{Vs}',
  source: 'definition of a share',
  assumptions: [],
  relation: ({ V, Vs }) =>
    V < Vs ? null : { symbol: 'V', reason: 'is not below the voltage it is charged towards: it is never reached' },
  compute: ({ V, Vs }) => V / Vs,
  inverse: { V: ({ x = 0, Vs = 0 }) => x * Vs, Vs: ({ x = 0, V = 0 }) => V / x },
});

export const fractionOfVoltage = defineFormula({
  id: 'fraction-of-voltage',
  title: 'Fraction of a voltage',
  subject,
  result: { symbol: 'Vx', ...voltage('marked voltage'), display: 'V_x' },
  inputs: { V: voltage('charge voltage'), x: fraction('marked fraction') },
  expression: '{x}·{V}',
  source: 'definition of a fraction',
  assumptions: [],
  compute: ({ V, x }) => x * V,
  inverse: { V: ({ Vx = 0, x = 0 }) => Vx / x, x: ({ Vx = 0, V = 0 }) => Vx / V },
});
