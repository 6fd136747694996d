import { quantity, rating, above, fields } from '../../field/index.ts';
import {
  chargeFormulas,
  coilFormulas,
  meterFormulas,
  probeFormulas,
  transferFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage } from '../../block/goal.ts';
import { meterLeftOn, meterOffer, verifySteps } from './shared.ts';
import { dividerGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'meter/divider': typeof dividerFields;
  }
  interface FigureIds {
    'divider-ratio': true;
    'divider-reading': true;
    'divider-bandwidth': true;
    'divider-fast-ratio': true;
    'divider-compensation': true;
    'divider-ringing': true;
  }
}

const ratio = (own: Own<typeof dividerFields>): Worked =>
  work(
    meterFormulas.dividerRatio,
    { R1: own.quantity('R1'), R2: own.quantity('R2'), Rm: own.quantity('Rm') },
    'ratio of the divider',
  );
const foot = (own: Own<typeof dividerFields>): Worked =>
  work(chargeFormulas.parallelResistance, { R1: own.quantity('R2'), R2: own.quantity('Rm') }, 'foot with the meter across it');
const reading = (rig: RigContext): Worked =>
  work(
    chargeFormulas.loadedSupplyVoltage,
    { Vs: rig.offer('chargedTo'), R: rig.own('meter').quantity('R1'), Rb: foot(rig.own('meter')) },
    'voltage at the meter',
  );

const dividerFields = fields({
  R1: quantity('Upper resistance', 'Ω', above(0, 1e13), '1 GΩ ±2 %', { tolerance: true }),
  R2: quantity('Foot resistance', 'Ω', above(0, 1e12), '1 MΩ ±1 %', { tolerance: true }),
  Rm: quantity('Input resistance of its meter', 'Ω', above(0, 1e15), '10 MΩ', {
    tolerance: true,
    help: 'A probe made for 10 MΩ reads wrong on any other meter.',
  }),
  V: quantity('Maximum input voltage', 'V', above(0, 1e7), '6 kV', { symbol: 'Vm', ofOneThing: true }),
  Vf: rating('Maximum input voltage of its meter', 'V', 1e5),
  Cs: quantity('Capacitance of its foot', 'F', above(0, 1e-3), '100 pF', {
    tolerance: true,
    help: 'Cable, input and what was added. Without one across the upper arm this makes it slow.',
  }),
  C1: quantity('Capacitance of its upper arm', 'F', above(0, 1e-3), null, {
    tolerance: true,
    help: 'Of a compensated divider: built in, or along the string of resistors. Empty: not compensated.',
  }),
  Ld: quantity('Inductance of its loop', 'H', above(0, 1), null, {
    help: 'Column and leads, about 1 µH a metre: with its capacitances it rings above this bandwidth.',
  }),
});

/** How far the fast ratio may be from the slow one before it is said. Common practice, no source. */
const mismatch = 0.02;

/** A divider whose arms have different time constants shows a step wrong at first, and slowly comes to what is true. */
function compensationProblem(own: Own<typeof dividerFields>, rig: RigContext): Problem[] {
  if (!own.optional('C1')) return [];
  const off = rig.figure('divider-fast-ratio').value / ratio(own).value - 1;
  if (Math.abs(off) < mismatch) return [];
  const text = `It shows a fast edge ${printPercent(Math.abs(off), 2)} too ${off > 0 ? 'low' : 'high'}: its foot has ${printQuantity(own.quantity('Cs').value, 'F')}, and ${printQuantity(rig.figure('divider-compensation').value, 'F')} compensate it.`;
  return [{ severity: 'warning', slot: 'meter', field: 'Cs', text }];
}

