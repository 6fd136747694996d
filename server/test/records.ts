import type { WorkshopRecord } from '@vast-surge/core/format';
import { inTransaction } from '../db/transaction.ts';
import { workshopRecords } from '../db/workshop.ts';
import type { Pool } from '../db/pool.ts';

/** Every record of a workshop, as an archive holds them, in one list. */
export const everything = (pool: Pool): Promise<WorkshopRecord[]> =>
  inTransaction(
    pool,
    async (client) => {
      const all: WorkshopRecord[] = [];
      for await (const record of workshopRecords(client)) all.push(record);
      return all;
    },
    'repeatable read',
  );

export async function* asStream(records: Iterable<WorkshopRecord>): AsyncGenerator<WorkshopRecord> {
  yield* records;
}

/** A picture of one pixel that every decoder reads. */
export const onePixel =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVR4nGP4z8AAAAMBAQDJ/pLvAAAAAElFTkSuQmCC';
