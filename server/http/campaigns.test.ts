import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  storedCampaignSchema,
  writeKeyHeader,
  type Booked,
  type CampaignHead,
  type PageOf,
  type RigHead,
  type StoredCampaign,
} from '@vast-surge/contract';
import { planSeries, progressOf, rigAtSetting } from '@vast-surge/core/campaign';
import type { RigDocument } from '@vast-surge/core/rig';
import { predictShot } from '@vast-surge/core/shot';
import { loadDemo } from '../db/demo.ts';
import { inTransaction } from '../db/transaction.ts';
import { replaceWorkshop } from '../db/workshop.ts';
import { asStream, everything } from '../test/records.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
let app: ReturnType<typeof createApp>;
beforeAll(async () => {
  database = await testDatabase();
  await loadDemo(database.pool);
  app = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6 });
});
afterAll(() => database.drop());

const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const post = (path: string, body: object, key: string = randomUUID()) =>
  own(request(app).post(path)).set(writeKeyHeader, key).send(body);
const get = async <T>(path: string): Promise<T> => (await own(request(app).get(path))).body as T;

async function rigOf(name: string) {
  const [rig] = (await get<PageOf<RigHead>>(`/api/rigs?q=${name}`)).rows;
  if (!rig) throw new Error(`no ${name}`);
  return get<{ id: string; version: number; document: RigDocument }>(`/api/rigs/${rig.id}`);
}

async function begun(more: object = {}): Promise<{ rig: Awaited<ReturnType<typeof rigOf>>; campaign: StoredCampaign }> {
  const rig = await rigOf('thimble');
  const sessions = [{ start: Date.parse('2026-05-02T08:00:00.000Z'), seconds: 10_800, people: 'AB acts' }];
  const made = planSeries(rig.document, {
    varied: [{ path: 'store.V0', levels: [20, 30] }],
    design: 'factorial',
    replicates: 2,
    order: 'rising',
    seed: 1,
    rest: 0,
    sessions,
  });
  if (!made.ok) throw new Error(made.reason);
  const { settings, row, before, after } = made.plan;
  const answer = await post('/api/campaigns', {
    id: randomUUID(),
    rigId: rig.id,
    version: rig.version,
    campaign: {
      question: 'Which voltage?',
      answers: { name: 'Light', unit: 'mV' },
      settings,
      row,
      design: 'factorial',
      order: 'rising',
      before,
      after,
      rest: 0,
      sessions,
      stopAfter: 2,
      by: 'AB',
      ...more,
    },
  });
  expect(answer.status).toBe(201);
  return { rig, campaign: storedCampaignSchema.parse(answer.body) as StoredCampaign };
}

const entry = (more: object = {}) => ({
  id: randomUUID(),
  at: '2026-05-02T09:00:00.000Z',
  by: 'CD',
  kind: 'remark',
  text: 'Dull electrodes.',
  ...more,
});
const shotOf = (campaign: string, place: number, more: object = {}) => ({
  at: '2026-05-02T08:10:00.000Z',
  outcome: 'fired',
  set: { voltage: 20 },
  measured: {},
  own: [{ name: 'Light', unit: 'mV', value: 3.2 }],
  sound: '',
  remarks: '',
  campaign: { id: campaign, place },
  ...more,
});

test('a campaign is planned, fired from and written down; its shots are calculated at their place, and it counts what fired', async () => {
  const { rig, campaign } = await begun();
  const fire = (place: number, more: object = {}) =>
    post('/api/shots', {
      id: randomUUID(),
      rigId: rig.id,
      version: rig.version,
      runId: null,
      shot: shotOf(campaign.id, place, more),
    });
  expect((await fire(0)).status).toBe(201);
  expect((await fire(1, { outcome: 'misfire', own: [] })).status).toBe(201);
  // What varies need not be among what a shot can be said to be set to.
  expect((await fire(2, { set: {} })).status).toBe(201);
  const now = storedCampaignSchema.parse(await get(`/api/campaigns/${campaign.id}`));
  expect(now.shots).toHaveLength(3);
  const values = campaign.campaign.settings[1]?.values ?? [];
  expect(now.shots.find(({ shot }) => shot.campaign?.place === 2)?.predicted.current).toBeCloseTo(
    predictShot(rigAtSetting(rig.document.rig, values), {}).current ?? NaN,
    9,
  );
  const progress = progressOf(now.campaign, now.entries, now.shots);
  expect([progress.done, progress.next?.place]).toEqual([2, 1]);
  const [head] = await get<CampaignHead[]>(`/api/campaigns?rig=${rig.id}`);
  expect(head).toMatchObject({ id: campaign.id, planned: 4, fired: 2, isClosed: false });
  // Written again with the same key it stands once; the same line under another key is refused, and nothing is lost.
  const [line, key] = [entry(), randomUUID()];
  for (let i = 0; i < 2; i++)
    expect((await post(`/api/campaigns/${campaign.id}/entries`, { entry: line }, key)).status).toBe(201);
  expect((await post(`/api/campaigns/${campaign.id}/entries`, { entry: line })).status).toBe(409);
  const closed = await post(`/api/campaigns/${campaign.id}/entries`, { entry: entry({ kind: 'closed', text: '30 V.' }) });
  expect((closed.body as StoredCampaign).entries.map(({ kind }) => kind)).toEqual(['remark', 'closed']);
  expect((await get<CampaignHead[]>(`/api/campaigns?rig=${rig.id}`))[0]?.isClosed).toBe(true);
});

