import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:net';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  runHeadSchema,
  runTailSchema,
  storedRunSchema,
  writeKeyHeader,
  type PageOf,
  type RigHead,
  type RunHead,
  type RunTail,
  type StoredRun,
  type StoredShot,
} from '@vast-surge/contract';
import { rehearsalInstruments } from '@vast-surge/core/rehearsal';
import { blockIn, newDocument, withBlock, type RigDocument } from '@vast-surge/core/rig';
import { replay, stepAt, type RunEvent } from '@vast-surge/core/run';
import { loadDemo } from '../db/demo.ts';
import { replaceWorkshop } from '../db/workshop.ts';
import { asStream, everything } from '../test/records.ts';
import { inTransaction } from '../db/transaction.ts';
import { Instruments, readAllowed } from '../instruments/instruments.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
let app: ReturnType<typeof createApp>;
let real: Server;
const heard: string[] = [];
const log = pino({ level: 'silent' });

beforeAll(async () => {
  database = await testDatabase();
  await loadDemo(database.pool);
  // A meter on the network, as a real one answers, and one that says nothing.
  real = createServer((socket) => {
    socket.on('data', (data) => {
      heard.push(String(data).trim());
      socket.write('+4.821000E+1\r\n');
    });
  });
  await new Promise<void>((resolve) => real.listen(0, '127.0.0.1', resolve));
  const { port } = real.address() as { port: number };
  const silent = createServer(() => undefined);
  await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
  silent.unref();
  const allowed = readAllowed(`bench meter=127.0.0.1:${port}; silent=127.0.0.1:${(silent.address() as { port: number }).port}`);
  app = createApp({ db: database.pool, log, version: 'test', rate: 1e6, instruments: new Instruments(allowed) });
});
afterAll(async () => {
  real.close();
  await database.drop();
});

const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const write = (path: string, body: unknown, key: string = randomUUID()) =>
  own(request(app).post(path))
    .set(writeKeyHeader, key)
    .send(body as object);
const get = async <T>(path: string): Promise<T> => (await own(request(app).get(path))).body as T;

const thimble = async () => {
  const [rig] = (await get<PageOf<RigHead>>('/api/rigs?q=thimble')).rows;
  if (!rig) throw new Error('no Thimble');
  return get<{ id: string; version: number; document: RigDocument }>(`/api/rigs/${rig.id}`);
};

async function begun(rehearsal: unknown = null): Promise<StoredRun> {
  const rig = await thimble();
  const id = randomUUID();
  const answer = await write('/api/runs', { id, rigId: rig.id, version: rig.version, rehearsal });
  expect(answer.status).toBe(201);
  runHeadSchema.parse(answer.body);
  return storedRunSchema.parse(await get(`/api/runs/${id}`)) as StoredRun;
}

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;
const event = (bare: Bare, at = Date.now(), screen = 'left'): RunEvent => ({ ...bare, id: randomUUID(), at, screen }) as RunEvent;
const append = async (id: string, events: readonly RunEvent[], after = 0) => {
  const answer = await write(`/api/runs/${id}/events?after=${after}`, { events });
  expect(answer.status).toBe(200);
  return runTailSchema.parse(answer.body) as RunTail;
};

