import { quantity, above, choice, within, fields } from '../../field/index.ts';
import { gapFormulas, ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printAsTyped, printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { highestVoltage, setVoltage } from '../../block/goal.ts';
import { gapCertainty, gapFields, hardlyBelow, inThisShot, pressureOf, selfBreak, strengthOf } from './gap.ts';
import { readObserved } from './observed.ts';
import { arcFall, arcLawText, fallingArc } from '../../block/arc.ts';
import { fireSteps, switchLimits, switchRatingFields } from '../solid-state/shared.ts';
import type { FieldId } from '../../block/names.ts';
import { commissionDesk, gapDesk } from './desks.ts';
import { switchesDesk } from '../solid-state/desks.ts';
import { sparkGapGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'switch/spark-gap': typeof sparkGapFields;
  }
  interface FigureIds {
    'self-break': true;
    'gap-share': true;
    'gap-prefire': true;
    'gap-wear': true;
    'gap-gas': true;
  }
}

/** Where a gap that is triggered is set, against its self-break. */
export const triggeredFrom = ruled('share of self-break', 0.7, '1', 'common practice, no source: 70 to 85 % of self-break');
export const triggeredTo = ruled('share of self-break', 0.85, '1', 'common practice, no source: 70 to 85 % of self-break');

/** Up to here the tolerance of a new gap's enhancement has the error of the calculation in it. */
const wellKnown = 0.05;
const hasObserved = (own: Own<typeof sparkGapFields>): boolean => {
  const read = readObserved(own.lines('seen'));
  return read.ok && read.observed.length > 0;
};

/** Times that the gas is exchanged between two shots. */
const exchanges = ruled('times that it is exchanged', 3, '1', 'common practice, no source: three to five');

/** Gas to blow through between two shots, as it comes out of the gap, m³. */
const gasBetween = (own: Own<typeof sparkGapFields>): Worked =>
  work(gapFormulas.gasExchange, { Vg: own.quantity('Vg'), k: exchanges, p: pressureOf(own), pa: own.air().pressure });

/** Shots a second above which a gap in still gas does not hold again in time. Common practice, no source. */
const stillRate = 10;

/** Litres a minute that such a rate needs; null where it needs none or the volume is not known. */
function flowFor(own: Own<typeof sparkGapFields>): number | null {
  const rate = own.optional('fs')?.value ?? 0;
  return rate > stillRate && own.optional('Vg') ? gasBetween(own).value * rate * 60e3 : null;
}

/** C that pass it in a shot. Of stages in series one carries the charge of the erected store, and no more. */
const chargeOfShot = (rig: RigContext): Worked =>
  work(storeFormulas.storedCharge, { C: rig.figure('discharge-capacitance'), V: rig.figure('discharge-voltage') });

/** Where it breaks down by itself in a shot, V. */
const breaksAt = (own: Own<typeof sparkGapFields>): Worked => inThisShot(own, selfBreak(own));

const isTriggered = (own: Own<typeof sparkGapFields>) => own.is('mode', 'triggered');

