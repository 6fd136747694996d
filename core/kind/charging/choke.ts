import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { chokeFields, chokeLink } from './choke-link.ts';
import { diodeFields, diodeLink } from './diode-link.ts';
import { chargingFields, defineCharging } from './link.ts';
import { resistorFields, resistorLink } from './resistor-link.ts';
import type { Quantities } from '../../field/index.ts';
import { chainGlyph, chokeGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'charging/choke': typeof ofChoke;
    'charging/choke-diode': typeof ofHoldOff;
    'charging/chain': typeof ofChain;
  }
}

const ofChoke = { ...chokeFields, ...chargingFields };
const ofHoldOff = { ...diodeFields, ...ofChoke };
const ofChain = { ...diodeFields, ...chokeFields, ...resistorFields('100 Ω ±5 %'), ...chargingFields };

const key = (own: Own<Quantities<'L'>>) => ({ text: printQuantity(own.quantity('L').value, 'H') });
const takes = { part: 'inductor', fields: { L: 'L', Rl: 'R', Ic: 'I', Vi: 'V' } };

export const chargingChoke = defineCharging({
  kind: 'choke',
  title: 'Choke',
  glyph: chokeGlyph,
  fields: ofChoke,
  links: [chokeLink(false)],
  takes,
  key,
});

export const holdOffChoke = defineCharging({
  kind: 'choke-diode',
  title: 'Choke with hold-off diode',
  glyph: chainGlyph,
  fields: ofHoldOff,
  links: [diodeLink, chokeLink(true)],
  takes,
  key,
});

export const chargingChain = defineCharging({
  kind: 'chain',
  title: 'Diode, choke and resistor',
  glyph: chainGlyph,
  fields: ofChain,
  links: [diodeLink, chokeLink(true), resistorLink('100 Ω ±5 %')],
  takes,
  key: (own) => ({ ...key(own), detail: `with ${printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω')}` }),
});
