import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { availableParallelism, hostname } from 'node:os';
import { runTaskList, type WorkerEvents, type WorkerPool } from 'graphile-worker';
import { chunkToDo, deadSlots, dropWorker, endIfWhole, failStudy, keepChunk, noteWorker } from '../db/studies.ts';
import { GateShut, writing } from '../db/gate.ts';
import { openPool, isDatabaseAway, type Pool } from '../db/pool.ts';
import { messageOf } from '../fail.ts';
import { Thread } from '../threads.ts';
import { queueSchema, taskOf, type ChunkJob } from './queue.ts';
import { silentLogger } from './silent.ts';
import type * as Work from './work.ts';

/** ms between two signs of life; s without one after which what somebody had in hand goes to another. */
const lifeEvery = 4000;
export const deadAfter = 16;
/** Questions for a chunk that fail one after the other, a second apart, before the queue is begun again. */
const mostInVain = 5;

export interface StudyWorkerOptions {
  readonly databaseUrl: string;
  readonly program: string;
  /** Chunks at a time: the cores but one, for a server that answers as well. */
  readonly threads?: number;
  readonly host?: string;
  /** Told where something is wrong that passes by itself. */
  say?(message: string): void;
}

/** As many threads as there are cores, one core left for whoever is answered. */
export const usualThreads = (): number => Math.max(1, availableParallelism() - 1);

/**
 * Works on studies until it is ended: takes chunks of its own program out of the queue, works them out in threads, keeps them. What is broken
 * off, by whatever, is done by another: a chunk counts once, whoever brings it.
 */
export class StudyWorker {
  private readonly id = randomUUID();
  private readonly pool: Pool;
  private readonly threads: Thread<typeof Work>;
  private readonly many: number;
  private readonly names: string[] = [];
  /** Names of slots that ended while they may have held a chunk: what is held by them is given to others. */
  private readonly endedNames: string[] = [];
  private queue: WorkerPool | null = null;
  private signing: Promise<void> = Promise.resolve();
  private life: NodeJS.Timeout | null = null;
  private isEnded = false;

  constructor(private readonly options: StudyWorkerOptions) {
    this.many = options.threads ?? usualThreads();
    this.pool = openPool(options.databaseUrl, () => undefined, { max: this.many + 3, patience: 0 });
    this.threads = new Thread(new URL('./work.ts', import.meta.url), { threads: this.many });
  }

  /** Begins, and begins anew where the database was away. */
  start(): void {
    const events: WorkerEvents = new EventEmitter();
    this.endedNames.push(...this.names.splice(0));
    // By these names the queue knows who has what in hand.
    events.on('worker:create', ({ worker }) => this.names.push(worker.workerId));
    // A slot that cannot give its chunk back, for the database is away, ends for good and is not made anew; a queue that was begun while it was
    // away asks in vain ever after. Both are begun again instead.
    let [inVain, isLeft] = [0, false];
    const leave = () => {
      if (isLeft || this.isEnded) return;
      isLeft = true;
      void this.queue?.gracefulShutdown('begun again').catch(() => undefined);
    };
    events.on('worker:stop', ({ error }) => error && leave());
    events.on('worker:getJob:error', () => ++inVain >= mostInVain && leave());
    events.on('worker:getJob:empty', () => (inVain = 0));
    events.on('job:start', () => (inVain = 0));
    const queue = runTaskList(
      {
        schema: queueSchema,
        concurrency: this.many,
        noHandleSignals: true,
        pollInterval: 1000,
        // What is let go at the end is no fault.
        logger: silentLogger((message) => this.isEnded || this.options.say?.(message)),
        events,
      },
      { [taskOf(this.options.program)]: (payload) => this.work(payload as ChunkJob) },
      this.pool,
    );
    this.queue = queue;
    const again = () => {
      if (!this.isEnded) setTimeout(() => this.start(), lifeEvery).unref();
    };
    queue.promise.then(again, again);
    this.life ??= setInterval(() => void this.sign(), lifeEvery).unref();
    void this.sign();
  }

  async end(): Promise<void> {
    this.isEnded = true;
    if (this.life) clearInterval(this.life);
    // What is under way is let go: the queue gives it to another.
    await this.threads.close();
    await this.queue?.gracefulShutdown('the worker ends').catch(() => undefined);
    await this.signing;
    await dropWorker(this.pool, this.id).catch(() => undefined);
    await this.pool.end();
  }

  private async work({ study, number }: ChunkJob): Promise<void> {
    const asked = await chunkToDo(this.pool, study, number);
    if (!asked) return;
    const { chunk, total, ...task } = asked;
    const [from, to] = [number * chunk, Math.min(total, (number + 1) * chunk)];
    const made = await this.threads.run('chunk', { ...task, from, to }).catch((error: unknown) => {
      // A thread that is ended with its host takes the chunk with it: another has it.
      if (this.isEnded) throw error;
      return { ok: false, reason: `a fault of the program: ${messageOf(error)}` } as const;
    });
    if (!made.ok) {
      this.options.say?.(`a study stopped: ${made.reason}`);
      await writing(this.pool, (client) => failStudy(client, study, made.reason));
      return;
    }
    const { columns, seconds } = made;
    const host = this.options.host ?? hostname();
    await writing(this.pool, (client) =>
      keepChunk(client, study, number, {
        columns: Buffer.from(columns.buffer, columns.byteOffset, columns.byteLength),
        seconds,
        host,
      }),
    );
    // Behind the commit: of two that bring the last ones, one sees them all.
    await writing(this.pool, (client) => endIfWhole(client, study));
  }

  private sign(): Promise<void> {
    this.signing = this.signed();
    return this.signing;
  }

  private async signed(): Promise<void> {
    try {
      await noteWorker(this.pool, {
        id: this.id,
        host: this.options.host ?? hostname(),
        program: this.options.program,
        slots: this.names,
      });
      const own = [...this.endedNames];
      const dead = [...(await deadSlots(this.pool, deadAfter)), ...own];
      if (dead.length > 0) await this.pool.query(`select ${queueSchema}.force_unlock_workers($1)`, [dead]);
      this.endedNames.splice(0, own.length);
    } catch (error) {
      if (!(error instanceof GateShut) && !isDatabaseAway(error)) this.options.say?.(messageOf(error));
    }
  }
}
