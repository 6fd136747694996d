import { defineBlock } from '../../block/define.ts';
import { absent } from '../../block/glyph.ts';

export const noDump = defineBlock({
  slot: 'dump',
  kind: 'none',
  title: 'No dump',
  glyph: () => absent,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
