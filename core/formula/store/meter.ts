import { defineFormula, type SymbolSpec } from '../define.ts';
import { capacitance, current, positiveVoltage, ratio, resistance, resistanceFromZero, time, voltage } from '../symbol.ts';

const subject = 'Meter';

const fullScale: SymbolSpec = { ...current('full-scale current of the movement'), open: true };

export const meterMultiplier = defineFormula({
  id: 'meter-multiplier',
  title: 'Series resistance of a meter movement',
  subject,
  result: { symbol: 'Rs', ...resistanceFromZero('series resistance'), display: 'R_s' },
  inputs: { Vfs: positiveVoltage('full-scale voltage'), Ifs: fullScale, Rm: resistanceFromZero('resistance of the movement') },
  expression: '{Vfs}/{Ifs} − {Rm}',
  source: "Ohm's law",
  assumptions: [],
  relation: ({ Vfs, Ifs, Rm }) =>
    Vfs / Ifs >= Rm ? null : { symbol: 'Vfs', reason: 'the movement alone shows full scale at less than this voltage' },
  compute: ({ Vfs, Ifs, Rm }) => Vfs / Ifs - Rm,
  inverse: {
    Vfs: ({ Rs = 0, Ifs = 0, Rm = 0 }) => (Rs + Rm) * Ifs,
    Ifs: ({ Rs = 0, Vfs = 0, Rm = 0 }) => Vfs / (Rs + Rm),
    Rm: ({ Rs = 0, Vfs = 0, Ifs = 0 }) => Vfs / Ifs - Rs,
  },
});

export const meterFullScale = defineFormula({
  id: 'meter-full-scale',
  title: 'Full-scale voltage of a movement with series resistance',
  subject,
  result: { symbol: 'Vfs', ...voltage('full-scale voltage'), display: 'V_fs' },
  inputs: {
    Rs: resistance('series resistance'),
    Rm: resistanceFromZero('resistance of the movement'),
    Ifs: fullScale,
    k: { title: 'calibration factor, true over shown', unit: '1', min: 0.1, max: 10, default: 1 },
  },
  expression: '{k}·({Rs} + {Rm})·{Ifs}',
  source: "Ohm's law; the factor found at a low voltage is kept",
  assumptions: ['the factor found low holds high: resistors whose value falls with voltage make it read low'],
  compute: ({ Rs, Rm, Ifs, k }) => k * (Rs + Rm) * Ifs,
  inverse: {
    Rs: ({ Vfs = 0, Rm = 0, Ifs = 0, k = 1 }) => Vfs / (k * Ifs) - Rm,
    k: ({ Vfs = 0, Rs = 0, Rm = 0, Ifs = 0 }) => Vfs / ((Rs + Rm) * Ifs),
    Ifs: ({ Vfs = 0, Rs = 0, Rm = 0, k = 1 }) => Vfs / (k * (Rs + Rm)),
  },
});

export const dividerRatio = defineFormula({
  id: 'divider-ratio',
  title: 'Ratio of a resistive divider with a meter across its foot',
  subject,
  result: { symbol: 'N', ...ratio('voltage above over voltage at the meter') },
  inputs: {
    R1: resistance('upper resistance'),
    R2: resistance('foot resistance'),
    Rm: resistance('input resistance of the meter'),
  },
  expression: '1 + {R1}·({R2} + {Rm})/({R2}·{Rm})',
  source: "Kirchhoff's laws",
  assumptions: ['slow voltages: stray capacitance is left out'],
  compute: ({ R1, R2, Rm }) => 1 + R1 * (1 / R2 + 1 / Rm),
  inverse: { R1: ({ N = 0, R2 = 0, Rm = 0 }) => (N - 1) / (1 / R2 + 1 / Rm) },
});

export const riseTimeOfBandwidth = defineFormula({
  id: 'rise-time-of-bandwidth',
  title: 'Rise time of an instrument from its bandwidth',
  subject,
  result: { symbol: 'tr', ...time('rise time, 10 to 90 %'), display: 't_r' },
  inputs: { B: { title: 'bandwidth', unit: 'Hz', min: 0, max: 1e12, open: true } },
  expression: 'ln(9)/(2π·{B})',
  source: 'single-pole response: ln 9/(2π·B) = 0.3497/B',
  assumptions: ['a single-pole response'],
  compute: ({ B }) => Math.log(9) / (2 * Math.PI * B),
  inverse: { B: ({ tr = 0 }) => Math.log(9) / (2 * Math.PI * tr) },
});

