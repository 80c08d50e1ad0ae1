import { createDecimator } from './decimate';
import { powerOf } from './power';
import { createSampleBuffer } from './sample-buffer';
import { nearestSpectrum, spectrumOf } from './spectrum';

/** The pitches that follow each other in what is to be played: MIDI numbers as they sound, one list for each note or chord. */
export type PitchSequence = readonly (readonly number[])[];

/** Whether any two notes in a row have pitches, and different ones. */
export const tellsNotesApart = (sequence: PitchSequence): boolean =>
  sequence.some((pitches, k) => {
    const before = sequence[k - 1];
    return before !== undefined && before.length > 0 && pitches.length > 0 && `${before}` !== `${pitches}`;
  });

/** What the pitches say about a place: see {@link PitchChangeWatch}. */
export interface PitchChange {
  /**
   * How far an expected pitch rose, or the one before it fell, as expected one after the other, in octaves of amplitude (1 is a
   * doubling); 0 where nothing of the kind happened.
   */
  change: number;
  /** How far the pitches that sound before and after resemble each other: 1 is the same sound, 0 nothing in common. */
  sameness: number;
  /** How far what sounds at the expected pitches rose altogether, in octaves of amplitude: a new stroke rises, an end falls. */
  louder: number;
}

/** Listens for moments at which an expected pitch takes over from the one before it. */
export interface PitchChangeWatch {
  push(block: Float32Array): void;
  finish(): void;
  /** Whether enough was heard to ask about a place, in samples of the stream. */
  knows(at: number): boolean;
  /** What the pitches say about a place. */
  ask(at: number): PitchChange;
  /** The share of notes that repeat the one before: only there may nothing change. */
  repeatShare: number;
}

const RATE_HZ = 12_000;
const HOP_S = 0.005;
/** A window tells neighbouring semitones apart from some pitch on; low instruments need a longer one. */
const WINDOW_S = 0.043;
const LOW_WINDOW_S = 0.085;
const LOW_MIDI = 50;
const HARMONICS = 10;
const HIGHEST_HZ = 5500;
/** A harmonic is looked for so far about its place: a vibrato stays inside, the next semitone does not come in. */
const REACH_CENTS = 40;
/** Harmonics of two pitches closer than this are one. */
const APART_CENTS = 70;
/** What sounds before and after a place: stretches beside it, in seconds. */
const NEAR_S = 0.02;
const FAR_S = 0.055;
/** A change that was as great so long before is the same one still going on, in seconds. */
const AFRESH_S = 0.05;
/** A rise counts up to so many octaves of amplitude: more is as good. */
const MAX_CHANGE = 4;
/** What lies so far under the loudest harmonic heard lately is nothing. */
const FLOOR_SHARE = 0.01;
const PEAK_FALL_DB_PER_S = 6;
/** Nothing below this amplitude counts (−140 dBFS). */
const SILENCE = 1e-7;
/** Below this share of the power after it, what sounded before is silence. */
const QUIET_SHARE = 0.1;
/** The player's tuning is followed within so many cents; it is known after about this long. */
const TUNING_CENTS = 50;
const TUNING_S = 1;
/** Only what stands so far above the floor tells it. */
const CLEAR = 10;
/** Frames kept: more than anyone asks back. */
const KEPT = 128;

const REACH = 2 ** (REACH_CENTS / 1200);

/** Where a peak of powers lies beside its greatest bin, in bins: the top of a parabola through their logarithms. */
const peakShift = (powers: Float32Array, at: number): number => {
  const below = Math.log((powers[at - 1] ?? 0) + 1e-20);
  const own = Math.log((powers[at] ?? 0) + 1e-20);
  const above = Math.log((powers[at + 1] ?? 0) + 1e-20);
  const bend = below - 2 * own + above;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (below - above)) / bend)) : 0;
};

const hzOf = (midi: number): number => 440 * 2 ** ((midi - 69) / 12);
const centsApart = (a: number, b: number): number => Math.abs(1200 * Math.log2(a / b));

/** Two notes in a row: the harmonics, by number among all places, that only the second has, only the first, and both. */
interface Pair {
  rising: number[];
  falling: number[];
  shared: number[];
  earlier: number[];
  later: number[];
}

