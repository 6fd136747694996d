import { bleedFormulas, storeFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../define.ts';
import type { Own } from '../context.ts';
import { bleedGoal, residualOf } from '../goal.ts';

const string = (own: Own) =>
  work(storeFormulas.seriesResistance, { R: own.quantity('R'), n: own.quantity('n') }, 'discharge tool');

export const dischargeTool = defineBlock({
  slot: 'tool',
  kind: 'resistor-tool',
  title: 'Discharge tool',
  glyph: () => 'probe',
  fields: {
    R: {
      type: 'quantity',
      symbol: 'R',
      title: 'Resistance of one',
      unit: 'Ω',
      min: 0,
      max: 1e9,
      open: true,
      initial: '1 kΩ ±10 %',
      tolerance: true,
    },
    n: { type: 'quantity', symbol: 'n', title: 'In series', unit: '1', min: 1, max: 1000, integer: true, initial: '1' },
    V: {
      type: 'quantity',
      symbol: 'Vr',
      title: 'Working voltage of one',
      unit: 'V',
      min: 0,
      max: 1e6,
      open: true,
      initial: null,
      optional: true,
    },
    P: {
      type: 'quantity',
      symbol: 'Pr',
      title: 'Pulse power of one',
      unit: 'W',
      min: 0,
      max: 1e9,
      open: true,
      initial: null,
      optional: true,
      help: 'Peak power it is rated for in a pulse as long as this discharge; not the continuous power.',
    },
    E: {
      type: 'quantity',
      symbol: 'Er',
      title: 'Pulse energy of one',
      unit: 'J',
      min: 0,
      max: 1e9,
      open: true,
      initial: null,
      optional: true,
      help: 'Energy one resistor takes in one discharge.',
    },
  },
  key: (own) => ({ text: printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω') }),
  offers: (own) => ({ toolResistance: string(own) }),
  figures: [
    {
      id: 'tool-peak-power',
      title: 'Discharge tool, peak power',
      slot: 'tool',
      compute: (rig) =>
        work(
          bleedFormulas.bleedPeakPower,
          { R: rig.offer('toolResistance'), V: rig.offer('chargedTo') },
          'peak power in the discharge tool',
        ),
    },
    {
      id: 'tool-energy',
      title: 'Discharge tool, energy of each resistor',
      slot: 'tool',
      compute: (rig) =>
        work(
          bleedFormulas.energyShare,
          { E: rig.figure('stored-energy'), n: rig.own('tool').quantity('n') },
          'energy in each resistor of the tool',
        ),
    },
    {
      id: 'tool-time',
      title: 'Discharge tool, time to below 50 V',
      slot: 'tool',
      compute: (rig) => {
        const V0 = rig.offer('chargedTo');
        return work(
          bleedFormulas.rcBleedTime,
          { R: rig.offer('toolResistance'), C: rig.offer('capacitance'), V0, V: residualOf(V0) },
          'time to below 50 V through the discharge tool, bleeder open',
        );
      },
    },
    {
      id: 'tool-time-tenth',
      title: 'Discharge tool, time to a tenth of the voltage',
      slot: 'tool',
      compute: (rig) =>
        work(
          bleedFormulas.rcTimeToTenth,
          { R: rig.offer('toolResistance'), C: rig.offer('capacitance') },
          'time to a tenth of the voltage through the discharge tool, bleeder open',
        ),
    },
  ],
  limits: [
    {
      id: 'tool-energy',
      title: 'Discharge tool, energy of one',
      slot: 'tool',
      stress: (rig) => rig.figure('tool-energy'),
      rating: (rig) => rig.own('tool').optional('E'),
      levers: ['tool.n', 'store.V0', 'tool.E'],
      note: 'Bleeder open: the tool takes all that is stored.',
    },
    {
      id: 'tool-power',
      title: 'Discharge tool, peak power of one',
      slot: 'tool',
      stress: (rig) => {
        const own = rig.own('tool');
        return work(
          bleedFormulas.bleedPeakPower,
          { R: own.quantity('R'), V: work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: own.quantity('n') }) },
          'peak power in one resistor of the tool',
        );
      },
      rating: (rig) => rig.own('tool').optional('P'),
      levers: ['tool.R', 'tool.n', 'store.V0'],
    },
    {
      id: 'tool-voltage',
      title: 'Discharge tool, voltage of one',
      slot: 'tool',
      stress: (rig) => work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('tool').quantity('n') }),
      rating: (rig) => rig.own('tool').optional('V'),
      levers: ['tool.n', 'store.V0'],
    },
  ],
  steps: (_own, rig) => {
    const goal = bleedGoal(rig);
    return [
      {
        id: 'tool-apply',
        phase: 'bleed',
        text: 'Discharge tool across the bank, held by its insulated handle at arm’s length, one hand away from everything else. Keep it on for the whole time.',
        expect: [
          {
            label: `Calculated below ${goal.text} after`,
            worked: rig.figure(goal.figures.tool),
            print: 'duration',
            use: 'nominal',
          },
          { label: 'At worst tolerance after', worked: rig.figure(goal.figures.tool), print: 'duration', use: 'high' },
          { label: 'Power at first touch', worked: rig.figure('tool-peak-power'), print: 'quantity', use: 'high' },
        ],
        caution:
          'A bare short is no procedure: it welds, throws metal and startles. Resistor first, then the meter, then the strap.',
      },
      {
        id: 'misfire-tool',
        phase: 'misfire',
        text: 'Supply isolated: discharge the bank from a distance with the tool on its longest handle, as in the bleed steps, then verify and strap.',
        expect: [{ label: 'Tool on for at least', worked: rig.figure(goal.figures.tool), print: 'duration', use: 'high' }],
      },
    ];
  },
});
