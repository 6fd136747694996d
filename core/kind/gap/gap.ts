import { ambient } from '../../block/standard-air.ts';
import { onlyWith, quantity } from '../../field/index.ts';
import { certaintyOf, gapFormulas, ruled, work, type Certainty, type Worked } from '../../formula/index.ts';
import { gasById, gases } from '../../material/index.ts';
import type { LinesField } from '../../field/index.ts';
import type { Own } from '../../block/context.ts';
import { readObserved } from './observed.ts';

/** Fields that say what a gap is: shared by every block that has one. */
export const gapFields = {
  geometry: {
    type: 'choice',
    title: 'Electrodes',
    initial: 'sphere',
    options: [
      { value: 'sphere', title: 'spheres' },
      { value: 'hemisphere', title: 'rods with round ends' },
      { value: 'uniform', title: 'flat, rounded at the edge' },
      { value: 'rod', title: 'rods with square ends' },
      { value: 'needle', title: 'needles' },
      { value: 'rod-plane', title: 'rod to plane' },
    ],
    help: 'Round ends are reckoned as spheres of their diameter.',
  },
  d: quantity({ symbol: 'd', title: 'Spacing', unit: 'm', min: 0, max: 1, open: true, initial: '5 mm ±2 %', tolerance: true }),
  D: onlyWith(
    'geometry',
    ['sphere', 'hemisphere'],
    quantity({
      symbol: 'D',
      title: 'Diameter of the spheres or round ends',
      unit: 'm',
      min: 0,
      max: 2,
      open: true,
      initial: '20 mm',
    }),
  ),
  gas: {
    type: 'choice',
    title: 'Gas',
    initial: 'air',
    options: gases.map(({ id, title }) => ({ value: id, title })),
  },
  p: quantity({
    symbol: 'p',
    title: 'Pressure',
    unit: 'Pa',
    min: 0,
    max: 5e6,
    initial: '0 kPa',
    tolerance: true,
    help: 'Also in psi, bar or mmHg.',
  }),
  reading: {
    type: 'choice',
    title: 'The pressure is',
    initial: 'gauge',
    options: [
      { value: 'gauge', title: 'above the air outside' },
      { value: 'absolute', title: 'absolute' },
    ],
  },
  T: quantity({ symbol: 'T', title: 'Temperature', unit: 'K', min: 150, max: 1000, initial: '20 °C' }),
  h: onlyWith(
    'gas',
    ['air'],
    quantity({
      symbol: 'h',
      title: 'Absolute humidity, g/m³',
      unit: '1',
      min: 1,
      max: 25,
      initial: null,
      optional: true,
      help: 'Air alone. Empty: 8.5 g/m³, as the tables hold.',
    }),
  ),
  b: quantity({
    symbol: 'b',
    title: 'Field enhancement',
    unit: '1',
    min: 0.2,
    max: 20,
    open: true,
    initial: '1 ±5 %',
    tolerance: true,
    help: '1 for clean polished metal; used or edged electrodes 1.1 to 1.5. Observed breakdowns say it better: see the gap desk.',
  }),
  seen: {
    type: 'lines',
    title: 'Breakdowns that were observed',
    initial: '',
    check: (text) => {
      const read = readObserved(text);
      return read.ok ? null : read.reason;
    },
    help: 'One to a line: "18.6 kV at 5.7 mm", "27 kV at 8 psi by itself". What is not said is as above. A line with a dash before it is kept as a note.',
  } satisfies LinesField,
  sc: quantity({
    symbol: 'σ',
    title: 'Scatter of self-break',
    unit: '1',
    min: 0,
    max: 0.5,
    initial: '2 %',
    help: 'Standard deviation of single breakdowns. 1 to 3 % in clean air, more after heavy shots and with points.',
  }),
} as const;

/** Absolute pressure in a gap, Pa. */
export const pressureOf = (own: Own): Worked => {
  const p = own.quantity('p');
  return own.choice('reading') === 'absolute' ? p : work(gapFormulas.absolutePressure, { pg: p, pa: ambient });
};

const densityOf = (own: Own): Worked => work(gapFormulas.airDensityFactor, { p: pressureOf(own), T: own.quantity('T') });

const one = (title: string) => ruled(title, 1, '1', 'nothing to correct');

const paschenOf = {
  air: gapFormulas.paschenBreakdown,
  nitrogen: gapFormulas.paschenNitrogen,
  'carbon-dioxide': gapFormulas.paschenCarbonDioxide,
  'sulphur-hexafluoride': gapFormulas.paschenSulphurHexafluoride,
  argon: gapFormulas.paschenArgon,
} as const;

/** Strength of the gas of a gap against air. */
export function strengthOf(own: Own): Worked {
  const gas = gasById(own.choice('gas')) ?? gases[0];
  return gas.id === 'air' ? one('air') : ruled(`strength of ${gas.title} against air`, gas.strength, '1', gas.source);
}

/** Breakdown of clean electrodes, and the strength of the gas where that is not in it. */
function ideal(own: Own): { V: Worked; s: Worked } {
  const gas = gasById(own.choice('gas')) ?? gases[0];
  const s = strengthOf(own);
  const d = own.quantity('d');
  switch (own.choice('geometry')) {
    case 'uniform': {
      const p = work(gapFormulas.pressureAtReference, { p: pressureOf(own), T: own.quantity('T') });
      return { V: work(paschenOf[gas.id as keyof typeof paschenOf], { p, d }), s: one('the gas is in it') };
    }
    case 'rod':
      return { V: work(gapFormulas.rodGapBreakdown, { d, delta: densityOf(own) }), s };
    case 'needle':
      return { V: work(gapFormulas.needleGapBreakdown, { d, delta: densityOf(own) }), s };
    case 'rod-plane':
      return { V: work(gapFormulas.rodPlaneBreakdown, { d, delta: densityOf(own) }), s };
    default:
      return {
        V: work(gapFormulas.sphereGapBreakdown, { d, D: own.quantity('D'), p: pressureOf(own), T: own.quantity('T') }),
        s,
      };
  }
}

/** Mean self-break voltage of a gap, V. @throws FormulaError where no table or formula holds for it */
export function selfBreak(own: Own): Worked {
  const h = own.choice('gas') === 'air' ? own.optional('h') : null;
  const kh = h ? work(gapFormulas.humidityFactor, { h, delta: densityOf(own) }) : one('humidity of the tables');
  return work(gapFormulas.enhancedBreakdown, { ...ideal(own), kh, b: own.quantity('b') }, 'self-break voltage');
}

/** What the calculation itself is worth: of gas and geometry, beside the tolerances that were entered. */
export function gapCertainty(own: Own): Certainty {
  const { band, drawnOut } = certaintyOf(ideal(own).V);
  const gas = gasById(own.choice('gas'));
  // A round end is no sphere behind its face.
  const shape = own.choice('geometry') === 'hemisphere' ? 0.08 : 0;
  // Another gas between other electrodes than flat ones: the law of air times its strength, a handbook value.
  const strength = own.choice('geometry') !== 'uniform' && gas && gas.id !== 'air' ? Math.max(gas.band, 0.2) : 0;
  return { band: Math.max(band, shape, strength), drawnOut };
}

/** Voltage below which hardly any breakdown falls, or above which hardly none has come: three standard deviations, V. */
export const beyondScatter = (own: Own, Vb: Worked, side: -1 | 1): Worked =>
  work(gapFormulas.scatteredBreakdown, {
    Vb,
    s: own.quantity('sc'),
    z: ruled('standard deviations', side * 3, '1', '1 in 700 lies beyond'),
  });
