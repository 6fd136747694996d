import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { answersSchema, campaignSchema, entrySchema, orders, setFor, settingAt } from '@vast-surge/core/campaign';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { clashOf, type FaultId } from '@vast-surge/core/rehearsal';
import { planOf, replay, stepAt, type RunEvent, type RunPlan } from '@vast-surge/core/run';
import { guessLayout, keptRecord, predictShot, ScopeReader, shotSchema } from '@vast-surge/core/shot';
import { appendEntry, campaignRow, insertCampaign } from './campaigns.ts';
import { closeRevision, findRevision } from './revisions.ts';
import { insertRun, restoreEvents } from './runs.ts';
import { insertFile, insertShot } from './shots.ts';
import type { Queryable } from './pool.ts';

const folder = fileURLToPath(new URL('../../demo/record/', import.meta.url));

const recordSchema = z.record(z.string(), z.strictObject({ rigId: z.uuid(), shots: z.array(shotSchema) }));

/** An id of the demo: the same in every workshop, so that it is known again. */
const id = (kind: number, n: number) => `0a57b1de-5eed-4a0c-9c11-a0b11c0d${kind}${String(n).padStart(3, '0')}`;

/** An oscilloscope trace among the demo files, as the page takes it in. */
async function demoTrace(name: string, n: number) {
  const text = await readFile(folder + name, 'utf8');
  const layout = guessLayout(text.slice(0, 20_000));
  const reader = new ScopeReader({
    ...layout,
    // Its probe gives ten millivolts for an ampere, and its column is in millivolts.
    channels: name.includes('discharge')
      ? layout.channels.map((c) => ({ ...c, name: 'loop current', quantity: 'current' as const, factor: 0.1 }))
      : layout.channels.map((c) => ({ ...c, name: 'store voltage' })),
  });
  for (const line of text.split('\n').slice(layout.headerLines)) if (line !== '') reader.row(line.split(layout.delimiter));
  const record = keptRecord(reader.end());
  const base64 = (values: Float64Array) => Buffer.from(values.buffer, values.byteOffset, values.byteLength).toString('base64');
  return {
    id: id(3, n),
    kind: 'trace' as const,
    name,
    content: {
      ...record,
      said: [...record.said],
      channels: record.channels.map(({ name: channel, quantity, t, y, meanT, meanY }) => ({
        name: channel,
        quantity,
        t: base64(t),
        y: base64(y),
        meanT: base64(meanT),
        meanY: base64(meanY),
      })),
    },
  };
}

const begun = Date.parse('2026-03-14T18:02:00.000Z');

const demoCampaignSchema = z.object({
  rigId: z.uuid(),
  rig: z.string(),
  question: z.string(),
  answers: answersSchema,
  plan: z.strictObject({
    settings: campaignSchema.shape.settings,
    row: campaignSchema.shape.row,
    before: z.number(),
    after: z.number(),
    stocks: campaignSchema.shape.stocks,
  }),
  order: z.enum(orders),
  rest: z.number(),
  sessions: z.array(z.strictObject({ start: z.iso.datetime(), seconds: z.number(), people: z.string() })),
  by: z.string(),
  stopAfter: z.int(),
  shots: z.array(
    shotSchema.pick({ at: true, outcome: true, measured: true, own: true, remarks: true }).extend({ place: z.int() }),
  ),
  entries: z.array(z.looseObject({ kind: z.string(), at: z.string() })),
});

/** Campaigns of the demo: one that is answered, one under way, one planned, each as the page planned it. */
async function writeDemoCampaigns(db: Queryable): Promise<void> {
  const all = z.array(demoCampaignSchema).parse(JSON.parse(await readFile(`${folder}campaigns.json`, 'utf8')));
  for (const [k, { rigId, question, answers, plan, shots, entries, ...asked }] of all.entries()) {
    const { order, rest, by, stopAfter } = asked;
    const sessions = asked.sessions.map((one) => ({ ...one, start: Date.parse(one.start) }));
    await db.query('update shots set removed_at = null where id = any($1)', [shots.map((_, n) => id(7, k * 100 + n))]);
    if (await campaignRow(db, id(6, k))) continue;
    const head = await closeRevision(db, randomUUID(), rigId, null);
    const revision = head && (await findRevision(db, head.id));
    if (!revision) continue;
    const { settings, row, before, after, stocks } = plan;
    const campaign = campaignSchema.parse({
      question,
      answers,
      settings,
      row,
      design: 'factorial',
      order,
      before,
      after,
      rest,
      sessions,
      stocks,
      stopAfter,
      by,
    });
    const [first] = sessions;
    const madeAt = new Date((first?.start ?? 0) - 86_400_000).toISOString();
    await insertCampaign(db, { id: id(6, k), revisionId: revision.id, campaign, madeAt });
    for (const [n, { place, ...shot }] of shots.entries()) {
      const of = { id: id(6, k), place };
      const setting = settingAt(campaign, of);
      if (!setting) throw new Error(`the demo has a shot at a place that its campaign has not: ${place}`);
      await insertShot(db, {
        id: id(7, k * 100 + n),
        revisionId: revision.id,
        runId: null,
        shot: { ...shot, set: setFor(setting), sound: '', campaign: of },
        predicted: setting.predicted,
      });
    }
    for (const [n, entry] of entries.entries())
      await appendEntry(db, id(6, k), entrySchema.parse({ ...entry, id: id(8, k * 100 + n) }));
  }
}

