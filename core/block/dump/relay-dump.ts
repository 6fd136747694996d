import { bleedFormulas, chargeFormulas, sourceFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { rating } from '../../field/index.ts';
import { bleedThrough } from '../bleed-through.ts';
import type { Own, RigContext, StepSpec } from '../context.ts';
import { defineBlock } from '../define.ts';
import { bleedGoal, highestVoltage, holdOf } from '../goal.ts';
import {
  stringFields,
  stringKey,
  stringPowerLimit,
  stringResistance,
  stringVoltageLimit,
  surfaceField,
} from '../resistor-string.ts';
import { storeEnergy } from '../store-energy.ts';

/** J that the resistors take: what is stored, shared by those in series. */
const energyOfOne = (rig: RigContext): Worked =>
  work(
    bleedFormulas.energyShare,
    { E: storeEnergy(rig), n: rig.own('dump').quantity('n') },
    'energy in each resistor of the dump',
  );

const resistance = (own: Own): Worked => stringResistance(own, 'resistors of the dump');

const shareOfOne = (rig: RigContext): Worked =>
  work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: rig.own('dump').quantity('n') }, 'voltage of one');

/** From outside the guard, before anybody goes near: in every way that leads to the tool. */
const closing = (rig: RigContext, id: string, phase: StepSpec['phase']): StepSpec => ({
  id,
  phase,
  text: 'Dump closed from outside the guard: its relay falls in when its power is taken off. Stay outside and watch the meter.',
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
  caution:
    'A meter that does not fall means a relay that stuck open or a resistor that broke: nobody goes near, and the bleeder is waited for to its worst time before the tool.',
});

/** A fixed resistor that takes the store down from outside the guard, behind a relay that closes when power fails. */
export const relayDump = defineBlock({
  slot: 'dump',
  kind: 'relay',
  title: 'Dump resistor behind a relay that closes when power fails',
  glyph: () => 'relay-down',
  fields: {
    ...stringFields('1 kΩ ±10 %'),
    P: rating('Pr', 'Pulse power of one', 'W', 1e9, 'Peak power it is rated for in a pulse as long as this dump.'),
    E: rating(
      'Er',
      'Pulse energy of one',
      'J',
      1e9,
      'Energy one takes in one dump, starting cold: wire-wound little, bulk ceramic and columns of water or copper sulphate much.',
    ),
    l: rating('l', 'Body length of one', 'm', 10),
    Es: surfaceField,
    Vo: rating('Vo', 'Relay, voltage it bears open', 'V', 1e7),
    Ic: rating('Ic', 'Relay, current it may close on', 'A', 1e7),
  },
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P', E: 'E' } },
  offers: (own) => ({ dumpResistance: resistance(own) }),
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
  ],
  limits: [
    {
      id: 'dump-energy',
      title: 'Dump, energy of one',
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
      id: 'dump-body',
      title: 'Dump, along the body of one',
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
            text: 'Left on, the supply brings the relay of the dump above what it bears open: it may flash over and dump into the supply.',
          },
        ]
      : [];
  },
  steps: (_own, rig) => [
    {
      id: 'dump-open',
      phase: 'charge',
      text: 'Dump opened from outside the guard: its relay is held open from here on, and falls in when its power fails.',
      hold: 'It is shown to be open.',
      does: 'hold-off',
    },
    closing(rig, 'dump-close', 'bleed'),
    closing(rig, 'misfire-dump', 'misfire'),
    closing(rig, 'abort-dump', 'abort'),
  ],
});
