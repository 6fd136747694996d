import { choice, countOf, fields, quantity, rating, within } from '../../field/index.ts';
import { switchFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { freewheelOf } from '../../block/freewheel.ts';
import { switchesDesk } from './desks.ts';
import { heatFigure, heatLimit, heatRating, chargeFigure } from './duty.ts';
import { transistorGlyph } from './glyphs.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/transistor': typeof transistorFields;
  }
  interface FigureIds {
    'transistor-share': true;
    'turn-off-voltage': true;
  }
}

const transistorFields = fields({
  type: choice('Type', { igbt: 'IGBT', mosfet: 'MOSFET' }),
  np: countOf('In parallel'),
  su: quantity('Current imbalance', '1', within(0, 1), '20 %', {
    symbol: 's',
    help: 'How much more the one that takes most carries than each of the others: threshold, gate and leads differ. Common practice, no source: 20 %.',
  }),
  VT: quantity('Threshold voltage', 'V', within(0, 1e3), '1 V', {
    tolerance: true,
    help: 'Collector-emitter voltage that is left at no current; a MOSFET has none.',
  }),
  R: quantity('Slope resistance, all together', 'Ω', within(0, 1e6), '2 mΩ', {
    symbol: 'rT',
    tolerance: true,
    help: 'Hot, and of all in parallel: R_DS(on) of a MOSFET doubles from 25 to 150 °C.',
  }),
  diode: choice(
    'Antiparallel diode',
    { yes: 'there', no: 'none' },
    { help: 'A MOSFET has one in itself. Without one the current stops at its first zero.' },
  ),
  tf: quantity('Current fall time', 's', within(1e-9, 1), '200 ns', {
    help: 'If it is switched off while the current flows.',
  }),
  Ip: rating('Pulsed current, each', 'A', 1e8, {
    help: 'I_CM or I_DM of the data sheet: above it an IGBT desaturates and burns.',
  }),
  Ls: quantity('Stray inductance that it switches off', 'H', within(0, 1), null, {
    help: 'Between it and the nearest capacitor or diode that holds the voltage.',
  }),
  ...switchRatingFields,
  Er: heatRating,
});

type TransistorOwn = Own<typeof transistorFields>;

const bothWays = (own: TransistorOwn): boolean => own.is('type', 'mosfet') || own.is('diode', 'yes');

/** Current in the one that takes most. */
const worstShare = (rig: RigContext): Worked =>
  work(switchFormulas.parallelShare, {
    I: rig.figure('peak-current'),
    n: rig.own('switch').quantity('np'),
    s: rig.own('switch').quantity('su'),
  });

export const transistor = defineBlock({
  slot: 'switch',
  kind: 'transistor',
  title: 'IGBT or MOSFET',
  desks: [switchesDesk],
  glyph: () => transistorGlyph,
  fields: transistorFields,
  key: (own) => ({
    text: own.is('type', 'igbt') ? 'IGBT' : 'MOSFET',
    detail: printQuantity(own.quantity('R').value, 'Ω'),
  }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    ...(own.is('type', 'igbt') ? { threshold: own.quantity('VT') } : {}),
    conduction: bothWays(own) ? ('both-ways' as const) : ('one-way' as const),
  }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'thyristor',
        name: `X${tag}`,
        nodes: [plus, minus],
        Vf: own.is('type', 'igbt') ? own.quantity('VT').value : 0,
        Ron: Math.max(own.quantity('R').value, 1e-6),
        // The gate is taken to be driven for as long as the shot lasts.
        gate: { from: 0, until: 1e9 },
        latching: 0,
        holding: 0,
        turnOff: 0,
        bothWays: bothWays(own),
      },
      says: 'transistor, gate driven from the first instant',
    },
  ],
  leavesOut: (own) =>
    own.is('type', 'igbt') ? 'the threshold voltage of the transistor from half cycle to half cycle: it takes it off once' : null,
  figures: [
    chargeFigure,
    heatFigure,
    { id: 'transistor-share', title: 'Current in the transistor that takes most', slot: 'switch', compute: worstShare },
    {
      id: 'turn-off-voltage',
      title: 'Voltage if it is switched off at the peak',
      slot: 'switch',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('switch');
        const I = rig.figure('peak-current');
        return work(switchFormulas.turnOffVoltage, {
          V: rig.offer('chargedTo'),
          L: own.quantity('Ls'),
          I,
          tf: own.quantity('tf'),
        });
      },
    },
  ],
  limits: [
    ...switchLimits,
    {
      id: 'transistor-current',
      title: 'Transistor, current in the one that takes most',
      slot: 'switch',
      stress: worstShare,
      rating: (rig) => rig.own('switch').optional('Ip'),
      levers: ['switch.np', 'load.R', 'store.V0', 'load.L'],
      protects: true,
    },
    {
      id: 'turn-off-voltage',
      title: 'Transistor, voltage if it is switched off at the peak',
      slot: 'switch',
      stress: (rig) => rig.figure('turn-off-voltage'),
      rating: (rig) => rig.own('switch').optional('Vr'),
      levers: ['switch.tf', 'store.V0'],
      onlyIfKnown: true,
      note: 'The one way in which it can do what a thyristor cannot; a clamp across it, and a slower gate, bring it down.',
    },
    heatLimit,
  ],
  problems: (own, rig) => {
    const reversal = rig.figure('voltage-reversal').value;
    if (bothWays(own) || reversal < 0.02 || freewheelOf(rig)) return [];
    const text = `The loop rings: without an antiparallel diode the current stops at its first zero, and ${printQuantity(reversal * rig.offer('chargedTo').value, 'V')} stand across an IGBT the wrong way round, which it does not withstand. Put a diode across it.`;
    return [{ severity: 'error', slot: 'switch', field: 'diode', text }];
  },
  steps: () => fireSteps('Fire the gate from outside the guard; it stays driven until the current is over.'),
});
