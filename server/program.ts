import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/**
 * What the calculation is made of, as one short text: numbers that were stored by another one are worked out anew. A version number alone
 * would miss a formula that was mended without one.
 */
export function programId(version: string): string {
  const hash = createHash('sha256');
  const files = readdirSync(`${root}core`, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !name.includes('.test.') && !name.includes('node_modules'))
    .sort();
  for (const name of files) hash.update(name).update(readFileSync(`${root}core/${name}`));
  return `${version}+${hash.digest('hex').slice(0, 12)}`;
}
