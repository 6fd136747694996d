import { capacitor } from './capacitor.ts';
import type { PartKind } from './define.ts';
import { resistor } from './resistor.ts';
import { diode, thyristor } from './semiconductor.ts';
import { inductor, instrument, other, sparkGap, transformer, wire } from './simple.ts';

/** Every kind of part, in the order in which they are listed. A new kind is one line here. */
export const partKinds: readonly PartKind[] = [
  capacitor,
  resistor,
  diode,
  thyristor,
  sparkGap,
  inductor,
  transformer,
  wire,
  instrument,
  other,
];

const byKind = new Map(partKinds.map((kind) => [kind.kind, kind]));

/** @throws Error where no such kind is registered; the schema lets none through */
export function partKind(kind: string): PartKind {
  const found = byKind.get(kind);
  if (!found) throw new Error(`no kind of part ${kind}`);
  return found;
}
