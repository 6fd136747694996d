import { fieldGroups, type BlockField, type FieldGroup } from '../field/index.ts';
import type { BlockDefinition } from '../block/index.ts';
import { isInForce, type Block } from './schema.ts';

export const groupTitles: { readonly [G in FieldGroup]: string } = {
  essentials: 'Essentials',
  moving: 'Projectile',
  geometry: 'Geometry, losses and strays',
  ratings: 'Ratings',
  protection: 'Protection',
  life: 'Life',
};

/** Fields that name no group are essentials, as many as are looked at together; the others are details. */
const mostEssentials = 6;

export interface GroupOfFields {
  readonly group: FieldGroup;
  readonly title: string;
  readonly fields: readonly (readonly [id: string, field: BlockField])[];
  /** How many are empty and wanted, and how many nobody typed: they are what is usual. */
  readonly missing: number;
  readonly assumed: number;
  /** How many hold something. */
  readonly entered: number;
}

/** The fields of a block that are in force as it is set, in groups; a group without any is left out. */
export function groupsOf(definition: BlockDefinition, block: Block): GroupOfFields[] {
  const inForce = Object.entries(definition.fields).filter(([, field]) => isInForce(block, field));
  let room = mostEssentials - inForce.filter(([, { group }]) => group === 'essentials').length;
  const grouped = inForce.map(([id, field]) => {
    const group: FieldGroup = field.group ?? (room-- > 0 ? 'essentials' : 'geometry');
    return { id, field, group };
  });
  return fieldGroups.flatMap((group) => {
    const fields = grouped.filter((one) => one.group === group).map(({ id, field }) => [id, field] as const);
    if (fields.length === 0) return [];
    const values = fields.map(([id]) => block.fields[id]);
    const empty = values.filter((value) => value === null || value === undefined || value === '').length;
    return {
      group,
      title: groupTitles[group],
      fields,
      // What protects is put in or not: without it nothing is unknown.
      missing: group === 'protection' ? 0 : empty,
      entered: values.length - empty,
      assumed: values.filter((value) => typeof value === 'object' && value?.from === 'default').length,
    };
  });
}
