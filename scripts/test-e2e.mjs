/** `npm run test:e2e`: the built interface in a browser; first what is played by a driven clock, two files at a time, then what is live. */
import { buildWeb } from './build-web.mjs';
import { run } from './setup.mjs';

/** `retries`: how often a test that fails is tried once more, with a server and data of its own; what needed that is said by the caller. */
export const testInBrowser = ({ retries = 0 } = {}) => {
  buildWeb();
  console.log('The interface in a browser …');
  run('npx', ['playwright', 'test', '-c', 'e2e', '--project', 'live', '--retries', String(retries)]);
};

if (import.meta.filename === process.argv[1]) testInBrowser();
