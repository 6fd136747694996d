import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';
import { printQuantity } from '../../quantity/index.ts';
import { standardAir } from '../../block/standard-air.ts';

/** Air as the tables of breakdown have it: 20 °C, 101.3 kPa. */
export const standard = defineBlock({
  slot: 'air',
  kind: 'standard',
  title: 'Standard air',
  glyph: () => nothing,
  fields: {},
  key: () => ({ text: printQuantity(standardAir.pressure.value, 'Pa'), detail: 'standard' }),
  offers: () => ({}),
});
