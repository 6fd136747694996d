import { airOf } from '../../block/standard-air.ts';
import { quantity, rating, above, choice, fields, within } from '../../field/index.ts';
import {
  capacitorFormulas,
  chargeFormulas,
  chokeFormulas,
  gapFormulas,
  ruled,
  storeFormulas,
  triggerFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { setVoltage } from '../../block/goal.ts';
import type { FieldId } from '../../block/names.ts';
import { triggerOffSteps } from '../solid-state/shared.ts';
import { pulseGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'trigger/trigger-generator': typeof triggerGeneratorFields;
  }
  interface FigureIds {
    'trigger-voltage': true;
    'trigger-energy': true;
    'trigger-gate': true;
    'trigger-holding': true;
    'trigger-rate': true;
    'trigger-needs': true;
    'trigger-ring': true;
    'trigger-delay': true;
    'trigger-jitter': true;
  }
}

/** A spark of less than this is called feeble. Common practice, no source: some tens of millijoules. */
const enough = 10e-3;
/** A gate that is driven for less may not turn the whole thyristor on. Common practice, no source: ten microseconds. */
const shortestGate = 10e-6;

const energyOf = (own: Own<typeof triggerGeneratorFields>): Worked =>
  work(storeFormulas.storedEnergy, { C: own.quantity('C1'), V: own.quantity('V1') }, 'energy of a trigger spark');
const voltageOf = (own: Own<typeof triggerGeneratorFields>): Worked =>
  work(triggerFormulas.pulseTransformerVoltage, { V1: own.quantity('V1'), n: own.quantity('n'), k: own.quantity('k') });
const gateOf = (own: Own<typeof triggerGeneratorFields>): Worked =>
  work(triggerFormulas.differentiatorWidth, {
    R: own.quantity('Rd'),
    C: own.quantity('Cd'),
    V: own.quantity('Vd'),
    Vg: own.quantity('Vgt'),
  });
const holdingOf = (own: Own<typeof triggerGeneratorFields>): Worked =>
  work(triggerFormulas.holdingShare, { V: own.quantity('V1'), R: own.quantity('Rs'), Ih: own.quantity('Ih') });
const idleOf = (own: Own<typeof triggerGeneratorFields>): Worked =>
  work(chargeFormulas.initialCurrent, { Vs: own.quantity('V1'), R: own.quantity('Rs') }, 'supply current while it conducts');

/** What the spark of the trigger has to bridge, V. */
const sparkNeeds = (rig: RigContext): Worked => {
  const d = rig.own('trigger').optional('dt');
  if (!d) throw new Unavailable('trigger', 'the trigger spark spacing is not given', 'dt');
  // It strikes in the gas of the gap that it is to fire.
  const { pressure, temperature: T } = airOf(rig);
  const { gasPressure = pressure, gasStrength } = rig.offers('switch');
  const V = work(gapFormulas.uniformGapBreakdown, { d, p: gasPressure, T });
  const plain = (title: string) => ruled(title, 1, '1', 'nothing to correct');
  return work(
    gapFormulas.enhancedBreakdown,
    { V, s: gasStrength ?? plain('air'), kh: plain('humidity of the tables'), b: plain('a uniform field, which needs most') },
    'what the trigger spark needs at most',
  );
};

/** Mean field in the gap while the pulse of the trigger stands on top of its charge, V/m; the delay to its breakdown follows. */
function delayOf(rig: RigContext): Worked {
  const own = rig.own('switch');
  const isGap = rig.offers('switch').gasPressure !== undefined && rig.offers('switch').firedBy === 'trigger';
  if (!isGap) throw new Unavailable('trigger', 'the switch is no gap that is triggered');
  const { temperature: T } = airOf(rig);
  const delta = work(gapFormulas.airDensityFactor, { p: rig.offer('gasPressure'), T });
  const both = work(chargeFormulas.voltageSum, { V1: setVoltage(rig), V2: rig.figure('trigger-voltage') }, 'charge and trigger');
  const E = work(capacitorFormulas.dielectricStress, { V: both, t: own.quantity('d') }, 'mean field while the trigger stands');
  return work(triggerFormulas.gapDelay, { E, delta });
}

/** Common practice, no source: 2 to 10 % of the delay. */
const usualJitter = ruled('share of the delay', 0.05, '1', 'common practice, no source: 2 to 10 %');

/** The delay in the shot that is read, s: its mean where no one shot is meant. */
function delayInThisShot(rig: RigContext): Worked {
  const t = delayOf(rig);
  const z = rig.own('trigger').drawn('delay', usualJitter);
  return z ? work(triggerFormulas.scatteredDelay, { t, k: usualJitter, z }, 'delay in this shot') : t;
}

/** How long the pulse has to stand: until the main arc does without it, s. */
const latchOf = (rig: RigContext): Worked => rig.own('trigger').optional('tl') ?? rig.figure('trigger-delay');

