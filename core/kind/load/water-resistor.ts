import { above, choiceOf, fields, onlyWith, quantity, rating, within } from '../../field/index.ts';
import {
  dischargeFormulas,
  meterFormulas,
  ruled,
  solutionFormulas,
  sourceFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { conductivityOf, solutionById, solutions } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { waterResistorGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/water-resistor': typeof waterResistorFields;
  }
  interface FigureIds {
    'load-energy': true;
    'column-resistance': true;
    'column-voltage': true;
    'column-field': true;
    'column-warming': true;
  }
}

const waterResistorFields = fields({
  salt: choiceOf('Filling', [...solutions, { id: 'measured', title: 'measured resistivity' }], 'copper-sulphate'),
  x: onlyWith(
    'salt',
    ['copper-sulphate', 'salt'],
    quantity('Share by mass', '1', above(0, 0.15), '1 %', {
      tolerance: true,
      help: 'Grams of anhydrous salt in 100 g of solution; of blue crystals (the pentahydrate) 1.56 times as much.',
    }),
  ),
  rho: onlyWith(
    'salt',
    ['measured'],
    quantity('Resistivity at 20 °C', 'Ω·m', within(1e-3, 1e6), null, {
      symbol: 'ρ',
      tolerance: true,
      help: 'From resistance, length and bore, measured with alternating current: direct current polarises the electrodes.',
    }),
  ),
  l: quantity('Length of the column', 'm', above(0, 100), '40 cm', { tolerance: true, help: 'Between the electrodes.' }),
  d: quantity('Inner diameter of the tube', 'm', above(0, 10), '30 mm'),
  T: quantity('Temperature', 'K', within(274, 372), '20 °C'),
  L: quantity('Inductance with leads', 'H', within(0, 1), '500 nH ±50 %', { tolerance: true, help: 'About 1 µH a metre.' }),
  Es: quantity('Permissible field along it', 'V/m', above(0, 1e9), '500 V/mm', {
    help: 'Common practice, no source: 500 V/mm for microseconds, less for longer; bubbles take most of it.',
  }),
  dTr: rating('Permissible rise by one shot', 'K', 90, {
    symbol: 'ΔTr',
    help: 'Each kelvin lowers the resistance by 2 %; some 20 K are usual, and far below boiling.',
  }),
});

type Column = Own<typeof waterResistorFields>;

/** Resistivity of its filling at 20 °C, by its table or as measured. @throws Unavailable above the table, or where it is empty */
function resistivityOf(own: Column): Worked {
  if (own.is('salt', 'measured')) return own.quantity('rho');
  const solution = solutionById(own.choice('salt'));
  const conductivity = solution && conductivityOf(solution, own.quantity('x').value);
  if (!solution || conductivity === null) throw new Unavailable('load', 'the table of its filling ends at 15 % by mass', 'x');
  return ruled(`resistivity of ${solution.title}`, 1 / conductivity, 'Ω·m', solution.source);
}

const resistance = (own: Column): Worked =>
  work(solutionFormulas.columnResistance, {
    rho: resistivityOf(own),
    l: own.quantity('l'),
    d: own.quantity('d'),
    T: own.quantity('T'),
  });

const across = (rig: RigContext): Worked =>
  work(
    meterFormulas.shuntVoltage,
    { I: rig.figure('peak-current'), R: rig.figure('column-resistance') },
    'voltage along it at the peak',
  );

export const waterResistor = defineBlock({
  slot: 'load',
  kind: 'water-resistor',
  title: 'Water resistor',
  glyph: () => waterResistorGlyph,
  fields: waterResistorFields,
  key: (own) => ({ text: printQuantity(resistance(own).value, 'Ω') }),
  offers: (own) => ({ loopResistance: resistance(own), loopInductance: own.quantity('L') }),
  circuit: (own, _rig, { plus, minus, tag }) => {
    const [R, L] = [resistance(own).value, own.quantity('L').value];
    return [
      {
        element:
          L > 0
            ? { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L, R }
            : { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R },
        says: 'water resistor with its inductance, cold',
      },
    ];
  },
  leavesOut: () => 'its resistance falls by 2 % for each kelvin that the shot warms it: it stays as it is cold',
  figures: [
    { id: 'column-resistance', title: 'Resistance of the column', slot: 'load', compute: (rig) => resistance(rig.own('load')) },
    { id: 'column-voltage', title: 'Voltage along it at the peak', slot: 'load', compute: across },
    {
      id: 'column-field',
      title: 'Field along the column',
      slot: 'load',
      compute: (rig) => work(sourceFormulas.surfaceStress, { V: rig.figure('column-voltage'), l: rig.own('load').quantity('l') }),
    },
    {
      id: 'load-energy',
      title: 'Energy into the water resistor',
      slot: 'load',
      compute: (rig) =>
        work(
          dischargeFormulas.heatFromAction,
          { A: rig.figure('action-integral'), R: rig.figure('column-resistance') },
          'heat in the column',
        ),
    },
    {
      id: 'column-warming',
      title: 'Warming by one shot',
      slot: 'load',
      compute: (rig) => {
        const own = rig.own('load');
        return work(solutionFormulas.columnWarming, { E: rig.figure('load-energy'), l: own.quantity('l'), d: own.quantity('d') });
      },
    },
  ],
  limits: [
    {
      id: 'column-field',
      title: 'Water resistor, field along it',
      slot: 'load',
      stress: (rig) => rig.figure('column-field'),
      rating: (rig) => rig.own('load').quantity('Es'),
      levers: ['load.l', 'store.V0'],
      note: 'A flashover along it or through a bubble bursts the tube.',
    },
    {
      id: 'column-warming',
      title: 'Water resistor, warming by one shot',
      slot: 'load',
      stress: (rig) => rig.figure('column-warming'),
      rating: (rig) => rig.own('load').optional('dTr'),
      levers: ['load.d', 'load.l', 'store.V0'],
      onlyIfKnown: true,
    },
  ],
  problems: (own) =>
    own.is('salt', 'salt')
      ? [
          {
            severity: 'warning',
            slot: 'load',
            field: 'salt',
            text: 'Common salt makes chlorine and hydrogen at the electrodes and eats them; copper electrodes in copper sulphate give back what they take.',
          },
        ]
      : [],
  steps: () => [
    {
      id: 'column-look',
      phase: 'prepare',
      seconds: 120,
      text: 'Water resistor upright, filled to the top, no bubbles, no leak, a tray below it; measured with alternating current at its temperature of today.',
      hold: 'The measured resistance is written down.',
      caution: 'Copper sulphate harms eyes, skin and waters: gloves, goggles, and nothing of it into the drain.',
    },
  ],
});
