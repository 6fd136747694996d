import { blockDefinition } from '@vast-surge/core/kind';
import { blockIn, quantityAt, spotAt, spotsOf, type Rig, type Spot } from '@vast-surge/core/rig';

export interface FieldChoice {
  readonly path: string;
  readonly title: string;
  readonly spot: Spot;
}

const known = new WeakMap<Rig, readonly FieldChoice[]>();

/** Every quantity of a rig that has a value, in the order of the line. */
export function fieldsOf(rig: Rig): readonly FieldChoice[] {
  const before = known.get(rig);
  if (before) return before;
  const made = spotsOf(rig).flatMap((spot) => {
    const { kind } = blockIn(rig, spot);
    return Object.entries(blockDefinition(spotAt(spot).slot, kind).fields).flatMap(([id, field]): FieldChoice[] => {
      const path = `${spot}.${id}`;
      return field.type === 'quantity' && quantityAt<string>(rig, path)?.value ? [{ path, title: field.title, spot }] : [];
    });
  });
  known.set(rig, made);
  return made;
}
