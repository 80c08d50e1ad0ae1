import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { HOUR_MS, setClock } from '@isochron/core/schema';
import { pino } from 'pino';
import { createApp } from './app';
import { sweepBackups } from './backup/backup-desk';
import { finishRestore } from './backup/finish-restore';
import { readConfig } from './config';
import { lockDataFolder } from './database/data-lock';
import { openStore } from './database/open';
import { StoreError } from './database/store-error';
import { seedDemo } from './demo/seed';
import { createIntegrityDesk } from './integrity/integrity-desk';
import { storeMissingPassages } from './passages';
import { sweepRecordings } from './recordings';
import { storageErrorOf } from './storage-error';

const config = readConfig(process.env);
setClock(config.now);
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

/** Ends with the sentence of a trouble that has one; anything else is a fault of the program. */
const endWith = (error: unknown): never => {
  const sentence = error instanceof StoreError ? error.message : storageErrorOf(error)?.message;
  if (!sentence) throw error;
  console.error(sentence);
  process.exit(1);
};
const lock = await lockDataFolder(config.dataFolder).catch(endWith);
const store = await openStore(config.dataFolder).catch(endWith);
const integrity = createIntegrityDesk(store, log);
await integrity.lookAtStart();
if (!store.isReadOnly) {
  await finishRestore(store);
  await sweepRecordings(store);
  await sweepBackups(config.dataFolder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  if (config.demo) await seedDemo(store, (line) => console.log(line));
}

const app = createApp({
  store,
  integrity,
  host: config.host,
  webFolder: fileURLToPath(new URL('../../web/dist', import.meta.url)),
  demo: config.demo,
  log,
});

const server = app.listen(config.port, config.host, (error?: Error) => {
  if (error) {
    const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    console.error(
      inUse ? `Port ${config.port} is taken. Stop the other program, or choose another: PORT=4311 npm run demo` : error.message,
    );
    process.exit(1);
  }
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : config.port;
  console.log(`Isochron is at http://${config.host === '127.0.0.1' ? 'localhost' : config.host}:${port}`);
});

// Longer than a page keeps a connection that it does not use: one that is closed just as the next question comes loses it.
server.keepAliveTimeout = 120_000;

// A backup of years of sound takes longer to arrive than other requests may.
server.requestTimeout = 0;

/** Who starts Isochron wants to play: what it looks after by itself can wait until that has begun. */
const FIRST_LOOK_MS = 60_000;
const lookAfter = () =>
  integrity.daily().catch((error: unknown) => log.error({ err: error }, 'today’s copy could not be made'));
const firstLook = globalThis.setTimeout(lookAfter, FIRST_LOOK_MS);
const hourly = setInterval(lookAfter, HOUR_MS);

/** Requests whose browser is gone may still read for a moment. */
const DRAIN_MS = 250;
const stop = () => {
  clearTimeout(firstLook);
  clearInterval(hourly);
  server.close(async () => {
    await integrity.cancel();
    await setTimeout(DRAIN_MS);
    await store.close();
    await lock.release();
    process.exit(0);
  });
  server.closeAllConnections();
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
// A limit on the size of files is answered by the write that meets it, not by the end of the program.
process.on('SIGXFSZ', () => {});
