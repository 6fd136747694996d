import { defineFormula } from '../define.ts';
import { capacitance, count, current, energy, positiveVoltage, power, resistance, time, voltage } from '../symbol.ts';

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
  assumptions: ['the full voltage is across the resistor'],
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
  title: 'Share of the stored energy in one of several equal resistors',
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

/** Down to two significant digits: what is read off a meter, and never more than was worked out. */
function twoDigitsDown(V: number): number {
  const step = 10 ** (Math.floor(Math.log10(V)) - 1);
  // A voltage that is such a number already keeps it, whatever the last bit of the division says.
  return Number((Math.floor(V / step + 1e-9) * step).toPrecision(2));
}

export const bleedGoal = defineFormula({
  id: 'bleed-goal',
  title: 'Goal of a bleed-down',
  subject,
  result: { symbol: 'V', ...voltage('voltage to fall below') },
  inputs: {
    V0: positiveVoltage('voltage it is charged to'),
    E: energy('energy of all that is connected, at that voltage'),
    Vr: positiveVoltage('residual voltage'),
    E1: energy('energy that may be left'),
    Vs: positiveVoltage('voltage the strap may be put on at'),
  },
  expression: 'the lowest of {Vr}, {V0}·√({E1}/{E}) and {Vs}, two digits, down; a tenth of {V0} where it is charged to no more',
  source: 'E = ½CV²; a tenth leaves 1 % of the energy: common practice, no source',
  assumptions: ['all that is connected falls together', 'recovery voltage is waited for before the reading'],
  compute: ({ V0, E, Vr, E1, Vs }) => {
    const lowest = Math.min(Vr, E > 0 ? V0 * Math.sqrt(E1 / E) : Infinity, Vs);
    return twoDigitsDown(V0 > lowest ? lowest : V0 / 10);
  },
  onlyForwards: 'it goes down in steps of two digits, so this is not asked backwards; try values',
});

export const firstStrapVoltage = defineFormula({
  id: 'first-strap-voltage',
  title: 'Voltage for the permitted first current of a strap',
  subject,
  result: { symbol: 'V', ...voltage('voltage across the strap') },
  inputs: { I: current('permitted first current of the strap'), R: resistance('resistance in the store') },
  expression: '{I}·{R}',
  source: "Ohm's law",
  assumptions: ['the strap itself has next to no resistance, and nothing slows the rise of the current'],
  compute: ({ I, R }) => I * R,
  inverse: { I: ({ V = 0, R = 0 }) => V / R, R: ({ V = 0, I = 0 }) => V / I },
});

export const leastHold = defineFormula({
  id: 'least-hold',
  title: 'Hold time of a discharge stick',
  subject,
  result: { symbol: 't', ...time('time on') },
  inputs: { tb: time('calculated time'), tm: time('shortest hold') },
  expression: 'the longer of {tb} and {tm}',
  source: 'common practice, no source: nobody keeps a hold of less than 10 s',
  assumptions: ['an arm counts seconds badly, and a contact that bounces is no contact'],
  compute: ({ tb, tm }) => Math.max(tb, tm),
  onlyForwards: 'of two times the longer counts, so this is not asked backwards; try values',
});

export const decayedVoltage = defineFormula({
  id: 'decayed-voltage',
  title: 'Voltage of a capacitor after a time of bleeding',
  subject,
  result: { symbol: 'V', ...voltage('voltage that is left') },
  inputs: { V0: positiveVoltage('voltage at the start'), t: time('time'), tau: { ...time('time constant'), display: 'τ' } },
  expression: '{V0}·e^(−{t}/{tau})',
  source: 'v(t) = V0·e^(−t/RC)',
  assumptions: ['the supply is off and isolated'],
  compute: ({ V0, t, tau }) => V0 * Math.exp(-t / tau),
  inverse: {
    V0: ({ V = 0, t = 0, tau = 0 }) => V * Math.exp(t / tau),
    t: ({ V = 0, V0 = 0, tau = 0 }) => tau * Math.log(V0 / V),
    tau: ({ V = 0, V0 = 0, t = 0 }) => t / Math.log(V0 / V),
  },
});

export const holdOfAll = defineFormula({
  id: 'hold-of-all',
  title: 'Total stick time on several, one after the other',
  subject,
  result: { symbol: 'ta', ...time('time for all'), display: 't_a' },
  inputs: { t: time('time on one'), n: count('how many') },
  expression: '{n}·{t}',
  source: 'a sum of equal times',
  assumptions: ['one is done after the other'],
  compute: ({ t, n }) => n * t,
  inverse: { t: ({ ta = 0, n = 0 }) => ta / n, n: ({ ta = 0, t = 0 }) => ta / t },
});

export const constantOfFall = defineFormula({
  id: 'constant-of-fall',
  title: 'Time constant of a bleed, from the time to a voltage',
  subject,
  result: { symbol: 'tau', ...time('time constant'), display: 'τ' },
  inputs: {
    t: time('time to the voltage'),
    V0: positiveVoltage('voltage at the start'),
    V: positiveVoltage('voltage to fall to'),
  },
  expression: '{t}/ln({V0}/{V})',
  source: 'v(t) = V0·e^(−t/τ), solved for τ',
  assumptions: ['one exponential: of a ladder of stages its slow part'],
  relation: ({ V0, V }) =>
    V < V0 ? null : { symbol: 'V', reason: 'the voltage to fall to must be below the voltage at the start, V0' },
  compute: ({ t, V0, V }) => t / Math.log(V0 / V),
  inverse: {
    t: ({ tau = 0, V0 = 0, V = 0 }) => tau * Math.log(V0 / V),
    V0: ({ tau = 0, t = 0, V = 0 }) => V * Math.exp(t / tau),
    V: ({ tau = 0, t = 0, V0 = 0 }) => V0 * Math.exp(-t / tau),
  },
});

export const constantsBeside = defineFormula({
  id: 'constants-beside',
  title: 'Time constant of two bleed paths together',
  subject,
  result: { symbol: 'tau', ...time('time constant'), display: 'τ' },
  inputs: { t1: time('time constant, one path'), t2: time('time constant of the other') },
  expression: '{t1}·{t2}/({t1} + {t2})',
  source: 'two resistors in parallel across one capacitor: 1/τ = 1/τ1 + 1/τ2',
  assumptions: [],
  compute: ({ t1, t2 }) => (t1 * t2) / (t1 + t2),
  inverse: { t1: ({ tau = 0, t2 = 0 }) => (tau * t2) / (t2 - tau), t2: ({ tau = 0, t1 = 0 }) => (tau * t1) / (t1 - tau) },
});

export const rcTimeConstant = defineFormula({
  id: 'rc-time-constant',
  title: 'Time constant of a capacitor and a resistor',
  subject,
  result: { symbol: 'tau', ...time('time constant'), display: 'τ' },
  inputs: { R: resistance(), C: capacitance() },
  expression: '{R}·{C}',
  source: 'v(t) = V0·e^(−t/RC)',
  assumptions: [],
  compute: ({ R, C }) => R * C,
  inverse: { R: ({ tau = 0, C = 0 }) => tau / C, C: ({ tau = 0, R = 0 }) => tau / R },
});
