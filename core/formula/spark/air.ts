import { defineFormula } from '../define.ts';

const subject = 'Air';

/** ISO 2533: 101 325 Pa and 288.15 K at the sea, 6.5 K less every kilometre. */
const sea = 101_325;
const fall = 2.25577e-5;
const power = 5.25588;

export const pressureAtHeight = defineFormula({
  id: 'pressure-at-height',
  title: 'Pressure of the air at a height',
  subject,
  result: { symbol: 'p', title: 'pressure of the air, absolute', unit: 'Pa', min: 0, max: 2e5 },
  inputs: { h: { title: 'height above the sea', unit: 'm', min: -500, max: 11_000 } },
  expression: '101325 Pa·(1 − 0.0000225577·{h}/1 m)^5.25588',
  source: 'ISO 2533, standard atmosphere, troposphere',
  assumptions: ['the weather moves it by 3 % either way: a barometer at the place knows better'],
  certainty: () => ({ band: 0.03, drawnOut: null }),
  compute: ({ h }) => sea * (1 - fall * h) ** power,
  inverse: { h: ({ p = 0 }) => (1 - (p / sea) ** (1 / power)) / fall },
});

/** Pressure of saturated water vapour, Pa, over water. Source: Magnus formula with the constants of Sonntag (1990). */
const saturated = (T: number): number => 611.2 * Math.exp((17.62 * (T - 273.15)) / (243.12 + (T - 273.15)));
/** Gas constant of water vapour, J/(kg·K). */
const vapour = 461.5;

export const absoluteHumidity = defineFormula({
  id: 'absolute-humidity',
  title: 'Water in the air from relative humidity',
  subject,
  result: { symbol: 'h', title: 'absolute humidity', unit: 'g/m³', min: 0, max: 200 },
  inputs: {
    rh: { title: 'relative humidity', unit: '1', min: 0, max: 1, display: 'φ' },
    T: { title: 'temperature', unit: 'K', min: 233.15, max: 333.15 },
  },
  expression: '1000·{rh}·611.2 Pa·e^(17.62·({T} − 273.15 K)/({T} − 30.03 K))/(461.5·{T})',
  source: 'Magnus formula for saturated vapour over water, constants of Sonntag (1990), and the gas law of water vapour',
  assumptions: [],
  certainty: () => ({ band: 0.005, drawnOut: null }),
  compute: ({ rh, T }) => (1000 * rh * saturated(T)) / (vapour * T),
  inverse: { rh: ({ h = 0, T = 0 }) => (h * vapour * T) / (1000 * saturated(T)) },
});