/** One ring of the primary, back to where its thyristor would conduct again, s. */
const ringOf = (own: Own<typeof triggerGeneratorFields>): Worked => {
  const L = own.optional('Lp');
  if (!L) throw new Unavailable('trigger', 'the inductance of the primary is not given', 'Lp');
  const half = work(chokeFormulas.resonantChargeTime, { L, C: own.quantity('C1') }, 'half a ring of the primary');
  return work(chargeFormulas.timeSum, { t1: half, t2: half }, 'one ring of the primary');
};

function problems(own: Own<typeof triggerGeneratorFields>, rig: RigContext): Problem[] {
  const say = (field: FieldId<'trigger'>, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
    severity,
    slot: 'trigger',
    field,
    text,
  });
  const found: Problem[] = [];
  const share = holdingOf(own).value;
  if (share >= 1)
    found.push(
      say(
        'Rs',
        `Its thyristor stays latched after a pulse and shorts its supply: ${printQuantity(idleOf(own).value, 'A')} flow through ${printQuantity(own.quantity('Rs').value, 'Ω')}, and ${printQuantity(own.quantity('Ih').value, 'A')} hold it. Above ${printQuantity(own.quantity('V1').value / own.quantity('Ih').value, 'Ω')} it releases.`,
        'error',
      ),
    );
  const gate = gateOf(own).value;
  if (gate < shortestGate)
    found.push(
      say(
        'Rd',
        `The gate is driven for only ${printQuantity(gate, 's')}; some ${printQuantity(shortestGate, 's')} are needed to turn a thyristor on (common practice, no source).`,
      ),
    );
  if (energyOf(own).value < enough)
    found.push(
      say(
        'C1',
        `A feeble spark: ${printQuantity(energyOf(own).value, 'J')}, where some tens of millijoules are common practice.`,
      ),
    );
  if (own.is('control', 'wire'))
    found.push(
      say(
        'control',
        'A wire leads from the gap to the hand that fires it. When the gap flashes over, the store is on that wire: use fibre, air in a tube or a long insulating rod.',
      ),
    );
  if (rig.offers('switch').firedBy === 'itself')
    found.push(say('control', 'There is a trigger generator, and the gap is set to self-break.'));
  return found;
}

const triggerGeneratorFields = fields({
  V1: quantity('Primary capacitor charged to', 'V', above(0, 1e5), '300 V ±5 %', { tolerance: true }),
  C1: quantity('Primary capacitor', 'F', above(0, 1), '470 nF ±10 %', { tolerance: true }),
  Rs: quantity('Charging resistor of its capacitor', 'Ω', above(0, 1e12), '100 kΩ ±5 %', {
    tolerance: true,
    help: 'With the thyristor on, its current must stay below the holding current.',
  }),
  n: quantity('Turns of the pulse transformer, secondary to primary', '1', above(0, 1e5), '60'),
  k: quantity('Share left by coupling and strays', '1', within(0.01, 1), '70 % ±15 %', {
    tolerance: true,
    help: 'Common practice, no source: 50 to 80 %. Better measured, with the gap open.',
  }),
  Lp: quantity('Inductance of its primary', 'H', above(0, 1e3), null, {
    help: 'Shows whether the gate is quiet before the primary rings round.',
  }),
  dt: quantity('Trigger spark spacing', 'm', above(0, 0.2), '2 mm', {
    optional: true,
    help: 'From the trigger electrode to its neighbour, in the gas of the gap at its pressure.',
  }),
  Ih: quantity('Minimum holding current of its thyristor', 'A', above(0, 1e3), '5 mA', {
    help: 'From the data sheet, hot: it falls with temperature.',
  }),
  Vd: quantity('Step into the differentiator of the gate', 'V', above(0, 1e3), '12 V'),
  Rd: quantity('Resistance of the differentiator', 'Ω', above(0, 1e9), '1 kΩ ±5 %', { tolerance: true }),
  Cd: quantity('Capacitance of the differentiator', 'F', above(0, 1), '47 nF ±10 %', { tolerance: true }),
  Vgt: quantity('Gate trigger voltage', 'V', above(0, 100), '1 V'),
  tp: rating('Trigger pulse length', 's', 1, {
    symbol: 'tp',
    help: 'How long it stands at the electrode, at half its peak, with the gap open. From an oscilloscope.',
  }),
  tl: quantity('Time to latch', 's', above(0, 1), null, {
    optional: true,
    help: 'How long the gap needs the pulse until its main arc stands by itself. Empty: the delay worked out.',
  }),
  control: choice(
    'Control line',
    { fibre: 'optical fibre', air: 'air in a tube', transformer: 'isolating transformer', wire: 'wire' },
    { help: 'Between the hand that fires and the gap.' },
  ),
  Vi: rating('Isolation rating', 'V', 1e8, { help: 'The lower of the control line and its supply.' }),
});

