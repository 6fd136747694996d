import { edge } from '../../numeric/index.ts';
import { z } from 'zod';
import { fieldSchema, initialValue, type FieldValue, type QuantityValue } from '../../field/index.ts';
import {
  capacitorFormulas,
  evaluateFormula,
  FormulaError,
  ruled,
  storeFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { conductorById, dielectricById, type Conductor, type Range } from '../../material/index.ts';
import { bounds } from '../../quantity/index.ts';
import { shapeOf, shapes, type CutPiece, type Shape, type Sizes } from './shape.ts';

/** What a measurement of a home-made capacitor says of its dielectric. */
export interface Fitted {
  /** Measured capacitance, F. */
  readonly capacitance: number;
  /** Relative permittivity that gives it with the thickness as measured. */
  readonly permittivity: number;
  /** Factor on the thickness that gives it with the permittivity as it was taken: above 1, air or oil lies between. */
  readonly thicknessFactor: number;
}

/** How a home-made capacitor is made. */
export interface Design {
  readonly shape: string;
  readonly fields: Readonly<Record<string, FieldValue>>;
  readonly fitted: Fitted | null;
}

const fittedSchema = z.strictObject({
  capacitance: z.number().positive(),
  permittivity: z.number().positive(),
  thicknessFactor: z.number().positive(),
});

const ofShape = (shape: Shape) =>
  z.strictObject({
    shape: z.literal(shape.id),
    fields: z
      .strictObject(Object.fromEntries(Object.entries(shape.fields).map(([id, field]) => [id, fieldSchema(field)])))
      .prefault({}),
    fitted: fittedSchema.nullable().default(null),
  });

const [firstShape, ...otherShapes] = shapes.map(ofShape);
if (!firstShape) throw new Error('no shape is registered');

export const designSchema = z
  .discriminatedUnion('shape', [firstShape, ...otherShapes], {
    error: (issue) => (issue.code === 'invalid_union' ? `shape must be one of ${shapes.map((s) => s.id).join(', ')}` : undefined),
  })
  .transform((design) => design as Design);

export const newDesign = (shape: string): Design => ({
  shape,
  fields: Object.fromEntries(Object.entries(shapeOf(shape).fields).map(([id, field]) => [id, initialValue(field)])),
  fitted: null,
});

const quantityOf = (design: Design, id: string): QuantityValue | null => {
  const value = design.fields[id];
  return typeof value === 'object' ? value : null;
};

const choiceIn = (design: Design, id: string): string => {
  const value = design.fields[id];
  return typeof value === 'string' ? value : '';
};

/** Field strength, V/m, that a surface is trusted with. Common practice, no source. */
const surfaceField: Readonly<Record<string, number>> = { air: 5e5, oil: 1e6 };

/** Plain sizes, each at its middle or at one end of its tolerance. */
function sizesOf(design: Design, side: 'middle' | 'low' | 'high', inverted: readonly string[] = []): Sizes {
  return Object.fromEntries(
    Object.keys(design.fields).flatMap((id) => {
      const value = quantityOf(design, id);
      if (!value) return [];
      const { low, high } = bounds(value);
      const flip = inverted.includes(id);
      return [[id, side === 'middle' ? value.value : (side === 'low') === flip ? high : low] as const];
    }),
  );
}

/** What a permittivity that somebody typed without a tolerance is good to. Common practice, no source. */
const untold = 0.05;

/** Relative permittivity: as typed, with its tolerance or that of a data sheet, else the range of the material, its middle as the value. */
function permittivityOf(design: Design): { readonly value: number; readonly range: Range; readonly source: string } {
  const own = quantityOf(design, 'er');
  if (own)
    return {
      value: own.value,
      range: own.tolerance ? bounds(own) : { low: own.value * (1 - untold), high: own.value * (1 + untold) },
      source: own.from === 'measured' ? 'fitted from one that was measured' : 'typed',
    };
  const material = dielectricById(choiceIn(design, 'material'));
  const range = material?.permittivity ?? { low: 1, high: 1 };
  return {
    value: (range.low + range.high) / 2,
    range,
    source: `${material?.title ?? 'no material'}, middle of its range: ${material?.source ?? ''}`,
  };
}

const given = (title: string, value: number, unit: Worked['unit'], source: string) => ruled(title, value, unit, source);

/** What a design will be, worked out. SI units. */
export interface Prediction {
  readonly capacitance: Worked;
  /** Over the range of the permittivity and the tolerances of the sizes, F. */
  readonly range: Range;
  readonly energy: Worked;
  readonly stress: Worked;
  /** Of the material, V/m; null where it is not listed. */
  readonly strength: Range | null;
  /** Highest voltage at which half the lower strength is kept, V; null where the strength is not known. */
  readonly held: number | null;
  readonly creepage: Worked;
  readonly margin: number;
  /** What lies in series with it, each part of it worked out. */
  readonly resistances: readonly Worked[];
  readonly resistance: number;
  readonly cuts: readonly CutPiece[];
}

export type Predicted = { readonly ok: true; readonly prediction: Prediction } | { readonly ok: false; readonly reason: string };

/** The filling between its electrode and the wall. */
function fillingResistance(design: Design, inside: Conductor, typed: (title: string, id: string) => Worked): Worked {
  const sizes = {
    rho: given(`resistivity of ${inside.title}`, inside.resistivity, 'Ω·m', inside.source),
    h: typed('height of the filling', 'h'),
    d: typed('inner diameter', 'd'),
  };
  return choiceIn(design, 'electrode') === 'rod'
    ? work(capacitorFormulas.rodResistance, { ...sizes, dr: typed('rod diameter', 'rod') }, inside.title)
    : work(capacitorFormulas.columnResistance, sizes, inside.title);
}

function resistancesOf(design: Design, shape: Shape, sizes: Sizes): Worked[] {
  const { foilResistance, wireLeadResistance: leadResistance } = capacitorFormulas;
  const typed = (title: string, id: string) => given(title, sizes[id] ?? NaN, 'm', 'typed');
  const made: Worked[] = [];
  const foil = conductorById(choiceIn(design, 'foil'));
  const extent = shape.foil(sizes);
  if (foil && extent) {
    const both = work(
      foilResistance,
      {
        rho: given(`resistivity of ${foil.title}`, foil.resistivity, 'Ω·m', foil.source),
        l: given('length of a foil from its lead', extent.length, 'm', 'the design'),
        w: given('width of a foil', extent.width, 'm', 'the design'),
        t: typed('foil thickness', 'foilThickness'),
      },
      'foils',
    );
    made.push(both);
  }
  const inside = conductorById(choiceIn(design, 'inside'));
  if (inside && shape.fields['inside'] && inside.resistivity > 1e-3) made.push(fillingResistance(design, inside, typed));
  const copper = conductorById('copper');
  if (copper)
    made.push(
      work(
        leadResistance,
        {
          rho: given('resistivity of copper', copper.resistivity, 'Ω·m', copper.source),
          l: typed('leads, both together', 'lead'),
          d: typed('lead diameter', 'wire'),
        },
        'leads',
      ),
    );
  return made;
}

function predict(design: Design): Prediction {
  const shape = shapeOf(design.shape);
  const sizes = sizesOf(design, 'middle');
  const er = permittivityOf(design);
  const at = (permittivity: number, s: Sizes) => evaluateFormula(shape.formula, { er: permittivity, ...shape.inputs(s) });
  const thin = shape.thicknesses;
  const inputs = Object.fromEntries(
    Object.entries(shape.inputs(sizes)).map(([symbol, value]) => {
      const spec = shape.formula.inputs[symbol];
      return [symbol, given(spec?.title ?? symbol, value, spec?.unit ?? '1', 'the design')];
    }),
  );
  const capacitance = work(
    shape.formula,
    { er: given('relative permittivity', er.value, '1', er.source), ...inputs },
    'predicted capacitance',
  );
  const V = given('voltage it is to be charged to', sizes['V'] ?? NaN, 'V', 'typed');
  const least = Math.min(...thin.map((id) => sizes[id] ?? Infinity));
  const strength = dielectricById(choiceIn(design, 'material'))?.strength ?? null;
  const trusted = surfaceField[choiceIn(design, 'medium')] ?? 5e5;
  const resistances = resistancesOf(design, shape, sizes);
  return {
    capacitance,
    range: { low: at(er.range.low, sizesOf(design, 'low', thin)), high: at(er.range.high, sizesOf(design, 'high', thin)) },
    energy: work(storeFormulas.storedEnergy, { C: capacitance, V }, 'energy at that voltage'),
    stress: work(
      capacitorFormulas.dielectricStress,
      { V, t: given('thickness of the dielectric, the thinnest', least, 'm', 'the design') },
      'mean field in the dielectric',
    ),
    strength,
    held: strength && (strength.low / 2) * least,
    creepage: work(
      capacitorFormulas.edgeCreepage,
      { V, Fs: given('permissible surface field', trusted, 'V/m', 'common practice, no source') },
      'creepage needed',
    ),
    margin: sizes['margin'] ?? NaN,
    resistances,
    resistance: resistances.reduce((total, r) => total + r.value, 0),
    cuts: shape.cuts(sizes),
  };
}

/** What stands between a prediction and a measurement: by how much, whether that is within the range, and what it may come from. */
export interface Deviation {
  /** Measured over predicted, less 1. */
  readonly fraction: number;
  readonly isWithin: boolean;
  readonly mayBe: readonly string[];
}

/**
 * Holds a measured capacitance against the prediction.
 *
 * @param measured F, above 0
 */
export function deviationOf(design: Design, { capacitance, range }: Prediction, measured: number): Deviation {
  const ratio = measured / capacitance.value;
  const isWithin = measured >= range.low && measured <= range.high;
  const near = (x: number) => Math.abs(ratio / x - 1) < 0.12;
  const half = shapeOf(design.shape).half;
  const mayBe = isWithin
    ? []
    : [
        ...(near(0.5) ? [half] : []),
        ...(near(2)
          ? ['Double: one layer stands where the thickness counts two, or both faces of a foil are used where one was counted.']
          : []),
        ...(ratio < 0.05 ? ['Next to nothing: a tab has no contact with its foil, or the meter reads its own leads.'] : []),
        ratio < 1
          ? 'Less: air or wrinkles between foil and dielectric, foil smaller than typed, or the dielectric thicker than its gauge says. Press it flat, or fill it with oil, and measure again.'
          : 'More: the dielectric is thinner than its gauge says, its permittivity higher (soft PVC, fillers, damp), or leads and meter add to it. Measure the thickness of a pile of ten sheets, and null the leads.',
      ];
  return { fraction: ratio - 1, isWithin, mayBe };
}

/** Works a design out; where a number is beyond its formula, why. It never throws. */
export function predictDesign(design: Design): Predicted {
  try {
    return { ok: true, prediction: predict(design) };
  } catch (error) {
    if (error instanceof FormulaError) return { ok: false, reason: error.message };
    throw error;
  }
}

/**
 * Fits a measured capacitance back to the dielectric: the permittivity that gives it, or the thickness.
 *
 * @param measured F, above 0
 * @returns null where no permittivity or thickness gives it
 */
export function fitDesign(design: Design, measured: number): Fitted | null {
  if (!(measured > 0) || !Number.isFinite(measured)) return null;
  const shape = shapeOf(design.shape);
  const er = permittivityOf(design).value;
  const inputs = shape.inputs(sizesOf(design, 'middle'));
  // Straight arithmetic, not the checked formula: a trial on the way may lie outside its range.
  const withFactor = (factor: number, permittivity: number) =>
    shape.formula.compute({
      er: permittivity,
      ...inputs,
      ...Object.fromEntries(shape.thicknesses.map((id) => [id, (inputs[id] ?? NaN) * factor])),
    });
  const permittivity = measured / withFactor(1, 1);
  // Capacitance falls steadily as the dielectric grows thicker.
  const [low, high] = [1e-4, 1e4];
  if (!(withFactor(low, er) >= measured && withFactor(high, er) <= measured)) return null;
  const { middle } = edge((factor) => withFactor(factor, er) >= measured, low, high, { isRatio: true });
  return { capacitance: measured, permittivity, thicknessFactor: middle };
}
