import { above, choice, onlyWith, quantity, rating, within } from '../../field/index.ts';
import { ruled, sourceFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import {
  Unavailable,
  type FigureSpec,
  type LimitSpec,
  type Own,
  type Problem,
  type RigContext,
  type StepSpec,
} from '../../block/context.ts';
import { ifKnown } from '../../block/known.ts';
import type { FieldId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'chain-power': true;
    'chain-current': true;
    'chain-voltage': true;
    'chain-charges': true;
  }
}

/** What stands before the drive of a supply that makes its voltage in steps: source, then converter or transformer. */
const entered = ['battery', 'dc', 'ac'];
export const chainFields = {
  src: choice('Source of the drive', {
    unsaid: 'not entered',
    battery: 'battery',
    dc: 'DC bench supply',
    ac: 'mains or another AC source',
  }),
  drv: onlyWith(
    'src',
    entered,
    choice('Drive made by', { converter: 'converter, from DC', transformer: 'transformer, from AC' }),
  ),
  Es: onlyWith('src', entered, quantity('Source voltage, no load', 'V', above(0, 1e5), '12 V', { symbol: 'Es' })),
  Rs: onlyWith('src', entered, quantity('Source resistance with leads', 'Ω', within(0, 1e5), '500 mΩ', { symbol: 'Rs' })),
  Iq: onlyWith(
    'src',
    entered,
    rating('Source current, at most', 'A', 1e5, {
      symbol: 'Iq',
      help: 'What it gives without harm: its limit, or that of its fuse.',
    }),
  ),
  es: onlyWith('src', entered, quantity('Efficiency, source to drive', '1', above(0, 1), '60 %', { symbol: 'η' })),
  Qs: onlyWith('src', ['battery'], quantity('Battery capacity', 'C', above(0, 1e9), '500 mAh', { symbol: 'Qs' })),
} as const;

type ChainOwn = Own<typeof chainFields>;

const chainOf = (rig: RigContext): ChainOwn => {
  const own: ChainOwn = rig.own('supply');
  if (own.is('src', 'unsaid')) throw new Unavailable('supply', 'what the drive is fed from is not entered', 'src');
  return own;
};

/** Mean power that the drive gives while the store is charged as fast as it can be. */
const driven = (rig: RigContext): Worked => rig.figure('source-mean-power');

const input = (rig: RigContext) => {
  const own = chainOf(rig);
  return { P: driven(rig), eta: own.quantity('es'), E: own.quantity('Es'), Ri: own.quantity('Rs') };
};

/** Power that the source gives through the drive at most, W; null where nothing entered limits it. */
export function chainPower(own: ChainOwn): Worked | null {
  const [E, Ri, most] = [own.optional('Es'), own.optional('Rs'), own.optional('Iq')];
  if (own.is('src', 'unsaid') || !E || !Ri || (!most && Ri.value === 0)) return null;
  const I = most ?? ruled('current without a limit', E.value / Ri.value, 'A', 'short-circuit current of the source');
  return work(sourceFormulas.powerThroughDrive, { eta: own.quantity('es'), E, I, Ri });
}

export const chainFigures: readonly FigureSpec[] = [
  {
    id: 'chain-power',
    title: 'Power from the source while it charges',
    slot: 'supply',
    mayBeMissing: true,
    compute: (rig) => work(sourceFormulas.powerBefore, { P: driven(rig), eta: chainOf(rig).quantity('es') }),
  },
  {
    id: 'chain-current',
    title: 'Current from the source while it charges',
    slot: 'supply',
    mayBeMissing: true,
    compute: (rig) => work(sourceFormulas.inputCurrent, input(rig), 'current from the source'),
  },
  {
    id: 'chain-voltage',
    title: 'Source voltage while it charges',
    slot: 'supply',
    mayBeMissing: true,
    compute: (rig) => {
      const { E, Ri } = input(rig);
      return work(sourceFormulas.loadedVoltage, { E, I: rig.figure('chain-current'), Ri }, 'source voltage while it charges');
    },
  },
  {
    id: 'chain-charges',
    title: 'Charges in one battery',
    slot: 'supply',
    mayBeMissing: true,
    compute: (rig) => {
      const own = chainOf(rig);
      if (!own.is('src', 'battery')) throw new Unavailable('supply', 'the drive is not fed from a battery', 'src');
      return work(sourceFormulas.batteryCharges, {
        Q: own.quantity('Qs'),
        V: own.quantity('Es'),
        eta: own.quantity('es'),
        E: rig.figure('source-energy'),
      });
    },
  },
];

export const chainLimits: readonly LimitSpec[] = [
  {
    id: 'chain-current',
    title: 'Source of the drive, current',
    slot: 'supply',
    stress: (rig) => rig.figure('chain-current'),
    rating: (rig) => chainOf(rig).optional('Iq'),
    levers: ['charging.R', 'supply.Iq'],
    onlyIfKnown: true,
    note: 'Mean over the charge, which takes as long as the source needs for it.',
  },
];

/** What does not fit together from the source on, at the field, with what would. */
export function chainProblems(own: ChainOwn, rig: RigContext): Problem[] {
  if (own.is('src', 'unsaid')) return [];
  const say = (field: FieldId<'supply'>, text: string, severity: Problem['severity']): Problem => ({
    severity,
    slot: 'supply',
    field,
    text,
  });
  const isDc = !own.is('src', 'ac');
  if (isDc && own.is('drv', 'transformer'))
    return [
      say(
        'drv',
        'A transformer gives nothing from direct current but a short across its winding: from a battery or a DC supply the drive is a converter.',
        'error',
      ),
    ];
  if (!isDc && own.is('drv', 'converter'))
    return [
      say(
        'drv',
        'A converter takes direct current: rectify and smooth the AC first and enter it as a DC supply, or drive with a transformer.',
        'error',
      ),
    ];
  const [most, time] = [chainPower(own), ifKnown(() => rig.figure('charge-time').value)];
  if (!most || time === null) return [];
  const asks = rig.offer('sourceVoltage').value ** 2 / rig.figure('charging-resistance').value;
  if (asks < 4 * most.value) return [];
  const I = own.optional('Iq');
  const source = `${printQuantity(own.quantity('Es').value, 'V')}${I ? `, ${printQuantity(I.value, 'A')} at most,` : ''} behind ${printQuantity(own.quantity('Rs').value, 'Ω')}`;
  return [
    say(
      I ? 'Iq' : 'Rs',
      `The source sets the charge time: the drive asks for ${printQuantity(asks, 'W')} at first, and ${source} gives it ${printQuantity(most.value, 'W')}. One charge takes ${printQuantity(time, 's')}.`,
      'warning',
    ),
  ];
}

/** What keeps the source alive. */
export const chainSteps = (own: ChainOwn): StepSpec[] =>
  own.is('src', 'dc')
    ? [
        {
          id: 'supply-kick-back',
          phase: 'prepare',
          text: 'Between bench supply and drive: a diode in series and a surge suppressor across the terminals of the supply. A spark or the ring of the drive kicks back, and kills a bench supply without them.',
          hold: 'Diode and suppressor are there, the band of the diode towards the drive.',
        },
      ]
    : own.is('src', 'battery')
      ? [
          {
            id: 'supply-battery-fuse',
            phase: 'prepare',
            text: 'A fuse right at the battery: a drive that fails draws what the battery can give, and its leads burn.',
            hold: 'The fuse is within a hand of the battery.',
          },
        ]
      : [];
