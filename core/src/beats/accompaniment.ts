import type { Accompaniment, AccompanimentSummary, BeatsOf } from '../schema/accompaniment';

/** Mean tempo of beats, in beats a minute; null for fewer than two. */
export const meanBpm = (timesS: readonly number[]): number | null => {
  const [first, last] = [timesS[0], timesS.at(-1)];
  return first === undefined || last === undefined || timesS.length < 2 ? null : (60 * (timesS.length - 1)) / (last - first);
};

/** A recording as a list shows it. */
export const summaryOfAccompaniment = ({ id, title, addedAt, lengthS, beats }: Accompaniment): AccompanimentSummary => ({
  id,
  title,
  addedAt,
  lengthS,
  bpm: meanBpm(beats?.timesS ?? []),
  firstBarBeat: beats?.firstBarBeat ?? 0,
});

/** The beats, counted from 0, with which bars begin. */
export const barBeats = ({
  timesS,
  beatsPerBar,
  firstBarBeat,
}: Pick<BeatsOf, 'timesS' | 'beatsPerBar' | 'firstBarBeat'>): number[] =>
  timesS.flatMap((_, beat) => (beat >= firstBarBeat && (beat - firstBarBeat) % beatsPerBar === 0 ? [beat] : []));

/**
 * Where a loop over bars of a recording lies, in seconds of it; null where there is nothing between: with fewer beats its bars may be gone.
 *
 * @param bars the first and the last, counted from 0.
 * @param lengthS where a bar ends that no other follows.
 */
export const loopSpan = (
  beats: Pick<BeatsOf, 'timesS' | 'beatsPerBar' | 'firstBarBeat'>,
  bars: { fromBar: number; toBar: number },
  lengthS: number,
): { fromS: number; toS: number } | null => {
  const starts = barBeats(beats);
  const startOf = (bar: number): number => beats.timesS[starts[bar] as number] ?? lengthS;
  const [fromS, toS] = [startOf(bars.fromBar), startOf(bars.toBar + 1)];
  return toS > fromS ? { fromS, toS } : null;
};
