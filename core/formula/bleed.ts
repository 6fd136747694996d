import { defineFormula } from './define.ts';
import { capacitance, count, current, energy, positiveVoltage, power, resistance, time, voltage } from './symbol.ts';

const subject = 'Bleed';

export const rcBleedTime = defineFormula({
  id: 'rc-bleed-time',
  title: 'Time to bleed a capacitor down through a resistor',
  subject,
  result: { symbol: 't', ...time('bleed time') },
  inputs: {
    R: resistance('bleed resistance'),
    C: capacitance(),
    V0: positiveVoltage('voltage at the start'),
    V: positiveVoltage('voltage to fall to'),
  },
  expression: '{R}·{C}·ln({V0}/{V})',
  source: 'v(t) = V0·e^(−t/RC), solved for t',
  assumptions: [
    'the supply is off and isolated',
    'dielectric absorption is left out: the voltage can rise again after the bleed is taken off',
  ],
  relation: ({ V0, V }) =>
    V <= V0 ? null : { symbol: 'V', reason: 'the voltage to fall to must not be above the voltage at the start, V0' },
  compute: ({ R, C, V0, V }) => R * C * Math.log(V0 / V),
  inverse: {
    R: ({ t = 0, C = 0, V0 = 0, V = 0 }) => t / (C * Math.log(V0 / V)),
    C: ({ t = 0, R = 0, V0 = 0, V = 0 }) => t / (R * Math.log(V0 / V)),
    V0: ({ t = 0, R = 0, C = 0, V = 0 }) => V * Math.exp(t / (R * C)),
    V: ({ t = 0, R = 0, C = 0, V0 = 0 }) => V0 * Math.exp(-t / (R * C)),
  },
});

export const bleedPeakPower = defineFormula({
  id: 'bleed-peak-power',
  title: 'Power in a bleed resistor at the first instant',
  subject,
  result: { symbol: 'P', ...power('peak power') },
  inputs: { R: resistance('bleed resistance'), V: voltage() },
  expression: '{V}²/{R}',
  source: "Joule's law",
  assumptions: ['the full voltage stands across the resistor'],
  compute: ({ R, V }) => (V * V) / R,
  inverse: { R: ({ P = 0, V = 0 }) => (V * V) / P, V: ({ P = 0, R = 0 }) => Math.sqrt(P * R) },
});

export const resistorPowerFromCurrent = defineFormula({
  id: 'resistor-power',
  title: 'Power in a resistor from its current',
  subject,
  result: { symbol: 'P', ...power() },
  inputs: { I: current(), R: resistance() },
  expression: '{I}²·{R}',
  source: "Joule's law",
  assumptions: [],
  compute: ({ I, R }) => I * I * R,
  inverse: { I: ({ P = 0, R = 0 }) => Math.sqrt(P / R), R: ({ P = 0, I = 0 }) => P / (I * I) },
});

export const energyShare = defineFormula({
  id: 'energy-share',
  title: 'Share of the stored energy that one of several equal resistors takes',
  subject,
  result: { symbol: 'E1', ...energy('energy in one'), display: 'E_1' },
  inputs: { E: energy('energy released'), n: count('number in series') },
  expression: '{E}/{n}',
  source: "Joule's law on equal resistors that share one current",
  assumptions: ['all of the stored energy ends in these resistors'],
  compute: ({ E, n }) => E / n,
  inverse: { E: ({ E1 = 0, n = 0 }) => E1 * n, n: ({ E1 = 0, E = 0 }) => E / E1 },
});

export const rcTimeToTenth = defineFormula({
  id: 'rc-time-to-tenth',
  title: 'Time for a capacitor to bleed to a tenth of its voltage',
  subject,
  result: { symbol: 't', ...time('bleed time') },
  inputs: { R: resistance('bleed resistance'), C: capacitance() },
  expression: '{R}·{C}·ln 10',
  source: 'v(t) = V0·e^(−t/RC), solved for t at V0/10; 1 % of the energy is left',
  assumptions: ['the supply is off and isolated', 'dielectric absorption is left out'],
  compute: ({ R, C }) => R * C * Math.LN10,
  inverse: { R: ({ t = 0, C = 0 }) => t / (C * Math.LN10), C: ({ t = 0, R = 0 }) => t / (R * Math.LN10) },
});
