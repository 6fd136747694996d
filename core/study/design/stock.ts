import { ProgramError } from '../../formula/index.ts';

/**
 * What can be bought: how far the ratings of each kind go, and about what a piece costs and weighs. All of it common practice, no source; a
 * price is good to a factor of two, in a currency whose unit buys about what a euro does.
 */

/** A class of capacitors. */
export interface CapacitorClass {
  readonly id: string;
  readonly title: string;
  readonly dielectric: string;
  readonly isPolar: boolean;
  /** V and F of one at the most, and the share of its voltage that it may be reversed by. */
  readonly Vmax: number;
  readonly Cmax: number;
  readonly reversal: number;
  /** s: its loss at the frequencies of a discharge, ESR times capacitance; Ω that its leads add. */
  readonly loss: number;
  readonly lead: number;
  /** H */
  readonly ESL: number;
  /** s: insulation times capacitance. */
  readonly holds: number;
  /** To both sides of its label, as a fraction. */
  readonly spread: number;
  /** Price of one without what it stores, and of a joule; J in a kilogram. */
  readonly each: number;
  readonly perJoule: number;
  readonly density: number;
}

export const capacitorClasses: readonly CapacitorClass[] = [
  {
    id: 'electrolytic',
    title: 'Electrolytic capacitors',
    dielectric: 'electrolytic',
    isPolar: true,
    Vmax: 450,
    Cmax: 10e-3,
    reversal: 0,
    loss: 3e-5,
    lead: 5e-3,
    ESL: 20e-9,
    holds: 300,
    spread: 0.2,
    each: 1.5,
    perJoule: 0.06,
    density: 250,
  },
  {
    id: 'film',
    title: 'Film capacitors for DC links',
    dielectric: 'pet',
    isPolar: false,
    Vmax: 1300,
    Cmax: 500e-6,
    reversal: 0.3,
    loss: 1e-7,
    lead: 1.5e-3,
    ESL: 25e-9,
    holds: 1e4,
    spread: 0.1,
    each: 4,
    perJoule: 0.35,
    density: 90,
  },
  {
    id: 'pulse',
    title: 'Pulse capacitors in oil',
    dielectric: 'paper-oil',
    isPolar: false,
    Vmax: 50e3,
    Cmax: 200e-6,
    reversal: 1,
    loss: 3e-7,
    lead: 4e-3,
    ESL: 60e-9,
    holds: 3e3,
    spread: 0.1,
    each: 60,
    perJoule: 0.6,
    density: 40,
  },
  {
    id: 'doorknob',
    title: 'Ceramic capacitors for high voltage',
    dielectric: 'ceramic-2',
    isPolar: false,
    Vmax: 40e3,
    Cmax: 4.7e-9,
    reversal: 1,
    loss: 1e-10,
    lead: 0.1,
    ESL: 20e-9,
    holds: 1e3,
    spread: 0.1,
    each: 7,
    perJoule: 4,
    density: 8,
  },
];

export function capacitorClass(id: string): CapacitorClass {
  const found = capacitorClasses.find((one) => one.id === id);
  if (!found) throw new ProgramError(`there is no class of capacitors “${id}”`);
  return found;
}

type Values = Readonly<Record<string, number>>;

interface StockKind {
  /** The greatest value of a rating that is sold, by the id of its field. A rating that is not named has no end here. */
  readonly most: Values;
  /** Of one piece, by the SI values of its fields. */
  price(of: Values): number;
  /** kg of one piece. */
  mass(of: Values): number;
}

const at = (of: Values, id: string, usual = 0): number => of[id] ?? usual;

/** A resistor: what it dissipates, what a pulse puts into it, and the length of its body. */
const resistorPrice = (of: Values): number => 0.3 + 0.12 * at(of, 'P') ** 0.8 + 0.004 * at(of, 'E') + (0.15 * at(of, 'V')) / 1e3;
const resistorMass = (of: Values): number => 2e-3 + 1.5e-3 * at(of, 'P') ** 0.8 + 1e-4 * at(of, 'E') + (4e-3 * at(of, 'V')) / 1e3;
/** What takes pulses: watts of a peak say nothing of its size, joules do. */
const pulsePrice = (of: Values): number => resistorPrice({ ...of, P: 0 });
const pulseMass = (of: Values): number => resistorMass({ ...of, P: 0 });

/** What is bought of each kind of block, by `slot/kind`. */
const stock: Readonly<Record<string, StockKind>> = {
  'charging/resistor': { most: { P: 1e3, V: 20e3, E: 20e3 }, price: resistorPrice, mass: resistorMass },
  'bleeder/permanent': { most: { P: 300, V: 20e3, E: 20e3 }, price: resistorPrice, mass: resistorMass },
  'tool/resistor-tool': { most: { P: 10e6, V: 20e3, E: 20e3 }, price: pulsePrice, mass: pulseMass },
  'dump/relay': {
    most: { P: 10e6, V: 20e3, E: 50e3, Vo: 70e3, Ic: 1e3 },
    price: (of) => pulsePrice(of) + (at(of, 'Vo') > 5e3 ? 90 : 15) / at(of, 'n', 1),
    mass: (of) => pulseMass(of) + 0.3 / at(of, 'n', 1),
  },
  'load/dummy-resistor': { most: { V: 60e3, E: 50e3 }, price: pulsePrice, mass: pulseMass },
  'supply/dc-source': {
    most: { I: 20 },
    price: (of) => 25 + 0.25 * at(of, 'V') * at(of, 'I') + at(of, 'V') / 1e3,
    mass: (of) => 0.5 + (2e-3 * at(of, 'V') * at(of, 'I')) ** 0.8,
  },
  'switch/thyristor': {
    most: { Vr: 4500, I: 60e3, S: 1e9, A: 2e7 },
    price: (of) => 4 + (0.5 * (at(of, 'I') / 1e3) ** 1.2 * at(of, 'Vr', 1e3)) / 100,
    mass: (of) => 0.05 + 0.03 * (at(of, 'I') / 1e3),
  },
  'switch/spark-gap': {
    most: { I: 300e3 },
    price: (of) => 15 + 0.5 * (at(of, 'I') / 1e3),
    mass: (of) => 0.4 + 0.02 * (at(of, 'I') / 1e3),
  },
  'crowbar/diode': {
    most: { Ip: 60e3, A: 2e7, Vd: 5e3 },
    price: (of) => 3 + 2.5 * (at(of, 'Ip') / 1e3) + at(of, 'Vd') / 500,
    mass: (of) => 0.05 + 0.03 * (at(of, 'Ip') / 1e3),
  },
  'trigger/trigger-generator': { most: { Vi: 200e3 }, price: () => 45, mass: () => 0.8 },
  'meter/voltmeter': { most: {}, price: () => 35, mass: () => 0.4 },
  'meter/divider': { most: {}, price: (of) => 50 + (0.8 * at(of, 'V')) / 1e3, mass: () => 0.5 },
};

/** What is asked of whoever owns the load: it is not bought here. */
const own: StockKind = { most: {}, price: () => 0, mass: () => 0 };

export const stockOf = (slot: string, kind: string): StockKind => stock[`${slot}/${kind}`] ?? own;

/** Price and mass of copper wire with its former, by the mass of the wire, kg. */
export const woundPrice = (kg: number): number => 4 + 18 * kg;
export const woundMass = (kg: number): number => 1.3 * kg + 0.05;
