import { mkdtemp, rm } from 'node:fs/promises';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { pino } from 'pino';
import { type AppOptions, createApp } from '../app';
import { openStore, type Store } from '../database/open';
import { createIntegrityDesk, type IntegrityDesk } from '../integrity/integrity-desk';
import { storeMissingPassages } from '../passages';

/** A server in this process, over a folder of its own. */
export interface OpenServer {
  folder: string;
  store: Store;
  integrity: IntegrityDesk;
  port: number;
  /** Where its requests begin, without a slash at the end. */
  api: string;
  close(): Promise<void>;
}

/** Opens an {@link OpenServer} with the ready passages in it. */
export const openServer = async (options: Partial<Pick<AppOptions, 'stallMs' | 'log'>> = {}): Promise<OpenServer> => {
  const folder = await mkdtemp(join(tmpdir(), 'isochron-server-'));
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  const log = pino({ level: 'silent' });
  const integrity = createIntegrityDesk(store, log);
  const app = createApp({ store, integrity, host: '127.0.0.1', webFolder: folder, demo: false, log, ...options });
  const server = await new Promise<Server>((resolve) => {
    const started = app.listen(0, '127.0.0.1', () => resolve(started));
  });
  const { port } = server.address() as AddressInfo;
  return {
    folder,
    store,
    integrity,
    port,
    api: `http://127.0.0.1:${port}/api`,
    async close() {
      server.closeAllConnections();
      server.close();
      await store.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
};
