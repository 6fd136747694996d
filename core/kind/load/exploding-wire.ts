import { edge } from '../../numeric/index.ts';
import { onlyWith, quantity, above, choice, choiceOf, fields, whole, within } from '../../field/index.ts';
import {
  chargeFormulas,
  coilFormulas,
  dischargeFormulas,
  inductanceFormulas,
  ruled,
  work,
  type Worked,
} from '../../formula/index.ts';
import { stripRadius } from '../../model/index.ts';
import { wireMetals } from '../../material/index.ts';
import { printQuantity, printWire } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { leadFields } from '../coil/winding-fields.ts';
import { metalOf } from '../coil/winding.ts';
import type { FieldId } from '../../block/names.ts';
import { resistorInductorGlyph } from '../coil/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/exploding-wire': typeof explodingWireFields;
  }
  interface FigureIds {
    'burst-time': true;
    'melt-time': true;
    'burst-action': true;
    'melt-action': true;
    'vapour-energy': true;
    'wire-mass': true;
    'wire-cold-resistance': true;
  }
}

/** Section of all of its metal, m². */
function sectionOf(own: Own<typeof explodingWireFields>): number {
  const n = own.quantity('n').value;
  if (own.is('section', 'foil')) return n * own.quantity('w').value * own.quantity('t').value;
  return n * (Math.PI / 4) * own.quantity('d').value ** 2;
}

/** Diameter of one round wire with all of its metal. */
const roundOf = (own: Own<typeof explodingWireFields>): Worked =>
  ruled('diameter of a round wire with all its metal', Math.sqrt((4 * sectionOf(own)) / Math.PI), 'm', 'from the sections');

/** Diameter of a round wire with the same self-inductance. */
function magneticallyRound(own: Own<typeof explodingWireFields>): Worked {
  if (!own.is('section', 'foil')) return own.quantity('d');
  const d = 2 * stripRadius(own.quantity('w').value, own.quantity('t').value);
  return ruled('diameter of a round wire with its inductance', d, 'm', 'by geometric mean distance');
}

const resistivityOf = (own: Own<typeof explodingWireFields>): Worked => {
  const metal = metalOf(own);
  return ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source);
};

const wireR = (own: Own<typeof explodingWireFields>): Worked => {
  const metal = metalOf(own);
  const alpha = ruled('temperature coefficient', metal.temperatureCoefficient, 'K⁻¹', metal.source);
  return work(
    coilFormulas.wireResistance,
    { l: own.quantity('lx'), d: roundOf(own), rho: resistivityOf(own), T: own.quantity('T'), alpha },
    'resistance of the wire, cold',
  );
};

const wireL = (own: Own<typeof explodingWireFields>): Worked =>
  work(inductanceFormulas.straightWireInductance, { l: own.quantity('lx'), d: magneticallyRound(own) }, 'inductance of the wire');

const actionOf = (own: Own<typeof explodingWireFields>, what: 'melts' | 'bursts'): Worked => {
  const metal = metalOf(own);
  const of = what === 'melts' ? coilFormulas.wireFusingAction : coilFormulas.wireBurstAction;
  const g = ruled(
    `specific action of ${metal.title}`,
    what === 'melts' ? metal.meltAction : metal.burstAction,
    'A²s/m⁴',
    metal.source,
  );
  return work(of, { d: roundOf(own), g }, `action that ${what} it`);
};

const massOf = (own: Own<typeof explodingWireFields>): Worked => {
  const metal = metalOf(own);
  const gamma = ruled(`density of ${metal.title}`, metal.density, 'kg/m³', metal.source);
  return work(coilFormulas.wireMass, { l: own.quantity('lx'), d: roundOf(own), gamma }, 'mass of the wire');
};

const needed = (own: Own<typeof explodingWireFields>): Worked => {
  const metal = metalOf(own);
  const h = ruled(`${metal.title} from 20 °C to vapour`, metal.vapourEnergy, 'J/kg', 'CRC Handbook, from memory, within 10 %');
  return work(coilFormulas.vapourEnergy, { m: massOf(own), h }, 'energy that turns all of it to vapour');
};

/** When it has had an action. @throws Unavailable where the whole discharge has less */
function reached(rig: RigContext, what: 'melts' | 'bursts'): Worked {
  const A = actionOf(rig.own('load'), what);
  const whole = rig.figure('action-integral');
  if (A.value > 0.999 * whole.value)
    throw new Unavailable(
      'load',
      `it never ${what}: that takes ${printQuantity(A.value, 'A²s')}, the discharge has ${printQuantity(whole.value, 'A²s')}`,
      'd',
    );
  return work(
    dischargeFormulas.timeToAction,
    {
      A,
      R: rig.figure('loop-resistance'),
      L: rig.figure('loop-inductance'),
      C: rig.figure('loop-capacitance'),
      V: rig.figure('discharge-voltage'),
    },
    `when it ${what}, assuming no heating`,
  );
}

/** Share of its diameter at which it would just burst, less a little: thinner it also has more resistance, and so less action. */
function burstingShare(whole: number, burst: number, R: number, wire: number): number {
  const bursts = (x: number) => (whole * R) / (R - wire + wire / (x * x)) > burst * x ** 4;
  return 0.95 * edge(bursts, 1e-3, 1, { isRatio: true }).below;
}

