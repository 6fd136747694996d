import { onlyWith, quantity, type LinesField, above, choice, fields, within } from '../../field/index.ts';
import { ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type FurtherStore, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { coilFigures, coilLimits, coilOffers, coilParts, coilProblems } from './coil.ts';
import { leadFields, windingFields } from './winding-fields.ts';
import { readCoils, type CoilLine } from './further-coils.ts';
import { barrelField, massOf, projectileFields, projectileOf, projectileProblems } from './projectile.ts';
import { inductanceOf, windingOf } from './winding.ts';
import type { FieldId } from '../../block/names.ts';
import { betterDesk, coilDesk, launchDesk } from './desks.ts';

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

/**
 * The coils of a launcher, the first at nought.
 *
 * @throws Unavailable where coils overlap, or one of them or what fires it lies beyond the barrel, by the field that is in the way
 */
export function coilsOf(own: Own<typeof coilgunStageFields>): readonly CoilLine[] {
  const read = readCoils(own.lines('coils'));
  if (!read.ok) throw refuse('coils', read.reason);
  const first = read.coils.find(({ at }) => at === 0) ?? { line: 0, at: 0, fired: null, turns: null, V: null, C: null };
  const coils = [first, ...read.coils.filter(({ at }) => at > 0)];
  const length = own.quantity('l').value;
  const barrel = own.optional('lb')?.value ?? null;
  const start = -own.quantity('xs').value;
  coils.forEach(({ at, fired, line }, k) => {
    const between = at - (coils[k - 1]?.at ?? -Infinity) - length;
    if (between < 0)
      throw refuse(
        'coils',
        `the gap between coil ${k} and coil ${k + 1} is below nought, ${printQuantity(between, 'm')}: coils of ${printQuantity(length, 'm')} must be at least as far apart from middle to middle (line ${line})`,
      );
    if (barrel !== null && at + length / 2 > barrel)
      throw refuse(
        k === 0 ? 'lb' : 'coils',
        `coil ${k + 1} ends ${printQuantity(at + length / 2, 'm')} behind the middle of the first, beyond the barrel, which ends at ${printQuantity(barrel, 'm')}`,
      );
    if (fired?.by !== 'sensor') return;
    if (barrel !== null && fired.x > barrel)
      throw refuse(
        'coils',
        `the sensor of coil ${k + 1} lies beyond the barrel: at ${printQuantity(fired.x, 'm')} of ${printQuantity(barrel, 'm')} (line ${line})`,
      );
    if (fired.x <= start)
      throw refuse(
        'coils',
        `the sensor of coil ${k + 1} lies at ${printQuantity(fired.x, 'm')}, where the projectile starts or before it; it must be above ${printQuantity(start, 'm')} (line ${line})`,
      );
  });
  return coils;
}

/** Stores of the coils behind the first, one to each, like the one drawn: by their lines alone, whether or not the coils fit. */
function furtherStores(own: Own<typeof coilgunStageFields>): readonly FurtherStore[] {
  const read = readCoils(own.lines('coils'));
  if (!read.ok) throw refuse('coils', read.reason);
  return read.coils
    .filter(({ at }) => at > 0)
    .map(({ C, V, line }) => ({
      C: C === null ? null : ruled('capacitance of a further store', C, 'F', `line ${line} of the coils`),
      V: V === null ? null : ruled('voltage of a further store', V, 'V', `line ${line} of the coils`),
    }));
}

/** The rig's page speaks of the store that is drawn, which must be the worst of all. */
function storeProblems(own: Own<typeof coilgunStageFields>, rig: RigContext): Problem[] {
  const [V0, C0] = [rig.offer('chargedTo').value, rig.figure('bank-capacitance').value];
  const more = (what: string, value: number, most: number, unit: 'V' | 'F', line: number): Problem[] =>
    value <= most * (1 + 1e-9)
      ? []
      : [
          {
            severity: 'error',
            slot: 'load',
            field: 'coils',
            text: `Line ${line}: ${what} of ${printQuantity(value, unit)} is above the ${printQuantity(most, unit)} of the store drawn. Times and limits of this page are those of the store drawn: give it the largest, and the other coils less; a line at 0 mm gives the first coil less.`,
          },
        ];
  return coilsOf(own).flatMap(({ V, C, line }) => [
    ...(V === null ? [] : more('a voltage', V, V0, 'V', line)),
    ...(C === null ? [] : more('a capacitance', C, C0, 'F', line)),
  ]);
}

const count = (own: Own<typeof coilgunStageFields>): Worked =>
  ruled('coils', coilsOf(own).length, '1', 'the first, and one to each line; each has a store and a switch of its own');

const severalStores = (n: number) =>
  `There are ${n} stores, one to each coil, each with a switch, a bleeder and a strap of its own`;

const coilgunStageFields = fields({
  ...windingFields,
  ...leadFields,
  tb: barrelField,
  lb: quantity('Barrel, from the middle of the first coil to the muzzle', 'm', above(0, 100), null),
  points: choice('The barrel points', { level: 'level', up: 'straight up' }),
  ...projectileFields,
  coils: {
    type: 'lines',
    title: 'Further coils',
    initial: '',
    check: (text) => {
      const read = readCoils(text);
      return read.ok ? null : read.reason;
    },
    help: 'One to a line, wound as the first: "80 mm, sensor 62 mm". A place behind the middle of the first; then sensor (a place), after (the coil before), time (after the first), or best (worked out). What differs may follow: "36 turns, 320 V, 1.5 mF". A line at 0 mm is the first.',
  } satisfies LinesField,
  diode: choice(
    'Freewheel diode across the store',
    { none: 'none', diode: 'yes' },
    { help: 'It keeps the store from reversal, and lets the current flow on when the slug should be left alone.' },
  ),
  Vd: onlyWith('diode', ['diode'], quantity('Drop of the diode', 'V', within(0, 100), '0.9 V')),
  Rd: onlyWith('diode', ['diode'], quantity('Resistance of its path', 'Ω', within(0, 1e3), '5 mΩ')),
});

export const coilgunStage = defineBlock({
  slot: 'load',
  kind: 'coilgun-stage',
  title: 'Coilgun stage',
  desks: [launchDesk, betterDesk, coilDesk],
  glyph: () => 'resistor-inductor',
  fields: coilgunStageFields,
  key: (own) => {
    const { mass } = projectileOf(own);
    const n = coilsOf(own).length;
    return {
      text: printQuantity(inductanceOf(windingOf(own)).value, 'H'),
      detail: `${n > 1 ? `${n} coils, ` : ''}${printQuantity(mass, 'kg')}`,
    };
  },
  furtherStores,
  held: (own, rig) => {
    const further = rig.furtherStores();
    const [first] = further;
    if (!first) return [];
    // None of them is larger or charged higher than the one drawn.
    const V = rig.offer('chargedTo');
    return [
      {
        id: 'further-store',
        one: 'further store',
        count: further.length,
        title: further.length === 1 ? 'The further store' : `Each of ${further.length} further stores`,
        V,
        E1: work(storeFormulas.storedEnergy, { C: rig.figure('bank-capacitance'), V }, 'energy of a further store, at the most'),
        ...(rig.offers('bleeder').bleedResistance
          ? { through: 'its own bleeder', R: rig.offer('bleedResistance'), C: rig.figure('bank-capacitance') }
          : { through: 'its leakage alone', R: rig.offer('insulation'), C: rig.figure('bank-capacitance') }),
        then: 'Tool, meter and strap across each: one that reads nought says nothing about the others, and a coil that did not fire leaves its store full.',
      },
    ];
  },
  offers: (own) => ({
    launches: true,
    ...coilOffers(own),
    ...(own.is('diode', 'diode') ? { freewheel: { Vf: own.quantity('Vd'), R: own.quantity('Rd') } } : {}),
  }),
  circuit: (own, rig, at) => [
    ...coilParts(rig, at, 'first coil with its leads, without what is launched'),
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
    `the ${own.choice('what')}${coilsOf(own).length > 1 ? ' and the further coils' : ''}, which the launch page has${own.is('diode', 'diode') ? '; how the store hands the current over to the diode, bit by bit' : ''}`,
  figures: [
    ...coilFigures.filter(({ id }) => id !== 'coil-steady'),
    { id: 'launch-mass', title: 'Mass that is moved', slot: 'load', compute: (rig) => massOf(rig.own('load')) },
    { id: 'launch-coils', title: 'Coils', slot: 'load', compute: (rig) => count(rig.own('load')) },
  ],
  limits: coilLimits.filter(({ id }) => id !== 'coil-layer-voltage'),
  problems: (own, rig) => [...coilProblems(own, rig), ...projectileProblems(own), ...storeProblems(own, rig)],
  steps: (own) => {
    const { mass, body } = projectileOf(own);
    const n = coilsOf(own).length;
    return [
      {
        id: 'launch-line',
        phase: 'prepare',
        text: `Barrel, coils and stand fixed; a trap behind the muzzle that holds a ${body.kind} of ${printQuantity(mass, 'kg')}, and nobody in line with either end of the barrel: it can leave backwards as well.`,
        hold: 'The trap stands, both ends are clear.',
        caution: 'What is drawn in while the strap is off is a hand in the bore: load it with the strap on.',
      },
      ...(n > 1
        ? ([
            {
              id: 'launch-stores-charge',
              phase: 'charge',
              text: `${severalStores(n)}. This sheet is written for one of them: every step of charging is done for each.`,
              hold: `All ${n} are read.`,
              caution: 'A coil that did not fire leaves its store fully charged while the others are empty.',
            },
          ] as const)
        : []),
    ];
  },
});
