import { unpackByteLayer } from '../byte-layer';
import { FAMILIES, type Family } from '../families';
import { floatRow, kernel, padded, type Row } from '../kernel';
import { type Layer, loadLayer, runLayer } from '../perceptron';
import { createOnsetModelFrames, LONG_BANDS, SHORT_BANDS, STEP_LEVELS, STEP_S } from './frames';
import { ONSET_MODEL_WEIGHTS } from './weights';

/** What the ear thinks of one step. */
export interface DetectedAttack {
  /** Where the step is, in samples of the stream. */
  at: number;
  /** How likely a note begins there, as natural log-odds. */
  logOdds: number;
  /** From the step to the note's onset, in seconds, and how far off that may be (mean absolute error). */
  shiftS: number;
  errorS: number;
}

/** A stream of steps, in order. */
export interface OnsetModel {
  push(block: Float32Array): void;
  /** The end of the sound: completes all steps before it. */
  finish(): void;
  /** What is thought of the next step; null where it is not known yet. The object is the same one at every call. */
  next(): DetectedAttack | null;
}

/** Levels are compared with those so many steps earlier: about half a window. */
const LONG_LAG = 4;
const SHORT_LAG = 1;
const LEVEL_SCALE = 1 / 8;
/** Steps around its own that each layer after the first looks at. What lies ahead sets how long the stream waits. */
export const ONSET_MODEL_TAPS = [
  [-2, -1, 0, 1],
  [-4, -2, 0, 1],
  [-8, -4, 0, 1],
  [-24, -12, 0],
] as const;
/** Rows kept of each layer: more than any later one looks back. */
const KEPT = 32;
/** Numbers before a row of bands, zero: its first band has no lower neighbour. */
const BEFORE = 4;

/** A loaded layer with a room for what goes into it. */
const withInput = (layer: Layer) => ({ ...loadLayer(layer), input: floatRow(layer.inputs) });
type RoomyLayer = ReturnType<typeof withInput>;

const layers = ONSET_MODEL_WEIGHTS.map(unpackByteLayer).map(withInput);
const [encoder, ...middle] = layers.slice(0, -1) as [RoomyLayer, ...RoomyLayer[]];
const head = layers.at(-1) as RoomyLayer;
/** Rooms for levels, each with its bands' neighbours. */
const room = (bands: number) => floatRow(BEFORE + bands + BEFORE);
const rooms = { now: room(LONG_BANDS), earlier: room(LONG_BANDS), rises: floatRow(LONG_BANDS) };

const run = (layer: RoomyLayer, isRectified: boolean): Float32Array => runLayer(layer, layer.input, isRectified).values();

/** The latest rows of a stream by number; before the first and past the last there is nothing but zeros. */
const createRows = (width: number) => {
  const nothing = new Float32Array(width);
  const rows = Array.from({ length: KEPT }, () => new Float32Array(width));
  let end = 0;
  return {
    end: () => end,
    push(row: Float32Array) {
      (rows[end % KEPT] as Float32Array).set(row);
      end += 1;
    },
    row: (k: number): Float32Array => (k < 0 || k >= end ? nothing : (rows[k % KEPT] as Float32Array)),
  };
};
type Rows = ReturnType<typeof createRows>;

const fill = (row: Row, bands: Float32Array): void => row.values().set(bands, BEFORE);

/** How far each band rose above itself and its neighbours earlier, so that vibrato is no rise. Source: Böck & Widmer, DAFx 2013. */
const rises = (now: Float32Array, earlier: Float32Array): Float32Array => {
  fill(rooms.now, now);
  // What is left of longer rows beyond the last band must not be its neighbour.
  rooms.earlier.values().fill(0);
  fill(rooms.earlier, earlier);
  kernel.rises(rooms.now.at + 4 * BEFORE, rooms.earlier.at + 4 * BEFORE, padded(now.length), rooms.rises.at);
  return rooms.rises.values().subarray(0, now.length);
};

/**
 * Listens for notes: a small network over log-frequency levels, trained on sampled, recorded and modelled instruments in made
 * surroundings (bench/hearing). A step is known about 75 ms after it sounds, the same however the sound is cut into blocks.
 */
export const createOnsetModel = (sampleRateHz: number, family: Family | null): OnsetModel => {
  const frames = createOnsetModelFrames(sampleRateHz);
  const levels = createRows(STEP_LEVELS);
  const next = new Float32Array(STEP_LEVELS);
  const encoded = createRows(encoder.outputs);
  const outputs = middle.map(({ outputs: width }) => createRows(width));
  const heard: DetectedAttack = { at: 0, logOdds: 0, shiftS: 0, errorS: 0 };
  let finished = false;
  /** Whether every step there will be was read: then nothing lies ahead. */
  let isAtEnd = false;
  let done = 0;

  const encode = (k: number): void => {
    const now = levels.row(k);
    const input = encoder.input.values();
    const part = (of: Float32Array, from: number, bands: number) => of.subarray(from, from + bands);
    let at = 0;
    const put = (numbers: Float32Array) => {
      for (let n = 0; n < numbers.length; n += 1) input[at + n] = (numbers[n] as number) * LEVEL_SCALE;
      at += numbers.length;
    };
    const [first, second] = [LONG_BANDS, LONG_BANDS + SHORT_BANDS];
    put(part(now, 0, LONG_BANDS));
    put(rises(part(now, 0, LONG_BANDS), part(levels.row(k - LONG_LAG), 0, LONG_BANDS)));
    put(part(now, second, SHORT_BANDS));
    for (const from of [first, second])
      put(rises(part(now, from, SHORT_BANDS), part(levels.row(k - SHORT_LAG), from, SHORT_BANDS)));
    FAMILIES.forEach((one, n) => {
      input[at + n] = one === family ? 1 : 0;
    });
    encoded.push(run(encoder, true));
  };

  /** Works on a layer as far as what it looks at is known. */
  const drain = (depth: number): void => {
    const layer = middle[depth] as RoomyLayer;
    const taps = ONSET_MODEL_TAPS[depth] as readonly number[];
    const from = depth === 0 ? encoded : (outputs[depth - 1] as Rows);
    const into = outputs[depth] as Rows;
    const ahead = isAtEnd ? 0 : Math.max(...taps);
    while (into.end() + ahead < from.end()) {
      const input = layer.input.values();
      taps.forEach((tap, n) => {
        const row = from.row(into.end() + tap);
        input.set(row, n * row.length);
      });
      into.push(run(layer, true));
    }
  };

  const last = outputs.at(-1) as Rows;
  return {
    push: frames.push,
    finish() {
      frames.finish();
      finished = true;
    },
    next() {
      // One step at a time, so that no row is forgotten before it was used.
      while (done >= last.end() && !isAtEnd) {
        if (frames.next(next)) {
          levels.push(next);
          encode(levels.end() - 1);
        } else if (finished) isAtEnd = true;
        else return null;
        for (let depth = 0; depth < middle.length; depth += 1) drain(depth);
      }
      if (done >= last.end()) return null;
      head.input.values().set(last.row(done));
      const [logOdds = 0, shift = 0, spread = 0] = run(head, false);
      heard.at = frames.centre(done);
      heard.logOdds = logOdds;
      heard.shiftS = shift * STEP_S;
      heard.errorS = Math.exp(Math.min(3, Math.max(-4, spread))) * STEP_S;
      done += 1;
      return heard;
    },
  };
};
