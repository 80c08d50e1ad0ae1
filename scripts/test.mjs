/** `npm test`: everything from an empty machine on. Types, lint, unit and server tests, then the interface in a browser. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { buildWeb } from './build-web.mjs';
import { ROOT, run, setUp } from './setup.mjs';
import { typecheck } from './typecheck.mjs';

const RESULTS = join(ROOT, 'test-results');

const count = (file, read) => (existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 });

setUp({ browser: true });
rmSync(RESULTS, { recursive: true, force: true });
console.log('Types …');
typecheck();
console.log('Lint and format …');
run('npx', ['biome', 'check', '.']);
console.log('Unit and server tests …');
run('npx', ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${RESULTS}/unit.json`]);
buildWeb();
console.log('The interface in a browser …');
run('npx', ['playwright', 'test', '-c', 'e2e', '--project', 'played', '--project', 'microphone', '--project', 'silence']);

const unit = count(join(RESULTS, 'unit.json'), (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests }));
const browser = count(join(RESULTS, 'e2e.json'), (report) => ({
  passed: report.stats.expected,
  failed: report.stats.unexpected,
}));
console.log(`${unit.passed + browser.passed} passed, ${unit.failed + browser.failed} failed`);
