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
    help: 'Volts of the bare loop at one ampere a second.',
  }),
  S: quantity('Sensitivity behind the integrator', 'Ω', above(0, 1e3), '100 µΩ', {
    symbol: 'k',
    tolerance: true,
    help: 'In volts an ampere, which are ohms: 1 mV/A is 1 mΩ.',
  }),
  B: bandwidth,
  Sd: rating('di/dt rating', 'A/s', 1e15, { symbol: 'S', help: 'Above it its insulation or its integrator is overdriven.' }),
  V: rating('Voltage its insulation bears', 'V', 1e6, { symbol: 'Vi' }),
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
        'peak behind the integrator',
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
      note: 'Round the earthed lead it sees next to nothing; round the hot one it sees the bank.',
    },
  ],
  problems: slowProblem,
  instruments: (own) => [
    { name: 'current loop with its oscilloscope', at: 'earthed lead', most: own.optional('V')?.value ?? null },
  ],
  steps: (_own, rig) =>
    monitorSteps(rig, 'Current loop round the earthed lead, closed, its arrow along the current; its cable away from the load.'),
});
