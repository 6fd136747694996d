import fc from 'fast-check';
import { expect } from 'vitest';
import type { FigureId, Slot } from '../block/index.ts';
import { definitionIn, ifKnown, RigReading } from '../figure/index.ts';
import { limitSpecs } from '../limit/index.ts';
import type { Rig } from '../rig/index.ts';
import { witness, type Against } from './evidence.ts';
import { offBy } from './fixtures.ts';

/** What is worked out beside the program: figures by what they come to, limits by what loads them and what is permitted. */
export interface ByHand {
  readonly figures?: Partial<Record<FigureId, number>>;
  /** Stress, and rating; a rating of null is one that nobody has entered. */
  readonly limits?: Readonly<Record<string, readonly [stress: number, rating: number | null]>>;
  /** Limits that are not judged at all, for what they would be judged by was not entered. */
  readonly unjudged?: readonly string[];
}

/** Expects the rig's figures and limits to be those of a calculation beside it; figures go into the book of evidence. */
export function agrees(rig: Rig, { figures = {}, limits = {}, unjudged = [] }: ByHand, against: Against): void {
  const reading = new RigReading(rig);
  for (const [id, value] of Object.entries(figures) as [FigureId, number][])
    witness({ kind: 'figure', id }, reading.figure(id).value, value, against);
  const specs = new Map(limitSpecs(rig).map((spec) => [spec.id, spec]));
  const specOf = (id: string) => {
    const spec = specs.get(id);
    if (!spec) throw new Error(`this rig has no limit ${id}`);
    return spec;
  };
  for (const [id, [stress, rating]] of Object.entries(limits)) {
    const spec = specOf(id);
    expect(
      offBy(spec.stress(reading).value, stress),
      `stress of ${id}: ${spec.stress(reading).value} against ${stress}`,
    ).toBeLessThan(against.within);
    const permitted = spec.rating(reading)?.value ?? null;
    if (rating === null) expect(permitted, `rating of ${id}`).toBeNull();
    else expect(offBy(permitted ?? NaN, rating), `rating of ${id}: ${permitted} against ${rating}`).toBeLessThan(against.within);
  }
  for (const id of unjudged) expect(ifKnown(() => specOf(id).rating(reading)) ?? null, `rating of ${id}`).toBeNull();
}

/** What a block says of itself in its rig: how grave each is, and at which field. */
export function saidBy(rig: Rig, slot: Slot): string[] {
  const reading = new RigReading(rig);
  const said = definitionIn(rig, slot).problems?.(reading.ownOf(slot), reading) ?? [];
  return said.map(({ severity, field }) => `${severity} ${field ?? ''}`.trim());
}

/** Numbers of four digits, each decade as likely as any other: what people type. */
export const decades = (low: number, high: number): fc.Arbitrary<number> =>
  fc.double({ min: Math.log(low), max: Math.log(high), noNaN: true }).map((x) => Number(Math.exp(x).toPrecision(4)));

/** Each number with its unit, as it is typed. */
export const typed = (values: Readonly<Record<string, readonly [number, string]>>): Record<string, string> =>
  Object.fromEntries(Object.entries(values).map(([path, [value, unit]]) => [path, `${value} ${unit}`.trim()]));

/** A store of one capacitor at its voltage, and a supply that gives so many times that, as they are typed. */
export const oneCapacitor = ({ C, V0 }: { readonly C: number; readonly V0: number }, times: number): Record<string, string> => ({
  ...typed({ 'supply.V': [Number((times * V0).toPrecision(6)), 'V'], 'store.C': [C, 'F'], 'store.V0': [V0, 'V'] }),
  'store.ns': '1',
  'store.np': '1',
});

/** V that a store of C is bled below before anybody straps: the lowest of 50 V and what holds 1 J, cut to two digits; a tenth of less. */
export function goalOf(C: number, V0: number): number {
  const lowest = Math.min(50, Math.sqrt(2 / C));
  const [digits = '', power = ''] = (V0 > lowest ? lowest : V0 / 10).toExponential(12).split('e');
  return Number(`${Math.floor(Number(digits) * 10 + 1e-9) / 10}e${power}`);
}
