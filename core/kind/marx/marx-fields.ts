import { dielectricField } from '../bank/dielectric-field.ts';
import { insulationField } from '../bank/insulation-field.ts';
import { quantity, rating, type LinesField } from '../../field/index.ts';
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

const bodyLength = (symbol: string, title: string) =>
  quantity({ symbol, title, unit: 'm', min: 0, max: 10, open: true, initial: null, optional: true });
const ofGeometry = (symbol: string, title: string, help: string, max = 10) =>
  quantity({ symbol, title, unit: 'm', min: 0, max, open: true, initial: null, optional: true, help });

/** Fields of a Marx generator. */
export const marxFields = {
  towers: {
    type: 'choice',
    title: 'Towers',
    initial: 'one',
    options: [
      { value: 'one', title: 'one' },
      { value: 'two', title: 'two, + and −' },
    ],
    help: 'Two: each with its own supply, charging path, first gap, bleeder and meter like the other’s, the load between their tops. Each top then has half the voltage to earth, and less is lost to corona.',
  },
  polarity: {
    type: 'choice',
    title: 'Polarity of the first tower',
    initial: 'positive',
    options: [
      { value: 'positive', title: 'positive' },
      { value: 'negative', title: 'negative' },
    ],
    help: 'That of its supply: the output comes out with it. Corona and long sparks begin sooner from a positive top.',
  },
  n: quantity({
    symbol: 'n',
    title: 'Stages of a tower',
    unit: '1',
    min: 1,
    max: mostStages,
    integer: true,
    initial: '6',
  }),
  C: quantity({
    symbol: 'C',
    title: 'Capacitance of a stage',
    unit: 'F',
    min: 0,
    max: 1,
    open: true,
    initial: '3.3 nF ±10 %',
    tolerance: true,
    help: 'Measured if you can.',
  }),
  V0: quantity({
    symbol: 'V0',
    title: 'Stages charged to',
    unit: 'V',
    min: 0,
    max: 1e6,
    open: true,
    initial: '12 kV ±2 %',
    tolerance: true,
  }),
  Vr: rating('Vr', 'Dc rating of a stage capacitor', 'V', 1e6),
  ...lifeFields,
  Rc: quantity({
    symbol: 'Rc',
    title: 'Charging resistor, each side of a stage',
    unit: 'Ω',
    min: 0,
    max: 1e12,
    open: true,
    initial: '1.5 MΩ ±5 %',
    tolerance: true,
    help: 'Of chokes the resistance of their winding. As much as both sides of a stage stands before the first.',
  }),
  Lc: quantity({
    symbol: 'Lc',
    title: 'Charging choke, each side of a stage',
    unit: 'H',
    min: 0,
    max: 1e4,
    open: true,
    initial: null,
    optional: true,
    help: 'Where chokes stand in the place of charging resistors. Empty: resistors.',
  }),
  lc: quantity({
    symbol: 'lc',
    title: 'Length of a charging resistor or choke',
    unit: 'm',
    min: 0,
    max: 10,
    open: true,
    initial: null,
    optional: true,
    help: 'End to end, along which an arc would run.',
  }),
  lb: bodyLength('lb', 'Length of a capacitor, terminal to terminal'),
  Es: surfaceField,
  Vg: quantity({
    symbol: 'Vg',
    title: 'Self-break of the gaps behind the first',
    unit: 'V',
    min: 0,
    max: 1e7,
    open: true,
    initial: '16 kV',
    optional: true,
    help: 'All set alike. The first gap is the switch of the rig. Empty: worked out from spacing and diameter.',
  }),
  dg: ofGeometry('dg', 'Spacing of the gaps behind the first', 'Where their self-break is to be worked out.', 1),
  Dg: ofGeometry('Dg', 'Diameter of their balls', 'From 5 mm to 2 m.', 2),
  pg: quantity({
    symbol: 'pg',
    title: 'Pressure in the column, above the air outside',
    unit: 'Pa',
    min: 0,
    max: 5e6,
    initial: '0 kPa',
  }),
  sc: quantity({ symbol: 'σ', title: 'Scatter of these gaps', unit: '1', min: 0, max: 0.5, initial: '3 %' }),
  Ra: quantity({
    symbol: 'Ra',
    title: 'Resistance of an arc',
    unit: 'Ω',
    min: 0,
    max: 1e6,
    initial: '1 Ω ±50 %',
    tolerance: true,
  }),
  ESR: quantity({
    symbol: 'ESR',
    title: 'ESR of a stage capacitor',
    unit: 'Ω',
    min: 0,
    max: 1e7,
    initial: '0.5 Ω ±50 %',
    tolerance: true,
  }),
  L: quantity({
    symbol: 'Ls',
    title: 'Inductance of a stage with its gap',
    help: 'Of each stage, the first among them; the switch of the rig adds its own.',
    unit: 'H',
    min: 0,
    max: 1,
    open: true,
    initial: '150 nH ±20 %',
    tolerance: true,
  }),
  Lo: quantity({
    symbol: 'Lo',
    title: 'Inductance of the output lead',
    unit: 'H',
    min: 0,
    max: 1,
    open: true,
    initial: null,
    optional: true,
    tolerance: true,
    help: 'From the last gap to the terminal: about 1 µH a metre. Empty: none.',
  }),
  Rf: quantity({
    symbol: 'Rf',
    title: 'Front resistor of a stage',
    unit: 'Ω',
    min: 0,
    max: 1e9,
    open: true,
    initial: null,
    optional: true,
    tolerance: true,
  }),
  lf: bodyLength('lf', 'Length of a front resistor'),
  Rt: quantity({
    symbol: 'Rt',
    title: 'Tail resistor of a stage',
    unit: 'Ω',
    min: 0,
    max: 1e12,
    open: true,
    initial: null,
    optional: true,
    tolerance: true,
  }),
  lt: bodyLength('lt', 'Length of a tail resistor'),
  Cs: quantity({
    symbol: 'Cs',
    title: 'Stray capacitance of a stage to earth',
    unit: 'F',
    min: 0,
    max: 1e-6,
    open: true,
    initial: '8 pF',
    optional: true,
    help: 'It helps the first gaps and takes from the output. Empty: estimated from height and width of a stage, where those are given.',
  }),
  hs: ofGeometry('hs', 'Height of a stage', 'From one stage to the next.'),
  ws: ofGeometry('ws', 'Width of a stage', 'Of its metal, as if it were a round rod.'),
  Cg: quantity({
    symbol: 'Cg',
    title: 'Stray capacitance across a gap',
    unit: 'F',
    min: 0,
    max: 1e-6,
    open: true,
    initial: null,
    optional: true,
    help: 'It holds the next gap back. Empty: that of the balls, where their spacing and diameter are given.',
  }),
  CL: quantity({
    symbol: 'CL',
    title: 'Capacitance of terminal and leads to earth',
    unit: 'F',
    min: 0,
    max: 1e-3,
    open: true,
    initial: null,
    optional: true,
    help: 'Beside that of a load which is a capacitor itself.',
  }),
  rt: quantity({
    symbol: 'rt',
    title: 'Radius of the terminal',
    unit: 'm',
    min: 0,
    max: 10,
    open: true,
    initial: null,
    optional: true,
    help: 'Of the ball on top, or of the sharpest edge there.',
  }),
  Vw: rating('Vw', 'Dc rating of the output lead', 'V', 1e8, 'Of its insulation to what it passes.'),
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
} as const;
