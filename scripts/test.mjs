/** `npm test`: everything from an empty machine on. Types, lint, unit and server tests, then the interface in a browser. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, run, setUp } from './setup.mjs';
import { testInBrowser } from './test-e2e.mjs';
import { typecheck } from './typecheck.mjs';

const RESULTS = join(ROOT, 'test-results');

const count = (file, read) =>
  existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0, skipped: 0 };

setUp({ browser: true });
rmSync(RESULTS, { recursive: true, force: true });
console.log('Types …');
typecheck();
console.log('Lint and format …');
run('npx', ['biome', 'check', '.']);
console.log('Unit and server tests …');
run('npx', ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${RESULTS}/unit.json`]);
testInBrowser({ retries: 1 });

const unit = count(join(RESULTS, 'unit.json'), (report) => ({
  passed: report.numPassedTests,
  failed: report.numFailedTests,
  skipped: report.numPendingTests + report.numTodoTests,
}));
/** The titles of the tests that passed at their second try only. */
const secondTries = ({ suites = [], specs = [] }) => [
  ...specs
    .filter(({ tests }) => tests.some(({ status }) => status === 'flaky'))
    .map(({ file, line, title }) => `${file}:${line} ${title}`),
  ...suites.flatMap(secondTries),
];
const browser = count(join(RESULTS, 'e2e.json'), (report) => ({
  passed: report.stats.expected + report.stats.flaky,
  failed: report.stats.unexpected,
  skipped: report.stats.skipped,
  secondTries: secondTries(report),
}));
console.log(`${unit.passed + browser.passed} passed, ${unit.failed + browser.failed} failed`);
// It does not stop a change, and it is not to be left so: mostly something in the page was too quick or too slow for a key.
for (const title of browser.secondTries ?? []) console.warn(`Passed at the second try only, to be mended: ${title}`);
// What was not run was not tested.
const skipped = unit.skipped + browser.skipped;
if (skipped > 0) {
  console.error(`${skipped} skipped: a run that leaves something out does not count.`);
  process.exit(1);
}
