import { defineFormula, type Formula, type SymbolSpec } from '../define.ts';
import { impulseEfficiency, impulseFront, impulseTail } from './impulse.ts';
import { ladderLack, ladderTime, mostStages } from '../../model/index.ts';
import { capacitance, fraction, length, positiveVoltage, resistance, resistanceFromZero, time } from '../symbol.ts';

const subject = 'Marx generator';

const stages: SymbolSpec = { title: 'stages', unit: '1', min: 1, max: mostStages, integer: true };
const optionalCapacitance = (title: string): SymbolSpec => ({ title, unit: 'F', min: 0, max: 1, default: 0 });

export const marxIdealVoltage = defineFormula({
  id: 'marx-ideal-voltage',
  title: 'Ideal output voltage of a Marx generator',
  subject,
  result: { symbol: 'Vo', ...positiveVoltage('ideal output voltage'), display: 'V_o' },
  inputs: { n: stages, V: positiveVoltage('charge voltage of a stage') },
  expression: '{n}·{V}',
  source: 'stages charged in parallel and erected in series',
  assumptions: ['every gap fires, strays and loss are not in it'],
  compute: ({ n, V }) => n * V,
  inverse: { V: ({ Vo = 0, n = 0 }) => Vo / n },
});

export const erectedCapacitance = defineFormula({
  id: 'erected-capacitance',
  title: 'Erected capacitance of a Marx generator',
  subject,
  result: { symbol: 'Ce', ...capacitance('erected capacitance'), display: 'C_e' },
  inputs: { Cp: { ...capacitance('all stages in parallel'), display: 'C_p' }, n: stages },
  expression: '{Cp}/{n}²',
  source: 'n equal capacitors in series instead of in parallel',
  assumptions: ['equal stages'],
  compute: ({ Cp, n }) => Cp / (n * n),
  inverse: { Cp: ({ Ce = 0, n = 0 }) => Ce * n * n },
});

export const marxOutputVoltage = defineFormula({
  id: 'marx-output-voltage',
  title: 'Output voltage of a Marx generator with load and strays',
  subject,
  result: { symbol: 'Vo', ...positiveVoltage('expected output voltage'), display: 'V_o' },
  inputs: {
    n: stages,
    V: positiveVoltage('charge voltage of a stage'),
    C: capacitance('capacitance of a stage'),
    CL: { ...optionalCapacitance('capacitance of load and terminal'), display: 'C_L' },
    Cs: { ...optionalCapacitance('stray capacitance of a stage to earth'), display: 'C_s' },
  },
  expression: '{n}·{V}·({C}/{n})/({C}/{n} + {CL} + {n}·{Cs}/3)',
  source: 'charge is shared; the strays of a column whose voltage rises evenly are a third of their sum at its top',
  assumptions: ['strays small against the stages', 'no resistor draws current meanwhile; ringing may go above it'],
  compute: ({ n, V, C, CL, Cs }) => (n * V * (C / n)) / (C / n + CL + (n * Cs) / 3),
  inverse: { V: ({ Vo = 0, n = 0, C = 0, CL = 0, Cs = 0 }) => (Vo * (C / n + CL + (n * Cs) / 3)) / C },
});

const beforeLadder: SymbolSpec = {
  ...resistanceFromZero('resistance before the ladder'),
  default: 0,
  display: 'R_s',
};

export const columnLength = defineFormula({
  id: 'column-length',
  title: 'Charging resistors of one side, end to end',
  subject,
  result: { symbol: 'lk', ...length('length along the column'), display: 'l_k' },
  inputs: { n: stages, l: length('length of a charging resistor') },
  expression: '{n}·{l}',
  source: 'one to a stage, end to end',
  assumptions: ['an arc runs along the resistors and not through the air beside them'],
  compute: ({ n, l }) => n * l,
  inverse: { l: ({ lk = 0, n = 0 }) => lk / n },
});

export const voltageEfficiency = defineFormula({
  id: 'marx-voltage-efficiency',
  title: 'Voltage efficiency of a Marx generator',
  subject,
  result: { symbol: 'eta', title: 'output over ideal', unit: '1', min: 0, max: 2, display: 'η' },
  inputs: {
    Vo: { ...positiveVoltage('expected output'), display: 'V_o' },
    Vi: { ...positiveVoltage('ideal output'), display: 'V_i' },
  },
  expression: '{Vo}/{Vi}',
  source: 'definition',
  assumptions: [],
  compute: ({ Vo, Vi }) => Vo / Vi,
  inverse: { Vo: ({ eta = 0, Vi = 0 }) => eta * Vi, Vi: ({ eta = 0, Vo = 0 }) => Vo / eta },
});

