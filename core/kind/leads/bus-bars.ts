import { above, choiceOf, fields, quantity, rating } from '../../field/index.ts';
import { leadsFormulas, ruled, sourceFormulas, work, type Worked } from '../../formula/index.ts';
import { foils } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { busBarsGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'leads/bus-bars': typeof busBarFields;
  }
  interface FigureIds {
    'leads-inductance': true;
    'leads-resistance': true;
    'leads-force': true;
  }
}

const busBarFields = fields({
  w: quantity('Width of a bar', 'm', above(0, 10), '50 mm'),
  t: quantity('Thickness of a bar', 'm', above(0, 1), '3 mm'),
  s: quantity('Insulation between them', 'm', above(0, 10), '2 mm', {
    tolerance: true,
    help: 'From face to face: sheet and air together.',
  }),
  l: quantity('Length', 'm', above(0, 1e3), '500 mm', { help: 'One way; go and return lie face to face.' }),
  metal: choiceOf('Metal', foils, 'copper'),
  c: rating('Creepage', 'm', 10, { help: 'Along the surface from bar to bar, round the edge of the sheet.' }),
  Es: quantity('Permissible surface field', 'V/m', above(0, 1e8), '100 V/mm', {
    help: 'Common practice, no source: 1 kV/cm along clean dry plastic.',
  }),
  F: rating('Force that they are held against', 'N', 1e9, {
    symbol: 'Fr',
    help: 'Of clamps and lashing together, over the whole length.',
  }),
});

type Bars = Own<typeof busBarFields>;

const sizes = (own: Bars) => ({ w: own.quantity('w'), t: own.quantity('t'), s: own.quantity('s'), l: own.quantity('l') });
const inductance = (own: Bars): Worked => work(leadsFormulas.busBarInductance, sizes(own));
function resistance(own: Bars): Worked {
  const metal = foils.find(({ id }) => own.is('metal', id)) ?? foils[0];
  if (!metal) throw new Error('bars are of some metal');
  const { w, t, l } = sizes(own);
  return work(leadsFormulas.busBarResistance, {
    rho: ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source),
    l,
    w,
    t,
  });
}

export const busBars = defineBlock({
  slot: 'leads',
  kind: 'bus-bars',
  title: 'Bus bars',
  glyph: () => busBarsGlyph,
  fields: busBarFields,
  key: (own) => ({ text: printQuantity(inductance(own).value, 'H'), detail: 'bars' }),
  offers: (own) => ({ loopInductance: inductance(own), loopResistance: resistance(own) }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L: inductance(own).value, R: resistance(own).value },
      says: 'bus bars, go and return',
    },
  ],
  figures: [
    { id: 'leads-inductance', title: 'Inductance of the bars', slot: 'leads', compute: (rig) => inductance(rig.own('leads')) },
    { id: 'leads-resistance', title: 'Resistance of the bars', slot: 'leads', compute: (rig) => resistance(rig.own('leads')) },
    {
      id: 'leads-force',
      title: 'Force that pushes the bars apart',
      slot: 'leads',
      compute: (rig) => work(leadsFormulas.busBarForce, { ...sizes(rig.own('leads')), I: rig.figure('peak-current') }),
    },
  ],
  limits: [
    {
      id: 'leads-force',
      title: 'Bus bars, force',
      slot: 'leads',
      stress: (rig) => rig.figure('leads-force'),
      rating: (rig) => rig.own('leads').optional('F'),
      levers: ['leads.s', 'store.V0', 'leads.w'],
      onlyIfKnown: true,
      note: 'At the peak and at rest. Bars that are not clamped open up, and their inductance rises as they do.',
    },
    {
      id: 'leads-creepage',
      title: 'Bus bars, field along the creepage',
      slot: 'leads',
      stress: (rig) =>
        work(sourceFormulas.surfaceStress, { V: rig.figure('discharge-voltage'), l: rig.own('leads').quantity('c') }),
      rating: (rig) => (rig.own('leads').optional('c') ? rig.own('leads').quantity('Es') : null),
      levers: ['leads.c', 'store.V0'],
      onlyIfKnown: true,
    },
  ],
  steps: () => [
    {
      id: 'leads-held',
      phase: 'prepare',
      seconds: 60,
      text: 'Bus bars clamped along their whole length, the sheet between them whole and past their edges; bolts tight.',
      hold: 'Every clamp pulled on by hand while the strap is on.',
    },
  ],
});