describe('a run', () => {
  test('closes the rig into a revision, keeps its plan and events, and is told in a line', async () => {
    const run = await begun();
    expect(run.plan.rigName).toBe('Thimble');
    const events = [event({ type: 'began', acts: 'AB', reads: 'CD' }), event({ type: 'noted', text: 'Ω µ "quotes"' })];
    const tail = await append(run.id, events);
    expect(tail.events.map((e) => [e.number, e.event])).toEqual(events.map((e, i) => [i + 1, e]));
    const head = (await get<PageOf<RunHead>>('/api/runs')).rows.find((r) => r.id === run.id);
    expect(head).toMatchObject({ rigName: 'Thimble', at: 'running', mayBeCharged: true, acts: 'AB', events: 2, points: null });
    expect((await get<PageOf<RunHead>>(`/api/runs?rig=${randomUUID()}`)).rows.length).toBe(0);
    const ofKind = async (kind: string) => get<PageOf<RunHead>>(`/api/runs?rig=${run.rigId}&kind=${kind}&limit=100`);
    const [live, rehearsed, both] = [await ofKind('live'), await ofKind('rehearsal'), await ofKind('')];
    expect(live.rows.map((r) => r.id)).toContain(run.id);
    expect(live.rows.every((r) => r.rehearsal === null) && rehearsed.rows.every((r) => r.rehearsal !== null)).toBe(true);
    expect([live.total + rehearsed.total, rehearsed.total > 0]).toEqual([both.total, true]);
    expect((await own(request(app).get('/api/runs?kind=ghostly'))).status).toBe(400);
    const later = runTailSchema.parse(await get(`/api/runs/${run.id}/events?after=1`));
    expect(later.events.map((e) => e.number)).toEqual([2]);
  });

  test('events that come again, in part or in another bundle, are kept once and in their first order', async () => {
    const { id } = await begun();
    const events = [
      event({ type: 'began', acts: 'AB', reads: null }),
      ...Array.from({ length: 5 }, (_, i) => event({ type: 'noted', text: `note ${i}` })),
    ];
    await append(id, events.slice(0, 3));
    await append(id, events.slice(1));
    const tail = await append(id, events);
    expect(tail.events.map((e) => e.event.id)).toEqual(events.map((e) => e.id));
    expect(tail.events.map((e) => e.number)).toEqual([1, 2, 3, 4, 5, 6]);
  });

  test('two screens at once are put in a row without a gap, each in its own order', async () => {
    const { id } = await begun();
    const of = (screen: string) =>
      Array.from({ length: 20 }, (_, i) => event({ type: 'noted', text: `${i}` }, Date.now(), screen));
    const [left, right] = [of('left'), of('right')];
    await Promise.all([left, right].flatMap((list) => list.map((_, i) => append(id, list.slice(0, i + 1)))));
    const { events } = runTailSchema.parse(await get(`/api/runs/${id}/events`));
    expect(events.map((e) => e.number)).toEqual(Array.from({ length: 40 }, (_, i) => i + 1));
    for (const list of [left, right])
      expect(events.filter((e) => e.event.screen === list[0]?.screen).map((e) => e.event.id)).toEqual(list.map((e) => e.id));
  });

  test('nothing of it can be changed or taken out, not even by hand in the database', async () => {
    const { id } = await begun();
    await append(id, [event({ type: 'began', acts: 'AB', reads: null })]);
    for (const text of [
      "update run_events set event = '{}' where run_id = $1",
      'delete from run_events where run_id = $1',
      "update runs set plan = '{}' where id = $1",
      'delete from runs where id = $1',
    ])
      await expect(database.owner.query(text, [id])).rejects.toThrow(/never changed|violates/);
  });

  test.each<[string, (rig: { id: string; version: number }) => unknown, RegExp]>([
    [
      'a version that is past',
      (rig) => ({ id: randomUUID(), rigId: rig.id, version: rig.version + 1, rehearsal: null }),
      /changed elsewhere/,
    ],
    [
      'a speed out of range',
      (rig) => ({ id: randomUUID(), rigId: rig.id, version: rig.version, rehearsal: { seed: 1, speed: 61, faults: 2 } }),
      /rehearsal\.speed must be from 1 to 60/,
    ],
    [
      'two faults that exclude each other',
      (rig) => ({
        id: randomUUID(),
        rigId: rig.id,
        version: rig.version,
        rehearsal: { seed: 1, speed: 1, faults: ['meter-battery', 'wrong-range'] },
      }),
      /cannot be together/,
    ],
    [
      'a fault that this rig cannot have',
      (rig) => ({
        id: randomUUID(),
        rigId: rig.id,
        version: rig.version,
        rehearsal: { seed: 1, speed: 1, faults: ['pre-fire'] },
      }),
      /which this rig cannot have/,
    ],
  ])('with %s is refused by name', async (_what, body, words) => {
    const answer = await write('/api/runs', body(await thimble()));
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(`${answer.body.message} ${JSON.stringify(answer.body.fields)}`).toMatch(words);
  });

  test('of a rig above a rating is refused live, and can be rehearsed', async () => {
    const id = randomUUID();
    const document = newDocument('Overdone');
    const store = blockIn(document.rig, 'store');
    const rated = { ...store, fields: { ...store.fields, Vr: { value: 20, text: '20 V' } } };
    const over = { ...document, rig: withBlock(document.rig, 'store', rated) };
    await write('/api/rigs', { id, document: over });
    const begin = (rehearsal: unknown) => write('/api/runs', { id: randomUUID(), rigId: id, version: 1, rehearsal });
    const live = await begin(null);
    expect([live.status, live.body.message]).toEqual([400, expect.stringMatching(/must not be run as it stands/)]);
    expect((await begin({ seed: 1, speed: 1, faults: 0 })).status).toBe(201);
  });

  test('an event that is none is refused by field, and the ones beside it are not taken', async () => {
    const { id } = await begun();
    const good = event({ type: 'began', acts: 'AB', reads: null });
    for (const [bad, words] of [
      [{ ...good, acts: 'too long' }, /acts must be one to four letters/],
      [{ ...good, type: 'exploded' }, /type/],
      [
        event({ type: 'read', step: 'verify', value: 1e9, source: 'typed', confirmed: false }),
        /value must be from -10 MV to 10 MV/,
      ],
      [{ ...good, at: -5 }, /at must be a time/],
    ] as const) {
      const answer = await write(`/api/runs/${id}/events`, { events: [good, bad] });
      expect([answer.status, answer.body.message]).toEqual([400, expect.stringMatching(words)]);
    }
    expect((await get<RunTail>(`/api/runs/${id}/events`)).events).toEqual([]);
    expect((await write(`/api/runs/${randomUUID()}/events`, { events: [good] })).status).toBe(404);
  });

  test('goes with the workshop into an archive and back, event by event', async () => {
    const { id } = await begun({ seed: 9, speed: 60, faults: ['rebound', 'misfire'] });
    await append(id, [event({ type: 'began', acts: 'AB', reads: null }), event({ type: 'suspected', fault: 'rebound' })]);
    const before = await everything(database.pool);
    expect(before.some(({ noun, record }) => noun === 'run' && record.id === id)).toBe(true);
    const fresh = await testDatabase();
    const restore = () => inTransaction(fresh.owner, (client) => replaceWorkshop(client, asStream(before)));
    await restore();
    expect(await everything(fresh.pool)).toEqual(before);
    // And over what is there: nothing of a run hinders a restore.
    await restore();
    await fresh.drop();
  });
});

