import { above, choice, fields, quantity, whole, within, type FieldValue } from '../../field/index.ts';
import { evaluateFormula, pulseLineFormulas, ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { defineBlock, type CircuitPart } from '../../block/define.ts';
import { absorptionOf, dielectricField } from '../bank/dielectric-field.ts';
import { insulationField, typedValue } from '../bank/insulation-field.ts';
import { commissionLow, residualStep } from '../bank/shot-steps.ts';
import { takenForCharged } from '../bank/taken-for-charged.ts';
import { lineGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'store/line': typeof lineFields;
  }
  interface FigureIds {
    'line-impedance': true;
    'line-width': true;
    'line-delay': true;
  }
}

/** F of a line as it is typed; null where something of it is not. */
function typedCapacitance({ Z0, l, v }: Readonly<Record<string, FieldValue>>): number | null {
  const [Z, length, velocity] = [typedValue(Z0), typedValue(l), typedValue(v)];
  if (Z === null || length === null || velocity === null) return null;
  const td = evaluateFormula(pulseLineFormulas.lineDelay, { l: length, v: velocity });
  return evaluateFormula(pulseLineFormulas.lineCapacitance, { Z, td });
}

const lineFields = fields(
  {
    type: choice(
      'Type',
      { single: 'one line: half of its voltage at a match', blumlein: 'Blumlein: all of its voltage at a match' },
      { help: 'A Blumlein is two lines one behind the other, the load between their outer conductors, the switch at one end.' },
    ),
    Z0: quantity('Wave impedance of a line', 'Ω', above(0, 1e5), '50 Ω', { tolerance: true }),
    l: quantity('Length of a line', 'm', above(0, 1e5), '20 m', { tolerance: true }),
    v: quantity('Velocity over that of light', '1', within(0.01, 1), '66 %', {
      tolerance: true,
      help: 'Solid polyethylene 66 %, foam 80 %, oil 67 %, water 11 %.',
    }),
    np: quantity('Lines side by side', '1', whole(1, 1000), '1'),
    V0: quantity('Charged to', 'V', above(0, 1e7), '1 kV', { tolerance: true }),
    Vr: quantity('DC rating', 'V', above(0, 1e7), null, {
      help: 'Of the cable for a charge that stands: the figure for radio signals is another.',
    }),
    R: quantity('Resistance of a line, both conductors', 'Ω', within(0, 1e6), '200 mΩ', { tolerance: true }),
    dielectric: dielectricField,
    Ri: insulationField('Insulation of a line', typedCapacitance),
  },
  { geometry: ['R', 'dielectric', 'Ri'] },
);

type Line = Own<typeof lineFields>;

const isBlumlein = (own: Line): boolean => own.is('type', 'blumlein');
const one = ruled('taken singly', 1, '1', 'lines side by side');
/** Lines one behind the other. */
const inRow = (own: Line): Worked =>
  ruled('lines one behind the other', isBlumlein(own) ? 2 : 1, '1', isBlumlein(own) ? 'of a Blumlein' : 'one line');

const delay = (own: Line): Worked => work(pulseLineFormulas.lineDelay, { l: own.quantity('l'), v: own.quantity('v') });
const oneC = (own: Line): Worked => work(pulseLineFormulas.lineCapacitance, { Z: own.quantity('Z0'), td: delay(own) });
const oneL = (own: Line): Worked => work(pulseLineFormulas.lineInductance, { Z: own.quantity('Z0'), td: delay(own) });
/** Of lines side by side as one, and of two one behind the other as the load sees them. */
const asBank = (own: Line) => ({ ns: inRow(own), np: own.quantity('np') });
const impedance = (own: Line): Worked =>
  work(storeFormulas.bankResistance, { R: own.quantity('Z0'), ...asBank(own) }, 'impedance that the load sees');
/** All of its capacitance is charged side by side, that of both lines of a Blumlein. */
const allCapacitance = (own: Line): Worked =>
  work(
    storeFormulas.seriesParallelCapacitance,
    {
      C: oneC(own),
      ns: one,
      np: ruled(
        'lines in all',
        own.quantity('np').value * inRow(own).value,
        '1',
        'side by side, and of a Blumlein twice as many',
      ),
    },
    'capacitance of all lines',
  );
const width = (own: Line): Worked => work(pulseLineFormulas.networkWidth, { Ln: oneL(own), Cn: oneC(own) });

/** A line as its two ends; its resistance lies half at either of them. */
function ends(
  name: string,
  from: readonly [string, string],
  to: readonly [string, string],
  Z0: number,
  td: number,
  V0: number,
  R: number,
  says: string,
): CircuitPart[] {
  const inner = [`${name}i`, `${name}o`] as const;
  const half = Math.max(R / 2, 1e-6);
  return [
    {
      element: { kind: 'resistor', name: `R${name}a`, nodes: [from[0], inner[0]], R: half },
      says: `half of the loss of ${says}`,
    },
    {
      element: { kind: 'line-end', name: `T${name}`, nodes: [inner[0], from[1]], far: `T${name}_far`, Z0, delay: td, V0 },
      says,
    },
    {
      element: { kind: 'line-end', name: `T${name}_far`, nodes: [inner[1], to[1]], far: `T${name}`, Z0, delay: td, V0 },
      says: `the other end of ${says}`,
    },
    {
      element: { kind: 'resistor', name: `R${name}b`, nodes: [to[0], inner[1]], R: half },
      says: `the other half of the loss of ${says}`,
    },
  ];
}