export const ladderChargeTime = defineFormula({
  id: 'ladder-charge-time',
  title: 'Time until the last stage of a ladder is charged',
  subject,
  result: { symbol: 't', ...time('charge time of the last stage') },
  inputs: {
    n: stages,
    R: resistance('resistance from stage to stage, both sides together'),
    C: capacitance('capacitance of a stage'),
    x: { ...fraction('share of the supply voltage'), max: 1 - 1e-9, default: 0.95 },
    Rs: beforeLadder,
  },
  expression: 't at which the last of {n} stages of {C} behind {R} each, and {Rs} before all, has {x} of the supply voltage',
  source: 'modes of a uniform RC ladder, exactly; for an ideal supply θ = (2k − 1)π/(2n + 1)',
  assumptions: ['equal stages, a constant supply voltage, nothing that leaks', 'grows with about the square of the stages'],
  compute: ({ n, R, C, x, Rs }) => ladderTime(n, R, Rs + R, C, 1 - x),
  inverse: { C: ({ t = 0, n = 0, R = 0, x = 0, Rs = 0 }) => t / ladderTime(n, R, Rs + R, 1, 1 - x) },
});

export const ladderShare = defineFormula({
  id: 'ladder-share',
  title: 'State of charge of a ladder stage after a time',
  subject,
  result: { symbol: 'x', ...fraction('share of the supply voltage') },
  inputs: {
    n: stages,
    m: { ...stages, title: 'which stage, 1 next to the supply' },
    R: resistance('resistance from stage to stage, both sides together'),
    C: capacitance('capacitance of a stage'),
    t: time('time since the supply was put on'),
    Rs: beforeLadder,
  },
  expression: '1 − what stage {m} of {n} lacks after {t} behind {R} each, {C} each, {Rs} before all',
  source: 'modes of a uniform RC ladder, exactly',
  assumptions: ['equal stages, a constant supply voltage, nothing that leaks'],
  relation: ({ n, m }) => (m <= n ? null : { symbol: 'm', reason: 'there is no such stage: it is above the number of stages' }),
  compute: ({ n, m, R, C, t, Rs }) => 1 - ladderLack(n, m, R, Rs + R, C, t),
});

export const ladderBleedTime = defineFormula({
  id: 'ladder-bleed-time',
  title: 'Time until the last stage of a ladder is bled',
  subject,
  result: { symbol: 't', ...time('bleed time of the last stage') },
  inputs: {
    n: stages,
    R: resistance('resistance from stage to stage, both sides together'),
    C: capacitance('capacitance of a stage'),
    Rb: { ...resistance('resistance that bleeds, at the end where the supply is'), display: 'R_b' },
    V0: { ...positiveVoltage('voltage of every stage at first'), display: 'V_0' },
    V: positiveVoltage('voltage to fall below'),
  },
  expression: 't at which the last of {n} stages of {C}, {R} from each to the next, has fallen from {V0} to {V} through {Rb}',
  source: 'modes of a uniform RC ladder, exactly: a ladder is emptied as it is filled',
  assumptions: ['equal stages, all charged alike, no leakage, no break in any resistor'],
  relation: ({ V0, V }) => (V <= V0 ? null : { symbol: 'V', reason: 'must not be above the voltage at first' }),
  compute: ({ n, R, C, Rb, V0, V }) => ladderTime(n, R, Rb + R, C, V / V0),
  inverse: { C: ({ t = 0, n = 0, R = 0, Rb = 0, V0 = 0, V = 0 }) => t / ladderTime(n, R, Rb + R, 1, V / V0) },
});

export const ladderLag = defineFormula({
  id: 'ladder-lag',
  title: 'Lag of the last stage of a ladder',
  subject,
  result: { symbol: 't', ...time('lag of the last stage') },
  inputs: {
    n: stages,
    R: resistance('resistance from stage to stage, both sides together'),
    C: capacitance('capacitance of a stage'),
  },
  expression: '({n}² − 1)/6·{R}·{C}',
  source:
    'Elmore delays of a uniform RC ladder, that of its last stage less their mean; exact for a constant current once its beginning has died out',
  assumptions: ['a supply that charges slowly against it; for a step of voltage see ladder-charge-time'],
  compute: ({ n, R, C }) => ((n * n - 1) / 6) * R * C,
});

export const erectedHold = defineFormula({
  id: 'erected-hold',
  title: 'Decay time of erected stages through their charging resistors',
  subject,
  result: { symbol: 'tau', ...time('time constant of a stage'), display: 'τ' },
  inputs: { C: capacitance('capacitance of a stage'), R: resistance('charging resistor, each side of a stage') },
  expression: '½·{R}·{C}',
  source: "Kirchhoff's laws: erected, each stage lies across one resistor of either side",
  assumptions: ['equal stages, all erected; the load comes on top'],
  compute: ({ C, R }) => 0.5 * R * C,
  inverse: { C: ({ tau = 0, R = 0 }) => (2 * tau) / R, R: ({ tau = 0, C = 0 }) => (2 * tau) / C },
});

