import { bleedFormulas, chargeFormulas, ruled, sourceFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { choiceOf, fields, onlyWith, rating } from '../../field/index.ts';
import { bleedThrough } from '../../block/bleed-through.ts';
import { Unavailable, type Own, type RigContext, type StepSpec } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { bleedGoal, highestVoltage, holdOf } from '../../block/goal.ts';
import {
  stringFields,
  stringKey,
  stringPowerLimit,
  stringResistance,
  stringVoltageLimit,
  surfaceField,
} from '../../block/resistor-string.ts';
import { storeEnergy } from '../../block/store-energy.ts';
import { relayDownGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'dump/relay': typeof relayDumpFields;
  }
  interface FigureIds {
    'dump-time': true;
    'dump-hold': true;
    'dump-current': true;
    'dump-energy': true;
    'dump-rise': true;
  }
}

/** J that the resistors take: what is stored, shared by those in series. */
const energyOfOne = (rig: RigContext): Worked =>
  work(
    bleedFormulas.energyShare,
    { E: storeEnergy(rig), n: rig.own('dump').quantity('n') },
    'energy in each resistor of the dump',
  );

/** What a dump resistor is made of: its specific heat, J/(kg·K), and how much warmer it may get in one dump. */
const bodies = [
  {
    id: 'wire-wound',
    title: 'wire-wound',
    c: 460,
    rise: 300,
    source: 'resistance wire on a ceramic core; common practice, no source',
  },
  { id: 'ceramic', title: 'bulk ceramic', c: 840, rise: 100, source: 'a carbon-ceramic body; common practice, no source' },
  {
    id: 'column',
    title: 'water or copper-sulphate column',
    c: 4180,
    rise: 30,
    source: 'well below boiling; common practice, no source',
  },
] as const;

const bodyOf = (own: Own<typeof relayDumpFields>) => bodies.find(({ id }) => id === own.choice('body'));

/** How much warmer one resistor of the dump gets in one dump. @throws Unavailable where its body or its mass is not given */
function riseOfOne(rig: RigContext): Worked {
  const own = rig.own('dump');
  const body = bodyOf(own);
  if (!body) throw new Unavailable('dump', 'what the dump is made of is not given', 'body');
  const c = ruled(`specific heat of ${body.title}`, body.c, 'J/(kg·K)', 'handbook value; from memory');
  return work(sourceFormulas.adiabaticRise, { E: energyOfOne(rig), m: own.quantity('m'), c }, 'temperature rise, each');
}

const resistance = (own: Own<typeof relayDumpFields>): Worked => stringResistance(own, 'resistors of the dump');

const shareOfOne = (rig: RigContext): Worked =>
  work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('dump').quantity('n') }, 'voltage, each');

/** What is done when the meter does not fall: by what else the rig has to be bled with from outside. */
function stuck(rig: RigContext): string {
  const begins = 'A meter that does not fall means a relay that stuck open or a resistor that broke: nobody goes near.';
  const bleeds = rig.offers('bleeder').bleedResistance !== undefined;
  return bleeds
    ? `${begins} Everybody stays outside until the bleeder has had its worst-case time and the meter reads below ${bleedGoal(rig).text}; if the bleeder does not pull it down either, the store stays locked behind its guard, marked as charged.`
    : `${begins} There is no bleeder either: lock the guard, mark it as charged, cut the relay’s power at its source, and wait for leakage with the meter on. A second relay, or a bleeder, would avoid this.`;
}

/** From outside the guard, before anybody goes near: in every way that leads to the tool. */
const closing = (rig: RigContext, id: string, phase: StepSpec['phase']): StepSpec => ({
  id,
  phase,
  text: 'Close the dump from outside the guard: its relay drops out when its power is cut, and that closes it. Stay outside and watch the meter.',
  expect: [
    { label: 'Dump on for at least', worked: rig.figure('dump-hold'), print: 'duration', use: 'high' },
    {
      label: `Calculated below ${bleedGoal(rig).text} after`,
      worked: rig.figure('dump-time'),
      print: 'duration',
      use: 'nominal',
    },
  ],
  does: 'dump',
  wait: rig.figure('dump-hold'),
  caution: stuck(rig),
});

/** In a branch, before the tool: the meter is read from outside, and a dump that stuck is waited out through the bleeder. */
const outside = (rig: RigContext, id: string, phase: StepSpec['phase']): StepSpec => ({
  id,
  phase,
  text: `Stay outside the guard until the meter reads below ${bleedGoal(rig).text}. If the dump has not done it, wait for the bleeder to its worst-case time.`,
  hold: `It reads below ${bleedGoal(rig).text}.`,
  does: 'bleed',
});

const relayDumpFields = fields({
  ...stringFields('1 kΩ ±10 %'),
  P: rating('Pulse power, each', 'W', 1e9, {
    symbol: 'Pr',
    help: 'Rated peak power for a pulse as long as this dump.',
  }),
  E: rating('Pulse energy, each', 'J', 1e9, {
    symbol: 'Er',
    help: 'Energy rating of one for a dump from cold: low for wire-wound, high for bulk ceramic and columns of water or copper sulphate.',
  }),
  l: rating('Body length, each', 'm', 10),
  body: choiceOf('Material', [{ id: 'unknown', title: 'not known' }, ...bodies], 'unknown'),
  m: onlyWith(
    'body',
    bodies.map(({ id }) => id),
    rating('Heated mass, each', 'kg', 1e4, {
      help: 'For a column the liquid, for a wire-wound resistor the wire without its core.',
    }),
  ),
  Es: surfaceField,
  Vo: rating('Relay, open-contact voltage rating', 'V', 1e7),
  Ic: rating('Relay, making current', 'A', 1e7),
});