/** A run of the demo: every step as the sheet has it, with the readings that such a bank gives, and a remark. */
function demoRun(plan: RunPlan): RunEvent[] {
  const events: RunEvent[] = [];
  let now = begun;
  const add = (event: object, after = 6) => {
    now += after * 1000;
    events.push({ ...event, id: id(2, events.length), at: now, screen: 'demo' } as RunEvent);
  };
  add({ type: 'began', acts: 'IW', reads: 'TO' });
  for (let i = 0; i < 60; i++) {
    const { state } = replay(plan, events);
    const step = stepAt(plan, state);
    if (!step || state.at === 'ended') break;
    if (step.does === 'charge') add({ type: 'noted', text: 'Red lamp is on' }, 4);
    if (step.second) add({ type: 'answered', step: step.id }, 5);
    if (step.does === 'fire') {
      add({ type: 'outcome', step: step.id, outcome: 'fired' }, 14);
      continue;
    }
    const wait = step.wait ?? 0;
    if (step.reading) {
      const { expected, below } = step.reading;
      const value = expected === null ? (below ?? 0) * (step.id === 'verify' ? 0.08 : 0.21) : expected * 0.996;
      add({ type: 'read', step: step.id, value: Number(value.toPrecision(3)), source: 'typed', confirmed: false }, wait + 9);
    }
    add({ type: 'done', step: step.id }, (step.reading ? 3 : wait) + 5);
  }
  return events;
}

const rehearsed: readonly FaultId[] = ['bleeder-open', 'stage-left'];

/** What the demo workshop has done: shots, a run that can be played again, and a rehearsal that is ready. */
export async function writeDemoRecord(db: Queryable): Promise<void> {
  const record = recordSchema.parse(JSON.parse(await readFile(`${folder}shots.json`, 'utf8')));
  if (clashOf(rehearsed)) throw new Error('the demo rehearsal has two faults that exclude each other');
  for (const [k, { rigId, shots }] of Object.values(record).entries()) {
    // What was written down stays as it is; a shot that was taken off the list comes back onto it.
    const { rowCount } = await db.query('update shots set removed_at = null where id = any($1)', [
      shots.map((_, n) => id(4, k * 100 + n)),
    ]);
    if (rowCount !== 0) continue;
    const head = await closeRevision(db, randomUUID(), rigId, null);
    const revision = head && (await findRevision(db, head.id));
    // A demo rig that somebody changed beyond reading gets no record.
    if (!revision?.document.ok) continue;
    const { name, rig, sheet } = revision.document.document;
    for (const [n, shot] of shots.entries())
      await insertShot(db, {
        id: id(4, k * 100 + n),
        revisionId: revision.id,
        runId: null,
        shot,
        predicted: predictShot(rig, shot.set),
      });
    if (k > 0) continue;
    const last = id(4, shots.length - 1);
    for (const [n, file] of ['thimble-discharge.csv', 'thimble-bleed.csv'].entries())
      await insertFile(db, last, await demoTrace(file, n));
    const made = planOf(name, evaluateRig(rig), sheet);
    if (!made.ok) throw new Error(`the demo run cannot be made: ${made.reason}`);
    const { plan } = made;
    const events = demoRun(plan);
    await insertRun(db, { id: id(5, 0), revisionId: revision.id, plan, rehearsal: null, madeAt: new Date(begun).toISOString() });
    await restoreEvents(db, {
      runId: id(5, 0),
      events: events.map((event, i) => ({ number: i + 1, receivedAt: new Date(event.at).toISOString(), event })),
    });
    const ready = new Date(begun + 3_600_000).toISOString();
    await insertRun(db, {
      id: id(5, 1),
      revisionId: revision.id,
      plan,
      rehearsal: { seed: 7, speed: 10, faults: rehearsed },
      madeAt: ready,
    });
  }
  await writeDemoCampaigns(db);
}
