import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, rm, stat } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { BenchTaking, Preview, Taking } from '@vast-surge/contract';
import { GateShut } from '../db/gate.ts';
import type { Answer } from '../db/transaction.ts';
import { HttpFault } from '../http/fault.ts';
import { Thread } from '../threads.ts';
import type { Written } from './backup.ts';
import type { Outcome } from './work.ts';
import type * as Work from './work.ts';

/** Kept so long for an import after its preview, ms. */
const uploadLife = 3_600_000;

interface Upload {
  readonly path: string;
  readonly at: number;
}

export interface ArchiveLimits {
  /** MB of memory that the thread may fill. */
  readonly memory: number;
  /** ms that a file from elsewhere may take, and ms more for each of its megabytes. */
  readonly time: number;
  readonly timePerMegabyte: number;
}

const usual: ArchiveLimits = { memory: 400, time: 20_000, timePerMegabyte: 2000 };

const tooCostly = (why: string) =>
  new HttpFault(
    'too_costly',
    [{ path: 'archive', reason: why }],
    `The archive ${why}. Nothing was written. A backup of your own of any size comes back by ./surge restore.`,
  );

/** Archives that come in and go out, each in a file of its own, worked on in a thread of bounded memory and time. */
export class Archives {
  private readonly thread: Thread<typeof Work>;
  private readonly uploads = new Map<string, Upload>();
  private readonly folder = join(tmpdir(), `vast-surge-archives-${randomUUID()}`);

  constructor(
    private readonly databaseUrl: string,
    private readonly limits: ArchiveLimits = usual,
  ) {
    this.thread = new Thread(new URL('./work.ts', import.meta.url), { memory: limits.memory, queue: 8 });
  }

  /** The folder of what passes through: made anew where a cleaner of temporary files took it away, and tried again where the disk was full. */
  private async spool(): Promise<string> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    return this.folder;
  }

  private async outcome<T>(time: number | null, work: (signal?: AbortSignal) => Promise<Outcome<T>>): Promise<T> {
    const signal = time === null ? undefined : AbortSignal.timeout(time);
    let outcome: Outcome<T>;
    try {
      outcome = await work(signal);
    } catch (error) {
      if (signal?.aborted) throw tooCostly(`takes longer than ${Math.round((time ?? 0) / 1000)} s to read`);
      const words = error instanceof Error ? `${(error as { code?: unknown }).code ?? ''} ${error.message}` : '';
      if (/OUT_OF_MEMORY|memory limit/.test(words)) throw tooCostly(`needs more than ${this.limits.memory} MB of memory to read`);
      if (/queue/i.test(words)) throw new HttpFault('busy');
      throw error;
    }
    if (outcome.ok) return outcome.value;
    if ('refused' in outcome) {
      const { path, reason } = outcome.refused;
      throw new HttpFault('bad_input', [{ path, reason }], `${path} ${reason}`.slice(0, 1000));
    }
    const { message, code, isShut } = outcome.failed;
    if (isShut) throw new GateShut();
    throw Object.assign(new Error(message), { code });
  }

  private async timeFor(path: string): Promise<number> {
    const { size } = await stat(path);
    return Math.round(this.limits.time + (this.limits.timePerMegabyte * size) / 1e6);
  }

  /** Keeps a file that a page sends until it is imported or an hour has gone, and says what it would bring. */
  async take(body: Readable): Promise<{ id: string; preview: Preview }> {
    await this.forgetOld();
    const id = randomUUID();
    const path = join(await this.spool(), `${id}.zip`);
    const { databaseUrl } = this;
    try {
      await pipeline(body, createWriteStream(path, { mode: 0o600 }));
      const preview = await this.outcome(await this.timeFor(path), (signal) =>
        this.thread.run('preview', { databaseUrl, path }, signal),
      );
      this.uploads.set(id, { path, at: Date.now() });
      return { id, preview };
    } catch (error) {
      await rm(path, { force: true });
      throw error;
    }
  }

  /** Brings in what was chosen of a file that was taken; null where it is no longer kept. Done once for each key. */
  async bringIn(
    id: string,
    asked: { key: string; request: string; choices: Readonly<Record<string, Taking>>; bench: BenchTaking },
  ): Promise<Answer | null> {
    const upload = this.uploads.get(id);
    if (!upload || !existsSync(upload.path)) return null;
    const { path } = upload;
    const { databaseUrl } = this;
    return this.outcome(await this.timeFor(path), (signal) =>
      this.thread.run('bringIn', { databaseUrl, path, ...asked }, signal),
    );
  }

  /** Writes the workshop, or one rig of it, into a file that was read back. */
  backUp(path: string, rigId: string | null = null): Promise<Written> {
    const { databaseUrl } = this;
    return this.outcome(null, () => this.thread.run('backup', { databaseUrl, path, rigId }));
  }

  /** A path for a file that is sent away and then removed. */
  async passing(): Promise<string> {
    return join(await this.spool(), `${randomUUID()}.zip`);
  }

  private async forgetOld(): Promise<void> {
    for (const [id, { path, at }] of this.uploads) {
      if (Date.now() - at < uploadLife) continue;
      this.uploads.delete(id);
      await rm(path, { force: true });
    }
  }

  async close(): Promise<void> {
    await this.thread.close();
    await rm(this.folder, { recursive: true, force: true });
  }
}
