import { above, choice, quantity, fields } from '../../field/index.ts';
import { chargeFormulas, bleedFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage } from '../../block/goal.ts';
import { meterOffer, meterLeftOn, verifySteps } from './shared.ts';
import { voltmeterGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'meter/voltmeter': typeof voltmeterFields;
  }
  interface FigureIds {
    'metered-bleed': true;
  }
}

const isHand = (own: Own<typeof voltmeterFields>): boolean => own.is('held', 'hand');

const voltmeterFields = fields({
  V: quantity('Maximum input voltage', 'V', above(0, 1e6), '600 V', {
    symbol: 'Vm',
    ofOneThing: true,
    help: 'The lowest of its range, its category and its leads.',
  }),
  R: quantity('Input resistance', 'Ω', above(0, 1e15), '10 MΩ', { symbol: 'Rm' }),
  range: quantity('Selected range, full scale', 'V', above(0, 1e6), null, {
    symbol: 'Vrg',
    help: 'Empty: auto-ranging.',
  }),
  held: choice(
    'Connection to the bank',
    { fixed: 'fixed in place, leads screwed on, read from outside', hand: 'hand instrument, leads with tips or plugs' },
    {
      help: 'A hand instrument is off above 1 kV, and at every shot: its leads are pulled outside the guard before the count.',
    },
  ),
  category: choice(
    'Measurement category',
    {
      'not-known': 'not known',
      none: 'none: no mains',
      'cat-2': 'CAT II: outlets',
      'cat-3': 'CAT III: fixed wiring',
      'cat-4': 'CAT IV: the service',
    },
    {
      help: 'IEC 61010-2-033. It rates the meter for mains surges at its voltage; it says nothing about a capacitor bank.',
    },
  ),
});

export const voltmeter = defineBlock({
  slot: 'meter',
  kind: 'voltmeter',
  title: 'Voltmeter',
  glyph: () => voltmeterGlyph,
  fields: voltmeterFields,
  key: (own) => ({ text: `to ${printQuantity(own.quantity('V').value, 'V', { trim: true })}` }),
  takes: { part: 'meter', fields: { V: 'V', R: 'R' } },
  offers: (own) => meterOffer(() => own.quantity('R')),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R').value },
      says: 'input resistance of the meter',
      leftOut: { what: 'the meter', instead: 'open' },
    },
  ],
  figures: [
    {
      id: 'metered-bleed',
      title: 'Time to a tenth with the meter left on',
      slot: 'meter',
      mayBeMissing: true,
      compute: (rig) => {
        const bleeder = rig.offers('bleeder').bleedResistance;
        if (!bleeder) throw new Unavailable('bleeder', 'this rig has no permanent bleeder');
        const R = work(
          chargeFormulas.parallelResistance,
          { R1: bleeder, R2: rig.own('meter').quantity('R') },
          'bleeder with the meter across it',
        );
        return work(bleedFormulas.rcTimeToTenth, { R, C: rig.figure('bank-capacitance') }, 'time to a tenth, meter left on');
      },
    },
  ],
  limits: [
    {
      id: 'meter-maximum',
      title: 'Meter',
      slot: 'meter',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('meter').quantity('V'),
      levers: ['meter.V', 'store.V0'],
      protects: true,
    },
    {
      id: 'meter-range',
      title: 'Meter, selected range',
      slot: 'meter',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('meter').optional('range'),
      levers: ['meter.range'],
      onlyIfKnown: true,
    },
  ],
  problems: (own, rig) => [
    ...meterLeftOn(rig, own.quantity('V').value, 'V'),
    ...(own.is('category', 'none') && rig.offers('supply').frequency !== undefined
      ? [
          {
            severity: 'warning' as const,
            slot: 'meter' as const,
            field: 'category' as const,
            text: 'A meter without a category is not made for anything connected to mains, and this supply is.',
          },
        ]
      : []),
  ],
  instruments: (own) => [
    {
      name: isHand(own) ? 'hand meter' : 'voltmeter on fixed leads',
      at: 'bank',
      most: own.quantity('V').value,
      R: own.quantity('R').value,
      isHand: isHand(own),
    },
  ],
  steps: (own, rig) => [
    {
      id: 'meter-check',
      phase: 'instruments',
      does: 'prove',
      text: `Meter that may see ${printQuantity(own.quantity('V').value, 'V', { trim: true })} or more, on a range above ${printQuantity(highestVoltage(rig), 'V')}, on the bank. Prove it on a known source first: its battery, its leads, its range.`,
      hold: 'The meter has shown a known voltage.',
      caution: `No other meter on this bank: a meter not rated for ${printQuantity(highestVoltage(rig), 'V')} can fail, read zero, or burn.`,
    },
    ...(isHand(own) && rig.offers('switch').firedBy !== 'itself'
      ? [
          {
            id: 'meter-unplug',
            phase: 'isolate' as const,
            text: 'Hand meter off the bank for the shot: its plugs pulled at the guard, from outside.',
            hold: 'The plugs hang loose.',
            seconds: 5,
          },
        ]
      : []),
    ...verifySteps(rig, 'Read the meter across the bank’s own terminals, then go down its ranges to the lowest.'),
  ],
});
