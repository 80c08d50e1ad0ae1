import { join } from 'node:path';
import { chance } from '@isochron/core/analysis';
import { builtInPassage, constantTempo, planRepetition } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Passage, STEADY } from '@isochron/core/schema';
import { PLUCKED_STRING, renderPlaying, STRUCK_BAR, simulatePlaying } from '@isochron/core/simulation';
import { tidewheelStudy } from '../server/src/demo/tidewheel-study';

const FOLDER = join(import.meta.dirname, '..', 'test-results', 'sound');
export const PLANTED_WAV = join(FOLDER, 'planted.wav');
/** Someone who stops on the way, in a room that goes on sounding. */
export const BROKEN_WAV = join(FOLDER, 'broken.wav');

export const SAMPLE_RATE_HZ = 48_000;
export const PLANTED_TEMPO_BPM = 60;
/** From the opening of the microphone to the first note: the lead of the first click and one bar of four. */
const FIRST_NOTE_S = 4.85;
/** By the driven clock, by which the sound begins with the first click; with some delay of the devices. */
const FIRST_DRIVEN_NOTE_S = 4.06;

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
/** Sound without a gap is alike to 0.999 and more; a hole of 10 ms in a quarter of a second leaves less than this. */
const WHOLE_LIKENESS = 0.99;
/** An attack is looked for from a little before it. */
const LEAD_S = 0.005;
const ATTACK_S = 0.05;

const dot = (a: Float32Array, b: Float32Array): number => {
  let sum = 0;
  for (let n = 0; n < b.length; n += 1) sum += (a[n] ?? 0) * (b[n] as number);
  return sum;
};

/** How alike a piece of sound and the part of a recording at `at` are: 1 where they are the same but for loudness. */
const likenessAt = (recording: Float32Array, piece: Float32Array, at: number): number => {
  const part = recording.subarray(Math.max(0, at), Math.max(0, at + piece.length));
  return dot(part, piece) / Math.sqrt(dot(part, part) * dot(piece, piece) + 1e-12);
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
    const likeness = likenessAt(recording, piece, from + delay);
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
    /**
     * Where a recording of the rendered sound holds each note, in seconds, found by correlation; null where its attack was cut. `intactS`
     * are those about which the sound came as it was sent: as far from their neighbours, and the same throughout between them.
     */
    deliveredIn: (recording: Float32Array, sampleRateHz: number): { timesS: (number | null)[]; intactS: number[] } => {
      const sound = atRate(render(), sampleRateHz);
      const startOf = (note: number) => Math.round(((played[note]?.timeS ?? Infinity) - LEAD_S) * sampleRateHz);
      let near = 0;
      let reach = sampleRateHz;
      const delays = played.map((_, note) => {
        const from = startOf(note);
        const delay = bestDelay(recording, sound.subarray(from, from + ATTACK_S * sampleRateHz), from, { near, reach });
        if (Number.isNaN(delay)) return null;
        near = delay;
        reach = 0.2 * sampleRateHz;
        return delay;
      });
      // What was lost is either gone, so that the rest comes too soon, or silence in its place.
      const isWholeFrom = (note: number) => {
        const delay = delays[note];
        const next = delays[note + 1];
        if (delay === null || delay === undefined || next === null) return false;
        const from = startOf(note);
        const piece = sound.subarray(from, Math.min(startOf(note + 1), from + sampleRateHz));
        return (
          (next === undefined || Math.abs(next - delay) < SAME_DELAY_S * sampleRateHz) &&
          likenessAt(recording, piece, from + delay) > WHOLE_LIKENESS
        );
      };
      const timesS = played.map(({ timeS }, note) => {
        const delay = delays[note] ?? null;
        return delay === null ? null : timeS + delay / sampleRateHz;
      });
      const intactS = timesS.filter(
        (timeS, note) => timeS !== null && (note === 0 || isWholeFrom(note - 1)) && isWholeFrom(note),
      );
      return { timesS, intactS: intactS as number[] };
    },
    shortestIntervalMs: 60_000 / PLANTED_TEMPO_BPM / 4,
  };
};

/** The room falls by 60 dB in so long; so many reflections of it are heard, of so much of the sound's own power together. */
const REVERBERATION_S = 0.5;
const REFLECTIONS = 200;
const REFLECTED = 0.5;

/** A sound as a room gives it back: itself, and reflections at chance moments that die away. */
const inRoom = (sound: Float32Array): Float32Array => {
  const room = chance(7);
  const reflections = Array.from({ length: REFLECTIONS }, () => {
    const laterS = 0.004 + room.uniform() * REVERBERATION_S;
    return { laterS, level: room.normal() * 10 ** ((-3 * laterS) / REVERBERATION_S) };
  });
  const scale = Math.sqrt(REFLECTED / reflections.reduce((sum, { level }) => sum + level ** 2, 0));
  const heard = Float32Array.from(sound);
  for (const { laterS, level } of reflections) {
    const later = Math.round(laterS * SAMPLE_RATE_HZ);
    for (let n = later; n < heard.length; n += 1)
      heard[n] = (heard[n] as number) + scale * level * (sound[n - later] as number);
  }
  return heard;
};

/** At how many notes the player of {@link brokenTake} stops. */
export const BROKEN_AT = 40;

/** The first notes of the longest passage at the planted tempo, in a room, then nothing more but the room and its noise. */
export const brokenTake = (): Float32Array => {
  const study = firstDrill(tidewheelStudy());
  const plan = planRepetition({ drill: study, tempo, startS: FIRST_DRIVEN_NOTE_S - 4 });
  const played = simulatePlaying(plan.notes.slice(0, BROKEN_AT), { ...STEADY, spreadMs: 8, placementMs: 0 }, tempo, 42);
  return inRoom(
    renderPlaying({
      played,
      grid: study.grid,
      tempo,
      instrument: STRUCK_BAR,
      sampleRateHz: SAMPLE_RATE_HZ,
      lengthS: 40,
      seed: 42,
      noiseDb: -58,
    }),
  );
};