function problems(own: Own<typeof sparkGapFields>, rig: RigContext): Problem[] {
  const Vb = selfBreak(own).value;
  const V0 = setVoltage(rig).value;
  const warn = (field: FieldId<'switch'>, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
    severity,
    slot: 'switch',
    field,
    text,
  });
  const at = `${printQuantity(V0, 'V')} is ${printPercent(V0 / Vb, 2)} of its self-break at ${printQuantity(Vb, 'V')}`;
  const found: Problem[] = [];
  if (isTriggered(own)) {
    if (V0 >= Vb)
      found.push(warn('d', `The gap pre-fires before the store is full: ${at}. Open the gap, or raise the pressure.`, 'error'));
    else if (V0 > hardlyBelow(own, selfBreak(own)).value)
      found.push(warn('d', `Within its scatter the gap pre-fires: ${at}. Open the gap, or raise the pressure.`));
    else if (V0 < 0.5 * Vb)
      found.push(warn('d', `The trigger may miss: ${at}; common practice is 70 to 85 %. Close the gap, or lower the pressure.`));
  } else if (V0 > Vb)
    found.push(
      warn(
        'd',
        `The gap self-breaks at ${printQuantity(Vb, 'V')}, below the ${printQuantity(V0, 'V')} set: every number of this rig is for ${printQuantity(Vb, 'V')}.`,
      ),
    );
  else if (highestVoltage(rig) < Vb)
    found.push(
      warn(
        'd',
        `The gap never fires: the supply brings the store to ${printQuantity(highestVoltage(rig), 'V')}, its self-break is ${printQuantity(Vb, 'V')}. Close the gap.`,
        'error',
      ),
    );
  if (own.is('geometry', 'needle') || own.is('geometry', 'rod-plane'))
    found.push(
      warn(
        'geometry',
        'Points go into corona long before they break down, and scatter; use round electrodes for a gap that is to be set.',
      ),
    );
  const rate = own.optional('fs');
  if (rate && rate.value > stillRate && !own.optional('Vg'))
    found.push(
      warn(
        'Vg',
        `At ${printQuantity(rate.value, 'Hz')} the gap does not hold again in still gas: blow it out between shots, and enter the gas between its electrodes for the flow.`,
      ),
    );
  const { band, drawnOut } = gapCertainty(own);
  if (band > wellKnown && !hasObserved(own))
    found.push(
      warn(
        'd',
        `Its self-break is only known within ${printPercent(band, 2)}${drawnOut === null ? '' : ` (${drawnOut})`}, and the limits do not include that: set the gap by observed breakdowns, on the Gap page.`,
      ),
    );
  return found;
}

const sparkGapFields = fields(
  {
    mode: choice(
      'Fired',
      { triggered: 'by a trigger', 'self-break': 'by self-break' },
      { help: 'Where a person must choose the moment, use a trigger: the gap is then set above the charge voltage.' },
    ),
    ...gapFields,
    R: quantity('Resistance of the arc', 'Ω', within(0, 1e4), '20 mΩ ±50 %', {
      symbol: 'Ra',
      tolerance: true,
      help: 'Mean over the pulse; higher at less current.',
    }),
    L: quantity('Inductance', 'H', within(0, 1e-3), '50 nH', { symbol: 'La', tolerance: true }),
    I: switchRatingFields.I,
    fs: quantity('Shots a second', 'Hz', above(0, 1e3), null, { optional: true, help: 'Empty: single shots, minutes apart.' }),
    Vg: quantity('Gas between the electrodes', 'm³', above(0, 1), null, {
      optional: true,
      help: 'What the arc heats: about the spacing times the face of the electrodes. In cm³.',
    }),
    Q: quantity('Charge between dressings of the electrodes', 'C', above(0, 1e9), null, {
      symbol: 'Qw',
      help: 'Brass loses some 0.1 mm³ per ten coulombs; copper and tungsten less. Common practice, no source.',
    }),
  },
  { geometry: ['R', 'L', 'reading'], life: ['Q', 'fs', 'Vg'] },
);

