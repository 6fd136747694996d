import { fields } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { oneCapacitorGlyph } from '../bank/glyphs.ts';
import { transferFigures } from './capacitive.ts';
import {
  peakingBleed,
  peakingFields,
  peakingHeld,
  peakingOffers,
  peakingParts,
  peakingProblems,
  peakingVoltage,
} from './peaking.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/second-capacitor': typeof secondCapacitorFields;
  }
}

const secondCapacitorFields = fields(peakingFields);

/** A capacitor that the store charges through its switch: transfer, and peaking. */
export const secondCapacitor = defineBlock({
  slot: 'load',
  kind: 'second-capacitor',
  title: 'Peaking capacitor',
  makes: 'Peaking circuit',
  glyph: () => oneCapacitorGlyph,
  fields: secondCapacitorFields,
  takes: { part: 'capacitor', fields: { C: 'C', Vr: 'Vdc' } },
  key: (own) => ({ text: printQuantity(own.quantity('C').value, 'F') }),
  offers: peakingOffers,
  circuit: (own, _rig, at) => peakingParts(own, at),
  figures: [...transferFigures, peakingBleed],
  limits: [peakingVoltage],
  held: (_own, rig) => peakingHeld(rig),
  problems: (_own, rig) => peakingProblems(rig),
});
