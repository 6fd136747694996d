import { existsSync } from 'node:fs';
import { isIP } from 'node:net';
import staticGzip from 'express-static-gzip';
import express, { type Express, type RequestHandler } from 'express';
import compression from 'compression';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { rigFileLimit } from '@vast-surge/core/format';
import { shotFileLimit } from '@vast-surge/contract';
import { Archives } from '../archive/archives.ts';
import { addressOf, type Pool } from '../db/pool.ts';
import { RigHeads } from '../jobs/heads.ts';
import { archiveRoutes } from './archive.ts';
import { isTooDeep } from './bounds.ts';
import { backupRoutes } from './backups.ts';
import { campaignRoutes, checkRoutes } from './campaigns.ts';
import { faultHandler, HttpFault } from './fault.ts';
import { eventBudgets, ownPagesOnly, usualBudget } from './guard.ts';
import { health } from './health.ts';
import { lotRoutes, partRoutes, partsBodyLimit } from './parts.ts';
import { revisionRoutes, rigRoutes } from './rigs.ts';
import { findRun } from '../db/runs.ts';
import { openApiRoutes } from './openapi/page.ts';
import { runRoutes } from './runs.ts';
import { found, idOf } from './write.ts';
import { shotRoutes } from './shots.ts';
import { studyRoutes } from './studies.ts';
import { openingRoutes } from './opening.ts';
import { auditRoutes, peopleRoutes } from './people.ts';
import { sessionRoutes } from './session.ts';
import { gate } from '../people/gate.ts';
import { isLetIn } from '../people/accounts.ts';
import { visitorNow } from '../people/visitor.ts';
import type { Proxy } from '../opening/proxy.ts';
import { WorkshopDoors } from '../opening/doors.ts';
import { Instruments } from '../instruments/instruments.ts';
import { Live } from '../live.ts';

export interface AppOptions {
  readonly db: Pool;
  readonly log: Logger;
  readonly version: string;
  /** Folder of the built interface; without one only the API is served. */
  readonly webRoot?: string;
  /** Requests a minute from one address. */
  readonly rate?: number;
  /** The folder of data: the disk it is on is looked at. */
  readonly keep?: string | null;
  /** Instruments that may be asked; without them only the stand-ins of rehearsals. */
  readonly instruments?: Instruments;
  readonly archives?: Archives;
  readonly heads?: RigHeads;
  readonly live?: Live;
  /** What stands before this server; without it nothing is believed of who asks but the connection. */
  readonly proxy?: Proxy | null;
  /** Where other devices come in; without it they never do. */
  readonly doors?: WorkshopDoors;
  /** s that a chunk of a study takes, about. */
  readonly chunkSeconds?: number;
  /** Backups by themselves were switched on, off, or to something else. */
  onBackupsSet?(): void;
}

/** Room for the choices of an import of twenty thousand rigs. */
const choicesLimit = 2 * 1024 * 1024;

const security = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'"],
      // What scripts set on elements they made is not meant by this; no element and no attribute brings a style of its own.
      styleSrc: ["'self'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
});

/** Whoever came over TLS comes over it for a day: a slip of the keyboard does not go out in the clear. Never on the machine itself. */
const overTls: RequestHandler = (req, res, next) => {
  if (req.secure && req.hostname !== 'localhost' && isIP(req.hostname) === 0)
    res.set('Strict-Transport-Security', 'max-age=86400');
  next();
};

function interfaceRoutes(app: Express, webRoot: string) {
  // What the build compressed once is not compressed again for everybody who asks.
  const assets = staticGzip(`${webRoot}/assets`, {
    enableBrotli: true,
    orderPreference: ['br', 'gz'],
    serveStatic: { immutable: true, maxAge: '1y' },
  });
  app.use('/assets', assets, () => {
    // A name with a sum in it that is not there is asked for by a page from before an upgrade.
    throw new HttpFault('old_page');
  });
  app.use(express.static(webRoot, { index: false }));
  app.get(/^\/(?!api(\/|$)).*/, (_req, res) => {
    // Named below its root, so that a checkout below a dotted folder is served as well.
    res.set('Cache-Control', 'no-cache').sendFile('index.html', { root: webRoot });
  });
}

/** Bodies of so many bytes at the most, looked at before they are parsed. */
const json = (limit: number): RequestHandler =>
  express.json({
    limit,
    verify: (_req, _res, bytes) => {
      if (isTooDeep(bytes)) throw new HttpFault('bad_input', [], 'The request is nested deeper than 40 levels.');
    },
  });

/** The whole application over one database, not yet listening. */
export function createApp({
  db,
  log,
  version,
  webRoot,
  keep = null,
  rate = 1200,
  instruments = new Instruments([]),
  archives = new Archives(addressOf(db)),
  heads = new RigHeads(db, version),
  live = new Live(addressOf(db), db),
  proxy = null,
  doors = new WorkshopDoors(db, keep, log),
  chunkSeconds,
  onBackupsSet = () => undefined,
}: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  if (proxy) app.set('trust proxy', [...proxy.trusted]);
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: (req: { method: string; url: string }) => ({ method: req.method, url: req.url }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
      },
      // A database that is away is nothing to mend here; the line says so without a stack.
      customLogLevel: (_req, res, err) => (res.statusCode === 503 ? 'warn' : err || res.statusCode >= 500 ? 'error' : 'debug'),
      customErrorObject: (_req, res, _err, value: object) => (res.statusCode === 503 ? { ...value, err: undefined } : value),
    }),
  );
  app.use(ownPagesOnly(doors), security, overTls, compression());
  app.get('/api/health', health({ db, version, keep, ...(webRoot ? { webRoot } : {}) }));
  app.use('/api', usualBudget(rate), gate(db, doors));
  app.get('/api/live', (_req, res) => {
    const device = visitorNow()?.device;
    if (!live.add(res, device === undefined ? undefined : () => isLetIn(db, device))) throw new HttpFault('too_many');
  });
  app.use('/api', openApiRoutes(version));
  app.use('/api/archive', json(choicesLimit), archiveRoutes(db, archives));
  app.use('/api/parts', json(partsBodyLimit), partRoutes(db));
  app.use('/api/shots', json(shotFileLimit), shotRoutes(db));
  app.use('/api', json(rigFileLimit), ...eventBudgets(rate));
  app.use('/api/session', sessionRoutes(db, doors, doors.link));
  app.use(
    '/api/people',
    peopleRoutes(db, doors.link, () => live.recall()),
  );
  app.use('/api/audit', auditRoutes(db));
  app.use('/api/opening', openingRoutes(db, doors, keep));
  app.use('/api/backups', backupRoutes(db, onBackupsSet));
  app.use('/api/campaigns', campaignRoutes(db));
  app.use('/api/checks', checkRoutes(db));
  app.use('/api/lots', lotRoutes(db));
  app.use('/api/rigs', rigRoutes(db, heads));
  app.use('/api/revisions', revisionRoutes(db));
  app.use('/api/studies', studyRoutes(db, heads.program, chunkSeconds));
  app.use('/api/runs', runRoutes(db, instruments, heads.program));
  app.get('/api/instruments', async (req, res) => {
    const { run } = req.query;
    res.json(await instruments.list(run === undefined ? null : found(await findRun(db, idOf(run, 'run')), 'run')));
  });
  app.use('/api', () => {
    throw new HttpFault('not_found');
  });
  if (webRoot && existsSync(`${webRoot}/index.html`)) interfaceRoutes(app, webRoot);
  app.use(() => {
    throw new HttpFault('not_found');
  });
  app.use(faultHandler);
  return app;
}
