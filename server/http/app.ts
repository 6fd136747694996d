import { existsSync } from 'node:fs';
import express, { type Express, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { rigFileLimit } from '@vast-surge/core/format';
import { shotFileLimit, type Health } from '@vast-surge/contract';
import type { Pool } from '../db/pool.ts';
import { faultHandler, HttpFault, sendFault } from './fault.ts';
import { archiveBodyLimit, archiveRoutes } from './archive.ts';
import { lotRoutes, partRoutes, partsBodyLimit } from './parts.ts';
import { revisionRoutes, rigRoutes } from './rigs.ts';
import { findRun } from '../db/runs.ts';
import { runRoutes } from './runs.ts';
import { found, idOf } from './write.ts';
import { shotRoutes } from './shots.ts';
import { Instruments } from '../instruments/instruments.ts';

export interface AppOptions {
  readonly db: Pool;
  readonly log: Logger;
  readonly version: string;
  /** Folder of the built interface; without one only the API is served. */
  readonly webRoot?: string;
  /** Requests a minute from one address. */
  readonly rate?: number;
  /** Instruments that may be asked; without them only the stand-ins of rehearsals. */
  readonly instruments?: Instruments;
}

const ownNames = new Set(['127.0.0.1', 'localhost', '[::1]']);

const hostName = (host: string): string => host.replace(/:\d+$/, '');

/** Refuses requests that another page sends here: by name (DNS rebinding) or by origin. */
const ownPagesOnly: RequestHandler = (req, res, next) => {
  const host = req.headers.host ?? '';
  const origin = req.headers.origin;
  const foreignOrigin = origin !== undefined && origin !== `http://${host}`;
  if (!ownNames.has(hostName(host)) || foreignOrigin) sendFault(res, new HttpFault('forbidden_host'));
  else next();
};

const security = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'"],
      // Plots and positioned overlays set style attributes; no style comes from elsewhere.
      styleSrc: ["'self'", "'unsafe-inline'"],
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

const health =
  (db: Pool, version: string): RequestHandler =>
  async (_req, res) => {
    const database = await db.query('select 1').then(
      () => 'up' as const,
      () => 'away' as const,
    );
    const body: Health = { server: 'up', database, version };
    res.status(database === 'up' ? 200 : 503).json(body);
  };

function interfaceRoutes(app: Express, webRoot: string) {
  app.use('/assets', express.static(`${webRoot}/assets`, { immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(webRoot, { index: false }));
  app.get(/^\/(?!api(\/|$)).*/, (_req, res) => {
    // Named below its root, so that a checkout below a dotted folder is served as well.
    res.set('Cache-Control', 'no-cache').sendFile('index.html', { root: webRoot });
  });
}

/** The whole application over one database, not yet listening. */
export function createApp({ db, log, version, webRoot, rate = 1200, instruments = new Instruments([]) }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
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
  app.use(ownPagesOnly, security);
  app.get('/api/health', health(db, version));
  app.use(
    '/api',
    rateLimit({
      windowMs: 60_000,
      limit: rate,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: (_req, res) => sendFault(res, new HttpFault('too_many')),
    }),
  );
  app.use('/api/archive', express.json({ limit: archiveBodyLimit }), archiveRoutes(db));
  app.use('/api/parts', express.json({ limit: partsBodyLimit }), partRoutes(db));
  app.use('/api/shots', express.json({ limit: shotFileLimit }), shotRoutes(db));
  app.use('/api', express.json({ limit: rigFileLimit }));
  app.use('/api/lots', lotRoutes(db));
  app.use('/api/rigs', rigRoutes(db));
  app.use('/api/revisions', revisionRoutes(db));
  app.use('/api/runs', runRoutes(db, instruments));
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
