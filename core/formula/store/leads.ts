import { barsForce, barsInductance } from '../../model/index.ts';
import { defineFormula } from '../define.ts';
import { current, inductanceFromZero, length, resistanceFromZero, time } from '../symbol.ts';

const subject = 'Leads';

const bars = {
  w: { ...length('width of a bar'), min: 1e-4, max: 10 },
  t: { ...length('thickness of a bar'), min: 1e-5, max: 1 },
  s: { title: 'insulation between them', unit: 'm', min: 1e-6, max: 100 },
} as const;

export const busBarInductance = defineFormula({
  id: 'bus-bar-inductance',
  title: 'Inductance of two flat bars, go and return',
  subject,
  result: { symbol: 'L', ...inductanceFromZero('inductance') },
  inputs: { ...bars, l: length('length') },
  expression: '(μ₀/π)·{l}·ln(mean distance of the bars {w}, {t}, {s} apart/mean distance of a bar from itself)',
  source: 'mean geometric distances, Grover, Inductance Calculations; integrated here; from memory',
  assumptions: [
    'the current even over the bars: in a fast pulse it crowds to the faces, and the inductance is less',
    'long against their width',
  ],
  compute: ({ w, t, s, l }) => barsInductance(w, t, s) * l,
  inverse: { l: ({ L = 0, w = 0.1, t = 0.01, s = 0.01 }) => L / barsInductance(w, t, s) },
});

export const busBarForce = defineFormula({
  id: 'bus-bar-force',
  title: 'Force that pushes two bars apart',
  subject,
  result: { symbol: 'F', title: 'force', unit: 'N', min: 0, max: 1e12 },
  inputs: { ...bars, l: length('length'), I: current('peak current') },
  expression: '½·{I}²·{l}·(slope of the inductance a metre of {w}, {t} over {s})',
  source: 'F = ½·I²·dL/ds',
  assumptions: ['at the peak, and at rest: a short pulse moves a heavy bar less than its force says'],
  compute: ({ w, t, s, l, I }) => barsForce(w, t, s) * l * I * I,
  inverse: {
    l: ({ F = 0, w = 0.1, t = 0.01, s = 0.01, I = 0 }) => F / (barsForce(w, t, s) * I * I),
    I: ({ F = 0, w = 0.1, t = 0.01, s = 0.01, l = 0 }) => Math.sqrt(F / (barsForce(w, t, s) * l)),
  },
});

export const busBarResistance = defineFormula({
  id: 'bus-bar-resistance',
  title: 'Resistance of two flat bars, go and return',
  subject,
  result: { symbol: 'R', ...resistanceFromZero('resistance') },
  inputs: {
    rho: { title: 'resistivity', unit: 'Ω·m', min: 1e-9, max: 1e-3, display: 'ρ' },
    l: length('length'),
    w: bars.w,
    t: bars.t,
  },
  expression: '2·{rho}·{l}/({w}·{t})',
  source: 'definition of resistivity',
  assumptions: ['DC: a fast pulse uses the faces alone'],
  compute: ({ rho, l, w, t }) => (2 * rho * l) / (w * t),
  inverse: {
    rho: ({ R = 0, l = 0, w = 0, t = 0 }) => (R * w * t) / (2 * l),
    l: ({ R = 0, rho = 0, w = 0, t = 0 }) => (R * w * t) / (2 * rho),
    w: ({ R = 0, rho = 0, l = 0, t = 0 }) => (2 * rho * l) / (R * t),
    t: ({ R = 0, rho = 0, l = 0, w = 0 }) => (2 * rho * l) / (R * w),
  },
});

export const lineLumped = defineFormula({
  id: 'line-over-rise',
  title: 'Delay of a cable over the rise of the pulse',
  subject,
  result: { symbol: 'x', title: 'delay over rise', unit: '1', min: 0, max: 1e15 },
  inputs: { td: { ...time('delay, one way'), display: 't_d' }, tr: { ...time('time to peak'), open: true, display: 't_r' } },
  expression: '{td}/{tr}',
  source: 'common practice, no source: below a tenth it is inductance and capacitance and no line',
  assumptions: [],
  compute: ({ td, tr }) => td / tr,
  inverse: { td: ({ x = 0, tr = 0 }) => x * tr, tr: ({ x = 0, td = 0 }) => td / x },
});
