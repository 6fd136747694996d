import { printQuantity } from '@vast-surge/core/quantity';
import { fieldName, type Rig } from '@vast-surge/core/rig';
import type { MeasuredField } from '@vast-surge/core/shot';

/** What measured values would change in a rig, field by field. */
export function MeasuredFields({ rig, fields }: { rig: Rig; fields: readonly MeasuredField[] }) {
  return fields.map((f) => (
    <p key={f.path} className="text-15">
      {fieldName(rig, f.path)}: {f.was === null ? 'not known' : printQuantity(f.was, f.unit)} →{' '}
      {f.refused === null ? <b className="figure">{printQuantity(f.value, f.unit)}</b> : `not taken, ${f.refused}`}
    </p>
  ));
}
