import { quantity, above, choice, fields, within } from '../../field/index.ts';
import { gapFormulas, inductanceFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { fallingArc } from '../../block/arc.ts';
import {
  isShortPulse,
  sparkClearance,
  sparkVerdict,
  sparkVoltage,
  type SparkShape,
  type SparkVoltage,
} from '../../block/spark.ts';
import { airOf, inStandardAir } from '../../block/standard-air.ts';
import { defineBlock } from '../../block/define.ts';
import { sparkDownGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/spark': typeof sparkToEarthFields;
  }
  interface FigureIds {
    'spark-needs': true;
    'spark-needs-least': true;
    'spark-needs-most': true;
    'spark-clear': true;
    'spark-reach': true;
  }
}

const shapeOf = (own: Own<typeof sparkToEarthFields>): SparkShape => (own.is('shape', 'points') ? 'points' : 'plane');

/** What the distance needs. @throws FormulaError where no law holds for it */
const needed = (own: Own<typeof sparkToEarthFields>, rig: RigContext): SparkVoltage =>
  sparkVoltage(own.quantity('d'), shapeOf(own), isShortPulse(rig), airOf(rig).density);

const channel = (own: Own<typeof sparkToEarthFields>): Worked =>
  work(
    inductanceFormulas.straightWireInductance,
    { l: own.quantity('d'), d: ruled('thickness of the channel', 2e-3, 'm', 'common practice, no source: some millimetres') },
    'inductance of the spark',
  );

/** What the output has to bridge it with: without strays of a Marx the voltage of the discharge. */
function outputOf(rig: RigContext): Worked {
  return rig.figure(rig.offers('store').output ?? 'discharge-voltage');
}

function problems(own: Own<typeof sparkToEarthFields>, rig: RigContext): Problem[] {
  const needs = needed(own, rig);
  const has = outputOf(rig).value;
  const verdict = sparkVerdict(has, needs);
  if (verdict === 'reaches') return [];
  const d = printQuantity(own.quantity('d').value, 'm');
  const bounds = `${printQuantity(needs.least.value, 'V')} to ${printQuantity(needs.most.value, 'V')}, likely ${printQuantity(needs.likely.value, 'V')}`;
  const text =
    verdict === 'may reach'
      ? `The spark may reach: ${d} need ${bounds}; the output is ${printQuantity(has, 'V')}. If it does not jump, the store keeps its charge.`
      : `The spark does not reach: ${d} need ${bounds}; the output is ${printQuantity(has, 'V')}, ${printPercent(has / needs.least.value, 2)} of the least. The store then keeps its charge.`;
  return [{ severity: 'warning', slot: 'load', field: 'd', text }];
}

const sparkToEarthFields = fields({
  d: quantity('Distance to earth, or from top to top', 'm', above(0, 10), '5 cm', { help: 'Through air, the shortest way.' }),
  shape: choice('Electrode shape', { plane: 'point to plane', points: 'point to point' }),
  R: quantity('Resistance of the spark', 'Ω', within(0, 1e6), '5 Ω -80/+300 %', {
    symbol: 'Ra',
    tolerance: true,
    help: 'Mean over the pulse: tens of ohms at some amperes, far below one at kiloamperes.',
  }),
});

/** A spark through the air, from the output to earth or to the other output. */
export const sparkToEarth = defineBlock({
  slot: 'load',
  kind: 'spark',
  title: 'Spark through air',
  glyph: () => sparkDownGlyph,
  fields: sparkToEarthFields,
  key: (own) => ({ text: printQuantity(own.quantity('d').value, 'm'), detail: 'spark' }),
  offers: (own) => ({
    loopResistance: own.quantity('R'),
    loopInductance: channel(own),
    holdsOutput: 'spark-needs-most' as const,
  }),
  circuit: (own, rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'gap',
        name: `S${tag}`,
        nodes: [plus, minus],
        breakdown: needed(own, rig).likely.value,
        arc: fallingArc(own.quantity('d').value, own.quantity('R').value),
        L: channel(own).value,
      },
      says: 'spark through open air',
    },
    {
      // What is in front of the spark is charged until it jumps: without any capacitance no voltage would be defined there.
      element: { kind: 'capacitor', name: `C${tag}`, nodes: [plus, minus], C: 1e-12 },
      says: 'capacitance of the electrode',
    },
  ],
  leavesOut: () => 'the spark is assumed to bridge, whether it reaches or not',
  figures: [
    {
      id: 'spark-needs',
      title: 'Voltage needed for the distance, likely',
      slot: 'load',
      compute: (rig) => needed(rig.own('load'), rig).likely,
    },
    {
      id: 'spark-needs-least',
      title: 'May jump from (voltage)',
      slot: 'load',
      compute: (rig) => needed(rig.own('load'), rig).least,
    },
    {
      id: 'spark-needs-most',
      title: 'Certain to jump from (voltage)',
      slot: 'load',
      compute: (rig) => needed(rig.own('load'), rig).most,
    },
    {
      id: 'spark-clear',
      title: 'Minimum clearance around it',
      slot: 'load',
      compute: (rig) => sparkClearance(inStandardAir(rig, outputOf(rig))),
    },
    {
      id: 'spark-reach',
      title: 'Output over the likely voltage needed',
      slot: 'load',
      compute: (rig) =>
        work(gapFormulas.shareOfSelfBreak, { V: outputOf(rig), Vb: rig.figure('spark-needs') }, 'reach of the spark'),
    },
  ],
  problems,
  steps: (_own, rig) => [
    {
      id: 'spark-clear',
      phase: 'prepare',
      text: 'Nothing flammable, nobody and no lead within three times the spark distance; its path is unpredictable.',
      expect: [
        { label: 'The distance likely needs', worked: rig.figure('spark-needs'), print: 'quantity', use: 'nominal' },
        { label: 'Clear on all sides at least', worked: rig.figure('spark-clear'), print: 'quantity', use: 'high' },
      ],
      hold: 'The earth it jumps to has its own lead to the return of the store.',
    },
  ],
});
