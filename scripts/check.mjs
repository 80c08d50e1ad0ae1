/**
 * `npm run check`: what was changed since the last commit, and no more: its style, the types of its packages, and the unit tests of its
 * packages that reach it, but for slow ones (`*.slow.test.ts`). `npm test` is for the rest.
 */
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { ROOT, run, setUp } from './setup.mjs';
import { typecheck } from './typecheck.mjs';

const lines = (...args) => spawnSync('git', args, { cwd: ROOT, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);

setUp();
const changed = [
  ...new Set([
    ...lines('diff', '--name-only', '--diff-filter=d', 'HEAD'),
    ...lines('ls-files', '--others', '--exclude-standard'),
  ]),
];
const sources = changed.filter((file) => /\.(ts|tsx|mts|mjs)$/.test(file));
const packages = [...new Set(sources.map((file) => file.split('/')[0]))];
if (sources.length === 0) {
  console.log('No source was changed since the last commit.');
  process.exit(0);
}
run('npx', ['biome', 'check', '--no-errors-on-unmatched', ...changed]);
typecheck(packages);
const others = readdirSync(ROOT, { withFileTypes: true }).filter(({ name }) => !packages.includes(name));
run('npx', [
  ...['vitest', 'related', '--run', '--passWithNoTests', '--reporter=dot', '--exclude', '**/*.slow.test.ts'],
  ...others.flatMap(({ name }) => ['--exclude', `${name}/**`]),
  ...sources,
]);
