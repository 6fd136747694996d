import { defineFormula, type SymbolSpec } from '../define.ts';
import { count, energy, fraction, length, positiveVoltage } from '../symbol.ts';

const subject = 'What reaches a person';

const pressure = (title: string): SymbolSpec => ({ title, unit: 'Pa', min: 0, max: 1e12 });
const someEnergy = (title: string): SymbolSpec => ({ ...energy(title), open: true });

/** J in a kilogram of TNT. Source: convention. */
const tnt = 4.184e6;
/** Pa of a technical atmosphere, in which the coefficients are given. */
const technical = 98066.5;
/** Reduced distance, m/kg^(1/3), beyond which the curve is extrapolated. */
const measuredTo = 40;

const reduced = (E: number, r: number): number => r / (E / tnt) ** (1 / 3);

export const blastPressure = defineFormula({
  id: 'blast-pressure',
  title: 'Peak pressure of the bang of an arc or a wire',
  subject,
  result: { symbol: 'p', ...pressure('peak pressure in the open') },
  inputs: { E: someEnergy('energy in the arc or the wire'), r: length('distance') },
  expression: '98066.5·(0.84·({E}/4184000)^(1/3)/{r} + 2.7·({E}/4184000)^(2/3)/{r}² + 7·{E}/(4184000·{r}³))',
  source:
    'Sadovsky’s curve of the blast of TNT in free air, 0.84/Z + 2.7/Z² + 7/Z³ technical atmospheres, Z the distance over the cube root of the mass, 4.184 MJ to a kilogram; from memory',
  assumptions: [
    'rule of thumb: an arc or a wire is taken for as much TNT, and all of its energy for blast; the real one is less',
    'in the open: near a floor, in a corner or in a small room it is two to eight times as much',
  ],
  certainty: ({ E, r }) => ({
    band: 0.5,
    drawnOut: reduced(E, r) > measuredTo ? 'a reduced distance of 40 m/kg^(1/3)' : null,
  }),
  compute: ({ E, r }) => {
    const Z = reduced(E, r);
    return technical * (0.84 / Z + 2.7 / Z ** 2 + 7 / Z ** 3);
  },
});

export const earPressure = defineFormula({
  id: 'ear-pressure',
  title: 'Peak pressure at a protected ear',
  subject,
  result: { symbol: 'pe', ...pressure('peak pressure at the ear'), display: 'p_e' },
  inputs: {
    p: pressure('peak pressure outside'),
    A: { title: 'attenuation of the ear protection, in decibels', unit: '1', min: 0, max: 60 },
  },
  expression: '{p}·10^(−{A}/20)',
  source: 'definition of the decibel',
  assumptions: [
    'protection that fits; of a bang plugs and muffs give some decibels less than their label, both together little more',
  ],
  compute: ({ p, A }) => p * 10 ** (-A / 20),
  inverse: {
    p: ({ pe = 0, A = 0 }) => pe * 10 ** (A / 20),
    A: ({ pe = 0, p = 0 }) => 20 * Math.log10(p / pe),
  },
});

export const fragmentSpeed = defineFormula({
  id: 'fragment-speed',
  title: 'Greatest speed of a fragment',
  subject,
  result: { symbol: 'v', title: 'speed', unit: 'm/s', min: 0, max: 1e7 },
  inputs: {
    E: energy('energy that it could get'),
    m: { title: 'mass of the fragment', unit: 'kg', min: 0, max: 1e5, open: true },
  },
  expression: '√(2·{E}/{m})',
  source: 'kinetic energy: upper bound, all of the energy in one piece',
  assumptions: ['nothing goes into heat, noise or the other pieces: a real one has a tenth to a half of the energy'],
  compute: ({ E, m }) => Math.sqrt((2 * E) / m),
  inverse: { E: ({ v = 0, m = 0 }) => (m * v * v) / 2, m: ({ v = 0, E = 0 }) => (2 * E) / (v * v) },
});

/** 1/672 in foot-pounds and inches, in joules and metres. */
const ballistic = 7.837e-7;

