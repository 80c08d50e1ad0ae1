/** Builds the interface where its sources have changed since the last build. */
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, run } from './setup.mjs';

const STAMP = join(ROOT, 'web', 'dist', '.built-from');
const SOURCES = ['web/src', 'web/public', 'web/index.html', 'web/vite.config.ts', 'core/src', 'package-lock.json'];

const filesOf = (path) =>
  readdirSync(path, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !entry.name.includes('.test.'))
    .map((entry) => join(entry.parentPath, entry.name))
    .sort();

const fingerprint = () => {
  const hash = createHash('sha256');
  for (const source of SOURCES) {
    const path = join(ROOT, source);
    const files = /\.\w+$/.test(source) ? [path] : filesOf(path);
    for (const file of files) hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
};

/** Builds web/dist; does nothing where it is current. */
export const buildWeb = () => {
  const now = fingerprint();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === now) return;
  console.log('Building the interface …');
  run('npm', ['run', '-s', 'build', '-w', 'web', '--', '--logLevel', 'error']);
  writeFileSync(STAMP, now);
};

if (import.meta.filename === process.argv[1]) buildWeb();
