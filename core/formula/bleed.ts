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

/** A discharge tool with lamps: resistors Rs, then a part that a clamp holds at Vz, with lamps behind Rl across it. */
const lampTool = {
  Rs: { ...resistance('resistors in series, all of them'), display: 'R_s' },
  Rp: { ...resistance('resistor across the lamps'), display: 'R_p' },
  Rl: { ...resistance('resistor of the lamps'), display: 'R_l' },
  Vf: { ...voltage('drop of a lamp'), display: 'V_f' },
  Il: { ...current('current at which it is seen to go out'), display: 'I_l' },
};

export const lampOutVoltage = defineFormula({
  id: 'lamp-out-voltage',
  title: 'Voltage at which the lamp of a discharge tool goes out',
  subject,
  result: { symbol: 'Vo', ...voltage('voltage that is left'), display: 'V_o' },
  inputs: lampTool,
  expression: 'v + {Rs}·(v/{Rp} + {Il}),  v = {Vf} + {Il}·{Rl}',
  source: "Kirchhoff's laws; the clamp no longer conducts",
  assumptions: ['the lamp is seen down to that current, in the light there is'],
  compute: ({ Rs, Rp, Rl, Vf, Il }) => {
    const v = Vf + Il * Rl;
    return v + Rs * (v / Rp + Il);
  },
});

export const lampOnTime = defineFormula({
  id: 'lamp-on-time',
  title: 'How long the lamp of a discharge tool stays on',
  subject,
  result: { symbol: 't', ...time('time until it goes out') },
  inputs: {
    C: capacitance(),
    V0: { ...positiveVoltage('voltage at the start'), display: 'V_0' },
    Vz: { ...positiveVoltage('voltage of the clamp'), display: 'V_z' },
    ...lampTool,
  },
  expression:
    '{Rs}·{C}·ln(({V0} − {Vz})/(Vc − {Vz})) while the clamp conducts, down to Vc = {Vz} + {Rs}·({Vz}/{Rp} + ({Vz} − {Vf})/{Rl}); then Re·{C}·ln((Vc − Ve)/(Vo − Ve)), Re and Ve those of the tool without its clamp, Vo where the lamp has {Il} left',
  source: 'two exponentials in a row, each of a capacitor through a resistance towards a voltage',
  assumptions: ['a clamp without resistance', 'nothing else discharges the store'],
  relation: ({ V0, Vz, Rs, Rp, Vf, Il, Rl }) => {
    const v = Vf + Il * Rl;
    if (Vz <= v) return { symbol: 'Vz', reason: 'the clamp holds the lamp below what it needs to be seen' };
    return V0 > v + Rs * (v / Rp + Il) ? null : { symbol: 'V0', reason: 'the lamp is out from the start' };
  },
  compute: ({ C, V0, Vz, Rs, Rp, Rl, Vf, Il }) => {
    const v = Vf + Il * Rl;
    const out = v + Rs * (v / Rp + Il);
    const Vc = Vz + Rs * (Vz / Rp + (Vz - Vf) / Rl);
    const clamped = V0 > Vc ? Rs * C * Math.log((V0 - Vz) / (Vc - Vz)) : 0;
    const G = 1 / Rs + 1 / Rp + 1 / Rl;
    const share = 1 - 1 / (Rs * G);
    const [Re, Ve] = [Rs / share, Vf / (Rl * G) / share];
    return clamped + Re * C * Math.log((Math.min(V0, Vc) - Ve) / (out - Ve));
  },
});