export const perforation = defineFormula({
  id: 'shield-perforation',
  title: 'Thickness of a shield that a fragment just perforates',
  subject,
  result: { symbol: 't', ...length('thickness that is just perforated'), min: 0 },
  inputs: {
    E: someEnergy('energy of the fragment'),
    D: length('width of its smallest face'),
    k: { title: 'thickness over that of mild steel for the same', unit: '1', min: 0.5, max: 100, default: 1 },
  },
  expression: '7.837·10^(−7)·{k}·{E}^(2/3)/{D}',
  source:
    'Ballistic Research Laboratory formula for steel plate; from memory. Factors of other materials: common practice, no source',
  assumptions: [
    'a rigid, blunt piece that strikes square; a sharp one goes deeper',
    'what is told is where it just goes through: a quarter more is usual for a shield, and none is sure to stop it',
  ],
  certainty: () => ({ band: 0.3, drawnOut: null }),
  compute: ({ E, D, k }) => (ballistic * k * E ** (2 / 3)) / D,
  inverse: {
    E: ({ t = 0, D = 0, k = 0 }) => ((t * D) / (ballistic * k)) ** 1.5,
    D: ({ t = 0, E = 0, k = 0 }) => (ballistic * k * E ** (2 / 3)) / t,
    k: ({ t = 0, E = 0, D = 0 }) => (t * D) / (ballistic * E ** (2 / 3)),
  },
});

/** V/m along which a streamer goes on, in air. */
const streamer = 450e3;
/** V across a metre, rod to plane, a switching impulse of the worst front, three deviations of 6 % below the mean of 500 kV. */
const atOneMetre = 410e3;

export const flashoverReach = defineFormula({
  id: 'flashover-reach',
  title: 'Distance that a voltage may flash over',
  subject,
  result: { symbol: 'd', ...length('distance'), min: 0, open: false },
  inputs: { V: positiveVoltage('highest voltage') },
  expression: 'max({V}/450000, ({V}/410000)^(5/3))',
  source:
    'streamer stability field of air, 4.5 kV/cm; above a metre the switching strength of rod to plane, 500 kV·(d/1 m)^0.6 less three deviations of 6 % (Paris; IEC 60071-2); from memory',
  assumptions: [
    'lowest bound of dry air at sea level: most gaps hold two to six times as much',
    'a hand or a tool that reaches in is part of the way',
  ],
  compute: ({ V }) => Math.max(V / streamer, (V / atOneMetre) ** (5 / 3)),
  inverse: { V: ({ d = 0 }) => Math.min(streamer * d, atOneMetre * d ** 0.6) },
});

/** J/m²: second-degree burn of bare skin, 1.2 cal/cm². Source: IEEE 1584 and NFPA 70E; from memory. */
const burn = 5.02e4;

export const burnReach = defineFormula({
  id: 'burn-reach',
  title: 'Distance at which the flash of an arc burns bare skin',
  subject,
  result: { symbol: 'd', ...length('distance'), min: 0, open: false },
  inputs: {
    E: energy('energy of the arc'),
    k: { ...fraction('share of it that leaves as light and heat'), default: 1 },
  },
  expression: '√({k}·{E}/(4·π·50200))',
  source:
    'inverse square of all of the energy; 1.2 cal/cm², 50.2 kJ/m², is the second-degree burn of IEEE 1584 and NFPA 70E; from memory',
  assumptions: [
    'upper bound, an arc in the open: in an enclosure it is thrown out at the door, three times as far',
    'hot metal that is thrown goes farther',
  ],
  certainty: () => ({ band: 0.5, drawnOut: null }),
  compute: ({ E, k }) => Math.sqrt((k * E) / (4 * Math.PI * burn)),
  inverse: {
    E: ({ d = 0, k = 0 }) => (4 * Math.PI * burn * d * d) / k,
    k: ({ d = 0, E = 0 }) => (4 * Math.PI * burn * d * d) / E,
  },
});

const volume = (title: string): SymbolSpec => ({ title, unit: 'm³', min: 0, max: 1e6, open: true });

export const boxPressure = defineFormula({
  id: 'box-pressure',
  title: 'Pressure of an arc in a closed box',
  subject,
  result: { symbol: 'p', ...pressure('rise of pressure') },
  inputs: { E: energy('energy of the arc'), Vb: { ...volume('volume of the box'), display: 'V_b' } },
  expression: '0.4·{E}/{Vb}',
  source: 'ideal gas heated at constant volume, κ = 1.4: (κ − 1)·E/V',
  assumptions: ['upper bound: all of the energy heats the air, none the walls, and nothing leaks'],
  compute: ({ E, Vb }) => (0.4 * E) / Vb,
  inverse: { E: ({ p = 0, Vb = 0 }) => (p * Vb) / 0.4, Vb: ({ p = 0, E = 0 }) => (0.4 * E) / p },
});

