import { createHash } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import type { z } from 'zod';
import { fieldIssues, forbiddenKey } from '@vast-surge/core/format';
import { rigIdSchema, writeKeyHeader, writeKeySchema } from '@vast-surge/contract';
import { writeOnce, type Answer } from '../db/transaction.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { HttpFault } from './fault.ts';

/** The body as its schema wants it. @throws HttpFault naming every field that is wrong */
export function bodyOf<T extends z.ZodType>(schema: T, body: unknown): z.output<T> {
  if (body === undefined) throw new HttpFault('unsupported_type');
  const key = forbiddenKey(body);
  if (key !== null) throw new HttpFault('bad_input', [{ path: key, reason: 'is a key that no request has' }]);
  const read = schema.safeParse(body);
  if (read.success) return read.data;
  const fields = fieldIssues(read.error).map(({ path, reason }) => ({ path, reason }));
  const words = fields.map((f) => `${f.path} ${f.reason}`).join('; ');
  throw new HttpFault('bad_input', fields, words.slice(0, 1000));
}

/** The id in an address. @throws HttpFault where it is none */
export function idOf(value: unknown, noun: string): string {
  const read = rigIdSchema.safeParse(value);
  if (read.success) return read.data;
  throw new HttpFault(
    'not_found',
    [{ path: 'id', reason: `is not the id of a ${noun}` }],
    `There is no ${noun} under this address.`,
  );
}

/** @throws HttpFault where there is nothing */
export function found<T>(value: T | null, noun: string): T {
  if (value === null) throw new HttpFault('not_found', [], `There is no ${noun} under this address.`);
  return value;
}

function keyOf(req: Request): string {
  const read = writeKeySchema.safeParse(req.get(writeKeyHeader));
  if (read.success) return read.data.toLowerCase();
  throw new HttpFault(
    'bad_input',
    [{ path: writeKeyHeader, reason: 'must be a UUID of this request alone' }],
    `${writeKeyHeader}: every write carries this header, a UUID of its own that stays the same when it is sent again.`,
  );
}

/** What was asked, short: a repetition has the same, anything else does not. */
const requestOf = (req: Request): string =>
  `${req.method} ${req.originalUrl} ${createHash('sha256')
    .update(JSON.stringify(req.body ?? null))
    .digest('hex')}`;

/**
 * A route that writes. `read` checks the request before anything is opened; what it gives is done in one transaction,
 * once for each key, and answered only after the commit.
 */
export const writes =
  (pool: Pool, read: (req: Request) => (client: Queryable) => Promise<Answer>): RequestHandler =>
  async (req, res) => {
    const work = read(req);
    const { status, body } = await writeOnce(pool, keyOf(req), requestOf(req), work);
    res.status(status).json(body);
  };
