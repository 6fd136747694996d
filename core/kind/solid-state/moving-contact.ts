import { above, choice, fields, quantity, rating, within } from '../../field/index.ts';
import { ruled, switchFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { switchesDesk } from './desks.ts';
import { chargeFigure } from './duty.ts';
import { droppedArmGlyph } from './glyphs.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/moving-contact': typeof movingContactFields;
  }
  interface FigureIds {
    'closing-scatter': true;
    'bounce-heat': true;
  }
}

/** V/m at which a closing contact is struck through. Common practice, no source: 3 kV/mm in air, 10 to 30 kV/mm in vacuum. */
const struckAt = { air: 3e6, vacuum: 20e6 } as const;
/** V of the arc while a contact bounces. Common practice, no source: 20 to 40 V. */
const bounceArc = 30;

/** V above which an open gap in vacuum can make X-rays that leave it. Common practice, no source. */
const xRaysFrom = 15e3;

const movingContactFields = fields({
  type: choice('Type', { arm: 'dropped arm', vacuum: 'vacuum contact' }),
  R: quantity('Contact resistance', 'Ω', within(0, 1e6), '500 µΩ', { symbol: 'Rc', tolerance: true }),
  L: quantity('Inductance', 'H', within(0, 1), '200 nH', {
    tolerance: true,
    help: 'Of the arm and its loop: about 1 µH a metre.',
  }),
  v: quantity('Closing speed', 'm/s', above(0, 100), '1 m/s', {
    help: 'Falling through h: √(2·g·h), 1.4 m/s from 10 cm; a vacuum contact about 1 m/s.',
  }),
  tb: quantity('Bounce', 's', within(0, 1), '2 ms', {
    help: 'Until it stays closed, after it touched first. A soft, heavy arm bounces less.',
  }),
  Ew: rating('Heat that welds it', 'J', 1e9, {
    help: 'Tried with a store that does no harm: the least after which it does not open by itself.',
  }),
  ...switchRatingFields,
});

const isVacuum = (own: Own<typeof movingContactFields>): boolean => own.is('type', 'vacuum');

/** All of the charge, if it bounces for as long as the shot lasts: an upper bound. */
const bounceHeat = (rig: RigContext): Worked =>
  work(
    switchFormulas.conductionHeat,
    {
      VT: ruled('voltage of the arc while it bounces', bounceArc, 'V', '20 to 40 V; common practice, no source'),
      Q: rig.figure('switch-charge'),
      R: rig.own('switch').quantity('R'),
      A: rig.figure('action-integral'),
    },
    'heat in the contact, if it bounces throughout',
  );

export const movingContact = defineBlock({
  slot: 'switch',
  kind: 'moving-contact',
  title: 'Dropped arm or vacuum contact',
  desks: [switchesDesk],
  glyph: () => droppedArmGlyph,
  fields: movingContactFields,
  key: (own) => ({ text: isVacuum(own) ? 'vacuum' : 'dropped arm', detail: printQuantity(own.quantity('R').value, 'Ω') }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: own.quantity('L'),
    conduction: 'both-ways' as const,
  }),
  circuit: (own, _rig, { plus, minus, tag }) => {
    const L = own.quantity('L').value;
    const inside = L > 0 ? `${plus}c2` : plus;
    return [
      ...(L > 0
        ? [
            {
              element: { kind: 'inductor' as const, name: `L${tag}`, nodes: [plus, inside] as const, L },
              says: 'inductance of the arm',
            },
          ]
        : []),
      {
        element: {
          kind: 'switch',
          name: `S${tag}`,
          nodes: [inside, minus],
          Ron: Math.max(own.quantity('R').value, 1e-6),
          control: { by: 'time', closeAt: 0 },
        },
        says: 'contact, closed at once; while it bounces an arc bridges it',
      },
    ];
  },
  leavesOut: () => 'the arc before touch and at each bounce: it carries the current all the same',
  figures: [
    chargeFigure,
    {
      id: 'closing-scatter',
      title: 'Struck through before touch',
      slot: 'switch',
      compute: (rig) =>
        work(switchFormulas.closingScatter, {
          V: rig.offer('chargedTo'),
          E: ruled(
            'field that it is struck through at',
            isVacuum(rig.own('switch')) ? struckAt.vacuum : struckAt.air,
            'V/m',
            '3 kV/mm in air, 10 to 30 kV/mm in vacuum; common practice, no source',
          ),
          v: rig.own('switch').quantity('v'),
        }),
    },
    { id: 'bounce-heat', title: 'Heat in the contact, upper bound', slot: 'switch', compute: bounceHeat },
  ],
  limits: [
    ...switchLimits,
    {
      id: 'bounce-heat',
      title: 'Contact, heat that welds it',
      slot: 'switch',
      stress: bounceHeat,
      rating: (rig) => rig.own('switch').optional('Ew'),
      levers: ['store.V0', 'load.R'],
      onlyIfKnown: true,
      note: 'All of the charge through the arc of a bounce: an upper bound. A welded contact is found at the next charge, which it shorts.',
    },
  ],
  problems: (own, rig) => {
    const V = rig.offer('chargedTo').value;
    if (isVacuum(own) && V > xRaysFrom)
      return [
        {
          severity: 'warning',
          slot: 'switch',
          field: 'type',
          text: `Open vacuum contacts at ${printQuantity(V, 'V')} can make X-rays (above some 15 kV; common practice, no source): a metal screen around them, distance, and a survey meter before anybody stays near.`,
        },
      ];
    if (own.optional('I') || own.optional('Ew') || rig.figure('peak-current').value < 100) return [];
    return [
      {
        severity: 'warning',
        slot: 'switch',
        field: 'Ew',
        text: 'Nothing says what it withstands: neither a making current nor the heat that welds it. Each shot burns it; look at it after every one, with the strap on.',
      },
    ];
  },
  steps: (own) => [
    {
      id: 'arm-held',
      phase: 'prepare',
      seconds: 30,
      text: isVacuum(own)
        ? 'Drive of the vacuum contact tried with the strap on: it closes at once, and opens by itself.'
        : 'Arm up and held by its catch; the cord to it runs outside the guard. Let it fall once with the strap on.',
      hold: 'It closed at once, and opens without force.',
    },
    ...fireSteps(isVacuum(own) ? 'Close the vacuum contact from outside the guard.' : 'Pull the cord: the arm falls.'),
  ],
});
