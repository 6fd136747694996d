import { fields, rating } from '../../field/index.ts';
import { reachFormulas, ruled, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Problem } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage } from '../../block/goal.ts';
import { triggerOffSteps } from '../solid-state/shared.ts';
import { rodGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'trigger/hand-rod': typeof handRodFields;
  }
}

const handRodFields = fields({
  lr: rating('Rod, from the hand guard to its end', 'm', 20, {
    help: 'Dry, clean insulating rod: what is left between the hand and the gap when it is closed.',
  }),
});

/** A person fires the first gap: an electrode is pushed nearer, or a tip is brought between, with a rod. */
export const handRod = defineBlock({
  slot: 'trigger',
  kind: 'hand-rod',
  title: 'By hand, with an insulating rod',
  glyph: () => rodGlyph,
  fields: handRodFields,
  key: (own) => ({ text: own.optional('lr') ? printQuantity(own.quantity('lr').value, 'm') : 'rod', detail: 'by hand' }),
  offers: () => ({
    firedAs:
      'From behind the guard, with the rod alone through it: bring it to the first gap in one steady movement until the gap fires, and draw it back.',
  }),
  limits: [
    {
      id: 'hand-rod',
      title: 'Rod: flashover distance to the hand',
      slot: 'trigger',
      stress: (rig) =>
        work(
          reachFormulas.flashoverReach,
          {
            V: ruled(
              'voltage at the first gap',
              highestVoltage(rig),
              'V',
              'what is set, or what the supply can reach if that is more',
            ),
          },
          'distance that may flash over',
        ),
      rating: (rig) => rig.own('trigger').optional('lr'),
      levers: ['trigger.lr', 'store.V0'],
      protects: true,
      note: 'Lowest bound of dry air; a damp or dirty rod holds far less. An erected output is elsewhere: stay away from the top.',
    },
  ],
  problems: (_own, rig): Problem[] => {
    const { firedBy } = rig.offers('switch');
    if (firedBy === 'trigger') return [];
    const text =
      firedBy === 'itself'
        ? 'The gap is set to self-break: set it to be fired by a trigger, and open it beyond the charge voltage.'
        : 'A rod closes a gap, and the switch is none.';
    return [{ severity: 'error', slot: 'trigger', field: 'lr', text }];
  },
  steps: () => [
    {
      id: 'rod-check',
      phase: 'prepare',
      text: 'The rod dry, clean and whole, its hand guard on it; a mark shows how far it goes in.',
      hold: 'The rod reaches the gap from behind the guard.',
    },
    ...triggerOffSteps('Rod out of the guard and laid down, before anything else.', 'Nobody holds the rod.'),
  ],
});
