import { fields, rating } from '../../field/index.ts';
import { bleedFormulas, ruled, sourceFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type RigContext } from '../../block/context.ts';
import { stringFields, stringResistance, stringVoltageLimit, surfaceField } from '../../block/resistor-string.ts';
import { defineLink } from './link.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'charging-resistor-power': true;
    'charging-resistor-energy': true;
    'charging-resistor-rate': true;
    'charging-resistor-rise': true;
  }
}

const whole = (rig: RigContext) => stringResistance(rig.own('charging'), 'charging resistor');

/** Heat in one resistor of the string over one charge. */
const energyOfOne = (rig: RigContext): Worked =>
  work(
    bleedFormulas.energyShare,
    {
      E: work(
        sourceFormulas.seriesShare,
        { E: rig.figure('charging-energy-lost'), R: whole(rig), Rt: rig.figure('charging-resistance') },
        'heat in the charging resistor, one charge',
      ),
      n: rig.own('charging').quantity('n'),
    },
    'heat in one resistor, one charge',
  );

const peakVoltage = (rig: RigContext): Worked => rig.figure('charging-voltage');

export const resistorFields = (initial: string) =>
  fields({
    ...stringFields(initial),
    P: rating('Power rating, each', 'W', 1e6, { symbol: 'Pr' }),
    E: rating('Pulse energy, each', 'J', 1e9, {
      symbol: 'Er',
      help: 'Heat rating of one resistor for a single charge, from its data sheet.',
    }),
    m: rating('Mass, each', 'kg', 100, { help: 'For its temperature rise.' }),
    l: rating('Body length, each', 'm', 10, { help: 'From cap to cap: the path an arc takes when the voltage is too high.' }),
    Es: surfaceField,
  });

/** A resistor or a string of them. */
export const resistorLink = (initial: string) =>
  defineLink({
    fields: resistorFields(initial),
    offers: (own) => ({ chargingResistance: stringResistance(own, 'charging resistor') }),
    circuit: (own, _rig, { plus, minus, tag }) => [
      {
        element: {
          kind: 'resistor',
          name: `R${tag}`,
          nodes: [plus, minus],
          R: Math.max(1e-6, own.quantity('R').value * own.quantity('n').value),
        },
        says: 'charging resistor',
      },
    ],
    figures: [
      {
        id: 'charging-resistor-power',
        asks: 'wears',
        title: 'Charging resistor, peak power',
        slot: 'charging',
        compute: (rig) =>
          work(
            bleedFormulas.resistorPowerFromCurrent,
            { I: rig.figure('charging-current'), R: whole(rig) },
            'peak power in the charging resistor',
          ),
      },
      {
        id: 'charging-resistor-energy',
        asks: 'wears',
        title: 'Charging resistor: heat, each',
        slot: 'charging',
        compute: energyOfOne,
      },
      {
        id: 'charging-resistor-rate',
        asks: 'wears',
        title: 'Repetition rate, charging-resistor-limited',
        slot: 'charging',
        mayBeMissing: true,
        compute: (rig) => {
          const P = rig.own('charging').optional('P');
          if (!P) throw new Unavailable('charging', 'the power rating of each resistor is not given', 'P');
          return work(
            sourceFormulas.powerLimitedRate,
            { P, E: energyOfOne(rig) },
            'charges a second within the rating of one resistor',
          );
        },
      },
      {
        id: 'charging-resistor-rise',
        asks: 'wears',
        title: 'Charging resistor, temperature rise a charge',
        slot: 'charging',
        mayBeMissing: true,
        compute: (rig) => {
          const m = rig.own('charging').optional('m');
          if (!m) throw new Unavailable('charging', 'the mass of each resistor is not given', 'm');
          const c = ruled('specific heat', 800, 'J/(kg·K)', 'ceramic and carbon, from memory');
          return work(sourceFormulas.adiabaticRise, { E: energyOfOne(rig), m, c }, 'temperature rise per charge, each');
        },
      },
    ],
    warmed: (own, rig) => {
      const P = own.optional('P');
      return P ? [{ title: 'Charging resistor', E: energyOfOne(rig), P }] : [];
    },
    limits: [
      stringVoltageLimit('charging', 'charging-resistor-voltage', 'Charging resistor', peakVoltage, {
        levers: ['charging.n', 'supply.V'],
        note: 'At the first instant of the charge it sees the whole supply voltage.',
      }),
      {
        id: 'charging-resistor-power',
        title: 'Charging resistor: power, each',
        slot: 'charging',
        stress: (rig) =>
          work(bleedFormulas.resistorPowerFromCurrent, {
            I: rig.figure('charging-current'),
            R: rig.own('charging').quantity('R'),
          }),
        rating: (rig) => rig.own('charging').optional('P'),
        levers: ['charging.R', 'supply.V'],
        note: 'Power at the first instant against the steady rating: strict for a short charge, right for a shorted store.',
      },
      {
        id: 'charging-resistor-mean-power',
        title: 'Charging resistor: average power, each',
        slot: 'charging',
        stress: (rig) =>
          work(
            sourceFormulas.meanPower,
            { E: energyOfOne(rig), t: rig.figure('charge-time') },
            'mean power in one, charging all the time',
          ),
        rating: (rig) => rig.own('charging').optional('P'),
        onlyIfKnown: true,
        levers: ['charging.n', 'charging.R'],
        note: 'Shot after shot with no pause between them.',
      },
      {
        id: 'charging-resistor-energy',
        title: 'Charging resistor: heat, each',
        slot: 'charging',
        stress: energyOfOne,
        rating: (rig) => rig.own('charging').optional('E'),
        onlyIfKnown: true,
        levers: ['charging.n', 'store.V0'],
      },
      {
        id: 'charging-resistor-flashover',
        title: 'Charging resistor, flashover along it',
        slot: 'charging',
        stress: (rig) =>
          work(
            sourceFormulas.surfaceStress,
            {
              V: work(storeFormulas.shareOfString, { V: peakVoltage(rig), n: rig.own('charging').quantity('n') }),
              l: rig.own('charging').quantity('l'),
            },
            'field along one resistor',
          ),
        rating: (rig) => rig.own('charging').optional('Es'),
        onlyIfKnown: true,
        levers: ['charging.n', 'charging.l'],
        note: 'Arcs along the resistors mean the string is too short for the voltage.',
      },
    ],
    problems: (own, rig) => {
      const l = own.optional('l');
      const Es = own.optional('Es');
      if (!l || !Es) return [];
      const wanted = peakVoltage(rig).value / Es.value;
      const there = l.value * own.quantity('n').value;
      if (wanted <= there) return [];
      const text = `The string is ${printQuantity(there, 'm')} long from cap to cap; ${printQuantity(peakVoltage(rig).value, 'V')} needs ${printQuantity(wanted, 'm')} at ${printQuantity(Es.value, 'V/m')}. Use more in series, or longer ones, or put them under oil.`;
      return [{ severity: 'warning', slot: 'charging', field: 'n', text }];
    },
  });
