import { AsyncLocalStorage } from 'node:async_hooks';
import { forWhom, type Account, type Role } from '@vast-surge/contract';
import { HttpFault } from '../http/fault.ts';

/** Who a request comes from, in a workshop that other devices come into. */
export interface Visitor {
  readonly account: Account;
  readonly device: string;
  /** What is asked, as the audit names it, and the id it is asked of. */
  readonly act: string;
  readonly about: string | null;
  /** What this person may do now is break a run off, and nothing else: a role or the device was taken back while it went on. */
  readonly abortsOnly: boolean;
  /** Its entry of the audit stands. */
  isNoted: boolean;
}

const visitors = new AsyncLocalStorage<Visitor>();

/** Does something for a visitor: whatever it writes is theirs. */
export const asVisitor = <T>(visitor: Visitor, work: () => T): T => visitors.run(visitor, work);

/** Whoever asks now; null where the workshop is not open: then whoever uses the machine may do everything. */
export const visitorNow = (): Visitor | null => visitors.getStore() ?? null;

/** In words, who may do something, for whoever may not. */
export const notAllowed = (may: readonly Role[]): HttpFault =>
  new HttpFault(
    'not_allowed',
    [],
    `${forWhom(may)}; your roles do not have it. Whoever administers the workshop can give it to you.`,
  );

/** Whether somebody has one of these roles. */
export const hasRole = ({ roles }: Account, may: readonly Role[]): boolean => roles.some((role) => may.includes(role));

/** @throws HttpFault where somebody asks who has none of these roles */
export function expectRole(...may: readonly Role[]): void {
  const visitor = visitorNow();
  if (visitor && !hasRole(visitor.account, may)) throw notAllowed(may);
}
