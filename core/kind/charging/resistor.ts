import { stringKey } from '../../block/resistor-string.ts';
import { defineCharging } from './link.ts';
import { resistorLink } from './resistor-link.ts';

export const chargingResistor = defineCharging({
  kind: 'resistor',
  title: 'Charging resistor',
  glyph: 'resistor',
  links: [resistorLink('1 kΩ ±5 %')],
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  key: stringKey,
});
