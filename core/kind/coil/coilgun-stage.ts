import { onlyWith, once, quantity, above, choice, fields, within } from '../../field/index.ts';
import { ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printExact, printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock, type FieldValues, type HeldCharge } from '../../block/define.ts';
import { coilFaults, coilFigures, coilL, coilLimits, coilOffers, coilParts, coilProblems, coilWarmed } from './coil.ts';
import { freewheelFaults } from './freewheel-faults.ts';
import { leadFields, measuredFields, windingFields, wireFromShelf } from './winding-fields.ts';
import { barrelField, massOf, projectileFields, projectileOf, projectileProblems } from './projectile.ts';
import type { FieldId } from '../../block/names.ts';
import { betterDesk, coilDesk, launchDesk } from './desks.ts';
import { resistorInductorGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/coilgun-stage': typeof coilgunStageFields;
  }
  interface FigureIds {
    'launch-mass': true;
    'launch-coils': true;
  }
}

const refuse = (field: FieldId<'load'>, reason: string) => new Unavailable('load', reason, field);

/** How the coil of a stage is fired. */
export type FiredBy =
  /** By hand: the first. */
  | { readonly by: 'hand' }
  /** As the middle of the projectile passes a place, m behind the middle of the first coil. */
  | { readonly by: 'sensor'; readonly x: number }
  /** s after the stage before it. */
  | { readonly by: 'after'; readonly t: number }
  /** s after the first. */
  | { readonly by: 'time'; readonly t: number }
  /** When it gives the greatest speed: worked out. */
  | { readonly by: 'best' };

/** Where a coil of a launcher stands, m behind the middle of the first, and how it is fired. */
export interface CoilPlace {
  readonly at: number;
  readonly length: number;
  readonly fired: FiredBy;
}

type Stage = Own<typeof coilgunStageFields>;

function firedBy(own: Stage): FiredBy {
  const by = own.choice('fired') as FiredBy['by'];
  switch (by) {
    case 'sensor':
      return { by, x: own.quantity('xf').value };
    case 'after':
    case 'time':
      return { by, t: own.quantity('tf').value };
    default:
      return { by };
  }
}

/** Where the coil of one stage stands; that of the first at zero. */
const standsAt = (own: Stage, k: number) => ({ at: k === 0 ? 0 : own.quantity('at').value, length: own.quantity('l').value });

/** The same, and how it is fired. @throws Unavailable where its sensor or its delay is not given */
const placeOf = (own: Stage, k: number): CoilPlace => ({ ...standsAt(own, k), fired: firedBy(own) });

/** What is wrong with the place of a stage, by the field that is in the way; null where it stands well. */
function misplaced(
  stage: CoilPlace,
  before: Omit<CoilPlace, 'fired'> | null,
  own: Stage,
  k: number,
): { field: FieldId<'load'>; reason: string } | null {
  const { at, fired, length } = stage;
  const barrel = own.optional('lb')?.value ?? null;
  const start = -own.quantity('xs').value;
  const m = (x: number) => printQuantity(x, 'm');
  const apart = (length + (before?.length ?? 0)) / 2;
  const overlap = before ? apart - (at - before.at) : 0;
  const end = at + length / 2;
  if (k === 0 && fired.by !== 'hand') return { field: 'fired', reason: 'The first stage is fired by hand.' };
  if (k > 0 && fired.by === 'hand')
    return { field: 'fired', reason: `Choose what fires stage ${k + 1}: a sensor, a delay, or the best moment, calculated.` };
  if (overlap > 0)
    return {
      field: 'at',
      reason: `Coil ${k} and coil ${k + 1} overlap by ${m(overlap)}: space their centres at least ${m(apart)} apart.`,
    };
  if (barrel !== null && end > barrel)
    return {
      field: k === 0 ? 'lb' : 'at',
      reason: `Coil ${k + 1} ends at ${m(end)}, past the muzzle at ${m(barrel)}.`,
    };
  if (fired.by !== 'sensor') return null;
  if (barrel !== null && fired.x > barrel)
    return { field: 'xf', reason: `The sensor of coil ${k + 1} is at ${m(fired.x)}, past the muzzle at ${m(barrel)}.` };
  return fired.x > start
    ? null
    : {
        field: 'xf',
        reason: `The sensor of coil ${k + 1} is at ${m(fired.x)}, at or before the start of the launch: place it past ${m(start)}.`,
      };
}

/**
 * The coils of a launcher, the first at zero.
 *
 * @throws Unavailable where coils overlap, or one of them or what fires it lies beyond the barrel, by the field that is in the way
 */