describe('instruments', () => {
  test('a rehearsal is read by its stand-in over the network, as the simulated rig stands', async () => {
    const run = await begun({ seed: 5, speed: 60, faults: [] });
    const events = [event({ type: 'began', acts: 'AB', reads: null }, Date.now() - 60_000)];
    const act = (name: string, ago: number) => events.push(event({ type: 'acted', act: name }, Date.now() - ago));
    act('strap-off', 50_000);
    act('supply-on', 49_000);
    act('look-isolator', 0);
    await append(run.id, events);
    const charged = (await write(`/api/runs/${run.id}/measure`, { instrument: 'rehearsal-meter' })).body as { value: number };
    expect(charged.value / run.plan.numbers.charged).toBeGreaterThan(0.9);
    await append(run.id, [event({ type: 'acted', act: 'supply-off' }), event({ type: 'acted', act: 'strap-on' })]);
    const strapped = (await write(`/api/runs/${run.id}/measure`, { instrument: 'rehearsal-meter' })).body as { value: number };
    expect(Math.abs(strapped.value)).toBeLessThan(0.1);
  });

  test('a real one on the list is asked the same; one that is not on the list never, and one that is silent is told', async () => {
    const run = await begun();
    const measure = (instrument: string) => write(`/api/runs/${run.id}/measure`, { instrument });
    expect((await measure('bench meter')).body).toEqual({ value: 48.21, reply: '+4.821000E+1' });
    expect(heard.at(-1)).toBe('MEAS:VOLT:DC?');
    for (const stranger of ['127.0.0.1:22', 'http://example.org', 'bench meter ']) {
      const answer = await measure(stranger);
      expect([answer.status, answer.body.message]).toEqual([400, expect.stringMatching(/not on the list/)]);
    }
    expect((await measure('rehearsal-meter')).body.message).toMatch(/cannot be taken|stand-in/);
    const silent = await measure('silent');
    expect([silent.status, silent.body.message]).toEqual([502, expect.stringMatching(/did not answer within 2 s/)]);
    const listed = await get<{ id: string; isStandIn: boolean }[]>('/api/instruments');
    expect(listed.map((i) => [i.id, i.isStandIn])).toEqual([
      ['bench meter', false],
      ['silent', false],
    ]);
  });

  test('each instrument of a rehearsal stands on loopback under its own address and reads what stands there', async () => {
    const run = await begun({ seed: 8, speed: 60, faults: [] });
    const listed = await get<{ id: string; address: string; unit: string; isStandIn: boolean }[]>(
      `/api/instruments?run=${run.id}`,
    );
    const standIns = listed.filter((i) => i.isStandIn);
    expect(standIns.map((i) => i.id)).toEqual(rehearsalInstruments.map((i) => i.id));
    expect(new Set(standIns.map((i) => i.address)).size).toBe(standIns.length);
    for (const { address } of standIns) expect(address).toMatch(/^127\.0\.0\.1:\d+$/);
    await append(run.id, [
      event({ type: 'began', acts: 'AB', reads: null }, Date.now() - 60_000),
      event({ type: 'acted', act: 'strap-off' }, Date.now() - 50_000),
      event({ type: 'acted', act: 'supply-on' }, Date.now() - 49_000),
      event({ type: 'acted', act: 'look-isolator' }),
    ]);
    const { charged } = run.plan.numbers;
    const reads = async (instrument: string) =>
      ((await write(`/api/runs/${run.id}/measure`, { instrument })).body as { value: number }).value;
    // Each within what its kind says of itself; the probe in volts, the field meter in tens of them.
    expect(Math.abs((await reads('rehearsal-meter')) / charged - 1)).toBeLessThan(0.1);
    expect(Math.abs((await reads('rehearsal-probe')) - charged)).toBeLessThan(0.1 * charged + 2);
    expect(Math.abs((await reads('rehearsal-field-meter')) - charged)).toBeLessThan(0.3 * charged + 10);
    expect(Math.abs((await reads('rehearsal-charger')) - charged)).toBeLessThan(0.1 * charged + 1);
    expect(await reads('rehearsal-gauge')).toBe(0);
    await append(run.id, [event({ type: 'acted', act: 'isolate' }), event({ type: 'acted', act: 'fire' })]);
    expect(await reads('rehearsal-charger')).toBeCloseTo(0, 1);
    // From the charge to its first swing the other way, or to nought.
    const swing = await reads('rehearsal-scope');
    expect(swing).toBeGreaterThan(0.8 * charged);
    expect(swing).toBeLessThan(2.1 * charged);
  });

  test('a line from a page may ask and may set nothing, of a stand-in or of a real one', async () => {
    const run = await begun({ seed: 8, speed: 1, faults: [] });
    const ask = (line: string, instrument = 'rehearsal-charger') => write(`/api/runs/${run.id}/ask`, { instrument, line });
    expect((await ask('*IDN?')).body).toEqual({ reply: 'Vast Surge,charger stand-in,0,1' });
    expect((await ask('OUTP?')).body).toEqual({ reply: '0' });
    expect((await ask('syst:err?')).body).toEqual({ reply: '0,"No error"' });
    // A setting of a readout has no answer, and is in force for the next reading.
    expect((await ask('DIST 0.05', 'rehearsal-field-meter')).body).toEqual({ reply: '' });
    expect((await ask('DIST?', 'rehearsal-field-meter')).body).toEqual({ reply: '+5.000000E-2' });
    expect((await ask('MEAS:VOLT:DC?', 'bench meter')).body).toEqual({ reply: '+4.821000E+1' });
    for (const line of [
      ...[
        'OUTP ON',
        '*IDN?;OUTP ON',
        'VOLT 400',
        '?',
        'A?\nOUTP ON',
        '',
        'OUTP? ON',
        '*TST?',
        '*CAL?',
        'INIT?;*TRG?',
        'INIT?',
        '*TRG',
      ],
      ...[
        '*IDN?;*IDN?',
        'MEAS:VOLT:DC? ON',
        'CONF:VOLT:DC 6,OUTP ON',
        'CONF:VOLT:DC 6\tOUTP',
        'FOO?',
        '*LRN?',
        '*RST',
        'CAL:ALL?',
      ],
    ]) {
      const answer = await ask(line, 'bench meter');
      expect([line, answer.status, answer.body.message]).toEqual([
        line,
        400,
        expect.stringMatching(/^line (must|is not on the list|\S+ takes)/),
      ]);
    }
    expect(heard.every((line) => line === 'MEAS:VOLT:DC?')).toBe(true);
  });

  test('a list that cannot be read is refused by its entry', () => {
    expect(readAllowed(' meter = 10.0.0.7:5025 ; hv=charger@10.0.0.8:1')).toEqual([
      { name: 'meter', kind: 'bench-meter', host: '10.0.0.7', port: 5025 },
      { name: 'hv', kind: 'charger', host: '10.0.0.8', port: 1 },
    ]);
    expect(() => readAllowed('x=toaster@h:1')).toThrow(/kind toaster must be one of bench-meter/);
    for (const bad of ['meter', 'meter=host', 'meter=host:99999', '=h:1'])
      expect(() => readAllowed(bad)).toThrow(/must be a name/);
  });
});

