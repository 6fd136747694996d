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

/**
 * Onderdonk's constant over seconds: action at which a copper conductor melts, A²s/m⁴. 33·t/A² with A in circular mils gives
 * lg((Tm − Ta)/(234 + Ta) + 1) for Tm 1083 °C.
 */
const onderdonk = (Ta: number): number => {
  const mil2 = (Math.PI / 4) * 25.4e-6 ** 2;
  const a = Ta - 273.15;
  return Math.log10((1083 - a) / (234 + a) + 1) / 33 / mil2 ** 2;
};

export const wireMeltingAction = defineFormula({
  id: 'wire-melting-action',
  title: 'Action that melts a copper wire in a pulse',
  subject,
  result: { symbol: 'Am', ...action('melting action'), display: 'A_m' },
  inputs: {
    d: { title: 'diameter of the wire', unit: 'm', min: 0, max: 0.05, open: true },
    T: { title: 'temperature at the start', unit: 'K', min: 200, max: 1000, default: 293.15 },
  },
  expression: 'lg(1 + (1083 °C − {T})/(234 °C + {T}))/33·(π·{d}²/4)²',
  source: 'Onderdonk’s equation of the fusing current of copper, area in circular mils, time in seconds; from memory',
  assumptions: [
    'a pulse so short that no heat leaves the wire: well below a second',
    'the wire melts; what boils or arcs on takes more',
  ],
  certainty: () => ({ band: 0.2, drawnOut: null }),
  relation: ({ T }) => (T < 1356 ? null : { symbol: 'T', reason: 'must be below the melting point of copper' }),
  compute: ({ d, T }) => onderdonk(T) * ((Math.PI * d * d) / 4) ** 2,
  inverse: { d: ({ Am = 0, T = 0 }) => Math.sqrt((4 / Math.PI) * Math.sqrt(Am / onderdonk(T))) },
});

/** A·√s/m² and K of copper. Source: IEC 60949, K = 226 A·√s/mm², β = 234.5 °C; from memory. */
const copper = { K: 226e6, beta: 234.5 - 273.15 };
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
  expression: '√{A}/(226 A·√s/mm²·√ln(({T2} + 234.5 °C)/({T1} + 234.5 °C)))',
  source: 'IEC 60949, adiabatic heating of copper; from memory',
  assumptions: [
    'a pulse so short that no heat leaves the copper',
    'the current fills it: of a ring of many kilohertz take strip or braid',
  ],
  relation: ({ T1, T2 }) => (T2 > T1 ? null : { symbol: 'T2', reason: 'must be above the temperature before' }),
  compute: ({ A, T1, T2 }) => Math.sqrt(A) / warmth(T1, T2),
  inverse: { A: ({ S = 0, T1 = 0, T2 = 0 }) => (S * warmth(T1, T2)) ** 2 },
});
