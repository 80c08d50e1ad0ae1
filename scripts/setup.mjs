/**
 * Puts in place what is missing: packages, a compiler for the database driver, and, for the tests, a browser.
 * Depends on nothing but Node and Debian; instant when nothing is missing.
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

export const ROOT = join(import.meta.dirname, '..');
const STAMP = join(ROOT, 'node_modules', '.isochron-setup');

/** Runs a command in the project's folder, showing its output; ends the program where it fails. */
export const run = (command, args, options = {}) => {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (status !== 0) {
    console.error(`\nThis step failed: ${command} ${args.join(' ')}`);
    process.exit(status ?? 1);
  }
};

const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

const installDebian = (packages, why) => {
  console.log(`Installing ${packages.join(', ')} from Debian (${why}) …`);
  if (process.getuid?.() !== 0) {
    console.error(`Please run this once, then try again:\n  sudo apt-get install -y ${packages.join(' ')}`);
    process.exit(1);
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], { env, stdio: ['ignore', 'ignore', 'inherit'] });
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], {
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
};

const installPackages = () => {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lock) return;
  const missing = Object.entries({ python3: 'python3', make: 'make', 'g++': 'g++' }).filter(([program]) => !has(program));
  if (missing.length)
    installDebian(
      missing.map(([, name]) => name),
      'to build the database driver',
    );
  console.log('Installing packages; the database driver is compiled, which takes a few minutes the first time …');
  run('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error'], {
    // What is compiled is compiled on every processor.
    env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1', JOBS: 'max' },
  });
  writeFileSync(STAMP, lock);
};

/** Makes ready: `browser` asks for Debian's Chromium as well. */
export const setUp = ({ browser = false } = {}) => {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) {
    console.error(`Isochron needs Node 20 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  installPackages();
  if (browser && !existsSync('/usr/bin/chromium')) installDebian(['chromium'], 'for the browser tests');
};

if (import.meta.filename === process.argv[1]) {
  setUp({ browser: process.argv.includes('--browser') });
  console.log('Everything is in place.');
}
