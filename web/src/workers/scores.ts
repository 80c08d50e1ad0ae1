import type { Grid, Passage } from '@isochron/core/schema';
import {
  formatOf,
  PASSAGE_FORMATS,
  type PlayedIn,
  passageOfScore,
  playedSmf,
  type ReadPassage,
  readPassageFile,
  readText,
} from '@isochron/core/score';
import { INSTRUMENTS, renderHearing, STRUCK_BAR } from '@isochron/core/simulation';
import { transfer } from 'comlink';

/** What the page may ask of the worker that reads and writes notation. */
export const scores = {
  /** Reads a file of any known kind, or one part of it. Throws with a sentence where it cannot be read. */
  readFile: async (file: File, id: string, partId?: string): Promise<ReadPassage> =>
    readPassageFile(file.name, new Uint8Array(await file.arrayBuffer()), id, partId),
  /** Reads the text notation. Throws with the line and what is wrong with it. */
  readText: (text: string, id: string): ReadPassage => passageOfScore(readText(text), id),
  /** Notes played in against a click, set to the nearest places of the beat. */
  readPlayed: (played: PlayedIn, id: string): Promise<ReadPassage> => readPassageFile(`${id}.mid`, playedSmf(played), id),
  /** Writes a passage as a file of a kind, told by an ending. */
  write(passage: Passage, ending: string): Uint8Array<ArrayBuffer> {
    const format = formatOf(ending) ?? (PASSAGE_FORMATS[0] as (typeof PASSAGE_FORMATS)[number]);
    const bytes = format.write(passage) as Uint8Array<ArrayBuffer>;
    return transfer(bytes, [bytes.buffer]);
  },
  /** A grid as sound by the built-in voice, to be looped. */
  hear(grid: Grid, bpm: number, instrumentId: string, sampleRateHz: number, withClick: boolean): Float32Array<ArrayBuffer> {
    const instrument = INSTRUMENTS.find(({ id }) => id === instrumentId) ?? STRUCK_BAR;
    const samples = renderHearing({ grid, bpm, instrument, sampleRateHz, withClick }).samples as Float32Array<ArrayBuffer>;
    return transfer(samples, [samples.buffer]);
  },
};
