/** `npm run typecheck`: the types of every package. */
import { run } from './setup.mjs';

const PROJECTS = ['core', 'core/tsconfig.test.json', 'server', 'web', 'cli', 'e2e', 'bench'];

/** Those of some packages, or of all. Two at a time: each takes seconds, and one processor. */
export const typecheck = (packages) => {
  const projects = PROJECTS.filter((project) => !packages || packages.includes(project.split('/')[0]));
  if (projects.length) run('sh', ['-c', `printf '%s\\n' ${projects.join(' ')} | xargs -P 2 -n 1 npx tsc -p`]);
};

if (import.meta.filename === process.argv[1]) typecheck();