export const sparkGap = defineBlock({
  slot: 'switch',
  kind: 'spark-gap',
  title: 'Spark gap',
  desks: [gapDesk, commissionDesk, switchesDesk],
  glyph: () => sparkGapGlyph,
  fields: sparkGapFields,
  key: (own) => ({ text: printQuantity(selfBreak(own).value, 'V'), detail: isTriggered(own) ? 'triggered' : 'self-break' }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: own.quantity('L'),
    conduction: 'both-ways' as const,
    ...(own.optional('p') ? { gasPressure: pressureOf(own) } : {}),
    gasStrength: strengthOf(own),
    gapScatter: own.quantity('sc'),
    firedBy: isTriggered(own) ? ('trigger' as const) : ('itself' as const),
    firesAt: () => breaksAt(own),
  }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'gap',
        name: `S${tag}`,
        nodes: [plus, minus],
        breakdown: selfBreak(own).value,
        arc: fallingArc(own.quantity('d').value, own.quantity('R').value),
        L: Math.max(own.quantity('L').value, 1e-12),
        fireAt: 0,
      },
      says: `spark gap, fired at once. ${arcLawText}`,
      leftOut: { what: arcFall, instead: 'at once' },
    },
  ],
  figures: [
    { id: 'self-break', title: 'Self-break of the gap', slot: 'switch', compute: (rig) => breaksAt(rig.own('switch')) },
    {
      id: 'gap-share',
      title: 'Charge voltage as a share of self-break',
      slot: 'switch',
      compute: (rig) => work(gapFormulas.shareOfSelfBreak, { V: setVoltage(rig), Vb: rig.figure('self-break') }),
    },
    {
      id: 'gap-prefire',
      title: 'No pre-fire below',
      slot: 'switch',
      compute: (rig) => hardlyBelow(rig.own('switch'), rig.figure('self-break')),
    },
    {
      id: 'gap-gas',
      title: 'Gas through the gap between two shots',
      slot: 'switch',
      mayBeMissing: true,
      compute: (rig) => gasBetween(rig.own('switch')),
    },
    {
      id: 'gap-wear',
      asks: 'wears',
      title: 'Shots between dressings',
      slot: 'switch',
      mayBeMissing: true,
      compute: (rig) => {
        const Q = rig.own('switch').quantity('Q');
        return work(gapFormulas.shotsOfWear, { Q, q: chargeOfShot(rig) });
      },
    },
  ],
  limits: [
    {
      id: 'gap-prefire',
      title: 'Gap: self-break',
      slot: 'switch',
      stress: setVoltage,
      rating: (rig) => (isTriggered(rig.own('switch')) ? rig.figure('gap-prefire') : null),
      onlyIfKnown: true,
      levers: ['switch.d', 'switch.p', 'store.V0'],
      note: 'Three standard deviations below self-break: one shot in some hundred pre-fires above it.',
    },
    ...switchLimits.filter(({ id }) => id === 'switch-current'),
  ],
  problems,
  uses: (own, rig) => {
    const Q = own.optional('Q');
    return [
      ...(Q
        ? [
            {
              id: 'electrodes',
              title: 'Electrodes of the gap',
              each: chargeOfShot(rig),
              lasts: Q,
              then: 'Dress the electrodes, and measure the gap anew',
            },
          ]
        : []),
      ...(own.optional('Vg')
        ? [{ id: 'gas', title: 'Gas for the gap', each: rig.figure('gap-gas'), then: 'Bring another bottle' }]
        : []),
    ];
  },
  steps: (own, rig) => [
    {
      id: 'gap-set',
      phase: 'prepare',
      text: `Gap set to ${printAsTyped(own.quantity('d').value, 'm', own.typed('d'))}${own.quantity('p').value > 0 ? `, ${printAsTyped(own.quantity('p').value, 'Pa', own.typed('p'))} ${own.is('reading', 'gauge') ? 'by the gauge' : 'absolute'}` : ''}; electrodes clean, nothing between them.`,
      expect: [{ label: 'Self-break', worked: rig.figure('self-break'), print: 'quantity', use: 'nominal' }],
      hold: 'The spacing is measured with the strap on.',
    },
    ...(flowFor(own) === null
      ? []
      : [
          {
            id: 'gap-flow',
            phase: 'prepare' as const,
            text: `Gas flow through the gap: at least ${(flowFor(own) ?? 0).toPrecision(2)} litres a minute, measured behind it, before the first shot.`,
            hold: 'The flow meter reads it.',
          },
        ]),
    ...fireSteps(
      isTriggered(own)
        ? (rig.offers('trigger').firedAs ?? 'Fire the trigger from outside the guard.')
        : 'Raise the voltage slowly, from outside the guard, until the gap self-breaks.',
    ),
  ],
});
