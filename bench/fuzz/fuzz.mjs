/**
 * `npm run bench:fuzz`: feeds every reader with inputs that the coverage of its own code leads on, an hour each. What throws anything but
 * a refusal, or takes too long, is written to bench/fuzz/findings; what covered something new is packed into bench/fuzz/corpus, which
 * `npm test` reads. `-- --reader abc` for one of them, `-- --minutes 5` for less. (libFuzzer's binding for Node needs a newer system library
 * than Debian 12 has; so the loop is our own, over the counters that istanbul puts into the code.)
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { Worker } from 'node:worker_threads';
import { buildSync } from 'esbuild';
import { unzipSync, zipSync } from 'fflate';
import { FOR_NODE } from '../../scripts/bundle.mjs';
import { READERS } from './readers.ts';
import { SEEDS } from './seeds.ts';

const HERE = import.meta.dirname;
const { values } = parseArgs({ options: { reader: { type: 'string' }, minutes: { type: 'string', default: '60' } } });
const RUN_MS = 60_000 * Number(values.minutes);
/** An input that takes longer than this is a finding: the counters make the code slower, and other work goes on beside it. */
const SLOW_MS = 8_000;
const LOOK_MS = 500;
const LONGEST_BYTES = 60_000;
const LONGEST_SEED_BYTES = 12_000;
/** So much of a corpus is kept; the shortest first. */
const KEPT_BYTES = 300_000;

if (!existsSync(join(HERE, 'node_modules')))
  spawnSync('npm', ['ci', '--no-fund', '--no-audit'], { cwd: HERE, stdio: 'inherit' });
const { createInstrumenter } = createRequire(join(HERE, 'fuzz.mjs'))('istanbul-lib-instrument');
const [built, findings] = ['.build', 'findings'].map((name) => join(HERE, name));
for (const folder of [built, findings, join(HERE, 'corpus')]) mkdirSync(folder, { recursive: true });

/** Leaves out the counters of statements and puts those of branches and functions into one array: about twice as many inputs a second. */
const flat = (instrumented) => {
  const places = new Map();
  const code = instrumented
    .replace(/cov_\w+\(\)\.s\[\d+\]\+\+[;,]/g, '')
    .replace(/cov_\w+\(\)\.(b\[\d+\]\[\d+\]|f\[\d+\])\+\+/g, (_all, place) => {
      if (!places.has(place)) places.set(place, places.size);
      return `__covered__[${places.get(place)}]++`;
    });
  return `const __covered__ = new Uint32Array(${places.size});\n${code}\nexport { __covered__ };\n`;
};

/** Bundles one reader with counters in its code, and gives back the words that stand in it. */
const build = (name) => {
  const target = join(built, `${name}.mjs`);
  const { outputFiles } = buildSync({
    ...FOR_NODE,
    stdin: {
      contents: `import { READERS } from './readers';
        export const read = (bytes) => READERS.find((one) => one.name === '${name}').read(bytes);`,
      resolveDir: HERE,
      loader: 'ts',
    },
    write: false,
  });
  const code = outputFiles[0].text;
  writeFileSync(target, flat(createInstrumenter({ esModules: true, compact: true }).instrumentSync(code, target)));
  const words = new Set([...code.matchAll(/(["'`])([\w:/|<>=.\-[\]{}(), ]{1,24})\1/g)].map(([, , word]) => word));
  return { target: pathToFileURL(target).href, words: [...words].map((word) => new TextEncoder().encode(word)) };
};

const mutator = join(built, 'mutate.mjs');
buildSync({
  ...FOR_NODE,
  entryPoints: [join(HERE, 'mutate.ts')],
  outfile: mutator,
});

const fuzz = async ({ name }) => {
  const { target, words } = build(name);
  const packed = join(HERE, 'corpus', `${name}.zip`);
  const kept = existsSync(packed) ? Object.values(unzipSync(readFileSync(packed))) : [];
  // Long seeds are read slowly, and teach little that short ones do not.
  let corpus = [...SEEDS[name](), ...kept].filter(({ length }, _k, all) => length <= LONGEST_SEED_BYTES || all.length < 4);
  const shared = new SharedArrayBuffer(8 + LONGEST_BYTES);
  const [length, runs] = [new Int32Array(shared, 0, 1), new Int32Array(shared, 4, 1)];
  const found = new Map();
  let covered = '';
  const note = (bytes, what) => {
    // One of a kind is enough.
    const kind = what.split('\n').slice(0, 2).join(' ').replace(/\d+/g, '0').slice(0, 200);
    if (found.has(kind)) return;
    found.set(kind, what);
    const id = createHash('sha256').update(bytes).digest('hex').slice(0, 10);
    writeFileSync(join(findings, `${name}-${id}`), bytes);
    writeFileSync(join(findings, `${name}-${id}.txt`), what);
  };
  const began = Date.now();
  for (let seed = 1; Date.now() - began < RUN_MS; seed += 1) {
    const inputs = [];
    const worker = new Worker(join(HERE, 'fuzz-worker.mjs'), {
      workerData: {
        target,
        mutator: pathToFileURL(mutator).href,
        corpus,
        seed: seed + began,
        words,
        longestBytes: LONGEST_BYTES,
        shared,
      },
      resourceLimits: { maxOldGenerationSizeMb: 3000 },
    });
    worker.on('message', ({ type, bytes, what, covered: now, of }) => {
      if (type === 'found') return note(bytes, what);
      inputs.push(bytes);
      covered = `${now} of ${of} branches`;
    });
    let isOver = false;
    worker.on('error', (error) => {
      note(new Uint8Array(shared, 8, length[0]).slice(), String(error.stack ?? error));
      isOver = true;
    });
    let [before, stillMs] = [-1, 0];
    while (!isOver && Date.now() - began < RUN_MS) {
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
      stillMs = runs[0] === before ? stillMs + LOOK_MS : 0;
      before = runs[0];
      if (stillMs >= SLOW_MS && before > 0) {
        note(new Uint8Array(shared, 8, length[0]).slice(), `takes longer than ${SLOW_MS} ms (${length[0]} bytes)`);
        isOver = true;
      }
    }
    await worker.terminate();
    if (inputs.length) corpus = inputs;
  }
  const files = {};
  let bytes = 0;
  for (const input of corpus.sort((a, b) => a.length - b.length)) {
    bytes += input.length;
    if (bytes > KEPT_BYTES) break;
    files[createHash('sha256').update(input).digest('hex').slice(0, 16)] = input;
  }
  writeFileSync(packed, zipSync(files, { level: 9, mtime: new Date('2026-01-01') }));
  console.log(
    `| ${name} | ${Math.round(RUN_MS / 60_000)} | ${runs[0]} | ${covered} | ${Object.keys(files).length} | ${found.size} |`,
  );
  for (const what of found.values()) console.error(`${name}: ${what.split('\n')[0]}`);
};

console.log('| reader | minutes | inputs | covered | kept | findings |\n|---|---|---|---|---|---|');
for (const reader of READERS.filter((one) => !values.reader || one.name === values.reader)) await fuzz(reader);
process.exit(0);
