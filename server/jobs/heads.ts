import { setTimeout as sleep } from 'node:timers/promises';
import type { Logger } from 'pino';
import { GateShut, writing } from '../db/gate.ts';
import { putHead, staleRigs, type StaleRig } from '../db/heads.ts';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { Thread } from '../threads.ts';
import type * as Work from './heads-work.ts';
import { repeat, type Repeated } from './repeat.ts';

/** So many rigs at once: the first numbers come soon. */
const batch = 20;

/** The headline numbers of rigs: worked out in a thread when a rig was saved or the program is another, and kept in the database. */
export class RigHeads {
  private readonly thread = new Thread<typeof Work>(new URL('./heads-work.ts', import.meta.url));
  private job: Repeated | null = null;

  constructor(
    private readonly pool: Pool,
    readonly program: string,
  ) {}

  /** Goes over all rigs whose numbers are old, now and whenever it is poked. */
  start(log: Logger, every = 60_000): void {
    this.job = repeat(every, async () => {
      try {
        while ((await this.work(await staleRigs(this.pool, this.program, batch))) === batch);
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
    const work = staleRigs(this.pool, this.program, ids.length, ids)
      .then((rigs) => this.work(rigs))
      .catch((error: unknown) => {
        if (!(error instanceof GateShut) && !isDatabaseAway(error)) throw error;
      });
    await Promise.race([work, sleep(patience, undefined, { ref: false })]);
    work.catch(() => undefined);
  }

  private async work(rigs: readonly StaleRig[]): Promise<number> {
    if (rigs.length === 0) return 0;
    const heads = await this.thread.run('found', rigs);
    await writing(this.pool, async (client) => {
      for (const [i, rig] of rigs.entries()) {
        const found = heads[i];
        if (found) await putHead(client, rig, this.program, found);
      }
    });
    return rigs.length;
  }

  async close(): Promise<void> {
    await this.job?.end();
    await this.thread.close();
  }
}
