import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';

export const noCrowbar = defineBlock({
  slot: 'crowbar',
  kind: 'none',
  title: 'No crowbar',
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
