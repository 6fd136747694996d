import { printQuantity } from '../../quantity/index.ts';
import { labelled } from './fields.ts';
import { definePartKind, type Measure, type PartReading, type Verdict } from './define.ts';

const forwardDrop: Measure = {
  id: 'forward-drop',
  title: 'Forward drop',
  unit: 'V',
  min: 1e-3,
  max: 1e3,
  field: 'VT',
  at: 'current',
  how: 'Diode test, or a bench supply with a limit on its current.',
};
const blocking: Measure = {
  id: 'leakage',
  title: 'Leakage in blocking direction',
  unit: 'A',
  min: 1e-12,
  max: 10,
  at: 'voltage',
  how: 'Insulation tester or a supply through a large resistor, up to the voltage it is to block.',
};

/** Leakage, A, above which a power semiconductor is suspect, and failed. Common practice, no source. */
const [leaky, shorted] = [1e-3, 0.1];

function verdict(part: PartReading): Verdict | null {
  const [drop, leak] = [part.measured('forward-drop'), part.measured('leakage')];
  if (leak && leak.high > shorted)
    return { condition: 'failed', reason: `it passes ${printQuantity(leak.high, 'A')} where it should block` };
  if (drop && drop.mean < 0.1)
    return { condition: 'failed', reason: `its forward drop is ${printQuantity(drop.mean, 'V')}: it is shorted` };
  if (leak && leak.high > leaky) return { condition: 'suspect', reason: `it leaks ${printQuantity(leak.high, 'A')}` };
  return drop && leak ? { condition: 'good', reason: 'it conducts one way and blocks the other' } : null;
}

const ratings = {
  V: labelled('VRRM', 'Blocking voltage', 'V', 1e6, { help: 'Repetitive peak, forward and reverse.' }),
  Iavg: labelled('Iav', 'Mean current', 'A', 1e5),
  Isurge: labelled('ITSM', 'Surge current, one half cycle', 'A', 1e8),
  A: labelled('I²t', 'Action rating (I²t)', 'A²s', 1e15),
};

export const diode = definePartKind({
  kind: 'diode',
  title: 'Diode',
  prefix: 'D',
  shows: ['Iavg', 'Isurge'],
  holdsCharge: false,
  fields: { ...ratings, VT: labelled('VF', 'Forward drop', 'V', 1e4) },
  measures: [forwardDrop, blocking],
  cautions: ['Diodes in a stack need sharing resistors: one that blocks alone takes all of the voltage.'],
  verdict,
});

export const thyristor = definePartKind({
  kind: 'thyristor',
  title: 'Thyristor or other switch',
  prefix: 'T',
  shows: ['Iavg', 'Isurge'],
  holdsCharge: false,
  fields: {
    ...ratings,
    VT: labelled('VT', 'Threshold voltage', 'V', 1e4),
    rT: labelled('rT', 'Slope resistance', 'Ω', 1e3),
    S: labelled('S', 'di/dt', 'A/s', 1e15),
    IGT: labelled('IGT', 'Gate current to fire', 'A', 1e3),
  },
  measures: [
    forwardDrop,
    blocking,
    {
      id: 'gate',
      title: 'Gate current to fire',
      unit: 'A',
      min: 1e-6,
      max: 1e3,
      field: 'IGT',
      how: 'A few volts through a lamp on the anode; raise the gate current until it latches.',
    },
  ],
  cautions: ['Pressed packages block and conduct as rated only under their clamping force.'],
  verdict,
});
