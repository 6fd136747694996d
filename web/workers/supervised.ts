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
    /** What ends each call under way, for as long as it is: nothing of a call is kept once it has its answer. */
    readonly open: Set<(error: WorkerLost) => void>;
    end(reason: string): void;
  } | null = null;
  private readonly make: () => Worker;

  constructor(make: () => Worker) {
    this.make = make;
  }

  private start() {
    const worker = this.make();
    const open = new Set<(error: WorkerLost) => void>();
    const started = {
      worker,
      remote: wrap<T>(worker),
      open,
      end: (reason: string) => {
        if (this.current === started) this.current = null;
        worker.terminate();
        for (const reject of open) reject(new WorkerLost(reason));
        open.clear();
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
  call<R>(run: (remote: Remote<T>) => Promise<R>, most = patience): Promise<R> {
    const at = (this.current ??= this.start());
    return new Promise<R>((resolve, reject) => {
      const timer = setTimeout(() => at.end(`it gave no answer in ${most / 1000} s`), most);
      const settled =
        <A>(settle: (with_: A) => void) =>
        (with_: A) => {
          clearTimeout(timer);
          at.open.delete(lost);
          settle(with_);
        };
      const lost = settled(reject as (error: WorkerLost) => void);
      at.open.add(lost);
      run(at.remote).then(settled(resolve), settled(reject as (error: unknown) => void));
    });
  }
}
