import { spawn } from 'node:child_process';
import { buildWeb } from './build-web.mjs';
import { ROOT, setUp } from './setup.mjs';

/** Makes ready, builds, and runs the server until it is stopped. */
export const serve = (environment) => {
  setUp();
  buildWeb();
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...environment, ...process.env },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
  server.on('exit', (code) => process.exit(code ?? 0));
};
