import { defineFormula, type SymbolSpec } from '../define.ts';
import { capacitance, current, positiveVoltage, resistance, time, voltage } from '../symbol.ts';

const subject = 'Trigger';
const ratio = (title: string, max: number): SymbolSpec => ({ title, unit: '1', min: 0, max, open: true });

export const pulseTransformerVoltage = defineFormula({
  id: 'pulse-transformer-voltage',
  title: 'Output voltage of a pulse transformer',
  subject,
  result: { symbol: 'V2', ...voltage('output voltage'), display: 'V_2' },
  inputs: {
    V1: { ...positiveVoltage('voltage of the primary capacitor'), display: 'V_1' },
    n: ratio('turns ratio, secondary to primary', 1e5),
    k: { ...ratio('share left by coupling and strays', 1), default: 0.7 },
  },
  expression: '{k}·{n}·{V1}',
  source: 'turns ratio; the share is common practice, no source: 0.5 to 0.8',
  assumptions: ['the primary capacitor has far more energy than the strays of the secondary take'],
  compute: ({ V1, n, k }) => k * n * V1,
  inverse: {
    V1: ({ V2 = 0, n = 0, k = 0 }) => V2 / (k * n),
    n: ({ V2 = 0, V1 = 0, k = 0 }) => V2 / (k * V1),
    k: ({ V2 = 0, V1 = 0, n = 0 }) => V2 / (n * V1),
  },
});

export const differentiatorWidth = defineFormula({
  id: 'differentiator-width',
  title: 'Gate drive time of an RC differentiator',
  subject,
  result: { symbol: 'tw', ...time('time above the gate voltage'), display: 't_w' },
  inputs: {
    R: resistance('resistance of the differentiator'),
    C: capacitance('capacitance of the differentiator'),
    V: positiveVoltage('step at its input'),
    Vg: { ...positiveVoltage('gate trigger voltage'), display: 'V_g' },
  },
  expression: '{R}·{C}·ln({V}/{Vg})',
  source: 'step response of an RC high pass',
  assumptions: ['a step far faster than R·C, a gate that takes little current'],
  relation: ({ V, Vg }) =>
    V > Vg ? null : { symbol: 'V', reason: 'the step does not reach the gate voltage: the gate is never driven' },
  compute: ({ R, C, V, Vg }) => R * C * Math.log(V / Vg),
  inverse: {
    R: ({ tw = 0, C = 0, V = 0, Vg = 0 }) => tw / (C * Math.log(V / Vg)),
    C: ({ tw = 0, R = 0, V = 0, Vg = 0 }) => tw / (R * Math.log(V / Vg)),
    V: ({ tw = 0, R = 0, C = 0, Vg = 0 }) => Vg * Math.exp(tw / (R * C)),
    Vg: ({ tw = 0, R = 0, C = 0, V = 0 }) => V * Math.exp(-tw / (R * C)),
  },
});

export const holdingShare = defineFormula({
  id: 'holding-share',
  title: 'Supply current of a thyristor against its holding current',
  subject,
  result: { symbol: 'x', title: 'share of the holding current', unit: '1', min: 0, max: 1e9 },
  inputs: {
    V: positiveVoltage('voltage of the supply'),
    R: resistance('resistance between supply and thyristor'),
    Ih: { ...current('holding current'), open: true, display: 'I_h' },
  },
  expression: '({V}/{R})/{Ih}',
  source: 'a thyristor goes out when its current falls below the holding current',
  assumptions: ['above 1 it stays latched after the pulse and shorts its supply', 'the holding current is least when it is hot'],
  compute: ({ V, R, Ih }) => V / R / Ih,
  inverse: {
    V: ({ x = 0, R = 0, Ih = 0 }) => x * R * Ih,
    R: ({ x = 0, V = 0, Ih = 0 }) => V / (x * Ih),
    Ih: ({ x = 0, V = 0, R = 0 }) => V / (R * x),
  },
});

