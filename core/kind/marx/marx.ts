import { ruled, storeFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { absorptionOf, dielectricOf } from '../bank/dielectric-field.ts';
import { takenForCharged } from '../bank/taken-for-charged.ts';
import { ladderParts, shotParts } from './marx-circuit.ts';
import { marxFaults } from './marx-faults.ts';
import { marxFields } from './marx-fields.ts';
import { marxFigures, marxLimits } from './marx-figures.ts';
import { setVoltage } from '../../block/goal.ts';
import {
  eachStage,
  isTwo,
  ladderOf,
  lastNode,
  loopOf,
  measuredStages,
  breaksBehind,
  selfBreakBehind,
  stageCapacitance,
  outputOf,
} from './marx-own.ts';
import type { FieldId } from '../../block/names.ts';
import { erectionDesk, stagesDesk } from './desks.ts';
import { commissionDesk } from '../gap/desks.ts';
import { erectingGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'store/marx': typeof marxFields;
  }
}

function gapProblems(own: Own<typeof marxFields>, rig: RigContext): Problem[] {
  const n = own.quantity('n').value;
  const Vg = selfBreakBehind(own).value;
  const V0 = setVoltage(rig).value;
  const say = (field: FieldId<'store'>, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
    severity,
    slot: 'store',
    field,
    text,
  });
  if (n === 1) return [];
  if (V0 >= Vg)
    return [
      say(
        'Vg',
        `The later gaps self-break before the charge is done: they break at ${printQuantity(Vg, 'V')}, the stages are charged to ${printQuantity(V0, 'V')}. Open them.`,
        'error',
      ),
    ];
  if (Vg > 2 * V0)
    return [
      say(
        'Vg',
        `It may not erect: without an overshoot the second gap sees at most twice the stage voltage, ${printQuantity(2 * V0, 'V')}, and breaks at ${printQuantity(Vg, 'V')}. Close the gaps, or charge higher.`,
      ),
    ];
  return [];
}

/** Measured stages that are not as many as the stages. */
function stageProblems(own: Own<typeof marxFields>): Problem[] {
  const [n, measured] = [own.quantity('n').value, measuredStages(own).length];
  if (measured === 0 || measured === n) return [];
  const text = `${measured} ${measured === 1 ? 'stage is' : 'stages are'} measured, a tower has ${n}: enter one capacitance for each, or none. Until then the stage capacitance applies to all.`;
  return [{ severity: 'warning', slot: 'store', field: 'Cm', text }];
}

/** Chokes with little resistance before them swing the stages above their supply. */
function chokeProblems(own: Own<typeof marxFields>, rig: RigContext): Problem[] {
  const Lc = own.optional('Lc');
  if (!Lc) return [];
  const { n, R, C } = ladderOf(own);
  // The ladder as one: half of its inductance and resistance before all of its capacitance.
  const [L, all] = [n.value * Lc.value, n.value * C.value];
  const needs = 2 * Math.sqrt(L / all);
  const has = rig.figure('charging-resistance').value + (n.value * R.value) / 2;
  if (has >= needs) return [];
  const text = `The charging chokes ring: ${printQuantity(has, 'Ω')} stand before the stages, and below about ${printQuantity(needs, 'Ω')} they swing above the supply, in the worst case towards twice its voltage. The closed forms leave the inductance out; the solver has it.`;
  return [{ severity: 'warning', slot: 'store', field: 'Lc', text }];
}

const sign = (own: Own<typeof marxFields>): string => (isTwo(own) ? '±' : own.is('polarity', 'negative') ? '−' : '');