test('what cannot be is refused by name', async () => {
  const { rig, campaign } = await begun();
  const path = `/api/campaigns/${campaign.id}/entries`;
  const refused = async (answer: request.Test) => {
    const { status, body } = await answer;
    return `${status} ${(body as { fields: { path: string; reason: string }[] }).fields.map((f) => `${f.path} ${f.reason}`).join('; ')}`;
  };
  expect(await refused(post(path, { entry: entry({ text: '  ' }) }))).toMatch(/^400 entry\.text must not be empty/);
  expect(await refused(post(path, { entry: entry({ by: '' }) }))).toMatch(/^400 entry\.by must not be empty/);
  expect(await refused(post(path, { entry: entry({ kind: 'dropped', places: [4] }) }))).toMatch(
    /entry\.places must be from 0 to 3/,
  );
  expect(await refused(post(`/api/campaigns/${randomUUID()}/entries`, { entry: entry() }))).toMatch(/^404/);
  const shot = (of: object) =>
    post('/api/shots', { id: randomUUID(), rigId: rig.id, version: rig.version, runId: null, shot: of });
  expect(await refused(shot(shotOf(campaign.id, 4)))).toMatch(/shot\.campaign\.place must be from 0 to 3/);
  expect(await refused(shot(shotOf(randomUUID(), 0)))).toMatch(/shot\.campaign\.id is not a campaign of this rig/);
  const anvil = await rigOf('anvil');
  expect(
    await refused(
      post('/api/shots', {
        id: randomUUID(),
        rigId: anvil.id,
        version: anvil.version,
        runId: null,
        shot: shotOf(campaign.id, 0),
      }),
    ),
  ).toMatch(/shot\.campaign\.id is not a campaign of this rig/);
  const { id: _id, ...rest } = campaign;
  expect(
    await refused(
      post('/api/campaigns', {
        id: randomUUID(),
        rigId: rig.id,
        version: rig.version,
        campaign: { ...rest.campaign, row: [0, 9], by: '' },
      }),
    ),
  ).toMatch(/campaign\.by must not be empty/);
});

test('a stock is counted, a place moved to another setting, and what cannot be of either is refused by name', async () => {
  const stock = { id: 'own.1', title: 'Foil', unit: 'sheets', onHand: 3, then: 'Bring more of it' };
  const { rig, campaign } = await begun({ stocks: [stock], seeks: 'highest' });
  const path = `/api/campaigns/${campaign.id}/entries`;
  const write = (more: object) => post(path, { entry: entry(more) });
  expect((await write({ kind: 'stock', of: 'own.1', amount: 12 })).status).toBe(201);
  expect((await write({ kind: 'setting', place: 0, setting: 1 })).status).toBe(201);
  for (const [more, message] of [
    [{ kind: 'stock', of: 'own.2', amount: 1 }, /entry\.of.*it counts own\.1/],
    [{ kind: 'stock', of: 'own.1', amount: -1 }, /entry\.amount.*from 0 to 1e12/],
    [{ kind: 'setting', place: 4, setting: 0 }, /entry\.place.*from 0 to 3/],
    [{ kind: 'setting', place: 0, setting: 2 }, /entry\.setting.*from 0 to 1/],
  ] as const) {
    const { status, body } = await write(more);
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(message);
  }
  // A shot says at which setting it was fired, and is calculated there.
  const [low, high] = campaign.campaign.settings;
  const fire = (of: object) =>
    post('/api/shots', {
      id: randomUUID(),
      rigId: rig.id,
      version: rig.version,
      runId: null,
      shot: shotOf(campaign.id, 0, { set: {}, campaign: { id: campaign.id, place: 0, ...of } }),
    });
  expect((await fire({ setting: 1 })).status).toBe(201);
  const refused = await fire({ setting: 2 });
  expect([refused.status, JSON.stringify(refused.body)]).toEqual([400, expect.stringMatching(/shot\.campaign\.setting/)]);
  const now = storedCampaignSchema.parse(await get(`/api/campaigns/${campaign.id}`));
  expect(now.shots[0]?.predicted.current).toBeCloseTo(high?.predicted.current ?? NaN, 9);
  expect(high?.predicted.current).not.toBeCloseTo(low?.predicted.current ?? NaN, 3);
  const progress = progressOf(now.campaign, now.entries, now.shots);
  expect(progress.places[0]?.setting.values[0]?.text).toBe(high?.values[0]?.text);
});

