// What is done with archives in a worker thread of bounded memory: a file from elsewhere costs the server nothing.
import { archiveRecords, ArchiveRefused } from '@vast-surge/core/format';
import type { BenchTaking, Imported, Preview, Taking } from '@vast-surge/contract';
import { GateShut, writing } from '../db/gate.ts';
import { openPool, type Pool } from '../db/pool.ts';
import { inTransaction, writeOnce, type Answer } from '../db/transaction.ts';
import { backUp, type Written } from './backup.ts';
import { importRecords, previewOf } from './import.ts';
import { openArchive, sentFile } from './zip-read.ts';

/** What a task came to, as plain data: errors lose their kind between threads. */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly refused: { readonly path: string; readonly reason: string } }
  | { readonly ok: false; readonly failed: { readonly message: string; readonly code: string; readonly isShut: boolean } };

async function over<T>(databaseUrl: string, work: (pool: Pool) => Promise<T>): Promise<Outcome<T>> {
  const pool = openPool(databaseUrl, () => undefined, { max: 1, patience: 120_000 });
  try {
    return { ok: true, value: await work(pool) };
  } catch (error) {
    if (error instanceof ArchiveRefused) return { ok: false, refused: { path: error.path, reason: error.reason } };
    const message = error instanceof Error ? error.message : String(error);
    const code = String((error as { code?: unknown } | null)?.code ?? '');
    return { ok: false, failed: { message, code, isShut: error instanceof GateShut } };
  } finally {
    await pool.end().catch(() => undefined);
  }
}

async function withArchive<T>(path: string, work: (archive: Awaited<ReturnType<typeof openArchive>>) => Promise<T>): Promise<T> {
  const archive = await openArchive(path, sentFile);
  try {
    return await work(archive);
  } finally {
    archive.close();
  }
}

interface Asked {
  readonly databaseUrl: string;
  readonly path: string;
}

export const preview = ({ databaseUrl, path }: Asked): Promise<Outcome<Preview>> =>
  over(databaseUrl, (pool) =>
    withArchive(path, (archive) =>
      inTransaction(pool, (client) => previewOf(client, archiveRecords(archive, { strict: true })), 'repeatable read'),
    ),
  );

export interface ImportAsked extends Asked {
  readonly key: string;
  readonly request: string;
  readonly choices: Readonly<Record<string, Taking>>;
  readonly bench: BenchTaking;
}

export const bringIn = ({ databaseUrl, path, key, request, choices, bench }: ImportAsked): Promise<Outcome<Answer>> =>
  over(databaseUrl, (pool) =>
    withArchive(path, (archive) =>
      writing(pool, (client) =>
        writeOnce(client, key, request, async () => {
          const body: Imported = await importRecords(client, archiveRecords(archive, { strict: true }), choices, bench);
          return { status: 200, body };
        }),
      ),
    ),
  );

export const backup = ({ databaseUrl, path, rigId }: Asked & { readonly rigId: string | null }): Promise<Outcome<Written>> =>
  over(databaseUrl, (pool) => backUp(pool, path, rigId));
