// Writes the published JSON Schema of the rig file from the one the program checks by: npm run schema
import { mkdirSync, writeFileSync } from 'node:fs';
import { rigFileJsonSchema } from '../core/format/index.ts';

const folder = new URL('../docs/schema/', import.meta.url);
mkdirSync(folder, { recursive: true });
writeFileSync(new URL('rig-file.json', folder), `${JSON.stringify(rigFileJsonSchema(), null, 2)}\n`);
