import { quantity, rating, above, fields, within } from '../../field/index.ts';
import { bleedFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { goalBeside } from '../../block/goal.ts';
import { capacitiveParts, transferFigures } from './capacitive.ts';
import { oneCapacitorGlyph } from '../bank/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/second-capacitor': typeof secondCapacitorFields;
  }
  interface FigureIds {
    'load-bleed-time': true;
  }
}

/** What it holds after a shot at the most, J. */
const leftEnergy = (rig: RigContext): Worked =>
  work(
    storeFormulas.storedEnergy,
    { C: rig.own('load').quantity('C'), V: rig.figure('load-peak-voltage') },
    'energy of the peaking capacitor',
  );

const secondCapacitorFields = fields({
  C: quantity('Capacitance of the peaking capacitor', 'F', above(0, 1e3), '1 nF ±5 %', {
    symbol: 'C2',
    tolerance: true,
    help: 'Equal to the store, erected: most energy transfer. Much smaller: most voltage, up to twice.',
  }),
  Vr: rating('DC rating of the peaking capacitor', 'V', 1e8),
  R: quantity('Resistance of the path', 'Ω', within(0, 1e9), '200 mΩ ±50 %', { tolerance: true }),
  L: quantity('Inductance of the path, with leads', 'H', above(0, 1e3), '500 nH ±20 %', { tolerance: true }),
  Rb: quantity('Bleeder across it', 'Ω', above(0, 1e15), '100 MΩ ±10 %', {
    symbol: 'R2',
    tolerance: true,
    optional: true,
    help: 'The bleeder of the store does not reach it: the gap is in between.',
  }),
});

/** A capacitor that the store charges through its switch: transfer, and peaking. */
export const secondCapacitor = defineBlock({
  slot: 'load',
  kind: 'second-capacitor',
  title: 'Peaking capacitor',
  makes: 'Peaking circuit',
  glyph: () => oneCapacitorGlyph,
  fields: secondCapacitorFields,
  takes: { part: 'capacitor', fields: { C: 'C', Vr: 'Vdc' } },
  key: (own) => ({ text: printQuantity(own.quantity('C').value, 'F') }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: own.quantity('L'),
    loadCapacitance: own.quantity('C'),
  }),
  circuit: (own, _rig, at) => [
    ...capacitiveParts(at, {
      R: own.quantity('R').value,
      L: own.quantity('L').value,
      C: own.quantity('C').value,
      says: 'peaking capacitor',
    }),
    ...(own.optional('Rb')
      ? [
          {
            element: {
              kind: 'resistor' as const,
              name: `R${at.tag}b`,
              nodes: [`${at.tag}c`, at.minus] as const,
              R: own.quantity('Rb').value,
            },
            says: 'bleeder of the peaking capacitor',
            leftOut: { what: 'the bleeder of the peaking capacitor', instead: 'open' as const },
          },
        ]
      : []),
  ],
  figures: [
    ...transferFigures,
    {
      id: 'load-bleed-time',
      title: 'Peaking capacitor, below its goal after',
      slot: 'load',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('load');
        const Rb = own.optional('Rb');
        if (!Rb) throw new Unavailable('load', 'the peaking capacitor has no bleeder', 'Rb');
        const V0 = rig.figure('load-peak-voltage');
        return work(
          bleedFormulas.rcBleedTime,
          { R: Rb, C: own.quantity('C'), V0, V: goalBeside(V0, leftEnergy(rig)) },
          'peaking capacitor, to below its goal',
        );
      },
    },
  ],
  limits: [
    {
      id: 'second-voltage',
      title: 'Peaking capacitor, voltage',
      slot: 'load',
      stress: (rig) => rig.figure('load-peak-voltage'),
      rating: (rig) => rig.own('load').optional('Vr'),
      levers: ['load.Vr', 'store.V0', 'load.R'],
    },
  ],
  held: (own, rig) => {
    const R = own.optional('Rb');
    return [
      {
        id: 'second',
        one: 'peaking capacitor',
        count: 1,
        title: 'The peaking capacitor, after a shot',
        V: rig.figure('load-peak-voltage'),
        E1: leftEnergy(rig),
        through: R ? 'its own bleeder' : 'nothing: the store’s bleeder is on the other side of the gap',
        ...(R ? { R, C: own.quantity('C') } : {}),
        then: 'Stick, meter and strap across it as well as across the store.',
      },
    ];
  },
  problems: (own) =>
    own.optional('Rb')
      ? []
      : [
          {
            severity: 'warning' as const,
            slot: 'load' as const,
            field: 'Rb',
            text: 'The peaking capacitor stays charged after a shot and nothing bleeds it: the bleeder of the store is on the other side of the gap.',
          },
        ],
});
