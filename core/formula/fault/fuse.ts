import { defineFormula } from '../define.ts';
import { action as anyAction, count, fraction } from '../symbol.ts';

const subject = 'Fuses and fragments';

/** Above nought: of no current no share is asked. */
const action = (title: string) => ({ ...anyAction(title), open: true });

export const stringAction = defineFormula({
  id: 'string-action',
  title: 'Action in each of equal strings in parallel',
  subject,
  result: { symbol: 'A1', ...action('action in each string'), display: 'A_1' },
  inputs: { A: action('action of the whole current'), np: { ...count('strings in parallel'), display: 'n_p' } },
  expression: '{A}/{np}²',
  source: "definition of the action ∫i²dt, Kirchhoff's laws: each string has its equal share of the current",
  assumptions: ['equal strings; the one with the least inductance and resistance has more'],
  compute: ({ A, np }) => A / (np * np),
  inverse: { A: ({ A1 = 0, np = 0 }) => A1 * np * np, np: ({ A1 = 0, A = 0 }) => Math.sqrt(A / A1) },
});

export const fuseDuty = defineFormula({
  id: 'fuse-duty',
  title: 'Action that a fuse takes shot after shot',
  subject,
  result: { symbol: 'Ad', ...action('action it takes again and again'), display: 'A_d' },
  inputs: {
    Am: { ...action('melting action of the fuse'), display: 'A_m' },
    k: { ...fraction('share of it that does not age the wire'), default: 0.5 },
  },
  expression: '{k}·{Am}',
  source: 'common practice, no source: pulses of half the melting action for some thousands of shots, a quarter for more',
  assumptions: ['a wire that cools fully between shots'],
  compute: ({ Am, k }) => k * Am,
  inverse: { Am: ({ Ad = 0, k = 0 }) => Ad / k, k: ({ Ad = 0, Am = 0 }) => Ad / Am },
});

/** 1/33 over the square of a circular mil, 1/m⁴: Onderdonk’s equation in SI. */
const onderdonk = 1.18e17;

export const wireMeltingAction = defineFormula({
  id: 'wire-melting-action',
  title: 'Action that melts a copper wire in a pulse',
  subject,
  result: { symbol: 'Am', ...action('melting action'), display: 'A_m' },
  inputs: {
    d: { title: 'diameter of the wire', unit: 'm', min: 0, max: 0.05, open: true },
    T: { title: 'temperature at the start', unit: 'K', min: 200, max: 1000, default: 293.15 },
  },
  expression: '1.18·10^17·log(1 + (1356.15 − {T})/({T} − 39.15))·(π·{d}²/4)²',
  source:
    'Onderdonk’s equation of the fusing current of copper, 33·t·(I/A)² = lg(1 + (1083 °C − T)/(234 °C + T)) with A in circular mils; in SI, T in kelvin; from memory',
  assumptions: [
    'a pulse so short that no heat leaves the wire: well below a second',
    'the wire melts; what boils or arcs on takes more',
  ],
  certainty: () => ({ band: 0.2, drawnOut: null }),
  relation: ({ T }) => (T < 1356 ? null : { symbol: 'T', reason: 'must be below the melting point of copper' }),
  compute: ({ d, T }) => onderdonk * Math.log10(1 + (1356.15 - T) / (T - 39.15)) * ((Math.PI * d * d) / 4) ** 2,
  inverse: {
    d: ({ Am = 0, T = 0 }) =>
      Math.sqrt((4 / Math.PI) * Math.sqrt(Am / (onderdonk * Math.log10(1 + (1356.15 - T) / (T - 39.15))))),
  },
});

/** A·√s/m², and β in kelvin, of copper. Source: IEC 60949, K = 226 A·√s/mm², β = 234.5 °C; from memory. */
const copper = { K: 226e6, beta: -38.65 };
const warmth = (T1: number, T2: number): number => copper.K * Math.sqrt(Math.log((T2 + copper.beta) / (T1 + copper.beta)));
const temperature = (title: string, usual: number) => ({ title, unit: 'K', min: 200, max: 1300, default: usual }) as const;

export const conductorSection = defineFormula({
  id: 'conductor-section',
  title: 'Copper section that a pulse warms to a temperature',
  subject,
  result: { symbol: 'S', title: 'section', unit: 'm²', min: 0, max: 1 },
  inputs: {
    A: action('action of the pulse'),
    T1: { ...temperature('temperature before', 293.15), display: 'T_1' },
    T2: { ...temperature('temperature after', 353.15), display: 'T_2' },
  },
  expression: '√{A}/(226·10^6·√(ln(({T2} − 38.65)/({T1} − 38.65))))',
  source: 'IEC 60949, adiabatic heating of copper, K = 226 A·√s/mm², β = 234.5 °C; in SI, temperatures in kelvin; from memory',
  assumptions: [
    'a pulse so short that no heat leaves the copper',
    'the current fills it: of a ring of many kilohertz take strip or braid',
  ],
  relation: ({ T1, T2 }) => (T2 > T1 ? null : { symbol: 'T2', reason: 'must be above the temperature before' }),
  compute: ({ A, T1, T2 }) => Math.sqrt(A) / warmth(T1, T2),
  inverse: { A: ({ S = 0, T1 = 0, T2 = 0 }) => (S * warmth(T1, T2)) ** 2 },
});
