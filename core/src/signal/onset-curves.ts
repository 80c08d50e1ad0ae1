import { createCompressedBands } from './compressed-bands';
import { createDecimator } from './decimate';
import { createSampleBuffer, type SampleBuffer } from './sample-buffer';
import { SMALLEST_SPECTRUM } from './spectrum';

/** Time from short frame to short frame, in seconds; frame k is centred on k hops. */
export const HOP_S = 0.005;
/** Long frames come every second hop. */
export const LONG_EVERY = 2;

/** A short window sees attacks; a long one, over a lower rate, hears a change of pitch that has no attack. */
const SHORT = { windowS: 0.0205, peakShare: 1e-3, bands: { bandsPerOctave: 12, lowHz: 60, highHz: 16_000 } };
const LONG = { windowS: 0.082, peakShare: 1e-4, bands: { bandsPerOctave: 24, lowHz: 55, highHz: 4500 } };
/** Levels are compared with those this many frames earlier: about half a window. */
const SHORT_LAG = 2;
const LONG_LAG = 4;
const LONG_RATE_HZ = 12_000;
/** Upper edges in Hz of the groups in which rises are summed; the last group takes the rest. */
const SHORT_GROUPS_HZ = [300, 700, 1600, 3500, 7000];
const LONG_GROUPS_HZ = [250, 500, 1000, 2000];

/** What is known of a short frame: the rise in each group, the fall, the level. */
export const SHORT_CURVES = SHORT_GROUPS_HZ.length + 3;
/** Of a long frame: the rise in each group, the fall, and how far the colour has moved (1 − cosine). */
export const LONG_CURVES = LONG_GROUPS_HZ.length + 3;

/** Frames of both kinds that are complete, in order. */
export interface OnsetCurves {
  hop: number;
  push(block: Float32Array): void;
  /** The end of the sound: completes all frames centred before it. */
  finish(): void;
  /** Writes the next complete frame of each kind into `curves`; false where there is none yet. */
  nextShort(curves: Float32Array): boolean;
  nextLong(curves: Float32Array): boolean;
}

const powerOfTwo = (samples: number): number => Math.max(SMALLEST_SPECTRUM, 2 ** Math.round(Math.log2(samples)));

const groupsOf = (centreHz: readonly number[], edgesHz: readonly number[]): Int32Array =>
  Int32Array.from(centreHz, (hz) => {
    const group = edgesHz.findIndex((edge) => hz < edge);
    return group < 0 ? edgesHz.length : group;
  });

/** The last `lag + 1` frames of band levels. */
const createHistory = (bands: number, lag: number) => {
  const rows = Array.from({ length: lag + 1 }, () => new Float32Array(bands));
  let count = 0;
  return {
    /** The row to write the next frame into; then it is the latest. */
    advance(): Float32Array {
      count += 1;
      return rows[count % rows.length] as Float32Array;
    },
    /** The frame `lag` earlier than the latest, or null. */
    earlier: (): Float32Array | null => (count > lag ? (rows[(count - lag) % rows.length] as Float32Array) : null),
  };
};

/**
 * The curves from which notes are told: spectral rises and falls in groups of bands, short and long, the level and the
 * change of colour. The earlier short frame is widened by a band to either side, so that vibrato does not look like a note.
 * Source of the flux with a maximum filter: Böck & Widmer, DAFx 2013.
 */
export const createOnsetCurves = (sampleRateHz: number): OnsetCurves => {
  const factor = Math.max(1, Math.round(sampleRateHz / LONG_RATE_HZ));
  const longRateHz = sampleRateHz / factor;
  const hop = Math.round((HOP_S * sampleRateHz) / factor) * factor;
  const shortSize = powerOfTwo(sampleRateHz * SHORT.windowS);
  const longSize = powerOfTwo(longRateHz * LONG.windowS);
  const shortBands = createCompressedBands(
    { sampleRateHz, fftSize: shortSize, ...SHORT.bands },
    { hopS: HOP_S, peakShare: SHORT.peakShare },
  );
  const longBands = createCompressedBands(
    { sampleRateHz: longRateHz, fftSize: longSize, ...LONG.bands },
    { hopS: LONG_EVERY * HOP_S, peakShare: LONG.peakShare },
  );
  const shortGroup = groupsOf(shortBands.centreHz, SHORT_GROUPS_HZ);
  const longGroup = groupsOf(longBands.centreHz, LONG_GROUPS_HZ);
  const shortHistory = createHistory(shortBands.count, SHORT_LAG);
  const longHistory = createHistory(longBands.count, LONG_LAG);
  const decimator = createDecimator(factor);
  const sound = createSampleBuffer(4 * shortSize);
  const slow = createSampleBuffer(4 * longSize);
  let shortFrame = 0;
  let longFrame = 0;
  let finished = false;

  const isComplete = (buffer: SampleBuffer, centre: number, size: number) =>
    finished ? centre < buffer.end() : centre + size / 2 <= buffer.end();

  return {
    hop,
    push(block) {
      sound.append(block);
      slow.append(decimator.push(block));
    },
    finish() {
      finished = true;
    },
    nextShort(curves) {
      const centre = shortFrame * hop;
      if (!isComplete(sound, centre, shortSize)) return false;
      shortFrame += 1;
      const levels = shortHistory.advance();
      shortBands.next(sound.view(centre - shortSize / 2, shortSize), levels);
      curves.fill(0);
      const earlier = shortHistory.earlier();
      const share = 1 / levels.length;
      let fall = 0;
      let level = 0;
      for (let band = 0; band < levels.length; band += 1) {
        const now = levels[band] as number;
        level += now;
        if (!earlier) continue;
        const own = earlier[band] as number;
        const before = Math.max(earlier[band - 1] ?? 0, own, earlier[band + 1] ?? 0);
        if (now > before)
          curves[shortGroup[band] as number] = (curves[shortGroup[band] as number] as number) + (now - before) * share;
        if (now < own) fall += own - now;
      }
      curves[SHORT_CURVES - 2] = fall * share;
      curves[SHORT_CURVES - 1] = level * share;
      return true;
    },
    nextLong(curves) {
      const centre = (longFrame * LONG_EVERY * hop) / factor;
      if (!isComplete(slow, centre, longSize)) return false;
      longFrame += 1;
      const levels = longHistory.advance();
      longBands.next(slow.view(centre - longSize / 2, longSize), levels);
      curves.fill(0);
      const earlier = longHistory.earlier();
      if (!earlier) return true;
      const share = 1 / levels.length;
      let fall = 0;
      let product = 0;
      let nowSquare = 1e-9;
      let ownSquare = 1e-9;
      for (let band = 0; band < levels.length; band += 1) {
        const now = levels[band] as number;
        const own = earlier[band] as number;
        if (now > own) curves[longGroup[band] as number] = (curves[longGroup[band] as number] as number) + (now - own) * share;
        else fall += own - now;
        product += now * own;
        nowSquare += now * now;
        ownSquare += own * own;
      }
      curves[LONG_CURVES - 2] = fall * share;
      curves[LONG_CURVES - 1] = 1 - product / Math.sqrt(nowSquare * ownSquare);
      return true;
    },
  };
};
