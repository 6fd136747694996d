import { ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { rating, fields, quantity, whole } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { stringFields, stringPowerLimit, stringResistance, stringVoltageLimit } from '../../block/resistor-string.ts';
import { bleederCircuit, bleederPower, bleederSteps } from './shared.ts';
import { bleedDesk } from './desks.ts';
import { resistorDownGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'bleeder/each-element': typeof elementBleedersFields;
  }
  interface FigureIds {
    'group-rest-voltage': true;
  }
}

const ofTolerance = (value: number, side: string) =>
  ruled(`tolerance of a bleeder, ${side} side`, value, '1', 'the tolerance of the resistor');

/** V across the group with the highest bleeder once the bank has stood charged: resistors share it, each in proportion. */
function restVoltage(rig: RigContext): Worked {
  const own = rig.own('bleeder');
  const R = own.quantity('R');
  const tolerance = (R.kind === 'given' ? R.tolerance : undefined) ?? { minus: 0, plus: 0 };
  return work(
    storeFormulas.highestResistorShare,
    {
      V: rig.offer('chargedTo'),
      ns: own.quantity('ng'),
      m: ofTolerance(tolerance.minus, 'minus'),
      p: ofTolerance(tolerance.plus, 'plus'),
    },
    'voltage of the group with the highest bleeder, at rest',
  );
}

/** Capacitors in series in the store; null where it is no bank of groups. */
const groupsOf = (rig: RigContext): Worked | null => rig.offers('store').groups ?? null;

function problems(own: Own<typeof elementBleedersFields>, rig: RigContext): Problem[] {
  const [groups, ng] = [groupsOf(rig)?.value ?? 1, own.quantity('ng').value];
  if (groups === ng) return [];
  const text = `There is one bleeder for each of ${ng} groups, and the store has ${groups} in series: set the number to ${groups}, or a group is left without.`;
  return [{ severity: 'error', slot: 'bleeder', field: 'ng', text }];
}

const elementBleedersFields = fields({
  ...stringFields('47 kΩ ±5 %'),
  ng: quantity('Groups, one bleeder across each', '1', whole(1, 1000), '1', {
    help: 'As many as the bank has groups in series.',
  }),
  P: rating('Power rating, each', 'W', 1e6, { symbol: 'Pr' }),
});

/** A bleeder across every group of a bank in series: it empties each by itself, and holds their shares of the voltage. */
export const elementBleeders = defineBlock({
  slot: 'bleeder',
  kind: 'each-element',
  title: 'Bleeder across each element',
  desks: [bleedDesk],
  glyph: () => resistorDownGlyph,
  fields: elementBleedersFields,
  key: (own) => ({
    text: printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω'),
    detail: 'on each',
  }),
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P' } },
  offers: (own) => ({
    bleedResistance: work(
      storeFormulas.seriesResistance,
      { R: stringResistance(own, 'bleeder per group'), n: own.quantity('ng') },
      'bleeders of all groups',
    ),
  }),
  oneOpen: (_own, rig) => ({
    title: 'One group’s bleeder open: that group, by its leakage',
    V0: restVoltage(rig),
    // A group leaks with the same R·C as the bank: of n groups R is n times and C one nth of one's.
    R: rig.offer('insulation'),
  }),
  circuit: bleederCircuit,
  figures: [
    bleederPower,
    { id: 'group-rest-voltage', title: 'Voltage of a group at rest, worst share', slot: 'bleeder', compute: restVoltage },
  ],
  limits: [
    {
      id: 'group-rest-voltage',
      title: 'Capacitor voltage at rest, by its bleeders',
      slot: 'bleeder',
      stress: restVoltage,
      rating: (rig) => rig.own('store').optional('Vr'),
      levers: ['store.V0', 'store.ns', 'store.Vr'],
      note: 'After a while at voltage the bleeders set the sharing, as long as they carry far more than the leakage: one at the top of its tolerance, the others at the bottom.',
    },
    stringVoltageLimit('bleeder', 'bleeder-voltage', 'Bleeder', restVoltage, { levers: ['bleeder.n', 'store.V0'] }),
    stringPowerLimit('bleeder', 'bleeder-power', 'Bleeder', 'power', restVoltage, {
      levers: ['bleeder.R', 'bleeder.n', 'store.V0'],
      note: 'Dissipated for as long as the bank stands charged.',
    }),
  ],
  problems,
  steps: (_own, rig) => bleederSteps(rig),
});
