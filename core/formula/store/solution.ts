import { defineFormula } from '../define.ts';
import { energy, length, resistance } from '../symbol.ts';

const subject = 'Water resistor';

/** 1/K by which the conductivity of a salt in water rises. */
const perKelvin = 0.02;
/** J/(kg·K) and kg/m³ of water; salt in it changes the product by a few per cent. */
const water = { heat: 4184, density: 1000 };

const temperature = { title: 'temperature', unit: 'K', min: 273, max: 373, default: 293.15 } as const;
const resistivity = { title: 'resistivity at 20 °C', unit: 'Ω·m', min: 1e-3, max: 1e6 } as const;

export const columnResistance = defineFormula({
  id: 'water-column-resistance',
  title: 'Resistance of a column of salt in water',
  subject,
  result: { symbol: 'R', ...resistance('resistance of the column') },
  inputs: {
    rho: { ...resistivity, display: 'ρ' },
    l: length('length of the column'),
    d: length('inner diameter of the tube'),
    T: temperature,
  },
  expression: '4·{rho}·{l}/(π·{d}²·(1 + 0.02·({T} − 293.15)))',
  source: 'R = ρ·l/A; conductivity of salts in water rises by about 2 % a kelvin (CRC Handbook; from memory)',
  assumptions: ['electrodes of copper in copper sulphate, as wide as the tube: others polarise and make gas'],
  certainty: () => ({ band: 0.1, drawnOut: null }),
  compute: ({ rho, l, d, T }) => (4 * rho * l) / (Math.PI * d * d * (1 + perKelvin * (T - 293.15))),
  inverse: {
    rho: ({ R = 0, l = 0, d = 0, T = 293.15 }) => (R * Math.PI * d * d * (1 + perKelvin * (T - 293.15))) / (4 * l),
    l: ({ R = 0, rho = 0, d = 0, T = 293.15 }) => (R * Math.PI * d * d * (1 + perKelvin * (T - 293.15))) / (4 * rho),
    d: ({ R = 0, rho = 0, l = 0, T = 293.15 }) => Math.sqrt((4 * rho * l) / (Math.PI * R * (1 + perKelvin * (T - 293.15)))),
  },
});

export const columnWarming = defineFormula({
  id: 'column-warming',
  title: 'Warming of a water resistor by one shot',
  subject,
  result: { symbol: 'dT', title: 'rise of temperature', unit: 'K', min: 0, max: 1e6, display: 'ΔT' },
  inputs: {
    E: energy('energy into it'),
    l: length('length of the column'),
    d: length('inner diameter of the tube'),
  },
  expression: '4·{E}/(4184·1000·π·{d}²·{l})',
  source: 'heat capacity of water, 4184 J/(kg·K), 1000 kg/m³',
  assumptions: ['no heat leaves it meanwhile', 'the salt changes it by a few per cent'],
  compute: ({ E, l, d }) => (4 * E) / (water.heat * water.density * Math.PI * d * d * l),
  inverse: {
    E: ({ dT = 0, l = 0, d = 0 }) => (dT * water.heat * water.density * Math.PI * d * d * l) / 4,
    l: ({ dT = 0, E = 0, d = 0 }) => (4 * E) / (water.heat * water.density * Math.PI * d * d * dT),
    d: ({ dT = 0, E = 0, l = 0 }) => Math.sqrt((4 * E) / (water.heat * water.density * Math.PI * dT * l)),
  },
});