export const erectedHoldOfChokes = defineFormula({
  id: 'erected-hold-chokes',
  title: 'Decay time of erected stages through their charging chokes',
  subject,
  result: { symbol: 't', ...time('quarter period of a stage and its chokes') },
  inputs: {
    C: capacitance('capacitance of a stage'),
    L: { title: 'charging choke, each side of a stage', unit: 'H', min: 0, max: 1e6, open: true },
  },
  expression: '½π·√(½·{L}·{C})',
  source: "Kirchhoff's laws: erected, each stage lies across one choke of either side",
  assumptions: ['equal stages, all erected; chokes that do not saturate'],
  compute: ({ C, L }) => 0.5 * Math.PI * Math.sqrt(0.5 * L * C),
  inverse: {
    C: ({ t = 0, L = 0 }) => (8 * t * t) / (Math.PI * Math.PI * L),
    L: ({ t = 0, C = 0 }) => (8 * t * t) / (Math.PI * Math.PI * C),
  },
});

const impulseOf = (
  id: string,
  title: string,
  result: Formula['result'],
  expression: string,
  compute: (C1: number, C2: number, Rf: number, Rt: number) => number,
): Formula<'C1' | 'C2' | 'Rf' | 'Rt'> =>
  defineFormula({
    id,
    title,
    subject,
    result,
    inputs: {
      C1: { ...capacitance('capacitance of the generator, erected'), display: 'C_1' },
      C2: { ...capacitance('capacitance of the load'), display: 'C_2' },
      Rf: { ...resistance('front resistance'), display: 'R_f' },
      Rt: { ...resistance('tail resistance, across the generator'), display: 'R_t' },
    },
    expression,
    source: 'IEC 60060-1, definitions; the two-capacitor circuit as a double exponential, exactly',
    assumptions: ['no inductance: the front is slower than the loop rings', 'linear: load and generator only'],
    compute: ({ C1, C2, Rf, Rt }) => compute(C1, C2, Rf, Rt),
  });

export const impulseEfficiencyOf = impulseOf(
  'impulse-efficiency',
  'Impulse efficiency',
  { symbol: 'eta', ...fraction('peak over charge voltage'), display: 'η' },
  'peak of the double exponential of {C1}, {C2}, {Rf}, {Rt}',
  impulseEfficiency,
);
export const impulseFrontTime = impulseOf(
  'impulse-front-time',
  'Front time of an impulse',
  { symbol: 'T1', ...time('front time'), display: 'T_1' },
  '(t(90 %) − t(30 %))/0.6 of the double exponential of {C1}, {C2}, {Rf}, {Rt}',
  impulseFront,
);
export const impulseTailTime = impulseOf(
  'impulse-tail-time',
  'Time to half value of an impulse',
  { symbol: 'T2', ...time('time to half value'), display: 'T_2' },
  't(50 %, falling) − virtual origin of the double exponential of {C1}, {C2}, {Rf}, {Rt}',
  impulseTail,
);

export const sparkNeeds = defineFormula({
  id: 'spark-needs',
  title: 'Voltage for a spark of given length',
  subject,
  result: { symbol: 'V', ...positiveVoltage('voltage that bridges it') },
  inputs: {
    l: length('spark length'),
    g: { title: 'voltage per length', unit: 'V/m', min: 1e4, max: 1e7, default: 1.3e6 },
  },
  expression: '{g}·{l}',
  source: 'common practice, no source: 10 to 20 kV/cm for the short pulse of a small generator, likely 13',
  assumptions: ['a range and no measure: electrodes, polarity, pulse length and humidity change it by half'],
  compute: ({ l, g }) => g * l,
  inverse: { l: ({ V = 0, g = 0 }) => V / g, g: ({ V = 0, l = 0 }) => V / l },
});

export const sparkLength = defineFormula({
  id: 'spark-length',
  title: 'Length of a spark in open air',
  subject,
  result: { symbol: 'l', ...length('spark length') },
  inputs: {
    V: positiveVoltage('voltage of the erected generator'),
    g: { title: 'voltage per length', unit: 'V/m', min: 1e4, max: 1e7, default: 1.5e6 },
  },
  expression: '{V}/{g}',
  source: 'common practice, no source: 10 to 20 kV/cm of the erected voltage for the short pulse of a small generator',
  assumptions: ['a range and no measure: electrodes, polarity, pulse length and humidity change it by half'],
  compute: ({ V, g }) => V / g,
  inverse: { V: ({ l = 0, g = 0 }) => l * g, g: ({ l = 0, V = 0 }) => V / l },
});
