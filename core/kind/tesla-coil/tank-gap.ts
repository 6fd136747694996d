import { quantity, rating, above, choice, fields, whole, within } from '../../field/index.ts';
import { ruled, type Worked } from '../../formula/index.ts';
import { swingPeak } from '../../model/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { LimitSpec, Offers, Own, Problem, RigContext, StepSpec } from '../../block/context.ts';
import { ifKnown } from '../../block/known.ts';
import type { CircuitPart, Terminals } from '../../block/define.ts';
import { breakPath, coolingOf, rowBreakdown, verdictOf } from './tank.ts';
import { gapFields, pressureOf, selfBreak } from '../gap/gap.ts';
import { switchLimits, switchRatingFields } from '../solid-state/shared.ts';
import type { FieldId } from '../../block/names.ts';

/** How many gaps there are, and how evenly they share. */
export const rowFields = (k: string) =>
  fields({
    k: quantity('Gaps in series', '1', whole(1, 100), k),
    u: quantity('Series-gap breakdown factor', '1', within(0.1, 1), '90 % ±5 %', {
      tolerance: true,
      help: 'Gaps in series do not share evenly. Common practice, no source: 80 to 95 %.',
    }),
    ...gapFields,
  });

/** Breakdown of the row as it stands, V. */
export const ofRow = (own: Own<typeof tankGapFields & ReturnType<typeof rowFields>>): Worked =>
  rowBreakdown(selfBreak(own), own.quantity('k'), own.quantity('u'));

export const tankGapOffers = (own: Own<typeof tankGapFields & ReturnType<typeof rowFields>>): Offers => ({
  loopResistance: own.quantity('R'),
  loopInductance: own.quantity('L'),
  conduction: 'both-ways',
  firedBy: 'itself',
  freeRunning: true,
  gapScatter: own.quantity('sc'),
  ...(own.optional('p') ? { gasPressure: pressureOf(own) } : {}),
});

/** Of a break by itself: the row, fired at once. */
export const tankGapCircuit = (
  own: Own<typeof tankGapFields & ReturnType<typeof rowFields>>,
  _rig: RigContext,
  { plus, minus, tag }: Terminals,
): CircuitPart[] => [
  {
    element: {
      kind: 'gap',
      name: `S${tag}`,
      nodes: [plus, minus],
      breakdown: ofRow(own).value,
      arc: { law: 'fixed', R: Math.max(own.quantity('R').value, 1e-6) },
      L: Math.max(own.quantity('L').value, 1e-12),
      fireAt: 0,
    },
    says: 'gaps of the tank, fired at once',
  },
];

/** What every gap of a tank has besides where it breaks down. */
export const tankGapFields = fields(
  {
    td: quantity('Conduction time per break', 's', within(0, 0.1), '100 µs', {
      help: 'Until the ring is over; a fast gap quenches at the first notch, after some tens of microseconds.',
    }),
    Ih: quantity('Arc holding current', 'A', above(0, 1e3), '300 mA', {
      help: 'A rule of thumb: the minimum arc current between contacts is some tenths of an ampere, 0.4 A for copper, 1 A for tungsten (Holm, Electric Contacts; from memory); hot gaps hold an arc with less.',
    }),
    R: quantity('Total arc resistance in the ring', 'Ω', within(0, 1e4), '2 Ω ±50 %', {
      symbol: 'Ra',
      tolerance: true,
      help: 'Loss of the arcs as a resistance: some tenths of an ohm per gap; common practice, no source. Measure how fast the ring decays.',
    }),
    L: quantity('Inductance', 'H', within(0, 1e-3), '200 nH', { symbol: 'La', tolerance: true }),
    cooling: choice('Cooling', { still: 'still air', fan: 'a fan', blast: 'forced air through the gaps' }, { initial: 'fan' }),
    Pg: rating('Heat per gap at which it still opens', 'W', 1e6, {
      help: 'Empty: 30 W in still air, 100 W with a fan, 300 W with forced air.',
    }),
    me: rating('Mass of the electrodes, each gap', 'kg', 1e3, { help: 'Sets the permitted run time.' }),
    dTe: quantity('Maximum electrode temperature rise', 'K', above(0, 2000), '150 K', {
      symbol: 'ΔTe',
      help: 'Hot electrodes hold the arc; their mounts soften.',
    }),
    I: switchRatingFields.I,
  },
  { geometry: ['R', 'L', 'td', 'Ih'], life: ['Pg', 'me', 'dTe', 'cooling'] },
);

export const tankGapLimits: readonly LimitSpec[] = [
  {
    id: 'gap-holds-arc',
    title: 'Gap, follow current',
    slot: 'switch',
    stress: (rig) => rig.figure('left-current'),
    rating: (rig) => rig.own('switch').optional('Ih'),
    levers: ['charging.R', 'charging.L'],
    note: 'A rule of thumb: follow current after a shot against the arc holding current. Above it the gap does not re-open.',
  },
  {
    id: 'gap-heat',
    title: 'Gap: heat, each',
    slot: 'switch',
    stress: (rig) => rig.figure('gap-power'),
    rating: coolingOf,
    onlyIfKnown: true,
    levers: ['charging.R'],
    note: 'A rule of thumb: a gap that is too hot no longer opens, whatever the follow current.',
  },
  ...switchLimits.filter(({ id }) => id === 'switch-current'),
];

const warn = (
  field: FieldId,
  text: string,
  severity: Problem['severity'] = 'warning',
  slot: Problem['slot'] = 'switch',
): Problem => ({
  severity,
  slot,
  field,
  text,
});

const amount = (worked: Worked) => printQuantity(worked.value, worked.unit);

