// npm run soak -- 1000: that many kills while edits, backups and restores go on, and a hundred fuzzed bodies for each, on this machine alone.
import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { newPart } from '../core/part/index.ts';
import { newDocument } from '../core/rig/index.ts';
import { insertParts } from '../server/db/parts.ts';
import { insertRig } from '../server/db/rigs.ts';
import { createApp } from '../server/http/app.ts';
import { fuzz } from '../server/test/fuzz.ts';
import { soak, soakWords } from '../server/test/soak.ts';
import { throwAwayCluster } from '../server/test/cluster.ts';
import { testDatabase } from '../server/test/database.ts';

const kills = Number(process.argv[2] ?? 100);
if (!Number.isInteger(kills) || kills < 1 || kills > 100_000) {
  process.stderr.write('soak: the number of kills must be a whole number from 1 to 100000\n');
  process.exit(2);
}
const seed = Number(process.argv[3] ?? Date.now() % 2 ** 31);
process.stdout.write(`seed ${seed}\n`);
const result = await soak({ kills, seed });
process.stdout.write(`${soakWords(result)}\n`);

// The bodies go to a server of their own over a cluster of their own.
const endCluster = throwAwayCluster();
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
const fuzzed = await fuzz(`http://127.0.0.1:${(server.address() as AddressInfo).port}`, { rigId, partId }, kills * 100, seed);
server.closeAllConnections();
server.close();
await database.drop();
endCluster();
process.stdout.write(
  `${fuzzed.sent} fuzzed bodies: ${fuzzed.bad.length} bad answers, by status ${JSON.stringify(fuzzed.byStatus)}\n`,
);
for (const one of fuzzed.bad.slice(0, 5)) process.stdout.write(`  ${JSON.stringify(one)}\n`);
for (const one of result.bad) process.stdout.write(`  ${one}\n`);
process.exit(result.lost + result.doubled + result.unasked + result.bad.length + fuzzed.bad.length > 0 ? 1 : 0);
