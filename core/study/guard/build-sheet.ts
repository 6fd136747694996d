import { highestVoltage, type FigureId } from '../../block/index.ts';
import { figureIn, type Evaluation } from '../../evaluation/index.ts';
import { evaluateFormula, fuseFormulas } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';

/** A conductor to be put in, with what it carries. */
export interface Wire {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  /** V that its insulation stands, A, and A²s of a pulse; null where it carries no pulse worth the name. */
  readonly V: number;
  readonly I: number | null;
  readonly action: number | null;
  /** m² of copper that the pulse warms to 80 °C, and the next section that is made. */
  readonly section: number | null;
  readonly made: number | null;
  readonly note: string;
}

export interface BuildSheet {
  readonly wires: readonly Wire[];
  /** m along a clean surface between live and earth. */
  readonly creepage: number;
  /** m through air at the least. */
  readonly clearance: number;
  readonly labels: readonly string[];
  readonly earth: readonly string[];
  readonly checks: readonly string[];
}

/** m²: sections that conductors are made in. Source: IEC 60228; from memory. */
const sections = [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120, 150, 185, 240, 300].map((mm2) => mm2 * 1e-6);
/** The least that is put in, for its strength. Common practice, no source. */
const least = 0.75e-6;
/** H of a metre of lead. Common practice, no source. */
const leadInductance = 1e-6;
/** V/m along a clean dry surface. Common practice, no source: 1 kV/cm. */
const surface = 100e3;

/** What is wired, labelled, earthed and checked, from the worst corner of a rig. */
export function buildSheet(name: string, evaluation: Evaluation): BuildSheet {
  const reading = evaluation.corners.nominal();
  const V = highestVoltage(reading);
  const most = (id: FigureId): number | null => figureIn(evaluation, id)?.band.high ?? null;
  const wire = (id: string, from: string, to: string, I: number | null, action: number | null, note: string): Wire => {
    const section =
      action === null || action <= 0
        ? null
        : evaluateFormula(fuseFormulas.conductorSection, { A: action, T1: 293.15, T2: 353.15 });
    const wanted = Math.max(section ?? 0, least);
    return { id, from, to, V, I, action, section, made: sections.find((one) => one >= wanted) ?? null, note };
  };
  const bleeder = reading.offers('bleeder').bleedResistance;
  const dump = reading.offers('dump').dumpResistance;
  const V0 = reading.offer('chargedTo').value;
  // Of a discharge into R all of the energy is R·∫i²dt.
  const through = (R: number) => (most('stored-energy') ?? 0) / R;
  const [peak, action] = [most('peak-current'), most('action-integral')];
  const wires = [
    wire(
      'charge',
      'supply',
      'charging path, store',
      most('charging-current'),
      null,
      'insulated for the whole voltage, apart from the discharge loop',
    ),
    wire(
      'loop',
      'store',
      'switch',
      peak,
      action,
      'broad and close to its return: the two repel each other; lashed every hand’s breadth',
    ),
    wire('load', 'switch', 'load, and back to the store', peak, action, 'no ferrules alone: lugs pressed and bolted'),
    ...(bleeder
      ? [
          wire(
            'bleeder',
            'store',
            'bleeder, across the terminals themselves',
            V / bleeder.value,
            null,
            'its own leads, no plug, nothing in between',
          ),
        ]
      : []),
    ...(dump
      ? [
          wire(
            'dump',
            'store',
            'dump, across the terminals themselves',
            V / dump.value,
            through(dump.value),
            'its own leads, apart from those of the bleeder',
          ),
        ]
      : []),
    wire('earth', 'return of the store', 'the one earth', peak, action, 'carries all of it when something flashes over'),
    wire('strap', 'strap', 'terminals of the store', null, null, 'visible, bolted at one end, long enough to lie without pull'),
  ];
  const goal = printQuantity(V0, 'V');
  const rise = most('peak-di-dt');
  // Never more than what drives the loop.
  const step = rise === null ? null : Math.min(V0, rise * leadInductance);
  const E = most('stored-energy');
  return {
    wires,
    creepage: V / surface,
    clearance: Math.max(3e-3, V / 1e6),
    labels: [
      `${name}: ${E === null ? 'stored energy not known' : printQuantity(E, 'J')} at ${goal}. Can be charged with everything off.`,
      `Bleeder: ${bleeder ? `${printQuantity(bleeder.value, 'Ω')}; wait for the time on the run sheet, then meter, stick, strap` : 'none'}.`,
      ...(dump ? [`Dump: ${printQuantity(dump.value, 'Ω')}; falls in when its power is cut.`] : []),
      `Meter: for more than ${printQuantity(V, 'V')}.`,
      'Strap here. Off last, on first.',
      'Earth: do not open while anything is charged.',
    ],
    earth: [
      'One star point: return of the store, chassis, guard, cable screens, each by its own lead.',
      'From the star point one lead to the earth of the room, not by the plug of an instrument.',
      'Nothing else joins earth: an instrument in the discharge loop floats, or is isolated.',
      ...(step === null
        ? []
        : [
            `At the shot each metre of a lead that the loop shares, about 1 µH, jumps by up to ${printQuantity(step, 'V')} at the first instant: what is tied to its two ends is not at one potential.`,
          ]),
      `Everything on the live side floats at up to ${printQuantity(V, 'V')}: the drive of the switch, the levels between capacitors in series, whatever is clipped to them.`,
      'Below 0.1 Ω from every metal part that can be touched to the star point, read with the strap on.',
    ],
    checks: [
      'Torque of each terminal as its data sheet has it; where it has none, bolts and nuts by the test torques of IEC 60947-1 (from memory): M5 2 N·m, M6 3 N·m, M8 6 N·m, M10 10 N·m, M12 14 N·m. Marked with paint once set: a loose joint in the loop welds or burns.',
      `Along a surface at least ${printQuantity(V / surface, 'm')}, through air at least ${printQuantity(Math.max(3e-3, V / 1e6), 'm')}, between live and everything else; dirt and edges ask for more.`,
      'Every lead of the loop pulled on by hand, with the strap on.',
      'Insulation of the charging lead tried at the full voltage behind a megohm, before the store is connected.',
    ],
  };
}
