import { above, choice, choiceOf, fields, onlyWith, quantity, rating, whole, within } from '../../field/index.ts';
import { reachFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { FigureSpec, LimitSpec, Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage } from '../../block/goal.ts';
import { nothing } from '../../block/glyph.ts';
import { chainHoles, twoDumpsFrom, type Chain } from '../../block/interlock.ts';
import { inStandardAir } from '../../block/standard-air.ts';
import { ifKnown } from '../../block/known.ts';
import { guardDesk } from './desks.ts';
import { shieldMaterials, shieldOf } from './shield.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'guard/guarded': typeof guardedFields;
  }
  interface FigureIds {
    'reach-voltage': true;
    'sound-pressure': true;
    'sound-at-ear': true;
    'fragment-speed': true;
    'shield-needed': true;
    'flashover-reach': true;
    'burn-reach': true;
    'box-pressure': true;
    'nox-share': true;
    'ozone-share': true;
    'induced-voltage': true;
  }
}

/** Decibels that ear protection takes off a bang. Common practice, no source: labels promise more. */
const ears = [
  { id: 'none', title: 'none', decibels: 0 },
  { id: 'plugs', title: 'plugs', decibels: 18 },
  { id: 'muffs', title: 'muffs', decibels: 22 },
  { id: 'both', title: 'plugs and muffs', decibels: 30 },
] as const;

const withShield = shieldMaterials.map(({ id }) => id);

const guardedFields = fields(
  {
    d: quantity('Distance to people', 'm', above(0, 1e3), '3 m', {
      help: 'From the nearest live or flying part to the nearest person at the shot.',
    }),
    act: choice(
      'Operation',
      { outside: 'from outside the guard', reach: 'by reaching through it' },
      { help: 'Key, trigger, dump and meter: all of them outside, or the guard is none.' },
    ),
    ears: choiceOf('Ear protection', ears, 'muffs'),
    shield: choiceOf('Shield', [{ id: 'none', title: 'none' }, ...shieldMaterials], 'none'),
    ts: onlyWith('shield', withShield, rating('Shield thickness', 'm', 1, { symbol: 'ts' })),
    mf: rating('Fragment mass', 'kg', 1e3, {
      help: 'The lightest piece that a fault can throw whole: a can, a coil, an end of wire. The heavier the slower.',
    }),
    Df: rating('Fragment width, smallest face', 'm', 10, { help: 'A narrow piece goes through more.' }),
    doors: choice(
      'Door switch in the chain',
      { none: 'none', one: 'one contact', two: 'two contacts' },
      { initial: 'two', help: 'Of one contact a weld is not noticed; two of different make are checked against each other.' },
    ),
    stop: choice('Emergency stop in the chain', { yes: 'yes', no: 'no' }),
    key: choice('Key in the chain', { yes: 'yes', no: 'no' }),
    dumpsBy: choice(
      'Dumps',
      { falling: 'held open by the chain, fall in without power', driven: 'driven closed by power' },
      { help: 'What has to be driven to discharge does not do it when the power is gone.' },
    ),
    nd: quantity('Number of dumps', '1', whole(0, 10), '1', { symbol: 'nd' }),
    charger: choice('Charger enabled by the chain', { yes: 'yes', no: 'no' }),
    trigger: choice('Trigger enabled by the chain', { yes: 'yes', no: 'no' }),
    Vb: quantity('Enclosure volume', 'm³', above(0, 1e4), null),
    Vr: quantity('Room volume', 'm³', above(0, 1e6), null),
    nr: quantity('Shots between ventilations', '1', whole(1, 10_000), '20', { symbol: 'nr' }),
    kc: quantity('Share of the energy in corona', '1', within(0, 1), null, {
      help: 'Streamers and glow make ozone: nearly all of it with a Tesla coil, next to none with a closed gap.',
    }),
    Al: quantity('Area of the discharge loop, times its turns', 'm²', above(0, 1e3), null, {
      help: 'For what it induces in leads at the people’s distance. Of a coil: its area times its turns.',
    }),
  },
  { geometry: ['Vb', 'Vr', 'nr', 'kc', 'Al'], ratings: ['doors', 'stop', 'key', 'dumpsBy', 'nd', 'charger', 'trigger'] },
);

type GuardOwn = Own<typeof guardedFields>;

const chainOf = (own: GuardOwn): Chain => ({
  doorContacts: own.is('doors', 'two') ? 2 : own.is('doors', 'one') ? 1 : 0,
  hasStop: own.is('stop', 'yes'),
  hasKey: own.is('key', 'yes'),
  dumpsBy: own.is('dumpsBy', 'driven') ? 'driven' : 'falling',
  dumps: own.quantity('nd').value,
  charger: own.is('charger', 'yes'),
  trigger: own.is('trigger', 'yes'),
});

