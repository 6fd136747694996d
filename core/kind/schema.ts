import { z } from 'zod';
import type { BlockDefinition } from '../block/define.ts';
import { fieldSchema, initialValue, type BlockField, type FieldValue } from '../field/index.ts';
import { kindsOf } from './registry.ts';
import type { Slot } from '../block/names.ts';
import { partRefsSchema, type PartRef } from '../block/part-ref.ts';

/** A block as a rig keeps it: its kind and its fields, canonical. */
export interface Block {
  readonly kind: string;
  readonly fields: Readonly<Record<string, FieldValue>>;
  /** Parts of the bench that it stands on. */
  readonly parts?: readonly PartRef[];
}

const blockOfKind = (definition: BlockDefinition, keeps: (field: BlockField) => boolean = () => true) =>
  z.strictObject({
    kind: z.literal(definition.kind),
    fields: z
      .strictObject(
        Object.fromEntries(
          Object.entries(definition.fields).flatMap(([id, field]) => (keeps(field) ? [[id, fieldSchema(field)]] : [])),
        ),
      )
      .prefault({}),
    parts: partRefsSchema.optional(),
  });

/** The file schema of a slot: one of the kinds registered for it. */
export const blockSchema = (slot: Slot) => schemaOf(kindsOf(slot), (definition) => blockOfKind(definition));

/** The file schema of the load in a channel behind the first: a kind that takes such channels, without what stands once. */
export const furtherLoadSchema = () =>
  schemaOf(
    kindsOf('load').filter((definition) => definition.channels),
    (definition) => blockOfKind(definition, (field) => !field.once),
  );

function schemaOf(definitions: readonly BlockDefinition[], of: (definition: BlockDefinition) => ReturnType<typeof blockOfKind>) {
  const [first, ...rest] = definitions.map(of);
  if (!first) throw new Error('no kind is registered for a place of the rig');
  return z
    .discriminatedUnion('kind', [first, ...rest], {
      error: (issue) =>
        issue.code === 'invalid_union' ? `kind must be one of ${definitions.map((d) => d.kind).join(', ')}` : undefined,
    })
    .transform((block) => block as Block);
}

/** A block of a kind with every field at its initial value. */
export const newBlock = (definition: BlockDefinition): Block => ({
  kind: definition.kind,
  fields: Object.fromEntries(Object.entries(definition.fields).map(([id, field]) => [id, initialValue(field)])),
});

/** Whether a field counts as the choices of its block stand. */
export const isInForce = (block: Block, { onlyWith }: BlockField): boolean =>
  onlyWith === undefined || onlyWith.values.includes(String(block.fields[onlyWith.choice]));

/**
 * Another kind in the same slot: fields that both kinds have under one id, unit and type are kept. What one instrument bears is not: the
 * next is another instrument, and a limit that nobody typed for it would be believed.
 */
export function changeKind(block: Block, from: BlockDefinition, to: BlockDefinition): Block {
  const kept = Object.entries(to.fields).filter(([id, field]) => {
    const old = from.fields[id];
    if (old?.type !== 'quantity' || field.type !== 'quantity' || field.ofOneThing) return false;
    return old.unit === field.unit && old.title === field.title;
  });
  return {
    kind: to.kind,
    fields: { ...newBlock(to).fields, ...Object.fromEntries(kept.map(([id]) => [id, block.fields[id] ?? null])) },
  };
}
