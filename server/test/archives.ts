import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import { uploadedSchema, writeKeyHeader, type Uploaded } from '@vast-surge/contract';
import { archiveRecords, ArchiveRefused, type WorkshopRecord } from '@vast-surge/core/format';
import { Archives, type ArchiveLimits } from '../archive/archives.ts';
import { backUp } from '../archive/backup.ts';
import { openArchive, ownFile } from '../archive/zip-read.ts';
import { inTransaction } from '../db/transaction.ts';
import { replaceWorkshop } from '../db/workshop.ts';
import { createApp } from '../http/app.ts';
import { named, type TestDatabase } from './database.ts';
import { asStream } from './records.ts';

export const folder = mkdtempSync(join(tmpdir(), 'surge-archive-test-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
let files = 0;
export const newFile = (bytes?: Uint8Array): string => {
  const path = join(folder, `${(files += 1)}.zip`);
  if (bytes) writeFileSync(path, bytes);
  return path;
};

export async function packed({ pool }: TestDatabase): Promise<Buffer> {
  const path = newFile();
  await backUp(pool, path);
  return readFileSync(path);
}
export async function recordsIn(path: string, limits = ownFile): Promise<WorkshopRecord[]> {
  const archive = await openArchive(path, limits);
  try {
    const found: WorkshopRecord[] = [];
    for await (const record of archiveRecords(archive)) found.push(record);
    return found;
  } finally {
    archive.close();
  }
}
/** Why a file is not taken; null where it is. */
export const refusal = (path: string, limits = ownFile): Promise<string | null> =>
  recordsIn(path, limits).then(
    () => null,
    (error: unknown) => {
      if (error instanceof ArchiveRefused) return error.message;
      throw error;
    },
  );
export const restored = async (database: TestDatabase, path: string): Promise<void> => {
  const records = await recordsIn(path);
  await inTransaction(database.owner, (client) => replaceWorkshop(client, asStream(records)));
};

const opened: Archives[] = [];
const apps = new Map<TestDatabase, ReturnType<typeof createApp>>();

/** The application over a database, with a thread for archives of its own. */
export function app(database: TestDatabase, limits?: ArchiveLimits) {
  const known = limits ? undefined : apps.get(database);
  if (known) return known;
  const url = named(process.env['DATABASE_APP_URL'] ?? '', new URL(database.url).pathname.slice(1));
  const archives = new Archives(url, limits);
  opened.push(archives);
  const made = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6, archives });
  if (!limits) apps.set(database, made);
  return made;
}
export async function closeArchives(): Promise<void> {
  for (const archives of opened.splice(0)) await archives.close();
  for (const name of readdirSync(folder)) rmSync(join(folder, name), { recursive: true, force: true });
}

export const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
export const upload = (database: TestDatabase, bytes: Uint8Array, limits?: ArchiveLimits) =>
  own(request(app(database, limits)).post('/api/archive/uploads'))
    .type('application/zip')
    .send(Buffer.from(bytes));
export const bringIn = (database: TestDatabase, id: string, body: object, key: string = randomUUID()) =>
  own(request(app(database)).post(`/api/archive/uploads/${id}/import`))
    .set(writeKeyHeader, key)
    .send(body);
export const looked = async (database: TestDatabase, bytes: Uint8Array): Promise<Uploaded> =>
  uploadedSchema.parse((await upload(database, bytes)).body);