const energy = (rig: RigContext): Worked => rig.figure('stored-energy');

/** The highest voltage that something of the rig comes to: what leaves it at the top, or what the supply can reach. */
function reachVoltage(rig: RigContext): Worked {
  const made = [rig.offers('store').output, rig.offers('load').makesVoltage].flatMap((id) =>
    id ? (ifKnown(() => rig.figure(id)) ?? []) : [],
  );
  const top = made.sort((a, b) => b.value - a.value)[0];
  const most = highestVoltage(rig);
  return top && top.value > most
    ? top
    : ruled('highest voltage of the rig', most, 'V', 'what is set, or what the supply can reach if that is more');
}

const own = (rig: RigContext): GuardOwn => rig.own('guard');

const decibels = (rig: RigContext): Worked => {
  const chosen = ears.find(({ id }) => own(rig).is('ears', id)) ?? ears[0];
  return ruled(
    `attenuation of ${chosen.title === 'none' ? 'bare ears' : chosen.title}`,
    chosen.decibels,
    '1',
    'of a bang, in decibels; common practice, no source',
  );
};

const figures: readonly FigureSpec[] = [
  { id: 'reach-voltage', title: 'Highest voltage', slot: 'guard', compute: reachVoltage },
  {
    id: 'sound-pressure',
    title: 'Peak sound pressure at people',
    slot: 'guard',
    compute: (rig) => work(reachFormulas.blastPressure, { E: energy(rig), r: own(rig).quantity('d') }),
  },
  {
    id: 'sound-at-ear',
    title: 'Peak sound pressure at the ear',
    slot: 'guard',
    leads: true,
    compute: (rig) => work(reachFormulas.earPressure, { p: rig.figure('sound-pressure'), A: decibels(rig) }),
  },
  {
    id: 'fragment-speed',
    title: 'Fragment speed, upper bound',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) => work(reachFormulas.fragmentSpeed, { E: energy(rig), m: own(rig).quantity('mf') }),
  },
  {
    id: 'shield-needed',
    title: 'Perforation thickness',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) => {
      const material = shieldOf(own(rig).choice('shield')) ?? shieldMaterials[0];
      if (!material) throw new Error('there is a material of shields');
      return work(
        reachFormulas.perforation,
        {
          E: energy(rig),
          D: own(rig).quantity('Df'),
          k: ruled(
            `thickness of ${material.title} over that of steel`,
            material.factor,
            '1',
            `from ${material.least} to ${material.most}; common practice, no source`,
          ),
        },
        `${material.title} that is just perforated`,
      );
    },
  },
  {
    id: 'flashover-reach',
    title: 'Flashover distance',
    slot: 'guard',
    compute: (rig) => work(reachFormulas.flashoverReach, { V: inStandardAir(rig, rig.figure('reach-voltage')) }),
  },
  {
    id: 'burn-reach',
    title: 'Flash burn distance',
    slot: 'guard',
    compute: (rig) =>
      work(reachFormulas.burnReach, { E: energy(rig), k: ruled('share as light and heat', 1, '1', 'upper bound') }),
  },
  {
    id: 'box-pressure',
    title: 'Enclosure pressure rise',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) => work(reachFormulas.boxPressure, { E: energy(rig), Vb: own(rig).quantity('Vb') }),
  },
  {
    id: 'nox-share',
    title: 'Nitrogen oxides in the room',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) => work(reachFormulas.noxShare, { E: energy(rig), n: own(rig).quantity('nr'), Vr: own(rig).quantity('Vr') }),
  },
  {
    id: 'ozone-share',
    title: 'Ozone in the room',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) =>
      work(reachFormulas.ozoneShare, {
        E: energy(rig),
        k: own(rig).quantity('kc'),
        n: own(rig).quantity('nr'),
        Vr: own(rig).quantity('Vr'),
      }),
  },
  {
    id: 'induced-voltage',
    title: 'Induced in a lead at the people',
    slot: 'guard',
    mayBeMissing: true,
    compute: (rig) =>
      work(reachFormulas.inducedVoltage, {
        S: rig.figure('peak-di-dt'),
        A: own(rig).quantity('Al'),
        Av: ruled('loop of a lead of an instrument', 0.1, 'm²', 'about 30 cm each way; common practice, no source'),
        r: own(rig).quantity('d'),
      }),
  },
];

