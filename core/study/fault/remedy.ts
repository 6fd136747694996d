import type { Slot } from '../../block/index.ts';
import { blockDefinition, changeKind } from '../../kind/index.ts';
import { blockIn, quantityAt, typedAt, withBlock, type Rig } from '../../rig/index.ts';

/** Something that would contain a fault, sized for this rig. */
export interface Remedy {
  readonly id: 'fuse' | 'resistor' | 'inductor' | 'dump' | 'bleeder' | 'guard' | 'crowbar' | 'practice';
  readonly title: string;
  /** What it does and what it has to be, in numbers. */
  readonly says: string;
  /** J into what failed with it; null where it is about something else. */
  readonly leaves: number | null;
  /** What it costs at a normal shot. */
  readonly costs: string | null;
  /** Fields that a click sets. */
  readonly sets: readonly { readonly path: string; readonly value: number }[];
  /** A block of another kind that it brings. */
  readonly kind?: { readonly slot: Slot; readonly kind: string };
  /** Why it cannot be had; null where it can. */
  readonly not: string | null;
}

/** The rig with a remedy in it, as one edit. */
export function contained(rig: Rig, { kind, sets }: Pick<Remedy, 'kind' | 'sets'>): Rig {
  const block = kind && blockIn(rig, kind.slot);
  const other = kind && block ? blockDefinition(kind.slot, kind.kind) : null;
  const with_ =
    kind && block && other ? withBlock(rig, kind.slot, changeKind(block, blockDefinition(kind.slot, block.kind), other)) : rig;
  return sets.reduce((made, { path, value }) => {
    const at = quantityAt<string>(made, path);
    const typed = typedAt<string>(made, path, value);
    if (!at || !typed) return made;
    const own = blockIn(made, at.spot);
    return withBlock(made, at.spot, { ...own, fields: { ...own.fields, [at.id]: typed } });
  }, with_);
}
