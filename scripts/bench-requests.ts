import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { pino } from 'pino';
import { createApp } from '../server/http/app.ts';
import { throwAwayCluster } from '../server/test/cluster.ts';
import { testDatabase } from '../server/test/database.ts';
import { hostileBodies } from '../server/test/hostile.ts';

/** ms of the event loop that one request of ten megabytes may take. */
const allowed = 1000;

/** How long bodies that are small to send hold the server, against what parsing them alone takes and against what is allowed. */
export async function benchRequests(): Promise<string[]> {
  const endCluster = throwAwayCluster();
  const database = await testDatabase();
  const server = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'bench', rate: 1e9 }).listen(
    0,
    '127.0.0.1',
  );
  await new Promise((resolve) => server.once('listening', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const lines = ['Small requests, the longest time the server did nothing else'];
  for (const { title, path, body } of hostileBodies) {
    const text = body();
    const began = performance.now();
    try {
      JSON.parse(text);
    } catch {
      // Only its time counts.
    }
    const parsing = performance.now() - began;
    const delay = monitorEventLoopDelay({ resolution: 2 });
    delay.enable();
    await fetch(address + path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
      body: text,
    }).then((answer) => answer.arrayBuffer());
    await new Promise((resolve) => setTimeout(resolve, 20));
    delay.disable();
    const held = delay.max / 1e6;
    lines.push(
      `  ${title} (${(text.length / 1e6).toFixed(1)} MB): ${(held / Math.max(1, parsing)).toFixed(1)} times parsing it, ${(held / allowed).toFixed(2)} of the second that is allowed`,
    );
  }
  server.closeAllConnections();
  server.close();
  await database.drop();
  endCluster();
  return lines;
}
