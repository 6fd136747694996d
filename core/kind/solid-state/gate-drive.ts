import { choice, fields, onlyWith, quantity, rating, above } from '../../field/index.ts';
import { bleedFormulas, chargeFormulas, ruled, supplyFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import type { FieldId } from '../../block/names.ts';
import { triggerOffSteps } from './shared.ts';
import { gateGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'trigger/gate-drive': typeof gateDriveFields;
  }
  interface FigureIds {
    'gate-current': true;
    'shot-voltage': true;
  }
}

/** Times its trigger current that a gate is driven with where the current rises fast. Common practice, no source: three to five. */
const hard = 3;

const drops = ['drops'];

const gateDriveFields = fields({
  Vd: quantity('Gate supply voltage', 'V', above(0, 1e3), '9 V', { tolerance: true }),
  Rg: quantity('Gate resistor', 'Ω', above(0, 1e6), '47 Ω ±5 %', { tolerance: true }),
  Vgt: quantity('Gate trigger voltage', 'V', above(0, 100), '1.5 V', { help: 'V_GT of the data sheet; more when it is cold.' }),
  Ig: rating('Gate trigger current', 'A', 100, { symbol: 'IGT', help: 'I_GT of the data sheet, its maximum.' }),
  Im: rating('Gate, peak current rating', 'A', 1e3, { symbol: 'IGM' }),
  order: choice(
    'Charger at the press',
    { stays: 'not touched', drops: 'taken off first, then the gate' },
    {
      help: 'One button that opens the contact of the charger and fires a moment later: the charger is never on the switch at a shot.',
    },
  ),
  td: onlyWith('order', drops, quantity('Delay, charger off to gate', 's', above(0, 60), '100 ms ±20 %', { tolerance: true })),
  to: onlyWith(
    'order',
    drops,
    rating('Charger contact, time to open', 's', 60, {
      help: 'Release time of the relay or contactor with what is across its coil: a plain diode there makes it several times as long.',
    }),
  ),
});

type GateOwn = Own<typeof gateDriveFields>;

const gateCurrent = (own: GateOwn): Worked =>
  work(
    chargeFormulas.initialCurrent,
    {
      Vs: work(
        supplyFormulas.voltageLessDrops,
        { V: own.quantity('Vd'), n: ruled('gate', 1, '1', 'one junction'), Vf: own.quantity('Vgt') },
        'voltage across the gate resistor',
      ),
      R: own.quantity('Rg'),
    },
    'gate current',
  );

/** How long the charger has been off when the gate comes, s. */
const delay = (own: GateOwn): Worked => {
  if (!own.is('order', 'drops')) throw new Unavailable('trigger', 'the press does not take the charger off', 'order');
  return own.quantity('td');
};

function problems(own: GateOwn, rig: RigContext): Problem[] {
  const say = (field: FieldId<'trigger'>, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
    severity,
    slot: 'trigger',
    field,
    text,
  });
  const found: Problem[] = [];
  if (rig.offers('switch').firedBy !== undefined)
    found.push(
      say('Vd', 'A gate drive fires a thyristor, and the switch is a gap: choose a trigger generator, or a thyristor.', 'error'),
    );
  const [I, needs] = [gateCurrent(own).value, own.optional('Ig')?.value ?? null];
  if (needs !== null && I >= needs && I < hard * needs)
    found.push(
      say(
        'Rg',
        `The gate is driven with ${printQuantity(I, 'A')}, ${(I / needs).toFixed(1)} times its trigger current: it turns on slowly, in one spot. A fast pulse wants three to five times (common practice, no source): at most ${printQuantity((own.quantity('Vd').value - own.quantity('Vgt').value) / (hard * needs), 'Ω')}.`,
      ),
    );
  const left = own.is('order', 'drops') ? rig.figure('shot-voltage').value / rig.offer('chargedTo').value : 1;
  if (left < 0.95)
    found.push(
      say('td', `The bleeder takes ${printPercent(1 - left, 2)} of the voltage between charger and gate: shorten the delay.`),
    );
  return found;
}

/** A gate driven through a resistor from a small supply; as an interlock it takes the charger off first. */
export const gateDrive = defineBlock({
  slot: 'trigger',
  kind: 'gate-drive',
  title: 'Thyristor gate drive',
  glyph: () => gateGlyph,
  fields: gateDriveFields,
  key: (own) => ({
    text: printQuantity(gateCurrent(own).value, 'A'),
    detail: own.is('order', 'drops') ? 'charger off first' : 'gate',
  }),
  offers: (own) =>
    own.is('order', 'drops')
      ? {
          dropsCharger: own.quantity('td'),
          firedAs: `Press and hold the fire button, from outside the guard: the charger drops out, and ${printQuantity(own.quantity('td').value, 's')} later the gate fires.`,
        }
      : {},
  figures: [
    { id: 'gate-current', title: 'Gate current', slot: 'trigger', compute: (rig) => gateCurrent(rig.own('trigger')) },
    {
      id: 'shot-voltage',
      title: 'Voltage at the shot, after the interlock',
      slot: 'trigger',
      mayBeMissing: true,
      compute: (rig) =>
        work(bleedFormulas.decayedVoltage, {
          V0: rig.offer('chargedTo'),
          t: delay(rig.own('trigger')),
          tau: rig.figure('fall-constant'),
        }),
    },
  ],
  limits: [
    {
      id: 'gate-needed',
      title: 'Gate trigger current',
      slot: 'trigger',
      stress: (rig) => {
        const Ig = rig.own('trigger').optional('Ig');
        if (!Ig) throw new Unavailable('trigger', 'the trigger current of the gate is not given', 'Ig');
        return Ig;
      },
      rating: (rig) => rig.figure('gate-current'),
      onlyIfKnown: true,
      levers: ['trigger.Rg', 'trigger.Vd'],
      note: 'Below it the thyristor may not fire: a misfire over a charged store.',
    },
    {
      id: 'gate-peak',
      title: 'Gate, peak current',
      slot: 'trigger',
      stress: (rig) => rig.figure('gate-current'),
      rating: (rig) => rig.own('trigger').optional('Im'),
      onlyIfKnown: true,
      levers: ['trigger.Rg', 'trigger.Vd'],
    },
    {
      id: 'interlock-order',
      title: 'Interlock: charger contact open before the gate',
      slot: 'trigger',
      stress: (rig) => {
        const to = rig.own('trigger').is('order', 'drops') ? rig.own('trigger').optional('to') : null;
        if (!to) throw new Unavailable('trigger', 'the opening time of the charger contact is not given', 'to');
        return to;
      },
      rating: (rig) => delay(rig.own('trigger')),
      onlyIfKnown: true,
      levers: ['trigger.td'],
      note: 'Later than the gate, the charger feeds the thyristor and can hold it on.',
    },
  ],
  problems,
  steps: (own) => [
    ...(own.is('order', 'drops')
      ? [
          {
            id: 'interlock-try',
            phase: 'commission' as const,
            text: 'The interlock alone, the store strapped: charger on, press the fire button. The charger drops out first, then the gate drive shows its pulse; it stays off until it is reset by hand.',
            hold: 'Charger off before the gate, five times of five.',
          },
        ]
      : []),
    ...triggerOffSteps(
      'Gate supply off, and its lead pulled or its key taken, from outside the guard, before anything else.',
      'The gate cannot be driven.',
    ),
  ],
});
