import { execFileSync } from 'node:child_process';
import { closeSync, openSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { listenToRecording, measureImport, profileOf } from '@isochron/core/analysis';
import { builtInPassage, constantTempo, openWav, planRepetition, readWav, writeSmf, writeWav } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Passage, STEADY, TOLERANCE_PRESETS } from '@isochron/core/schema';
import { PLUCKED_STRING, renderPlaying, simulatePlaying } from '@isochron/core/simulation';
import { fileBytes } from '../../server/src/reanalysis/file-bytes';

/** An hour of a simulated player with a metronome in the ear: repetitions one after the other. */
const hourOf = (minutes: number, work: string) => {
  const drill = firstDrill(builtInPassage('five-steps') as Passage);
  const tempo = constantTempo(100);
  const rate = 48_000;
  const plan = planRepetition({ drill, tempo, startS: 0 });
  const everyS = plan.endS + 1;
  const sound = new Float32Array(minutes * 60 * rate);
  for (let k = 0; (k + 1) * everyS < minutes * 60; k += 1) {
    const played = simulatePlaying(plan.notes, { ...STEADY, spreadMs: 8 }, tempo, k + 1);
    const lengthS = plan.endS;
    sound.set(
      renderPlaying({
        played,
        grid: drill.grid,
        tempo,
        instrument: PLUCKED_STRING,
        sampleRateHz: rate,
        lengthS,
        seed: k,
        noiseDb: -62,
      }),
      Math.round(k * everyS * rate),
    );
  }
  const file = join(work, 'hour.wav');
  writeFileSync(file, writeWav(sound, rate));
  return { file, drill, tempo };
};

/** How long an hour of sound takes to be heard and measured. */
export const hour = (work: string) => {
  const minutes = 60;
  const { file, drill, tempo } = hourOf(minutes, work);
  const handle = openSync(file, 'r');
  const from = performance.now();
  const sound = openWav(fileBytes(handle));
  const profile = profileOf('plucked');
  const onsets = listenToRecording(sound, { profile });
  const heardMs = performance.now() - from;
  const repetitions = measureImport(onsets, { drill, tempo, tolerance: TOLERANCE_PRESETS.secure, profile });
  const allMs = performance.now() - from;
  closeSync(handle);
  return { minutes, heardMs, allMs, onsets: onsets.length, repetitions: repetitions.length };
};

/** How long what invites quadratic work takes; after the hour was made. */
export const quadratic = (work: string) => {
  const together = Array.from({ length: 20_000 }, (_, k) => ({ timeS: 1, levelDb: -10, pitch: 21 + (k % 88) }));
  const midi = join(work, 'together.mid');
  writeFileSync(midi, writeSmf(together));
  const from = performance.now();
  measureImport(together, {
    drill: firstDrill(builtInPassage('hands-together') as Passage),
    tempo: constantTempo(100),
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('midi'),
  });
  const togetherMs = performance.now() - from;
  const wav = join(work, 'minute.wav');
  const hourFile = join(work, 'hour.wav');
  const minute = readWav(readFileSync(hourFile).subarray(0, 44 + 60 * 48_000 * 2));
  writeFileSync(wav, writeWav(minute.samples, minute.sampleRateHz));
  const asked = performance.now();
  const args = ['--per-beat', '24', '--beats', '4000', '--bpm', '120', '--start', '0'];
  execFileSync(process.execPath, ['scripts/isochron.mjs', 'measure', wav, ...args], { stdio: 'ignore' });
  const measureMs = performance.now() - asked;
  const again = performance.now();
  execFileSync(process.execPath, ['scripts/isochron.mjs', 'measure', hourFile, ...args], { stdio: 'ignore' });
  return { togetherMs, measureMs, measureHourMs: performance.now() - again };
};
