// Writes the published JSON Schema of the rig file from the one the program checks by: npm run schema
import { mkdirSync, writeFileSync } from 'node:fs';
import { rigFileJsonSchema, rigFileVersion } from '../core/format/index.ts';

const folder = new URL('../docs/schema/', import.meta.url);
mkdirSync(folder, { recursive: true });
writeFileSync(new URL(`rig-file-${rigFileVersion}.json`, folder), `${JSON.stringify(rigFileJsonSchema(), null, 2)}\n`);
