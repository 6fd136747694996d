import { createServer, type Server } from 'node:https';
import { join } from 'node:path';
import type { Express } from 'express';
import type { Logger } from 'pino';
import type { Opened, Opening } from '@vast-surge/contract';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { messageOf } from '../fail.ts';
import type { Doors } from '../people/gate.ts';
import { availableAddresses, inUrl } from './addresses.ts';
import { certificateFor, type Certificate } from './certificate.ts';
import { givenLink, type LinkMaker } from './links.ts';
import { openingOf } from './settings.ts';

/** ms between two looks at how the workshop is open. */
const every = 2000;

interface Door {
  readonly server: Server;
  trouble: string | null;
}

/** Where the keys lie. */
export const keysIn = (keep: string): string => join(keep, 'tls');

const troubleOf = (error: NodeJS.ErrnoException, port: number): string =>
  error.code === 'EADDRINUSE'
    ? `port ${port} is in use there`
    : error.code === 'EADDRNOTAVAIL'
      ? 'this machine does not have this address now'
      : messageOf(error);

/** Where a link leads: a name is what people can type, where there is one; else the first address that answers. */
export function baseOf({ names, addresses, port }: Opening, isAnswering: (address: string) => boolean = () => true): string {
  const at = addresses.find(isAnswering) ?? addresses[0] ?? '';
  return `https://${names[0] ?? inUrl(at)}:${port}`;
}

/** Answers other devices over TLS, and nothing else, at the addresses that the workshop is open at. */
export class WorkshopDoors implements Doors {
  private opening: Opening | null = null;
  private certificate: Certificate | null = null;
  private trouble: string | null = null;
  private readonly doors = new Map<string, Door>();
  private app: Express | null = null;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly pool: Pool,
    /** The folder of data; without one the workshop cannot be opened. */
    private readonly keep: string | null,
    private readonly log: Logger,
    private readonly onChange: () => void = () => undefined,
    /** What people ask a proxy by that stands before this server. */
    private readonly outside: URL | null = null,
  ) {}

  get isOpen(): boolean {
    return this.opening !== null;
  }

  /** Names and addresses by which other devices ask. */
  get names(): readonly string[] {
    if (!this.opening) return [];
    return [...this.opening.addresses.map(inUrl), ...this.opening.names, ...(this.outside ? [this.outside.hostname] : [])];
  }

  readonly link: LinkMaker = ({ token, expiresAt }) => givenLink(this.opening && this.base(this.opening), token, expiresAt);

  /** Where a link leads: through the proxy, where there is one. */
  base(opening: Opening): string {
    return this.outside?.origin ?? baseOf(opening, (at) => this.isAnswering(at));
  }

  private isAnswering(address: string): boolean {
    return this.doors.get(`${address} ${this.opening?.port ?? 0}`)?.trouble === null;
  }

  /** Reads how the workshop is open before anything is answered, then again and again. @throws where the database cannot be read */
  async start(app: Express): Promise<void> {
    this.app = app;
    await this.look();
    this.timer = setInterval(() => {
      this.look().catch((error: unknown) => {
        if (!isDatabaseAway(error)) this.log.error({ err: error }, 'the workshop could not be opened or closed');
      });
    }, every).unref();
  }

  async look(): Promise<void> {
    await this.apply(await openingOf(this.pool));
  }

  private async apply(opening: Opening | null): Promise<void> {
    const isChanged = JSON.stringify(opening) !== JSON.stringify(this.opening);
    this.opening = opening;
    if (isChanged) this.onChange();
    const wanted = new Set(opening?.addresses.map((address) => `${address} ${opening.port}`));
    for (const [key, { server }] of this.doors)
      if (!wanted.has(key)) {
        server.close();
        server.closeAllConnections();
        this.doors.delete(key);
      }
    if (!opening || !this.app) return;
    try {
      if (this.keep === null) throw new Error('this server has no folder for its keys');
      const made = await certificateFor(keysIn(this.keep), [...opening.names, ...opening.addresses]);
      if (made.chain !== this.certificate?.chain)
        for (const { server } of this.doors.values()) server.setSecureContext({ key: made.key, cert: made.chain });
      this.certificate = made;
      this.trouble = null;
    } catch (error) {
      this.trouble = messageOf(error);
      return;
    }
    for (const address of opening.addresses) await this.openAt(address, opening.port, this.app, this.certificate);
  }

  private async openAt(address: string, port: number, app: Express, { key, chain }: Certificate): Promise<void> {
    const name = `${address} ${port}`;
    const before = this.doors.get(name);
    if (before?.trouble === null) return;
    // Without TLS no other address is ever answered: there is no other way to listen here.
    const server = createServer({ key, cert: chain, minVersion: 'TLSv1.2' }, app);
    const trouble = await new Promise<string | null>((resolve) => {
      server.once('error', (error: NodeJS.ErrnoException) => resolve(troubleOf(error, port)));
      server.listen(port, address, () => resolve(null));
    });
    server.on('error', (error) => this.log.warn(`at ${address}: ${error.message}`));
    this.doors.set(name, { server, trouble });
  }

  /** What the page of it shows. */
  opened(): Opened {
    const { opening } = this;
    return {
      opening,
      available: availableAddresses(),
      listening: [
        ...(opening && this.outside ? [{ url: this.outside.origin, trouble: null }] : []),
        ...(opening?.addresses ?? []).map((address) => ({
          url: `https://${inUrl(address)}:${opening?.port ?? 0}`,
          trouble: this.trouble ?? this.doors.get(`${address} ${opening?.port ?? 0}`)?.trouble ?? null,
        })),
      ],
      certificate: this.certificate?.shown ?? null,
      first: null,
    };
  }

  close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    const closing = [...this.doors.values()].map(
      ({ server }) =>
        new Promise<void>((done) => {
          server.close(() => done());
          server.closeIdleConnections();
        }),
    );
    return Promise.all(closing).then(() => undefined);
  }
}
