import { readFileSync } from 'node:fs';
import { readRigFile } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';

/** A rig of the demo workshop as the page has it. */
export function demoDocument(name: 'anvil' | 'cricket' | 'kittiwake' | 'shuttle' | 'thimble'): RigDocument {
  const read = readRigFile(readFileSync(`demo/${name}.json`, 'utf8'));
  if (!read.ok) throw new Error(`${name} cannot be read`);
  return read.document;
}
