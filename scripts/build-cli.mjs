/** Bundles the command line where its sources have changed: a start then reads two files instead of hundreds. */
import { copyFileSync, existsSync, readdirSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const ROOT = join(import.meta.dirname, '..');
export const BUNDLE = join(ROOT, 'cli', 'dist', 'isochron.mjs');
const SOURCES = ['cli/src', 'core/src'];

const newestChange = () => {
  let newest = statSync(join(ROOT, 'package-lock.json')).mtimeMs;
  for (const folder of SOURCES) {
    for (const entry of readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })) {
      if (!entry.isFile() || entry.name.includes('.test.')) continue;
      newest = Math.max(newest, statSync(join(entry.parentPath, entry.name)).mtimeMs);
    }
  }
  return newest;
};

/** Bundles cli/dist/isochron.mjs; does nothing where it is current. */
export const buildCli = () => {
  if (existsSync(BUNDLE) && statSync(BUNDLE).mtimeMs > newestChange()) return;
  // Loaded only here: a start that has nothing to build does without it.
  const require = createRequire(import.meta.url);
  const { buildSync } = require('esbuild');
  buildSync({
    entryPoints: [join(ROOT, 'cli', 'src', 'main.ts')],
    outdir: dirname(BUNDLE),
    entryNames: 'isochron',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    minify: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
    // Packages that were written for require.
    banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
  });
  // The transforms' WebAssembly is looked for beside the file that asks for it.
  const transforms = join(dirname(fileURLToPath(import.meta.resolve('@echogarden/pffft-wasm/simd'))), 'pffft.wasm');
  copyFileSync(transforms, join(dirname(BUNDLE), 'pffft.wasm'));
};
