import type { PlayAlong } from '../schema/grid';
import { makeReason, type Reason } from '../schema/reason';
import { ownBpmOf } from '../time/drill-tempo';
import { AS_EVEN_MS } from './even-beats';

/** Who stays this much closer to beats than they lie to an even pulse went with them. */
const WENT_WITH = 0.6;

/**
 * What playing along with a recording has to do with the figures, as a reason that words/along-words.ts says: how fast it went, how
 * uneven its own beats are there, and how much of a spread (ms, or null) is the player's at least. Of a player who keeps an even pulse the
 * two are independent errors, whose squares add up; a spread well below the unsteadiness is of one who went with it.
 */
export const playAlongReason = (playAlong: PlayAlong, bpm: number, spreadMs: number | null): Reason => {
  const share = bpm / ownBpmOf(playAlong);
  const unsteadinessMs = playAlong.unsteadinessMs / share;
  const values = { title: playAlong.title, pct: Math.round(100 * share) };
  if (unsteadinessMs < AS_EVEN_MS) return makeReason('along-even', values);
  if (spreadMs !== null && spreadMs < WENT_WITH * unsteadinessMs)
    return makeReason('along-with', { ...values, ms: unsteadinessMs, spread: spreadMs });
  const own = spreadMs === null ? null : Math.sqrt(Math.max(0, spreadMs ** 2 - unsteadinessMs ** 2));
  return makeReason('along', {
    ...values,
    ms: unsteadinessMs,
    ...(spreadMs === null || own === null ? {} : { spread: spreadMs, own }),
  });
};