export const lineStore = defineBlock({
  slot: 'store',
  kind: 'line',
  title: 'Pulse-forming line',
  glyph: () => lineGlyph,
  fields: lineFields,
  key: (own) => ({
    text: printQuantity(impedance(own).value, 'Ω'),
    detail: isBlumlein(own) ? 'Blumlein' : printQuantity(own.quantity('l').value, 'm'),
  }),
  offers: (own) => {
    const rated = own.optional('Vr');
    return {
      capacitance: allCapacitance(own),
      chargedTo: own.quantity('V0'),
      absorption: absorptionOf(own),
      loopResistance: work(storeFormulas.bankResistance, { R: own.quantity('R'), ...asBank(own) }, 'resistance of the lines'),
      loopInductance: work(storeFormulas.bankInductance, { L: oneL(own), ...asBank(own) }, 'inductance of the lines'),
      insulation: work(
        storeFormulas.bankResistance,
        {
          R: own.quantity('Ri'),
          ns: one,
          np: ruled(
            'lines in all',
            own.quantity('np').value * inRow(own).value,
            '1',
            'all side by side for a charge that stands',
          ),
        },
        'insulation of all lines',
      ),
      pulse: { Z: impedance(own), width: width(own), first: null, ...(isBlumlein(own) ? { inRow: inRow(own) } : {}) },
      ...(rated ? { ratedVoltage: rated } : {}),
    };
  },
  circuit: (own, rig, { plus, minus, tag }, scene) => {
    const np = own.quantity('np').value;
    const [Z0, td, R] = [own.quantity('Z0').value / np, delay(own).value, own.quantity('R').value / np];
    const V0 = scene.of === 'charge' ? 0 : rig.offer('chargedTo').value;
    const insulation: CircuitPart = {
      element: { kind: 'resistor', name: `R${tag}i`, nodes: [plus, minus], R: rig.offer('insulation').value },
      says: 'insulation of the lines',
      ...(scene.of === 'bleed' && !rig.offers('bleeder').bleedResistance
        ? {}
        : { leftOut: { what: 'the insulation of the lines', instead: 'open' as const } }),
    };
    if (scene.of !== 'discharge')
      return [
        {
          element: { kind: 'capacitor', name: `C${tag}`, nodes: [plus, minus], C: rig.offer('capacitance').value, V0 },
          says: 'all lines as one capacitor, as slow as this is',
        },
        insulation,
      ];
    // Looked at by its far end: what stands there falls last. So little that it is none, and tells the voltage.
    const marker = (nodes: readonly [string, string]): CircuitPart => ({
      element: { kind: 'capacitor', name: `C${tag}`, nodes, C: 1e-6 * oneC(own).value * np, V0 },
      says: 'the open end of the line',
    });
    const [far, outer, middle] = [`${tag}f`, `${tag}o`, `${tag}m`];
    if (!isBlumlein(own))
      return [...ends(tag, [plus, minus], [far, minus], Z0, td, V0, R, 'the line'), marker([far, minus]), insulation];
    // The outer conductor of the second line is the output: the load ties it to earth while it is charged.
    return [
      ...ends(`${tag}1`, [plus, minus], [middle, minus], Z0, td, V0, R, 'the first line of the Blumlein'),
      ...ends(`${tag}2`, [middle, 'out'], [far, outer], Z0, td, V0, R, 'the second line of the Blumlein'),
      {
        element: { kind: 'resistor', name: `R${tag}o`, nodes: [outer, minus], R: 1e9 },
        says: 'strays of the open end to earth',
      },
      marker([far, outer]),
      insulation,
    ];
  },
  // A Blumlein is fired by a short across the input of its first line.
  switchBetween: (own) => ({ plus: 'bank', minus: isBlumlein(own) ? '0' : 'out' }),
  leavesOut: () => 'its losses along the way and its ends: it takes a line without loss, matched or not',
  figures: [
    { id: 'line-impedance', title: 'Impedance that the load sees', slot: 'store', compute: (rig) => impedance(rig.own('store')) },
    { id: 'line-width', title: 'Pulse width', slot: 'store', compute: (rig) => width(rig.own('store')) },
    { id: 'line-delay', title: 'Delay of a line, one way', slot: 'store', compute: (rig) => delay(rig.own('store')) },
  ],
  limits: [
    {
      id: 'capacitor-voltage',
      title: 'Line voltage',
      slot: 'store',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.offers('store').ratedVoltage ?? null,
      levers: ['store.V0', 'store.Vr'],
      protects: true,
    },
  ],
  problems: (own, rig) => {
    const Z = impedance(own).value;
    const R = rig.figure('loop-resistance').value;
    if (R > 0.5 * Z) return [];
    return [
      {
        severity: 'warning',
        slot: 'store',
        field: 'Z0',
        text: `The rest of its loop has ${printQuantity(R, 'Ω')}, far below the ${printQuantity(Z, 'Ω')} that it wants: the line rings in steps, and its insulation is reversed at each.`,
      },
    ];
  },
  steps: (own, rig) => [...takenForCharged(rig, 'the line'), commissionLow(rig, own.quantity('V0').value), ...residualStep(rig)],
});
