import { join } from 'node:path';
import { nowMs } from '@isochron/core/schema';
import express, { type Express } from 'express';
import staticGzip from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { closeStalled } from './close-stalled';
import type { Store } from './database/open';
import { guardOrigin } from './guard-origin';
import type { IntegrityDesk } from './integrity/integrity-desk';
import { limitTogether } from './limit-together';
import { logRequests } from './log-requests';
import { createReanalyser } from './reanalysis/reanalysis';
import { answerFaults, RequestError } from './request-error';
import { accompanimentRoutes } from './routes/accompaniments';
import { backupRoutes } from './routes/backup';
import { faultRoutes } from './routes/faults';
import { integrityRoutes } from './routes/integrity';
import { notebookRoutes } from './routes/notebook';
import { passageRoutes } from './routes/passages';
import { practiceRoutes } from './routes/practice';
import { practiceConfigRoutes } from './routes/practice-configs';
import { practiceSessionRoutes } from './routes/practice-sessions';
import { reanalysisRoutes } from './routes/reanalysis';
import { settingsRoutes } from './routes/settings';
import { takeRoutes } from './routes/takes';
import { servePage } from './serve-page';
import { storageProbe } from './storage-error';

/** Thousands of notes, each with the notes of its chord: far more than an hour of playing. */
const BODY_BYTES = 64_000_000;
/** What bodies that are read into memory may come to together; read and understood they take some times as much. */
const BODIES_BYTES = 96_000_000;
const STALL_MS = 30_000;

/** What the browser may load: only what this server ships. Styles are written by the component library at run time. */
const CONTENT_POLICY = {
  useDefaults: false,
  directives: {
    defaultSrc: ["'self'"],
    // The busiest loops of listening are WebAssembly.
    scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    // The notation's font comes inside its script.
    fontSrc: ["'self'", 'data:'],
    imgSrc: ["'self'", 'data:'],
    mediaSrc: ["'self'", 'blob:'],
    workerSrc: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'none'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
};

/** What the application is made over. */
export interface AppOptions {
  store: Store;
  integrity: IntegrityDesk;
  host: string;
  /** The built interface. */
  webFolder: string;
  demo: boolean;
  log: Logger;
  /** An upload of which nothing comes for so long is closed. */
  stallMs?: number;
}

/** The whole application over an open store. */
export const createApp = (options: AppOptions): Express => {
  const { store, integrity, host, webFolder, demo, log, stallMs = STALL_MS } = options;
  const app = express();
  app.disable('x-powered-by');
  app.use(helmet({ contentSecurityPolicy: CONTENT_POLICY, strictTransportSecurity: false }));
  app.use((_request, response, next) => {
    response.setHeader('Permissions-Policy', 'microphone=(self), midi=(self), camera=(), geolocation=()');
    next();
  });
  app.use(logRequests(log));
  app.use(guardOrigin(host));
  app.use('/api', closeStalled(stallMs), limitTogether(BODY_BYTES, BODIES_BYTES), express.json({ limit: BODY_BYTES }));
  app.get('/api/health', async (_request, response) => {
    const storage = await storageProbe(store);
    response.json({ ok: true, demo, storage, unreadable: store.unreadable.sentences(), nowMs: nowMs() });
  });
  app.use('/api/passages', passageRoutes(store));
  app.use('/api/practice-configs', practiceConfigRoutes(store));
  app.use('/api/notebook', notebookRoutes(store));
  // A page that was opened before an update sends its takes under the names of before; the others wait for its reload.
  app.use(['/api/sessions', '/api/sittings'], practiceSessionRoutes(store));
  app.use('/api/takes', takeRoutes(store));
  app.use('/api/accompaniments', accompanimentRoutes(store));
  app.use('/api/practice', practiceRoutes(store));
  app.use('/api/settings', settingsRoutes(store));
  app.use('/api/backup', backupRoutes(store, integrity));
  app.use('/api/faults', faultRoutes(log));
  app.use('/api/integrity', integrityRoutes(integrity));
  app.use('/api/reanalysis', reanalysisRoutes(createReanalyser(store)));
  app.use('/api', () => {
    throw new RequestError(404, 'There is nothing at this address.');
  });
  // Their names change with their content: kept by the browser, they are there for the next take even if the server stops.
  app.use(
    '/assets',
    staticGzip(join(webFolder, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: { immutable: true, maxAge: '1y' },
    }),
  );
  app.use(express.static(webFolder, { index: false }));
  // Every other address is a place of the interface.
  app.get(/.*/, servePage(join(webFolder, 'index.html')));
  app.use(answerFaults(log));
  return app;
};
