import { spawn } from 'node:child_process';
import { buildWeb } from './build-web.mjs';
import { bundle, bundled } from './bundle.mjs';
import { ROOT, setUp } from './setup.mjs';

/** Makes ready, builds, and runs the server until it is stopped. */
export const serve = (environment) => {
  setUp();
  buildWeb();
  bundle('server');
  const server = spawn(process.execPath, [bundled('server', 'main')], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...environment, ...process.env },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
  server.on('exit', (code) => process.exit(code ?? 0));
};
