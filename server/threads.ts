import { Piscina } from 'piscina';

type Work<M> = { [K in keyof M]: M[K] extends (task: never) => unknown ? K : never }[keyof M] & string;
type Task<F> = F extends (task: infer T) => unknown ? T : never;
type Found<F> = F extends (task: never) => infer R ? Awaited<R> : never;

export interface ThreadLimits {
  /** Tasks at a time; one where it is left out. */
  readonly threads?: number;
  /** MB of memory it may fill. */
  readonly memory?: number;
  /** Tasks that may wait. */
  readonly queue?: number;
}

/** A worker thread, or several, that call the functions of one module. They are started when they are needed and end after a minute of rest. */
export class Thread<M> {
  private readonly pool: Piscina;

  /** @param module its address, as `new URL('./work.ts', import.meta.url)` */
  constructor(
    private readonly module: URL,
    { threads = 1, memory, queue }: ThreadLimits = {},
  ) {
    this.pool = new Piscina({
      filename: new URL('./thread.mjs', import.meta.url).href,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60_000,
      ...(queue === undefined ? {} : { maxQueue: queue }),
      ...(memory === undefined ? {} : { resourceLimits: { maxOldGenerationSizeMb: memory } }),
    });
    // A thread that ends is told to its task; there is nothing else to do about it.
    this.pool.on('error', () => undefined);
  }

  /** @param signal where it is aborted, the thread is ended in the middle of its work */
  run<K extends Work<M>>(call: K, task: Task<M[K]>, signal?: AbortSignal): Promise<Found<M[K]>> {
    return this.pool.run({ module: this.module.href, call, task }, signal ? { signal } : {}) as Promise<Found<M[K]>>;
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
