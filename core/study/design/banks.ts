import { blockDefinition, withBank, type Block } from '../../kind/index.ts';
import { compose, partIdOf, piecesOf, type Kept, type Piece } from '../../part/index.ts';
import type { Slot } from '../../block/index.ts';
import { assumed } from '../../evaluation/index.ts';
import { textOf } from '../../field/index.ts';
import { ProgramError } from '../../formula/index.ts';
import { blockIn, withBlock, type Rig, type Spot } from '../../rig/index.ts';
import type { ShelfBank } from './goal.ts';
import { capacitorClass, type CapacitorClass } from './stock.ts';

/** Capacitors of the shelf that are alike: a bank is made of one family. */
export interface Family {
  readonly title: string;
  readonly ids: readonly string[];
  readonly pieces: readonly Piece[];
  /** F, the mean; and V, the lowest limit. */
  readonly C: number;
  readonly V: number;
}

const inFamily = ({ part }: Kept): string => `${part.name}\n${String(part.fields['dielectric'] ?? '')}`;

/** The capacitors of the shelf by families, the one with the most energy first. What was not found good is left out. */
export function familiesOf(shelf: readonly Kept[]): Family[] {
  const all = new Map<string, { kept: Kept[]; pieces: Piece[] }>();
  for (const kept of shelf) {
    if (kept.part.kind !== 'capacitor' || kept.part.condition !== 'good') continue;
    const made = piecesOf(kept);
    if (!made.ok) continue;
    const family = all.get(inFamily(kept)) ?? { kept: [], pieces: [] };
    all.set(inFamily(kept), { kept: [...family.kept, kept], pieces: [...family.pieces, ...made.pieces] });
  }
  const energy = ({ pieces, V }: Family) => pieces.length * V ** 2 * (pieces[0]?.capacitance ?? 0);
  return [...all.values()]
    .map(({ kept, pieces }) => ({
      title: kept[0]?.part.name ?? '',
      ids: kept.map(({ id }) => id),
      pieces,
      C: pieces.reduce((sum, { capacitance }) => sum + capacitance, 0) / pieces.length,
      V: Math.min(...pieces.map(({ rating }) => rating)),
    }))
    .sort((a, b) => energy(b) - energy(a));
}

/** So many of a family in series, and in how many strings: all that there are, and fewer by halves. */
export function banksOf(family: Family, ns: number): ShelfBank[] {
  const most = Math.floor(family.pieces.length / ns);
  const strings: number[] = [];
  for (let np = most; np >= 1; np = Math.floor(np / 1.5)) strings.push(np);
  return strings.map((np) => ({
    from: 'shelf',
    title: family.title,
    ids: family.ids,
    ns,
    np,
    C: (family.C * np) / ns,
    V: family.V * ns,
  }));
}

/** A block with fields set, each assumed: nobody typed them. */
export function withAssumed(block: Block, slot: Slot, values: Readonly<Record<string, number | string>>): Block {
  const { fields } = blockDefinition(slot, block.kind);
  const set = Object.entries(values).map(([id, value]) => [id, assumed(fields[id], `${slot}.${id}`, value)] as const);
  return { ...block, fields: { ...block.fields, ...Object.fromEntries(set) } };
}

/** The same with a tolerance behind a value, as a fraction to both sides. */
export function withSpread(block: Block, id: string, spread: number): Block {
  const value = block.fields[id];
  if (typeof value !== 'object' || value === null)
    throw new ProgramError(`a design gives ${id} a tolerance, and it has no value`);
  const tolerance = { minus: spread, plus: spread };
  return { ...block, fields: { ...block.fields, [id]: { ...value, tolerance, text: textOf({ ...value, tolerance }, 'F') } } };
}

/** A bank of the shelf in the place of a rig’s store: assigned as the composer does, of pieces that other channels have left. */
export function withShelfBank(
  rig: Rig,
  spot: Spot,
  bank: ShelfBank,
  shelf: readonly Kept[],
  left: readonly Piece[] = piecesOfBank(bank, shelf),
): { readonly rig: Rig; readonly left: readonly Piece[]; readonly usable: number; readonly capacitance: number } | null {
  if (left.length < bank.ns * bank.np) return null;
  const { bank: judged, spares } = compose(left, bank.ns, bank.np);
  const block = blockIn(rig, spot);
  const parts = new Map(shelf.map(({ id, part }) => [id, part]));
  const made = withBank(block, blockDefinition('store', block.kind), {
    bank: judged,
    parts,
    partId: (piece) => partIdOf(piece as Piece),
  });
  return {
    rig: withBlock(rig, spot, made),
    left: spares,
    usable: judged.worstUsableVoltage,
    capacitance: judged.capacitance,
  };
}

export const piecesOfBank = (bank: ShelfBank, shelf: readonly Kept[]): Piece[] =>
  shelf
    .filter(({ id }) => bank.ids.includes(id))
    .flatMap((kept) => {
      const made = piecesOf(kept);
      return made.ok ? made.pieces : [];
    });

/** A bank of more is none that anybody builds. */
const mostPieces = 400;

/** How a class makes a bank of F at V: pieces in series, strings, and F of one; null where it would take too many. */
function arranged(of: CapacitorClass, C: number, V: number, margin: number): { ns: number; np: number; one: number } | null {
  // One at the bottom of its label and all others at the top: it takes the most.
  const others = (1 - of.spread) / (1 + of.spread);
  const share = (n: number) => 1 / (1 + (n - 1) * others);
  let ns = 1;
  while (ns <= mostPieces && V * (1 + margin) * 1.02 * share(ns) > of.Vmax) ns += 1;
  const np = Math.max(1, Math.ceil((C * ns) / of.Cmax));
  return ns * np > mostPieces ? null : { ns, np, one: (C * ns) / np };
}

/** A bank that is bought in the place of a rig’s store. Its ratings are chosen when the stresses are known. */
export function withStockBank(rig: Rig, spot: Spot, id: string, C: number, V: number, margin: number): Rig | null {
  const of = capacitorClass(id);
  const made = arranged(of, C, V, margin);
  if (!made) return null;
  const block = blockIn(rig, spot);
  const { ns, np, one } = made;
  const fields = {
    C: Number(one.toPrecision(3)),
    ns,
    np,
    ESR: Number((of.lead + of.loss / one).toPrecision(2)),
    ESL: of.ESL,
    Ri: Number((of.holds / one).toPrecision(2)),
    polarity: of.isPolar ? 'polar' : 'non-polar',
    dielectric: of.dielectric,
  };
  return withBlock(rig, spot, withSpread(withAssumed(block, 'store', fields), 'C', of.spread));
}
