import { printPercent, type Tolerance, type UnitId } from '../quantity/index.ts';
import { connectionOf, elementCapacitances, type Connection } from './connection.ts';
import { dcLimits } from './dc-limit.ts';
import type { Measure, Measured } from './kind/define.ts';
import { partKind } from './kind/registry.ts';
import { measuredOf, type Part } from './part.ts';

/** A value of a part as a rig takes it: what was measured where that is known, else what the label says. SI units. */
export interface PartValue {
  readonly title: string;
  readonly unit: UnitId;
  readonly value: number;
  readonly tolerance: Tolerance | null;
  readonly from: 'measured' | 'label';
  /** Readings it rests on; 0 of a label. */
  readonly count: number;
}

/** What a single reading is taken to be uncertain by. Common practice, no source: a hand meter. */
export const meterUncertainty = 0.01;

/** Beyond a hundredfold a tolerance says nothing; a lower bound must stay above nought. */
const clipped = (minus: number, plus: number): Tolerance => ({ minus: Math.min(minus, 0.99), plus: Math.min(plus, 99) });

/** The range of the readings, widened to what one reading is uncertain by. */
const toleranceOf = ({ mean, low, high }: Measured): Tolerance =>
  clipped(Math.max(meterUncertainty, 1 - low / mean), Math.max(meterUncertainty, high / mean - 1));

function fromLabel(part: Part, id: string): PartValue | null {
  const field = partKind(part.kind).fields[id];
  const value = part.fields[id];
  if (field?.type !== 'quantity' || typeof value !== 'object' || value === null) return null;
  return {
    title: field.title,
    unit: field.unit,
    value: value.value,
    tolerance: value.tolerance ?? null,
    from: 'label',
    count: 0,
  };
}

function fromReadings(part: Part, measure: Measure): PartValue | null {
  const measured = measuredOf(part, measure.id);
  if (!measured) return null;
  const { title, unit } = measure;
  return { title, unit, value: measured.mean, tolerance: toleranceOf(measured), from: 'measured', count: measured.count };
}

/** Values of one element, or of a part that has none. */
function plainValues(part: Part): Record<string, PartValue> {
  const { fields, measures } = partKind(part.kind);
  const values: Record<string, PartValue> = {};
  for (const id of Object.keys(fields)) {
    const value = fromLabel(part, id);
    if (value) values[id] = value;
  }
  for (const measure of measures) {
    const id = measure.field ?? measure.gives;
    const value = id === undefined ? null : fromReadings(part, measure);
    if (id !== undefined && value) values[id] = value;
  }
  return values;
}

const scaled = (value: PartValue | undefined, by: number): PartValue | undefined =>
  value && { ...value, value: value.value * by };

/** A capacitor as it is connected, with the dc limit of the school that was chosen for it. */
function connectedValues(
  part: Part,
  { C, ESR, Ri, Vdc: _rating, ...rest }: Record<string, PartValue>,
): Record<string, PartValue> {
  const connection: Connection | null = connectionOf(part);
  const elements = elementCapacitances(part);
  if (!connection || !elements) return rest;
  const limit = dcLimits(part).chosen?.limit ?? null;
  const count = elements.from === 'measured' ? (measuredOf(part, 'capacitance')?.count ?? 0) : 0;
  const whole: PartValue = {
    title: 'Capacitance',
    unit: 'F',
    value: connection.capacitance,
    tolerance: elements.from === 'label' ? (C?.tolerance ?? null) : { minus: meterUncertainty, plus: meterUncertainty },
    from: elements.from,
    count,
  };
  const rated: PartValue | undefined = limit
    ? { title: 'DC limit', unit: 'V', value: limit.value * connection.voltageFactor, tolerance: null, from: 'label', count: 0 }
    : undefined;
  const [esr, insulation] = [scaled(ESR, connection.resistanceFactor), scaled(Ri, connection.resistanceFactor)];
  return {
    ...rest,
    C: whole,
    ...(rated ? { Vdc: rated } : {}),
    ...(esr ? { ESR: esr } : {}),
    ...(insulation ? { Ri: insulation } : {}),
  };
}

/** What a rig may take from a part, by the id of the field. */
export function valuesOf(part: Part): Readonly<Record<string, PartValue>> {
  const values = plainValues(part);
  return part.kind === 'capacitor' ? connectedValues(part, values) : values;
}

/** "4 readings, −0.8 % to +1.1 %", or what stands in their place. */
export const wordOrigin = ({ from, count, tolerance }: PartValue): string =>
  from === 'label'
    ? 'from the label, not measured'
    : `${count === 1 ? '1 reading' : `${count} readings`}${tolerance ? `, −${printPercent(tolerance.minus, 2)} to +${printPercent(tolerance.plus, 2)}` : ''}`;
