import type { Candidates } from './candidates';
import { FAMILIES, type Family } from './families';
import { CANDIDATE_FEATURES, createCandidateFinder, type OnsetCandidate } from './onset-candidates';
import { ONSET_JUDGE_WEIGHTS } from './onset-judge-weights';
import { loadPerceptron, unpackPerceptron } from './perceptron';

/** The trained perceptron. */
export const JUDGE = unpackPerceptron(ONSET_JUDGE_WEIGHTS);
const judge = loadPerceptron(JUDGE);
const input = new Float32Array(CANDIDATE_FEATURES + FAMILIES.length);
/** Unit of the perceptron's second output. */
const SHIFT_UNIT_S = 0.02;

/** What is thought of a candidate: how likely it is a note (natural log-odds), and where that note begins. */
export interface Judgement {
  logOdds: number;
  /** From the candidate to the note's onset, in seconds. */
  shiftS: number;
}

/**
 * Judges a candidate by a small perceptron that was trained on sampled instruments at known times (bench/train-onsets).
 * The family, where it is known, sharpens the judgement.
 */
export const judgeCandidate = (features: Float32Array, family: Family | null): Judgement => {
  input.set(features);
  input.fill(0, CANDIDATE_FEATURES);
  if (family) input[CANDIDATE_FEATURES + FAMILIES.indexOf(family)] = 1;
  const [logOdds = 0, shift = 0] = judge(input);
  return { logOdds, shiftS: shift * SHIFT_UNIT_S };
};

/** The candidates of the finder, each judged. */
export const createJudgedCandidates = (sampleRateHz: number, family: Family | null): Candidates => {
  const finder = createCandidateFinder(sampleRateHz);
  const judged = ({ at, features }: OnsetCandidate) => ({ at, ...judgeCandidate(features, family) });
  return {
    push: (block) => finder.push(block).map(judged),
    finish: () => finder.finish().map(judged),
    doneTo: finder.doneTo,
  };
};
