/** A conductor at room temperature. */
export interface Conductor {
  readonly id: string;
  readonly title: string;
  /** Ω·m */
  readonly resistivity: number;
  readonly source: string;
}

/** Foils and leads, then fillings that serve as an electrode. */
export const foils: readonly Conductor[] = [
  { id: 'aluminium', title: 'aluminium', resistivity: 2.82e-8, source: 'IEC 60889, from memory' },
  { id: 'copper', title: 'copper', resistivity: 1.7241e-8, source: 'IEC 60028, from memory' },
];

export const fillings: readonly Conductor[] = [
  {
    id: 'brine',
    title: 'salt water, saturated',
    resistivity: 1 / 22,
    source: 'about 22 S/m at 20 °C, CRC Handbook, from memory',
  },
  {
    id: 'salt-water',
    title: 'salt water, 35 g a litre',
    resistivity: 1 / 4.8,
    source: 'about 4.8 S/m at 20 °C, as sea water, from memory',
  },
  {
    id: 'weak-brine',
    title: 'weak brine, 5 g a litre',
    resistivity: 1 / 0.82,
    source: 'about 0.82 S/m at 20 °C, CRC Handbook, from memory',
  },
  {
    id: 'pinch-of-salt',
    title: 'water with a pinch of salt, 1 g a litre',
    resistivity: 1 / 0.17,
    source: 'about 0.17 S/m at 20 °C, in proportion to 5 g a litre, from memory',
  },
];

const byId = new Map([...foils, ...fillings].map((c) => [c.id, c]));

/** @returns null where no such conductor is listed */
export const conductorById = (id: string): Conductor | null => byId.get(id) ?? null;

/** A metal that coils and leads are wound of. */
export interface WireMetal extends Conductor {
  /** 1/K at 20 °C */
  readonly temperatureCoefficient: number;
  /** kg/m³ */
  readonly density: number;
  /** J/(kg·K) */
  readonly heatCapacity: number;
  /** A²s/m⁴: action over the square of the section that brings it from 20 °C to melting, and to bursting. */
  readonly meltAction: number;
  readonly burstAction: number;
  /** J/kg: from 20 °C to vapour. */
  readonly vapourEnergy: number;
  /** Pa: stress that an annealed wire bears before it stays stretched. */
  readonly yieldStress: number;
}

/** In the order in which they are offered. */
export const wireMetals: readonly WireMetal[] = [
  {
    id: 'copper',
    title: 'copper',
    resistivity: 1.7241e-8,
    temperatureCoefficient: 0.00393,
    density: 8960,
    heatCapacity: 385,
    meltAction: 0.8e17,
    burstAction: 1.2e17,
    // 0.48 to melting, 0.21 to melt, 0.75 to boiling, 4.73 to boil away, MJ/kg
    vapourEnergy: 6.2e6,
    yieldStress: 70e6,
    source:
      'resistivity IEC 60028; density and heat CRC Handbook; action: pulsed-power literature, within 15 %; annealed yield 33 to 70 MPa; all from memory',
  },
  {
    id: 'aluminium',
    title: 'aluminium',
    resistivity: 2.82e-8,
    temperatureCoefficient: 0.00403,
    density: 2700,
    heatCapacity: 897,
    meltAction: 0.25e17,
    burstAction: 0.4e17,
    // 0.64 to melting, 0.40 to melt, 2.1 to boiling, 10.5 to boil away, MJ/kg
    vapourEnergy: 13.6e6,
    yieldStress: 30e6,
    source:
      'resistivity IEC 60889; density and heat CRC Handbook; action: pulsed-power literature, within 30 %; annealed yield about 30 MPa; all from memory',
  },
];

/** @returns null where no such metal is listed */
export const wireMetalById = (id: string): WireMetal | null => wireMetals.find((metal) => metal.id === id) ?? null;
