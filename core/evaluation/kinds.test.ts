import { describe, expect, test } from 'vitest';
import { slots, type BlockDefinition, type FigureId } from '../block/index.ts';
import { readNetlist } from '../circuit/index.ts';
import { initialValue, readQuantityText, textOf, type FieldValue } from '../field/index.ts';
import { figureSpecs, ifKnown, RigReading } from '../figure/index.ts';
import { blockDefinition, blockDefinitions, changeKind, checkPath, newBlock, type Block } from '../kind/index.ts';
import { partKinds } from '../part/index.ts';
import { blockIn, newRig, withBlock, type Rig } from '../rig/index.ts';
import { sceneNetlist } from '../simulate/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';

/** Rigs that a kind may stand in: one suits a coil, another a Marx, a third a tank. */
const bases = [
  newRig(),
  ...(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const).map(demoRig),
  // A charger that stays connected, and a tank on ac.
  rigWith({ 'charging.firing': 'connected' }, demoRig('anvil')),
  rigWith(
    {
      'supply.kind': 'ac-transformer',
      'supply.V': '6 kV',
      'supply.f': '50 Hz',
      'supply.impedance': 'short-circuit',
      'supply.Isc': '25 mA',
      'supply.Rw': '4 kΩ',
      'charging.kind': 'direct',
      'charging.R': '10 Ω',
      'charging.firing': 'connected',
    },
    demoRig('cricket'),
  ),
];
/** What an empty field is filled with, as a share of the greatest it takes. */
const shares = [0.1, 1e-3, 1e-6];

/** A block with its empty quantities filled, as far as they then count. */
function filled(definition: BlockDefinition, block: Block, share: number): Block {
  const fields = Object.fromEntries(
    Object.entries(definition.fields).map(([id, spec]): [string, FieldValue] => {
      const now = block.fields[id] ?? null;
      if (now !== null || spec.type !== 'quantity') return [id, now];
      const read = readQuantityText(spec, textOf({ value: Math.max(spec.min, spec.max * share) }, spec.unit));
      return [id, read.ok ? read.value : null];
    }),
  );
  return { ...block, fields };
}

/** The block as it begins, and with every choice of it at every value, one at a time. */
function variants(definition: BlockDefinition, block: Block): Block[] {
  const chosen = Object.entries(definition.fields).flatMap(([id, spec]) =>
    spec.type === 'choice' ? spec.options.map(({ value }) => ({ ...block, fields: { ...block.fields, [id]: value } })) : [],
  );
  return [block, ...chosen];
}

/** Rigs in which a kind stands: in each base, as it is there or new, empty and filled. */
const rigsWith = (definition: BlockDefinition): Rig[] =>
  bases.flatMap((base) => {
    const there = blockIn(base, definition.slot);
    const block =
      there.kind === definition.kind ? there : changeKind(there, blockDefinition(definition.slot, there.kind), definition);
    const filledIn = (rig: Rig, share: number): Rig =>
      slots.reduce((made, slot) => {
        const now = blockIn(made, slot);
        return withBlock(made, slot, filled(blockDefinition(slot, now.kind), now, share));
      }, rig);
    return variants(definition, block).flatMap((variant) => {
      const rig = withBlock(base, definition.slot, variant);
      return [rig, ...shares.map((share) => filledIn(rig, share))];
    });
  });

const named = blockDefinitions.map((definition) => [`${definition.slot}/${definition.kind}`, definition] as const);
const partKindOf = new Map(partKinds.map((kind) => [kind.kind, kind]));

describe.each(named)('%s', (_name, definition) => {
  test('declares fields that a form can be drawn from, and takes what its part has', () => {
    for (const [id, spec] of Object.entries(definition.fields)) {
      expect(spec.title.trim(), id).not.toBe('');
      if (spec.type === 'quantity') {
        expect(spec.symbol, id).not.toBe('');
        expect(spec.min, id).toBeLessThan(spec.max);
        expect(spec.initial !== null || spec.optional, `${id}: a new block needs a value or may be without`).toBe(true);
        expect(() => initialValue(spec), id).not.toThrow();
      }
      if (spec.onlyWith) expect(definition.fields[spec.onlyWith.choice]?.type, id).toBe('choice');
    }
    if (!definition.takes) return;
    const part = partKindOf.get(definition.takes.part);
    expect(part, definition.takes.part).toBeDefined();
    // Beside its fields and readings a capacitor has a dc limit by the school that was chosen.
    const measured = (part?.measures ?? []).flatMap(({ field, gives: by }) => field ?? by ?? []);
    const gives = [...Object.keys(part?.fields ?? {}), ...measured, 'Vdc'];
    for (const [field, of] of Object.entries(definition.takes.fields)) {
      expect(definition.fields[field]?.type, field).toBe('quantity');
      expect(gives, `${field} of ${String(of)}`).toContain(of);
    }
  });

  test('keeps what it was when it becomes another kind and then this again', () => {
    const block = newBlock(definition);
    for (const other of blockDefinitions.filter((d) => d.slot === definition.slot)) {
      const back = changeKind(changeKind(block, definition, other), other, definition);
      expect(back).toEqual(block);
    }
  });

  test('has figures that all come to a number in some rig, and limits that are all judged where the ratings are filled', () => {
    const figures = new Set<FigureId>((definition.figures ?? []).map(({ id }) => id));
    const limits = new Map((definition.limits ?? []).map((limit) => [limit.id, limit]));
    for (const limit of limits.values()) for (const lever of limit.levers) expect(() => checkPath(lever)).not.toThrow();
    for (const rig of rigsWith(definition)) {
      if (figures.size === 0 && limits.size === 0) break;
      const reading = new RigReading(rig);
      for (const id of figures) {
        const known = ifKnown(() => reading.figure(id).value);
        if (known === null) continue;
        expect(Number.isNaN(known), id).toBe(false);
        expect(figureSpecs(rig).get(id)?.slot, id).toBeDefined();
        figures.delete(id);
      }
      for (const [id, limit] of limits) {
        const judged = ifKnown(() => {
          const rating = limit.rating(reading);
          return rating && { stress: limit.stress(reading), rating };
        });
        if (!judged) continue;
        // A stress is held against a rating of its own unit.
        expect(judged.stress.unit, id).toBe(judged.rating.unit);
        limits.delete(id);
      }
    }
    expect([...figures, ...limits.keys()], 'no rig tried has these').toEqual([]);
  });

  test('becomes a circuit that is read back as it was written', () => {
    let read = 0;
    for (const base of bases) {
      const there = blockIn(base, definition.slot);
      const block =
        there.kind === definition.kind ? there : changeKind(there, blockDefinition(definition.slot, there.kind), definition);
      const rig = withBlock(base, definition.slot, block);
      for (const scene of ['charge', 'discharge', 'bleed', 'dump'] as const) {
        const text = sceneNetlist(rig, 'rig', scene);
        if (text === null) continue;
        const back = readNetlist(text);
        expect(back.ok ? [] : back.issues, `${scene}: ${text.slice(0, 200)}`).toEqual([]);
        read += 1;
      }
    }
    expect(read).toBeGreaterThan(0);
  });
});
