import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';

export const noLeads = defineBlock({
  slot: 'leads',
  kind: 'none',
  title: 'Counted with the load',
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
