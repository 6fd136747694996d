import { dielectricField } from '../bank/dielectric-field.ts';
import { insulationField } from '../bank/insulation-field.ts';
import { quantity, rating, type LinesField, above, choice, fields, whole, within } from '../../field/index.ts';
import { parseQuantity, wordQuantityIssue } from '../../quantity/index.ts';
import { mostStages } from '../../model/index.ts';
import { lifeFields } from '../bank/life.ts';
import { surfaceField } from '../../block/resistor-string.ts';

export type ReadStages =
  { readonly ok: true; readonly values: readonly number[] } | { readonly ok: false; readonly reason: string };

/** Reads capacitances, one to a stage, on lines or with commas between: "2.71 nF, 2.64 nF". */
export function readStages(text: string): ReadStages {
  const entries = text
    .split(/[\n;]|,\s+/)
    .map((entry) => entry.trim())
    .filter((entry) => entry !== '');
  const values: number[] = [];
  for (const [i, entry] of entries.entries()) {
    const read = parseQuantity(entry.replace(/,$/, ''), 'F');
    if (!read.ok) return { ok: false, reason: `stage ${i + 1}, "${entry}": ${wordQuantityIssue(read.issue)}` };
    if (!(read.quantity.value > 0 && read.quantity.value <= 1))
      return { ok: false, reason: `stage ${i + 1}, "${entry}": must be above 0 F up to 1 F` };
    values.push(read.quantity.value);
  }
  return values.length <= mostStages
    ? { ok: true, values }
    : { ok: false, reason: `${values.length} stages: there are at most ${mostStages}` };
}

const bodyLength = (symbol: string, title: string) => quantity(title, 'm', above(0, 10), null, { symbol: symbol });
const ofGeometry = (symbol: string, title: string, help: string, max = 10) =>
  quantity(title, 'm', above(0, max), null, { symbol: symbol, help });

/** Fields of a Marx generator. */
export const marxFields = fields(
  {
    towers: choice(
      'Towers',
      { one: 'one', two: 'two, + and −' },
      {
        help: 'Two: each with its own supply, charging path, first gap, bleeder and meter, the load between their tops. Each top then has half the voltage to earth, and less is lost to corona.',
      },
    ),
    polarity: choice(
      'Polarity of the first tower',
      { positive: 'positive', negative: 'negative' },
      { help: 'Output polarity follows the supply. Corona and long sparks begin sooner from a positive top.' },
    ),
    n: quantity('Stages of a tower', '1', whole(1, mostStages), '6'),
    C: quantity('Capacitance of a stage', 'F', above(0, 1), '3.3 nF ±10 %', { tolerance: true, help: 'Measured if you can.' }),
    V0: quantity('Stages charged to', 'V', above(0, 1e6), '12 kV ±2 %', { tolerance: true }),
    Vr: rating('DC rating of a stage capacitor', 'V', 1e6),
    ...lifeFields,
    Rc: quantity('Charging resistor, each side of a stage', 'Ω', above(0, 1e12), '1.5 MΩ ±5 %', {
      tolerance: true,
      help: 'For chokes, their winding resistance. The first stage has the resistance of both sides before it.',
    }),
    Lc: quantity('Charging choke, each side of a stage', 'H', above(0, 1e4), null, {
      help: 'For chokes in place of charging resistors. Empty: resistors.',
    }),
    lc: quantity('Length of a charging resistor or choke', 'm', above(0, 10), null, {
      help: 'End to end, along which an arc would run.',
    }),
    lb: bodyLength('lb', 'Length of a capacitor, terminal to terminal'),
    Es: surfaceField,
    ks: quantity('Surface condition', '1', within(0.05, 5), '1', {
      symbol: 'ks',
      tolerance: true,
      help: 'Times the permissible field. 1 clean and dry; 1.3 ±25 % varnished or oiled after cleaning; 0.5 ±40 % handled or dusty; 0.2 ±50 % where an arc has run and left a track. Common practice, no source.',
    }),
    Vg: quantity('Self-break, later gaps', 'V', above(0, 1e7), '16 kV', {
      optional: true,
      help: 'All set alike. The first gap is the switch of the rig. Empty: worked out from spacing and diameter.',
    }),
    dg: ofGeometry('dg', 'Spacing, later gaps', 'To work out their self-break.', 1),
    Dg: ofGeometry('Dg', 'Sphere diameter', 'From 5 mm to 2 m.', 2),
    pg: quantity('Pressure in the column, gauge', 'Pa', within(0, 5e6), '0 kPa'),
    sc: quantity('Scatter of these gaps', '1', within(0, 0.5), '3 %', { symbol: 'σ' }),
    Ra: quantity('Resistance of an arc', 'Ω', within(0, 1e6), '1 Ω ±50 %', { tolerance: true }),
    ESR: quantity('ESR of a stage capacitor', 'Ω', within(0, 1e7), '0.5 Ω ±50 %', { tolerance: true }),
    L: quantity('Inductance of a stage with its gap', 'H', above(0, 1), '150 nH ±20 %', {
      symbol: 'Ls',
      tolerance: true,
      help: 'Every stage, including the first; the switch of the rig adds its own.',
    }),
    Lo: quantity('Inductance of the output lead', 'H', above(0, 1), null, {
      tolerance: true,
      help: 'From the last gap to the terminal: about 1 µH a metre. Empty: none.',
    }),
    Rf: quantity('Front resistor of a stage', 'Ω', above(0, 1e9), null, { tolerance: true }),
    lf: bodyLength('lf', 'Length of a front resistor'),
    Rt: quantity('Tail resistor of a stage', 'Ω', above(0, 1e12), null, { tolerance: true }),
    lt: bodyLength('lt', 'Length of a tail resistor'),
    Cs: quantity('Stray capacitance of a stage to earth', 'F', above(0, 1e-6), '8 pF', {
      optional: true,
      help: 'It helps the first gaps fire and costs output. Empty: estimated from height and width of a stage, if given.',
    }),
    hs: ofGeometry('hs', 'Height of a stage', 'From one stage to the next.'),
    ws: ofGeometry('ws', 'Width of a stage', 'Its metal, taken as a round rod.'),
    Cg: quantity('Stray capacitance across a gap', 'F', above(0, 1e-6), null, {
      help: 'It holds the next gap back. Empty: from sphere spacing and diameter, if given.',
    }),
    CL: quantity('Capacitance of terminal and leads to earth', 'F', above(0, 1e-3), null, {
      help: 'In addition to a capacitive load.',
    }),
    rt: quantity('Radius of the terminal', 'm', above(0, 10), null, {
      help: 'Sphere on top, or the sharpest edge there.',
    }),
    Vw: rating('DC rating of the output lead', 'V', 1e8, { help: 'Of its insulation to whatever it passes.' }),
    Ri: insulationField('Insulation of a stage capacitor'),
    Cm: {
      type: 'lines',
      title: 'Measured, stage by stage',
      initial: '',
      check: (text) => {
        const read = readStages(text);
        return read.ok ? null : read.reason;
      },
      help: 'From the supply upwards: "2.71 nF, 2.64 nF, …", one for each stage. It stands in place of the capacitance above: the closed forms take its mean, the solver each.',
    } satisfies LinesField,
    dielectric: dielectricField,
  },
  { essentials: ['Vg'], geometry: ['polarity', 'towers'], life: ['Nr', 'nl'] },
);
