/** Bundles the programs that Node runs, where their sources have changed: a start then reads a few files instead of hundreds. */
import { copyFileSync, existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

const ROOT = join(import.meta.dirname, '..');

/** What a bundle is made of. */
const BUNDLES = {
  // The decoder of FLAC reads files beside itself.
  cli: { entries: { isochron: 'main.ts' }, minify: true, outside: ['libflacjs'] },
  server: {
    entries: {
      main: 'main.ts',
      command: 'command.ts',
      'vet-unpacked': 'backup/vet-unpacked.ts',
      'reanalyse.worker': 'reanalysis/reanalyse.worker.ts',
    },
    // What is logged names places in the sources.
    minify: false,
    // A database driver is no script, and what a package reads beside itself must lie beside it.
    outside: Object.keys(JSON.parse(readFileSync(join(ROOT, 'server', 'package.json'), 'utf8')).dependencies).filter(
      (name) => !name.startsWith('@isochron/'),
    ),
  },
};

/** Where a bundled program lies. */
export const bundled = (name, entry) => join(ROOT, name, 'dist', `${entry}.mjs`);

const newestChange = (name) => {
  let newest = Math.max(...['package-lock.json', 'scripts/bundle.mjs'].map((file) => statSync(join(ROOT, file)).mtimeMs));
  for (const folder of [`${name}/src`, 'core/src']) {
    for (const entry of readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })) {
      if (!entry.isFile() || entry.name.includes('.test.')) continue;
      newest = Math.max(newest, statSync(join(entry.parentPath, entry.name)).mtimeMs);
    }
  }
  return newest;
};

const require = createRequire(import.meta.url);
// Loaded only when asked: a start that has nothing to build does without it.
const esbuild = () => require('esbuild');

/** How anything is bundled for Node. */
export const FOR_NODE = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'error',
  // Packages that were written for require.
  banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
};

const optionsOf = (name) => {
  const { entries, minify, outside } = BUNDLES[name];
  return {
    ...FOR_NODE,
    entryPoints: Object.fromEntries(Object.entries(entries).map(([entry, source]) => [entry, join(ROOT, name, 'src', source)])),
    outdir: join(ROOT, name, 'dist'),
    outExtension: { '.js': '.mjs' },
    splitting: true,
    minify,
    external: outside,
  };
};

/** The transforms' WebAssembly is looked for beside the file that asks for it. */
export const copyTransforms = (folder) => {
  const transforms = join(dirname(require.resolve('@echogarden/pffft-wasm/simd')), 'pffft.wasm');
  copyFileSync(transforms, join(folder, 'pffft.wasm'));
};

/** Bundles a program, `cli` or `server`, into its folder `dist`; does nothing where that is current. */
export const bundle = (name) => {
  const built = Object.keys(BUNDLES[name].entries).map((entry) => bundled(name, entry));
  const changed = newestChange(name);
  if (built.every((file) => existsSync(file) && statSync(file).mtimeMs > changed)) return;
  const options = optionsOf(name);
  esbuild().buildSync(options);
  copyTransforms(options.outdir);
};

/** Bundles a program, and again whenever its sources change, until the script ends. */
export const bundleAlways = async (name) => {
  const options = optionsOf(name);
  const context = await esbuild().context(options);
  await context.rebuild();
  copyTransforms(options.outdir);
  await context.watch();
  return context;
};
