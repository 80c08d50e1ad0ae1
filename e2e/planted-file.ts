import { join } from 'node:path';
import { sampleSd } from '@isochron/core/analysis';
import { builtInPassage, constantTempo, expectedNotes, pitchesOf } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { STEADY } from '@isochron/core/schema';
import { renderPlaying, STRUCK_BAR, simulatePlaying } from '@isochron/core/simulation';

export const RATE = 48_000;
/** The planted sound as other programs wrote it: see make-fixtures.ts. */
export const FIXTURES = join(import.meta.dirname, 'fixtures');

/** A repetition of five steps at 90, played with a planted spread, twice with a pause: its sound, and the spread in ms. */
export const planted = () => {
  const passage = builtInPassage('five-steps');
  if (!passage) throw new Error('the passage is gone');
  const { grid } = firstDrill(passage);
  const tempo = constantTempo(90);
  const notes = [0.6, 8].flatMap((downbeatS) => expectedNotes(grid, tempo, downbeatS));
  const played = simulatePlaying(notes, { ...STEADY, placementMs: 0, spreadMs: 9 }, tempo, 12);
  const sound = renderPlaying({
    played,
    grid,
    tempo,
    instrument: STRUCK_BAR,
    sampleRateHz: RATE,
    lengthS: 15,
    seed: 12,
    noiseDb: -64,
  });
  const onsets = played.map(({ timeS, levelDb, expected }) => ({
    timeS,
    levelDb,
    pitch: pitchesOf(grid.events[(expected ?? 0) % notes.length] ?? { notes: [] }, grid)[0] ?? 60,
  }));
  const deviations = played.slice(0, 17).map((note, k) => 1000 * (note.timeS - (notes[k]?.timeS ?? 0)));
  return { sound, onsets, spreadMs: sampleSd(deviations) };
};