export const divider = defineBlock({
  slot: 'meter',
  kind: 'divider',
  title: 'Divider or high-voltage probe',
  glyph: () => dividerGlyph,
  fields: dividerFields,
  key: (own) => ({ text: `${Math.round(ratio(own).value).toString()} : 1` }),
  offers: (own) =>
    meterOffer(() => work(chargeFormulas.seriesSum, { R1: own.quantity('R1'), R2: foot(own) }, 'resistance of the divider')),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R1').value + foot(own).value },
      says: 'divider with its meter',
      leftOut: { what: 'the meter', instead: 'open' },
    },
  ],
  faults: (own, _rig, { plus, minus, tag }) => [
    {
      id: 'foot-open',
      title: 'The foot of the divider is open',
      moment: 'bleed',
      says: 'What is left below the upper resistance is the input of its meter alone: it sees far more than its share, through a resistor that limits the current and nothing else.',
      circuit: (parts) => [
        ...parts.filter(({ slot }) => slot !== 'meter'),
        {
          slot: 'meter',
          element: { kind: 'resistor', name: `R${tag}1`, nodes: [plus, `${tag}in`], R: own.quantity('R1').value },
          says: 'upper resistance of the divider',
        },
        {
          slot: 'meter',
          element: { kind: 'resistor', name: `R${tag}2`, nodes: [`${tag}in`, minus], R: own.quantity('Rm').value },
          says: 'input of its meter alone',
        },
      ],
      strays: [{ title: 'At the input of its meter', node: `${tag}in`, rating: own.optional('Vf') }],
    },
  ],
  figures: [
    { id: 'divider-ratio', title: 'Ratio of the divider', slot: 'meter', compute: (rig) => ratio(rig.own('meter')) },
    { id: 'divider-reading', title: 'Its meter shows, at the charge voltage', slot: 'meter', compute: reading },
    {
      id: 'divider-bandwidth',
      title: 'Bandwidth of the divider, not compensated',
      slot: 'meter',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('meter');
        if (own.optional('C1')) throw new Unavailable('meter', 'it is compensated', 'C1');
        const R = work(chargeFormulas.parallelResistance, { R1: own.quantity('R1'), R2: foot(own) }, 'resistance at the foot');
        return work(meterFormulas.cornerFrequency, { R, C: own.quantity('Cs') });
      },
    },
    {
      id: 'divider-fast-ratio',
      title: 'Ratio of the divider at once, by its capacitances',
      slot: 'meter',
      mayBeMissing: true,
      compute: (rig) =>
        work(probeFormulas.capacitiveRatio, { C1: rig.own('meter').quantity('C1'), C2: rig.own('meter').quantity('Cs') }),
    },
    {
      id: 'divider-compensation',
      title: 'Capacitance of its foot that compensates it',
      slot: 'meter',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('meter');
        return work(probeFormulas.compensatingCapacitance, { R1: own.quantity('R1'), C1: own.quantity('C1'), R2: foot(own) });
      },
    },
    {
      id: 'divider-ringing',
      title: 'The divider rings at',
      slot: 'meter',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('meter');
        const C = work(
          transferFormulas.loopOfTwoCapacitors,
          { C1: own.quantity('C1'), C2: own.quantity('Cs') },
          'capacitance of both arms in series',
        );
        return work(coilFormulas.selfResonance, { L: own.quantity('Ld'), C }, 'ring of the divider');
      },
    },
  ],
  limits: [
    {
      id: 'meter-maximum',
      title: 'Divider',
      slot: 'meter',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('meter').quantity('V'),
      levers: ['meter.V', 'store.V0'],
      protects: true,
    },
    {
      id: 'divider-meter',
      title: 'Meter of the divider',
      slot: 'meter',
      stress: reading,
      rating: (rig) => rig.own('meter').optional('Vf'),
      levers: ['meter.R2'],
      onlyIfKnown: true,
    },
  ],
  problems: (own, rig) => [
    ...compensationProblem(own, rig),
    ...meterLeftOn(rig, own.quantity('V').value, 'V'),
    {
      severity: 'warning',
      slot: 'meter',
      field: 'R2',
      text: 'If the foot opens, the meter sees the whole voltage: fit a spark gap or a suppressor across the foot, and connect its earth lead first.',
    },
  ],
  instruments: (own) => [
    { name: 'divider with its meter', at: 'bank', most: own.quantity('V').value, R: own.quantity('R1').value + foot(own).value },
  ],
  steps: (own, rig) => [
    {
      id: 'meter-check',
      phase: 'instruments',
      does: 'prove',
      text: `Divider for ${printQuantity(own.quantity('V').value, 'V', { trim: true })}, its earth lead on first, its meter on a range above ${printQuantity(reading(rig).value, 'V')}. Prove both on a known voltage.`,
      expect: [
        { label: 'Its meter shows, fully charged', worked: rig.figure('divider-reading'), print: 'quantity', use: 'nominal' },
      ],
      hold: 'Divider and meter have shown a known voltage.',
      caution: `No meter directly on this bank: a meter not rated for ${printQuantity(highestVoltage(rig), 'V')} can fail, read zero, or burn.`,
    },
    ...verifySteps(
      rig,
      'Read the divider across the bank’s own terminals and multiply; then use a hand meter, once the divider reads low enough for it.',
    ),
  ],
});
