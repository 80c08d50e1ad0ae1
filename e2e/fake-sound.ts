import { join } from 'node:path';
import {
  type Exercise,
  PLUCKED_STRING,
  planRepetition,
  readyExercise,
  renderPlaying,
  STEADY,
  sampleSd,
  simulatePlaying,
} from '@isochron/core';

const FOLDER = join(import.meta.dirname, '..', 'test-results', 'sound');
export const PLANTED_WAV = join(FOLDER, 'planted.wav');
export const SILENT_WAV = join(FOLDER, 'silent.wav');

export const SAMPLE_RATE_HZ = 48_000;
export const PLANTED_TEMPO_BPM = 60;
/** From the opening of the microphone to the first note: the lead of the first click and one bar of four. */
const FIRST_NOTE_S = 4.85;

const exercise = readyExercise('five-steps') as Exercise;

/** One repetition with planted deviations: what a microphone would hear of it, and what it should measure as. */
export const plantedTake = () => {
  const plan = planRepetition({ exercise, tempoBpm: PLANTED_TEMPO_BPM, startS: FIRST_NOTE_S - 4, countInBars: 1 });
  const played = simulatePlaying(
    plan.notes,
    { ...STEADY, spreadMs: 14, placementMs: 0, habitsMs: { '4': 22, '12': 22 } },
    60,
    41,
  );
  const deviationsMs = played.map((note, k) => (note.timeS - (plan.notes[k]?.timeS ?? 0)) * 1000);
  const ratios = played.slice(1).map((note, k) => {
    const before = played[k];
    return (note.timeS - (before?.timeS ?? 0)) / ((plan.notes[k + 1]?.timeS ?? 0) - (plan.notes[k]?.timeS ?? 0));
  });
  return {
    render: () =>
      renderPlaying({
        played,
        exercise,
        tempoBpm: PLANTED_TEMPO_BPM,
        instrument: PLUCKED_STRING,
        sampleRateHz: SAMPLE_RATE_HZ,
        lengthS: 40,
        seed: 41,
        noiseDb: -62,
      }),
    spreadMs: sampleSd(deviationsMs),
    unevennessPct: sampleSd(ratios) * 100,
    shortestIntervalMs: 60_000 / PLANTED_TEMPO_BPM / 4,
  };
};
