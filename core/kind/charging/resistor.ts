import { stringKey } from '../../block/resistor-string.ts';
import { chargingFields, defineCharging } from './link.ts';
import { resistorFields, resistorLink } from './resistor-link.ts';
import { resistorGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'charging/resistor': typeof ofResistor;
  }
}

const ofResistor = { ...resistorFields('1 kΩ ±5 %'), ...chargingFields };

export const chargingResistor = defineCharging({
  kind: 'resistor',
  title: 'Charging resistor',
  glyph: resistorGlyph,
  fields: ofResistor,
  links: [resistorLink('1 kΩ ±5 %')],
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  key: stringKey,
});
