import { z } from 'zod';
import { pageLimit, type Role } from '@vast-surge/contract';

/** Roles that go together. */
export const administers = ['administers'] as const;
export const designs = ['designs'] as const;
export const runs = ['acts', 'reads'] as const;
export const works = ['designs', 'acts', 'reads'] as const;

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

/** What is answered as it is. */
export type FileType = 'application/zip' | 'text/event-stream' | 'text/csv' | 'application/x-x509-ca-cert';

/** One route of the API, as its page tells it. */
export interface ApiRoute {
  readonly method: Method;
  /** As Express writes it. */
  readonly path: string;
  readonly about: string;
  readonly query?: Readonly<Record<string, z.ZodType>>;
  /** JSON, or a file as it is. */
  readonly body?: z.ZodType | 'application/zip';
  /** Of a success: its status, and JSON, or a file. */
  readonly answer: readonly [status: number, body: z.ZodType | FileType];
  /** Whether it carries a key, so that a repetition is done once. */
  readonly writes?: true;
  /**
   * Who may ask in a workshop that other devices come into: whoever has one of these roles, everybody who is signed in, or anybody. A route
   * without it does not compile, and one that is served and not in this table is answered to nobody.
   */
  readonly may: readonly Role[] | 'everybody' | 'anybody';
  /** It can break a run off: that may everybody, whatever their roles. */
  readonly abort?: true;
  /** It writes nothing and stands in the audit all the same, for what is told leaves the workshop. */
  readonly audited?: true;
}

export const words = z.string().max(200).describe('Words that have to stand in it.');
export const page = {
  limit: z.int().min(1).max(pageLimit).describe('Rows of a page.'),
  after: z.string().max(500).describe('The `next` of the page before.'),
};
export const numbered = { after: z.int().min(0).describe('What came after this number; 0 for everything.') };
export const idSchema = z.object({ id: z.uuid() });
