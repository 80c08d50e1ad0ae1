import { MINUTE_MS } from '../time/units';
/** How long the player has been at it without a rest. Moments in ms. */
export interface Stretch {
  sinceMs: number;
  lastMs: number;
}

/** A pause of so long is a rest (common practice, no source). */
export const REST_MIN = 5;

/** The stretch that goes on when something is played now: the same one, or a new one after a rest. */
export const playedOn = (stretch: Stretch | null, nowMs: number): Stretch =>
  stretch && nowMs - stretch.lastMs < REST_MIN * MINUTE_MS && nowMs >= stretch.lastMs
    ? { ...stretch, lastMs: nowMs }
    : { sinceMs: nowMs, lastMs: nowMs };

/** Whole minutes of a stretch after which a rest is due; null while none is, or where none is wished (`afterMin` 0). */
export const restDue = (stretch: Stretch | null, nowMs: number, afterMin: number): number | null => {
  if (!stretch || afterMin === 0 || nowMs - stretch.lastMs >= REST_MIN * MINUTE_MS) return null;
  const minutes = Math.floor((nowMs - stretch.sinceMs) / MINUTE_MS);
  return minutes >= afterMin ? minutes : null;
};