test('a campaign that was kept before stocks were counted is read as one that counts none', async () => {
  const { rig, campaign } = await begun();
  const { stocks: _stocks, seeks: _seeks, settings, ...old } = campaign.campaign;
  const bare = settings.map(({ rest: _rest, cools: _cools, uses: _uses, ...setting }) => setting);
  const id = randomUUID();
  await database.pool.query('insert into campaigns (id, revision_id, campaign) values ($1, $2, $3)', [
    id,
    campaign.revisionId,
    JSON.stringify({ ...old, settings: bare }),
  ]);
  const kept = await get<StoredCampaign>(`/api/campaigns/${id}`);
  expect(kept.campaign).toMatchObject({ stocks: [], seeks: 'curve', settings: [{ rest: 0, uses: {} }, {}] });
  const counted = await post(`/api/campaigns/${id}/entries`, { entry: entry({ kind: 'stock', of: 'own.1', amount: 1 }) });
  expect([counted.status, JSON.stringify(counted.body)]).toEqual([400, expect.stringMatching(/it counts none/)]);
  expect(rig.id).toBe(kept.rigId);
});

test('hours that campaigns have are told to every rig, as the book has them last, until they are closed', async () => {
  const { campaign, rig } = await begun();
  const mine = async () => (await get<Booked[]>('/api/campaigns/booked')).find(({ id }) => id === campaign.id);
  expect(await mine()).toMatchObject({
    rigId: rig.id,
    rigName: 'Thimble',
    question: 'Which voltage?',
    sessions: campaign.campaign.sessions,
  });
  const sessions = [{ start: Date.parse('2026-05-09T08:00:00.000Z'), seconds: 3600, people: '' }];
  await post(`/api/campaigns/${campaign.id}/entries`, { entry: entry({ kind: 'sessions', sessions }) });
  expect((await mine())?.sessions).toEqual(sessions);
  await post(`/api/campaigns/${campaign.id}/entries`, { entry: entry({ kind: 'closed' }) });
  expect(await mine()).toBeUndefined();
});

test('the book and the checks cannot be changed, by the application or by the owner of the tables', async () => {
  const { campaign } = await begun();
  await post(`/api/campaigns/${campaign.id}/entries`, { entry: entry() });
  const check = { id: randomUUID(), at: '2026-05-01T08:00:00.000Z', by: 'AB', what: 'discharge-stick', text: '' };
  expect((await post('/api/checks', { check })).status).toBe(201);
  expect((await post('/api/checks', { check: { ...check, id: randomUUID(), what: 'luck' } })).status).toBe(400);
  expect(await get('/api/checks')).toEqual([check]);
  for (const statement of [
    'update campaigns set campaign = campaign',
    'delete from campaign_entries',
    'update checks set made = made',
  ]) {
    await expect(database.pool.query(statement)).rejects.toThrow(/permission denied/);
    await expect(database.owner.query(statement)).rejects.toThrow(/never changed/);
  }
});

test('campaigns, books and checks go through an archive and back', async () => {
  const before = await everything(database.pool);
  expect(before.filter(({ noun }) => noun === 'campaign').length).toBeGreaterThanOrEqual(3);
  await inTransaction(database.owner, (client) => replaceWorkshop(client, asStream(before)));
  expect(await everything(database.pool)).toEqual(before);
});

test('the demo has one campaign that is answered, one under way and one that is planned', async () => {
  const heads = await get<CampaignHead[]>(`/api/campaigns?rig=${(await rigOf('kittiwake')).id}`);
  expect(heads.map(({ planned, fired, isClosed }) => [planned, fired, isClosed])).toEqual([
    [9, 5, false],
    [24, 24, true],
  ]);
  expect((await get<CampaignHead[]>(`/api/campaigns?rig=${(await rigOf('anvil')).id}`))[0]).toMatchObject({
    planned: 12,
    fired: 0,
  });
});
