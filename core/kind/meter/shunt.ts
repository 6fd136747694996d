import { rating, above, quantity, within, fields } from '../../field/index.ts';
import { dischargeFormulas, meterFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { bandwidth, monitorSteps, scopeFigures, slowProblem } from './monitor.ts';
import { shuntGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'monitor/shunt': typeof shuntFields;
  }
  interface FigureIds {
    'shunt-kick': true;
  }
}

const shuntFields = fields({
  R: quantity('Resistance', 'Ω', above(0, 1e6), '1 mΩ ±1 %', { symbol: 'Rs', tolerance: true }),
  L: quantity('Inductance seen by its tap', 'H', within(0, 1e-3), '1 nH', {
    symbol: 'Ls',
    help: 'A coaxial one has almost none; a strip has tens of nanohenries, and shows L·di/dt as if it were current.',
  }),
  B: bandwidth,
  E: rating('Energy rating per pulse', 'J', 1e9, { symbol: 'Er' }),
  I: rating('Peak current rating', 'A', 1e9, { symbol: 'Ip' }),
});

export const shunt = defineBlock({
  slot: 'monitor',
  kind: 'shunt',
  title: 'Shunt',
  glyph: () => shuntGlyph,
  fields: shuntFields,
  key: (own) => ({ text: printQuantity(own.quantity('R').value, 'Ω') }),
  offers: (own) => ({ loopResistance: own.quantity('R'), loopInductance: own.quantity('L') }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element:
        own.quantity('L').value > 0
          ? { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L: own.quantity('L').value, R: own.quantity('R').value }
          : { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R').value },
      says: 'shunt',
    },
  ],
  figures: [
    ...scopeFigures((rig) =>
      work(meterFormulas.shuntVoltage, { I: rig.figure('peak-current'), R: rig.own('monitor').quantity('R') }),
    ),
    {
      id: 'shunt-kick',
      title: 'Shunt, false voltage at the first instant',
      slot: 'monitor',
      compute: (rig) =>
        work(
          meterFormulas.loopOutput,
          { M: rig.own('monitor').quantity('L'), S: rig.figure('peak-di-dt') },
          'voltage of the inductance of the shunt',
        ),
    },
  ],
  limits: [
    {
      id: 'shunt-energy',
      title: 'Shunt: energy per pulse',
      slot: 'monitor',
      stress: (rig) =>
        work(dischargeFormulas.heatFromAction, { A: rig.figure('action-integral'), R: rig.own('monitor').quantity('R') }),
      rating: (rig) => rig.own('monitor').optional('E'),
      levers: ['monitor.R', 'store.V0'],
    },
    {
      id: 'shunt-current',
      title: 'Shunt, peak current',
      slot: 'monitor',
      stress: (rig) => rig.figure('peak-current'),
      rating: (rig) => rig.own('monitor').optional('I'),
      levers: ['load.R', 'store.V0'],
    },
  ],
  problems: (own, rig) => {
    const [kick, peak] = [rig.figure('shunt-kick').value, rig.figure('monitor-peak').value];
    if (kick < 0.2 * peak) return slowProblem(own, rig);
    const text = `Its inductance shows ${printQuantity(kick, 'V')} at the first instant, beside a true peak of ${printQuantity(peak, 'V')}: a coaxial shunt, or a current loop.`;
    return [...slowProblem(own, rig), { severity: 'warning', slot: 'monitor', field: 'L', text }];
  },
  instruments: () => [{ name: 'shunt with its oscilloscope', at: 'earthed lead', most: null }],
  steps: (_own, rig) =>
    monitorSteps(
      rig,
      'Oscilloscope on the shunt: it stands in the earthed lead, and the earth of the oscilloscope goes to its earthed end and nowhere else. Nobody holds it; it may jump to the voltage of the bank if an earth comes off.',
    ),
});
