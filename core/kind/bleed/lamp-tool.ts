import { onlyWith, quantity, rating, above, choice, fields, within, type QuantityIn } from '../../field/index.ts';
import { bleedFormulas, chargeFormulas, lampFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type FigureSpec, type LimitSpec, type Own, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { stringFields, stringKey, stringPart, stringResistance } from '../../block/resistor-string.ts';
import { toolFields, toolFigures, toolLimits, toolSteps } from './discharge-tool.ts';
import type { ToolPart } from '../../block/wired.ts';
import type { FigureId } from '../../block/names.ts';
import { bleedDesk } from './desks.ts';
import { probeGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'tool/lamp-tool': typeof lampToolFields;
  }
  interface FigureIds {
    'lamp-out': true;
    'lamp-on-time': true;
    'lamp-current': true;
    'clamp-power': true;
    'clamp-energy': true;
    'branch-power': true;
  }
}

const isBranch = (own: Own<typeof lampToolFields>): boolean => own.is('wiring', 'branch');
const string = (own: Own<typeof lampToolFields>): Worked => stringResistance(own, 'resistors of the stick');

/**
 * What discharges the last of the voltage, lamps and clamp left out, which only speed it up before: all of the tool where the lamps lie in
 * its row, the bleed resistor where they hang beside it.
 */
const whole = (own: Own<typeof lampToolFields>): Worked =>
  isBranch(own)
    ? string(own)
    : work(chargeFormulas.seriesSum, { R1: string(own), R2: own.quantity('Rp') }, 'discharge stick, its lamps out');

const notFitted = ruled('resistor across the lamps', 1e15, 'Ω', 'there is none');
const nothingBeside = ruled('resistance straight across the store', 1e15, 'Ω', 'all of the current goes through the lamp part');

/** The branch of the lamps as the formulas take it. */
const branchOf = (own: Own<typeof lampToolFields>) => ({
  Rs: isBranch(own) ? own.quantity('Rb') : string(own),
  Rp: isBranch(own) ? notFitted : own.quantity('Rp'),
  Rl: own.quantity('Rl'),
  Vz: own.quantity('Vz'),
  Vf: own.quantity('Vf'),
});

const out = (rig: RigContext): Worked => {
  const own = rig.own('tool');
  const { Rs, Rp, Rl, Vf } = branchOf(own);
  return work(lampFormulas.lampOutVoltage, { Rs, Rp, Rl, Vf, Il: own.quantity('Il') }, 'voltage left when the lamp goes out');
};

const onTime = (rig: RigContext): Worked => {
  const own = rig.own('tool');
  const { Rs, Rp, Rl, Vz, Vf } = branchOf(own);
  const rest = { C: rig.offer('capacitance'), V0: rig.offer('chargedTo'), Rs, Rl, Vz, Vf, Il: own.quantity('Il') };
  return isBranch(own)
    ? work(lampFormulas.branchLampTime, { ...rest, Rx: string(own) }, 'time until the lamp goes out')
    : work(lampFormulas.lampOnTime, { ...rest, Rp }, 'time until the lamp goes out');
};

const figures: readonly FigureSpec[] = [
  { id: 'lamp-out', title: 'Lamp goes out at', slot: 'tool', compute: out },
  { id: 'lamp-on-time', title: 'Lamp stays lit for', slot: 'tool', mayBeMissing: true, compute: onTime },
  {
    id: 'lamp-current',
    title: 'LED current at first touch',
    slot: 'tool',
    compute: (rig) =>
      work(
        lampFormulas.lampCurrent,
        { V: rig.offer('chargedTo'), ...branchOf(rig.own('tool')) },
        'current of the lamp at first touch',
      ),
  },
  {
    id: 'clamp-power',
    title: 'Power in the clamp at first touch',
    slot: 'tool',
    compute: (rig) =>
      work(
        lampFormulas.clampPower,
        { V: rig.offer('chargedTo'), ...branchOf(rig.own('tool')) },
        'power in the clamp at first touch',
      ),
  },
  {
    id: 'clamp-energy',
    title: 'Energy in the clamp, one discharge',
    slot: 'tool',
    compute: (rig) => {
      const own = rig.own('tool');
      const store = { C: rig.offer('capacitance'), V0: rig.offer('chargedTo'), Rx: isBranch(own) ? string(own) : nothingBeside };
      return work(lampFormulas.clampEnergy, { ...store, ...branchOf(own) }, 'energy in the clamp');
    },
  },
  {
    id: 'branch-power',
    title: 'Power in the resistor of the branch at first touch',
    slot: 'tool',
    mayBeMissing: true,
    compute: (rig) => {
      const own = rig.own('tool');
      if (!isBranch(own))
        throw new Unavailable('tool', 'the lamps are in series with the resistors: there is no branch', 'wiring');
      return work(
        bleedFormulas.bleedPeakPower,
        { R: own.quantity('Rb'), V: rig.offer('chargedTo') },
        'power in the resistor of the branch',
      );
    },
  },
];

const held = (
  id: string,
  title: string,
  figure: FigureId,
  field: QuantityIn<typeof lampToolFields>,
  note: string,
): LimitSpec => ({
  id,
  title,
  slot: 'tool',
  stress: (rig) => rig.figure(figure),
  rating: (rig) => rig.own('tool').optional(field),
  onlyIfKnown: true,
  levers: ['tool.Rl', 'tool.Rb', 'tool.n', 'store.V0'],
  note,
});

