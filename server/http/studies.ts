import { Router, type Request } from 'express';
import {
  createStudySchema,
  mostUnderWay,
  setStudySchema,
  type StoredStudy,
  type StoredStudyMet,
  type StoredStudyWithSpreads,
  type StoredSweep,
} from '@vast-surge/contract';
import {
  chunkAt,
  columnOf,
  deleteStudy,
  findStudy,
  insertStudy,
  listStudies,
  listWorkers,
  missingChunks,
  priorities,
  setStudyState,
  sweepOf,
  underWay,
} from '../db/studies.ts';
import Papa from 'papaparse';
import { sweepColumns, sweepPoints, tableOf, type Goal } from '@vast-surge/core/study';
import { closeRevision } from '../db/revisions.ts';
import { findRig } from '../db/rigs.ts';
import type { Pool } from '../db/pool.ts';
import { visitorNow } from '../people/visitor.ts';
import { addJobs } from '../studies/queue.ts';
import type * as Work from '../studies/work.ts';
import { deadAfter } from '../studies/worker.ts';
import { Thread } from '../threads.ts';
import { HttpFault } from './fault.ts';
import { expectVersion } from './rigs.ts';
import { textOf } from './query.ts';
import { bodyOf, found, idOf, wrongFields, writes } from './write.ts';

/** s that a chunk takes, about: what is lost with a host is no more. */
const usualChunk = 3;
/** Rows of a chunk: a few samples are not worth the way, of more than these a page would wait. A point may take seconds by itself. */
const chunkOf = { samples: [200, 50_000], sweep: [1, 2000] } as const;
/** Studies whose spreads are remembered: they change only with what is there. */
const mostRemembered = 50;

/** What the samples of a study come to, worked out once for as many as there are. */
class Spreads {
  private readonly thread = new Thread<typeof Work>(new URL('../studies/work.ts', import.meta.url));
  private readonly known = new Map<string, Promise<StoredStudyWithSpreads['spreads']>>();

  constructor(private readonly pool: Pool) {}

  of({ id, done, total, question: { of, outputs } }: StoredStudy): Promise<StoredStudyWithSpreads['spreads']> {
    if (of === 'sweep') return Promise.resolve([]);
    const key = `${id} ${done}`;
    const known = this.known.get(key);
    if (known) return known;
    if (this.known.size >= mostRemembered) this.known.clear();
    const made = this.make(id, outputs.length, done === total);
    this.known.set(key, made);
    made.catch(() => this.known.delete(key));
    return made;
  }

  private async make(id: string, outputs: number, isWhole: boolean): Promise<StoredStudyWithSpreads['spreads']> {
    const all = [];
    // One column at a time: memory stays that of one.
    for (let k = 0; k < outputs; k++) {
      const column = await columnOf(this.pool, id, k);
      all.push(await this.thread.run('spread', { column, isWhole }));
    }
    return all;
  }

  async met({ id }: StoredStudy, output: number, goal: Goal): Promise<StoredStudyMet> {
    return this.thread.run('met', { column: await columnOf(this.pool, id, output), goal });
  }

  /** Starts the thread, so that who asks next need not wait for it. */
  warm(): void {
    this.thread.run('ready', null).catch(() => undefined);
  }

  planned(task: Parameters<typeof Work.planned>[0]): Promise<ReturnType<typeof Work.planned>> {
    return this.thread.run('planned', task);
  }
}

/** An end of a goal, SI; null where it is left open. @throws HttpFault where it is no number */
function endIn(req: Request, name: 'from' | 'to'): number | null {
  const text = textOf(req, name);
  if (text === '') return null;
  const value = Number(text);
  if (!Number.isFinite(value)) throw wrongFields([{ path: name, reason: 'must be a number' }]);
  return value;
}

/** The points of a sweep as its page saves them. */
async function sweepCsv(pool: Pool, id: string): Promise<string> {
  const { layout, stretches } = found(await sweepOf(pool, id), 'study');
  const points = sweepPoints(layout, stretches).flatMap((point) => point ?? []);
  return `${Papa.unparse(tableOf(sweepColumns(layout.axes, layout.outputs, points)), { newline: '\n' })}\n`;
}

async function* csvOf(pool: Pool, { id, question: { of, outputs } }: StoredStudy): AsyncGenerator<string> {
  if (of === 'sweep') {
    yield await sweepCsv(pool, id);
    return;
  }
  yield `${['sample', ...outputs].join(',')}\n`;
  // Chunk by chunk: a million samples need no more memory than a few.
  for (let number = 0; ; number++) {
    const chunk = await chunkAt(pool, id, number);
    if (!chunk) return;
    const { from, columns: values } = chunk;
    const rows = values.length / outputs.length;
    const lines: string[] = [];
    for (let i = 0; i < rows; i++) {
      const cells = outputs.map((_, k) => {
        const value = values[k * rows + i] ?? NaN;
        return Number.isFinite(value) ? String(value) : '';
      });
      lines.push(`${from + i},${cells.join(',')}`);
    }
    yield `${lines.join('\n')}\n`;
  }
}

