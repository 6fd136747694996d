import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { chokeLink } from './choke-link.ts';
import { diodeLink } from './diode-link.ts';
import { defineCharging } from './link.ts';
import { resistorLink } from './resistor-link.ts';

const key = (own: Own) => ({ text: printQuantity(own.quantity('L').value, 'H') });
const takes = { part: 'inductor', fields: { L: 'L', Rl: 'R', Ic: 'I', Vi: 'V' } };

export const chargingChoke = defineCharging({
  kind: 'choke',
  title: 'Choke',
  glyph: 'choke',
  links: [chokeLink(false)],
  takes,
  key,
});

export const holdOffChoke = defineCharging({
  kind: 'choke-diode',
  title: 'Choke with hold-off diode',
  glyph: 'chain',
  links: [diodeLink, chokeLink(true)],
  takes,
  key,
});

export const chargingChain = defineCharging({
  kind: 'chain',
  title: 'Diode, choke and resistor',
  glyph: 'chain',
  links: [diodeLink, chokeLink(true), resistorLink('100 Ω ±5 %')],
  takes,
  key: (own) => ({ ...key(own), detail: `with ${printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω')}` }),
});
