import { rating } from '../../field/index.ts';
import { meterFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { bandwidth, monitorSteps, scopeFigures, slowProblem } from './monitor.ts';

export const currentLoop = defineBlock({
  slot: 'monitor',
  kind: 'loop',
  title: 'Current loop with integrator',
  glyph: () => 'current-loop',
  fields: {
    M: {
      type: 'quantity',
      symbol: 'M',
      title: 'Mutual inductance',
      unit: 'H',
      min: 0,
      max: 1e-2,
      open: true,
      initial: '100 nH',
      tolerance: true,
      help: 'Volts of the bare loop at one ampere a second.',
    },
    S: {
      type: 'quantity',
      symbol: 'k',
      title: 'Sensitivity behind the integrator',
      unit: 'Ω',
      min: 0,
      max: 1e3,
      open: true,
      initial: '100 µΩ',
      tolerance: true,
      help: 'In volts an ampere, which are ohms: 1 mV/A is 1 mΩ.',
    },
    B: bandwidth,
    Sd: rating('S', 'di/dt rating', 'A/s', 1e15, 'Above it its insulation or its integrator is overdriven.'),
    V: rating('Vi', 'Voltage its insulation bears', 'V', 1e6),
  },
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
