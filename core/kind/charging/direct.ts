import { printQuantity } from '../../quantity/index.ts';
import { defineCharging, type Link } from './link.ts';

const lead: Link = {
  fields: {
    R: {
      type: 'quantity',
      symbol: 'R',
      title: 'Resistance of the leads',
      unit: 'Ω',
      min: 0,
      max: 1e6,
      open: true,
      initial: '100 mΩ',
      tolerance: true,
      help: 'For a supply that limits its current by itself.',
    },
  },
  offers: (own) => ({ chargingResistance: own.quantity('R') }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    { element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R').value }, says: 'charging leads' },
  ],
};

export const directCharging = defineCharging({
  kind: 'direct',
  title: 'Leads alone',
  glyph: 'wire',
  links: [lead],
  key: (own) => ({ text: printQuantity(own.quantity('R').value, 'Ω') }),
});
