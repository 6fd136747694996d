import { stringKey } from '../../block/resistor-string.ts';
import { diodeFields, diodeLink } from './diode-link.ts';
import { chargingFields, defineCharging } from './link.ts';
import { resistorFields, resistorLink } from './resistor-link.ts';
import { diodeGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'charging/diode': typeof ofDiode;
  }
}

const ofDiode = { ...diodeFields, ...resistorFields('1 kΩ ±5 %'), ...chargingFields };

export const chargingDiode = defineCharging({
  kind: 'diode',
  title: 'Diode and resistor',
  glyph: diodeGlyph,
  fields: ofDiode,
  links: [diodeLink, resistorLink('1 kΩ ±5 %')],
  takes: { part: 'diode', fields: { Vf: 'VT', Vd: 'V', Is: 'Isurge' } },
  key: (own) => ({ ...stringKey(own), detail: 'with diode' }),
});
