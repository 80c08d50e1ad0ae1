/**
 * `npm run dev`: the demo for who works on it. The page, with hot reload, at PORT (4310); the server, begun again when its sources
 * change, one port further on; data in a folder of its own.
 */
import { spawn } from 'node:child_process';
import { bundleAlways, bundled } from './bundle.mjs';
import { ROOT, setUp } from './setup.mjs';

setUp();
const bundling = await bundleAlways('server');
const port = Number(process.env.PORT ?? 4310);
const env = { ISOCHRON_DEMO: '1', ISOCHRON_DATA: 'data-dev', ...process.env };
const start = (command, args, more) => spawn(command, args, { cwd: ROOT, stdio: 'inherit', env: { ...env, ...more } });
const running = [
  start(process.execPath, ['--watch', '--watch-preserve-output', bundled('server', 'main')], { PORT: String(port + 1) }),
  start('npx', ['vite', 'web', '--clearScreen', 'false'], { PORT: String(port) }),
];
const stop = () => {
  bundling.dispose();
  for (const one of running) one.kill('SIGTERM');
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
for (const one of running)
  one.on('exit', (code) => {
    process.exitCode ||= code ?? 0;
    stop();
  });
console.log(`The page is at http://localhost:${port} once both have started.`);
