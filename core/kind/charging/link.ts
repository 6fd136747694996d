import type { Fields } from '../../field/index.ts';
import { rating, above, choice, fields, quantity } from '../../field/index.ts';
import { chargeFormulas, dischargeFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { FigureSpec, LimitSpec, Offers, Own, Problem, RigContext, StepSpec } from '../../block/context.ts';
import { defineBlock, type BlockDefinition, type CircuitPart, type Terminals } from '../../block/define.ts';
import type { FaultMode } from '../../block/fault.ts';
import type { Glyph } from '../../block/glyph.ts';
import type { Warmed } from '../../block/shot-needs.ts';
import { followCurrent } from '../../block/follow-current.ts';
import { ifKnown } from '../../block/known.ts';
import { staysConnected } from '../../block/charger-at-shot.ts';

/** One thing in the charging path. A kind of charging block is a row of these, from the supply to the store. */
export interface Link<F extends Fields> extends Acts<F> {
  readonly fields: F;
}

/** What a link does, by its fields: a kind of charging has these of all its links, and more. */
interface Acts<F extends Fields> {
  offers(own: Own<F>): Offers;
  readonly figures?: readonly FigureSpec[];
  readonly limits?: readonly LimitSpec[];
  problems?(own: Own<F>, rig: RigContext): readonly Problem[];
  steps?(own: Own<F>, rig: RigContext): readonly StepSpec[];
  circuit(own: Own<F>, rig: RigContext, at: Terminals): readonly CircuitPart[];
  warmed?(own: Own<F>, rig: RigContext): readonly Warmed[];
  /** How it fails, besides that it is open or bridged. */
  faults?(at: Terminals): readonly FaultMode[];
  readonly leavesOut?: string;
}

/** Checks a link against the type: its functions read the fields that it declares. */
export const defineLink = <const F extends Fields>(link: Link<F>): Link<F> => link;

/** What every charging path has: the mark on the way up, and what the shot may do to the charger. */
export const chargingFields = fields({
  fraction: quantity('Mark at a fraction of the charge voltage', '1', above(0, 0.9999), '95 %', {
    symbol: 'x',
    help: 'The charge time to this fraction is shown beside the full one.',
  }),
  firing: choice(
    'At the shot the charger is',
    { isolated: 'isolated', connected: 'still connected' },
    { help: 'Isolated: a visible break, opened before the shot.' },
  ),
  Ib: rating('Charger, reverse current rating', 'A', 1e6, { help: 'Pulse rating of its output diodes.' }),
  Le: quantity('Inductance of the shared earth lead', 'H', above(0, 1), null, {
    help: 'Lead that carries the shot and is also the return of the charger; about 1 µH a metre.',
  }),
  Vk: rating('Charger, permitted kick to earth', 'V', 1e7),
});

/** What a store that has rung to the other polarity drives through a charger that is still connected. */
function backfeed(rig: RigContext): Worked {
  const reversed = { k: rig.figure('voltage-reversal'), V: rig.offer('chargedTo'), R: rig.figure('charging-resistance') };
  return rig.offers('supply').chargeLaw?.isLimited
    ? work(dischargeFormulas.limitedBackfeedCurrent, { ...reversed, I: followCurrent(rig) })
    : work(dischargeFormulas.backfeedCurrent, { ...reversed, Vs: rig.offer('sourceVoltage') });
}

const protection: readonly LimitSpec[] = [
  {
    id: 'charger-backfeed',
    title: 'Charger, current back into it',
    slot: 'charging',
    stress: backfeed,
    rating: (rig) => rig.own('charging').optional('Ib'),
    onlyIfKnown: true,
    levers: ['charging.R', 'load.R'],
    note: 'When the store has rung to the other polarity. A diode in the path does not stop it: it is forward-biased.',
  },
  {
    id: 'charger-kick',
    title: 'Charger, kick through earth',
    slot: 'charging',
    stress: (rig) =>
      work(
        dischargeFormulas.earthKick,
        {
          S: rig.figure('peak-di-dt'),
          Le: rig.own('charging').quantity('Le'),
          L: rig.figure('loop-inductance'),
        },
        'kick along the shared earth lead',
      ),
    rating: (rig) => rig.own('charging').optional('Vk'),
    onlyIfKnown: true,
    levers: ['charging.Le', 'load.L'],
    note: 'A shot through a lead that is also the charger’s return lifts the charger by L·di/dt. A single star point avoids it.',
  },
];

function connectedProblem(rig: RigContext): Problem[] {
  if (!staysConnected(rig)) return [];
  const follow = ifKnown(() => printQuantity(followCurrent(rig).value, 'A')) ?? 'as much as the supply gives';
  const text = `The charger is still connected at the shot: it goes on feeding the switch (${follow} with the store empty), can keep a thyristor or an arc conducting, recharges the store after the shot, and takes whatever rings back. Isolate it with a visible break.`;
  return [{ severity: 'warning', slot: 'charging', field: 'firing', text }];
}

/** Of a tank that breaks by itself: there is no voltage to stop at, and none to hold. */
const runStep: StepSpec = {
  id: 'charge',
  phase: 'charge',
  text: 'Supply on, at its lowest setting. The gap is silent; the tank may be charged from here on.',
  hold: 'The supply shows that it is on, and nothing hisses.',
  does: 'charge',
  caution: 'If anything is heard or seen already: supply off, treat it as charged, and go to the abort branch.',
};

/** Of a gap that self-breaks: there is no voltage to stop at. */
const raiseStep: StepSpec = {
  id: 'charge',
  phase: 'charge',
  text: 'Supply on, at its lowest setting, from outside the guard. Treat the store as charged from here on; the gap may fire at any time.',
  hold: 'The supply shows that it is on.',
  does: 'charge',
  caution: 'If the meter does not rise as expected: supply off, treat it as charged, and go to the abort branch.',
};

const chargeStep = (own: Own<typeof chargingFields>, rig: RigContext): StepSpec => ({
  id: 'charge',
  phase: 'charge',
  text: `Supply on. Watch the meter from outside the guard and stop at ${printQuantity(rig.offer('chargedTo').value, 'V')}.`,
  expect: [
    {
      label: `${printPercent(own.quantity('fraction').value, 2)} of the charge after`,
      worked: rig.figure('charge-time-fraction'),
      print: 'duration',
      use: 'nominal',
    },
    { label: 'Charged after', worked: rig.figure('charge-time'), print: 'duration', use: 'nominal' },
    { label: 'Worst case after', worked: rig.figure('charge-time'), print: 'duration', use: 'high' },
  ],
  hold: 'The meter reads the charge voltage and no more.',
  does: 'charge',
  reading: { expected: rig.offer('chargedTo') },
  caution: 'If the meter does not rise as expected: supply off, treat it as charged, and go to the abort branch.',
});

interface Charging<F extends Fields> {
  readonly kind: string;
  readonly title: string;
  readonly glyph: Glyph;
  /** Those of its links, and those of every charging path. */
  readonly fields: F;
  readonly links: readonly Acts<NoInfer<F>>[];
  readonly takes?: BlockDefinition<NoInfer<F>>['takes'];
  readonly key: BlockDefinition<NoInfer<F>>['key'];
}

/** The fields that every charging path has: the checker does not see them through a kind that it does not know. */
const charging = (own: unknown) => own as Own<typeof chargingFields>;

/** A kind of charging block out of its links, in the order from the supply to the store. */
export function defineCharging<const F extends Fields & typeof chargingFields>({
  kind,
  title,
  glyph,
  fields: all,
  links,
  takes,
  key,
}: Charging<F>): BlockDefinition {
  const node = (i: number, { plus, minus }: Terminals) => (i === 0 ? plus : i === links.length ? minus : `${plus}${i}`);
  return defineBlock<F>({
    slot: 'charging',
    kind,
    title,
    glyph: () => glyph,
    fields: all,
    ...(takes ? { takes } : {}),
    key,
    offers: (own) => {
      const offered = links.map((link) => link.offers(own));
      const resistances = offered.flatMap(({ chargingResistance }) => chargingResistance ?? []);
      const [first, ...rest] = resistances;
      const sum = rest.reduce<Worked | undefined>(
        (R1, R2) => (R1 ? work(chargeFormulas.seriesSum, { R1, R2 }, 'resistance of the charging path') : R2),
        first,
      );
      return { ...(Object.assign({}, ...offered) as Offers), ...(sum ? { chargingResistance: sum } : {}) };
    },
    circuit: (own, rig, at) =>
      links.flatMap((link, i) => link.circuit(own, rig, { ...at, plus: node(i, at), minus: node(i + 1, at) })),
    warmed: (own, rig) => links.flatMap((link) => link.warmed?.(own, rig) ?? []),
    faults: (_own, _rig, at) => links.flatMap((link) => link.faults?.(at) ?? []),
    leavesOut: () => links.flatMap((link) => link.leavesOut ?? []).join('; ') || null,
    figures: links.flatMap((link) => link.figures ?? []),
    limits: [...links.flatMap((link) => link.limits ?? []), ...protection],
    problems: (own, rig) => [...connectedProblem(rig), ...links.flatMap((link) => link.problems?.(own, rig) ?? [])],
    steps: (own, rig) => [
      ...links.flatMap((link) => link.steps?.(own, rig) ?? []),
      rig.offers('switch').freeRunning
        ? runStep
        : rig.offers('switch').firedBy === 'itself'
          ? raiseStep
          : chargeStep(charging(own), rig),
    ],
  });
}
