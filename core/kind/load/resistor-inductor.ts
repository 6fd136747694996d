import { above, choice, fields, quantity, within } from '../../field/index.ts';
import { dischargeFormulas, inductanceFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import type { Own } from '../../block/context.ts';
import { resistorInductorGlyph } from '../coil/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/resistor-inductor': typeof resistorInductorFields;
  }
  interface FigureIds {
    'load-energy': true;
  }
}

function leadInductance(own: Own<typeof resistorInductorFields>): Worked | null {
  const [l, d] = [own.optional('length'), own.optional('diameter')];
  if (!l || !d) return null;
  if (own.is('layout', 'straight')) return work(inductanceFormulas.straightWireInductance, { l, d }, 'inductance of the leads');
  return work(inductanceFormulas.loopInductance, { D: work(inductanceFormulas.loopOfLead, { l }), d }, 'inductance of the leads');
}

const resistorInductorFields = fields({
  R: quantity('Resistance with leads', 'Ω', within(0, 1e9), '100 mΩ', { tolerance: true }),
  L: quantity('Inductance', 'H', within(0, 1e3), '2 µH', { tolerance: true, help: 'The load itself, without its leads.' }),
  length: quantity('Lead length, there and back', 'm', above(0, 1e3), '1 m', { symbol: 'l', optional: true }),
  diameter: quantity('Lead diameter', 'm', above(0, 1), '3 mm', {
    symbol: 'd',
    optional: true,
    wire: true,
    help: 'Conductor only; a gauge such as 10 AWG is understood.',
  }),
  layout: choice(
    'Lead layout',
    { loop: 'in an open loop', straight: 'straight, return far away' },
    { help: 'Both are upper estimates: leads side by side or twisted have less.' },
  ),
  E: quantity('Energy rating per pulse', 'J', above(0, 1e12), null, { symbol: 'Er' }),
});

export const resistorInductor = defineBlock({
  slot: 'load',
  kind: 'resistor-inductor',
  title: 'Resistor and inductor with leads',
  glyph: () => resistorInductorGlyph,
  fields: resistorInductorFields,
  key: (own) => ({
    text: own.quantity('L').value > 0 ? printQuantity(own.quantity('L').value, 'H') : printQuantity(own.quantity('R').value, 'Ω'),
  }),
  takes: { part: 'inductor', fields: { R: 'R', L: 'L' } },
  offers: (own) => {
    const lead = leadInductance(own);
    const L = own.quantity('L');
    return {
      loopResistance: own.quantity('R'),
      loopInductance: lead ? work(inductanceFormulas.inductanceSum, { L1: L, L2: lead }, 'inductance of load and leads') : L,
    };
  },
  circuit: (own, rig, { plus, minus, tag }) => {
    const L = rig.offers('load').loopInductance?.value ?? 0;
    const R = own.quantity('R').value;
    return [
      {
        element:
          L > 0
            ? { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L, R }
            : { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: Math.max(R, 1e-6) },
        says: 'load with its leads',
      },
    ];
  },
  figures: [
    {
      id: 'load-energy',
      title: 'Energy into the load',
      slot: 'load',
      compute: (rig) =>
        work(
          dischargeFormulas.heatFromAction,
          { A: rig.figure('action-integral'), R: rig.own('load').quantity('R') },
          'heat in the load',
        ),
    },
  ],
  limits: [
    {
      id: 'load-energy',
      title: 'Load: energy per pulse',
      slot: 'load',
      stress: (rig) => rig.figure('load-energy'),
      rating: (rig) => rig.own('load').optional('E'),
      levers: ['store.V0'],
    },
  ],
  steps: () => [
    {
      id: 'load-held',
      phase: 'prepare',
      text: 'Load and leads fixed so that they cannot move or fly; nothing loose, nothing magnetic near a coil.',
      hold: 'Load and leads pulled on by hand while the strap is on.',
    },
  ],
});
