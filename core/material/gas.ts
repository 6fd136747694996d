/** A gas between electrodes, at rest and without dust. */
export interface Gas {
  readonly id: string;
  readonly title: string;
  /** Least breakdown voltage there is in it, V. */
  readonly minimumVoltage: number;
  /** Pressure times distance of that least voltage at 20 °C, Pa·m. */
  readonly minimumProduct: number;
  /** Breakdown against that of air where pressure times distance is large. */
  readonly strength: number;
  /** Streamer law of a clean uniform field, where the gas has a line of its own: at0 in V, slope in V/(Pa·m), from p·d on, Pa·m, to, Pa·m. */
  readonly line?: { readonly at0: number; readonly slope: number; readonly from: number; readonly to: number };
  /** How far the breakdown may lie off what is calculated, as a fraction. */
  readonly band: number;
  readonly source: string;
}

/** 1 Torr·cm in Pa·m */
const torrCentimetre = 133.322 / 100;
const minimum = (product: number) => product * torrCentimetre;
const constants = 'least voltage: Naidu and Kamaraju, High Voltage Engineering, table of minimum sparking constants; from memory';

export const gases = [
  {
    id: 'air',
    title: 'air',
    minimumVoltage: 327,
    minimumProduct: minimum(0.567),
    strength: 1,
    band: 0.05,
    source: constants,
  },
  {
    id: 'nitrogen',
    title: 'nitrogen',
    minimumVoltage: 251,
    minimumProduct: minimum(0.67),
    strength: 1.0,
    band: 0.1,
    source: `${constants}; strength: handbook value, from memory`,
  },
  {
    id: 'carbon-dioxide',
    title: 'carbon dioxide',
    minimumVoltage: 420,
    minimumProduct: minimum(0.51),
    strength: 0.88,
    band: 0.12,
    source: `${constants}; strength: handbook value, from memory`,
  },
  {
    id: 'sulphur-hexafluoride',
    title: 'sulphur hexafluoride',
    minimumVoltage: 507,
    minimumProduct: minimum(0.26),
    strength: 2.5,
    line: { at0: 500, slope: 88.4, from: 300, to: 1e4 },
    band: 0.05,
    source: `${constants}; from 0.3 to 10 bar·cm 0.5 kV + 88.4 kV·p·d/(bar·cm): Kuffel, Zaengl and Kuffel, streamer criterion; from memory`,
  },
  {
    id: 'argon',
    title: 'argon',
    minimumVoltage: 137,
    minimumProduct: minimum(0.9),
    strength: 0.3,
    band: 0.25,
    source: `${constants}; strength: handbook value, from memory; a little air in it raises it much`,
  },
] as const satisfies readonly Gas[];

export type GasId = (typeof gases)[number]['id'];

const byId = new Map<string, Gas>(gases.map((gas) => [gas.id, gas]));

/** @returns null where no such gas is listed */
export const gasById = (id: string): Gas | null => byId.get(id) ?? null;
