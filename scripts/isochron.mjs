/** `npm run -s isochron -- …`: the command line, bundled anew where its sources have changed. */
import { BUNDLE, buildCli } from './build-cli.mjs';

buildCli();
await import(BUNDLE);
