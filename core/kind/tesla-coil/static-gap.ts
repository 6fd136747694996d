import { fields } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { breakFigures } from './tank.ts';
import {
  ofRow,
  rowFields,
  tankGapCircuit,
  tankGapFields,
  tankGapLimits,
  tankGapOffers,
  tankProblems,
  tankSteps,
  tankWarns,
} from './tank-gap.ts';
import { tankDesk } from './desks.ts';
import { switchesDesk } from '../solid-state/desks.ts';
import { sparkGapGlyph } from '../gap/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/static-gap': typeof staticGapFields;
  }
  interface FigureIds {
    'self-break': true;
    'break-voltage': true;
  }
}

const staticGapFields = fields({ ...rowFields('5'), ...tankGapFields });

/** Several small gaps in series that self-break, over and over. */
export const staticGap = defineBlock({
  slot: 'switch',
  kind: 'static-gap',
  title: 'Series gap (multiple, static)',
  desks: [tankDesk, switchesDesk],
  glyph: () => sparkGapGlyph,
  fields: staticGapFields,
  key: (own) => ({ text: printQuantity(ofRow(own).value, 'V'), detail: `${own.quantity('k').value} gaps` }),
  offers: tankGapOffers,
  circuit: tankGapCircuit,
  figures: [
    { id: 'self-break', title: 'Self-break of the series gap', slot: 'switch', compute: (rig) => ofRow(rig.own('switch')) },
    { id: 'break-voltage', title: 'Voltage at the break', slot: 'switch', compute: (rig) => rig.figure('self-break') },
    ...breakFigures((rig) => ({ Vb: () => rig.figure('self-break') })),
  ],
  limits: tankGapLimits,
  problems: tankProblems,
  warns: tankWarns,
  steps: tankSteps,
});
