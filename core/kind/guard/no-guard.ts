import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';
import { guardDesk } from './desks.ts';

export const noGuard = defineBlock({
  slot: 'guard',
  kind: 'none',
  title: 'No guard entered',
  desks: [guardDesk],
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: 'none' }),
  offers: () => ({}),
});
