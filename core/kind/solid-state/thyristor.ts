import { rating, choice, fields, quantity, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type LimitSpec, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { freewheelOf } from '../../block/freewheel.ts';
import { followCurrent } from '../../block/follow-current.ts';
import { staysConnected } from '../../block/charger-at-shot.ts';
import { ifKnown } from '../../block/known.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';
import { switchesDesk } from './desks.ts';
import { thyristorGlyph, thyristorPairGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/thyristor': typeof thyristorFields;
  }
}

const conduction = (own: Own<typeof thyristorFields>) =>
  own.is('direction', 'both-ways') ? ('both-ways' as const) : ('one-way' as const);

/** A charger that is still connected feeds the thyristor when the shot is over: below its holding current it opens all the same. */
const heldOn: LimitSpec = {
  id: 'switch-holding',
  title: 'Switch, held on by the charger',
  slot: 'switch',
  stress: (rig) => {
    if (!staysConnected(rig)) throw new Unavailable('charging', 'the charger is isolated before the shot', 'firing');
    return followCurrent(rig);
  },
  rating: (rig) => rig.own('switch').optional('Ih'),
  onlyIfKnown: true,
  levers: ['charging.R', 'supply.V'],
  note: 'Above it the thyristor never opens: the store is not charged again, and the supply feeds the load until it is switched off.',
};

function heldOnProblem(own: Own<typeof thyristorFields>, rig: RigContext): Problem[] {
  if (!staysConnected(rig)) return [];
  const follow = ifKnown(() => followCurrent(rig));
  if (!follow) return [];
  const [gives, Ih] = [printQuantity(follow.value, 'A'), own.optional('Ih')];
  const one = (severity: Problem['severity'], text: string): Problem[] => [{ severity, slot: 'switch', field: 'Ih', text }];
  if (!Ih)
    return one(
      'warning',
      `Whether the charger holds the thyristor on is not judged: it keeps supplying ${gives}, and the holding current is not known. Enter it, or isolate the charger before the shot.`,
    );
  return follow.value >= Ih.value
    ? one(
        'warning',
        `The thyristor does not turn off after the shot: the charger keeps supplying ${gives}, and ${printQuantity(Ih.value, 'A')} hold it on. Isolate the charger before the shot, or limit its current.`,
      )
    : [];
}

const thyristorFields = fields({
  direction: choice(
    'Conducts',
    { 'one-way': 'one way', 'both-ways': 'both ways' },
    {
      help: 'Both ways: an antiparallel pair, or a diode across it. One way, the current stops at its first zero and a ringing bank is left reversed.',
    },
  ),
  VT: quantity('Threshold voltage', 'V', within(0, 1e4), '1.1 V', { tolerance: true, help: 'V_T(TO) of the data sheet.' }),
  R: quantity('Slope resistance', 'Ω', within(0, 1e6), '2 mΩ', {
    symbol: 'rT',
    tolerance: true,
    help: 'r_T of the data sheet.',
  }),
  Ih: rating('Holding current', 'A', 1e4, {
    help: 'It turns off below this. I_H of the data sheet; do not count on its maximum.',
  }),
  ...switchRatingFields,
});

export const thyristor = defineBlock({
  slot: 'switch',
  kind: 'thyristor',
  title: 'Thyristor',
  desks: [switchesDesk],
  glyph: (own) => (conduction(own) === 'both-ways' ? thyristorPairGlyph : thyristorGlyph),
  fields: thyristorFields,
  key: (own) => ({
    text: printQuantity(own.quantity('R').value, 'Ω'),
    detail: own.is('direction', 'both-ways') ? 'both ways' : 'one way',
  }),
  takes: { part: 'thyristor', fields: { VT: 'VT', R: 'rT', Vr: 'V', I: 'Isurge', S: 'S', A: 'A' } },
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    threshold: own.quantity('VT'),
    holding: own.optional('Ih'),
    conduction: conduction(own),
  }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'thyristor',
        name: `X${tag}`,
        nodes: [plus, minus],
        Vf: own.quantity('VT').value,
        Ron: Math.max(own.quantity('R').value, 1e-6),
        // The gate is taken to be driven for as long as the shot lasts.
        gate: { from: 0, until: 1e9 },
        latching: 0,
        holding: own.optional('Ih')?.value ?? 0,
        turnOff: 0,
        bothWays: conduction(own) === 'both-ways',
      },
      says: 'thyristor, gate driven from the first instant',
    },
  ],
  leavesOut: () => 'the threshold voltage of the thyristor from half cycle to half cycle: it takes it off once',
  limits: [...switchLimits, heldOn],
  problems: (own, rig) => {
    const reversal = rig.figure('voltage-reversal').value;
    const held = heldOnProblem(own, rig);
    if (conduction(own) === 'both-ways' || reversal < 0.02 || freewheelOf(rig)) return held;
    const text = `The loop rings: the thyristor turns off at the first current zero and leaves the bank charged in reverse, to ${printQuantity(reversal * rig.offer('chargedTo').value, 'V')}.`;
    return [...held, { severity: 'warning', slot: 'switch', field: 'direction', text }];
  },
  steps: (_own, rig) => fireSteps(rig.offers('trigger').firedAs ?? 'Fire the gate from outside the guard.'),
});
