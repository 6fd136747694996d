import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Witnessed } from '../evidence/index.ts';

/** What tests have held against something outside, for the book of evidence, until it is written. */
export const seen: Witnessed[] = [];

/** Where a run of the tests leaves what it saw; without it nothing is kept. */
const folder = process.env['EVIDENCE_TO'];

/** Writes what has been seen since the last time; called at the end of each file of tests. */
export function keepSeen(): void {
  if (folder === undefined || seen.length === 0) return;
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, `${process.pid}-${process.hrtime.bigint()}.json`), JSON.stringify(seen.splice(0)));
}