/** m³ of nitric oxide that a joule of spark makes. */
const perJoule = 4e-9;

export const noxShare = defineFormula({
  id: 'nox-share',
  title: 'Nitrogen oxides that sparks leave in a closed room',
  subject,
  result: { symbol: 'x', ...fraction('share of the air') },
  inputs: {
    E: energy('energy of a spark'),
    n: count('sparks'),
    Vr: { ...volume('volume of the room'), display: 'V_r' },
  },
  expression: 'min(1, 4·10^(−9)·{n}·{E}/{Vr})',
  source:
    'yield of NO in sparks and lightning, about 1e17 molecules a joule, over 2.5e25 molecules in a cubic metre of air; from memory',
  assumptions: [
    'rule of thumb, within a factor of two: it turns into the dioxide within minutes',
    'no ventilation; an hour of six air changes leaves a four-hundredth',
    'corona makes ozone besides; a hot spark next to none',
  ],
  certainty: () => ({ band: 0.5, drawnOut: null }),
  compute: ({ E, n, Vr }) => Math.min(1, (perJoule * n * E) / Vr),
  onlyForwards: 'it stands at 1 where more would be made than the room holds',
});

/** m³ of ozone that a joule of corona in air makes at the most: 50 g a kilowatt hour, 48 g a mole, 24 litres a mole. */
const ozonePerJoule = 7e-9;

export const ozoneShare = defineFormula({
  id: 'ozone-share',
  title: 'Ozone that corona leaves in a closed room',
  subject,
  result: { symbol: 'x', ...fraction('share of the air') },
  inputs: {
    E: energy('energy of a shot'),
    k: fraction('share of it that goes into corona and streamers'),
    n: count('shots'),
    Vr: { ...volume('volume of the room'), display: 'V_r' },
  },
  expression: 'min(1, 7·10^(−9)·{n}·{k}·{E}/{Vr})',
  source: 'yield of ozone generators on air, up to 50 g a kilowatt hour; 48 g and 24 litres a mole; from memory',
  assumptions: [
    'upper bound: what is made for the purpose, dry and cooled, reaches that; streamers in a room a fifth of it',
    'no ventilation and nothing decays; half of it is gone by itself within an hour or less',
  ],
  certainty: () => ({ band: 0.5, drawnOut: null }),
  compute: ({ E, k, n, Vr }) => Math.min(1, (ozonePerJoule * n * k * E) / Vr),
  onlyForwards: 'it stands at 1 where more would be made than the room holds',
});

/** H/m: permeability of free space. */
const mu0 = 4e-7 * Math.PI;

export const inducedVoltage = defineFormula({
  id: 'induced-voltage',
  title: 'Voltage that a shot induces in a loop of wire at a distance',
  subject,
  result: { symbol: 'Vi', title: 'induced voltage', unit: 'V', min: 0, max: 1e9, display: 'V_i' },
  inputs: {
    S: { title: 'greatest rise of the current', unit: 'A/s', min: 0, max: 1e15 },
    A: { title: 'area of the discharge loop, times its turns', unit: 'm²', min: 0, max: 1e3 },
    Av: { title: 'area of the loop of wire', unit: 'm²', min: 0, max: 1e3, display: 'A_v' },
    r: length('distance'),
  },
  expression: '2·10^(−7)·{S}·{A}·{Av}/{r}³',
  source: 'field of a magnetic dipole on its axis, μ₀·m/(2·π·r³), and the law of induction',
  assumptions: [
    'rule of thumb: the worst direction, a distance of several widths of the loop, nothing between that shields',
    'what comes by the leads and by the spark’s own radio noise is besides it',
  ],
  certainty: () => ({ band: 0.5, drawnOut: null }),
  compute: ({ S, A, Av, r }) => (mu0 * S * A * Av) / (2 * Math.PI * r ** 3),
  inverse: {
    S: ({ Vi = 0, A = 0, Av = 0, r = 0 }) => (2 * Math.PI * r ** 3 * Vi) / (mu0 * A * Av),
    A: ({ Vi = 0, S = 0, Av = 0, r = 0 }) => (2 * Math.PI * r ** 3 * Vi) / (mu0 * S * Av),
    Av: ({ Vi = 0, S = 0, A = 0, r = 0 }) => (2 * Math.PI * r ** 3 * Vi) / (mu0 * S * A),
    r: ({ Vi = 0, S = 0, A = 0, Av = 0 }) => Math.cbrt((mu0 * S * A * Av) / (2 * Math.PI * Vi)),
  },
});
