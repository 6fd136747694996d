import { choice, quantity, within } from '../../field/index.ts';
import { labelled } from './fields.ts';
import { definePartKind } from './define.ts';

// Kinds whose readings speak for themselves: no verdict is proposed.

export const sparkGap = definePartKind({
  kind: 'spark-gap',
  title: 'Spark gap',
  prefix: 'G',
  shows: ['d', 'V'],
  holdsCharge: false,
  fields: {
    V: labelled('Vbd', 'Self-break voltage', 'V', 1e7, { tolerance: true }),
    d: labelled('d', 'Spacing', 'm', 10),
    D: labelled('D', 'Sphere diameter', 'm', 10),
    Q: labelled('Q', 'Charge per shot, rating', 'C', 1e6),
  },
  measures: [
    {
      id: 'self-break',
      title: 'Self-break voltage',
      unit: 'V',
      min: 100,
      max: 1e7,
      field: 'V',
      how: 'Raise the voltage slowly behind a large resistor; twenty times, for the scatter.',
    },
  ],
  cautions: ['A gap in gas under pressure is a pressure vessel: never above what its maker or its test allows.'],
});

export const inductor = definePartKind({
  kind: 'inductor',
  title: 'Inductor or choke',
  prefix: 'L',
  shows: ['L'],
  holdsCharge: false,
  fields: {
    L: labelled('L', 'Inductance', 'H', 1e6, { tolerance: true }),
    R: labelled('R', 'Resistance', 'Ω', 1e6, { tolerance: true }),
    I: labelled('Isat', 'Saturation current', 'A', 1e6),
    V: labelled('Vins', 'Insulation voltage', 'V', 1e7),
  },
  measures: [
    {
      id: 'inductance',
      title: 'Inductance',
      unit: 'H',
      min: 1e-12,
      max: 1e6,
      field: 'L',
      at: 'frequency',
      how: 'Bridge, series model, core at rest.',
    },
    { id: 'resistance', title: 'Resistance', unit: 'Ω', min: 1e-6, max: 1e6, field: 'R', how: 'Four wires below an ohm.' },
  ],
  cautions: ['Interrupt the current of a choke and its voltage rises until something breaks down.'],
});

export const transformer = definePartKind({
  kind: 'transformer',
  title: 'Transformer or supply',
  prefix: 'X',
  shows: ['I'],
  holdsCharge: false,
  fields: {
    output: choice('Gives', { ac: 'AC voltage', dc: 'DC voltage' }),
    V: labelled('V', 'Output voltage', 'V', 1e7, { tolerance: true, help: 'Rms of a transformer, direct of a supply.' }),
    I: labelled('I', 'Output current', 'A', 1e5),
    R: labelled('Ri', 'Internal resistance', 'Ω', 1e9),
  },
  measures: [
    {
      id: 'voltage',
      title: 'Output voltage, no load',
      unit: 'V',
      min: 1e-3,
      max: 1e7,
      field: 'V',
      how: 'Meter and probe rated for it, clipped on before it is switched on.',
    },
    { id: 'winding', title: 'Winding resistance', unit: 'Ω', min: 1e-6, max: 1e9, how: 'Unplugged, ohmmeter.' },
  ],
  cautions: ['Oven and neon transformers kill without any capacitor: unplug, and look at the plug, before every touch.'],
});

export const wire = definePartKind({
  kind: 'wire',
  title: 'Wire or former',
  prefix: 'W',
  shows: ['d', 'length'],
  holdsCharge: false,
  fields: {
    d: { ...labelled('d', 'Conductor diameter', 'm', 1), wire: true },
    length: labelled('l', 'Length', 'm', 1e6),
    V: labelled('Vins', 'Insulation voltage', 'V', 1e7),
  },
  measures: [{ id: 'resistance', title: 'Resistance', unit: 'Ω', min: 1e-6, max: 1e6, how: 'Of the whole length, four wires.' }],
  cautions: [],
});

export const instrument = definePartKind({
  kind: 'meter',
  title: 'Meter or probe',
  prefix: 'M',
  shows: ['R'],
  holdsCharge: false,
  fields: {
    V: labelled('Vm', 'Maximum input voltage', 'V', 1e7, { help: 'The lowest of its range, its category and its leads.' }),
    R: labelled('Rm', 'Input resistance', 'Ω', 1e15),
    error: quantity('Error', '1', within(0, 1), null, { symbol: 'e' }),
  },
  measures: [
    {
      id: 'check',
      title: 'Reading of a known voltage',
      unit: 'V',
      min: 1e-6,
      max: 1e7,
      at: 'voltage',
      how: 'A source proved with another meter, before each session.',
    },
  ],
  cautions: ['A hand meter above its rating can fail showing zero, which is worse than no reading.'],
});

/** What has no kind here: a pump, a gauge, a bottle. What it is, a person writes. */
export const other = definePartKind({
  kind: 'other',
  title: 'Something else',
  prefix: 'Z',
  shows: ['V'],
  // Nobody here knows what it is: what may hold a charge is treated as if it did.
  holdsCharge: true,
  fields: {
    V: labelled('V', 'Voltage rating', 'V', 1e7),
    I: labelled('I', 'Current rating', 'A', 1e8),
  },
  measures: [
    {
      id: 'resistance',
      title: 'Resistance',
      unit: 'Ω',
      min: 1e-6,
      max: 1e15,
      how: 'Between its terminals, once it is discharged.',
    },
  ],
  cautions: ['Treat it as charged and as live until a meter rated for it says otherwise.'],
});
