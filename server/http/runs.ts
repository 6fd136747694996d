import { Router } from 'express';
import {
  appendEventsSchema,
  askSchema,
  createRunSchema,
  measureSchema,
  type AskedRehearsal,
  type PageOf,
  type RunHead,
  type StoredRun,
} from '@vast-surge/contract';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { clashOf, drawFaults, faultsOf, faultTitles, nearMissesOf, scoreOf, type Rehearsal } from '@vast-surge/core/rehearsal';
import { cameFrom, planOf, replay, type RunEvent, type RunPlan } from '@vast-surge/core/run';
import { shotsOfRun } from '@vast-surge/core/shot';
import { closeRevision, findRevision } from '../db/revisions.ts';
import { GateShut, writing } from '../db/gate.ts';
import {
  appendEvents,
  countRuns,
  findRun,
  insertRun,
  openRuns,
  putRunHead,
  rehearsedBy,
  runHeads,
  runKinds,
  runsOf,
  runTail,
  staleRuns,
  type RunQuery,
} from '../db/runs.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { insertShot } from '../db/shots.ts';
import type { Instruments } from '../instruments/instruments.ts';
import { noteBeside } from '../people/audit.ts';
import { expectRole, hasRole, notAllowed, visitorNow, type Visitor } from '../people/visitor.ts';
import { unhurried } from '../breath.ts';
import { HttpFault } from './fault.ts';
import { idIn, oneOf, pageIn, textOf } from './query.ts';
import { expectVersion } from './rigs.ts';
import { predictedOf } from './campaigns.ts';
import { bodyOf, found, idOf, writes } from './write.ts';

function headOf(run: StoredRun): RunHead {
  const { id, rigId, plan, revision, rehearsal, madeAt } = run;
  const events = run.events.map((e) => e.event);
  const { state } = replay(plan, events, rehearsal?.speed ?? 1);
  const { at, mayBeCharged, acts, reads, outcomes, aborts } = state;
  const points = rehearsal && at === 'ended' ? scoreOf(plan, rehearsal, events, state.lastAt).points : null;
  return {
    id,
    rigId,
    rigName: plan.rigName,
    revision,
    rehearsal,
    madeAt,
    events: events.length,
    at,
    mayBeCharged: at === 'running' && mayBeCharged,
    acts,
    reads,
    outcomes: [...outcomes],
    aborts,
    points,
    nearMisses: nearMissesOf(plan, rehearsal, events).slice(0, mostNearMisses),
  };
}

/** Of one run more would say the same again. */
const mostNearMisses = 20;

/** So many heads are worked out for one request: of more, the rest come with the next. */
const mostHeads = 50;

/**
 * Heads of runs, kept in the database for the number of events they were worked out of: a plan never changes and events are only added, so
 * that a list that is asked for every few seconds by every page costs a look.
 */
class RunHeads {
  constructor(
    private readonly pool: Pool,
    private readonly program: string,
  ) {}

  /** Works heads out and keeps them. While the workshop is being restored they are not kept. */
  private async work(ids: readonly string[]): Promise<Map<string, RunHead>> {
    const found = new Map<string, RunHead>();
    if (ids.length === 0) return found;
    for await (const run of unhurried(await runsOf(this.pool, ids), 4)) found.set(run.id, headOf(run));
    await writing(this.pool, async (client) => {
      for (const head of found.values()) await putRunHead(client, head, this.program, isOpen(head));
    }).catch((error: unknown) => {
      if (!(error instanceof GateShut)) throw error;
    });
    return found;
  }

  async page(query: Omit<RunQuery, 'program'>): Promise<PageOf<RunHead>> {
    const { rows, next } = await runHeads(this.pool, { ...query, program: this.program });
    const found = await this.work(rows.filter((row) => row.head === null).map((row) => row.id));
    return {
      rows: rows.flatMap(({ id, head }) => head ?? found.get(id) ?? []),
      next,
      total: await countRuns(this.pool, query),
    };
  }

  /** Live runs whose store may be charged: what went on since the last look is worked out first, the newest run first. */
  async open(): Promise<RunHead[]> {
    await this.work(await staleRuns(this.pool, this.program, mostHeads));
    return openRuns(this.pool);
  }
}

const isOpen = (head: RunHead): boolean => head.at === 'running' && head.mayBeCharged && head.rehearsal === null;

/** What a live run writes into the shot book. A shot has the id of its event: one that is there, or was taken off the list, stays. */
async function writeShots(client: Queryable, run: StoredRun): Promise<void> {
  if (run.rehearsal) return;
  const shots = shotsOfRun(
    run.plan,
    run.events.map(({ event }) => event),
  );
  const revision = shots.length > 0 ? await findRevision(client, run.revisionId) : null;
  if (!revision) return;
  for (const { id, shot } of shots)
    await insertShot(client, {
      id,
      revisionId: run.revisionId,
      runId: run.id,
      shot,
      predicted: predictedOf(revision, shot, null),
    });
}

const wrong = (path: string, reason: string): HttpFault => new HttpFault('bad_input', [{ path, reason }], `${path} ${reason}.`);

/** The rehearsal with its faults, drawn where that was asked. @throws HttpFault where this rig cannot have one, or two exclude each other */
function rehearsalOf(plan: RunPlan, { seed, speed, faults }: AskedRehearsal): Rehearsal {
  if (typeof faults === 'number') return { seed, speed, faults: drawFaults(plan, seed, faults) };
  const can = faultsOf(plan);
  const cannot = faults.find((f) => !can.includes(f));
  if (cannot) throw wrong('rehearsal.faults', `has "${faultTitles[cannot]}", which this rig cannot have`);
  const clash = clashOf(faults);
  if (clash)
    throw wrong('rehearsal.faults', `has "${faultTitles[clash[0]]}" and "${faultTitles[clash[1]]}", which cannot be together`);
  return { seed, speed, faults: [...new Set(faults)] };
}

