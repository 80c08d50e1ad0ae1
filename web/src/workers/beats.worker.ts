import { exposeLater } from './expose-later';

exposeLater(async () => (await import('./finding-beats')).findingBeats);
