import { wrap, type Remote } from 'comlink';

/** The worker ended, could not be started, or gave no answer. */
export class WorkerLost extends Error {
  constructor(reason: string) {
    super(reason);
    this.name = 'WorkerLost';
  }
}

const patience = 30_000;

/**
 * A worker that may be lost. It is started by the first call; when it fails, every call under way is rejected with
 * {@link WorkerLost} and the next call starts another. No call is left without an end.
 */
export class SupervisedWorker<T> {
  private current: {
    readonly worker: Worker;
    readonly remote: Remote<T>;
    readonly lost: Promise<never>;
    end(reason: string): void;
  } | null = null;
  private readonly make: () => Worker;

  constructor(make: () => Worker) {
    this.make = make;
  }

  private start() {
    const worker = this.make();
    let reject: (error: WorkerLost) => void = () => undefined;
    const lost = new Promise<never>((_resolve, fail) => {
      reject = fail;
    });
    // Without a call under way nobody listens; the next call starts another worker all the same.
    lost.catch(() => undefined);
    const started = {
      worker,
      remote: wrap<T>(worker),
      lost,
      end: (reason: string) => {
        if (this.current === started) this.current = null;
        worker.terminate();
        reject(new WorkerLost(reason));
      },
    };
    worker.addEventListener('error', (event) => started.end(event.message || 'its program could not be loaded'));
    worker.addEventListener('messageerror', () => started.end('its answer could not be read'));
    return started;
  }

  /** Ends the worker and every call under way; the next call starts another. */
  restart(reason: string): void {
    this.current?.end(reason);
  }

  /** @param most ms after which it is given up. @throws WorkerLost; and what the called function itself throws */
  async call<R>(run: (remote: Remote<T>) => Promise<R>, most = patience): Promise<R> {
    const at = (this.current ??= this.start());
    const timer = setTimeout(() => at.end(`it gave no answer in ${most / 1000} s`), most);
    try {
      return await Promise.race([run(at.remote), at.lost]);
    } finally {
      clearTimeout(timer);
    }
  }
}