export function coilsOf(rig: RigContext): readonly CoilPlace[] {
  const found: CoilPlace[] = [];
  for (const [k, channel] of rig.channels().entries()) {
    const own = channel.own('load');
    const place = placeOf(own, k);
    const wrong = misplaced(place, found.at(-1) ?? null, own, k);
    if (wrong) throw refuse(wrong.field, wrong.reason);
    found.push(place);
  }
  return found;
}

const numberOf = (rig: RigContext): number => rig.channels().indexOf(rig);

/** What is wrong with where this stage stands. */
function placeProblems(own: Stage, rig: RigContext): Problem[] {
  const k = numberOf(rig);
  const say = (field: FieldId<'load'>, text: string): Problem[] => [{ severity: 'error', slot: 'load', field, text }];
  if (own.is('fired', 'sensor') && !own.optional('xf'))
    return say('xf', 'Enter the position of the sensor that fires this stage.');
  if ((own.is('fired', 'after') || own.is('fired', 'time')) && !own.optional('tf'))
    return say('tf', 'Enter the delay after which this stage fires.');
  const before = rig.channels()[k - 1];
  const wrong = misplaced(placeOf(own, k), before ? standsAt(before.own('load'), k - 1) : null, own, k);
  return wrong ? say(wrong.field, wrong.reason) : [];
}

const count = (rig: RigContext): Worked =>
  ruled('coils', rig.channels().length, '1', 'one to each stage, with a store and a switch of its own');

/** Charge that stands in the stores of the other stages: like stores together, each kind with its own voltage and energy. */
function heldByOthers(rig: RigContext): HeldCharge[] {
  const groups = new Map<string, { held: Omit<HeldCharge, 'id' | 'one' | 'count' | 'title'>; stages: number[] }>();
  rig.channels().forEach((channel, k) => {
    if (channel === rig) return;
    const [C, V] = [channel.figure('bank-capacitance'), channel.offer('chargedTo')];
    const isBled = channel.offers('bleeder').bleedResistance !== undefined;
    const R = channel.offer(isBled ? 'bleedResistance' : 'insulation');
    const key = [C, V, R].map(({ value }) => value).join();
    const known = groups.get(key);
    if (known) known.stages.push(k + 1);
    else
      groups.set(key, {
        stages: [k + 1],
        held: {
          V,
          E1: work(storeFormulas.storedEnergy, { C, V }, 'energy of a further store'),
          through: isBled ? 'its own bleeder' : 'its leakage alone',
          R,
          C,
          then: 'Stick, meter and strap across each: one that reads zero says nothing about the others, and a coil that did not fire leaves its store full.',
        },
      });
  });
  return [...groups.values()].map(({ held, stages }, g) => ({
    ...held,
    id: g === 0 ? 'further-store' : `further-store-${g + 1}`,
    one: groups.size === 1 ? 'further store' : `store of stage ${stages.join(', ')}`,
    count: stages.length,
    title: stages.length === 1 ? `The store of stage ${stages[0]}` : `Each store of stages ${stages.join(', ')}`,
  }));
}

const severalStores = (n: number) => `There are ${n} stores, one for each coil, each with its own switch, bleeder and strap`;

const behind = ['sensor', 'after', 'time', 'best'] as const;

const coilgunStageFields = fields(
  {
    fired: choice(
      'Fired by',
      {
        hand: 'hand (first stage)',
        sensor: 'sensor',
        after: 'delay after the stage before',
        time: 'delay after the first stage',
        best: 'best moment, calculated',
      },
      { help: 'Every stage after the first: a sensor in the barrel, a delay, or the moment that gives the most speed.' },
    ),
    at: onlyWith(
      'fired',
      behind,
      quantity('Coil position, centre to centre of the first coil', 'm', above(0, 100), '80 mm', {
        help: 'Along the barrel, towards the muzzle.',
      }),
    ),
    xf: onlyWith(
      'fired',
      ['sensor'],
      quantity('Sensor position, from the centre of the first coil', 'm', within(-10, 100), null, {
        help: 'The stage fires as the centre of the slug or sleeve passes it. Negative: before the first coil.',
      }),
    ),
    tf: onlyWith('fired', ['after', 'time'], quantity('Delay', 's', within(0, 10), null)),
    ...windingFields,
    ...measuredFields,
    ...leadFields,
    ...once({
      tb: barrelField,
      lb: quantity('Barrel length, from the centre of the first coil to the muzzle', 'm', above(0, 100), null),
      points: choice('Barrel direction', { level: 'level', up: 'straight up' }),
      ...projectileFields,
    }),
    diode: choice(
      'Freewheel diode across the store',
      { none: 'none', diode: 'yes' },
      { help: 'It protects the store from reversal, but lets current flow on when the slug is past the centre.' },
    ),
    Vd: onlyWith('diode', ['diode'], quantity('Forward drop of the diode', 'V', within(0, 100), '0.9 V')),
    Rd: onlyWith('diode', ['diode'], quantity('Resistance of the diode path', 'Ω', within(0, 1e3), '5 mΩ')),
  },
  { moving: ['tb', 'lb', 'points'], geometry: ['diode', 'Vd', 'Rd'] },
);

