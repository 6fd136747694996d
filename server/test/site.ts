import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { migrate } from '../db/migrate.ts';
import { openPool } from '../db/pool.ts';
import { installQueue } from '../studies/queue.ts';

export const root = fileURLToPath(new URL('../..', import.meta.url));

export const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** A server and a database of their own, each of which can be killed and started again. */
export class Site {
  private readonly folder = mkdtempSync(join(tmpdir(), 'surge-soak-'));
  private server: ChildProcess | null = null;
  private url = '';
  /** How the server ended although nobody killed it. */
  ended: string | null = null;
  port = 0;

  private cluster(verb: string): string {
    const { status, stdout, stderr } = spawnSync(join(root, 'scripts/cluster.sh'), [verb, this.folder], { encoding: 'utf8' });
    if (status !== 0) throw new Error(`cluster ${verb}: ${stderr}`);
    return stdout.trim();
  }

  async start(): Promise<void> {
    spawnSync('chmod', ['711', this.folder]);
    this.port = await freePort();
    this.startDatabase();
    await migrate(this.url);
    const owner = openPool(this.url, () => undefined, { max: 2 });
    await installQueue(owner);
    await owner.end();
    await this.startServer();
  }

  startDatabase(): void {
    const [url = ''] = this.cluster('start').split('\n');
    if (this.url !== '' && url !== this.url) throw new Error('the cluster came back at another address');
    this.url = url;
  }

  async startServer(): Promise<void> {
    const env = {
      ...process.env,
      DATABASE_URL: this.url,
      PORT: String(this.port),
      VAST_SURGE_DEMO: 'no',
      VAST_SURGE_RATE: '1000000',
      VAST_SURGE_PAUSE: '1',
      LOG_LEVEL: 'fatal',
    };
    const loader = join(root, 'node_modules/tsx/dist/loader.mjs');
    const server = spawn(process.execPath, ['--import', loader, join(root, 'server/main.ts')], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.server = server;
    await new Promise<void>((resolve, reject) => {
      server.stdout.once('data', () => resolve());
      // The server ends only by being killed: if it ends by itself, that is what is to be found out here.
      server.once('exit', (code, signal) => {
        if (signal !== 'SIGKILL') this.ended = `the server ended by itself, with code ${code} and signal ${signal}`;
      });
      server.once('exit', (code) => reject(new Error(`the server ended with ${code} before it listened`)));
    });
  }

  async killServer(): Promise<void> {
    const { server } = this;
    if (!server || server.exitCode !== null) return;
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await ended;
  }

  /** As Ctrl+C does it. @returns the exit code */
  async stopServer(): Promise<number | null> {
    const { server } = this;
    if (!server || server.exitCode !== null) return null;
    const ended = new Promise<number | null>((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    return ended;
  }

  killDatabase(): void {
    this.cluster('kill');
  }

  async end(): Promise<void> {
    await this.killServer();
    this.cluster('stop');
    rmSync(this.folder, { recursive: true, force: true });
  }
}
