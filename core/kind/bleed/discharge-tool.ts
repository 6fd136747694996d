import { bleedFormulas, work } from '../../formula/index.ts';
import { rating, fields } from '../../field/index.ts';
import { bleedThrough, tenthThrough } from '../../block/bleed-through.ts';
import type { FigureSpec, LimitSpec, RigContext, StepSpec } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { bleedGoal, holdOf } from '../../block/goal.ts';
import { storeEnergy } from '../../block/store-energy.ts';
import {
  stringFields,
  stringKey,
  stringPart,
  stringPowerLimit,
  stringResistance,
  stringVoltageLimit,
} from '../../block/resistor-string.ts';
import { bleedDesk } from './desks.ts';
import { probeGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'tool/resistor-tool': typeof toolFields;
  }
  interface FigureIds {
    'tool-peak-power': true;
    'tool-energy': true;
    'tool-time': true;
    'tool-hold': true;
    'tool-time-tenth': true;
  }
}

/** Fields of every tool: its resistors, and what a pulse may do to one of them. */
export const toolFields = fields({
  ...stringFields('1 kΩ ±10 %'),
  P: rating('Pulse power, each', 'W', 1e9, {
    symbol: 'Pr',
    help: 'Rated peak power for a pulse as long as this discharge; not the continuous power.',
  }),
  E: rating('Pulse energy, each', 'J', 1e9, { symbol: 'Er', help: 'Energy one resistor takes in one discharge.' }),
  Is: rating('Strap, permitted first current', 'A', 1e7, {
    help: 'The strap goes on only when the store can drive no more than this; empty if not known.',
  }),
});

/** What is told of every tool. */
export const toolFigures: readonly FigureSpec[] = [
  {
    id: 'tool-peak-power',
    title: 'Discharge stick, peak power',
    slot: 'tool',
    compute: (rig) =>
      work(
        bleedFormulas.bleedPeakPower,
        // Of its resistors alone: what a clamp keeps back at first is not in the way of the current.
        { R: stringResistance(rig.own('tool'), 'resistors of the stick'), V: rig.offer('chargedTo') },
        'peak power in the discharge stick',
      ),
  },
  {
    id: 'tool-energy',
    title: 'Discharge stick, energy of each resistor',
    slot: 'tool',
    compute: (rig) =>
      work(
        bleedFormulas.energyShare,
        { E: storeEnergy(rig), n: rig.own('tool').quantity('n') },
        'energy in each resistor of the stick',
      ),
  },
  {
    id: 'tool-time',
    title: 'Discharge stick, time to below the goal',
    slot: 'tool',
    compute: (rig) => {
      const what = 'time to below the goal through the discharge stick, bleeder open';
      return bleedThrough(rig, rig.offer('toolResistance'), bleedGoal(rig).voltage, what);
    },
  },
  {
    id: 'tool-hold',
    title: 'Discharge stick, on for at least',
    slot: 'tool',
    compute: (rig) => holdOf(rig.figure('tool-time')),
  },
  {
    id: 'tool-time-tenth',
    title: 'Discharge stick, time to a tenth of the voltage',
    slot: 'tool',
    compute: (rig) =>
      tenthThrough(rig, rig.offer('toolResistance'), 'time to a tenth of the voltage through the discharge stick, bleeder open'),
  },
];

export const toolLimits: readonly LimitSpec[] = [
  {
    id: 'tool-energy',
    title: 'Discharge stick: energy, each',
    slot: 'tool',
    stress: (rig) => rig.figure('tool-energy'),
    rating: (rig) => rig.own('tool').optional('E'),
    levers: ['tool.n', 'store.V0', 'tool.E'],
    protects: true,
    note: 'Bleeder open: the stick takes all that is stored.',
  },
  stringPowerLimit('tool', 'tool-power', 'Discharge stick', 'peak power', (rig) => rig.offer('chargedTo'), {
    levers: ['tool.R', 'tool.n', 'store.V0'],
  }),
  stringVoltageLimit('tool', 'tool-voltage', 'Discharge stick', (rig) => rig.offer('chargedTo'), {
    levers: ['tool.n', 'store.V0'],
  }),
];

export function toolSteps(rig: RigContext): StepSpec[] {
  const goal = bleedGoal(rig);
  const hold = rig.figure('tool-hold');
  return [
    {
      id: 'tool-apply',
      phase: 'bleed',
      text: 'Discharge stick across the bank, held by its insulated handle at arm’s length, one hand away from everything else. Keep it on for the whole time.',
      expect: [
        { label: 'Stick on for at least', worked: hold, print: 'duration', use: 'high' },
        { label: `Calculated below ${goal.text} after`, worked: rig.figure('tool-time'), print: 'duration', use: 'nominal' },
        { label: 'Power at first touch, worst case', worked: rig.figure('tool-peak-power'), print: 'quantity', use: 'high' },
      ],
      does: 'tool',
      wait: hold,
      caution:
        'A bare short is no procedure: it welds, throws metal and startles. Resistor first, then the meter, then the strap.',
    },
    {
      id: 'misfire-tool',
      phase: 'misfire',
      text: 'Supply isolated: discharge the bank from a distance with the stick on its longest handle, as in the bleed steps, then verify and strap.',
      expect: [{ label: 'Stick on for at least', worked: hold, print: 'duration', use: 'high' }],
      does: 'tool',
      wait: hold,
    },
  ];
}

export const dischargeTool = defineBlock({
  slot: 'tool',
  kind: 'resistor-tool',
  title: 'Discharge stick',
  desks: [bleedDesk],
  glyph: () => probeGlyph,
  fields: toolFields,
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({ toolResistance: stringResistance(own, 'discharge stick') }),
  figures: toolFigures,
  limits: toolLimits,
  wired: (own) => [stringPart(own, ['tip', '0'])],
  steps: (_own, rig) => toolSteps(rig),
});
