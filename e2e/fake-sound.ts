import { join } from 'node:path';
import {
  constantTempo,
  firstDrill,
  type Passage,
  PLUCKED_STRING,
  planRepetition,
  readyPassage,
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

const drill = firstDrill(readyPassage('five-steps') as Passage);
const tempo = constantTempo(PLANTED_TEMPO_BPM);

/** A sound at another rate, by straight lines between its samples: good enough to be recognised by. */
const atRate = (sound: Float32Array, sampleRateHz: number): Float32Array => {
  const ratio = SAMPLE_RATE_HZ / sampleRateHz;
  return Float32Array.from({ length: Math.floor((sound.length - 1) / ratio) }, (_, n) => {
    const at = Math.floor(n * ratio);
    const before = sound[at] as number;
    return before + (n * ratio - at) * ((sound[at + 1] as number) - before);
  });
};

const dot = (a: Float32Array, b: Float32Array): number => {
  let sum = 0;
  for (let n = 0; n < b.length; n += 1) sum += (a[n] ?? 0) * (b[n] as number);
  return sum;
};

/** The delay in samples, within `reach` of `near`, at which a piece of sound that belongs at `from` is found in a recording. */
const bestDelay = (
  recording: Float32Array,
  piece: Float32Array,
  from: number,
  { near, reach }: { near: number; reach: number },
): number => {
  let best = { delay: Number.NaN, likeness: 0.9 };
  for (let delay = near - reach; delay <= near + reach; delay += 1) {
    const part = recording.subarray(Math.max(0, from + delay), Math.max(0, from + delay + piece.length));
    const likeness = dot(part, piece) / Math.sqrt(dot(part, part) * dot(piece, piece) + 1e-12);
    if (likeness > best.likeness) best = { delay, likeness };
  }
  return best.delay;
};

/** One repetition with planted deviations: what a microphone would hear of it, and what it should measure as. */
export const plantedTake = () => {
  const plan = planRepetition({ drill, tempo, startS: FIRST_NOTE_S - 4 });
  const played = simulatePlaying(
    plan.notes,
    { ...STEADY, spreadMs: 14, placementMs: 0, habitsMs: { '4': 22, '12': 22 } },
    tempo,
    41,
  );
  const deviationsMs = played.map((note, k) => (note.timeS - (plan.notes[k]?.timeS ?? 0)) * 1000);
  const ratios = played.slice(1).map((note, k) => {
    const before = played[k];
    return (note.timeS - (before?.timeS ?? 0)) / ((plan.notes[k + 1]?.timeS ?? 0) - (plan.notes[k]?.timeS ?? 0));
  });
  const render = () =>
    renderPlaying({
      played,
      grid: drill.grid,
      tempo,
      instrument: PLUCKED_STRING,
      sampleRateHz: SAMPLE_RATE_HZ,
      lengthS: 40,
      seed: 41,
      noiseDb: -62,
    });
  return {
    render,
    /**
     * How unevenly a recording runs against the rendered sound, in ms: the range of the delays at which its notes are found
     * by correlation. Zero where every sample arrived; the length of what was dropped where not; not a
     * number where a note is not to be found.
     */
    unsteadyMs: (recording: Float32Array, sampleRateHz: number): number => {
      const sound = atRate(render(), sampleRateHz);
      let near = 0;
      let reach = sampleRateHz;
      const delays = played.map(({ timeS }) => {
        const from = Math.round((timeS - 0.005) * sampleRateHz);
        const attack = sound.subarray(from, from + Math.round(0.05 * sampleRateHz));
        near = bestDelay(recording, attack, from, { near, reach });
        reach = 0.1 * sampleRateHz;
        return near;
      });
      return (1000 * (Math.max(...delays) - Math.min(...delays))) / sampleRateHz;
    },
    spreadMs: sampleSd(deviationsMs),
    unevennessPct: sampleSd(ratios) * 100,
    shortestIntervalMs: 60_000 / PLANTED_TEMPO_BPM / 4,
  };
};
