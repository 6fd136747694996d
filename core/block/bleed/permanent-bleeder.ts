import { bleedFormulas, storeFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../define.ts';
import type { Own } from '../context.ts';
import { bleedGoal } from '../goal.ts';

const string = (own: Own) => work(storeFormulas.seriesResistance, { R: own.quantity('R'), n: own.quantity('n') }, 'bleeder');

export const permanentBleeder = defineBlock({
  slot: 'bleeder',
  kind: 'permanent',
  title: 'Permanent bleeder',
  glyph: () => 'resistor-down',
  fields: {
    R: {
      type: 'quantity',
      symbol: 'R',
      title: 'Resistance of one',
      unit: 'Ω',
      min: 0,
      max: 1e12,
      open: true,
      initial: '10 kΩ ±10 %',
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
      title: 'Power rating of one',
      unit: 'W',
      min: 0,
      max: 1e6,
      open: true,
      initial: null,
      optional: true,
    },
  },
  key: (own) => ({ text: printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω') }),
  offers: (own) => ({ bleedResistance: string(own) }),
  figures: [
    {
      id: 'bleeder-power',
      title: 'Bleeder power at full charge',
      slot: 'bleeder',
      compute: (rig) =>
        work(bleedFormulas.bleedPeakPower, { R: string(rig.own('bleeder')), V: rig.offer('chargedTo') }, 'power in the bleeder'),
    },
  ],
  limits: [
    {
      id: 'bleeder-voltage',
      title: 'Bleeder, voltage of one',
      slot: 'bleeder',
      stress: (rig) => work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('bleeder').quantity('n') }),
      rating: (rig) => rig.own('bleeder').optional('V'),
      levers: ['bleeder.n', 'store.V0'],
    },
    {
      id: 'bleeder-power',
      title: 'Bleeder, power of one',
      slot: 'bleeder',
      stress: (rig) => {
        const own = rig.own('bleeder');
        return work(
          bleedFormulas.bleedPeakPower,
          { R: own.quantity('R'), V: work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: own.quantity('n') }) },
          'power in one bleed resistor',
        );
      },
      rating: (rig) => rig.own('bleeder').optional('P'),
      levers: ['bleeder.R', 'bleeder.n', 'store.V0'],
      note: 'It carries this power for as long as the bank stands charged.',
    },
  ],
  steps: (_own, rig) => {
    const goal = bleedGoal(rig);
    return [
      {
        id: 'bleed-wait',
        phase: 'bleed',
        text: 'Stay outside the guard and let the bleeder work. Watch the meter fall.',
        expect: [
          {
            label: `Calculated below ${goal.text} after`,
            worked: rig.figure(goal.figures.bleeder),
            print: 'duration',
            use: 'nominal',
          },
          { label: 'At worst tolerance after', worked: rig.figure(goal.figures.bleeder), print: 'duration', use: 'high' },
        ],
        caution:
          'A meter that does not fall as calculated means a weak or open bleeder: do not wait on it, go on with the discharge tool at arm’s length.',
      },
    ];
  },
});
