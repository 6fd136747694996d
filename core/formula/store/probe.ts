import { defineFormula } from '../define.ts';
import { capacitance, inductanceFromZero, length, ratio, resistance, resistanceFromZero, time } from '../symbol.ts';

const subject = 'Meter';

/** H/m: permeability of free space. */
const mu0 = 4e-7 * Math.PI;

export const rogowskiMutual = defineFormula({
  id: 'rogowski-mutual',
  title: 'Mutual inductance of a Rogowski coil',
  subject,
  result: { symbol: 'M', ...inductanceFromZero('mutual inductance') },
  inputs: {
    N: { title: 'turns', unit: '1', min: 1, max: 1e5 },
    l: length('length of the winding'),
    d: length('diameter of a turn'),
  },
  expression: 'π²·10^(−7)·{N}·{d}²/{l}',
  source: 'M = μ₀·n·A with n turns a metre around A = π·d²/4: Ampère’s law around an evenly wound, closed coil',
  assumptions: ['wound evenly, closed all the way round: wherever the conductor passes through it', 'non-magnetic core'],
  compute: ({ N, l, d }) => (mu0 * N * Math.PI * d * d) / (4 * l),
  inverse: {
    N: ({ M = 0, l = 0, d = 0 }) => (4 * l * M) / (mu0 * Math.PI * d * d),
    l: ({ M = 0, N = 0, d = 0 }) => (mu0 * N * Math.PI * d * d) / (4 * M),
    d: ({ M = 0, N = 0, l = 0 }) => Math.sqrt((4 * l * M) / (mu0 * N * Math.PI)),
  },
});

export const integratorSensitivity = defineFormula({
  id: 'integrator-sensitivity',
  title: 'Volts an ampere of a current coil behind an RC integrator',
  subject,
  result: { symbol: 'k', ...resistanceFromZero('volts an ampere') },
  inputs: {
    M: { ...inductanceFromZero('mutual inductance'), open: true },
    R: resistance('resistance of the integrator'),
    C: capacitance('capacitance of the integrator'),
  },
  expression: '{M}/({R}·{C})',
  source: 'v = (1/RC)·∫M·di/dt dt',
  assumptions: ['pulses much shorter than R·C', 'a resistance much above that of the winding'],
  compute: ({ M, R, C }) => M / (R * C),
  inverse: {
    M: ({ k = 0, R = 0, C = 0 }) => k * R * C,
    R: ({ k = 0, M = 0, C = 0 }) => M / (k * C),
    C: ({ k = 0, M = 0, R = 0 }) => M / (k * R),
  },
});

export const integratorDroop = defineFormula({
  id: 'integrator-droop',
  title: 'Share that an RC integrator has lost after a time',
  subject,
  result: { symbol: 'x', title: 'lost share', unit: '1', min: 0, max: 1 },
  inputs: {
    t: time('time since the step'),
    R: resistance('resistance of the integrator'),
    C: capacitance('capacitance of the integrator'),
  },
  expression: '1 − exp(−{t}/({R}·{C}))',
  source: 'a step behind a single-pole high pass',
  assumptions: ['a step: of a pulse that rises on the way about half as much is lost at its peak'],
  compute: ({ t, R, C }) => -Math.expm1(-t / (R * C)),
  inverse: {
    t: ({ x = 0, R = 0, C = 0 }) => -R * C * Math.log1p(-x),
    R: ({ x = 0, t = 0, C = 0 }) => -t / (C * Math.log1p(-x)),
    C: ({ x = 0, t = 0, R = 0 }) => -t / (R * Math.log1p(-x)),
  },
});

export const capacitiveRatio = defineFormula({
  id: 'capacitive-ratio',
  title: 'Ratio of a divider at once, by its capacitances',
  subject,
  result: { symbol: 'Nc', ...ratio('voltage above over voltage at the meter'), display: 'N_c' },
  inputs: { C1: capacitance('capacitance of the upper arm'), C2: capacitance('capacitance of the foot, with cable and input') },
  expression: '1 + {C2}/{C1}',
  source: 'the same charge on two capacitances in series',
  assumptions: ['fast against both time constants: R1·C1 and R2·C2'],
  compute: ({ C1, C2 }) => 1 + C2 / C1,
  inverse: { C2: ({ Nc = 0, C1 = 0 }) => (Nc - 1) * C1, C1: ({ Nc = 0, C2 = 0 }) => C2 / (Nc - 1) },
});

export const compensatingCapacitance = defineFormula({
  id: 'compensating-capacitance',
  title: 'Foot capacitance that compensates a divider',
  subject,
  result: { symbol: 'C2', ...capacitance('capacitance of the foot'), display: 'C_2' },
  inputs: {
    R1: resistance('upper resistance'),
    C1: capacitance('capacitance of the upper arm'),
    R2: resistance('resistance of the foot with the meter'),
  },
  expression: '{R1}·{C1}/{R2}',
  source: 'equal time constants of both arms: R1·C1 = R2·C2',
  assumptions: ['strays from the upper arm to earth are left out'],
  compute: ({ R1, C1, R2 }) => (R1 * C1) / R2,
  inverse: {
    R1: ({ C2 = 0, C1 = 0, R2 = 0 }) => (C2 * R2) / C1,
    C1: ({ C2 = 0, R1 = 0, R2 = 0 }) => (C2 * R2) / R1,
    R2: ({ C2 = 0, R1 = 0, C1 = 0 }) => (R1 * C1) / C2,
  },
});