const limits: readonly LimitSpec[] = [
  {
    id: 'sound-at-ear',
    title: 'Peak sound at the ear',
    slot: 'guard',
    stress: (rig) => rig.figure('sound-at-ear'),
    rating: () =>
      ruled('exposure limit of peak sound', 200, 'Pa', '140 dB: Directive 2003/10/EC, and 29 CFR 1910.95; from memory'),
    levers: ['guard.d'],
    note: 'All of the stored energy in one arc, in the open, within a factor of two. 140 dB is 200 Pa.',
  },
  {
    id: 'flashover-reach',
    title: 'Flashover distance to people',
    slot: 'guard',
    stress: (rig) => rig.figure('flashover-reach'),
    rating: (rig) => own(rig).quantity('d'),
    levers: ['guard.d', 'store.V0'],
    protects: true,
    note: 'The lowest bound of dry air; what is held in a hand shortens it.',
  },
  {
    id: 'burn-reach',
    title: 'Arc flash at people',
    slot: 'guard',
    stress: (rig) => rig.figure('burn-reach'),
    rating: (rig) => own(rig).quantity('d'),
    levers: ['guard.d'],
  },
  {
    id: 'shield',
    title: 'Shield perforation',
    slot: 'guard',
    stress: (rig) => rig.figure('shield-needed'),
    rating: (rig) => (own(rig).is('shield', 'none') ? null : own(rig).optional('ts')),
    levers: ['guard.ts', 'guard.Df'],
    onlyIfKnown: true,
    protects: true,
    note: 'All of the stored energy in one piece that strikes square: upper bound. No shield is sure to stop it.',
  },
];

/** What the chain leaves live behind an open door, and what a guard is not. */
function problems(block: GuardOwn, rig: RigContext): Problem[] {
  const E = ifKnown(() => energy(rig).value) ?? 0;
  const strict = E > twoDumpsFrom;
  const found: Problem[] = [];
  const say = (severity: Problem['severity'], field: Problem['field'], text: string) =>
    found.push({ severity, slot: 'guard', ...(field === undefined ? {} : { field }), text });
  if (block.is('act', 'reach'))
    say(
      'error',
      'act',
      'The guard is one through which a person reaches: whatever it holds back reaches the hand. Bring key, trigger, dump and meter outside.',
    );
  // A dump that sticks is told by how many there are.
  const holes = chainHoles(chainOf(block), false);
  const [hole] = holes;
  if (hole)
    say(
      'error',
      hole.fault.id.startsWith('door') ? 'doors' : 'dumpsBy',
      `With the door open and ${hole.fault.id === 'none' ? 'nothing broken' : hole.fault.title}, ${hole.what}.${holes.length > 1 ? ` ${holes.length - 1} more like it ${holes.length === 2 ? 'stands' : 'stand'} on the Guard page.` : ''}`,
    );
  const dumps = block.quantity('nd').value;
  if (strict && dumps < 2)
    say(
      'error',
      'nd',
      `${printQuantity(E, 'J')} with ${dumps === 0 ? 'no dump' : 'one dump'}: one that sticks leaves more than a stick may be used on. Above ${printQuantity(twoDumpsFrom, 'J')} two are wanted.`,
    );
  if (dumps === 0)
    say(
      'warning',
      'nd',
      'The chain drops no dump: behind an open door the store is as charged as before, and the bleeder alone takes it down.',
    );
  if (!rig.offers('dump').dumpResistance && dumps > 0)
    say('warning', 'nd', 'The chain drops a dump that this rig has not got: choose the dump, or say that there is none.');
  return found;
}

export const guarded = defineBlock({
  slot: 'guard',
  kind: 'guarded',
  title: 'Guard with an interlock',
  desks: [guardDesk],
  glyph: () => nothing,
  fields: guardedFields,
  key: (block) => ({ text: printQuantity(block.quantity('d').value, 'm', { trim: true }) }),
  offers: (block) => ({
    interlock: chainOf(block),
    people: block.quantity('d'),
    ...(block.is('shield', 'none') ? {} : { shield: shieldOf(block.choice('shield'))?.title ?? '' }),
  }),
  figures,
  limits,
  problems,
  steps: (block, rig) => [
    {
      id: 'guard-check',
      phase: 'prepare',
      seconds: 90,
      text: `Try the guard, the strap on: open the door with the key on and the supply off, and see that ${block.quantity('nd').value > 0 ? 'each dump falls in and ' : ''}the charger does not come on; then each door contact by itself, then the emergency stop.`,
      hold: 'Every one of them opened the chain.',
    },
    {
      id: 'guard-people',
      phase: 'prepare',
      text: `Everybody at least ${printQuantity(block.quantity('d').value, 'm', { trim: true })} away${block.is('ears', 'none') ? '' : ', hearing protection on'}${block.is('shield', 'none') ? '' : ', behind the shield'}.`,
      expect: [
        { label: 'Peak sound pressure at people', worked: rig.figure('sound-pressure'), print: 'quantity', use: 'high' },
        { label: 'Flashover distance', worked: rig.figure('flashover-reach'), print: 'quantity', use: 'high' },
      ],
    },
  ],
});
