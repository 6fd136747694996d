import { randomUUID } from 'node:crypto';
import type { BackupRow, BackupSettings } from '@vast-surge/contract';
import { backupSettingsSchema } from '@vast-surge/contract';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  made_at: Date;
  kind: BackupRow['kind'];
  path: string;
  bytes: string;
  records: number;
  failed: string | null;
}

const backup = (row: Row): BackupRow => ({
  id: row.id,
  madeAt: row.made_at.toISOString(),
  kind: row.kind,
  path: row.path,
  bytes: Number(row.bytes),
  records: row.records,
  failed: row.failed,
});

const columns = 'id, made_at, kind, path, bytes, records, failed';

/** Notes a backup that was made and read back, or why one could not be made. */
export const noteBackup = (
  db: Queryable,
  { kind, path, bytes = 0, records = 0, failed = null }: Pick<BackupRow, 'kind' | 'path'> & Partial<BackupRow>,
) =>
  db.query('insert into backups (id, kind, path, bytes, records, failed) values ($1, $2, $3, $4, $5, $6)', [
    randomUUID(),
    kind,
    path,
    bytes,
    records,
    failed?.slice(0, 500) ?? null,
  ]);

/** The last backups, the newest first. */
export async function listBackups(db: Queryable, most = 20): Promise<BackupRow[]> {
  const { rows } = await db.query<Row>(`select ${columns} from backups order by made_at desc limit $1`, [most]);
  return rows.map(backup);
}

/** When the last backup was made that reads back; one before a restore holds what is no longer here. */
export async function lastVerifiedAt(db: Queryable): Promise<string | null> {
  const { rows } = await db.query<{ made_at: Date | null }>(
    "select max(made_at) as made_at from backups where failed is null and kind <> 'before-restore'",
  );
  return rows[0]?.made_at?.toISOString() ?? null;
}

/** Scheduled ones that were made, the newest first. */
export async function scheduledBackups(db: Queryable): Promise<BackupRow[]> {
  const { rows } = await db.query<Row>(
    `select ${columns} from backups where kind = 'scheduled' order by made_at desc limit 1000`,
  );
  return rows.map(backup);
}

export const forgetBackup = (db: Queryable, id: string) => db.query('delete from backups where id = $1', [id]);

/** What backups by themselves are set to; null where they are off. */
export async function backupSettings(db: Queryable): Promise<BackupSettings | null> {
  const { rows } = await db.query<{ value: unknown }>("select value from settings where name = 'backups'");
  const read = backupSettingsSchema.nullable().safeParse(rows[0]?.value ?? null);
  return read.success ? read.data : null;
}

export const setBackups = (db: Queryable, settings: BackupSettings | null) =>
  db.query("insert into settings (name, value) values ('backups', $1) on conflict (name) do update set value = excluded.value", [
    JSON.stringify(settings),
  ]);
