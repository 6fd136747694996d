import { setTimeout as sleep } from 'node:timers/promises';
import type { Logger } from 'pino';
import { GateShut, writing } from '../db/gate.ts';
import { putHead, staleRigs, type StaleRig } from '../db/heads.ts';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { Thread } from '../threads.ts';
import type * as Work from './heads-work.ts';
import { repeat, type Repeated } from './repeat.ts';

/** So many rigs of a list are worked out before others at the most: what was saved last does not wait behind more. */
const most = 20;

/**
 * The headline numbers of rigs: worked out in a thread when a rig was saved or the program is another, and kept in the database. Each is
 * worked out once, however many lists ask for it meanwhile: every page that watches asks again whenever numbers come.
 */
export class RigHeads {
  private readonly thread = new Thread<typeof Work>(new URL('./heads-work.ts', import.meta.url));
  private job: Repeated | null = null;
  private isEnding = false;
  /** By rig and version. */
  private readonly underWay = new Map<string, Promise<void>>();

  constructor(
    private readonly pool: Pool,
    readonly program: string,
  ) {}

  /** Goes over all rigs whose numbers are old, now and whenever it is poked. */
  start(log: Logger, every = 60_000): void {
    this.job = repeat(every, async () => {
      try {
        // One at a time, the one that was saved last first; each once, for a server of another program beside this one has other numbers of
        // it. What is saved meanwhile is a round of its own.
        const done: string[] = [];
        while (!this.isEnding) {
          const [next] = await staleRigs(this.pool, this.program, 1, null, done);
          if (!next) return;
          await this.workOut(next);
          done.push(next.id);
        }
      } catch (error) {
        if (error instanceof GateShut || isDatabaseAway(error)) return;
        log.error({ err: error }, 'the numbers of the list could not be worked out');
      }
    });
  }

  /** A rig was saved. */
  poke(): void {
    this.job?.poke();
  }

  /** Works these out, but waits no longer than `patience`, ms: what is not there by then comes later. */
  async freshen(ids: readonly string[], patience: number): Promise<void> {
    if (ids.length === 0) return;
    const work = staleRigs(this.pool, this.program, most, ids)
      .then((rigs) => Promise.all(rigs.map((rig) => this.workOut(rig))))
      .catch((error: unknown) => {
        if (!(error instanceof GateShut) && !isDatabaseAway(error)) throw error;
      });
    await Promise.race([work, sleep(patience, undefined, { ref: false })]);
    work.catch(() => undefined);
  }

  private workOut(rig: StaleRig): Promise<void> {
    const key = `${rig.id} ${rig.version}`;
    const begun = this.underWay.get(key);
    if (begun) return begun;
    const work = this.thread
      .run('found', rig)
      .then((found) => writing(this.pool, (client) => putHead(client, rig, this.program, found)))
      .then(() => undefined)
      .finally(() => this.underWay.delete(key));
    this.underWay.set(key, work);
    return work;
  }

  async close(): Promise<void> {
    this.isEnding = true;
    await this.job?.end();
    await this.thread.close();
  }
}
