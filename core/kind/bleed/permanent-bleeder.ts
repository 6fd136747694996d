import { bleedFormulas, ruled, sourceFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { quantity, rating, fields, whole } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import {
  stringFields,
  stringPowerLimit,
  stringResistance,
  stringVoltageLimit,
  surfaceField,
} from '../../block/resistor-string.ts';
import { storeEnergy } from '../../block/store-energy.ts';
import { bleederCircuit, bleederPower, bleederSteps } from './shared.ts';
import { bleedDesk } from './desks.ts';
import { resistorDownGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'bleeder/permanent': typeof permanentBleederFields;
  }
}

const one = ruled('one string', 1, '1', 'taken singly');

/** Strings side by side as one resistor, Ω. */
const beside = (own: Own<typeof permanentBleederFields>, strings: Worked, title: string): Worked =>
  work(storeFormulas.bankResistance, { R: stringResistance(own, 'one string'), ns: one, np: strings }, title);

const shareOfOne = (rig: RigContext): Worked =>
  work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('bleeder').quantity('n') });

/** J in one resistor when the bleeder takes all that is stored. */
function energyOfOne(rig: RigContext): Worked {
  const own = rig.own('bleeder');
  const ofString = work(bleedFormulas.energyShare, { E: storeEnergy(rig), n: own.quantity('m') }, 'energy in one string');
  return work(bleedFormulas.energyShare, { E: ofString, n: own.quantity('n') }, 'energy in one resistor');
}

export const permanentBleederFields = fields({
  ...stringFields('10 kΩ ±10 %'),
  m: quantity('Strings side by side', '1', whole(1, 100), '1', {
    help: 'Two strings still empty the store when one has failed open.',
  }),
  P: rating('Power rating, each', 'W', 1e6, { symbol: 'Pr' }),
  E: rating('Energy rating per bleed, each', 'J', 1e9, {
    symbol: 'Er',
    help: 'For a bleed so quick that no heat escapes meanwhile.',
  }),
  l: rating('Body length, each', 'm', 10),
  Es: surfaceField,
});

export const permanentBleeder = defineBlock({
  slot: 'bleeder',
  kind: 'permanent',
  title: 'Permanent bleeder',
  desks: [bleedDesk],
  glyph: () => resistorDownGlyph,
  fields: permanentBleederFields,
  key: (own) => ({
    text: printQuantity((own.quantity('R').value * own.quantity('n').value) / own.quantity('m').value, 'Ω'),
    ...(own.quantity('m').value > 1 ? { detail: `${own.quantity('m').value} strings` } : {}),
  }),
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({
    bleedResistance: own.quantity('m').value > 1 ? beside(own, own.quantity('m'), 'bleeder') : stringResistance(own, 'bleeder'),
  }),
  oneOpen: (own, rig) => {
    const left = own.quantity('m').value - 1;
    if (left < 1) return null;
    const V0 = rig.offer('chargedTo');
    const strings = ruled('strings that are left', left, '1', 'one of them has failed open');
    return { title: 'Bleeder, one string open', V0, R: beside(own, strings, 'bleeder, one string open') };
  },
  circuit: bleederCircuit,
  warmed: (own, rig) => {
    const P = own.optional('P');
    // A dump takes it down first, and the bleeder gets what is left.
    return P && !rig.offers('dump').dumpResistance ? [{ title: 'Bleeder', E: energyOfOne(rig), P }] : [];
  },
  figures: [bleederPower],
  limits: [
    stringVoltageLimit('bleeder', 'bleeder-voltage', 'Bleeder', (rig) => rig.offer('chargedTo'), {
      levers: ['bleeder.n', 'store.V0'],
    }),
    stringPowerLimit('bleeder', 'bleeder-power', 'Bleeder', 'power', (rig) => rig.offer('chargedTo'), {
      levers: ['bleeder.R', 'bleeder.n', 'store.V0'],
      note: 'Dissipated for as long as the bank stands charged.',
    }),
    {
      id: 'bleeder-body',
      title: 'Bleeder: voltage along the body, each',
      slot: 'bleeder',
      stress: (rig) => work(sourceFormulas.surfaceStress, { V: shareOfOne(rig), l: rig.own('bleeder').quantity('l') }),
      rating: (rig) => (rig.own('bleeder').optional('l') ? rig.own('bleeder').quantity('Es') : null),
      levers: ['bleeder.n', 'store.V0', 'bleeder.l'],
      onlyIfKnown: true,
      note: 'Dirt, damp and a body pressed against a board cost most of what a clean, dry one withstands.',
    },
    {
      id: 'bleeder-energy',
      title: 'Bleeder: energy per bleed, each',
      slot: 'bleeder',
      stress: energyOfOne,
      rating: (rig) => rig.own('bleeder').optional('E'),
      levers: ['bleeder.n', 'bleeder.m', 'store.V0'],
      onlyIfKnown: true,
    },
  ],
  steps: (_own, rig) => bleederSteps(rig),
});
