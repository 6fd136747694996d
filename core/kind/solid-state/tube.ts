import { choice, fields, quantity, rating, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { freewheelOf } from '../../block/freewheel.ts';
import { switchesDesk } from './desks.ts';
import { chargeFigure, chargeLimit, chargeRating, heatFigure } from './duty.ts';
import { tubeGlyph } from './glyphs.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/tube': typeof tubeFields;
  }
}

const tubeFields = fields({
  type: choice('Type', { ignitron: 'ignitron', thyratron: 'hydrogen thyratron' }),
  direction: choice(
    'Conducts',
    { 'both-ways': 'both ways', 'one-way': 'one way' },
    {
      help: 'An ignitron that has lit conducts back as well at high current; a thyratron does it with arcs that destroy it, so that a diode or a damped loop keeps it one way.',
    },
  ),
  VT: quantity('Arc voltage', 'V', within(0, 1e4), '20 V', {
    tolerance: true,
    help: 'Common practice, no source: 10 to 30 V in mercury, 50 to 200 V in hydrogen.',
  }),
  R: quantity('Resistance', 'Ω', within(0, 1e6), '2 mΩ', { tolerance: true }),
  L: quantity('Inductance', 'H', within(0, 1), '50 nH', { tolerance: true, help: 'Between its terminals, in its housing.' }),
  Qr: chargeRating,
  fr: rating('Repetition rate', 'Hz', 1e6, { help: 'It has to become an insulator again: milliseconds in mercury.' }),
  ...switchRatingFields,
});

const conduction = (own: Own<typeof tubeFields>) =>
  own.is('direction', 'both-ways') ? ('both-ways' as const) : ('one-way' as const);

export const tube = defineBlock({
  slot: 'switch',
  kind: 'tube',
  title: 'Ignitron or thyratron',
  desks: [switchesDesk],
  glyph: () => tubeGlyph,
  fields: tubeFields,
  key: (own) => ({
    text: own.is('type', 'ignitron') ? 'ignitron' : 'thyratron',
    detail: own.choice('direction') === 'both-ways' ? 'both ways' : 'one way',
  }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: own.quantity('L'),
    threshold: own.quantity('VT'),
    conduction: conduction(own),
  }),
  circuit: (own, _rig, { plus, minus, tag }) => {
    const L = own.quantity('L').value;
    const inside = L > 0 ? `${plus}v` : plus;
    return [
      ...(L > 0
        ? [
            {
              element: { kind: 'inductor' as const, name: `L${tag}`, nodes: [plus, inside] as const, L },
              says: 'inductance of the tube',
            },
          ]
        : []),
      {
        element: {
          kind: 'thyristor',
          name: `X${tag}`,
          nodes: [inside, minus],
          Vf: own.quantity('VT').value,
          Ron: Math.max(own.quantity('R').value, 1e-6),
          gate: { from: 0, until: 1e9 },
          latching: 0,
          holding: 0,
          turnOff: 0,
          bothWays: conduction(own) === 'both-ways',
        },
        says: 'tube, lit from the first instant',
      },
    ];
  },
  leavesOut: () => 'the arc voltage of the tube from half cycle to half cycle: it takes it off once; how its arc forms',
  figures: [chargeFigure, heatFigure],
  limits: [
    ...switchLimits,
    chargeLimit,
    {
      id: 'tube-rate',
      title: 'Tube, repetition rate',
      slot: 'switch',
      stress: (rig) => rig.figure('repetition-rate'),
      rating: (rig) => rig.own('switch').optional('fr'),
      levers: ['charging.R'],
      onlyIfKnown: true,
      note: 'As often as the supply could charge the store: slower by hand is within it.',
    },
  ],
  problems: (own, rig) => {
    if (conduction(own) === 'both-ways' && own.is('type', 'ignitron')) return [];
    const reversal = rig.figure('voltage-reversal').value;
    if (reversal < 0.02 || freewheelOf(rig)) return [];
    const left = printQuantity(reversal * rig.offer('chargedTo').value, 'V');
    const text = own.is('type', 'thyratron')
      ? `The loop rings: the thyratron sees ${left} the wrong way round right after its current, and arcs back. Damp the loop, or put a diode across the load.`
      : `The loop rings: the tube lets go at the first current zero and leaves the store charged in reverse, to ${left}.`;
    return [{ severity: 'warning', slot: 'switch', field: 'direction', text }];
  },
  steps: (own) => [
    {
      id: 'tube-warm',
      phase: 'prepare',
      // A heater takes minutes; mercury is looked at.
      seconds: own.is('type', 'thyratron') ? 300 : 60,
      text: own.is('type', 'thyratron')
        ? 'Heater and reservoir of the thyratron on for the time of its data sheet, before anything is charged.'
        : 'Ignitron upright, anode warm and cathode cooled as its data sheet has it: mercury on the anode fires it by itself.',
      hold: own.is('type', 'thyratron') ? 'The time of its data sheet has passed.' : 'The anode is warmer than the cathode.',
    },
    ...fireSteps('Fire the tube from outside the guard.'),
  ],
});
