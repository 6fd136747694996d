import { spawn, spawnSync, type ChildProcess, type SpawnOptions } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { connect, createServer, type Server, type Socket } from 'node:net';

const ip = (...words: string[]): boolean => spawnSync('ip', words, { stdio: 'ignore' }).status === 0;

/**
 * A host of its own: a network namespace with one line to this machine, over which nothing but the database is reached. It needs the rights
 * of root and the tools of iproute2; {@link Host.make} is null where it cannot be had.
 */
export class Host {
  private constructor(
    private readonly name: string,
    /** Of this machine on the line. */
    private readonly here: string,
    private readonly relay: Server,
    private readonly open: ReadonlySet<Socket>,
  ) {}

  /** @param databaseUrl as it is reached from this machine */
  static async make(databaseUrl: string): Promise<Host | null> {
    const name = `vs${randomInt(1e6).toString(36)}`;
    const line = `10.${randomInt(64, 250)}.${randomInt(1, 250)}`;
    if (!ip('netns', 'add', name)) return null;
    const isLaid =
      ip('link', 'add', `${name}h`, 'type', 'veth', 'peer', 'name', 'eth0', 'netns', name) &&
      ip('addr', 'add', `${line}.1/30`, 'dev', `${name}h`) &&
      ip('link', 'set', `${name}h`, 'up') &&
      ip('-n', name, 'addr', 'add', `${line}.2/30`, 'dev', 'eth0') &&
      ip('-n', name, 'link', 'set', 'eth0', 'up') &&
      ip('-n', name, 'link', 'set', 'lo', 'up');
    if (!isLaid) {
      ip('netns', 'del', name);
      return null;
    }
    const { hostname, port } = new URL(databaseUrl);
    const open = new Set<Socket>();
    const relay = createServer((from) => {
      const to = connect(Number(port), hostname);
      for (const one of [from, to]) {
        open.add(one);
        one.once('close', () => open.delete(one));
      }
      from.pipe(to).pipe(from);
      from.on('error', () => to.destroy());
      to.on('error', () => from.destroy());
    });
    const listens = await new Promise<boolean>((resolve) => {
      relay.once('error', () => resolve(false));
      relay.listen(0, `${line}.1`, () => resolve(true));
    });
    const made = new Host(name, `${line}.1`, relay, open);
    if (listens && made.hasLine()) return made;
    await made.end();
    return null;
  }

  private get port(): number {
    const at = this.relay.address();
    return typeof at === 'object' && at ? at.port : 0;
  }

  /** Whether something run there comes through to here: rights may be lacking, or a filter stand between. */
  private hasLine(): boolean {
    const program = `const end = process.exit; require('net').connect(${this.port}, '${this.here}', () => end(0)).on('error', () => end(1));
      setTimeout(end, 3000, 1);`;
    return spawnSync('ip', ['netns', 'exec', this.name, process.execPath, '-e', program], { stdio: 'ignore' }).status === 0;
  }

  /** An address of the database as this host reaches it. */
  reaches(databaseUrl: string): string {
    const url = new URL(databaseUrl);
    url.hostname = this.here;
    url.port = String(this.port);
    return url.href;
  }

  run(command: string, words: readonly string[], options: SpawnOptions): ChildProcess {
    return spawn('ip', ['netns', 'exec', this.name, command, ...words], options);
  }

  /** Pulls the plug of its line, or puts it back. */
  plug(isIn: boolean): void {
    ip('link', 'set', `${this.name}h`, isIn ? 'up' : 'down');
  }

  async end(): Promise<void> {
    ip('netns', 'del', this.name);
    for (const socket of this.open) socket.destroy();
    await new Promise((resolve) => this.relay.close(resolve));
  }
}