export const triggerRate = defineFormula({
  id: 'trigger-rate',
  title: 'Repetition rate of a trigger generator',
  subject,
  result: { symbol: 'N', title: 'shots a second', unit: 'Hz', min: 0, max: 1e12 },
  inputs: { R: resistance('resistance through which it is charged'), C: capacitance('primary capacitor') },
  expression: '1/(5·{R}·{C})',
  source: 'five time constants: charged to 99.3 %',
  assumptions: ['a supply that gives the current'],
  compute: ({ R, C }) => 1 / (5 * R * C),
  inverse: { R: ({ N = 0, C = 0 }) => 1 / (5 * N * C), C: ({ N = 0, R = 0 }) => 1 / (5 * N * R) },
});

/** g/cm³ of air at 20 °C and 101.3 kPa; V/m in a kV/cm. */
const [airDensity, kilovoltPerCentimetre] = [1.205e-3, 1e5];

export const gapDelay = defineFormula({
  id: 'gap-delay',
  title: 'Delay from the trigger to breakdown of a gap in air',
  subject,
  result: { symbol: 't', ...time('delay') },
  inputs: {
    E: { title: 'mean field while the trigger stands', unit: 'V/m', min: 1e5, max: 1e9 },
    delta: { ...ratio('density of the gas over that of air at 20 °C and 101.3 kPa', 100), display: 'δ' },
  },
  expression: '97800·(0.001205·{delta})^2.44·({E}/100000)^(−3.44)',
  source:
    'T. H. Martin, An empirical formula for gas switch breakdown delay (1989): ρ·t = 97 800·(E/ρ)^(−3.44), g/cm³, kV/cm and s; from memory',
  assumptions: [
    'fitted to delays from a nanosecond to some hundred microseconds, of several gases',
    'the trigger rises faster than the delay; its voltage stands on top of that of the gap',
  ],
  certainty: () => ({ band: 0.4, drawnOut: null }),
  compute: ({ E, delta }) => 97_800 * (airDensity * delta) ** 2.44 * (E / kilovoltPerCentimetre) ** -3.44,
  inverse: {
    E: ({ t = 0, delta = 0 }) => kilovoltPerCentimetre * ((97_800 * (airDensity * delta) ** 2.44) / t) ** (1 / 3.44),
    delta: ({ t = 0, E = 0 }) => (t / (97_800 * (E / kilovoltPerCentimetre) ** -3.44)) ** (1 / 2.44) / airDensity,
  },
});

export const scatteredDelay = defineFormula({
  id: 'scattered-delay',
  title: 'Delay of a triggered gap at a number of standard deviations',
  subject,
  result: { symbol: 'ts', ...time('delay of that shot'), display: 't_s' },
  inputs: {
    t: time('mean delay'),
    k: ratio('share of the delay', 1),
    z: { title: 'standard deviations from the mean', unit: '1', min: -5, max: 5 },
  },
  expression: '{t}·(1 + {z}·{k})',
  source: 'normal distribution; the jitter is a share of the delay, common practice, no source',
  assumptions: ['electrodes clean, the trigger the same each time'],
  relation: ({ k, z }) => (1 + z * k > 0 ? null : { symbol: 'z', reason: 'the scatter is as large as the delay itself there' }),
  compute: ({ t, k, z }) => t * (1 + z * k),
  inverse: { t: ({ ts = 0, k = 0, z = 0 }) => ts / (1 + z * k) },
});

export const jitterOfDelay = defineFormula({
  id: 'jitter-of-delay',
  title: 'Jitter of a triggered gap',
  subject,
  result: { symbol: 's', ...time('jitter, standard deviation'), display: 'σ_t' },
  inputs: { k: ratio('share of the delay', 1), t: time('delay') },
  expression: '{k}·{t}',
  source: 'common practice, no source: 2 to 10 % of the delay',
  assumptions: ['electrodes clean, the trigger the same each time'],
  compute: ({ k, t }) => k * t,
  inverse: { k: ({ s = 0, t = 0 }) => s / t, t: ({ s = 0, k = 0 }) => s / k },
});