/** Where the harmonics of all pitches lie, and which of them tell each two in a row apart. */
const planOf = (sequence: PitchSequence, binHz: number) => {
  const hzs: number[] = [];
  const placeOf = (hz: number): number => {
    const known = hzs.findIndex((one) => centsApart(one, hz) < 5);
    return known >= 0 ? known : hzs.push(hz) - 1;
  };
  const harmonicsOf = (pitches: readonly number[]): number[] => [
    ...new Set(
      pitches.flatMap((pitch) =>
        Array.from({ length: HARMONICS }, (_, k) => (k + 1) * hzOf(pitch))
          .filter((hz) => hz <= HIGHEST_HZ)
          .map(placeOf),
      ),
    ),
  ];
  const harmonics = sequence.map(harmonicsOf);
  const isApart = (one: number, from: readonly number[]): boolean =>
    from.every((other) => {
      const [a, b] = [hzs[one] as number, hzs[other] as number];
      return centsApart(a, b) >= APART_CENTS && Math.abs(a - b) >= 1.5 * binHz;
    });
  const pairs = new Map<string, Pair>();
  // The first note follows silence.
  if (harmonics[0]?.length)
    pairs.set('first', { rising: harmonics[0], falling: [], shared: harmonics[0], earlier: [], later: harmonics[0] });
  for (let k = 1; k < sequence.length; k += 1) {
    const key = `${sequence[k - 1]}>${sequence[k]}`;
    if (pairs.has(key) || !sequence[k - 1]?.length || !sequence[k]?.length) continue;
    const [before, after] = [harmonics[k - 1] as number[], harmonics[k] as number[]];
    const pair = {
      rising: after.filter((one) => isApart(one, before)),
      falling: before.filter((one) => isApart(one, after)),
      shared: after.filter((one) => !isApart(one, before)),
      earlier: before,
      later: after,
    };
    if (pair.rising.length + pair.falling.length > 0) pairs.set(key, pair);
  }
  return { bins: hzs.map((hz) => hz / binHz), pairs: [...pairs.values()] };
};

/**
 * Makes a {@link PitchChangeWatch}. It knows which pitch should follow which, not when: a moment is told by the harmonics that
 * only the later pitch has, which rise, and those that only the earlier one has, which fall. A vibrato stays inside the
 * stretch in which a harmonic is looked for, so that it is no change of pitch. What it says is evidence for a place that was
 * heard; it has no say in where that place is.
 */
