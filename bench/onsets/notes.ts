import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readWav } from '@isochron/core/material';
import { writeMidi } from 'midi-file';
import { type Half, pitchesOf, type SampledInstrument } from './instruments';

export const RATE = 48_000;

/** Debian's soundfonts: two to train on (both MIT), one that is kept for checking. */
const SOUND_FONTS = {
  fluid: '/usr/share/sounds/sf2/FluidR3_GM.sf2',
  musescore: '/usr/share/sounds/sf3/MuseScore_General_Full.sf3',
  timgm: '/usr/share/sounds/sf2/TimGM6mb.sf2',
} as const;
export type SoundFont = keyof typeof SOUND_FONTS;

const VELOCITIES: Record<Half, readonly number[]> = { tuned: [45, 80, 112], held: [55, 92, 120] };
const SLOT_S = 4;
const HOLD_S = 1.6;
/** The first note-on; the renderer may begin a note up to a block of 64 samples from its tick. */
const NOTE_ON_S = 0.498;
const TICKS = 480;

/** One single note, cut so that its first sample is its physical onset. */
export interface SampledNote {
  pitch: number;
  velocity: number;
  samples: Float32Array;
}

/** The physical onset: the first sample beyond −40 dB of the note's own peak in its first 0.6 s. */
const physicalOnset = (samples: Float32Array): number => {
  const peak = samples.subarray(0, 0.6 * RATE).reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return samples.findIndex((value) => Math.abs(value) > 0.01 * peak);
};

const midiOf = (instrument: SampledInstrument, half: Half): Uint8Array => {
  const { program, isDrum } = instrument;
  const channel = isDrum ? 9 : 0;
  const ticksOf = (seconds: number) => Math.round(seconds * 2 * TICKS);
  const notes = pitchesOf(instrument, half).flatMap((noteNumber) =>
    VELOCITIES[half].map((velocity) => ({ noteNumber, velocity })),
  );
  const track = notes.flatMap(({ noteNumber, velocity }, k) => [
    { deltaTime: ticksOf(k === 0 ? 0.5 : SLOT_S - HOLD_S), channel, type: 'noteOn' as const, noteNumber, velocity },
    { deltaTime: ticksOf(HOLD_S), channel, type: 'noteOff' as const, noteNumber, velocity: 0 },
  ]);
  const head = [
    { deltaTime: 0, type: 'setTempo' as const, microsecondsPerBeat: 500_000 },
    { deltaTime: 0, channel, type: 'programChange' as const, programNumber: program },
  ];
  const end = { deltaTime: ticksOf(1), type: 'endOfTrack' as const };
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS }, tracks: [[...head, ...track, end]] }),
  );
};

/** Renders a half's single notes of an instrument with fluidsynth, dry; kept in `folder` for the next run. */
export const sampledNotes = (
  instrument: SampledInstrument,
  half: Half,
  folder: string,
  font: SoundFont = 'fluid',
): SampledNote[] => {
  mkdirSync(folder, { recursive: true });
  const stem = join(folder, `${font === 'fluid' ? '' : `${font}-`}${instrument.name.replaceAll(' ', '-')}-${half}`);
  if (!existsSync(`${stem}.wav`)) {
    // Several programs may make the same file at once.
    const own = `${stem}-${process.pid}`;
    writeFileSync(`${own}.mid`, midiOf(instrument, half));
    const args = [
      '-ni',
      '-q',
      '-g',
      '0.5',
      '-R',
      '0',
      '-C',
      '0',
      '-r',
      String(RATE),
      '-O',
      's16',
      '-T',
      'wav',
      '-F',
      `${own}.wav`,
    ];
    execFileSync('fluidsynth', [...args, SOUND_FONTS[font], `${own}.mid`], { stdio: 'ignore' });
    renameSync(`${own}.wav`, `${stem}.wav`);
  }
  const { samples } = readWav(readFileSync(`${stem}.wav`));
  return pitchesOf(instrument, half).flatMap((pitch, p) =>
    VELOCITIES[half].map((velocity, v) => {
      const slot = Math.round((NOTE_ON_S + (p * VELOCITIES[half].length + v) * SLOT_S) * RATE);
      const note = samples.subarray(slot, slot + Math.round(HOLD_S * RATE));
      return { pitch, velocity, samples: note.subarray(Math.max(0, physicalOnset(note))) };
    }),
  );
};
