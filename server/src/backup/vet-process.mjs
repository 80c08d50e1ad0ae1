import { register } from 'tsx/esm/api';

register();
await import('./vet-unpacked.ts');
