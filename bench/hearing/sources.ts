import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import type { Family } from '@isochron/core/analysis';
import { readWav } from '@isochron/core/material';
import { SAMPLED, type SampledInstrument } from '../onsets/instruments';
import { RATE, type SoundFont, sampledNotes } from '../onsets/notes';

/** A single note, cut so that its first sample is its physical onset. */
export interface SourceNote {
  pitch: number;
  samples: Float32Array;
  /** From 2 to 50 % of the peak of its first 0.6 s, in seconds. */
  attackS: number;
}

/** Notes of one instrument from one place. */
export interface Source {
  name: string;
  family: Family;
  notes(): readonly SourceNote[];
}

const PEAK_S = 0.6;
const ONSET_SHARE = 0.02;

const firstBeyond = (samples: Float32Array, least: number): number =>
  Math.max(
    0,
    samples.findIndex((value) => Math.abs(value) >= least),
  );

/**
 * Cuts a note at its physical onset, defined alike for every sound: the first sample beyond 2 % of the peak of its first 0.6 s.
 * Null where a note is next to silent.
 */
export const cutAtOnset = (pitch: number, samples: Float32Array): SourceNote | null => {
  const peak = samples.subarray(0, Math.round(PEAK_S * RATE)).reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  if (peak < 1e-3) return null;
  const onset = firstBeyond(samples, ONSET_SHARE * peak);
  const half = firstBeyond(samples, 0.5 * peak);
  return { pitch, samples: samples.subarray(onset), attackS: (half - onset) / RATE };
};

const isNote = (note: SourceNote | null): note is SourceNote => note !== null;

/** Instruments of a soundfont: those that are trained on, or those that nothing was ever trained on. */
export const fontSources = (
  font: SoundFont,
  folder: string,
  which: 'trained' | 'unseen',
  instruments: readonly SampledInstrument[] = SAMPLED,
): Source[] =>
  instruments
    .filter((instrument) => Boolean(instrument.unseen) === (which === 'unseen'))
    .map((instrument) => ({
      name: `${font} ${instrument.name}`,
      family: instrument.family,
      notes: () => {
        const halves = which === 'trained' ? (['tuned'] as const) : (['held'] as const);
        return halves
          .flatMap((half) => sampledNotes(instrument, half, folder, font))
          .map(({ pitch, samples }) => cutAtOnset(pitch, samples))
          .filter(isNote);
      },
    }));

const STEPS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** MIDI number of a name such as `Cs3` (C sharp, octave 3), as recorded notes are named; null where it is none. */
const pitchOf = (name: string): number | null => {
  const [, step = '', sharp, octave] = /^([A-G])(s?)(-?\d)\./.exec(name) ?? [];
  return step in STEPS ? 12 * (Number(octave) + 1) + (STEPS[step] as number) + (sharp ? 1 : 0) : null;
};

/** Recorded notes of the packages `tonejs-instrument-*-mp3` (MIT), unpacked in a folder; decoded by ffmpeg and kept as WAV. */
export const recordedSource = (instrument: string, family: Family, packages: string, folder: string): Source => ({
  name: `recorded ${instrument}`,
  family,
  notes: () => {
    const from = join(packages, `tonejs-instrument-${instrument}-mp3`);
    const into = join(folder, `recorded-${instrument}`);
    mkdirSync(into, { recursive: true });
    return readdirSync(from)
      .flatMap((file) => {
        const pitch = pitchOf(file);
        if (pitch === null) return [];
        const wav = join(into, file.replace(/mp3$/, 'wav'));
        if (!existsSync(wav)) {
          const own = join(into, `${process.pid}-${file}.wav`);
          execFileSync('ffmpeg', ['-v', 'error', '-i', join(from, file), '-ac', '1', '-ar', String(RATE), '-t', '3', own]);
          renameSync(own, wav);
        }
        return [cutAtOnset(pitch, readWav(readFileSync(wav)).samples)];
      })
      .filter(isNote);
  },
});

/** The recorded instruments that may be trained on. The others of that family of packages are kept for checking. */
export const RECORDED_TRAINED: readonly (readonly [string, Family])[] = [
  ['contrabass', 'bowed'],
  ['tuba', 'brass'],
  ['harmonium', 'blown'],
  ['organ', 'blown'],
  ['harp', 'plucked'],
];

/** Those that nothing is trained or tuned on. */
export const RECORDED_KEPT: readonly (readonly [string, Family])[] = [
  ['piano', 'struck'],
  ['xylophone', 'struck'],
  ['guitar-acoustic', 'plucked'],
  ['guitar-electric', 'plucked'],
  ['guitar-nylon', 'plucked'],
  ['bass-electric', 'plucked'],
  ['violin', 'bowed'],
  ['cello', 'bowed'],
  ['flute', 'blown'],
  ['clarinet', 'blown'],
  ['bassoon', 'blown'],
  ['saxophone', 'blown'],
  ['trumpet', 'brass'],
  ['trombone', 'brass'],
  ['french-horn', 'brass'],
];