export const sampleRate = defineFormula({
  id: 'sample-rate',
  title: 'Sample rate for a rise',
  subject,
  result: { symbol: 'fs', title: 'samples a second', unit: 'Hz', min: 0, max: 1e15, display: 'f_s' },
  inputs: {
    t: { ...time('rise time or time to peak'), open: true },
    k: { title: 'samples in it', unit: '1', min: 2, max: 1e4, default: 20 },
  },
  expression: '{k}/{t}',
  source: 'common practice, no source: ten to twenty samples in the fastest edge',
  assumptions: [],
  compute: ({ t, k }) => k / t,
  inverse: { t: ({ fs = 0, k = 20 }) => k / fs, k: ({ fs = 0, t = 0 }) => fs * t },
});

export const loopOutput = defineFormula({
  id: 'current-loop-output',
  title: 'Voltage out of a current loop at a rate of rise',
  subject,
  result: { symbol: 'U', ...voltage('output voltage') },
  inputs: {
    M: { title: 'mutual inductance', unit: 'H', min: 0, max: 1, open: true },
    S: { title: 'rate of rise', unit: 'A/s', min: 0, max: 1e18 },
  },
  expression: '{M}·{S}',
  source: "Faraday's law",
  assumptions: ['well below the resonance of the loop', 'no integrator, or before it'],
  compute: ({ M, S }) => M * S,
  inverse: { M: ({ U = 0, S = 0 }) => U / S, S: ({ U = 0, M = 0 }) => U / M },
});

export const voltsPerDivision = defineFormula({
  id: 'volts-per-division',
  title: 'Oscilloscope setting for a peak',
  subject,
  result: { symbol: 'D', ...voltage('volts per division') },
  inputs: {
    U: { ...voltage('peak at its input'), open: true },
    n: { title: 'divisions to fill', unit: '1', min: 1, max: 20, default: 6 },
  },
  expression: 'next 1-2-5 step above {U}/{n}',
  source: 'settings in steps of 1, 2 and 5',
  assumptions: ['both ways from the middle a ringing signal fills half as many divisions'],
  compute: ({ U, n }) => {
    const least = U / n;
    const decade = 10 ** Math.floor(Math.log10(least));
    return decade * ([1, 2, 5, 10].find((x) => x * decade >= least * (1 - 1e-12)) ?? 10);
  },
  // Many peaks have one setting; asked backwards it is the greatest of them.
  inverse: { U: ({ D = 0, n = 6 }) => D * n, n: ({ D = 0, U = 0 }) => U / D },
});

export const cornerFrequency = defineFormula({
  id: 'corner-frequency',
  title: 'Bandwidth of a resistance into a stray capacitance',
  subject,
  result: { symbol: 'B', title: 'bandwidth', unit: 'Hz', min: 0, max: 1e15 },
  inputs: { R: resistance(), C: capacitance('stray capacitance') },
  expression: '1/(2π·{R}·{C})',
  source: 'single-pole low pass',
  assumptions: [],
  compute: ({ R, C }) => 1 / (2 * Math.PI * R * C),
  inverse: { R: ({ B = 0, C = 0 }) => 1 / (2 * Math.PI * B * C), C: ({ B = 0, R = 0 }) => 1 / (2 * Math.PI * B * R) },
});

export const shuntVoltage = defineFormula({
  id: 'shunt-voltage',
  title: 'Voltage out of a current sensor',
  subject,
  result: { symbol: 'U', ...voltage('voltage at the oscilloscope') },
  inputs: { I: current('peak current'), R: { ...resistance('resistance, or volts an ampere'), min: 0 } },
  expression: '{I}·{R}',
  source: "Ohm's law",
  assumptions: ['a pulse slow against the rise time of the sensor'],
  compute: ({ I, R }) => I * R,
  inverse: { I: ({ U = 0, R = 0 }) => U / R, R: ({ U = 0, I = 0 }) => U / I },
});