/** A fixed resistor that takes the store down from outside the guard, behind a relay that closes when power fails. */
export const relayDump = defineBlock({
  slot: 'dump',
  kind: 'relay',
  title: 'Dump resistor behind a relay that closes when power fails',
  glyph: () => relayDownGlyph,
  fields: relayDumpFields,
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({ dumpResistance: resistance(own) }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: resistance(own).value },
      says: 'dump, its relay closed',
    },
  ],
  figures: [
    {
      id: 'dump-time',
      title: 'Dump, time to below the goal',
      slot: 'dump',
      compute: (rig) =>
        bleedThrough(
          rig,
          rig.offer('dumpResistance'),
          bleedGoal(rig).voltage,
          'time to below the goal through the dump, bleeder open',
        ),
    },
    {
      id: 'dump-hold',
      title: 'Dump, on for at least',
      slot: 'dump',
      compute: (rig) => holdOf(rig.figure('dump-time')),
    },
    {
      id: 'dump-current',
      title: 'Dump, first current',
      slot: 'dump',
      compute: (rig) =>
        work(
          chargeFormulas.initialCurrent,
          { Vs: rig.offer('chargedTo'), R: resistance(rig.own('dump')) },
          'first current of the dump',
        ),
    },
    { id: 'dump-energy', title: 'Dump, energy of each resistor', slot: 'dump', compute: energyOfOne },
    {
      id: 'dump-rise',
      title: 'Dump: temperature rise, each',
      slot: 'dump',
      mayBeMissing: true,
      compute: riseOfOne,
    },
  ],
  limits: [
    {
      id: 'dump-energy',
      title: 'Dump: energy, each',
      slot: 'dump',
      stress: (rig) => rig.figure('dump-energy'),
      rating: (rig) => rig.own('dump').optional('E'),
      levers: ['dump.n', 'store.V0', 'dump.E'],
      protects: true,
      note: 'Bleeder open: the dump takes all that is stored.',
    },
    stringPowerLimit('dump', 'dump-power', 'Dump', 'peak power', (rig) => rig.offer('chargedTo'), {
      levers: ['dump.R', 'dump.n', 'store.V0'],
    }),
    stringVoltageLimit('dump', 'dump-voltage', 'Dump', (rig) => rig.offer('chargedTo'), { levers: ['dump.n', 'store.V0'] }),
    {
      id: 'dump-heat',
      title: 'Dump: temperature rise, each',
      slot: 'dump',
      stress: riseOfOne,
      rating: (rig) => {
        const body = bodyOf(rig.own('dump'));
        return body && rig.own('dump').optional('m')
          ? ruled(`permitted rise of ${body.title}`, body.rise, 'K', body.source)
          : null;
      },
      levers: ['dump.m', 'dump.n', 'store.V0'],
      onlyIfKnown: true,
      note: 'Over one dump, without cooling; the next one starts from there.',
    },
    {
      id: 'dump-body',
      title: 'Dump: voltage along the body, each',
      slot: 'dump',
      stress: (rig) => work(sourceFormulas.surfaceStress, { V: shareOfOne(rig), l: rig.own('dump').quantity('l') }),
      rating: (rig) => (rig.own('dump').optional('l') ? rig.own('dump').quantity('Es') : null),
      levers: ['dump.n', 'dump.l', 'store.V0'],
      onlyIfKnown: true,
    },
    {
      id: 'dump-relay-voltage',
      title: 'Dump relay, open',
      slot: 'dump',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('dump').optional('Vo'),
      levers: ['dump.Vo', 'store.V0'],
      protects: true,
    },
    {
      id: 'dump-relay-current',
      title: 'Dump relay, current it closes on',
      slot: 'dump',
      stress: (rig) => rig.figure('dump-current'),
      rating: (rig) => rig.own('dump').optional('Ic'),
      levers: ['dump.R', 'dump.n', 'dump.Ic'],
      protects: true,
    },
  ],
  problems: (own, rig) => {
    const most = own.optional('Vo');
    const high = highestVoltage(rig);
    return most && high > most.value
      ? [
          {
            severity: 'warning',
            slot: 'dump',
            field: 'Vo',
            text: 'Left on, the supply takes the dump relay above its open-contact rating: it may flash over and dump into the supply.',
          },
        ]
      : [];
  },
  steps: (_own, rig) => [
    {
      id: 'dump-open',
      phase: 'charge',
      text: 'Open the dump from outside the guard: its relay is held open from here on, and closes when its power fails.',
      hold: 'It is shown to be open.',
      does: 'hold-off',
    },
    closing(rig, 'dump-close', 'bleed'),
    closing(rig, 'misfire-dump', 'misfire'),
    outside(rig, 'misfire-outside', 'misfire'),
    closing(rig, 'abort-dump', 'abort'),
    outside(rig, 'abort-outside', 'abort'),
  ],
});
