/** `npm run -s isochron -- …`: the command line, bundled anew where its sources have changed. */
import { bundle, bundled } from './bundle.mjs';

bundle('cli');
await import(bundled('cli', 'isochron'));
