import { quantity } from '../../field/index.ts';
import { bleedFormulas, chargeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { FigureSpec, Own, RigContext } from '../context.ts';
import { defineBlock } from '../define.ts';
import { stringFields, stringKey, stringResistance } from '../resistor-string.ts';
import { toolFields, toolFigures, toolLimits, toolSteps } from './discharge-tool.ts';

/** All of the resistance of the tool, its lamps and its clamp left out: what discharges the last of the voltage. Before, the clamp only speeds it up. */
const whole = (own: Own): Worked =>
  work(
    chargeFormulas.seriesSum,
    { R1: stringResistance(own, 'resistors of the tool'), R2: own.quantity('Rp') },
    'discharge tool, its lamps out',
  );

const lamps = (own: Own) => ({
  Rs: stringResistance(own, 'resistors of the tool'),
  Rp: own.quantity('Rp'),
  Rl: own.quantity('Rl'),
  Vf: own.quantity('Vf'),
  Il: own.quantity('Il'),
});

const out = (rig: RigContext): Worked =>
  work(bleedFormulas.lampOutVoltage, lamps(rig.own('tool')), 'voltage left when the lamp goes out');

const figures: readonly FigureSpec[] = [
  { id: 'lamp-out', title: 'Lamp goes out while there are left', slot: 'tool', compute: out },
  {
    id: 'lamp-on-time',
    title: 'Lamp stays on for',
    slot: 'tool',
    mayBeMissing: true,
    compute: (rig) =>
      work(
        bleedFormulas.lampOnTime,
        {
          C: rig.offer('capacitance'),
          V0: rig.offer('chargedTo'),
          Vz: rig.own('tool').quantity('Vz'),
          ...lamps(rig.own('tool')),
        },
        'time until the lamp goes out',
      ),
  },
];

export const lampTool = defineBlock({
  slot: 'tool',
  kind: 'lamp-tool',
  title: 'Discharge tool with lamps',
  glyph: () => 'probe',
  fields: {
    ...toolFields,
    ...stringFields('1.5 kΩ ±10 %'),
    Rp: quantity({
      symbol: 'Rp',
      title: 'Resistor across the lamps',
      unit: 'Ω',
      min: 0,
      max: 1e6,
      open: true,
      initial: '470 Ω ±10 %',
      tolerance: true,
    }),
    Rl: quantity({
      symbol: 'Rl',
      title: 'Resistor of the lamps',
      unit: 'Ω',
      min: 0,
      max: 1e6,
      open: true,
      initial: '680 Ω ±10 %',
      tolerance: true,
    }),
    Vz: quantity({
      symbol: 'Vz',
      title: 'Voltage of the clamp',
      unit: 'V',
      min: 0,
      max: 1e3,
      open: true,
      initial: '12 V ±6 %',
      tolerance: true,
      help: 'Two zener diodes nose to nose: the voltage of one and the forward drop of the other.',
    }),
    Vf: quantity({
      symbol: 'Vf',
      title: 'Drop of a lamp',
      unit: 'V',
      min: 0,
      max: 100,
      initial: '1.8 V ±10 %',
      tolerance: true,
      help: 'Two light-emitting diodes back to back, one for each polarity: red 1.7 to 2 V. A filament lamp has none.',
    }),
    Il: quantity({
      symbol: 'Il',
      title: 'It is seen down to',
      unit: 'A',
      min: 0,
      max: 1,
      open: true,
      initial: '0.2 mA',
      help: 'In the light of the workshop; common practice, no source.',
    }),
  },
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({ toolResistance: whole(own) }),
  figures: [...figures, ...toolFigures],
  limits: toolLimits,
  problems: (_own, rig) => {
    const V = rig.figure('lamp-out').value;
    if (V <= 50) return [];
    const text = `The lamp is out while ${printQuantity(V, 'V')} are left: it says nothing below. A smaller resistance in series, or a larger one across the lamps.`;
    return [{ severity: 'warning', slot: 'tool', field: 'Rp', text }];
  },
  steps: (_own, rig) => [
    ...toolSteps(rig),
    {
      id: 'tool-lamp',
      phase: 'bleed',
      text: 'The lamp says when to look, the meter says that it is so: leave the tool on after the lamp is out.',
      expect: [{ label: 'Lamp goes out while there are left', worked: rig.figure('lamp-out'), print: 'quantity', use: 'high' }],
      caution: 'A lamp that never came on is a broken tool or an open lead, and not an empty store.',
    },
  ],
});
