import { edge } from '../../numeric/index.ts';
import { defineFormula } from '../define.ts';
import { dampingRatio, reversalFraction } from '../../model/index.ts';
import { capacitance, energy, inductance, positiveVoltage, resistanceFromZero, time, voltage } from '../symbol.ts';

const subject = 'Charging choke';

export const resonantChargeTime = defineFormula({
  id: 'resonant-charge-time',
  title: 'Time of a resonant charge through a choke',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: { L: inductance('inductance of the choke'), C: capacitance() },
  expression: 'π·√({L}·{C})',
  source: 'half a period of a series LC circuit',
  assumptions: ['losses are small', 'the choke does not saturate'],
  compute: ({ L, C }) => Math.PI * Math.sqrt(L * C),
  inverse: { L: ({ t = 0, C = 0 }) => (t / Math.PI) ** 2 / C, C: ({ t = 0, L = 0 }) => (t / Math.PI) ** 2 / L },
});

const loop = {
  Vs: positiveVoltage('supply voltage'),
  R: resistanceFromZero('charging resistance'),
  L: inductance(),
  C: capacitance(),
};
type Loop = { readonly [K in keyof typeof loop]: number };

const peak = ({ Vs, R, L, C }: Loop): number => Vs * (1 + reversalFraction(dampingRatio(R, L, C)));

/** Voltage of the store after a time, less the supply voltage, as a fraction of it: 1 at first. */
function stillMissing({ R, L, C }: Loop, t: number): number {
  const a = R / (2 * L);
  const q = 1 / (L * C) - a * a;
  if (q >= 0) {
    const w = Math.sqrt(q);
    const x = w * t;
    return Math.exp(-a * t) * (Math.cos(x) + a * t * (x < 1e-6 ? 1 : Math.sin(x) / x));
  }
  const k = Math.sqrt(-q);
  const fast = a + k;
  const slow = 1 / (L * C) / fast;
  return (fast * Math.exp(-slow * t) - slow * Math.exp(-fast * t)) / (fast - slow);
}

export const chokePeakVoltage = defineFormula({
  id: 'resonant-charge-voltage',
  title: 'Voltage a choke charges a capacitor to',
  subject,
  result: { symbol: 'Vc', ...voltage('voltage reached'), display: 'V_c' },
  inputs: loop,
  expression: '{Vs}·(1 + e^(−πζ/√(1 − ζ²))),  ζ = ({R}/2)·√({C}/{L});  {Vs} for ζ ≥ 1',
  branch: ({ R, L, C }) =>
    dampingRatio(R, L, C) < 1 ? '{Vs}·(1 + e^(−πζ/√(1 − ζ²))),  ζ = ({R}/2)·√({C}/{L})' : '{Vs}, for ({R}/2)·√({C}/{L}) ≥ 1',
  source: 'first maximum of the series RLC step response',
  assumptions: [
    'the capacitor starts empty',
    'the supply voltage stays constant',
    'the choke does not saturate',
    'nothing leaks meanwhile',
  ],
  compute: peak,
});

/** Time of the first half period of a loop that rings; otherwise so long that all but a millionth has come in. */
const span = ({ R, L, C }: Loop): number => {
  const zeta = dampingRatio(R, L, C);
  if (zeta < 0.9999) return (Math.PI * Math.sqrt(L * C)) / Math.sqrt((1 - zeta) * (1 + zeta));
  return 60 * (R * C + L / R);
};

export const chokeChargeTime = defineFormula({
  id: 'choke-charge-time',
  title: 'Time to charge a capacitor through a choke to a voltage',
  subject,
  result: { symbol: 't', ...time('charge time') },
  inputs: { ...loop, V: voltage('voltage to reach') },
  expression: 't where v(t) = {V} first,  {L}·{C}·v″ + {R}·{C}·v′ + v = {Vs}',
  source: 'series RLC step response, solved by halving in its first half period',
  assumptions: [
    'the capacitor starts empty',
    'the supply voltage stays constant',
    'the choke does not saturate',
    'nothing leaks meanwhile',
  ],
  relation: (values) => {
    const most = peak(values);
    const rings = dampingRatio(values.R, values.L, values.C) < 1;
    return values.V < most || (rings && values.V <= most)
      ? null
      : { symbol: 'V', reason: 'the voltage to reach must not be above what the choke charges to' };
  },
  compute: (values) => {
    const lacks = (t: number) => values.Vs * (1 - stillMissing(values, t)) < values.V;
    return edge(lacks, 0, span(values), { within: 0, rounds: 80 }).above;
  },
});

export const chokeChargingLoss = defineFormula({
  id: 'choke-charging-loss',
  title: 'Energy lost in a whole resonant charge',
  subject,
  result: { symbol: 'Er', ...energy('energy lost while charging'), display: 'E_r' },
  inputs: loop,
  expression: '{C}·Vc·({Vs} − ½·Vc),  Vc = the voltage {L}, {C} and {R} charge to',
  source: 'energy balance at the first zero of the current: the supply gives Vs·C·Vc',
  assumptions: ['the capacitor starts empty', 'charged to the peak and held there by a diode'],
  compute: (values) => {
    const Vc = peak(values);
    return values.C * Vc * (values.Vs - 0.5 * Vc);
  },
});

export const chokeKick = defineFormula({
  id: 'choke-kick',
  title: 'Voltage a choke raises when its current is cut',
  subject,
  result: { symbol: 'Vk', ...voltage('voltage it rises to'), display: 'V_k' },
  inputs: {
    I: { title: 'current that is cut', unit: 'A', min: 0, max: 1e9 },
    L: inductance(),
    Cs: capacitance('stray capacitance across it'),
  },
  expression: '{I}·√({L}/{Cs})',
  source: 'energy of the choke into its stray capacitance',
  assumptions: ['no arc, no winding that breaks down first', 'no snubber'],
  compute: ({ I, L, Cs }) => I * Math.sqrt(L / Cs),
  inverse: {
    I: ({ Vk = 0, L = 0, Cs = 0 }) => Vk / Math.sqrt(L / Cs),
    Cs: ({ Vk = 0, I = 0, L = 0 }) => (L * I * I) / (Vk * Vk),
    L: ({ Vk = 0, I = 0, Cs = 0 }) => (Cs * Vk * Vk) / (I * I),
  },
});
