import { defineBlock, type CircuitPart, type Trial } from '../../block/define.ts';
import type { Own, Problem, RigContext, StepSpec } from '../../block/context.ts';
import { inductanceFormulas, work } from '../../formula/index.ts';
import { printQuantity, printWire } from '../../quantity/index.ts';
import { ifKnown } from '../../block/known.ts';
import { secondaryFields } from './tank-secondary-fields.ts';
import { secondaryFigures, secondaryLimits } from './tank-secondary-figures.ts';
import {
  primaryInductance,
  primaryResistance,
  secondaryCapacitance,
  secondaryInductance,
  secondaryResistance,
  wireOfSecondary,
} from './tank-secondary-own.ts';
import type { FieldId } from '../../block/names.ts';
import { tankDesk } from './desks.ts';
import { transformerGlyph } from '../supply/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/tank-secondary': typeof secondaryFields;
  }
}

/** The secondary as a circuit that shares flux with the primary; the rig's closed forms of the discharge know nothing of it. */
function secondaryParts(
  own: Own<typeof secondaryFields>,
  rig: RigContext,
  tag: string,
  primary: { readonly name: string; readonly L: number },
): CircuitPart[] {
  const leftOut = { what: 'the secondary', instead: 'open' as const };
  // Of the elements as they stand here, leads and all: what they share is the mutual inductance of the coils.
  const k = rig.figure('mutual-inductance').value / Math.sqrt(primary.L * secondaryInductance(own).value);
  return [
    {
      element: {
        kind: 'inductor',
        name: `L${tag}2`,
        nodes: [`${tag}top`, '0'],
        L: secondaryInductance(own).value,
        R: secondaryResistance(own).value,
      },
      says: 'secondary with its earth lead',
      leftOut,
    },
    { element: { kind: 'coupling', name: `K${tag}`, inductors: [primary.name, `L${tag}2`], k }, says: 'their coupling', leftOut },
    {
      element: { kind: 'capacitor', name: `C${tag}2`, nodes: [`${tag}top`, '0'], C: secondaryCapacitance(own).value },
      says: 'capacitance of the secondary with its top',
      leftOut,
    },
    // What no winding is without: it holds the top to earth where nothing else does.
    {
      element: { kind: 'resistor', name: `R${tag}2`, nodes: [`${tag}top`, '0'], R: 1e11 },
      says: 'insulation of the top',
      leftOut,
    },
  ];
}

/** Half beats of the transfer that a trial follows: the greatest peak is the first or the second of them. */
const followed = 3;

/** The tank and its secondary alone in the solver: what the coupled circuits say, without their formulas. */
const trial: Trial<typeof secondaryFields> = {
  figures: ['secondary-peak'],
  circuit: (own, rig) => {
    const V = rig.offer('chargedTo').value;
    return {
      parts: [
        {
          element: { kind: 'capacitor', name: 'C1', nodes: ['a', '0'], C: rig.figure('bank-capacitance').value, V0: V },
          says: 'tank',
        },
        {
          element: {
            kind: 'inductor',
            name: 'L1',
            nodes: ['a', '0'],
            L: rig.figure('loop-inductance').value,
            R: rig.figure('loop-resistance').value,
          },
          says: 'primary, gap and leads',
        },
        ...secondaryParts(own, rig, 'sec', { name: 'L1', L: rig.figure('loop-inductance').value }).map(({ element, says }) => ({
          element,
          says,
        })),
      ],
      until: followed * rig.figure('transfer-time').value,
      node: 'sectop',
    };
  },
  read: (_own, _rig, { y }) => ({ 'secondary-peak': y.reduce((most, v) => Math.max(most, Math.abs(v)), 0) }),
};

const warn = (field: FieldId<'load'>, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
  severity,
  slot: 'load',
  field,
  text,
});

