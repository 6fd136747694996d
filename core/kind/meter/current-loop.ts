import { rating, above, fields, quantity } from '../../field/index.ts';
import { meterFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { bandwidth, monitorSteps, scopeFigures, slowProblem } from './monitor.ts';
import { loopGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'monitor/loop': typeof currentLoopFields;
  }
  interface FigureIds {
    'loop-output': true;
  }
}

const currentLoopFields = fields({
  M: quantity('Mutual inductance', 'H', above(0, 1e-2), '100 nH', {
    tolerance: true,
    help: 'Volts from the bare loop at one ampere per second.',
  }),
  S: quantity('Sensitivity after the integrator', 'Ω', above(0, 1e3), '100 µΩ', {
    symbol: 'k',
    tolerance: true,
    help: 'In volts per ampere, which are ohms: 1 mV/A is 1 mΩ.',
  }),
  B: bandwidth,
  Sd: rating('di/dt rating', 'A/s', 1e15, { symbol: 'S', help: 'Above it the insulation or the integrator is overdriven.' }),
  V: rating('Insulation rating', 'V', 1e6, { symbol: 'Vi' }),
});

export const currentLoop = defineBlock({
  slot: 'monitor',
  kind: 'loop',
  title: 'Current loop with integrator',
  glyph: () => loopGlyph,
  fields: currentLoopFields,
  key: (own) => ({ text: printQuantity(own.quantity('M').value, 'H') }),
  offers: () => ({}),
  figures: [
    ...scopeFigures((rig) =>
      work(
        meterFormulas.shuntVoltage,
        { I: rig.figure('peak-current'), R: rig.own('monitor').quantity('S') },
        'peak after the integrator',
      ),
    ),
    {
      id: 'loop-output',
      title: 'Current loop, voltage of the bare loop',
      slot: 'monitor',
      compute: (rig) => work(meterFormulas.loopOutput, { M: rig.own('monitor').quantity('M'), S: rig.figure('peak-di-dt') }),
    },
  ],
  limits: [
    {
      id: 'loop-di-dt',
      title: 'Current loop, di/dt',
      slot: 'monitor',
      stress: (rig) => rig.figure('peak-di-dt'),
      rating: (rig) => rig.own('monitor').optional('Sd'),
      levers: ['load.L', 'store.V0'],
    },
    {
      id: 'loop-insulation',
      title: 'Current loop, insulation',
      slot: 'monitor',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('monitor').optional('V'),
      levers: ['store.V0'],
      note: 'Around the earthed lead it sees almost nothing; around the live one it sees the bank.',
    },
  ],
  problems: slowProblem,
  instruments: (own) => [
    { name: 'current loop with its oscilloscope', at: 'earthed lead', most: own.optional('V')?.value ?? null },
  ],
  steps: (_own, rig) =>
    monitorSteps(rig, 'Current loop closed around the earthed lead, arrow along the current; cable routed away from the load.'),
});
