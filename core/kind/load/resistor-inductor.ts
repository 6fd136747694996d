import { dischargeFormulas, inductanceFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import type { Own } from '../../block/context.ts';

function leadInductance(own: Own): Worked | null {
  const [l, d] = [own.optional('length'), own.optional('diameter')];
  if (!l || !d) return null;
  if (own.choice('layout') === 'straight')
    return work(inductanceFormulas.straightWireInductance, { l, d }, 'inductance of the leads');
  return work(inductanceFormulas.loopInductance, { D: work(inductanceFormulas.loopOfLead, { l }), d }, 'inductance of the leads');
}

export const resistorInductor = defineBlock({
  slot: 'load',
  kind: 'resistor-inductor',
  title: 'Resistor and inductor with leads',
  glyph: () => 'resistor-inductor',
  fields: {
    R: {
      type: 'quantity',
      symbol: 'R',
      title: 'Resistance with leads',
      unit: 'Ω',
      min: 0,
      max: 1e9,
      initial: '100 mΩ',
      tolerance: true,
    },
    L: {
      type: 'quantity',
      symbol: 'L',
      title: 'Inductance',
      unit: 'H',
      min: 0,
      max: 1e3,
      initial: '2 µH',
      tolerance: true,
      help: 'Of the load itself, without its leads.',
    },
    length: {
      type: 'quantity',
      symbol: 'l',
      title: 'Lead length, there and back',
      unit: 'm',
      min: 0,
      max: 1e3,
      open: true,
      initial: '1 m',
      optional: true,
    },
    diameter: {
      type: 'quantity',
      symbol: 'd',
      title: 'Lead diameter',
      unit: 'm',
      min: 0,
      max: 1,
      open: true,
      initial: '3 mm',
      optional: true,
      help: 'Conductor only; a gauge such as 10 AWG is understood.',
    },
    layout: {
      type: 'choice',
      title: 'Leads lie',
      initial: 'loop',
      options: [
        { value: 'loop', title: 'in an open loop' },
        { value: 'straight', title: 'straight, the return far away' },
      ],
      help: 'Both are upper estimates: leads side by side or twisted have less.',
    },
    E: {
      type: 'quantity',
      symbol: 'Er',
      title: 'Energy it takes in one pulse',
      unit: 'J',
      min: 0,
      max: 1e12,
      open: true,
      initial: null,
      optional: true,
    },
  },
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
      title: 'Load, energy of one pulse',
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
