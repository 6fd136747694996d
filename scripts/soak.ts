// npm run soak -- 1000: that many bursts of edits with kills, and fifty fuzzed bodies for each, on this machine alone.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { newPart } from '../core/part/index.ts';
import { newDocument } from '../core/rig/index.ts';
import { insertParts } from '../server/db/parts.ts';
import { insertRig } from '../server/db/rigs.ts';
import { createApp } from '../server/http/app.ts';
import { fuzz } from '../server/test/fuzz.ts';
import { soak, soakWords } from '../server/test/soak.ts';
import { testDatabase } from '../server/test/database.ts';

const bursts = Number(process.argv[2] ?? 200);
if (!Number.isInteger(bursts) || bursts < 1 || bursts > 100_000) {
  process.stderr.write('soak: the number of bursts must be a whole number from 1 to 100000\n');
  process.exit(2);
}
const seed = Number(process.argv[3] ?? Date.now() % 2 ** 31);
process.stdout.write(`seed ${seed}\n`);
const result = await soak({ bursts, seed });
process.stdout.write(`${soakWords(result)}\n`);

// The bodies go to a server of their own over a cluster of their own.
const folder = mkdtempSync(join(tmpdir(), 'surge-fuzz-'));
chmodSync(folder, 0o711);
const cluster = (verb: string) =>
  execFileSync(new URL('cluster.sh', import.meta.url).pathname, [verb, folder], { encoding: 'utf8' }).trim();
process.env['DATABASE_URL'] = cluster('start');
const database = await testDatabase();
const rigId = randomUUID();
await insertRig(database.pool, rigId, newDocument('Target'));
const partId = randomUUID();
await insertParts(database.pool, [{ id: partId, part: newPart('capacitor', 'Target', 'T-1') }]);
const server = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'soak', rate: 1e9 }).listen(
  0,
  '127.0.0.1',
);
await new Promise((resolve) => server.once('listening', resolve));
const fuzzed = await fuzz(`http://127.0.0.1:${(server.address() as AddressInfo).port}`, { rigId, partId }, bursts * 50, seed);
server.closeAllConnections();
server.close();
await database.drop();
cluster('stop');
rmSync(folder, { recursive: true, force: true });
process.stdout.write(
  `${fuzzed.sent} fuzzed bodies: ${fuzzed.bad.length} bad answers, by status ${JSON.stringify(fuzzed.byStatus)}\n`,
);
for (const one of fuzzed.bad.slice(0, 5)) process.stdout.write(`  ${JSON.stringify(one)}\n`);
process.exit(result.lost + result.doubled + result.unasked + fuzzed.bad.length > 0 ? 1 : 0);
