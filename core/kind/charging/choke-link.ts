import { rating, above, fields, quantity, within } from '../../field/index.ts';
import { chokeFormulas, dischargeFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { ChargeLaw, Own, RigContext } from '../../block/context.ts';
import { defineLink } from './link.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'choke-kick': true;
  }
}

const loop = (rig: RigContext) => ({
  Vs: rig.figure('charging-voltage'),
  R: rig.figure('charging-resistance'),
  L: rig.own('charging').quantity('L'),
  C: rig.figure('bank-capacitance'),
});

const law: ChargeLaw = {
  reach: (rig) => work(chokeFormulas.chokePeakVoltage, loop(rig), 'voltage the choke charges to'),
  time: (rig, V, title) => work(chokeFormulas.chokeChargeTime, { ...loop(rig), V }, title),
  loss: (rig) => work(chokeFormulas.chokeChargingLoss, loop(rig), 'energy lost while charging'),
  peak: (rig) => {
    const { Vs, R, L, C } = loop(rig);
    return work(dischargeFormulas.rlcPeakCurrent, { R, L, C, V: Vs }, 'peak charging current');
  },
};

function chokeProblems(own: Own<typeof chokeFields>, rig: RigContext, holds: boolean) {
  const reached = rig.figure('charge-towards').value;
  const V0 = rig.offer('chargedTo').value;
  const supply = rig.offers('supply');
  // A gap that self-breaks ends the swing where it is set.
  const ends = rig.offers('switch').firedBy === 'itself';
  const stiff = supply.chargeLaw === undefined || supply.meanResistance !== undefined;
  const warn = (field: keyof typeof chokeFields, text: string) => ({
    severity: 'warning' as const,
    slot: 'charging' as const,
    field,
    text,
  });
  const ringsBack = Math.max(0, 2 * rig.figure('charging-voltage').value - reached);
  return [
    ...(!ends && reached > V0 * 1.02
      ? [
          warn(
            'L',
            `One swing of the choke takes the store to ${printQuantity(reached, 'V')}, above the ${printQuantity(V0, 'V')} set, and nobody stops a swing half-way. Lower the supply, or set the store to that voltage.`,
          ),
        ]
      : []),
    ...(holds || ends
      ? []
      : [
          warn(
            'L',
            `Nothing holds the store at its peak: half a period later it has swung back to about ${printQuantity(ringsBack, 'V')}. A hold-off diode keeps the peak.`,
          ),
        ]),
    ...(stiff
      ? []
      : [
          warn(
            'L',
            'A choke doubles the voltage only from a stiff supply with a large capacitor. This supply is not stiff: trust the solver, not the closed form.',
          ),
        ]),
    ...(own.optional('Ic')
      ? []
      : [warn('Ic', 'The saturation current of the choke is not known; above it the choke is a piece of wire.')]),
  ];
}

export const chokeFields = fields({
  L: quantity('Inductance of the choke', 'H', above(0, 1e5), '10 H', { tolerance: true }),
  Rl: quantity('Resistance of the choke', 'Ω', within(0, 1e6), '100 Ω', {
    tolerance: true,
    help: 'Winding, plus whatever damps the ring after the charge.',
  }),
  Cs: quantity('Stray capacitance of the choke', 'F', above(0, 1e-3), '200 pF', {
    help: 'Its own and that of a snubber across it.',
  }),
  Ic: rating('Saturation current', 'A', 1e6),
  Vi: rating('Winding insulation rating', 'V', 1e7),
});

/** A choke that lets the store swing to about twice the supply. */
export const chokeLink = (holds: boolean) =>
  defineLink({
    fields: chokeFields,
    offers: (own) => ({ chargingResistance: own.quantity('Rl'), chargingInductance: own.quantity('L'), chargeLaw: law }),
    leavesOut: 'what the supply and the bleeder do to the swing of the choke: it has a stiff supply and no leak',
    circuit: (own, _rig, { plus, minus, tag }) => [
      {
        element: {
          kind: 'inductor',
          name: `L${tag}`,
          nodes: [plus, minus],
          L: own.quantity('L').value,
          R: own.quantity('Rl').value,
        },
        says: 'charging choke with its winding',
      },
    ],
    figures: [
      {
        id: 'choke-kick',
        title: 'Choke, kick if its current is cut at the peak',
        slot: 'charging',
        compute: (rig) =>
          work(chokeFormulas.chokeKick, {
            I: rig.figure('charging-current'),
            L: rig.own('charging').quantity('L'),
            Cs: rig.own('charging').quantity('Cs'),
          }),
      },
    ],
    limits: [
      {
        id: 'choke-saturation',
        title: 'Choke, saturation',
        slot: 'charging',
        stress: (rig) => rig.figure('charging-current'),
        rating: (rig) => rig.own('charging').optional('Ic'),
        levers: ['charging.L', 'supply.V'],
      },
      {
        id: 'choke-kick',
        title: 'Choke, kick',
        slot: 'charging',
        stress: (rig) => rig.figure('choke-kick'),
        rating: (rig) => rig.own('charging').optional('Vi'),
        onlyIfKnown: true,
        levers: ['charging.Cs', 'charging.L'],
        note: 'For a lead that opens in mid-charge: the choke then dumps its energy in sparks across it. A snubber or a gap across the choke takes that.',
      },
    ],
    problems: (own, rig) => chokeProblems(own, rig, holds),
  });
