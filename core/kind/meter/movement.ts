import { quantity, rating, above, fields, within } from '../../field/index.ts';
import { chargeFormulas, bleedFormulas, meterFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage } from '../../block/goal.ts';
import { stringFields, stringResistance } from '../../block/resistor-string.ts';
import { meterOffer, meterLeftOn, verifySteps } from './shared.ts';
import type { FieldId } from '../../block/names.ts';
import { scaleDesk } from './desks.ts';
import { movementGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'meter/movement': typeof movementMeterFields;
  }
  interface FigureIds {
    'meter-full-scale': true;
    'meter-multiplier': true;
  }
}

const multiplier = (own: Own<typeof movementMeterFields>): Worked => stringResistance(own, 'multiplier resistance');

const fullScale = (own: Own<typeof movementMeterFields>): Worked =>
  work(meterFormulas.meterFullScale, {
    Rs: multiplier(own),
    Rm: own.quantity('Rm'),
    Ifs: own.quantity('Ifs'),
    k: own.quantity('k'),
  });

/** What stands on one resistor when the bank is at its highest. */
const shareOfOne = (rig: RigContext): Worked =>
  work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('meter').quantity('n') });

function problems(own: Own<typeof movementMeterFields>, rig: RigContext): Problem[] {
  const full = fullScale(own).value;
  const V0 = rig.offer('chargedTo').value;
  const warn = (field: FieldId<'meter'>, text: string): Problem => ({ severity: 'warning', slot: 'meter', field, text });
  return [
    ...(V0 > full
      ? [
          warn(
            'R',
            `At ${printQuantity(V0, 'V')} the needle is against its stop: full scale is ${printQuantity(full, 'V')}. Add resistors in series.`,
          ),
        ]
      : V0 < full / 4
        ? [
            warn(
              'R',
              `At ${printQuantity(V0, 'V')} the needle reaches ${printPercent(V0 / full, 2)} of full scale; read it above a third.`,
            ),
          ]
        : []),
    ...meterLeftOn(rig, full, 'R'),
    ...(own.quantity('k').value === 1
      ? [warn('k', 'Not calibrated: compare it with a hand meter at a low voltage, and keep the factor.')]
      : []),
  ];
}

const movementMeterFields = fields({
  ...stringFields('1 MΩ ±1 %'),
  P: rating('Power rating, each', 'W', 1e6, { symbol: 'Pr' }),
  Ifs: quantity('Full-scale current', 'A', above(0, 1), '100 µA', {
    tolerance: true,
    help: 'Of the movement; its class is its tolerance.',
  }),
  Rm: quantity('Resistance of the movement', 'Ω', within(0, 1e6), '1 kΩ', { tolerance: true }),
  Vfs: quantity('Full scale wanted', 'V', above(0, 1e7), '100 V', { help: 'To work out the series resistance needed.' }),
  k: quantity('Calibration factor', '1', within(0.5, 2), '1', {
    help: 'True voltage over indicated, found at a low voltage beside a hand meter.',
  }),
});

export const movementMeter = defineBlock({
  slot: 'meter',
  kind: 'movement',
  title: 'Movement with series multiplier',
  desks: [scaleDesk],
  glyph: () => movementGlyph,
  fields: movementMeterFields,
  key: (own) => ({ text: `to ${printQuantity(fullScale(own).value, 'V', { trim: true })}` }),
  offers: (own) =>
    meterOffer(() => work(chargeFormulas.seriesSum, { R1: multiplier(own), R2: own.quantity('Rm') }, 'multiplier and movement')),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: multiplier(own).value + own.quantity('Rm').value },
      says: 'movement with its multiplier',
      leftOut: { what: 'the meter', instead: 'open' },
    },
  ],
  figures: [
    { id: 'meter-full-scale', title: 'Full scale of the meter', slot: 'meter', compute: (rig) => fullScale(rig.own('meter')) },
    {
      id: 'meter-multiplier',
      title: 'Series resistance for the full scale wanted',
      slot: 'meter',
      compute: (rig) => {
        const own = rig.own('meter');
        return work(meterFormulas.meterMultiplier, {
          Vfs: own.quantity('Vfs'),
          Ifs: own.quantity('Ifs'),
          Rm: own.quantity('Rm'),
        });
      },
    },
  ],
  limits: [
    {
      id: 'meter-maximum',
      title: 'Meter, full scale',
      slot: 'meter',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => fullScale(rig.own('meter')),
      levers: ['meter.n', 'store.V0'],
      protects: true,
    },
    {
      id: 'meter-string-voltage',
      title: 'Meter multiplier: voltage, each',
      slot: 'meter',
      stress: shareOfOne,
      rating: (rig) => rig.own('meter').optional('V'),
      levers: ['meter.n', 'store.V0'],
      note: 'A single series resistor that fails puts the bank on the movement: use several.',
    },
    {
      id: 'meter-string-power',
      title: 'Meter multiplier: power, each',
      slot: 'meter',
      stress: (rig) =>
        work(bleedFormulas.bleedPeakPower, { R: rig.own('meter').quantity('R'), V: shareOfOne(rig) }, 'power, each'),
      rating: (rig) => rig.own('meter').optional('P'),
      levers: ['meter.R', 'meter.n'],
    },
  ],
  problems,
  instruments: (own) => [
    {
      name: 'movement with its multiplier',
      at: 'bank',
      most: fullScale(own).value,
      R: multiplier(own).value + own.quantity('Rm').value,
    },
    { name: 'hand meter it is calibrated by', at: 'bank', most: null, lowOnly: true },
  ],
  steps: (own, rig) => [
    {
      id: 'meter-calibrate',
      phase: 'instruments',
      does: 'prove',
      text: `Compare the meter with a hand meter at a low voltage, well within the hand meter’s rating; write down the factor. No higher: the hand meter comes off before the voltage goes up to ${printQuantity(highestVoltage(rig), 'V')}.`,
      hold: 'The factor is written on the meter, and the hand meter is off the bank.',
      caution:
        'One end of the multiplier is at the bank’s voltage: the movement sits at the earthed end, behind glass, its case earthed.',
    },
    ...verifySteps(
      rig,
      `Read the meter, then use a hand meter rated for ${printQuantity(highestVoltage(rig), 'V')} or a probe across the bank’s own terminals: a needle near zero of ${printQuantity(fullScale(own).value, 'V')} says little.`,
    ),
  ],
});
