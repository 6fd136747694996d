import { quantity, above, fields, within } from '../../field/index.ts';
import { coronaFormulas, strayFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { airOf } from '../../block/standard-air.ts';
import { defineBlock } from '../../block/define.ts';
import { capacitiveParts, gainFigure, peakFigure } from './capacitive.ts';
import { absent } from '../../block/glyph.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/open-terminal': typeof openTerminalFields;
  }
  interface FigureIds {
    'load-corona': true;
  }
}

const capacitanceOf = (own: Own<typeof openTerminalFields>): Worked =>
  own.optional('C') ?? work(strayFormulas.sphereCapacitance, { r: own.quantity('r') }, 'capacitance of the terminal');

const openTerminalFields = fields({
  r: quantity('Radius of the terminal', 'm', above(0, 10), '50 mm', { help: 'Of the sphere, or of the sharpest edge.' }),
  C: quantity('Capacitance of the terminal', 'F', above(0, 1e-6), null, {
    help: 'Empty: a sphere of this radius, far from everything.',
  }),
  R: quantity('Resistance of its lead', 'Ω', within(0, 1e9), '1 Ω', { tolerance: true }),
  L: quantity('Inductance of its lead', 'H', above(0, 1e3), '1 µH ±30 %', { tolerance: true }),
});

/** Nothing but a terminal in the air: what it does not hold it loses as corona. */
export const openTerminal = defineBlock({
  slot: 'load',
  kind: 'open-terminal',
  title: 'Open terminal',
  glyph: () => absent,
  fields: openTerminalFields,
  key: (own) => ({ text: 'open', detail: printQuantity(capacitanceOf(own).value, 'F') }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: own.quantity('L'),
    loadCapacitance: capacitanceOf(own),
  }),
  circuit: (own, _rig, at) =>
    capacitiveParts(at, {
      R: own.quantity('R').value,
      L: own.quantity('L').value,
      C: capacitanceOf(own).value,
      says: 'terminal in open air',
    }),
  figures: [
    peakFigure,
    gainFigure,
    {
      id: 'load-corona',
      title: 'Corona onset at the terminal',
      slot: 'load',
      compute: (rig) =>
        work(coronaFormulas.sphereCoronaVoltage, {
          r: rig.own('load').quantity('r'),
          delta: airOf(rig).density,
        }),
    },
  ],
  limits: [
    {
      id: 'load-corona',
      title: 'Terminal in open air, corona',
      slot: 'load',
      stress: (rig) => rig.figure('load-peak-voltage'),
      rating: (rig) => rig.figure('load-corona'),
      levers: ['load.r', 'store.V0'],
      note: 'Above it the charge leaks into the air; much above it sparks leave the terminal.',
    },
  ],
  steps: () => [
    {
      id: 'open-stays-charged',
      phase: 'bleed',
      text: 'With nothing connected a shot takes almost nothing: the stages keep their charge and only leak. Bleed and strap all of them as after a misfire.',
      caution: 'A loud bang at the top does not mean that the stages are discharged.',
    },
  ],
});
