import type { Repetition } from '../schema/take';
import { headlineBpm } from '../time/tempo-map';

/** The tempo that a repetition was asked for: by it the next one is decided, and it is what one speaks of. */
export const askedBpm = ({ askedBpm: asked, tempo }: Pick<Repetition, 'askedBpm' | 'tempo'>): number =>
  asked ?? headlineBpm(tempo);
