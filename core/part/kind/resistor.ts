import { printPercent } from '../../quantity/index.ts';
import { labelled } from './fields.ts';
import { definePartKind, type PartReading, type Verdict } from './define.ts';

/** Common practice, no source: a pulse resistor that has drifted this far has been overloaded. */
const [drift, gone] = [0.1, 0.5];

function verdict(part: PartReading): Verdict | null {
  const R = part.measured('resistance');
  if (!R || R.fromLabel === null) return null;
  const off = Math.abs(R.fromLabel);
  const words = `it measures ${printPercent(off, 2)} ${R.fromLabel > 0 ? 'above' : 'below'} its label`;
  if (off > gone) return { condition: 'failed', reason: words };
  if (off > drift) return { condition: 'suspect', reason: words };
  return { condition: 'good', reason: 'its resistance is as it should be' };
}

export const resistor = definePartKind({
  kind: 'resistor',
  title: 'Resistor',
  prefix: 'R',
  shows: ['R'],
  holdsCharge: false,
  fields: {
    R: labelled('R', 'Resistance', 'Ω', 1e15, { tolerance: true }),
    P: labelled('P', 'Power', 'W', 1e6),
    E: labelled('Ep', 'Pulse energy', 'J', 1e9),
    V: labelled('Vr', 'Working voltage', 'V', 1e6, { help: 'A small resistor takes far less than its power would allow.' }),
    length: labelled('l', 'Body length', 'm', 10),
  },
  measures: [
    {
      id: 'resistance',
      title: 'Resistance',
      unit: 'Ω',
      min: 1e-6,
      max: 1e15,
      field: 'R',
      how: 'Ohmmeter, leads nulled; above some megohms an insulation tester.',
    },
  ],
  cautions: ['A resistor taken out of a capacitor’s case may have broken with it: measure it before you rely on it.'],
  verdict,
});
