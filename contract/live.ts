import type { RunTail } from './run.ts';

/** Tables that GET /api/live tells of. A test of the server holds them to the triggers of the database. */
export const liveTables = [
  'rigs',
  'rig_heads',
  'revisions',
  'runs',
  'run_events',
  'shots',
  'shot_files',
  'campaigns',
  'campaign_entries',
  'checks',
  'parts',
  'lots',
  'backups',
  'studies',
  'study_chunks',
] as const;
export type LiveTable = (typeof liveTables)[number];

/** What came into a run, said by an event `run` of its own: whoever watches a run asks for nothing. */
export interface RunTold {
  readonly id: string;
  readonly tail: RunTail;
}

/** What was written, by table: ids of rows, of rigs, runs and campaigns for what belongs to one; none where they were many. */
export type Told = Readonly<Partial<Record<LiveTable, readonly string[]>>>;