const lampLimits: readonly LimitSpec[] = [
  held(
    'lamp-current',
    'Stick, LED current',
    'lamp-current',
    'Im',
    'While the clamp conducts: its voltage less the drop, over the resistor of the lamps.',
  ),
  held('clamp-power', 'Stick, power in the clamp', 'clamp-power', 'Pz', 'At first touch.'),
  held('clamp-energy', 'Stick, energy in the clamp', 'clamp-energy', 'Ez', 'Over one discharge.'),
  held('branch-power', 'Stick, branch resistor power', 'branch-power', 'Pb', 'At first touch.'),
];

/** The tool as it is wired. Either way the lamps stand in inverse parallel, one for each polarity, and never in a row. */
const wired = (own: Own<typeof lampToolFields>): ToolPart[] => {
  const print = (value: number, unit: 'Ω' | 'V') => printQuantity(value, unit, { trim: true });
  const [Vz, Vf, Rl] = [own.quantity('Vz').value, own.quantity('Vf').value, own.quantity('Rl').value];
  const resistor = (name: string, nodes: readonly [string, string], R: number): ToolPart => ({
    kind: 'resistor',
    name,
    nodes,
    R,
    label: print(R, 'Ω'),
  });
  return [
    ...(isBranch(own)
      ? [stringPart(own, ['tip', '0']), resistor('Rb', ['tip', 'part'], own.quantity('Rb').value)]
      : [stringPart(own, ['tip', 'part']), resistor('Rp', ['part', '0'], own.quantity('Rp').value)]),
    { kind: 'clamp', name: 'Z', nodes: ['part', '0'], V: Vz, label: print(Vz, 'V') },
    resistor('Rl', ['part', 'lamp'], Rl),
    { kind: 'lamp', name: 'L1', nodes: ['lamp', '0'], V: Vf, label: '+' },
    { kind: 'lamp', name: 'L2', nodes: ['0', 'lamp'], V: Vf, label: '−' },
  ];
};

const lampToolFields = fields({
  ...toolFields,
  ...stringFields('1.5 kΩ ±10 %'),
  wiring: choice(
    'Lamp circuit',
    { row: 'across a clamp in series with the resistors', branch: 'in a branch across the bleed resistor' },
    { help: 'Either way two LEDs in inverse parallel, so that one lights at either polarity.' },
  ),
  Rb: onlyWith(
    'wiring',
    ['branch'],
    quantity('Branch resistor', 'Ω', above(0, 1e8), '10 kΩ ±10 %', {
      tolerance: true,
      help: 'From the tip to the clamp: it drops the rest of the voltage.',
    }),
  ),
  Pb: onlyWith('wiring', ['branch'], rating('Branch resistor, pulse power rating', 'W', 1e9)),
  Rp: onlyWith('wiring', ['row'], quantity('Resistor across the LEDs', 'Ω', above(0, 1e6), '470 Ω ±10 %', { tolerance: true })),
  Rl: quantity('LED series resistor', 'Ω', above(0, 1e6), '680 Ω ±10 %', { tolerance: true }),
  Vz: quantity('Clamp voltage', 'V', above(0, 1e3), '12 V ±6 %', {
    tolerance: true,
    help: 'Two zener diodes in series, facing each other: the voltage of one plus the forward drop of the other.',
  }),
  Vf: quantity('LED forward drop', 'V', within(0, 100), '1.8 V ±10 %', {
    tolerance: true,
    help: 'Two LEDs in inverse parallel, one for each polarity: red 1.7 to 2 V. A filament lamp has none.',
  }),
  Il: quantity('Visible down to', 'A', above(0, 1), '0.2 mA', {
    help: 'In the light of the workshop; common practice, no source.',
  }),
  Im: rating('LED current rating', 'A', 1e3),
  Pz: rating('Clamp, pulse power rating', 'W', 1e9),
  Ez: rating('Clamp, pulse energy rating', 'J', 1e9),
});

export const lampTool = defineBlock({
  slot: 'tool',
  kind: 'lamp-tool',
  title: 'Discharge stick with LEDs',
  desks: [bleedDesk],
  glyph: () => probeGlyph,
  fields: lampToolFields,
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({ toolResistance: whole(own) }),
  figures: [...figures, ...toolFigures],
  limits: [...toolLimits, ...lampLimits],
  wired,
  problems: (_own, rig) => {
    const V = rig.figure('lamp-out').value;
    if (V <= 50) return [];
    const less = isBranch(rig.own('tool'))
      ? 'A smaller resistor in the branch.'
      : 'A smaller resistance in series, or a larger one across the lamps.';
    const text = `The lamp is out with ${printQuantity(V, 'V')} left, of either polarity: it says nothing below that, and a store at that voltage is not empty. ${less}`;
    return [{ severity: 'warning', slot: 'tool', field: isBranch(rig.own('tool')) ? 'Rb' : 'Rp', text }];
  },
  steps: (_own, rig) => [
    ...toolSteps(rig),
    {
      id: 'tool-lamp',
      phase: 'bleed',
      text: 'The lamp says when to look, the meter confirms it: leave the stick on after the lamp is out.',
      expect: [{ label: 'Lamp goes out at', worked: rig.figure('lamp-out'), print: 'quantity', use: 'high' }],
      caution: 'A lamp that never came on is a broken stick or an open lead, and not an empty store.',
    },
  ],
});
