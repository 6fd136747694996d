import type { Booked, CampaignHead, StoredCampaign } from '@vast-surge/contract';
import { campaignSchema, type Campaign, type Check, type Entry } from '@vast-surge/core/campaign';
import { documentName, readDocument, type CampaignRecord, type CheckRecord } from '@vast-surge/core/format';
import { shotsOfCampaign } from './shots.ts';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  rig_id: string;
  revision_id: string;
  revision: number;
  document: unknown;
  file_version: number;
  campaign: Campaign;
  made_at: Date;
}

/** Campaigns of a rig, the newest first: what a list shows. */
export async function listCampaigns(db: Queryable, rigId: string): Promise<CampaignHead[]> {
  const { rows } = await db.query<{
    id: string;
    question: string;
    made_at: Date;
    planned: number;
    fired: number;
    closed: boolean;
  }>(
    `select c.id, c.campaign ->> 'question' as question, c.made_at, jsonb_array_length(c.campaign -> 'row') as planned,
       (select count(distinct s.shot -> 'campaign' ->> 'place')::int from shots s
        where s.removed_at is null and s.shot -> 'campaign' ->> 'id' = c.id::text and s.shot ->> 'outcome' in ('fired', 'partial')) as fired,
       exists (select from campaign_entries e where e.campaign_id = c.id and e.entry ->> 'kind' = 'closed') as closed
     from campaigns c join revisions v on v.id = c.revision_id where v.rig_id = $1 order by c.made_at desc, c.id limit 200`,
    [rigId],
  );
  return rows.map(({ id, question, made_at, planned, fired, closed }) => ({
    id,
    rigId,
    question,
    madeAt: made_at.toISOString(),
    planned,
    fired,
    isClosed: closed,
  }));
}

/** Hours of campaigns that are not closed, of every rig that is not put away; those that were changed as the book has them. */
export async function bookedHours(db: Queryable): Promise<Booked[]> {
  const { rows } = await db.query<{
    id: string;
    rig_id: string;
    document: unknown;
    file_version: number;
    question: string;
    sessions: Booked['sessions'];
  }>(
    `select c.id, v.rig_id, jsonb_build_object('name', v.document -> 'name') as document, v.file_version,
       c.campaign ->> 'question' as question,
       coalesce((select e.entry -> 'sessions' from campaign_entries e
         where e.campaign_id = c.id and e.entry ->> 'kind' = 'sessions' order by e.number desc limit 1), c.campaign -> 'sessions') as sessions
     from campaigns c join revisions v on v.id = c.revision_id join rigs g on g.id = v.rig_id
     where g.archived_at is null
       and not exists (select from campaign_entries e where e.campaign_id = c.id and e.entry ->> 'kind' = 'closed')
     order by c.made_at desc, c.id limit 200`,
  );
  return rows.map(({ id, rig_id, document, file_version, question, sessions }) => ({
    id,
    rigId: rig_id,
    rigName: documentName(readDocument(document, file_version)),
    question,
    sessions,
  }));
}

/** As this program has it: one that was kept before stocks and rests were counted has none. */
const asNow = (campaign: unknown): Campaign => campaignSchema.parse(campaign);

/** A campaign without its shots and its book; null where there is none. */
export async function campaignRow(db: Queryable, id: string): Promise<{ rigId: string; campaign: Campaign } | null> {
  const { rows } = await db.query<{ rig_id: string; campaign: Campaign }>(
    'select v.rig_id, c.campaign from campaigns c join revisions v on v.id = c.revision_id where c.id = $1',
    [id],
  );
  return rows[0] ? { rigId: rows[0].rig_id, campaign: asNow(rows[0].campaign) } : null;
}

export async function findCampaign(db: Queryable, id: string): Promise<StoredCampaign | null> {
  const { rows } = await db.query<Row>(
    `select c.id, v.rig_id, c.revision_id, v.number as revision, jsonb_build_object('name', v.document -> 'name') as document,
       v.file_version, c.campaign, c.made_at
     from campaigns c join revisions v on v.id = c.revision_id where c.id = $1`,
    [id],
  );
  const [row] = rows;
  if (!row) return null;
  const entries = await entriesOf(db, id);
  return {
    id: row.id,
    rigId: row.rig_id,
    rigName: documentName(readDocument(row.document, row.file_version)),
    revisionId: row.revision_id,
    revision: row.revision,
    madeAt: row.made_at.toISOString(),
    campaign: asNow(row.campaign),
    entries,
    shots: await shotsOfCampaign(db, id),
  };
}

