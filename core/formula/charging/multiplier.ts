import { defineFormula, type SymbolSpec } from '../define.ts';
import { capacitance, count, current, energy, positiveVoltage, ratio, resistance, voltage } from '../symbol.ts';

const subject = 'Multiplier';

const frequency: SymbolSpec = { title: 'drive frequency', unit: 'Hz', min: 0, max: 1e9, open: true };
const stages = count('stages');
const load = current('load current');
const positiveLoad: SymbolSpec = { ...load, open: true };
const each = capacitance('capacitance of each capacitor');
/** (2n³/3 + n²/2 − n/6): what each coulomb a second costs at the top, in units of 1/(f·C). */
const dropShape = (n: number): number => (2 * n ** 3) / 3 + (n * n) / 2 - n / 6;
const book = 'Kuffel, Zaengl, Kuffel: High Voltage Engineering, voltage multiplier circuits; from memory';
const equal = ['all capacitors are equal', 'ideal diodes', 'a stiff drive', 'steady state: every capacitor is charged'];

export const multiplierNoLoad = defineFormula({
  id: 'multiplier-no-load-voltage',
  title: 'Voltage of a multiplier without load',
  subject,
  result: { symbol: 'V0', ...voltage('voltage without load'), display: 'V_0' },
  inputs: { n: stages, Vp: positiveVoltage('peak of the drive less diode drops') },
  expression: '2·{n}·{Vp}',
  source: book,
  assumptions: equal,
  compute: ({ n, Vp }) => 2 * n * Vp,
  inverse: { Vp: ({ V0 = 0, n = 0 }) => V0 / (2 * n) },
});

export const multiplierDrop = defineFormula({
  id: 'multiplier-drop',
  title: 'Drop of a multiplier under load',
  subject,
  result: { symbol: 'dV', ...voltage('drop of the mean voltage'), display: 'ΔV' },
  inputs: { n: stages, I: load, f: frequency, C: each },
  expression: '({I}/({f}·{C}))·(⅔·{n}³ + ½·{n}² − {n}/6)',
  source: book,
  assumptions: equal,
  compute: ({ n, I, f, C }) => (I / (f * C)) * dropShape(n),
  inverse: {
    I: ({ dV = 0, n = 0, f = 0, C = 0 }) => (dV * f * C) / dropShape(n),
    f: ({ dV = 0, n = 0, I = 0, C = 0 }) => (I * dropShape(n)) / (dV * C),
    C: ({ dV = 0, n = 0, I = 0, f = 0 }) => (I * dropShape(n)) / (dV * f),
  },
});

export const multiplierRipple = defineFormula({
  id: 'multiplier-ripple',
  title: 'Ripple of a multiplier under load, peak to peak',
  subject,
  result: { symbol: 'Vpp', ...voltage('ripple, peak to peak'), display: 'V_pp' },
  inputs: { n: stages, I: load, f: frequency, C: each },
  expression: '({I}/({f}·{C}))·{n}·({n} + 1)/2',
  source: book,
  assumptions: equal,
  compute: ({ n, I, f, C }) => ((I / (f * C)) * n * (n + 1)) / 2,
  inverse: {
    I: ({ Vpp = 0, n = 0, f = 0, C = 0 }) => (2 * Vpp * f * C) / (n * (n + 1)),
    f: ({ Vpp = 0, n = 0, I = 0, C = 0 }) => (I * n * (n + 1)) / (2 * Vpp * C),
    C: ({ Vpp = 0, n = 0, I = 0, f = 0 }) => (I * n * (n + 1)) / (2 * Vpp * f),
  },
});

export const multiplierBestStages = defineFormula({
  id: 'multiplier-best-stages',
  title: 'Number of stages that gives the most voltage at a load',
  subject,
  result: { symbol: 'nopt', ...ratio('best number of stages'), display: 'n_opt' },
  inputs: { Vp: positiveVoltage('peak of the drive'), I: positiveLoad, f: frequency, C: each },
  expression: '√({Vp}·{f}·{C}/{I})',
  source: book,
  assumptions: [...equal, 'many stages: only the term with n³ counts'],
  compute: ({ Vp, I, f, C }) => Math.sqrt((Vp * f * C) / I),
  inverse: {
    Vp: ({ nopt = 0, I = 0, f = 0, C = 0 }) => (nopt * nopt * I) / (f * C),
    I: ({ nopt = 0, Vp = 0, f = 0, C = 0 }) => (Vp * f * C) / (nopt * nopt),
    f: ({ nopt = 0, Vp = 0, I = 0, C = 0 }) => (nopt * nopt * I) / (Vp * C),
    C: ({ nopt = 0, Vp = 0, I = 0, f = 0 }) => (nopt * nopt * I) / (Vp * f),
  },
});

export const multiplierResistance = defineFormula({
  id: 'multiplier-resistance',
  title: 'Output resistance of a multiplier',
  subject,
  result: { symbol: 'Rm', ...resistance('output resistance'), display: 'R_m' },
  inputs: { n: stages, f: frequency, C: each },
  expression: '(⅔·{n}³ + ½·{n}² − {n}/6)/({f}·{C})',
  source: `the drop over its current; ${book}`,
  assumptions: equal,
  compute: ({ n, f, C }) => dropShape(n) / (f * C),
  inverse: {
    f: ({ Rm = 0, n = 0, C = 0 }) => dropShape(n) / (Rm * C),
    C: ({ Rm = 0, n = 0, f = 0 }) => dropShape(n) / (Rm * f),
  },
});

export const multiplierStress = defineFormula({
  id: 'multiplier-stress',
  title: 'Voltage on each capacitor and diode of a multiplier',
  subject,
  result: { symbol: 'Vc', ...voltage('voltage on one'), display: 'V_c' },
  inputs: { Vp: positiveVoltage('peak of the drive') },
  expression: '2·{Vp}',
  source: book,
  assumptions: ['no load, when it is highest', 'the first capacitor of the pushing column has half of it'],
  compute: ({ Vp }) => 2 * Vp,
  inverse: { Vp: ({ Vc = 0 }) => Vc / 2 },
});

export const multiplierEnergy = defineFormula({
  id: 'multiplier-energy',
  title: 'Energy a multiplier itself holds',
  subject,
  result: { symbol: 'E', ...energy('energy in its capacitors') },
  inputs: { n: stages, Vp: positiveVoltage('peak of the drive'), C: each },
  expression: '½·{C}·{Vp}²·(8·{n} − 3)',
  source: 'sum over 2n capacitors at 2·Vp, of which the first of the pushing column is at Vp',
  assumptions: equal,
  compute: ({ n, Vp, C }) => 0.5 * C * Vp * Vp * (8 * n - 3),
  inverse: { C: ({ E = 0, n = 0, Vp = 0 }) => (2 * E) / (Vp * Vp * (8 * n - 3)) },
});
