import type { PathText } from '../block/index.ts';
import { RigReading } from '../figure/index.ts';
import type { ChargeFit, DecayFit, Estimate, RingFit } from '../fit/index.ts';
import { readQuantityText } from '../field/index.ts';
import { printExact, printQuantity, type UnitId } from '../quantity/index.ts';
import { quantityAt, withBlock, blockIn, type Rig } from '../rig/index.ts';

export type TraceFit =
  | { readonly kind: 'bleed'; readonly fit: DecayFit }
  | { readonly kind: 'ring'; readonly fit: RingFit }
  | { readonly kind: 'charge'; readonly fit: ChargeFit };

/** A field of the rig that a fit gives a measured value to. */
export interface MeasuredField {
  readonly path: string;
  readonly unit: UnitId;
  /** In the SI unit, with what it would change from. */
  readonly value: number;
  readonly margin: number;
  readonly was: number | null;
  /** Why it cannot be taken; null where it can. */
  readonly refused: string | null;
}

/** A value in a field, as a person would type it; the reason where the field does not take it. */
function typed(rig: Rig, path: string, { value, margin }: Estimate): { text: string; reason: string | null } {
  const at = quantityAt<string>(rig, path);
  if (!at) return { text: '', reason: 'this rig has no such field' };
  const share = Math.min(99, Math.max(0.1, (100 * margin) / Math.abs(value)));
  const tolerance = at.field.tolerance ? ` ±${share.toPrecision(2)} %` : '';
  // Four digits tell more than any bench measures.
  const text = `${printExact(Number(value.toPrecision(4)), at.field.unit)}${tolerance}`;
  const read = readQuantityText(at.field, text);
  return { text, reason: read.ok ? null : read.reason };
}

/** What an estimate would make of a field of the rig. */
export const measuredField = <P extends string>(rig: Rig, path: PathText<P>, estimate: Estimate): MeasuredField => {
  const { reason } = typed(rig, path, estimate);
  const unit = quantityAt<string>(rig, path)?.field.unit ?? '1';
  return {
    path,
    unit,
    value: estimate.value,
    margin: estimate.margin,
    was: quantityAt<string>(rig, path)?.value?.value ?? null,
    refused:
      estimate.value > 0
        ? reason
        : `comes to ${printQuantity(estimate.value, unit)}: the rest of the rig is more than was measured`,
  };
};

const less = ({ value, margin }: Estimate, part: number): Estimate => ({ value: value - part, margin });

/** The fields that a fit gives measured values to: each is what was measured less what the rest of the rig is known to add. */
export function fieldsOfFit(rig: Rig, measured: TraceFit): MeasuredField[] {
  const reading = new RigReading(rig);
  if (measured.kind === 'bleed') {
    // What is across the store is the bleeder beside what leaks; the leak is that of the store as the rig has it.
    const C = reading.figure('bank-capacitance').value;
    const leak = reading.offer('insulation').value;
    const { tau } = measured.fit;
    const own = 1 / (C / tau.value - 1 / leak);
    const n = quantityAt(rig, 'bleeder.n')?.value?.value ?? 1;
    // Its margin goes with the square: the slope of 1/(1/R - 1/Ri).
    const margin = ((own * C) / tau.value) ** 2 * (tau.margin / C);
    return quantityAt(rig, 'bleeder.R') ? [measuredField(rig, 'bleeder.R', { value: own / n, margin: margin / n })] : [];
  }
  if (measured.kind === 'ring') {
    const { L, R } = measured.fit;
    const [loopL, loopR] = [reading.figure('loop-inductance').value, reading.figure('loop-resistance').value];
    const own = (path: string) => quantityAt(rig, path)?.value?.value ?? 0;
    const found: MeasuredField[] = [];
    if (quantityAt(rig, 'load.L')) found.push(measuredField(rig, 'load.L', less(L, loopL - own('load.L'))));
    if (quantityAt(rig, 'load.R')) found.push(measuredField(rig, 'load.R', less(R, loopR - own('load.R'))));
    return found;
  }
  const { R } = measured.fit;
  const charging = reading.figure('charging-resistance').value;
  const own = quantityAt(rig, 'charging.R')?.value?.value;
  return own === undefined ? [] : [measuredField(rig, 'charging.R', less(R, charging - own))];
}

/** The rig with measured values in these fields. Fields that were refused stay. */
export function withMeasured(rig: Rig, fields: readonly MeasuredField[]): Rig {
  return fields.reduce((made, { path, value, margin, refused }) => {
    const at = quantityAt(made, path);
    if (!at || refused !== null) return made;
    const read = readQuantityText(at.field, typed(made, path, { value, margin }).text);
    if (!read.ok || read.value === null) return made;
    const block = blockIn(made, at.slot);
    return withBlock(made, at.slot, { ...block, fields: { ...block.fields, [at.id]: { ...read.value, from: 'measured' } } });
  }, rig);
}
