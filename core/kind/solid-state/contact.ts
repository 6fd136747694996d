import { quantity, within, fields } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';
import { switchesDesk } from './desks.ts';
import { makeContactGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/contact': typeof contactFields;
  }
}

const contactFields = fields({
  R: quantity('Contact resistance', 'Ω', within(0, 1e6), '1 mΩ', { symbol: 'Rc', tolerance: true }),
  ...switchRatingFields,
});

export const contact = defineBlock({
  slot: 'switch',
  kind: 'contact',
  title: 'Contact',
  desks: [switchesDesk],
  glyph: () => makeContactGlyph,
  fields: contactFields,
  key: (own) => ({ text: printQuantity(own.quantity('R').value, 'Ω') }),
  offers: (own) => ({ loopResistance: own.quantity('R'), conduction: 'both-ways' as const }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'switch',
        name: `S${tag}`,
        nodes: [plus, minus],
        Ron: Math.max(own.quantity('R').value, 1e-6),
        control: { by: 'time', closeAt: 0 },
      },
      says: 'contact, closed at once and without bouncing',
    },
  ],
  limits: switchLimits,
  problems: (own, rig) => {
    const rating = own.optional('I');
    if (rating || rig.figure('peak-current').value < 100) return [];
    const text =
      'No making current is entered. A contact bounces and welds on a capacitor discharge, and its continuous rating says little about that: find its making current before you use it.';
    return [{ severity: 'warning', slot: 'switch', field: 'I', text }];
  },
  steps: () => fireSteps('Close the contact in one quick movement, from outside the guard.'),
});
