/** `npm run docs:api`: a page for each entry of core and all that it exports, into docs/api/pages. A warning ends it. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, run, setUp } from './setup.mjs';

const FOLDER = join(ROOT, 'docs', 'api');

setUp();
// The compiler that it needs is not the one that core is compiled by.
if (!existsSync(join(FOLDER, 'node_modules')))
  run('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error'], { cwd: FOLDER });
run('npx', ['typedoc', '--options', 'typedoc.json'], { cwd: FOLDER });