export const marx = defineBlock({
  slot: 'store',
  kind: 'marx',
  title: 'Marx generator',
  makes: 'Marx generator',
  desks: [erectionDesk, stagesDesk, commissionDesk],
  glyph: (own) => erectingGlyph(own.quantity('n').value),
  fields: marxFields,
  takes: {
    part: 'capacitor',
    fields: { C: 'C', Vr: 'Vdc', ESR: 'ESR', Ri: 'Ri', Nr: 'Nr', nl: 'exponent' },
    choices: (part) => ({ dielectric: dielectricOf(part) }),
  },
  key: (own) => ({
    text: `${sign(own)}${printQuantity(own.quantity('n').value * own.quantity('V0').value, 'V')}`,
    detail: `${isTwo(own) ? '2 × ' : ''}${own.quantity('n').value} × ${printQuantity(stageCapacitance(own).value, 'F')}`,
  }),
  offers: (own) => {
    const n = own.quantity('n');
    const rated = own.optional('Vr');
    const loop = loopOf(own);
    const parallel = { ns: ruled('in series', 1, '1', 'charged in parallel'), np: n };
    return {
      capacitance: work(
        storeFormulas.seriesParallelCapacitance,
        { C: stageCapacitance(own), ...parallel },
        'all stages in parallel',
      ),
      absorption: absorptionOf(own),
      chargedTo: own.quantity('V0'),
      ...(n.value > 1 ? { firesAt: () => breaksBehind(own) } : {}),
      ladder: ladderOf(own),
      output: outputOf(own),
      ...(isTwo(own) ? { isTwin: true } : {}),
      insulation: work(storeFormulas.bankResistance, { R: own.quantity('Ri'), ...parallel }, 'insulation of the stages'),
      loopResistance: loop.R,
      loopInductance: loop.L,
      ...(rated ? { ratedVoltage: rated } : {}),
    };
  },
  circuit: (own, rig, at, scene) => [
    ...ladderParts(own, at, scene, rig.offer('chargedTo').value),
    ...(scene.of === 'discharge' ? shotParts(own, at.tag, 'out', rig.offer('chargedTo').value) : []),
  ],
  switchBetween: (own) => ({ plus: 'T1', minus: own.quantity('n').value > 1 ? 'B2' : lastNode(own, 'out') }),
  leavesOut: (own) => {
    const each = eachStage(own);
    return Math.max(...each) > Math.min(...each) ? 'the stages differ: the closed forms take their mean' : null;
  },
  held: (own, rig) => [
    {
      id: 'stage',
      one: 'stage',
      count: own.quantity('n').value * (isTwo(own) ? 2 : 1),
      title: `Each of ${own.quantity('n').value} stages that is cut off from its ladder`,
      V: rig.offer('chargedTo'),
      through: 'its leakage alone',
      R: own.quantity('Ri'),
      C: stageCapacitance(own),
      E1: rig.figure('stage-energy'),
      then: 'A charging resistor that is open leaves its stage full: stick, meter and strap across each stage, both sides.',
    },
  ],
  faults: marxFaults,
  figures: marxFigures,
  limits: marxLimits,
  problems: (own, rig) => [...stageProblems(own), ...chokeProblems(own, rig), ...gapProblems(own, rig)],
  steps: (own, rig) => [
    ...takenForCharged(rig, 'every stage, top to bottom, both sides of each capacitor'),
    {
      id: 'commission-low',
      phase: 'commission',
      text: `First firing, and after a change of circuit, gap or protection: the first gap alone, then two stages, then all ${own.quantity('n').value}. Each rung is a full cycle of this sheet, from “all others out” to the strap, with the gaps closed or the pressure lowered for that rung: at its full setting a gap does not fire at a tenth of the voltage. One change at a time.`,
      hold: 'What fired, and at what voltage, is written down.',
    },
    ...(isTwo(own)
      ? [
          {
            id: 'two-polarities',
            phase: 'prepare' as const,
            text: 'There are two towers of opposite polarity: between them stands twice the voltage of either, and each has its own supply, bleeder and strap.',
            hold: 'Both supplies are off and locked, both bleeders are on, both towers are strapped.',
            caution: 'One tower discharged says nothing about the other.',
          },
        ]
      : []),
    {
      id: 'marx-misfire',
      phase: 'misfire' as const,
      text: 'After a shot that was weak, or that did not come, treat every stage as charged: a stage that did not erect keeps its energy, and a shot that was not completed keeps all of it.',
      expect: [
        {
          label: 'In each stage that did not erect',
          worked: rig.figure('stage-energy'),
          print: 'quantity' as const,
          use: 'high' as const,
        },
        { label: 'Where none did', worked: rig.figure('stored-energy'), print: 'quantity' as const, use: 'high' as const },
        {
          label: 'A stage cut off from its ladder is below its goal only after',
          worked: rig.figure('stage-float-time'),
          print: 'duration' as const,
          use: 'high' as const,
        },
      ],
    },
    {
      id: 'ladder-wait',
      phase: 'charge',
      text: 'The far stages fill last: the meter at the first stage gets there before they do. Charge until the last has its voltage.',
      expect: [
        { label: 'Last stage at 95 % after', worked: rig.figure('ladder-95'), print: 'duration', use: 'nominal' },
        { label: 'Worst case after', worked: rig.figure('ladder-95'), print: 'duration', use: 'high' },
      ],
    },
  ],
});
