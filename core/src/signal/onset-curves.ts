import { type CompressedBands, createCompressedBands } from './compressed-bands';
import { createDecimator } from './decimate';
import { floatRow, integersInRow, kernel } from './kernel';
import { oncePer } from './once-per';
import { createSampleBuffer, type SampleBuffer } from './sample-buffer';
import { nearestSpectrum } from './spectrum';

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

/** Groups of a long frame. */
export const LONG_GROUPS = LONG_GROUPS_HZ.length + 1;

/** What is known of a short frame: the rise in each group, the fall, the level. */
export const SHORT_CURVES = SHORT_GROUPS_HZ.length + 3;
/**
 * Of a long frame: the rise in each group, the greatest rise of a single band in each group (a soft note over a ringing one
 * is heard in few bands), the fall, and how far the colour has moved (1 − cosine).
 */
export const LONG_CURVES = 2 * LONG_GROUPS + 2;

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

/** The last `lag + 1` frames of band levels. */
const createHistory = (bands: number, lag: number) => {
  const rows = Array.from({ length: lag + 1 }, () => new Float32Array(bands));
  let count = 0;
  return {
    /** Remembers the latest frame; gives the one `lag` frames before it, or null. */
    push(levels: Float32Array): Float32Array | null {
      count += 1;
      (rows[count % rows.length] as Float32Array).set(levels);
      return count > lag ? (rows[(count - lag) % rows.length] as Float32Array) : null;
    },
  };
};

/** Numbers before and after an earlier frame: its bands' neighbours, and room that keeps it at an address that divides by 16. */
const AROUND = 4;

/** What all readers of the same bands share: each band's group, and rooms to work in. */
const createRooms = (bandCentreHz: readonly number[], edgesHz: readonly number[], curveCount: number) => ({
  groups: integersInRow(
    bandCentreHz.map((hz) => {
      const group = edgesHz.findIndex((edge) => hz < edge);
      return group < 0 ? edgesHz.length : group;
    }),
  ),
  earlier: floatRow(bandCentreHz.length + 2 * AROUND),
  curves: floatRow(curveCount),
});
const sharedRooms = oncePer<ReturnType<typeof createRooms>>();

/** One way of looking at the sound. */
interface View {
  bands: CompressedBands;
  /** A frame is compared with the one this many frames earlier. */
  lag: number;
  groupsHz: readonly number[];
  curveCount: number;
  compare: typeof kernel.shortCurves;
}

/** Reads frame after frame, and writes what each tells beside an earlier one. */
const createReader = ({ bands, lag, groupsHz, curveCount, compare }: View) => {
  const { groups, earlier, curves } = sharedRooms([curveCount, ...bands.centreHz].join(), () =>
    createRooms(bands.centreHz, groupsHz, curveCount),
  );
  const history = createHistory(bands.count, lag);
  return (samples: Float32Array, into: Float32Array): void => {
    const levels = bands.next(samples);
    // The first frames are compared with themselves: nothing rises yet.
    earlier.values().set(history.push(levels.values()) ?? levels.values(), AROUND);
    compare(levels.at, earlier.at + 4 * AROUND, groups.at, bands.count, groupsHz.length + 1, curves.at);
    into.set(curves.values());
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
  const shortSize = nearestSpectrum(sampleRateHz * SHORT.windowS);
  const longSize = nearestSpectrum(longRateHz * LONG.windowS);
  const shortBands = createCompressedBands(
    { sampleRateHz, fftSize: shortSize, ...SHORT.bands },
    { hopS: HOP_S, peakShare: SHORT.peakShare },
  );
  const longBands = createCompressedBands(
    { sampleRateHz: longRateHz, fftSize: longSize, ...LONG.bands },
    { hopS: LONG_EVERY * HOP_S, peakShare: LONG.peakShare },
  );
  const readShort = createReader({
    bands: shortBands,
    lag: SHORT_LAG,
    groupsHz: SHORT_GROUPS_HZ,
    curveCount: SHORT_CURVES,
    compare: kernel.shortCurves,
  });
  const readLong = createReader({
    bands: longBands,
    lag: LONG_LAG,
    groupsHz: LONG_GROUPS_HZ,
    curveCount: LONG_CURVES,
    compare: kernel.longCurves,
  });
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
      readShort(sound.view(centre - shortSize / 2, shortSize), curves);
      return true;
    },
    nextLong(curves) {
      const centre = (longFrame * LONG_EVERY * hop) / factor;
      if (!isComplete(slow, centre, longSize)) return false;
      longFrame += 1;
      readLong(slow.view(centre - longSize / 2, longSize), curves);
      return true;
    },
  };
};
