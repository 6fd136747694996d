import { above, fields, quantity } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { chargingFields, defineCharging, defineLink } from './link.ts';
import { wireGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'charging/direct': typeof directFields;
  }
}

const leadFields = fields({
  R: quantity('Resistance of the leads', 'Ω', above(0, 1e6), '100 mΩ', {
    tolerance: true,
    help: 'For a supply that limits its own current.',
  }),
});

const lead = defineLink({
  fields: leadFields,
  offers: (own) => ({ chargingResistance: own.quantity('R') }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    { element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R').value }, says: 'charging leads' },
  ],
});

const directFields = { ...leadFields, ...chargingFields };

export const directCharging = defineCharging({
  kind: 'direct',
  title: 'Leads alone',
  glyph: wireGlyph,
  fields: directFields,
  links: [lead],
  key: (own) => ({ text: printQuantity(own.quantity('R').value, 'Ω') }),
});
