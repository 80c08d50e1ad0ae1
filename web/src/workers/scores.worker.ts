import { exposeLater } from './expose-later';

exposeLater(async () => (await import('./scores')).scores);
