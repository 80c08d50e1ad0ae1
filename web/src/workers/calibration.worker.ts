import { exposeLater } from './expose-later';

exposeLater(async () => (await import('./calibrating')).calibrating);
