import { above, fields, quantity } from '../../field/index.ts';
import { ruled, tankFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable } from '../../block/context.ts';
import { chokeFields, chokeLink } from '../charging/choke-link.ts';
import { chargingFields, defineCharging, defineLink } from '../charging/link.ts';
import { stringResistance } from '../../block/resistor-string.ts';
import { resistorFields, resistorLink } from '../charging/resistor-link.ts';
import { chokeGlyph } from '../charging/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'charging/choke-resistor': typeof ofChokeAndResistor;
  }
  interface FigureIds {
    'charging-resistor-running': true;
    'charging-resistor-run-time': true;
  }
}

const plain = resistorLink('15 kΩ ±5 %');

const heatedFields = fields(
  {
    ...resistorFields('15 kΩ ±5 %'),
    dTr: quantity('Permitted temperature rise', 'K', above(0, 2000), '200 K', {
      symbol: 'ΔTr',
      help: 'Sets how long the tank may run.',
    }),
  },
  { life: ['dTr'] },
);

/** The same resistors, asked for how long they bear a running tank. */
const heated = defineLink({
  ...plain,
  fields: heatedFields,
  figures: [
    ...(plain.figures ?? []),
    {
      id: 'charging-resistor-running',
      asks: 'wears',
      title: 'Charging resistor: heat while running, each',
      slot: 'charging',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('charging');
        const share = work(
          tankFormulas.pathHeatShare,
          { P: rig.figure('path-power'), R: stringResistance(own, 'charging resistor'), Rt: rig.figure('charging-resistance') },
          'heat of the charging resistor',
        );
        return work(tankFormulas.powerOfOne, { x: share, n: own.quantity('n') }, 'heat per resistor');
      },
    },
    {
      id: 'charging-resistor-run-time',
      asks: 'wears',
      title: 'Charging resistor, permitted run time',
      slot: 'charging',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('charging');
        const m = own.optional('m');
        if (!m) throw new Unavailable('charging', 'the mass of each resistor is not given', 'm');
        const c = ruled('specific heat', 800, 'J/(kg·K)', 'ceramic and carbon, from memory');
        return work(
          tankFormulas.timeToHeat,
          { m, c, dT: own.quantity('dTr'), P: rig.figure('charging-resistor-running') },
          'time until one resistor is as hot as it may be, without cooling',
        );
      },
    },
  ],
  limits: [
    ...(plain.limits ?? []).filter(({ id }) => !['charging-resistor-power', 'charging-resistor-mean-power'].includes(id)),
    {
      id: 'charging-resistor-running',
      title: 'Charging resistor: heat while running, each',
      slot: 'charging',
      stress: (rig) => rig.figure('charging-resistor-running'),
      rating: (rig) => rig.own('charging').optional('P'),
      levers: ['charging.R'],
      note: 'Break after break. Above it the time it may run counts.',
    },
  ],
});

const ofChokeAndResistor = { ...chokeFields, ...heatedFields, ...chargingFields };

const takes = { part: 'inductor', fields: { L: 'L', Rl: 'R', Ic: 'I', Vi: 'V' } };

/** A choke that keeps the supply back while the gap opens, and a resistor that takes up what each break leaves over. */
export const chokeAndResistor = defineCharging({
  kind: 'choke-resistor',
  title: 'Choke and resistor',
  glyph: chokeGlyph,
  fields: ofChokeAndResistor,
  links: [chokeLink(false), heated],
  takes,
  key: (own) => ({
    text: printQuantity(own.quantity('L').value, 'H'),
    detail: `with ${printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω')}`,
  }),
});