/** The events of a run that is played by the rules. */
function played(run: StoredRun, began = Date.now()): RunEvent[] {
  const events: RunEvent[] = [event({ type: 'began', acts: 'AB', reads: 'CD' }, began)];
  const speed = run.rehearsal?.speed ?? 1;
  for (let i = 0; i < 60; i++) {
    const { state } = replay(run.plan, events, speed);
    const step = stepAt(run.plan, state);
    if (!step || state.at === 'ended') break;
    const at = state.lastAt + ((step.wait ?? 0) * 1000) / speed + 1000;
    if (step.second) events.push(event({ type: 'answered', step: step.id }, at));
    const value = step.reading?.expected ?? 0;
    if (step.reading) events.push(event({ type: 'read', step: step.id, value, source: 'typed', confirmed: true }, at));
    events.push(
      step.does === 'fire'
        ? event({ type: 'outcome', step: step.id, outcome: 'fired' }, at)
        : event({ type: 'done', step: step.id }, at),
    );
  }
  return events;
}

test('a rehearsal ends with its score in the list, and writes no shot; steps that are ticked off and not done score zero', async () => {
  const run = await begun({ seed: 2, speed: 60, faults: [] });
  await append(run.id, played(run));
  const head = (await get<PageOf<RunHead>>('/api/runs')).rows.find((r) => r.id === run.id);
  expect(head).toMatchObject({ at: 'ended', mayBeCharged: false, points: 0, outcomes: ['fired'] });
  expect((await get<PageOf<StoredShot>>('/api/shots')).rows.filter((s) => s.runId === run.id)).toEqual([]);
});

test('a live run writes its shot by itself, once, with what was calculated; one that was taken off the list stays off', async () => {
  const run = await begun();
  const events = played(run, Date.now() - 3600e3);
  const shots = async () => (await get<PageOf<StoredShot>>('/api/shots')).rows.filter((s) => s.runId === run.id);
  const fired = events.findIndex((e) => e.type === 'outcome');
  await append(run.id, events.slice(0, fired));
  expect(await shots()).toEqual([]);
  await append(run.id, events.slice(0, fired + 1));
  const [shot] = await shots();
  expect(shot).toMatchObject({ id: events[fired]?.id, revisionId: run.revisionId, shot: { outcome: 'fired' } });
  expect(shot?.shot.set.voltage).toBe(run.plan.numbers.charged);
  expect(shot?.predicted.current).toBeGreaterThan(0);
  const off = await own(request(app).patch(`/api/shots/${shot?.id}`))
    .set(writeKeyHeader, randomUUID())
    .send({ removed: true });
  expect(off.status).toBe(200);
  await append(run.id, events);
  expect(await shots()).toEqual([]);
});