/** The next stage stands a quarter of a coil behind the last, and is fired when that is best. */
function nextStage(last: FieldValues): FieldValues {
  const metres = (id: string): number => {
    const value = last[id];
    return typeof value === 'object' && value !== null ? value.value : 0;
  };
  const value = (last['fired'] === 'hand' ? 0 : metres('at')) + Number((1.25 * metres('l')).toPrecision(3));
  return { ...last, fired: 'best', at: { value, text: printExact(value, 'm'), from: 'default' }, xf: null, tf: null };
}

export const coilgunStage = defineBlock({
  slot: 'load',
  kind: 'coilgun-stage',
  title: 'Coilgun stage',
  makes: 'Coilgun',
  desks: [launchDesk, betterDesk, coilDesk],
  glyph: () => resistorInductorGlyph,
  fields: coilgunStageFields,
  channels: { one: 'stage', next: nextStage },
  takes: wireFromShelf,
  key: (own) => ({
    text: printQuantity(coilL(own).value, 'H'),
    detail: printQuantity(projectileOf(own).mass, 'kg'),
  }),
  held: (own, rig) => heldByOthers(rig),
  offers: (own) => ({
    launches: true,
    ...coilOffers(own),
    ...(own.is('diode', 'diode') ? { freewheel: { Vf: own.quantity('Vd'), R: own.quantity('Rd') } } : {}),
  }),
  faults: (own, rig, at) => [...coilFaults(own, rig, at), ...(own.is('diode', 'diode') ? freewheelFaults(at) : [])],
  circuit: (own, rig, at) => [
    ...coilParts(rig, at, 'first coil with its leads, without the projectile'),
    ...(own.is('diode', 'diode')
      ? [
          {
            element: {
              kind: 'diode',
              name: `D${at.tag}`,
              nodes: ['0', at.store],
              Vf: own.quantity('Vd').value,
              Ron: Math.max(1e-6, own.quantity('Rd').value),
            },
            says: 'freewheel diode across the store',
          } as const,
        ]
      : []),
  ],
  leavesOut: (own) =>
    `the ${own.choice('what')} and the other stages, which the launch page has${own.is('diode', 'diode') ? '; how the store hands the current over to the diode, bit by bit' : ''}`,
  figures: [
    ...coilFigures.filter(({ id }) => id !== 'coil-steady'),
    { id: 'launch-mass', title: 'Moving mass', slot: 'load', compute: (rig) => massOf(rig.own('load')) },
    { id: 'launch-coils', title: 'Coils', slot: 'load', compute: count },
  ],
  limits: coilLimits.filter(({ id }) => id !== 'coil-layer-voltage'),
  warmed: coilWarmed,
  problems: (own, rig) => [
    ...coilProblems(own, rig),
    ...(numberOf(rig) === 0 ? projectileProblems(own) : []),
    ...placeProblems(own, rig),
  ],
  steps: (own, rig) => {
    const { mass, body } = projectileOf(own);
    const all = rig.channels();
    const n = all.length;
    return [
      {
        id: 'launch-line',
        phase: 'prepare',
        text: `Barrel, coils and stand fixed; a trap past the muzzle that holds a ${body.kind} of ${printQuantity(mass, 'kg')}, and nobody in line with either end of the barrel: it can leave backwards as well.`,
        hold: 'The trap is in place, both ends are clear.',
        caution: 'With the strap off, a hand in the bore is in the line of fire: load with the strap on.',
      },
      ...(n > 1
        ? ([
            {
              id: 'launch-stores-charge',
              phase: 'charge',
              text: `${severalStores(n)}. This sheet is written for stage 1: charge every store the same way, to its own voltage.`,
              expect: all.map(
                (channel, k) =>
                  ({ label: `stage ${k + 1}`, worked: channel.offer('chargedTo'), print: 'quantity', use: 'nominal' }) as const,
              ),
              hold: `All ${n} are read.`,
              caution: 'A coil that did not fire leaves its store fully charged while the others are empty.',
            },
          ] as const)
        : []),
    ];
  },
});
