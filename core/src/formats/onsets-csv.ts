import type { Repetition } from '../schema/take';
import { headlineBpm } from '../time/tempo-map';
import { writeCsv } from './write-csv';

const round = (value: number | null | undefined, digits: number): number | '' =>
  value === null || value === undefined ? '' : Number(value.toFixed(digits));

/**
 * Every note of a take as comma-separated values (RFC 4180), one row a note; extra notes have no number. Times in seconds
 * from the start of the recording, deviations in ms, late positive.
 */
export const onsetsCsv = (repetitions: readonly Repetition[]): string =>
  writeCsv(
    repetitions.flatMap(({ index, tempo, verdict, notes, extras }) => {
      const repetition = { repetition: index + 1, tempo_bpm: headlineBpm(tempo), verdict: verdict.outcome };
      return [
        ...notes.map((note) => ({
          ...repetition,
          note: note.index + 1,
          expected_s: round(note.expectedS, 5),
          onset_s: round(note.onsetS, 5),
          deviation_ms: round(note.deviationMs, 2),
          level_db: round(note.levelDb, 1),
          cents: round(note.cents, 0),
        })),
        ...extras.map((extra) => ({
          ...repetition,
          note: '',
          expected_s: '',
          onset_s: round(extra.timeS, 5),
          deviation_ms: '',
          level_db: round(extra.levelDb, 1),
          cents: '',
        })),
      ];
    }),
  );