async function entriesOf(db: Queryable, id: string): Promise<Entry[]> {
  const { rows } = await db.query<{ entry: Entry }>('select entry from campaign_entries where campaign_id = $1 order by number', [
    id,
  ]);
  return rows.map(({ entry }) => entry);
}

export interface NewCampaign {
  readonly id: string;
  readonly revisionId: string;
  readonly campaign: Campaign;
  /** Of one out of an archive. */
  readonly madeAt?: string;
}

/** @returns whether it was made: false where a campaign has this id already */
export async function insertCampaign(db: Queryable, { id, revisionId, campaign, madeAt }: NewCampaign): Promise<boolean> {
  const { rowCount } = await db.query(
    `insert into campaigns (id, revision_id, campaign, made_at) select $1, $2, $3, coalesce($4::timestamptz, now())
     where exists (select from revisions where id = $2) on conflict (id) do nothing`,
    [id, revisionId, JSON.stringify(campaign), madeAt ?? null],
  );
  return rowCount === 1;
}

/**
 * Writes a line into the book of a campaign. Two hands are put in a row by the lock of the campaign.
 *
 * @returns how many lines it has; null where a line has this id already
 */
export async function appendEntry(db: Queryable, campaignId: string, entry: Entry): Promise<number | null> {
  await db.query("select pg_advisory_xact_lock(hashtextextended('campaign ' || $1, 0))", [campaignId]);
  const { rows } = await db.query<{ number: number }>(
    `insert into campaign_entries (campaign_id, number, id, entry)
     select $1, coalesce((select max(number) from campaign_entries where campaign_id = $1), 0) + 1, $2, $3
     on conflict (id) do nothing returning number`,
    [campaignId, entry.id, JSON.stringify(entry)],
  );
  return rows[0]?.number ?? null;
}

export async function countEntries(db: Queryable, campaignId: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*)::int as count from campaign_entries where campaign_id = $1',
    [campaignId],
  );
  return rows[0]?.count ?? 0;
}

/** Checks of the workshop, the newest first. */
export async function listChecks(db: Queryable): Promise<Check[]> {
  const { rows } = await db.query<{ made: Check }>("select made from checks order by made ->> 'at' desc, id limit 200");
  return rows.map(({ made }) => made);
}

/** @returns whether it was written: false where a check has this id already */
export async function insertCheck(db: Queryable, check: Check): Promise<boolean> {
  const { rowCount } = await db.query('insert into checks (id, made) values ($1, $2) on conflict (id) do nothing', [
    check.id,
    JSON.stringify(check),
  ]);
  return rowCount === 1;
}

/** Campaigns with their books as an archive holds them: the next ones behind an id, of all rigs or of one. */
export async function campaignRecords(
  db: Queryable,
  rigId: string | null,
  after: string | null,
  most: number,
): Promise<CampaignRecord[]> {
  const { rows } = await db.query<Row>(
    `select c.id, c.revision_id, c.campaign, c.made_at from campaigns c join revisions v on v.id = c.revision_id
     where ($1::uuid is null or v.rig_id = $1) and ($2::uuid is null or c.id > $2) order by c.id limit $3`,
    [rigId, after, most],
  );
  const made: CampaignRecord[] = [];
  for (const { id, revision_id, campaign, made_at } of rows)
    made.push({ id, revisionId: revision_id, madeAt: made_at.toISOString(), campaign, entries: await entriesOf(db, id) });
  return made;
}

/** Writes a campaign out of an archive whose revision is here and that is not here yet, with its book. @returns whether it was written */
export async function restoreCampaign(
  db: Queryable,
  { id, revisionId, madeAt, campaign, entries }: CampaignRecord,
): Promise<boolean> {
  if (!(await insertCampaign(db, { id, revisionId, campaign: campaign as Campaign, madeAt }))) return false;
  await db.query(
    `insert into campaign_entries (campaign_id, number, id, entry)
     select $1, d.number, (d.entry ->> 'id')::uuid, d.entry
     from jsonb_array_elements($2::jsonb) with ordinality as d(entry, number) on conflict (id) do nothing`,
    [id, JSON.stringify(entries)],
  );
  return true;
}

export async function checkRecords(db: Queryable): Promise<CheckRecord[]> {
  const { rows } = await db.query<{ made: CheckRecord }>('select made from checks order by id');
  return rows.map(({ made }) => made);
}
