import { cp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import { DEMO_DATA } from '../server/src/testing/demo-data';
import { type SpawnedServer, spawnServer } from '../server/src/testing/spawn-server';
import { driveClock } from './driven-clock';

/** The server of the file whose tests a worker runs. */
interface ServerOfFile {
  file: string;
  folder: string;
  server: SpawnedServer;
}

/**
 * Tests of the interface. Each file has a server of its own with the demo's data as they were made, so that files run beside each other and
 * in any order. The clock of the page is driven, and its microphone hears a file or nothing; `test.use({ clock: 'real' })` leaves both as
 * they are.
 */
export const test = base.extend<
  { clock: 'driven' | 'real'; microphone: string | null },
  { serverOf: { of(file: string): Promise<string> } }
>({
  clock: ['driven', { option: true }],
  microphone: [null, { option: true }],
  serverOf: [
    // biome-ignore lint/correctness/noEmptyPattern: this is how Playwright knows what a fixture needs.
    async ({}, use, { workerIndex }) => {
      let running: ServerOfFile | null = null;
      const end = async () => {
        await running?.server.kill();
        if (running) await rm(running.folder, { recursive: true, force: true });
      };
      await use({
        async of(file) {
          if (running?.file !== file) {
            await end();
            const folder = join(DEMO_DATA, '..', `data-${workerIndex}`);
            await rm(folder, { recursive: true, force: true });
            await cp(DEMO_DATA, folder, { recursive: true });
            running = { file, folder, server: await spawnServer(folder, { env: { ISOCHRON_DEMO: '1' } }) };
          }
          return running.server.origin;
        },
      });
      await end();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ serverOf }, use, { file }) => use(await serverOf.of(file)),
  context: async ({ context, clock, microphone }, use) => {
    if (clock === 'driven') await driveClock(context, microphone);
    await use(context);
  },
});

export { expect, type Locator, type Page } from '@playwright/test';