function problems(own: Own<typeof secondaryFields>, rig: RigContext): Problem[] {
  const found: Problem[] = [];
  const { N, l, d } = wireOfSecondary(own);
  if (N.value * d.value > l.value * 1.0001)
    found.push(
      warn(
        'N2',
        `${N.value} turns of ${printWire(d.value)} need ${printQuantity(N.value * d.value, 'm')}, and the winding is ${printQuantity(l.value, 'm')} long: use fewer turns, thinner wire or a longer former.`,
        'error',
      ),
    );
  const there = own.optional('w2');
  const wanted = ifKnown(() => rig.figure('secondary-wire'));
  if (there && wanted && wanted.value > there.value)
    found.push(
      warn(
        'w2',
        `The secondary takes ${printQuantity(wanted.value, 'm')} of wire, and there is ${printQuantity(there.value, 'm')}.`,
        'error',
      ),
    );
  const air = own.quantity('r0').value - own.quantity('d1').value / 2 - own.quantity('D2').value / 2;
  if (air <= 0)
    found.push(warn('r0', 'The primary overlaps the secondary: its first turn must start outside the secondary.', 'error'));
  const [tap, turns] = [own.quantity('n').value, own.quantity('n1').value];
  if (tap > turns) found.push(warn('n', `The tap is at turn ${tap}, and the primary has ${turns}.`, 'error'));
  if (ifKnown(() => secondaryCapacitance(own)) === null)
    found.push(
      warn(
        'top',
        'The secondary has no capacitance at all: neither a top load nor one of its own. No coil is without; leave its own empty and it is worked out.',
        'error',
      ),
    );
  const [f1, f2] = [ifKnown(() => rig.figure('primary-resonance')), ifKnown(() => rig.figure('secondary-resonance'))];
  const best = ifKnown(() => rig.figure('tuning-tap'));
  if (f1 && f2 && Math.abs(f1.value / f2.value - 1) > 0.03)
    found.push(
      warn(
        'n',
        `Out of tune: the tank rings at ${printQuantity(f1.value, 'Hz')}, the secondary at ${printQuantity(f2.value, 'Hz')}. ${
          best
            ? best.value <= turns
              ? `Tap at ${best.value.toFixed(2)} turns.`
              : `The tap would have to be at ${best.value.toFixed(2)} turns, and there are ${turns}: use more turns, or more tank capacitance.`
            : 'No tap of this primary tunes it: change the tank capacitance.'
        }`,
      ),
    );
  const k = ifKnown(() => rig.figure('coupling'));
  if (k && k.value > 0.22)
    found.push(
      warn(
        'h',
        `A coupling of ${k.value.toFixed(2)} makes sparks race along the secondary: common practice keeps it at 0.1 to 0.2. Raise the secondary, or use a wider primary.`,
      ),
    );
  return found;
}

const steps = (rig: RigContext): StepSpec[] => {
  const [short, long] = [ifKnown(() => rig.figure('spark-length-short')), ifKnown(() => rig.figure('spark-length-long'))];
  return [
    {
      id: 'secondary-place',
      phase: 'prepare',
      text: 'Secondary upright on its earth, nothing conductive within reach of its sparks: lamps, pipes, ceiling, other wiring.',
      expect: [
        ...(short
          ? [{ label: 'Spark length, at least about', worked: short, print: 'quantity' as const, use: 'nominal' as const }]
          : []),
        ...(long ? [{ label: 'at most about', worked: long, print: 'quantity' as const, use: 'high' as const }] : []),
      ],
      hold: 'The distance to everything conductive is more than the longest spark.',
      caution: 'A spark from the top to the primary carries the whole supply with it.',
    },
  ];
};

/** The primary of a tank, a coil that rings with it, and what stands on top. */
export const tankSecondary = defineBlock({
  slot: 'load',
  kind: 'tank-secondary',
  title: 'Tesla coil (primary, secondary, top load)',
  makes: 'Tesla coil',
  desks: [tankDesk],
  glyph: () => transformerGlyph,
  fields: secondaryFields,
  key: (own, rig) => ({
    text: printQuantity(primaryInductance(own).value, 'H'),
    detail: (() => {
      const f = ifKnown(() => rig.figure('secondary-resonance'));
      return f ? printQuantity(f.value, 'Hz') : 'no resonance';
    })(),
  }),
  offers: (own) => ({
    makesVoltage: 'secondary-peak',
    loopResistance: primaryResistance(own),
    loopInductance: work(
      inductanceFormulas.inductanceSum,
      { L1: primaryInductance(own), L2: own.quantity('Ll') },
      'primary with its leads',
    ),
  }),
  circuit: (own, rig, { plus, minus, tag }) => {
    const primary = { name: `L${tag}`, L: primaryInductance(own).value + own.quantity('Ll').value };
    return [
      {
        element: { kind: 'inductor', ...primary, nodes: [plus, minus], R: primaryResistance(own).value },
        says: 'primary with its leads',
      },
      ...secondaryParts(own, rig, tag, primary),
    ];
  },
  trials: [trial],
  figures: secondaryFigures,
  limits: secondaryLimits,
  problems,
  steps: (_own, rig) => steps(rig),
});