/** Why there are no breaks, once, by the gap: the numbers that rest on them are missing for the same reason. */
export function neverFires(rig: RigContext, Vb: Worked): Problem[] {
  const path = ifKnown(() => breakPath(rig));
  if (!path) return [];
  const { Vs, R, L, Ct } = path;
  const alternating = rig.offers('supply').alternating;
  const comes = alternating
    ? ifKnown(() => rig.figure('charge-towards').value)
    : swingPeak({ Vs: Vs.value, f: 0, R: R.value, L: L.value, C: Ct.value, td: 0 });
  if (comes === null || comes > Vb.value) return [];
  const text = `The gap never fires at this supply: the tank reaches ${printQuantity(comes, 'V')}, and the gap holds ${amount(Vb)}. Close the gap, or raise the supply${L.value > 0 ? ', or less resistance beside the choke' : '; a choke lets it swing higher'}.`;
  return [warn('d', text, 'error')];
}

/** Whether it runs, and what its supply would do to a person that a current-limited one would not. */
export function tankProblems(own: Own<typeof tankGapFields & ReturnType<typeof rowFields>>, rig: RigContext): Problem[] {
  const found: Problem[] = [];
  const left = ifKnown(() => rig.figure('left-current'));
  const Ih = own.quantity('Ih');
  if (left) {
    const verdict = verdictOf(left.value, Ih.value);
    const { R, L, Vs } = breakPath(rig);
    const against = `follow current ${amount(left)} when the ring is over, against ${amount(Ih)} that hold an arc (a rule of thumb)`;
    const lacks =
      L.value === 0
        ? `There is no choke: the full ${amount(Vs)} through ${amount(R)} feeds the arc at once. A choke of tens of henries holds that back until the gap has opened.`
        : R.value < Vs.value / Ih.value / 4
          ? `There is almost no resistance: what each break leaves in the choke adds up from break to break. Add 15 kΩ or more in series with the choke.`
          : `More resistance, a larger choke, a wider gap or a lower supply.`;
    if (verdict === 'holds')
      found.push(warn('Ih', `Does not run: ${against}. The gap strikes an arc and stays lit. ${lacks}`, 'error'));
    if (verdict === 'doubtful') found.push(warn('Ih', `May run, and may stay lit: ${against}. ${lacks}`));
  }
  const Vb = ifKnown(() => rig.figure('break-voltage'));
  if (!left && Vb) found.push(...neverFires(rig, Vb));
  const V0 = rig.offer('chargedTo').value;
  if (Vb && Math.abs(V0 / Vb.value - 1) > 0.03)
    found.push(
      warn(
        'V0',
        `The tank breaks at ${amount(Vb)}, and it is set to ${printQuantity(V0, 'V')}: set "charged to" to ${amount(Vb)}, or the gap to it.`,
        'warning',
        'store',
      ),
    );
  const quench = ifKnown(() => rig.figure('quench-rate'));
  const rate = ifKnown(() => rig.figure('break-rate'));
  if (quench && rate && rate.value > quench.value)
    found.push(
      warn(
        'cooling',
        `At ${amount(rate)} the gaps get hotter than their cooling allows, ${amount(quench)} (a rule of thumb): they stop opening. Use more gaps, more air, or less power.`,
      ),
    );
  return found;
}

/** What stands above all of a tank on a supply that is not limited. */
export const tankWarns = [
  {
    figure: 'unlimited-current',
    says: 'from the supply: it has no current limit',
  },
] as const;

const leastDistance = ruled('distance', 3, 'm', 'common practice, no source: three times the longest spark, never under 3 m');

export const tankSteps = (own: Own<typeof tankGapFields & ReturnType<typeof rowFields>>, rig: RigContext): StepSpec[] => {
  const left = ifKnown(() => rig.figure('left-current'));
  const run = ifKnown(() => rig.figure('gap-run-time'));
  const kick = ifKnown(() => rig.figure('choke-kick'));
  return [
    {
      id: 'tank-around',
      phase: 'prepare',
      text: `Earth lead of the secondary on its own stake, not on the mains earth. Ventilate: the gaps make ozone. Hearing protection on. Nothing electronic and nobody with an implant within sight; it disturbs radio, and local rules say what is allowed. Nobody nearer than ${printQuantity(leastDistance.value, 'm')} or three spark lengths, whichever is more.`,
      ...(kick
        ? {
            expect: [
              {
                label: 'Choke kick if its current is cut',
                worked: kick,
                print: 'quantity' as const,
                use: 'high' as const,
              },
            ],
          }
        : {}),
      hold: 'All of it has been checked, and everyone is behind the line.',
      caution: rig.offers('supply').alternating
        ? 'A current-limited transformer kills as well, only less surely.'
        : 'This supply is not limited: whoever bridges it takes all of it, and the doubler’s capacitors as well.',
    },
    {
      id: 'tank-gap-set',
      phase: 'prepare',
      text: `Gaps clean, all ${own.quantity('k').value} alike, air on before the supply.`,
      expect: [
        ...(left
          ? [{ label: 'Follow current after a break', worked: left, print: 'quantity' as const, use: 'high' as const }]
          : []),
        ...(run ? [{ label: 'May run for at least', worked: run, print: 'duration' as const, use: 'low' as const }] : []),
      ],
    },
    {
      id: 'clear',
      // It runs while the supply is on: before it is isolated, not after.
      phase: 'charge',
      text: 'Guard shut, nobody near the secondary or in line with its leads, hearing and eye protection on. Say the count aloud.',
      hold: 'Everyone present has answered.',
      second: true,
    },
    {
      id: 'fire',
      phase: 'charge',
      text: 'Raise the supply from outside the guard until the gap self-breaks with a steady buzz, and no further; then off. If it hisses instead, it holds an arc: supply off at once.',
      does: 'fire',
      caution: 'Supply off ends the sparks; it empties nothing.',
    },
  ];
};
