import { spectrumOf } from '../../core/src/signal/spectrum';
import { RATE } from '../onsets/notes';

/** Enough for bands of a third of an octave from 100 Hz on, in frames of 23 ms. */
const SIZE = 1024;
const LOWEST_HZ = 100;
const THIRD = 2 ** (1 / 3);
/** A rise of a decibel, about the least that ears tell (Zwicker & Fastl, Psychoacoustics, ch. 7; from memory): own power a quarter of the rest's. */
const HEARD_SHARE = 10 ** 0.1 - 1;

const bandPowers = (sound: Float32Array, from: number): number[] => {
  const frame = new Float32Array(SIZE);
  frame.set(sound.subarray(Math.max(0, from), Math.max(0, from) + SIZE));
  const powers = spectrumOf(SIZE).powers(frame).values();
  const bands: number[] = [];
  for (let lowHz = LOWEST_HZ; lowHz < 12_000; lowHz *= THIRD) {
    const [first, last] = [lowHz, lowHz * THIRD].map((hz) => Math.round((hz * SIZE) / RATE)) as [number, number];
    let sum = 0;
    for (let bin = first; bin <= Math.max(first, last - 1); bin += 1) sum += powers[bin] as number;
    bands.push(sum);
  }
  return bands;
};

/**
 * Whether a note could be heard to begin, from its clean part alone: whether in its first 25 ms some band of a third of an octave
 * gains a decibel on everything else that sounds then. `own` is the note alone from its onset on, `rest` all else from the same
 * place on; at {@link RATE}.
 */
export const canBeHeard = (own: Float32Array, rest: Float32Array): boolean => {
  const others = bandPowers(rest, 0);
  return bandPowers(own, 0).some((power, band) => power > HEARD_SHARE * ((others[band] as number) + 1e-12));
};
