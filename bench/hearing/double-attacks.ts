/** Recordings in which some notes are struck twice within a few hundredths of a second. */
import { type Chance, mixInto } from '@isochron/core/analysis';
import { peakOf } from '../onsets/corpus';
import { RATE } from '../onsets/notes';
import { between, logBetween, pick } from './draw';
import type { SourceNote } from './sources';
import { addNoise, gesture, inRoom, throughMicrophone } from './surroundings';

/** One note: its first attack, and the gap to its second (0: there is none), in seconds. */
export interface Struck {
  timeS: number;
  gapS: number;
  /** Struck again, choked by the second attack, or tapped before it. */
  repetitionKind: 'again' | 'choked' | 'tapped';
}

const NOTES = 24;
/** Notes that speak more slowly than this have no attack that could be doubled. */
const FAST_ATTACK_S = 0.012;

const cut = ({ samples }: SourceNote, lengthS: number, releaseS: number): Float32Array => {
  const out = samples.slice(0, Math.round((lengthS + releaseS) * RATE));
  const release = Math.min(out.length, Math.round(releaseS * RATE));
  for (let n = 0; n < release; n += 1) out[out.length - 1 - n] = (out[out.length - 1 - n] as number) * (n / release);
  return out;
};

/**
 * Plays notes of one instrument, about `share` of them doubled in one of the ways that players know: struck again, choked by the
 * second finger, or with the tap of a stopping finger before it.
 */
export const playDoubled = (
  notes: readonly SourceNote[],
  share: number,
  random: Chance,
): { sound: Float32Array; struck: Struck[] } => {
  const intervalS = logBetween(random, 0.14, 0.5);
  let sound: Float32Array = new Float32Array(Math.round((NOTES * intervalS + 1.5) * RATE));
  const ring = pick(random, [-0.3, 0, 0.5]) * intervalS;
  const rangeDb = pick(random, [3, 10, 18]);
  const struck: Struck[] = [];
  let timeS = 0.3;
  for (let k = 0; k < NOTES; k += 1, timeS += intervalS * (1 + 0.03 * random.normal())) {
    const note = pick(random, notes);
    const same = notes.filter(({ pitch }) => pitch === note.pitch);
    const gain = (0.4 / peakOf(note.samples.subarray(0, Math.round(0.6 * RATE)))) * 10 ** ((-rangeDb * random.uniform()) / 20);
    const canDouble = note.attackS < FAST_ATTACK_S;
    const gapS = canDouble && random.uniform() < share ? between(random, 0.008, 0.034) : 0;
    const lengthS = intervalS + ring;
    const releaseS = logBetween(random, 0.01, 0.1);
    const put = (atS: number, samples: Float32Array, own: number) =>
      mixInto(sound, 0, { frame: Math.round(atS * RATE), samples, gain: own });
    const secondGain = gain * 10 ** (between(random, -6, 4) / 20);
    const chosen = random.uniform();
    const repetitionKind = chosen < 0.4 ? 'again' : chosen < 0.7 ? 'choked' : 'tapped';
    if (gapS === 0) put(timeS, cut(note, lengthS, releaseS), gain);
    else if (repetitionKind === 'again') {
      put(timeS, cut(note, lengthS, releaseS), gain);
      put(timeS + gapS, cut(pick(random, same), lengthS - gapS, releaseS), secondGain);
    } else if (repetitionKind === 'choked') {
      put(timeS, cut(note, Math.max(0, gapS - 0.004), 0.006), gain);
      put(timeS + gapS, cut(pick(random, same), lengthS - gapS, releaseS), secondGain);
    } else {
      put(
        timeS,
        gesture(random, 'key'),
        gain * peakOf(note.samples.subarray(0, Math.round(0.6 * RATE))) * 10 ** (between(random, -10, 2) / 20),
      );
      put(timeS + gapS, cut(note, lengthS, releaseS), gain);
    }
    struck.push({ timeS, gapS, repetitionKind });
  }
  if (random.uniform() < 0.3) sound = inRoom(sound, random, logBetween(random, 0.1, 0.8), between(random, 6, 20));
  if (random.uniform() < 0.4) sound = throughMicrophone(sound, random);
  return { sound: addNoise(sound, pick(random, ['white', 'pink']), between(random, 35, 70), random), struck };
};
