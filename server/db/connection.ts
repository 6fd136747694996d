import { createRequire } from 'node:module';

interface Asked {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly database: string;
}
/** It has no types of its own. */
const pgpass = createRequire(import.meta.url)('pgpass') as (asked: Asked, found: (password: string | undefined) => void) => void;

type Connection =
  | { readonly connectionString: string }
  | {
      readonly host: string;
      readonly port: number;
      readonly user: string;
      readonly database: string;
      readonly password: () => Promise<string>;
    };

/**
 * How a database is reached by its address. An address without a password takes it from the file that PGPASSFILE names, so that it stands in
 * no list of processes.
 */
export function connectionOf(url: string): Connection {
  const { hostname, port, username, password, pathname } = new URL(url);
  if (password !== '') return { connectionString: url };
  const asked = {
    host: decodeURIComponent(hostname),
    port: Number(port || 5432),
    user: decodeURIComponent(username),
    database: decodeURIComponent(pathname.slice(1)),
  };
  return {
    ...asked,
    // It looks into no file where the environment has a password.
    password: () => new Promise((resolve) => pgpass(asked, (found) => resolve(found ?? process.env['PGPASSWORD'] ?? ''))),
  };
}
