import { defineBlock } from '../../block/define.ts';

export const noTrigger = defineBlock({
  slot: 'trigger',
  kind: 'none',
  title: 'No trigger generator',
  glyph: () => 'no-trigger',
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
