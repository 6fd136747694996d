import { quantity, fields, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { ifKnown } from '../../block/known.ts';
import { breakFigures, highestBetweenPasses, ofBreaks } from './tank.ts';
import {
  neverFires,
  ofRow,
  rowFields,
  tankGapCircuit,
  tankGapFields,
  tankGapLimits,
  tankGapOffers,
  tankProblems,
  tankSteps,
  tankWarns,
} from './tank-gap.ts';
import { tankDesk } from './desks.ts';
import { switchesDesk } from '../solid-state/desks.ts';
import { sparkGapGlyph } from '../gap/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/rotary-gap': typeof rotaryGapFields;
  }
  interface FigureIds {
    'self-break': true;
    'break-voltage': true;
    'pass-highest': true;
  }
}

const breaking = (rig: RigContext) => ({ n: rig.own('switch').quantity('n'), Vb: () => ofRow(rig.own('switch')) });

function problems(own: Own<typeof rotaryGapFields>, rig: RigContext): Problem[] {
  const V = ifKnown(() => rig.figure('break-voltage'));
  const Vb = ifKnown(() => ofRow(own));
  const misses: Problem[] =
    V && Vb && V.value < Vb.value
      ? [
          {
            severity: 'error',
            slot: 'switch',
            field: 'd',
            text: `The gap never fires: when the electrodes pass, the tank is at ${printQuantity(V.value, 'V')}, and the gap holds ${printQuantity(Vb.value, 'V')}. Set it closer, or lower the break rate.`,
          },
        ]
      : [];
  // On ac some passes miss; here all of them do.
  const never = !V && Vb && rig.offers('supply').alternating ? neverFires(rig, Vb) : [];
  const highest = ifKnown(() => rig.figure('pass-highest'));
  const swings: Problem[] = highest
    ? [
        {
          severity: 'warning',
          slot: 'switch',
          field: 'n',
          text: `Between passes the tank keeps swinging, up to ${printQuantity(highest.value, 'V')} in its first 25 cycles, and higher with other scatter: a protective gap across it, set a little above the charge voltage, guards capacitor and transformer (common practice, no source).`,
        },
      ]
    : [];
  return [...misses, ...never, ...swings, ...tankProblems(own, rig)];
}

const rotaryGapFields = fields({
  n: quantity('Break rate', 'Hz', within(0.1, 1e5), '400 Hz', {
    help: 'Electrodes on the disc times its revolutions per second. On AC it breaks only when the tank is then above the gap’s self-break.',
  }),
  ...rowFields('2'),
  ...tankGapFields,
});

/** Electrodes on a turning disc that pass fixed ones so many times a second. */
export const rotaryGap = defineBlock({
  slot: 'switch',
  kind: 'rotary-gap',
  title: 'Rotary gap',
  desks: [tankDesk, switchesDesk],
  glyph: () => sparkGapGlyph,
  fields: rotaryGapFields,
  key: (own) => ({ text: printQuantity(own.quantity('n').value, 'Hz'), detail: `${own.quantity('k').value} gaps` }),
  offers: (own) => ({ ...tankGapOffers(own), breaks: own.quantity('n') }),
  circuit: tankGapCircuit,
  figures: [
    {
      id: 'self-break',
      title: 'Self-break where the electrodes pass',
      slot: 'switch',
      compute: (rig) => ofRow(rig.own('switch')),
    },
    {
      id: 'break-voltage',
      title: 'Voltage at the break',
      slot: 'switch',
      compute: (rig) => ofBreaks(rig, breaking(rig), 'Vb', 'voltage at a break'),
    },
    {
      id: 'pass-highest',
      title: 'Highest voltage of the tank in 25 cycles',
      slot: 'switch',
      mayBeMissing: true,
      compute: (rig) => highestBetweenPasses(rig, breaking(rig)),
    },
    ...breakFigures(breaking),
  ],
  limits: [
    {
      id: 'pass-highest',
      title: 'Tank, voltage between the passes',
      slot: 'switch',
      stress: (rig) => rig.figure('pass-highest'),
      rating: (rig) => (rig.offers('supply').alternating ? (rig.offers('store').ratedVoltage ?? null) : null),
      onlyIfKnown: true,
      levers: ['supply.V'],
      note: 'On AC it breaks only when the electrodes pass, and the supply keeps charging meanwhile.',
    },
    ...tankGapLimits,
  ],
  problems,
  warns: tankWarns,
  steps: tankSteps,
});