/** The number after which events are asked for. */
function afterOf(value: unknown): number {
  const after = Number(value ?? 0);
  if (!Number.isInteger(after) || after < 0) throw wrong('after', 'must be the number of an event, or 0');
  return after;
}

/** Steps of a live run are for whoever acts or reads. @throws HttpFault */
async function expectHands(client: Queryable, { account, abortsOnly }: Visitor, id: string): Promise<void> {
  if (abortsOnly)
    throw new HttpFault('not_allowed', [], 'You may break this run off, and nothing else: steps are for whoever acts or reads.');
  if (!hasRole(account, ['acts', 'reads']) && found(await findRun(client, id), 'run').rehearsal === null)
    throw notAllowed(['acts', 'reads']);
}

/** What passes the key of a run on stands in the audit by its name. */
const keyActs: { readonly [T in RunEvent['type']]?: string } = {
  'asked-for-key': 'asked for the key',
  'took-over': 'took over',
  'gave-key': 'gave the key',
  'kept-key': 'kept the key',
};

/** Notes what of these events passed the key on, or asked for it, and had an effect. */
async function noteKeys(client: Queryable, id: string, sent: readonly RunEvent[]): Promise<void> {
  const ids = new Set(sent.filter(({ type }) => keyActs[type] !== undefined).map((event) => event.id));
  if (ids.size === 0) return;
  const { plan, events, rehearsal } = found(await findRun(client, id), 'run');
  const kept = events.map(({ event }) => event);
  const { refusals } = replay(plan, kept, rehearsal?.speed);
  for (const [i, event] of kept.entries())
    if (ids.has(event.id) && !refusals.has(i)) await noteBeside(client, keyActs[event.type] ?? '', id);
}

export function runRoutes(pool: Pool, instruments: Instruments, program: string): Router {
  const routes = Router();
  const heads = new RunHeads(pool, program);
  routes.get('/', async (req, res) => {
    res.json(
      await heads.page({
        rigId: idIn(req, 'rig'),
        kind: textOf(req, 'kind') === '' ? null : oneOf(req, 'kind', runKinds, 'live'),
        words: textOf(req, 'q'),
        ...pageIn(req),
      }),
    );
  });
  routes.get('/open', async (_req, res) => {
    res.json(await heads.open());
  });
  routes.get('/people', async (_req, res) => {
    res.json(await rehearsedBy(pool));
  });
  routes.post(
    '/',
    writes(pool, (req) => {
      const { id, rigId, version, rehearsal: asked } = bodyOf(createRunSchema, req.body);
      // A live run is begun by whoever holds the key; whoever works here may rehearse.
      if (!asked) expectRole('acts');
      return async (client) => {
        await expectVersion(client, rigId, version);
        const { id: revisionId } = found(await closeRevision(client, crypto.randomUUID(), rigId, null), 'rig');
        const revision = found(await findRevision(client, revisionId), 'revision');
        if (!revision.document.ok) throw wrong('rigId', `is a rig that cannot be read: ${revision.document.reason}`);
        const { name, rig, sheet } = revision.document.document;
        const made = planOf(name, evaluateRig(rig), sheet);
        if (!made.ok) throw wrong('rigId', `is a rig that cannot be run: ${made.reason}`);
        if (!asked && made.plan.stops.length > 0)
          throw wrong('rigId', `is a rig that must not be run as it stands: ${made.plan.stops.join(' ')}`);
        const rehearsal = asked ? rehearsalOf(made.plan, asked) : null;
        if (!(await insertRun(client, { id, revisionId, plan: made.plan, rehearsal })))
          throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a run that is here already' }]);
        return { status: 201, body: headOf(found(await findRun(client, id), 'run')) };
      };
    }),
  );
  routes.get('/:id', async (req, res) => {
    res.json(found(await findRun(pool, idOf(req.params.id, 'run')), 'run'));
  });
  routes.get('/:id/events', async (req, res) => {
    const after = afterOf(req.query['after']);
    res.json(await runTail(pool, idOf(req.params.id, 'run'), after));
  });
  routes.post(
    '/:id/events',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'run');
      const after = afterOf(req.query['after']);
      const { events } = bodyOf(appendEventsSchema, req.body);
      const visitor = visitorNow();
      const stamped = events.map((event) => cameFrom(visitor?.account.id ?? null, event));
      const isAbort = events.every(({ type }) => type === 'aborted');
      return async (client) => {
        if (visitor && !isAbort) await expectHands(client, visitor, id);
        if (!(await appendEvents(client, id, stamped, visitor?.account.id ?? null))) found(null, 'run');
        if (events.some(({ type }) => type === 'outcome')) await writeShots(client, found(await findRun(client, id), 'run'));
        const tail = await runTail(client, id, after);
        if (visitor) await noteKeys(client, id, stamped);
        return { status: 200, body: tail };
      };
    }),
  );
  routes.post('/:id/ask', async (req, res) => {
    const { instrument, line } = bodyOf(askSchema, req.body);
    const run = found(await findRun(pool, idOf(req.params.id, 'run')), 'run');
    res.json(await instruments.ask(run, instrument, line));
  });
  routes.post('/:id/measure', async (req, res) => {
    const { instrument } = bodyOf(measureSchema, req.body);
    const run = found(await findRun(pool, idOf(req.params.id, 'run')), 'run');
    res.json(await instruments.measure(run, instrument));
  });
  return routes;
}
