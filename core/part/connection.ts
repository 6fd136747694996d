import { sum } from 'simple-statistics';
import { deltaUses } from './delta.ts';
import { choiceOf, elementsOf, elementValues, labelOf, measuredOf, type Part } from './part.ts';

/** A way to connect the elements of a case, and what that makes of it. SI units. */
export interface Connection {
  /** As the field `use` of a capacitor names it. */
  readonly id: string;
  readonly title: string;
  /** F */
  readonly capacitance: number;
  /** Its direct voltage as a multiple of that of one element; null where the element's capacitances are not known. */
  readonly voltageFactor: number;
  /** Its series resistance and insulation as a multiple of those of one element. */
  readonly resistanceFactor: number;
  /** Terminals joined to each end and left open, of a delta can. */
  readonly ends?: readonly [readonly number[], readonly number[]];
  readonly open?: readonly number[];
  /** Where an open terminal floats, as a fraction of the voltage. */
  readonly floatsAt?: number | null;
}

export interface ElementCapacitances {
  readonly values: readonly number[];
  /** Whether every element was measured, or what the label says stands for some or all of them. */
  readonly from: 'measured' | 'label';
}

const isDelta = (part: Part) => choiceOf(part, 'connection') === 'delta';

/** Capacitance of every element, F: measured where all are, else as labelled; null where neither is known. */
export function elementCapacitances(part: Part): ElementCapacitances | null {
  const n = elementsOf(part);
  const label = labelOf(part, 'C');
  const means = Array.from({ length: n }, (_, i) => measuredOf(part, 'capacitance', i + 1)?.mean ?? null);
  const known = means.flatMap((m) => m ?? []);
  // Of a delta can these are its elements 1-2, 2-3 and 3-1, taken out of the three readings.
  if (known.length === n) return { values: elementValues(part, 'capacitance'), from: 'measured' };
  if (label === null) return null;
  return { values: isDelta(part) ? means.map(() => label) : means.map((m) => m ?? label), from: 'label' };
}

function seriesOf(values: readonly number[]): Connection {
  const inverse = sum(values.map((c) => 1 / c));
  return {
    id: 'series',
    title: `all ${values.length} elements in series`,
    capacitance: 1 / inverse,
    // The smallest takes the largest share: 1/C over the sum of all.
    voltageFactor: Math.min(...values) * inverse,
    resistanceFactor: values.length,
  };
}

const parallelOf = (values: readonly number[]): Connection => ({
  id: 'parallel',
  title: `all ${values.length} elements in parallel`,
  capacitance: sum(values),
  voltageFactor: 1,
  resistanceFactor: 1 / values.length,
});

/**
 * Every useful way to connect the elements of a capacitor's case.
 *
 * @returns none where no capacitance is known
 */
export function connectionsOf(part: Part): Connection[] {
  const elements = elementCapacitances(part);
  if (!elements) return [];
  const { values } = elements;
  const n = values.length;
  if (isDelta(part) && n === 3) {
    const [c12 = 0, c23 = 0, c31 = 0] = values;
    if (![c12, c23, c31].every((c) => c > 0)) return [];
    return deltaUses({ c12, c23, c31, rating: 1 }).map((use) => ({
      id: use.id,
      title: use.title,
      capacitance: use.capacitance,
      voltageFactor: use.rating,
      resistanceFactor: use.id.startsWith('short') ? 0.5 : 2 / 3,
      ends: use.ends,
      open: use.open,
      floatsAt: use.floatsAt,
    }));
  }
  const one: Connection = {
    id: 'one',
    title: n === 1 ? 'its one element' : 'one element, the others left alone and shorted',
    capacitance: values[0] ?? 0,
    voltageFactor: 1,
    resistanceFactor: 1,
  };
  return n === 1 ? [one] : [one, parallelOf(values), seriesOf(values)];
}

/** The connection it is used in; null where none is known or the one chosen is not possible. */
export const connectionOf = (part: Part): Connection | null =>
  connectionsOf(part).find((c) => c.id === choiceOf(part, 'use')) ?? null;
