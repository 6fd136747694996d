import { defineBlock } from '../../block/define.ts';

export const noMonitor = defineBlock({
  slot: 'monitor',
  kind: 'none',
  title: 'No current monitor',
  glyph: () => 'no-monitor',
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
