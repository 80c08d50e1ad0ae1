import type { Candidate, Candidates } from './candidates';
import { createPitchChangeWatch, type PitchChange, type PitchSequence } from './pitch-change';

/** Log-odds that the pitches add to what the ear thinks of a candidate; fitted by bench/hearing/fit-pitch-change.ts. */
const CONSTANT = -0.9;
const WEIGHTS = [1.35, -1.35, 4, -0.8, 0.75] as const;
/** Less change than this is a vibrato. */
const MIN_CHANGE = 0.5;

/** The numbers that are weighed, in the order of the weights. */
export const pitchChangeFeatures = ({ change, sameness, louder }: PitchChange, repeatShare: number): number[] => {
  const held = Math.max(0, sameness) ** 4;
  return [
    Math.max(0, change - MIN_CHANGE),
    held * (1 - repeatShare),
    held * repeatShare,
    Math.max(0, louder),
    Math.min(0, louder),
  ];
};

/** Samples listened to at a time. */
const PIECE = 2048;

/** So far the score's word goes, against a note and for one: what the sound itself makes certain stays so. */
const MIN_WORD = -0.7;
const MAX_WORD = 2.5;

const weigh = (candidate: Candidate, pitchChange: PitchChange, repeatShare: number): Candidate => {
  const word = pitchChangeFeatures(pitchChange, repeatShare).reduce((sum, x, k) => sum + x * (WEIGHTS[k] as number), CONSTANT);
  return { ...candidate, logOdds: candidate.logOdds + Math.max(MIN_WORD, Math.min(MAX_WORD, word)) };
};

/**
 * Candidates of a stream, each weighed by whether an expected pitch takes over there from the one before it. Nothing is added and
 * nothing moves: without a candidate of the sound itself there is no note, whatever is written.
 */
export const withScore = (source: Candidates, sampleRateHz: number, sequence: PitchSequence): Candidates => {
  const watch = createPitchChangeWatch(sampleRateHz, sequence);
  let waiting: Candidate[] = [];
  const placeOf = ({ at, shiftS }: Candidate) => at + shiftS * sampleRateHz;
  const known = (): Candidate[] => {
    const first = waiting.findIndex((one) => !watch.knows(placeOf(one)));
    const ready = first < 0 ? waiting : waiting.slice(0, first);
    waiting = waiting.slice(ready.length);
    return ready.map((one) => weigh(one, watch.ask(placeOf(one)), watch.repeatShare));
  };
  return {
    push(block) {
      // The watch remembers half a second: candidates are asked about while it does.
      const found: Candidate[] = [];
      for (let at = 0; at < block.length; at += PIECE) {
        const piece = block.subarray(at, at + PIECE);
        watch.push(piece);
        waiting.push(...source.push(piece));
        found.push(...known());
      }
      return found;
    },
    finish() {
      watch.finish();
      waiting.push(...source.finish());
      return known();
    },
    doneTo: () => waiting[0]?.at ?? source.doneTo(),
  };
};