/** What does not suit the store, the number in each. */
function problems(own: Own<typeof explodingWireFields>, rig: RigContext): Problem[] {
  const found: Problem[] = [];
  const field = own.is('section', 'foil') ? 't' : 'd';
  const say = (at: FieldId<'load'>, text: string) => found.push({ severity: 'warning', slot: 'load', field: at, text });
  const whole = rig.figure('action-integral').value;
  const [melt, burst] = [actionOf(own, 'melts').value, actionOf(own, 'bursts').value];
  if (whole < burst) {
    const thinner = burstingShare(whole, burst, rig.figure('loop-resistance').value, wireR(own).value);
    say(
      field,
      `${whole < melt ? 'Does not melt' : 'Melts, does not burst'}: the discharge has ${printQuantity(whole, 'A²s')}, bursting takes ${printQuantity(burst, 'A²s')}. A wire of ${printWire(roundOf(own).value * thinner)} (as one round wire) would burst, or more voltage.`,
    );
    return found;
  }
  const [t, peak] = [reached(rig, 'bursts').value, rig.figure('time-to-peak').value];
  if (t < 0.4 * peak)
    say(
      field,
      `Bursts after ${printQuantity(t, 's')}, long before the current is at its peak after ${printQuantity(peak, 's')}: most of the energy is still in the store when the arc takes over. Thicker wire, or a faster loop.`,
    );
  if (t > 1.3 * peak)
    say(
      field,
      `Bursts after ${printQuantity(t, 's')}, when the current has passed its peak after ${printQuantity(peak, 's')}: thinner wire bursts with more current in the loop.`,
    );
  const [E, has] = [needed(own).value, rig.figure('stored-energy').value];
  if (has < E)
    say(
      'lx',
      `To vaporise all of it takes ${printQuantity(E, 'J')}, the store holds ${printQuantity(has, 'J')}: the rest flies off as droplets. Use a shorter or thinner wire.`,
    );
  return found;
}

const explodingWireFields = fields({
  section: choice('Conductor', { round: 'round wire', foil: 'foil' }),
  lx: quantity('Length', 'm', above(0, 1e3), '60 mm', { symbol: 'l' }),
  d: onlyWith(
    'section',
    ['round'],
    quantity('Diameter of the wire', 'm', above(0, 0.1), '0.2 mm', { wire: true, help: 'A gauge such as 32 AWG is understood.' }),
  ),
  w: onlyWith('section', ['foil'], quantity('Width of the foil', 'm', above(0, 1), null)),
  t: onlyWith('section', ['foil'], quantity('Thickness of the foil', 'm', above(0, 0.01), null)),
  n: quantity('In parallel', '1', whole(1, 1000), '1'),
  metal: choiceOf('Metal', wireMetals, 'copper'),
  T: quantity('Temperature', 'K', within(200, 600), '20 °C'),
  ...leadFields,
});

export const explodingWire = defineBlock({
  slot: 'load',
  kind: 'exploding-wire',
  title: 'Exploding wire or foil',
  makes: 'Exploding wire',
  glyph: () => resistorInductorGlyph,
  fields: explodingWireFields,
  key: (own) => ({
    text: printWire(roundOf(own).value),
    detail: metalOf(own).title,
  }),
  offers: (own) => ({
    loopResistance: work(chargeFormulas.seriesSum, { R1: wireR(own), R2: own.quantity('Rl') }, 'wire and leads'),
    loopInductance: work(
      inductanceFormulas.inductanceSum,
      { L1: wireL(own), L2: own.quantity('Ll') },
      'inductance of wire and leads',
    ),
  }),
  circuit: (_own, rig, { plus, minus, tag }) => {
    const { loopInductance, loopResistance } = rig.offers('load');
    const [L, R] = [loopInductance?.value ?? 1e-9, loopResistance?.value ?? 0];
    return [
      {
        element: { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L, R },
        says: 'wire and leads, assuming no heating',
      },
    ];
  },
  leavesOut: () => 'that the wire warms, melts and bursts: it stays as it is cold',
  figures: [
    {
      id: 'burst-time',
      title: 'Bursts after',
      slot: 'load',
      mayBeMissing: true,
      leads: true,
      compute: (rig) => reached(rig, 'bursts'),
    },
    { id: 'melt-time', title: 'Melts after', slot: 'load', mayBeMissing: true, compute: (rig) => reached(rig, 'melts') },
    {
      id: 'burst-action',
      title: 'Action integral to burst',
      slot: 'load',
      compute: (rig) => actionOf(rig.own('load'), 'bursts'),
    },
    { id: 'melt-action', title: 'Action integral to melt', slot: 'load', compute: (rig) => actionOf(rig.own('load'), 'melts') },
    { id: 'vapour-energy', title: 'Energy to vaporise it', slot: 'load', compute: (rig) => needed(rig.own('load')) },
    { id: 'wire-mass', title: 'Mass of the wire', slot: 'load', compute: (rig) => massOf(rig.own('load')) },
    { id: 'wire-cold-resistance', title: 'Resistance of the wire, cold', slot: 'load', compute: (rig) => wireR(rig.own('load')) },
  ],
  problems,
  uses: (own) => [
    {
      id: 'wire',
      title: own.is('section', 'foil') ? `Foil of ${metalOf(own).title}` : `Wire of ${metalOf(own).title}, ${own.typed('d')}`,
      each: ruled(
        'wire for one shot',
        own.quantity('lx').value * own.quantity('n').value,
        'm',
        'its length, for each of those in parallel',
      ),
      then: 'Bring more of it',
    },
  ],
  steps: () => [
    {
      id: 'wire-shield',
      phase: 'prepare',
      text: 'Wire in its holders, with a closed shield around it that stops droplets, splinters and ultraviolet; hearing and eye protection on, nothing flammable beneath.',
      hold: 'The shield is shut.',
      caution: 'Do not breathe the metal vapour: let the air change before the shield is opened.',
    },
    {
      id: 'wire-rest',
      phase: 'bleed',
      text: 'The wire is gone and the loop is open: whatever the arc did not take is still on the store. Bleed it as if it had not been fired.',
      expect: [],
      caution: 'A burst that ends early leaves most of the voltage.',
    },
  ],
});