export const createPitchChangeWatch = (sampleRateHz: number, sequence: PitchSequence): PitchChangeWatch => {
  const factor = Math.max(1, Math.round(sampleRateHz / RATE_HZ));
  const rateHz = sampleRateHz / factor;
  const lowest = Math.min(...sequence.flat());
  const size = nearestSpectrum(rateHz * (lowest < LOW_MIDI ? LOW_WINDOW_S : WINDOW_S));
  const hop = Math.round(HOP_S * rateHz);
  const { bins, pairs } = planOf(sequence, rateHz / size);
  const spectrum = spectrumOf(size);
  const decimator = createDecimator(factor);
  const sound = createSampleBuffer(4 * size);
  const rows = Array.from({ length: KEPT }, () => new Float32Array(bins.length));
  const floors = new Float32Array(KEPT);
  const fall = 10 ** ((-PEAK_FALL_DB_PER_S * HOP_S) / 20);
  let peak = 0;
  /** How far the player is tuned above what is written, in cents. */
  let tuning = 0;
  let frames = 0;
  let finished = false;

  const read = (): void => {
    while (finished ? frames * hop < sound.end() : frames * hop + size / 2 <= sound.end()) {
      const powers = spectrum.powers(sound.view(frames * hop - size / 2, size)).values();
      const row = rows[frames % KEPT] as Float32Array;
      const floor = FLOOR_SHARE * peak + SILENCE;
      let [greatest, sum, weights] = [0, 0, 1e-12];
      const tuned = 2 ** (tuning / 1200);
      for (let p = 0; p < bins.length; p += 1) {
        const bin = (bins[p] as number) * tuned;
        const nearest = Math.round(bin);
        const to = Math.max(nearest, Math.floor(bin * REACH));
        let at = nearest;
        for (let k = Math.min(nearest, Math.ceil(bin / REACH)); k <= to; k += 1)
          if ((powers[k] as number) > (powers[at] as number)) at = k;
        const amplitude = Math.sqrt(powers[at] as number);
        row[p] = amplitude;
        greatest = Math.max(greatest, amplitude);
        if (amplitude <= CLEAR * floor) continue;
        const offCents = 1200 * Math.log2((at + peakShift(powers, at)) / bin);
        if (Math.abs(offCents) < TUNING_CENTS) {
          sum += amplitude * offCents;
          weights += amplitude;
        }
      }
      peak = Math.max(peak * fall, greatest);
      floors[frames % KEPT] = floor;
      tuning += (HOP_S / TUNING_S) * (sum / weights);
      tuning = Math.max(-TUNING_CENTS, Math.min(TUNING_CENTS, tuning));
      frames += 1;
    }
  };

  /** Mean amplitudes of all places over a stretch of frames, as far as it was heard. */
  const meanOver = (from: number, to: number): Float32Array => {
    const mean = new Float32Array(bins.length);
    const first = Math.max(0, frames - KEPT, from);
    const last = Math.min(frames - 1, to);
    for (let k = first; k <= last; k += 1)
      for (let p = 0; p < mean.length; p += 1) mean[p] = (mean[p] as number) + ((rows[k % KEPT] as Float32Array)[p] as number);
    const count = Math.max(1, last - first + 1);
    return mean.map((value) => value / count);
  };

  /** How far some harmonics together rose, in octaves of amplitude. */
  const octaves = (before: Float32Array, after: Float32Array, which: readonly number[], floor: number): number => {
    let [earlier, later] = [floor, floor];
    for (const p of which) {
      earlier += before[p] as number;
      later += after[p] as number;
    }
    return Math.log2(later / earlier);
  };

  /** What share of the power at all places is that of some harmonics. */
  const shareOf = (row: Float32Array, which: readonly number[]): number => {
    let [own, all] = [0, 1e-20];
    for (const p of which) own += (row[p] as number) ** 2;
    for (let p = 0; p < row.length; p += 1) all += (row[p] as number) ** 2;
    return own / all;
  };

  /** The amplitudes shortly before and after a place, and what counts as nothing there. */
  const around = (middle: number) => {
    const [near, far] = [NEAR_S / HOP_S, FAR_S / HOP_S];
    return {
      before: meanOver(Math.round(middle - far), Math.round(middle - near)),
      after: meanOver(Math.round(middle + near), Math.round(middle + far)),
      floor: Math.max(SILENCE, floors[Math.max(0, Math.min(frames - 1, Math.round(middle))) % KEPT] as number),
    };
  };

  /** How far, of all notes in a row, the later one takes over from the earlier one, by the amplitudes around a place. */
  const changeIn = ({ before, after, floor }: ReturnType<typeof around>): number => {
    const isAfterQuiet = powerOf(before) < QUIET_SHARE * powerOf(after);
    let change = 0;
    for (const { rising, falling, shared, earlier, later } of pairs) {
      const rise = octaves(before, after, rising, floor);
      const drop = -octaves(before, after, falling, floor);
      // A noise makes everything rise, an end makes everything fall. Where the later pitch has no harmonic of its own (an
      // octave up), the earlier one's must fall while the later one's stay.
      const own =
        rising.length > 0
          ? Math.max(0, rise + Math.min(0, drop)) + 0.5 * Math.max(0, Math.min(rise, drop))
          : Math.max(0, drop + Math.min(0, 2 * octaves(before, after, shared, floor)));
      if (own <= 0) continue;
      // Of a change from one to the other, the one is heard before it and the other after.
      const hadEarlier = isAfterQuiet ? 1 : Math.min(1, 2 * shareOf(before, earlier));
      const heard = hadEarlier * Math.min(1, 2 * shareOf(after, later));
      change = Math.max(change, heard * Math.min(MAX_CHANGE, own));
    }
    return change;
  };

  const repeated = sequence.filter((pitches, k) => k > 0 && `${sequence[k - 1]}` === `${pitches}`).length;
  return {
    repeatShare: repeated / Math.max(1, sequence.length - 1),
    push(block) {
      sound.append(decimator.push(block));
      read();
    },
    finish() {
      finished = true;
      read();
    },
    knows: (at) => finished || at / factor / hop + FAR_S / HOP_S < frames,
    ask(at) {
      const middle = at / factor / hop;
      const here = around(middle);
      const { before, after, floor } = here;
      // What swells slowly goes on rising long after it began: only what is new says that something begins.
      const change = Math.max(0, changeIn(here) - changeIn(around(middle - AFRESH_S / HOP_S)));
      let [both, own, other, all, allBefore] = [0, 1e-20, 1e-20, floor, floor];
      for (let p = 0; p < before.length; p += 1) {
        const [a, b] = [before[p] as number, after[p] as number];
        both += a * b;
        own += a * a;
        other += b * b;
        allBefore += a;
        all += b;
      }
      const louder = Math.max(-MAX_CHANGE, Math.min(MAX_CHANGE, Math.log2(all / allBefore)));
      return { change, sameness: both / Math.sqrt(own * other), louder };
    },
  };
};
