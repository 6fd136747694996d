import { defineBlock } from '../../block/define.ts';
import { bleedDesk } from './desks.ts';
import { absent } from '../../block/glyph.ts';

export const noBleeder = defineBlock({
  slot: 'bleeder',
  kind: 'none',
  title: 'No bleeder',
  desks: [bleedDesk],
  glyph: () => absent,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
  problems: () => [
    {
      severity: 'warning',
      slot: 'bleeder',
      text: 'No permanent bleeder: after a failed shot, a power cut or a walk away the bank stays charged for as long as its insulation holds. Fit one.',
    },
  ],
});
