// Worker threads do not inherit the TypeScript loader of the main thread.
import { register } from 'tsx/esm/api';

register();
await import('./speed-worker.ts');
