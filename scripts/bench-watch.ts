import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { pino } from 'pino';
import { addressOf } from '../server/db/pool.ts';
import { newDocument } from '../core/rig/index.ts';
import { insertRig } from '../server/db/rigs.ts';
import { loadDemo } from '../server/db/demo.ts';
import { createApp } from '../server/http/app.ts';
import { RigHeads } from '../server/jobs/heads.ts';
import { Live } from '../server/live.ts';
import { throwAwayCluster } from '../server/test/cluster.ts';
import { testDatabase } from '../server/test/database.ts';

/** What a device does: holds a line open, or asks again and again. In a process of its own, so that the server's time is its own. */
const devices = `
const http = require('node:http');
const agent = new http.Agent({ keepAlive: true, maxSockets: 1000 });
const ask = (url) => new Promise((done) => http.get(url, { agent }, (res) => { res.resume(); res.on('end', done); }).on('error', done));
process.on('message', async ({ url, lines, seconds }) => {
  if (lines > 0) {
    let heard = 0;
    const open = Array.from({ length: lines }, () => http.get(url, { agent: false }, (res) => res.on('data', () => heard++)).on('error', () => undefined));
    setTimeout(() => process.send('open'), 2000);
    setTimeout(() => { open.forEach((line) => line.destroy()); process.send(heard); }, 2000 + seconds * 1000);
    return;
  }
  const until = Date.now() + seconds * 1000;
  let asked = 0;
  await Promise.all(Array.from({ length: 8 }, async () => { while (Date.now() < until) { await ask(url); asked++; } }));
  process.send(asked);
});
`;

const listening = async (server: Server): Promise<string> => {
  await new Promise((resolve) => server.once('listening', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
};

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

interface Told {
  /** What the devices counted, and CPU-seconds of this process meanwhile. */
  readonly count: number;
  readonly cpu: number;
}

async function watched(child: ChildProcess, what: { url: string; lines: number; seconds: number }): Promise<Told> {
  const next = () => new Promise<unknown>((resolve) => child.once('message', resolve));
  const first = next();
  child.send(what);
  // Opening a line is done once a day: what it costs while it stands is what counts.
  if (what.lines > 0) await first;
  const before = process.cpuUsage();
  const count = Number(await (what.lines > 0 ? next() : first));
  const { user, system } = process.cpuUsage(before);
  return { count, cpu: (user + system) / 1e6 };
}

/** What 100 lines cost beside 10 while a run is written down, and what a list costs beside a plain route with the same answer. */
export async function benchWatch(): Promise<string[]> {
  const endCluster = throwAwayCluster();
  const database = await testDatabase();
  await loadDemo(database.pool);
  const live = new Live(addressOf(database.pool), database.pool);
  const heads = new RigHeads(database.pool, 'bench');
  const server = createApp({
    db: database.pool,
    log: pino({ level: 'silent' }),
    version: 'bench',
    rate: 1e9,
    live,
    heads,
  }).listen(0, '127.0.0.1');
  const base = await listening(server);
  const child = spawn(process.execPath, ['-e', devices], { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
  // The first look works the numbers of the list out; what is timed is a list as it is asked for all day.
  while (((await (await fetch(`${base}/api/rigs`)).json()) as { rows: { figures?: unknown }[] }).rows.length === 0)
    await pause(200);
  await pause(5000);

  const post = (path: string, body: object) =>
    fetch(`${base}/api${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
      body: JSON.stringify(body),
    });
  const [run, rigId] = [randomUUID(), randomUUID()];
  await insertRig(database.pool, rigId, newDocument('Watched'));
  await post('/runs', { id: run, rigId, version: 1, rehearsal: { seed: 1, speed: 1, faults: [] } });
  const writesFor = async (seconds: number) => {
    for (let n = 0; n < seconds * 5; n++) {
      const event = { id: randomUUID(), at: Date.now(), screen: 'desk', type: 'noted', text: 'a step' };
      await post(`/runs/${run}/events`, { events: [event] });
      await pause(200);
    }
  };
  const lines: Record<number, number[]> = { 0: [], 10: [], 100: [] };
  for (let round = 0; round < 3; round++)
    for (const n of [0, 10, 100]) {
      const seconds = 8;
      const writing = writesFor(seconds);
      const { cpu } = n === 0 ? await idle(seconds) : await watched(child, { url: `${base}/api/live`, lines: n, seconds });
      await writing;
      lines[n]?.push(cpu);
    }
  const middle = (n: number) => lines[n]?.sort((a, b) => a - b)[1] ?? NaN;

  const answer = await (await fetch(`${base}/api/rigs`)).text();
  const plain = express()
    .get('/', (_req, res) => void res.type('json').send(answer))
    .listen(0, '127.0.0.1');
  const plainAt = await listening(plain);
  const perSecond = async (url: string) => {
    const { count, cpu } = await watched(child, { url, lines: 0, seconds: 4 });
    return count / cpu;
  };
  const rates: { list: number; plain: number }[] = [];
  await perSecond(`${base}/api/rigs`);
  for (let round = 0; round < 3; round++)
    rates.push({ plain: await perSecond(`${plainAt}/`), list: await perSecond(`${base}/api/rigs`) });
  const ratio = rates.map(({ list, plain: bare }) => bare / list).sort((a, b) => a - b)[1] ?? NaN;
  const share = rates.map(({ list }) => list).sort((a, b) => a - b)[1] ?? NaN;

  child.disconnect();
  await live.close();
  await heads.close();
  for (const one of [server, plain]) {
    one.closeAllConnections();
    one.close();
  }
  await database.drop();
  endCluster();
  return [
    'Devices that watch a run that is written to five times a second',
    `  100 lines cost the server ${(middle(100) / middle(10)).toFixed(2)} times the processor time of 10 (at most 2), ${(middle(100) / middle(0)).toFixed(2)} times that of none`,
    `  a list of ${(JSON.parse(answer) as { rows: unknown[] }).rows.length} rigs costs ${ratio.toFixed(1)} times a plain Express route with the same answer; at 80 % of one core that is ${(0.8 * share).toFixed(0)} lists a second here (${(answer.length / 1e3).toFixed(0)} kB each)`,
    '',
  ];
}

async function idle(seconds: number): Promise<Told> {
  const before = process.cpuUsage();
  await pause(seconds * 1000);
  const { user, system } = process.cpuUsage(before);
  return { count: 0, cpu: (user + system) / 1e6 };
}
