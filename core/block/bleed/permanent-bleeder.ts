import { bleedFormulas, work } from '../../formula/index.ts';
import { rating } from '../../field/index.ts';
import { defineBlock } from '../define.ts';
import { bleedGoal } from '../goal.ts';
import { stringFields, stringKey, stringPowerLimit, stringResistance, stringVoltageLimit } from '../resistor-string.ts';

export const permanentBleeder = defineBlock({
  slot: 'bleeder',
  kind: 'permanent',
  title: 'Permanent bleeder',
  glyph: () => 'resistor-down',
  fields: { ...stringFields('10 kΩ ±10 %'), P: rating('Pr', 'Power rating of one', 'W', 1e6) },
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P' } },
  offers: (own) => ({ bleedResistance: stringResistance(own, 'bleeder') }),
  circuit: (_own, rig, { plus, minus, tag }, scene) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: rig.offer('bleedResistance').value },
      says: 'permanent bleeder',
      ...(scene.of === 'discharge' ? { leftOut: { what: 'the bleeder', instead: 'open' as const } } : {}),
    },
  ],
  figures: [
    {
      id: 'bleeder-power',
      title: 'Bleeder power at full charge',
      slot: 'bleeder',
      compute: (rig) =>
        work(
          bleedFormulas.bleedPeakPower,
          { R: stringResistance(rig.own('bleeder'), 'bleeder'), V: rig.offer('chargedTo') },
          'power in the bleeder',
        ),
    },
  ],
  limits: [
    stringVoltageLimit('bleeder', 'bleeder-voltage', 'Bleeder', (rig) => rig.offer('chargedTo'), {
      levers: ['bleeder.n', 'store.V0'],
    }),
    stringPowerLimit('bleeder', 'bleeder-power', 'Bleeder', 'power', (rig) => rig.offer('chargedTo'), {
      levers: ['bleeder.R', 'bleeder.n', 'store.V0'],
      note: 'It carries this power for as long as the bank stands charged.',
    }),
  ],
  steps: (_own, rig) => {
    const goal = bleedGoal(rig);
    const worked = rig.figure(goal.figures.bleeder);
    return [
      {
        id: 'bleed-wait',
        phase: 'bleed',
        text: 'Stay outside the guard and let the bleeder work. Watch the meter fall.',
        expect: [
          { label: `Calculated below ${goal.text} after`, worked, print: 'duration', use: 'nominal' },
          { label: 'At worst tolerance after', worked, print: 'duration', use: 'high' },
        ],
        does: 'bleed',
        caution:
          'A meter that does not fall as calculated means a weak or open bleeder: do not wait on it, go on with the discharge tool at arm’s length.',
      },
    ];
  },
});
