import { stat } from 'node:fs/promises';
import {
  archiveRecords,
  entriesOf,
  headEntry,
  noRecords,
  type ArchiveCounts,
  type WorkshopRecord,
} from '@vast-surge/core/format';
import { workshopRecords } from '../db/workshop.ts';
import { inTransaction } from '../db/transaction.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { Tables } from './tables.ts';
import { openArchive, ownFile } from './zip-read.ts';
import { ZipWriter } from './zip-write.ts';

/** An archive file that was written and read back. */
export interface Written {
  readonly counts: ArchiveCounts;
  readonly bytes: number;
  /** Of all nouns together. */
  readonly records: number;
}

/** A file that was written and does not read back as it should: it is not kept. */
export class NotVerified extends Error {
  constructor(why: string) {
    super(`what was written does not read back, and was not kept: ${why}`);
    this.name = 'NotVerified';
  }
}

/** Reads a whole archive file: every entry against its sum, every record by its schema. @throws ArchiveRefused */
export async function readThrough(path: string): Promise<ArchiveCounts> {
  const archive = await openArchive(path, ownFile);
  try {
    const records = archiveRecords(archive);
    for (;;) {
      const next = await records.next();
      if (next.done) return next.value;
    }
  } finally {
    archive.close();
  }
}

/**
 * Writes records into an archive file, in one pass and with one of them in memory at a time. The file takes its name only after all of it
 * was read back; where anything fails, no file of this name is made, and one that was there stays.
 *
 * @param withTables also the tables for reading along, for which every rig is worked out
 * @throws NotVerified; errors of the file system
 */
export async function writeArchiveFile(
  path: string,
  records: AsyncIterable<WorkshopRecord>,
  withTables = true,
): Promise<Written> {
  const zip = new ZipWriter(path);
  const tables = withTables ? await Tables.begin() : null;
  const counts = noRecords();
  try {
    for await (const record of records) {
      counts[record.noun] += 1;
      for (const [entryPath, text] of entriesOf(record)) await zip.add(entryPath, text);
      await tables?.note(record);
    }
    for (const [entryPath, file] of (await tables?.finish()) ?? []) await zip.addFile(entryPath, file);
    await zip.add(...headEntry(counts));
    const part = await zip.close();
    const found = await readThrough(part).catch((error: unknown) => {
      throw new NotVerified(error instanceof Error ? error.message : String(error));
    });
    if (JSON.stringify(found) !== JSON.stringify(counts)) throw new NotVerified('it holds another number of records');
    const { size } = await stat(part);
    await zip.settle();
    return { counts, bytes: size, records: Object.values(counts).reduce((sum, n) => sum + n, 0) };
  } catch (error) {
    await zip.drop();
    throw error;
  } finally {
    await tables?.drop();
  }
}

/** The workshop, or one rig of it, as it stands at one moment, into an archive file that is read back before it counts. */
export const backUp = (pool: Pool, path: string, rigId: string | null = null): Promise<Written> =>
  inTransaction(pool, (client) => writeArchiveFile(path, workshopRecords(client, rigId)), 'repeatable read');

/** What a transaction that is open sees, without the tables: what is here before a restore is kept while nobody may write. */
export const backUpWithin = (client: Queryable, path: string): Promise<Written> =>
  writeArchiveFile(path, workshopRecords(client), false);
