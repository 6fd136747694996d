import { readFileSync } from 'node:fs';
import { readRigFile } from '../format/index.ts';
import { newRig, spotAt, withBlock, blockIn, type Rig, type Spot } from '../rig/index.ts';
import { blockDefinition } from '../kind/index.ts';
import { readQuantityText } from '../field/index.ts';

/** A rig of the demo workshop. */
export function demoRig(name: 'anvil' | 'cricket' | 'kittiwake' | 'shuttle' | 'thimble'): Rig {
  const read = readRigFile(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.document.rig;
}

/** A rig with some fields typed over: `{ 'store.C': '30 µF' }`; a choice is given as its value; `load@2.at` is of the second channel. */
export function rigWith(typed: Readonly<Record<string, string>>, from: Rig = newRig()): Rig {
  return Object.entries(typed).reduce((rig, [path, text]) => {
    const [spot, field = ''] = path.split('.') as [Spot, string];
    const { slot } = spotAt(spot);
    const block = blockIn(rig, spot);
    if (field === 'kind')
      return withBlock(rig, spot, {
        kind: text,
        fields: Object.fromEntries(Object.keys(blockDefinition(slot, text).fields).map((id) => [id, block.fields[id] ?? null])),
      });
    const spec = blockDefinition(slot, block.kind).fields[field];
    if (!spec) throw new Error(`no field ${path}`);
    if (spec.type !== 'quantity') return withBlock(rig, spot, { ...block, fields: { ...block.fields, [field]: text } });
    const read = readQuantityText(spec, text);
    if (!read.ok) throw new Error(`${path} ${read.reason}`);
    return withBlock(rig, spot, { ...block, fields: { ...block.fields, [field]: read.value } });
  }, from);
}