/** @param program what this server works studies out with @param chunkSeconds s that a chunk takes, about */
export function studyRoutes(pool: Pool, program: string, chunkSeconds = usualChunk): Router {
  const routes = Router();
  const spreads = new Spreads(pool);
  const studyOf = async (req: Request): Promise<StoredStudy> =>
    found(await findStudy(pool, idOf(req.params['id'], 'study'), program), 'study');
  routes.get('/', async (req, res) => {
    spreads.warm();
    res.json(await listStudies(pool, idOf(req.query['rig'], 'rig'), program));
  });
  routes.get('/workers', async (_req, res) => {
    res.json(await listWorkers(pool, program, deadAfter));
  });
  routes.get('/:id', async (req, res) => {
    const study = await studyOf(req);
    res.json({ ...study, spreads: await spreads.of(study) } satisfies StoredStudyWithSpreads);
  });
  routes.get('/:id/met', async (req, res) => {
    const study = await studyOf(req);
    if (study.question.of === 'sweep') throw wrongFields([{ path: 'id', reason: 'is that of a sweep, which has no samples' }]);
    const output = study.question.outputs.indexOf(textOf(req, 'output'));
    if (output < 0) throw wrongFields([{ path: 'output', reason: `must be one of ${study.question.outputs.join(', ')}` }]);
    res.json(await spreads.met(study, output, { from: endIn(req, 'from'), to: endIn(req, 'to') }));
  });
  routes.get('/:id/points', async (req, res) => {
    const study = await studyOf(req);
    if (study.question.of !== 'sweep') throw wrongFields([{ path: 'id', reason: 'is that of samples, which have no points' }]);
    const { layout, stretches } = found(await sweepOf(pool, study.id), 'study');
    res.json({
      layout,
      stretches: stretches.map(({ from, numbers }) => ({ from, numbers: Buffer.from(numbers.buffer).toString('base64') })),
    } satisfies StoredSweep);
  });
  routes.get('/:id/table', async (req, res) => {
    const study = await studyOf(req);
    if (study.state !== 'done')
      throw new HttpFault(
        'bad_input',
        [{ path: 'id', reason: 'is a study that is not done' }],
        'Its samples are not all there yet.',
      );
    res.type('text/csv').attachment(`study-${study.id.slice(0, 8)}.csv`);
    for await (const text of csvOf(pool, study)) if (!res.write(text)) await new Promise((then) => res.once('drain', then));
    res.end();
  });
  routes.post(
    '/',
    writes(pool, async (req) => {
      const { id, rigId, version, question, priority } = bodyOf(createStudySchema, req.body);
      const kept = found(await findRig(pool, rigId), 'rig');
      if (!kept.document.ok) throw wrongFields([{ path: 'rigId', reason: 'is that of a rig this program cannot read' }]);
      const { rig } = kept.document.document;
      const planned = await spreads.planned({ rig, question });
      if (!planned.ok) throw wrongFields([{ path: planned.path, reason: planned.reason }]);
      const { total, width, layout } = planned;
      const [least, most] = chunkOf[question.of];
      const chunk = Math.round(Math.min(most, Math.max(least, chunkSeconds / planned.seconds)));
      const account = visitorNow()?.account.id ?? null;
      return async (client) => {
        await expectVersion(client, rigId, version);
        if ((await underWay(client, account)) >= mostUnderWay)
          throw new HttpFault(
            'bad_input',
            [{ path: 'id', reason: `is one more than the ${mostUnderWay} studies that may be under way at a time` }],
            `${mostUnderWay} studies are under way: wait for one of them, or give one up.`,
          );
        const head = found(await closeRevision(client, crypto.randomUUID(), rigId, null), 'rig');
        const chunks = Math.ceil(total / chunk);
        const made = {
          id,
          revisionId: head.id,
          question,
          program,
          account,
          priority: priorities[priority],
          total,
          chunk,
          chunks,
          width,
          layout,
        };
        if (!(await insertStudy(client, made)))
          throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a study that is here already' }]);
        await addJobs(
          client,
          made,
          Array.from({ length: chunks }, (_, n) => n),
        );
        return { status: 201, body: found(await findStudy(client, id, program), 'study') };
      };
    }),
  );
  routes.patch(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'study');
      const { state } = bodyOf(setStudySchema, req.body);
      return async (client) => {
        const study = found(await findStudy(client, id, program), 'study');
        if (!(await setStudyState(client, id, state)))
          throw new HttpFault('conflict', [{ path: 'state', reason: `cannot be ${state}: the study is ${study.state}` }]);
        // What is paused lets its jobs run out; taken up again they are put there anew, those that are there once.
        if (state === 'asked') {
          const missing = await missingChunks(client, id);
          if (missing) await addJobs(client, missing, missing.numbers);
        }
        return { status: 200, body: found(await findStudy(client, id, program), 'study') };
      };
    }),
  );
  routes.delete(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'study');
      return async (client) => {
        const study = found(await findStudy(client, id, program), 'study');
        if (!(await deleteStudy(client, id)))
          throw new HttpFault('conflict', [
            { path: 'id', reason: `is that of a study that is ${study.state}: give it up first` },
          ]);
        return { status: 200, body: study };
      };
    }),
  );
  return routes;
}
