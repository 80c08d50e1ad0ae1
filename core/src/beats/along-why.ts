import type { Along } from '../schema/grid';
import { type Why, why } from '../schema/why';
import { ownBpmOf } from '../time/drill-tempo';

/** Beats that lie closer to an even pulse than this are as good as a click's: the ear hears no difference. */
const AS_EVEN_MS = 2;

/**
 * What playing along with a recording has to do with the figures, as a reason that words/along-words.ts says: how fast it went, how
 * uneven its own beats are there, and how much of a spread (ms, or null) is the player's at least. The two are independent errors at
 * most, whose squares add up; who follows the wobble owns all of the spread.
 */
export const alongWhy = (along: Along, bpm: number, spreadMs: number | null): Why => {
  const share = bpm / ownBpmOf(along);
  const wobbleMs = along.wobbleMs / share;
  const values = { title: along.title, pct: Math.round(100 * share) };
  if (wobbleMs < AS_EVEN_MS) return why('along-even', values);
  const own = spreadMs === null ? null : Math.sqrt(Math.max(0, spreadMs ** 2 - wobbleMs ** 2));
  return why('along', { ...values, ms: wobbleMs, ...(spreadMs === null || own === null ? {} : { spread: spreadMs, own }) });
};
