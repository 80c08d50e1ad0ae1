import { exposeLater } from './expose-later';

exposeLater(async () => (await import('./tempos')).tempos);
