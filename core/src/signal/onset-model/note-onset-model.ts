import type { Onset } from '../../schema/measures';
import { pitchOfNote } from '../pitch';
import { powerDb, powerOf } from '../power';
import { createSampleBuffer } from '../sample-buffer';

/** How far a note's sound has fallen is told shortly before the next one, or after so long, in seconds; over so much of it. */
const LONGEST_S = 0.35;
const BEFORE_NEXT_S = 0.015;
const LEVEL_S = 0.02;
/** A detector tells of an onset at most this long after it. */
const DETECTOR_DELAY_S = 0.11;
/** From so long after an onset on everything is known that it is told by. */
const KNOWN_AFTER_S = LONGEST_S + DETECTOR_DELAY_S;

/** Hears how notes go on while their sound does: their pitch, and how soon they fade. */
export interface NoteOnsetModel {
  append(block: Float32Array): void;
  /** Adds what is heard to those `onsets` (ascending in time) that it can be told of by now; to all that are left where `isOver`. */
  hear(onsets: Onset[], isOver: boolean): void;
}

/** How far a sound that begins with a note's onset has fallen from the attack's level by the next note, in dB; rises count as 0. */
export const fadeDb = (note: Float32Array, levelDb: number, nextOnset: number, sampleRateHz: number): number | null => {
  const to = Math.round(Math.min(LONGEST_S * sampleRateHz, nextOnset - BEFORE_NEXT_S * sampleRateHz));
  const from = to - Math.round(LEVEL_S * sampleRateHz);
  if (from < LEVEL_S * sampleRateHz || to > note.length) return null;
  return Math.max(0, levelDb - powerDb(powerOf(note.subarray(from, to))));
};

const tenths = (value: number): number => Math.round(10 * value) / 10;

/**
 * Makes a {@link NoteOnsetModel} for a sound whose first sample is sample `firstFrame` of the clock that the onsets are on. Notes are told
 * one by one, so that nothing is left to do for all of them at the end; a pitch that is known already is kept. Pitches are looked
 * for only where `hasPitch`.
 */
export const createNoteOnsetModel = (sampleRateHz: number, firstFrame: number, hasPitch: boolean): NoteOnsetModel => {
  const sound = createSampleBuffer(Math.round(4 * KNOWN_AFTER_S * sampleRateHz));
  const knownAfter = Math.round(KNOWN_AFTER_S * sampleRateHz);
  const at = (onset: Onset) => Math.round(onset.timeS * sampleRateHz) - firstFrame;
  let heard = 0;
  return {
    append: sound.append,
    hear(onsets, isOver) {
      for (; heard < onsets.length; heard += 1) {
        const onset = onsets[heard] as Onset;
        const from = at(onset);
        const room = sound.end() - from;
        if (!isOver && room < knownAfter) return;
        const next = onsets[heard + 1];
        const length = Math.max(0, Math.min(room, knownAfter));
        const until = next ? at(next) - from : length;
        const note = sound.view(from, length);
        // Where no next note is known of by then, it is farther away than a fade is followed.
        const fade = next || room >= knownAfter ? fadeDb(note, onset.levelDb, next ? until : knownAfter, sampleRateHz) : null;
        const pitch = onset.pitch ?? (hasPitch ? pitchOfNote(note, 0, until, sampleRateHz) : null);
        onsets[heard] = {
          ...onset,
          ...(fade === null ? {} : { fadeDb: tenths(fade) }),
          ...(pitch === null ? {} : { pitch }),
        };
      }
    },
  };
};
