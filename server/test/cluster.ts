import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './site.ts';

/** Starts a cluster of PostgreSQL for this process alone, named by the environment as the tests want it. @returns what ends it */
export function throwAwayCluster(): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'surge-cluster-'));
  chmodSync(folder, 0o711);
  const cluster = (verb: string) =>
    execFileSync(join(root, 'scripts/cluster.sh'), [verb, folder], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
      .trim()
      .split('\n');
  const [owner = '', app = ''] = cluster('start');
  process.env['DATABASE_URL'] = owner;
  process.env['DATABASE_APP_URL'] = app;
  return () => {
    cluster('stop');
    rmSync(folder, { recursive: true, force: true });
  };
}
