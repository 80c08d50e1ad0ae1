import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Chance, Family } from '@isochron/core/analysis';
import { readWav } from '@isochron/core/material';
import { RATE } from '../onsets/notes';
import { between, logBetween } from './draw';
import type { Performance } from './phrases';

/** A physical model of Debian's `stk` package, and the pitches that it plays well. */
export interface PhysicalModel {
  model: string;
  family: Family;
  range: readonly [number, number];
}

export const PHYSICAL_MODELS: readonly PhysicalModel[] = [
  { model: 'Clarinet', family: 'blown', range: [50, 80] },
  { model: 'BlowHole', family: 'blown', range: [55, 80] },
  { model: 'Saxofony', family: 'blown', range: [45, 76] },
  { model: 'Flute', family: 'blown', range: [60, 88] },
  { model: 'Bowed', family: 'bowed', range: [45, 84] },
];

/** Models that nothing is trained or tuned on. */
export const PHYSICAL_KEPT: readonly PhysicalModel[] = [
  { model: 'Brass', family: 'brass', range: [46, 70] },
  { model: 'BlowBotl', family: 'blown', range: [60, 82] },
  { model: 'Recorder', family: 'blown', range: [65, 88] },
];

const LENGTH_S = 12;

/** A slur, a new stroke of tongue or bow in the same breath, or a stroke after a short silence. */
type Beginning = 'slurred' | 'restruck' | 'separate';

interface RepetitionOutcome {
  timeS: number;
  pitch: number;
  beginning: Beginning;
}

/** Plays a list of notes with a model; the sound as it comes, from time 0. */
const render = (
  model: string,
  notes: readonly RepetitionOutcome[],
  endS: number,
  random: Chance,
  folder: string,
): Float32Array => {
  const stem = join(folder, `${model}-${process.pid}`);
  const lines: { atS: number; text: string }[] = [];
  const velocity = () => Math.round(between(random, 60, 120));
  notes.forEach(({ timeS, pitch, beginning }, k) => {
    const next = notes[k + 1];
    if (beginning === 'slurred') lines.push({ atS: timeS, text: `PitchChange %T 1 ${pitch}` });
    else lines.push({ atS: timeS, text: `NoteOn %T 1 ${pitch} ${velocity()}` });
    if (!next || next.beginning === 'separate') {
      const gapS = (next?.timeS ?? endS) - timeS;
      lines.push({ atS: timeS + gapS * between(random, 0.4, 0.85), text: `NoteOff %T 1 ${pitch} 64` });
    }
  });
  lines.sort((a, b) => a.atS - b.atS);
  let atS = 0;
  const score = lines.map(({ atS: ownS, text }) => {
    const waitS = Math.max(0, ownS - atS);
    atS = ownS;
    return text.replace('%T', waitS.toFixed(6));
  });
  writeFileSync(`${stem}.ski`, `${score.join('\n')}\nNoteOff 0.3 1 60 64\n`);
  execFileSync('stk-demo', [model, '-n', '1', '-s', String(RATE), '-ow', `${stem}.wav`, '-if', `${stem}.ski`], {
    stdio: 'ignore',
  });
  const { samples } = readWav(readFileSync(`${stem}.wav`));
  rmSync(`${stem}.wav`);
  rmSync(`${stem}.ski`);
  return samples;
};

/** A note after silence speaks once it passes 2 % of the peak that follows, the same definition as for recorded notes. */
const spokenAt = (sound: Float32Array, frame: number): number => {
  const part = sound.subarray(frame, frame + Math.round(0.3 * RATE));
  const peak = part.reduce((most, value) => Math.max(most, Math.abs(value)), 1e-9);
  const before = sound
    .subarray(Math.max(0, frame - Math.round(0.004 * RATE)), frame)
    .reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  // Where the note before still rings, what is louder than it.
  const least = Math.max(0.02 * peak, 1.2 * before);
  return (
    frame +
    Math.max(
      0,
      part.findIndex((value) => Math.abs(value) > least),
    )
  );
};

/** A phrase played by a physical model: real slurs, tonguing and changes of bow at known times; as the model gives it. */
export const playPhysical = (
  { model, family, range: [low, high] }: PhysicalModel,
  random: Chance,
  folder: string,
): Performance => {
  mkdirSync(folder, { recursive: true });
  const intervalS = logBetween(random, 0.09, 0.5);
  const slurred = [0, 0.3, 0.7, 1][Math.floor(random.uniform() * 4)] as number;
  const restruck = random.uniform();
  const notes: RepetitionOutcome[] = [];
  let pitch = Math.round(between(random, low, high));
  for (let timeS = 0.15; timeS < LENGTH_S - 1; timeS += intervalS * (1 + 0.04 * random.normal())) {
    const isFirst = notes.length === 0;
    const beginning: Beginning =
      !isFirst && random.uniform() < slurred ? 'slurred' : !isFirst && random.uniform() < restruck ? 'restruck' : 'separate';
    const isSame = beginning !== 'slurred' && random.uniform() < 0.2;
    const step = Math.ceil(random.uniform() * 4) * (random.uniform() < 0.5 ? 1 : -1);
    if (!isSame) pitch = pitch + step < low || pitch + step > high ? pitch - step : pitch + step;
    notes.push({ timeS, pitch, beginning });
  }
  const sound = render(model, notes, LENGTH_S - 0.5, random, folder);
  const starts = notes.map(({ timeS, pitch: own, beginning }) => {
    const asked = Math.round(timeS * RATE);
    const frame = beginning === 'separate' ? spokenAt(sound, asked) : asked;
    // Whatever sounds is the note itself: nothing else could mask it.
    return {
      frame,
      head: sound.slice(frame, frame + Math.round(0.06 * RATE)),
      isSlurred: beginning !== 'separate',
      pitch: own,
    };
  });
  return { source: `stk ${model}`, family, sound, starts };
};
