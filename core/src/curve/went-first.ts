import { mean, sampleSd } from '../stats/summary';
import type { SweptNote } from './break-tempo';

/** Fewer notes of a place than this, or of all others, tell nothing. */
const MIN_NOTES = 4;
/**
 * How far a place must stand out of all others, in standard errors, for each doubling of how many places there are: of many places
 * one stands out by chance. Set so that sweeps in which no note went first stay silent 95 times in 100.
 */
const [MIN_STANDING, MORE_FOR_TWICE] = [2.1, 0.2];
/** So many are named at most. */
const MAX_NAMED = 2;
/** Looked at from a little under the break on: that is where it begins. */
const FROM_SHARE = 0.97;

/** How far off a note was, as a logarithm, at its place and tempo. */
interface Sized {
  place: number;
  tempo: number;
  size: number;
}

/** Sizes about the straight line over the tempo that fits them best. */
const withoutTrend = (notes: readonly Sized[]): Sized[] => {
  const centre = { tempo: mean(notes.map(({ tempo }) => tempo)), size: mean(notes.map(({ size }) => size)) };
  const across = notes.reduce((sum, { tempo }) => sum + (tempo - centre.tempo) ** 2, 0);
  const playAlong = notes.reduce((sum, { tempo, size }) => sum + (tempo - centre.tempo) * (size - centre.size), 0);
  const slope = across > 0 ? playAlong / across : 0;
  return notes.map((one) => ({ ...one, size: one.size - centre.size - slope * (one.tempo - centre.tempo) }));
};

/**
 * The places of a passage that went first in a sweep: those whose notes lay farthest off beyond the break, worst first; none where
 * none stands out. `places` tells which place of the passage each note of the sweep was, in the same order.
 */
export const wentFirst = (swept: readonly SweptNote[], places: readonly number[], breakBpm: number): number[] => {
  const beyond = swept.flatMap(({ bpm, errorMs, intervalMs, isMissing }, k) => {
    const place = places[k];
    if (place === undefined || bpm < FROM_SHARE * breakBpm) return [];
    // What is missing is as far off as it could be.
    if (isMissing) return [{ place, tempo: bpm, share: 0.5 }];
    return errorMs === null ? [] : [{ place, tempo: bpm, share: Math.min(0.5, Math.abs(errorMs) / intervalMs) }];
  });
  if (beyond.length < 3 * MIN_NOTES) return [];
  // The logarithm of next to nothing would outweigh everything else. All notes grow worse with the tempo: that is taken out.
  const least = 0.15 * mean(beyond.map(({ share }) => share));
  const sizes = withoutTrend(beyond.map(({ place, tempo, share }) => ({ place, tempo, size: Math.log(share + least) })));
  const spread = sampleSd(sizes.map(({ size }) => size));
  const all = [...new Set(sizes.map(({ place }) => place))];
  const needed = MIN_STANDING + MORE_FOR_TWICE * Math.log2(Math.max(1, all.length));
  return all
    .flatMap((place) => {
      const own = sizes.filter((one) => one.place === place).map(({ size }) => size);
      const others = sizes.filter((one) => one.place !== place).map(({ size }) => size);
      if (own.length < MIN_NOTES || others.length < MIN_NOTES || spread === 0) return [];
      const snapshot = (mean(own) - mean(others)) / (spread * Math.sqrt(1 / own.length + 1 / others.length));
      return snapshot > needed ? [{ place, snapshot }] : [];
    })
    .sort((a, b) => b.snapshot - a.snapshot)
    .slice(0, MAX_NAMED)
    .map(({ place }) => place);
};
