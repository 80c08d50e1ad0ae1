import type { Onset } from '../schema/measures';
import type { Candidate } from './candidates';
import {
  type AttackReader,
  createAttackReader,
  DOUBLE_ATTACK_AFTER_S,
  DOUBLE_ATTACK_BEFORE_S,
  DOUBLE_ATTACK_LOG_ODDS,
  doubleAttack,
} from './double-attack';
import type { Family } from './families';
import { BEGINNING_S, GOES_ON_S, isFirstNote } from './first-onset';
import { createOnsetCandidates } from './onset-model/candidates';
import { type PitchSequence, tellsNotesApart } from './pitch-change';
import { attackLevelDb, REFINE_BEFORE_S, refineOnset, SEARCH_AFTER_S } from './refine-onset';
import { createSampleBuffer } from './sample-buffer';
import { withScore } from './scored-candidates';
import { timeErrorMs } from './time-error';

/** What is known beforehand about a sound. */
export interface DetectorOptions {
  /** The family of the instrument, or null where it is not known. */
  family?: Family | null;
  /** Log-odds to add for a note at a time of the stream (seconds): what the grid makes likely. */
  prior?: (timeS: number) => number;
  /** The pitches that are to be played, one after the other: sharpens what is heard, never invents a note nor moves one. */
  score?: PitchSequence;
  /** Knows from what was played before what attacks usually look like; a new one where it is left out. */
  attacks?: AttackReader;
}

/** A candidate at least this likely (natural log-odds) is a note. */
const THRESHOLD = 0;
/** Two onsets closer than this are one attack. */
const SHORTEST_GAP_S = 0.034;
/** A note that only the grid makes likely keeps at least this far from any that the sound makes certain. */
const LONELY_S = 0.07;
/** A better candidate for the same note is waited for this long. */
const WAIT_S = 0.01;
/** An attack below this level is no note, whatever its shape, in dBFS. */
const QUIETEST_DB = -105;
const LEVEL_S = 0.02;
/** How the sound goes on after its beginning is told over so long. */
const LATER_S = 0.06;

const rounded = (value: number, digits: number): number => Number(value.toFixed(digits));

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
  /** With what the grid has to say: whether it is a note. */
  odds: number;
  errorS: number;
}

/**
 * Makes a streaming onset detector: places where the ear hears a note begin, weighed by what is known of the grid and the score,
 * then refinement of each in the time domain. A note is known less than 100 ms after it sounds.
 */
