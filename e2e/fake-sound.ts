import { join } from 'node:path';
import { builtInPassage, constantTempo, planRepetition } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Passage, STEADY } from '@isochron/core/schema';
import { PLUCKED_STRING, renderPlaying, simulatePlaying } from '@isochron/core/simulation';

const FOLDER = join(import.meta.dirname, '..', 'test-results', 'sound');
export const PLANTED_WAV = join(FOLDER, 'planted.wav');

export const SAMPLE_RATE_HZ = 48_000;
export const PLANTED_TEMPO_BPM = 60;
/** From the opening of the microphone to the first note: the lead of the first click and one bar of four. */
const FIRST_NOTE_S = 4.85;

const drill = firstDrill(builtInPassage('five-steps') as Passage);
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

/** Two attacks between which nothing was lost are found with the same delay, to a few samples. */
const SAME_DELAY_S = 0.0005;

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

/** One repetition with planted deviations: what a microphone would hear of it, and where a recording holds it. */
export const plantedTake = () => {
  const plan = planRepetition({ drill, tempo, startS: FIRST_NOTE_S - 4 });
  const played = simulatePlaying(
    plan.notes,
    { ...STEADY, spreadMs: 14, placementMs: 0, habitsMs: { '4': 22, '12': 22 } },
    tempo,
    41,
  );
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
    /** Where a recording of the rendered sound holds each note, in seconds, found by correlation; null where its attack was cut. */
    deliveredS: (recording: Float32Array, sampleRateHz: number): (number | null)[] => {
      const sound = atRate(render(), sampleRateHz);
      let near = 0;
      let reach = sampleRateHz;
      return played.map(({ timeS }) => {
        const from = Math.round((timeS - 0.005) * sampleRateHz);
        const attack = sound.subarray(from, from + Math.round(0.05 * sampleRateHz));
        const delay = bestDelay(recording, attack, from, { near, reach });
        if (Number.isNaN(delay)) return null;
        near = delay;
        reach = 0.2 * sampleRateHz;
        return timeS + delay / sampleRateHz;
      });
    },
    /** Those of the delivered attacks whose neighbours were delivered as far from them as they were sent: no gap lies between. */
    intactS: (delivered: readonly (number | null)[]): number[] => {
      const delays = delivered.map((timeS, k) => (timeS === null ? null : timeS - (played[k]?.timeS ?? 0)));
      const isSame = (a: number | null | undefined, b: number) =>
        a !== null && a !== undefined && Math.abs(a - b) < SAME_DELAY_S;
      return delivered.flatMap((timeS, k) => {
        const delay = delays[k];
        if (timeS === null || delay === null || delay === undefined) return [];
        return isSame(delays[k - 1], delay) && isSame(delays[k + 1], delay) ? [timeS] : [];
      });
    },
    shortestIntervalMs: 60_000 / PLANTED_TEMPO_BPM / 4,
  };
};