export const triggerGenerator = defineBlock({
  slot: 'trigger',
  kind: 'trigger-generator',
  title: 'Trigger generator',
  glyph: () => pulseGlyph,
  fields: triggerGeneratorFields,
  key: (own) => ({ text: printQuantity(voltageOf(own).value, 'V'), detail: printQuantity(energyOf(own).value, 'J') }),
  offers: () => ({}),
  figures: [
    { id: 'trigger-voltage', title: 'Trigger pulse', slot: 'trigger', compute: (rig) => voltageOf(rig.own('trigger')) },
    { id: 'trigger-energy', title: 'Trigger spark energy', slot: 'trigger', compute: (rig) => energyOf(rig.own('trigger')) },
    { id: 'trigger-gate', title: 'Gate drive time', slot: 'trigger', compute: (rig) => gateOf(rig.own('trigger')) },
    {
      id: 'trigger-holding',
      title: 'Supply current over holding current',
      slot: 'trigger',
      compute: (rig) => holdingOf(rig.own('trigger')),
    },
    {
      id: 'trigger-rate',
      title: 'Trigger rate, maximum',
      slot: 'trigger',
      compute: (rig) =>
        work(triggerFormulas.triggerRate, { R: rig.own('trigger').quantity('Rs'), C: rig.own('trigger').quantity('C1') }),
    },
    {
      id: 'trigger-needs',
      title: 'Trigger spark, voltage needed (upper bound)',
      slot: 'trigger',
      mayBeMissing: true,
      compute: sparkNeeds,
    },
    { id: 'trigger-delay', title: 'Gap: delay after the trigger', slot: 'trigger', mayBeMissing: true, compute: delayInThisShot },
    {
      id: 'trigger-jitter',
      title: 'Gap: jitter',
      slot: 'trigger',
      mayBeMissing: true,
      compute: (rig) => work(triggerFormulas.jitterOfDelay, { k: usualJitter, t: delayOf(rig) }),
    },
    {
      id: 'trigger-ring',
      title: 'Ring period of the primary',
      slot: 'trigger',
      mayBeMissing: true,
      compute: (rig) => ringOf(rig.own('trigger')),
    },
  ],
  limits: [
    {
      id: 'trigger-latch',
      title: 'Trigger thyristor, supply current',
      slot: 'trigger',
      stress: (rig) => idleOf(rig.own('trigger')),
      rating: (rig) => rig.own('trigger').quantity('Ih'),
      levers: ['trigger.Rs', 'trigger.V1'],
      note: 'Above the holding current it stays latched and shorts its supply.',
    },
    {
      id: 'trigger-gate',
      title: 'Trigger thyristor, gate pulse',
      slot: 'trigger',
      stress: (rig) => gateOf(rig.own('trigger')),
      rating: (rig) => (rig.own('trigger').optional('Lp') ? rig.figure('trigger-ring') : null),
      onlyIfKnown: true,
      levers: ['trigger.Cd', 'trigger.Rd'],
      note: 'A gate still driven when the ring comes round fires it again, into its supply.',
    },
    {
      id: 'trigger-spark',
      title: 'Trigger spark, voltage needed',
      slot: 'trigger',
      stress: sparkNeeds,
      rating: (rig) => (rig.own('trigger').optional('dt') ? rig.figure('trigger-voltage') : null),
      onlyIfKnown: true,
      levers: ['trigger.dt', 'trigger.n', 'trigger.V1'],
      note: 'For a uniform field: a pointed electrode needs less.',
    },
    {
      id: 'trigger-pulse',
      title: 'Trigger pulse, length needed to latch',
      slot: 'trigger',
      stress: latchOf,
      rating: (rig) => rig.own('trigger').optional('tp'),
      onlyIfKnown: true,
      levers: ['trigger.tp', 'switch.d', 'store.V0'],
      note: 'A pulse that is gone before the main arc stands gives a spark at the trigger and a misfire.',
    },
    {
      id: 'trigger-isolation',
      title: 'Control line, isolation',
      slot: 'trigger',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('trigger').optional('Vi'),
      levers: ['trigger.Vi', 'store.V0'],
      protects: true,
      note: 'It may see the whole charge voltage when the gap flashes over to its trigger electrode.',
    },
  ],
  problems,
  held: (own) => [
    {
      id: 'trigger',
      one: 'capacitor of the trigger',
      count: 1,
      title: 'The capacitor of the trigger',
      V: own.quantity('V1'),
      E1: work(storeFormulas.storedEnergy, { C: own.quantity('C1'), V: own.quantity('V1') }, 'energy of the trigger'),
      through: 'nothing that is known, once its supply is off',
      then: 'Trigger off before anybody goes near; then stick, meter and strap across its capacitor.',
    },
  ],
  steps: (own, rig) => [
    {
      id: 'trigger-alone',
      phase: 'commission',
      text: 'The trigger alone, the store strapped: a spark at its electrode each time it is fired, and at no other time.',
      expect: [
        { label: 'Pulse', worked: rig.figure('trigger-voltage'), print: 'quantity', use: 'nominal' },
        { label: 'Energy', worked: rig.figure('trigger-energy'), print: 'quantity', use: 'nominal' },
      ],
      hold: 'Ten sparks for ten times.',
    },
    ...triggerOffSteps(
      `Trigger off, and its lead pulled or its key taken, from outside the guard, before anything else: its own capacitor stays charged to ${printQuantity(own.quantity('V1').value, 'V')}, and a gap that fires during the bleed can kill.`,
      'The trigger cannot fire.',
    ),
  ],
});