export const createOnsetDetector = (sampleRateHz: number, options: DetectorOptions = {}): OnsetDetector => {
  const { family = null, prior, score, attacks = createAttackReader(sampleRateHz) } = options;
  const heard = createOnsetCandidates(sampleRateHz, family);
  const source = score && tellsNotesApart(score) ? withScore(heard, sampleRateHz, score) : heard;
  const shortestGap = SHORTEST_GAP_S * sampleRateHz;
  const behind = Math.round(REFINE_BEFORE_S * sampleRateHz);
  const ahead = Math.round((SEARCH_AFTER_S + LEVEL_S) * sampleRateHz);
  const doubledLength = Math.round((DOUBLE_ATTACK_BEFORE_S + DOUBLE_ATTACK_AFTER_S) * sampleRateHz);
  const sound = createSampleBuffer(Math.round(0.3 * sampleRateHz) + behind + ahead);
  let likely: Likely | null = null;
  let last = Number.NEGATIVE_INFINITY;

  const timed = ({ at, odds, errorS }: Likely): Onset[] => {
    const coarse = Math.round(at);
    const part = sound.view(coarse - behind, behind + ahead);
    const refined = refineOnset(part, behind, sampleRateHz, family);
    const onset = Math.max(0, coarse - behind + refined.at);
    const levelDb = attackLevelDb(sound.view(onset, Math.round(LEVEL_S * sampleRateHz)));
    if (levelDb < QUIETEST_DB || onset - last < shortestGap) return [];
    last = onset;
    const attack = sound.view(onset - Math.round(DOUBLE_ATTACK_BEFORE_S * sampleRateHz), doubledLength);
    const twice = doubleAttack(attacks.read(attack));
    const beyond = twice ? twice.logOdds - DOUBLE_ATTACK_LOG_ODDS : 0;
    const doubled =
      twice && beyond > 0 ? { doubledOdds: rounded(beyond, 1), doubleAttackMs: rounded(1000 * twice.gapS, 1) } : {};
    const apartMs = (1000 * Math.abs(onset - at)) / sampleRateHz;
    const errorMs = timeErrorMs({ isSharp: refined.isSharp, earErrorMs: 1000 * errorS, apartMs });
    const confidence = 1 / (1 + Math.exp(-odds));
    return [
      { timeS: onset / sampleRateHz, levelDb, confidence: rounded(confidence, 2), errorMs: rounded(errorMs, 1), ...doubled },
    ];
  };

  const isCertain = ({ logOdds }: Pick<Likely, 'logOdds'>) => logOdds >= THRESHOLD;
  const isNote = ({ odds }: Pick<Likely, 'odds'>) => odds >= THRESHOLD;
  const gapOf = (one: Likely) => (isCertain(one) ? shortestGap : LONELY_S * sampleRateHz);

  /** The note that was waited for, once no better candidate can come before `position`. */
  const settle = (position: number): Onset[] => {
    if (!likely) return [];
    const wait = isCertain(likely) ? WAIT_S * sampleRateHz : gapOf(likely);
    if (position < likely.candidateAt + wait) return [];
    const found = isNote(likely) ? timed(likely) : [];
    likely = null;
    return found;
  };

  const consider = ({ at: candidateAt, logOdds, shiftS, errorS }: Candidate): Onset[] => {
    const found = settle(candidateAt);
    const at = candidateAt + shiftS * sampleRateHz;
    const odds = logOdds + (prior?.(at / sampleRateHz) ?? 0);
    const candidate: Likely = { candidateAt, at, logOdds, odds, errorS };
    if ((!isNote(candidate) && !isCertain(candidate)) || at - last < gapOf(candidate)) return found;
    const gap = likely ? Math.max(shortestGap, isCertain(candidate) ? gapOf(likely) : gapOf(candidate)) : 0;
    if (likely && at - likely.at >= gap) {
      if (isNote(likely)) found.push(...timed(likely));
      likely = candidate;
    } else if (!likely || logOdds > likely.logOdds) likely = candidate;
    return found;
  };

  /** Onsets as the recording begins, until it is known whether they are notes. */
  let first: Onset[] = [];
  let laterDb = Number.NEGATIVE_INFINITY;

  /** Keeps back onsets with which the recording begins until the next one, or the end, tells what they were. */
  const settleFirst = (found: Onset[], isOver: boolean): Onset[] => {
    const later = GOES_ON_S * sampleRateHz;
    if (first.length > 0 && laterDb === Number.NEGATIVE_INFINITY && sound.end() >= later)
      laterDb = attackLevelDb(sound.view(Math.round(later - LATER_S * sampleRateHz), Math.round(LATER_S * sampleRateHz)));
    const isFirst = ({ timeS }: Onset) => timeS < BEGINNING_S;
    first.push(...found.filter(isFirst));
    const rest = found.filter((one) => !isFirst(one));
    if (first.length === 0 || (rest.length === 0 && !isOver)) return rest;
    const notes = first.filter((one) => isFirstNote(one, laterDb, rest[0] ?? null));
    first = [];
    return [...notes, ...rest];
  };

  return {
    push(block) {
      sound.append(block);
      const found = source.push(block).flatMap(consider);
      return settleFirst([...found, ...settle(source.doneTo())], false);
    },
    flush() {
      const found = source.finish().flatMap(consider);
      return settleFirst([...found, ...settle(Number.POSITIVE_INFINITY)], true);
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
