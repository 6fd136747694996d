import type { Response } from 'express';
import pg from 'pg';
import { liveTables, type LiveTable, type RunTold, type Told } from '@vast-surge/contract';
import { connectionOf } from './db/connection.ts';
import type { Pool } from './db/pool.ts';
import { runEnd, runTail } from './db/runs.ts';

/** ms that changes are gathered before they are told: a save writes several tables. */
const gather = 60;
/** ms between two signs of life: whoever is between must not think that the line is dead. */
const beat = 10_000;
/** Lines that are kept open at the most, and bytes that one may lag behind. */
const mostLines = 500;
const mostBehind = 256 * 1024;
/** Events that are told of a run that was not told of before, and runs that are remembered. */
const firstTold = 20;
const mostRuns = 500;

type MayListen = () => Promise<boolean>;

interface Notice {
  readonly of: LiveTable;
  readonly ids: readonly string[];
}

function readNotice(payload: string | undefined): Notice | null {
  try {
    const { of, ids } = JSON.parse(payload ?? '') as { of: unknown; ids: unknown };
    const table = liveTables.find((one) => one === of);
    return table && Array.isArray(ids) ? { of: table, ids: ids.map(String) } : null;
  } catch {
    return null;
  }
}

/**
 * Tells whoever watches that something was written, by whichever server or command on the database. One connection listens while anybody
 * watches; one that was lost is opened again, and then everything is taken for changed.
 */
export class Live {
  /** Each with what says whether it may still listen. */
  private readonly lines = new Map<Response, MayListen>();
  private readonly gathered = new Map<LiveTable, Set<string> | null>();
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private beating: NodeJS.Timeout | null = null;
  private tries = 0;
  private isClosed = false;
  /** The last event of each run that was told. */
  private readonly lastOf = new Map<string, number>();

  constructor(
    private readonly databaseUrl: string,
    private readonly pool: Pool,
    /** ms between two signs of life. */
    private readonly beatEvery = beat,
  ) {}

  /** How many watch. */
  get watching(): number {
    return this.lines.size;
  }

  /**
   * @param mayListen asked at every sign of life: whoever was let in may be so no longer
   * @returns false where too many watch already
   */
  add(res: Response, mayListen: MayListen = () => Promise.resolve(true)): boolean {
    if (this.isClosed || this.lines.size >= mostLines) return false;
    res.set({
      'Content-Type': 'text/event-stream',
      // Nobody between may gather or squeeze what has to come at once.
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    });
    res.flushHeaders();
    res.write('retry: 2000\nevent: beat\ndata: {}\n\n');
    this.lines.set(res, mayListen);
    res.on('close', () => {
      this.lines.delete(res);
      if (this.lines.size === 0) this.rest();
    });
    this.beating ??= setInterval(() => this.beat(), this.beatEvery).unref();
    if (!this.client) this.listen();
    return true;
  }

  private beat(): void {
    this.send('event: beat\ndata: {}\n\n');
    for (const [res, mayListen] of this.lines)
      // Where that cannot be found out the line stands: what it tells is asked for through the gate anyway.
      mayListen().then(
        (may) => may || res.end(),
        () => undefined,
      );
  }

  /** Ends every line: whoever may still listen opens another. */
  recall(): void {
    for (const res of this.lines.keys()) res.end();
  }

  /** Ends every line; pages open another. */
  close(): Promise<void> {
    this.isClosed = true;
    for (const res of this.lines.keys()) res.end();
    this.lines.clear();
    return this.rest();
  }

  private rest(): Promise<void> {
    if (this.beating) clearInterval(this.beating);
    if (this.timer) clearTimeout(this.timer);
    this.beating = this.timer = null;
    this.gathered.clear();
    const { client } = this;
    this.client = null;
    return client ? client.end().catch(() => undefined) : Promise.resolve();
  }

  private listen(): void {
    const client = new pg.Client({ ...connectionOf(this.databaseUrl), connectionTimeoutMillis: 8000, keepAlive: true });
    this.client = client;
    const lost = () => {
      if (this.client !== client) return;
      this.client = null;
      client.end().catch(() => undefined);
      if (this.lines.size === 0 || this.isClosed) return;
      this.tries++;
      setTimeout(
        () => {
          if (!this.client && this.lines.size > 0 && !this.isClosed) this.listen();
        },
        Math.min(10_000, 250 * 2 ** this.tries),
      ).unref();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => {
      const notice = readNotice(payload);
      if (notice) this.note(notice);
    });
    client
      .connect()
      .then(() => client.query('listen live'))
      .then(() => {
        // What was written while nobody listened is not known, nor what was while the first who watches waited for this.
        this.send('event: all\ndata: {}\n\n');
        this.tries = 0;
      })
      .catch(lost);
  }

  private note({ of, ids }: Notice): void {
    const known = this.gathered.get(of);
    if (ids.length === 0 || known === null) this.gathered.set(of, null);
    else this.gathered.set(of, new Set([...(known ?? []), ...ids]));
    this.timer ??= setTimeout(() => {
      this.timer = null;
      const told: Told = Object.fromEntries([...this.gathered].map(([table, all]) => [table, all ? [...all] : []]));
      this.gathered.clear();
      this.send(`data: ${JSON.stringify(told)}\n\n`);
      // Read once for all who watch; who misses it asks.
      for (const id of told.run_events ?? []) this.tellRun(id).catch(() => undefined);
    }, gather);
  }

  private async tellRun(id: string): Promise<void> {
    const last = this.lastOf.get(id);
    const tail = await (last === undefined ? runEnd(this.pool, id, firstTold) : runTail(this.pool, id, last));
    const end = tail.events.at(-1);
    if (!end) return;
    if (this.lastOf.size >= mostRuns) this.lastOf.clear();
    this.lastOf.set(id, end.number);
    this.send(`event: run\ndata: ${JSON.stringify({ id, tail } satisfies RunTold)}\n\n`);
  }

  private send(text: string): void {
    for (const res of this.lines.keys()) {
      // Who does not read is let go, and asks again when it can.
      if (res.writableLength > mostBehind) res.destroy();
      else res.write(text);
    }
  }
}
