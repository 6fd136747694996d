import type { Request } from 'express';
import { pageLimit } from '@vast-surge/contract';
import { behindOf, type Behind } from '../db/page.ts';
import { HttpFault } from './fault.ts';
import { idOf } from './write.ts';

const wrong = (path: string, reason: string) => new HttpFault('bad_input', [{ path, reason }], `${path} ${reason}.`);

/** A text of the query, or what stands for none. @throws HttpFault where it is too long or not one */
export function textOf(req: Request, name: string, none = ''): string {
  const value = req.query[name];
  if (value === undefined) return none;
  if (typeof value !== 'string' || value.length > 200) throw wrong(name, 'must be a text of at most 200 characters');
  return value;
}

/** One of a few words. @throws HttpFault */
export function oneOf<T extends string>(req: Request, name: string, words: readonly T[], none: T): T {
  const value = textOf(req, name, none);
  const found = words.find((word) => word === value);
  if (found === undefined) throw wrong(name, `must be one of ${words.join(', ')}`);
  return found;
}

export const idIn = (req: Request, name: string): string | null =>
  req.query[name] === undefined ? null : idOf(req.query[name], name);

/** Which page is asked for. @throws HttpFault */
export function pageIn(req: Request, usual = 50): { readonly behind: Behind | null; readonly limit: number } {
  const limit = Number(textOf(req, 'limit', String(usual)));
  if (!Number.isInteger(limit) || limit < 1 || limit > pageLimit) throw wrong('limit', `must be from 1 to ${pageLimit}`);
  const cursor = req.query['after'];
  if (cursor === undefined) return { behind: null, limit };
  const behind = typeof cursor === 'string' && cursor.length <= 500 ? behindOf(cursor) : null;
  if (behind === null) throw wrong('after', 'must be the "next" of a page');
  return { behind, limit };
}
