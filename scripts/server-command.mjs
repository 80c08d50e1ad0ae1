/** A command of the server's (backup, restore, recover, report), bundled anew where its sources have changed. */
import { bundle, bundled } from './bundle.mjs';

bundle('server');
await import(bundled('server', 'command'));
