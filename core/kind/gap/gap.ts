import { onlyWith, quantity, above, choice, choiceOf, fields, within } from '../../field/index.ts';
import { certaintyOf, gapFormulas, ruled, work, type Certainty, type Worked } from '../../formula/index.ts';
import { gasById, gases } from '../../material/index.ts';
import type { LinesField } from '../../field/index.ts';
import type { Own } from '../../block/context.ts';
import { isTyped } from '../../block/known.ts';
import { standardAir } from '../../block/standard-air.ts';
import { readObserved } from './observed.ts';

/** Fields that say what a gap is: shared by every block that has one. */
export const gapFields = fields(
  {
    geometry: choice(
      'Electrodes',
      {
        sphere: 'spheres',
        hemisphere: 'rods with hemispherical ends',
        uniform: 'flat, rounded at the edge',
        rod: 'rods with square ends',
        needle: 'needles',
        'rod-plane': 'rod to plane',
      },
      { help: 'Round ends count as spheres of their diameter.' },
    ),
    d: quantity('Spacing', 'm', above(0, 1), '5 mm ±2 %', { tolerance: true, turnedBy: 'pt' }),
    pt: quantity('Travel of its screw in one turn', 'm', above(0, 0.1), null, {
      symbol: 'pt',
      optional: true,
      help: 'A campaign then says how far to turn from one spacing to the next. Empty: it is set by a gauge.',
    }),
    D: onlyWith(
      'geometry',
      ['sphere', 'hemisphere'],
      quantity('Diameter of the spheres or round ends', 'm', above(0, 2), '20 mm'),
    ),
    gas: choiceOf('Gas', gases, 'air'),
    p: quantity('Pressure', 'Pa', within(0, 5e6), '0 kPa', { tolerance: true, help: 'Also in psi, bar or mmHg.' }),
    reading: choice('Pressure given as', { gauge: 'gauge', absolute: 'absolute' }),
    T: quantity('Temperature', 'K', within(150, 1000), '20 °C', { help: 'Left as it is, that of the air around it.' }),
    h: onlyWith(
      'gas',
      ['air'],
      quantity('Absolute humidity', 'g/m³', within(1, 25), null, {
        help: 'Air only. Empty: 8.5 g/m³, as in the tables, or that of the air around it where the gap is open.',
      }),
    ),
    b: quantity('Field enhancement', '1', above(0.2, 20), '1 ±5 %', {
      tolerance: true,
      help: '1 for clean polished metal; 1.1 to 1.5 for used electrodes or edges. Observed breakdowns tell more: see the Gap page.',
    }),
    seen: {
      type: 'lines',
      title: 'Observed breakdowns',
      initial: '',
      check: (text) => {
        const read = readObserved(text);
        return read.ok ? null : read.reason;
      },
      help: 'One per line: "18.6 kV at 5.7 mm", "27 kV at 8 psi, self-break". What is left out is as above. A line that starts with a dash is kept as a note.',
    } satisfies LinesField,
    sc: quantity('Scatter of self-break', '1', within(0, 0.5), '2 %', {
      symbol: 'σ',
      help: 'Standard deviation of single breakdowns. 1 to 3 % in clean air, more after heavy shots and with points.',
    }),
  },
  { geometry: ['pt', 'T', 'h', 'b', 'seen', 'sc'] },
);

/** Absolute pressure in a gap, Pa. */
export const pressureOf = (own: Own<typeof gapFields>): Worked => {
  const p = own.quantity('p');
  return own.is('reading', 'absolute') ? p : work(gapFormulas.absolutePressure, { pg: p, pa: own.air().pressure });
};

/** Temperature of the gas, K: as somebody typed it, else that of the air around. */
const temperatureOf = (own: Own<typeof gapFields>): Worked => {
  const T = own.quantity('T');
  const { temperature } = own.air();
  return isTyped(T) || temperature === standardAir.temperature ? T : temperature;
};

/** Water in the gas, g/m³: as somebody typed it; of a gap that is open that of the air around; null: that of the tables. */
const humidityOf = (own: Own<typeof gapFields>): Worked | null => {
  const h = own.optional('h');
  const isOpen = own.is('reading', 'gauge') && own.quantity('p').value === 0;
  return h ?? (isOpen ? own.air().humidity : null);
};

