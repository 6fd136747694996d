import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';

export const noTrigger = defineBlock({
  slot: 'trigger',
  kind: 'none',
  title: 'No trigger generator',
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
