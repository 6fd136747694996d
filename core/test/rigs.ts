import { readFileSync } from 'node:fs';
import { readRigFile } from '../format/index.ts';
import { newRig, withBlock, blockIn, type Rig } from '../rig/index.ts';
import { type Slot } from '../block/index.ts';
import { blockDefinition } from '../kind/index.ts';
import { readQuantityText } from '../field/index.ts';

/** A rig of the demo workshop. */
export function demoRig(name: 'anvil' | 'cricket' | 'kittiwake' | 'shuttle' | 'thimble'): Rig {
  const read = readRigFile(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.document.rig;
}

/** A rig with some fields typed over: `{ 'store.C': '30 µF' }`; a choice is given as its value. */
export function rigWith(typed: Readonly<Record<string, string>>, from: Rig = newRig()): Rig {
  return Object.entries(typed).reduce((rig, [path, text]) => {
    const [slot, field = ''] = path.split('.') as [Slot, string];
    const block = blockIn(rig, slot);
    if (field === 'kind')
      return withBlock(rig, slot, {
        kind: text,
        fields: Object.fromEntries(Object.keys(blockDefinition(slot, text).fields).map((id) => [id, block.fields[id] ?? null])),
      });
    const spec = blockDefinition(slot, block.kind).fields[field];
    if (!spec) throw new Error(`no field ${path}`);
    if (spec.type !== 'quantity') return withBlock(rig, slot, { ...block, fields: { ...block.fields, [field]: text } });
    const read = readQuantityText(spec, text);
    if (!read.ok) throw new Error(`${path} ${read.reason}`);
    return withBlock(rig, slot, { ...block, fields: { ...block.fields, [field]: read.value } });
  }, from);
}
