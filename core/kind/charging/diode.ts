import { stringKey } from '../../block/resistor-string.ts';
import { diodeLink } from './diode-link.ts';
import { defineCharging } from './link.ts';
import { resistorLink } from './resistor-link.ts';

export const chargingDiode = defineCharging({
  kind: 'diode',
  title: 'Diode and resistor',
  glyph: 'diode',
  links: [diodeLink, resistorLink('1 kΩ ±5 %')],
  takes: { part: 'diode', fields: { Vf: 'VT', Vd: 'V', Is: 'Isurge' } },
  key: (own) => ({ ...stringKey(own), detail: 'with diode' }),
});
