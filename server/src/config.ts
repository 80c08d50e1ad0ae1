import { resolve } from 'node:path';
import { z } from 'zod';

const Environment = z.object({
  PORT: z.coerce.number().int().min(0).max(65_535).default(4310),
  ISOCHRON_HOST: z.string().default('127.0.0.1'),
  ISOCHRON_DATA: z.string().default('data'),
  ISOCHRON_DEMO: z.enum(['0', '1']).default('0'),
  ISOCHRON_NOW: z.iso.datetime().optional(),
});

/** Where the server listens and keeps its data. */
export interface Config {
  port: number;
  host: string;
  dataFolder: string;
  demo: boolean;
  /** A moment at which the clock begins, for tests; null for the machine's own. */
  now: Date | null;
}

/** Reads the configuration from environment variables; throws with the name of the one that is wrong. */
export const readConfig = (environment: NodeJS.ProcessEnv): Config => {
  const { PORT, ISOCHRON_HOST, ISOCHRON_DATA, ISOCHRON_DEMO, ISOCHRON_NOW } = Environment.parse(environment);
  return {
    port: PORT,
    host: ISOCHRON_HOST,
    dataFolder: resolve(ISOCHRON_DATA),
    demo: ISOCHRON_DEMO === '1',
    now: ISOCHRON_NOW ? new Date(ISOCHRON_NOW) : null,
  };
};
