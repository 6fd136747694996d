// Writes the published JSON Schema of the rig file from the one the program checks by, and from the registry of kinds their page and the
// table of desks in docs/pages.md:
// npm run schema
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { desksTable, kindsTable } from '../core/kind/index.ts';
import { rigFileJsonSchema } from '../core/format/index.ts';

const folder = new URL('../docs/schema/', import.meta.url);
mkdirSync(folder, { recursive: true });
writeFileSync(new URL('rig-file.json', folder), `${JSON.stringify(rigFileJsonSchema(), null, 2)}\n`);

const kinds = `# Kinds of blocks

Every kind that a place of a rig may have. This page is written from their registry (\`npm run schema\`); fields, units and ranges stand in
[schema/rig-file.json](schema/rig-file.json), what each number was checked against in [evidence.md](evidence.md), how a new one comes in in
[add-a-kind.md](add-a-kind.md).

${kindsTable()}
`;
writeFileSync(new URL('../docs/kinds.md', import.meta.url), kinds);

const pages = new URL('../docs/pages.md', import.meta.url);
const between = /(<!-- desks: npm run schema -->\n)[\s\S]*?(\n<!-- end -->)/;
const old = readFileSync(pages, 'utf8');
if (!between.test(old)) throw new Error('docs/pages.md has no place for the table of desks');
writeFileSync(
  pages,
  old.replace(between, (_, head: string, foot: string) => `${head}\n${desksTable('screenshots')}\n${foot}`),
);
