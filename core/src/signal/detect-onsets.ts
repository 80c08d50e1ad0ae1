import type { Onset } from '../schema/measures';
import type { Candidate, Candidates } from './candidates';
import type { Family } from './families';
import { createJudgedCandidates } from './onset-judge';
import { attackLevelDb, REFINE_BEFORE_S, refineOnset, SEARCH_AFTER_S } from './refine-onset';
import { createSampleBuffer } from './sample-buffer';

/** Who says where notes may begin. */
export interface Listener {
  candidates(sampleRateHz: number, family: Family | null): Candidates;
  /** An attack below this level is no note, whatever its shape, in dBFS; as a recording begins, its noise begins as well. */
  quietestDb: number;
  quietestFirstDb: number;
}

/** What is known beforehand about a sound. */
export interface DetectorOptions {
  /** The family of the instrument, or null where it is not known. */
  family?: Family | null;
  /** Log-odds to add for a note at a time of the stream (seconds): what the grid makes likely. */
  prior?: (timeS: number) => number;
  listener?: Listener;
}

/** A candidate at least this likely (natural log-odds) is a note. */
const THRESHOLD = 0;
/** Two onsets closer than this are one attack. */
const SHORTEST_GAP_S = 0.034;
/** A note that only the grid makes likely keeps at least this far from any that the sound makes certain. */
const LONELY_S = 0.07;
/** A better candidate for the same note is waited for this long. */
const WAIT_S = 0.02;
/** The trained judge. To it attacks below this level are room noise, whatever their shape. */
const JUDGE: Listener = { candidates: createJudgedCandidates, quietestDb: -62, quietestFirstDb: -62 };
/** A recording's beginning, in seconds. */
const BEGINNING_S = 0.05;
const LEVEL_S = 0.02;

/** A detector fed block by block; gives the same onsets however the sound is cut into blocks. */
export interface OnsetDetector {
  /** The next samples, mono, −1…1. Returns the onsets that are now certain, in order, at sample resolution. */
  push(block: Float32Array): Onset[];
  /** The end of the sound: returns what is left. */
  flush(): Onset[];
}

/**
 * A note that waits for a better candidate. Positions in samples of the stream. The sound alone decides which candidate is
 * best, and so where the note lies; the grid only has a say in whether it is one.
 */
interface Likely {
  /** Where the candidate was, and where its note is thought to begin. */
  candidateAt: number;
  at: number;
  logOdds: number;
  isNote: boolean;
}

/**
 * Makes a streaming onset detector: candidates from a short and a long spectral view every 5 ms, each judged by a trained
 * perceptron, then refinement of sharp attacks in the time domain. A note is known less than 100 ms after it sounds.
 */
export const createOnsetDetector = (sampleRateHz: number, options: DetectorOptions = {}): OnsetDetector => {
  const { family = null, prior, listener = JUDGE } = options;
  const source = listener.candidates(sampleRateHz, family);
  const shortestGap = SHORTEST_GAP_S * sampleRateHz;
  const behind = Math.round(REFINE_BEFORE_S * sampleRateHz);
  const ahead = Math.round((SEARCH_AFTER_S + LEVEL_S) * sampleRateHz);
  const sound = createSampleBuffer(Math.round(0.3 * sampleRateHz) + behind + ahead);
  let likely: Likely | null = null;
  let last = Number.NEGATIVE_INFINITY;

  const timed = ({ at }: Likely): Onset[] => {
    const coarse = Math.round(at);
    const part = sound.view(coarse - behind, behind + ahead);
    const onset = Math.max(0, coarse - behind + refineOnset(part, behind, sampleRateHz, family));
    const levelDb = attackLevelDb(sound.view(onset, Math.round(LEVEL_S * sampleRateHz)));
    const leastDb = onset < BEGINNING_S * sampleRateHz ? listener.quietestFirstDb : listener.quietestDb;
    if (levelDb < leastDb || onset - last < shortestGap) return [];
    last = onset;
    return [{ timeS: onset / sampleRateHz, levelDb }];
  };

  const isCertain = ({ logOdds }: Pick<Likely, 'logOdds'>) => logOdds >= THRESHOLD;
  const gapOf = (one: Likely) => (isCertain(one) ? shortestGap : LONELY_S * sampleRateHz);

  /** The note that was waited for, once no better candidate can come before `position`. */
  const settle = (position: number): Onset[] => {
    if (!likely) return [];
    const wait = isCertain(likely) ? WAIT_S * sampleRateHz : gapOf(likely);
    if (position < likely.candidateAt + wait) return [];
    const found = likely.isNote ? timed(likely) : [];
    likely = null;
    return found;
  };

  const consider = ({ at: candidateAt, logOdds, shiftS }: Candidate): Onset[] => {
    const found = settle(candidateAt);
    const at = candidateAt + shiftS * sampleRateHz;
    const isNote = logOdds + (prior?.(at / sampleRateHz) ?? 0) >= THRESHOLD;
    const candidate: Likely = { candidateAt, at, logOdds, isNote };
    if ((!isNote && !isCertain(candidate)) || at - last < gapOf(candidate)) return found;
    const gap = likely ? Math.max(shortestGap, isCertain(candidate) ? gapOf(likely) : gapOf(candidate)) : 0;
    if (likely && at - likely.at >= gap) {
      if (likely.isNote) found.push(...timed(likely));
      likely = candidate;
    } else if (!likely || logOdds > likely.logOdds) likely = candidate;
    return found;
  };

  return {
    push(block) {
      sound.append(block);
      const found = source.push(block).flatMap(consider);
      return [...found, ...settle(source.doneTo())];
    },
    flush() {
      const found = source.finish().flatMap(consider);
      return [...found, ...settle(Number.POSITIVE_INFINITY)];
    },
  };
};

/** Samples handed on at a time when a whole recording is read. */
const BLOCK = 1024;

/** All onsets of a whole recording (mono, −1…1): the streaming detector run to the end. */
export const detectOnsets = (samples: Float32Array, sampleRateHz: number, options: DetectorOptions = {}): Onset[] => {
  const detector = createOnsetDetector(sampleRateHz, options);
  const onsets: Onset[] = [];
  for (let at = 0; at < samples.length; at += BLOCK) onsets.push(...detector.push(samples.subarray(at, at + BLOCK)));
  return [...onsets, ...detector.flush()];
};