const densityOf = (own: Own<typeof gapFields>): Worked =>
  work(gapFormulas.airDensityFactor, { p: pressureOf(own), T: temperatureOf(own) });

const one = (title: string) => ruled(title, 1, '1', 'nothing to correct');

const paschenOf = {
  air: gapFormulas.paschenBreakdown,
  nitrogen: gapFormulas.paschenNitrogen,
  'carbon-dioxide': gapFormulas.paschenCarbonDioxide,
  'sulphur-hexafluoride': gapFormulas.paschenSulphurHexafluoride,
  argon: gapFormulas.paschenArgon,
} as const;

/** Strength of the gas of a gap against air. */
export function strengthOf(own: Own<typeof gapFields>): Worked {
  const gas = gasById(own.choice('gas')) ?? gases[0];
  return gas.id === 'air' ? one('air') : ruled(`strength of ${gas.title} against air`, gas.strength, '1', gas.source);
}

/** Breakdown of clean electrodes, and the strength of the gas where that is not in it. */
function ideal(own: Own<typeof gapFields>): { V: Worked; s: Worked } {
  const gas = gasById(own.choice('gas')) ?? gases[0];
  const s = strengthOf(own);
  const d = own.quantity('d');
  switch (own.choice('geometry')) {
    case 'uniform': {
      const p = work(gapFormulas.pressureAtReference, { p: pressureOf(own), T: temperatureOf(own) });
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
        V: work(gapFormulas.sphereGapBreakdown, { d, D: own.quantity('D'), p: pressureOf(own), T: temperatureOf(own) }),
        s,
      };
  }
}

/** Mean self-break voltage of a gap, V. @throws FormulaError where no table or formula holds for it */
export function selfBreak(own: Own<typeof gapFields>): Worked {
  const h = own.is('gas', 'air') ? humidityOf(own) : null;
  const kh = h ? work(gapFormulas.humidityFactor, { h, delta: densityOf(own) }) : one('humidity of the tables');
  return work(gapFormulas.enhancedBreakdown, { ...ideal(own), kh, b: own.quantity('b') }, 'self-break voltage');
}

/** What the calculation itself is worth: of gas and geometry, beside the tolerances that were entered. */
export function gapCertainty(own: Own<typeof gapFields>): Certainty {
  const { band, drawnOut } = certaintyOf(ideal(own).V);
  const gas = gasById(own.choice('gas'));
  // A round end is no sphere behind its face.
  const shape = own.is('geometry', 'hemisphere') ? 0.08 : 0;
  // Another gas between other electrodes than flat ones: the law of air times its strength, a handbook value.
  const strength = !own.is('geometry', 'uniform') && gas && gas.id !== 'air' ? Math.max(gas.band, 0.2) : 0;
  return { band: Math.max(band, shape, strength), drawnOut };
}

/** A gap, or a row of gaps of which the weakest counts, as its scatter is read. */
export interface Scattering {
  readonly quantity: (field: 'sc') => Worked;
  readonly drawn: Own['drawn'];
}

/** What breaks down, as a study names it, and how many there are. */
interface Breaking {
  readonly what: string;
  readonly of?: number;
}
const theGap: Breaking = { what: 'breakdown' };

/** Where a gap of this mean breaks down in the shot that is read, V: the mean itself where no one shot is meant. */
export function inThisShot(own: Scattering, Vb: Worked, { what, of } = theGap): Worked {
  const s = own.quantity('sc');
  const z = own.drawn(what, s, of);
  return z ? work(gapFormulas.scatteredBreakdown, { Vb, s, z }, 'self-break in this shot') : Vb;
}

const leftForScatter = ruled('standard deviations', -3, '1', '1 in 700 is beyond');

/**
 * Voltage below which hardly any breakdown falls: three standard deviations, V. Where one shot is read `Vb` is where the gap breaks in it, and
 * nothing is left for a scatter that has been drawn already.
 */
export function hardlyBelow(own: Scattering, Vb: Worked, { what, of } = theGap): Worked {
  const s = own.quantity('sc');
  return own.drawn(what, s, of) ? Vb : work(gapFormulas.scatteredBreakdown, { Vb, s, z: leftForScatter });
}
