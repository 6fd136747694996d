import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';

export const noMonitor = defineBlock({
  slot: 'monitor',
  kind: 'none',
  title: 'No current monitor',
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
