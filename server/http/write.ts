import { createHash } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import type { z } from 'zod';
import { fieldIssues } from '@vast-surge/core/format';
import { rigIdSchema, writeKeyHeader, writeKeySchema, type Fault } from '@vast-surge/contract';
import { writing } from '../db/gate.ts';
import { writeOnce, type Answer } from '../db/transaction.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { eachItem, outOfBounds, usualBounds, type Bounds } from './bounds.ts';
import { noteVisitor } from '../people/audit.ts';
import { keptPicture, NoPicture } from '../picture.ts';
import { HttpFault } from './fault.ts';

/** The body as its schema wants it. @throws HttpFault naming every field that is wrong */
export function bodyOf<T extends z.ZodType>(schema: T, body: unknown, bounds: Bounds = usualBounds): z.output<T> {
  if (body === undefined) throw new HttpFault('unsupported_type');
  const beyond = outOfBounds(body, bounds);
  if (beyond !== null) throw wrongFields([beyond]);
  const read = schema.safeParse(body);
  if (read.success) return read.data;
  throw wrongFields(fieldIssues(read.error).map(({ path, reason }) => ({ path, reason })));
}

/** Items of a long list as their schema wants them. @throws HttpFault naming those that are wrong */
export async function itemsOf<T extends z.ZodType>(schema: T, items: readonly unknown[], path: string): Promise<z.output<T>[]> {
  const read = await eachItem(schema, items, path);
  if ('items' in read) return read.items;
  throw wrongFields(read.wrong);
}

export const wrongFields = (fields: readonly Fault['fields'][number][]): HttpFault =>
  new HttpFault(
    'bad_input',
    [...fields],
    fields
      .map((f) => `${f.path} ${f.reason}`)
      .join('; ')
      .slice(0, 1000),
  );

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

/** A picture as it is kept. @throws HttpFault where it is none */
export async function pictureOf(url: string, most: number, path: string): Promise<string> {
  try {
    return await keptPicture(url, most);
  } catch (error) {
    if (error instanceof NoPicture) throw wrongFields([{ path, reason: error.message }]);
    throw error;
  }
}

/** @throws HttpFault where there is nothing */
export function found<T>(value: T | null, noun: string): T {
  if (value === null) throw new HttpFault('not_found', [], `There is no ${noun} under this address.`);
  return value;
}

/** The key of a write. @throws HttpFault where there is none */
export function keyOf(req: Request): string {
  const read = writeKeySchema.safeParse(req.get(writeKeyHeader));
  if (read.success) return read.data.toLowerCase();
  throw new HttpFault(
    'bad_input',
    [{ path: writeKeyHeader, reason: 'must be a UUID of this request alone' }],
    `${writeKeyHeader}: every write carries this header, a UUID of its own that stays the same when it is sent again.`,
  );
}

/** What was asked, short: a repetition has the same, anything else does not. */
export const requestOf = (req: Request): string =>
  `${req.method} ${req.originalUrl} ${createHash('sha256')
    .update(JSON.stringify(req.body ?? null))
    .digest('hex')}`;

type Work = (client: Queryable) => Promise<Answer>;

/** Does a work and notes last who did it: what waits for its place in the audit holds nobody else up. */
async function audited(client: Queryable, work: Work): Promise<Answer> {
  const answer = await work(client);
  await noteVisitor(client);
  return answer;
}

/**
 * A route that writes. `read` checks the request before anything is opened; what it gives is done in one transaction,
 * once for each key, and answered only after the commit.
 *
 * @param after what follows from it, begun once it is written: before that nobody else could see it
 */
export const writes =
  (pool: Pool, read: (req: Request) => Work | Promise<Work>, after?: () => void): RequestHandler =>
  async (req, res) => {
    const work = await read(req);
    const [key, request] = [keyOf(req), requestOf(req)];
    const { status, body } = await writing(pool, (client) => writeOnce(client, key, request, (inside) => audited(inside, work)));
    after?.();
    res.status(status).json(body);
  };

/**
 * A route that writes and whose answer is kept nowhere, for there is a secret in it or it does the same when it is done again: without a key.
 * What a visitor does stands in the audit with it.
 */
export const writesUnkept =
  (pool: Pool, read: (req: Request) => Work | Promise<Work>, after?: () => void): RequestHandler =>
  async (req, res) => {
    const work = await read(req);
    const { status, body } = await writing(pool, (client) => audited(client, work));
    after?.();
    res.set('Cache-Control', 'no-store').status(status).json(body);
  };
