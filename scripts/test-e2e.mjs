/** `npm run test:e2e`: the built interface in a browser; first what is played by a driven clock, two files at a time, then what is live. */
import { buildWeb } from './build-web.mjs';
import { run } from './setup.mjs';

export const testInBrowser = () => {
  buildWeb();
  console.log('The interface in a browser …');
  run('npx', ['playwright', 'test', '-c', 'e2e', '--project', 'live']);
};

if (import.meta.filename === process.argv[1]) testInBrowser();
