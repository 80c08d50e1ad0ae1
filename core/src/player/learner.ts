import { breakTempo, type SweptNote } from '../curve/break-tempo';
import { sweptNotes } from '../curve/swept-notes';
import { evenGridNotes } from '../measure/measure-recording';
import { measureRepetition } from '../measure/measure-repetition';
import { STRATEGY_SWEEP_SHARES } from '../rhythm/methods/sweep';
import type { NoteResult } from '../schema/measures';
import { makeReason } from '../schema/reason';
import type { Ease } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { chance } from '../stats/random';
import type { RepetitionKind, RepetitionOutcome } from '../strategies/strategy';
import { clampBpm } from '../time/clamp-tempo';
import type { ExpectedNote } from '../time/repetition-plan';
import { constantTempo, openTempo } from '../time/tempo-map';
import { judge } from '../verdict/judge';
import { judgedOf, toleranceUsageOf } from '../verdict/judged';

/** A simulated learner: how the unsteadiness grows with tempo, how often a note slips, and what practice and rest do. */
export interface Learner {
  name: string;
  /** Up to this tempo the unsteadiness is what it is at rest. */
  easyBpm: number;
  restMs: number;
  /** By how much the unsteadiness is multiplied for each tenth of tempo beyond. */
  growth: number;
  /** How often a repetition has one note far out of place. */
  slips: number;
  /** How often a repetition comes apart, beyond the easy tempo: by tenth of tempo. */
  apart: number;
  /** Tempo gained a repetition, as a share of the easy tempo; what was gained makes the next gain smaller. */
  gain: number;
  /** How much one repetition's unsteadiness differs from another's (standard deviation of its logarithm). */
  mood: number;
  /** Tempo lost by tiring a repetition of one day, as a share; a night brings it back. */
  tires: number;
  /** How far above the easy tempo it begins to feel tense, as a share. */
  tenseAbove: number;
  /** What a night without playing takes of the gain, as a share. */
  forgets: number;
}

/** What practice has done to a learner so far. */
export interface LearnerState {
  /** Tempo gained, as a share of the easy tempo. */
  gained: number;
  playedToday: number;
}

export const FRESH: LearnerState = { gained: 0, playedToday: 0 };

const still = { gain: 0, tires: 0, tenseAbove: 9, forgets: 0 };

/** Learners of several kinds; no strategy was tuned on the last three. */
export const LEARNERS: readonly Learner[] = [
  { name: 'steady', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0, apart: 0, mood: 0.1, ...still },
  { name: 'breaks off sharply', easyBpm: 100, restMs: 3, growth: 3, slips: 0, apart: 0.05, mood: 0.1, ...still },
  { name: 'grows slowly worse', easyBpm: 70, restMs: 3, growth: 1.2, slips: 0, apart: 0, mood: 0.15, ...still },
  { name: 'slips now and then', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0.06, apart: 0.02, mood: 0.1, ...still },
  { name: 'of changing mood', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0.02, apart: 0, mood: 0.3, ...still },
  {
    name: 'improves with playing',
    easyBpm: 80,
    restMs: 3,
    growth: 1.6,
    slips: 0.02,
    apart: 0.01,
    mood: 0.15,
    ...still,
    gain: 0.002,
  },
];

/** A learner of any kind: each of its traits somewhere in a wide range. The same seed gives the same learner. */
export const anyLearner = (seed: number): Learner => {
  const { uniform } = chance(seed);
  const between = (low: number, high: number) => low + (high - low) * uniform();
  return {
    name: `learner ${seed}`,
    easyBpm: between(55, 125),
    restMs: between(2, 4.5),
    growth: between(1.25, 2.5),
    slips: between(0, 0.06),
    apart: between(0, 0.04),
    mood: between(0.08, 0.28),
    gain: between(0.0002, 0.0012),
    tires: between(0, 0.001),
    tenseAbove: between(0.15, 0.5),
    forgets: between(0, 0.03),
  };
};

/** So many notes has the passage that learners play: four bars of quavers and a last note. */
const NOTES = 17;
const tolerance = TOLERANCE_PRESETS.secure;
/** Beyond this share of what was there to begin with, hardly anything is gained. */
const MAX_GAIN = 0.6;

/** The easy tempo of a learner as practice and tiredness left it. */
export const easyNow = ({ easyBpm, tires }: Learner, { gained, playedToday }: LearnerState): number =>
  easyBpm * (1 + gained) * (1 - tires * playedToday);

const easeAt = (learner: Learner, easyBpm: number, bpm: number): Ease => {
  const above = bpm / easyBpm - 1;
  if (above > learner.tenseAbove) return 'tense';
  return above < -0.1 ? 'easy' : 'working';
};

/** What a strategy is told of a repetition but how it felt: measured, and judged as secure, as any other. */
export const outcomeOf = (
  notes: readonly ExpectedNote[],
  results: readonly NoteResult[],
  bpm: number,
): Omit<RepetitionOutcome, 'ease'> => {
  const measures = measureRepetition({ notes, results, extra: 0, tolerance });
  const judged = judgedOf(notes, measures, tolerance, false);
  return { tempo: constantTempo(bpm), bpm, verdict: judge(judged), toleranceUsage: toleranceUsageOf(judged) };
};

/** One repetition of a learner at a tempo, measured and judged as any other. */
export const repetitionOf = (learner: Learner, bpm: number, seed: number, state = FRESH): RepetitionOutcome => {
  const { normal, uniform } = chance(seed);
  const notes = evenGridNotes({ tempoBpm: bpm, notesPerBeat: 4, beats: NOTES / 4, startS: 0 });
  const intervalMs = 1000 * (notes[0]?.intervalS ?? 0);
  const easyBpm = easyNow(learner, state);
  const tenths = Math.max(0, (bpm / easyBpm - 1) / 0.1);
  const sd = learner.restMs * learner.growth ** tenths * Math.exp(learner.mood * normal());
  const slip = uniform() < learner.slips ? Math.floor(uniform() * NOTES) : -1;
  const isApart = uniform() < learner.apart * tenths;
  const results = notes.map(({ index, timeS }): NoteResult => {
    const isMissing = isApart && index % 4 === 1;
    // Farther than this and it would be taken for another note.
    const most = 0.49 * intervalMs;
    const deviationMs = Math.max(-most, Math.min(most, sd * normal() + (index === slip ? 0.35 * intervalMs : 0)));
    if (isMissing) return { index, expectedS: timeS, onsetS: null, deviationMs: null, levelDb: null };
    return { index, expectedS: timeS, onsetS: timeS + deviationMs / 1000, deviationMs, levelDb: -20 };
  });
  return { ...outcomeOf(notes, results, bpm), ease: easeAt(learner, easyBpm, bpm) };
};

/** A learner after a repetition: a little better, a little more tired. */
export const afterRepetition = ({ gain }: Learner, { gained, playedToday }: LearnerState): LearnerState => ({
  gained: gained + gain * Math.max(0, 1 - gained / MAX_GAIN),
  playedToday: playedToday + 1,
});

/** A learner after a night: rested, and a little of the gain gone. */
export const afterNight = ({ forgets }: Learner, { gained }: LearnerState): LearnerState => ({
  gained: gained * (1 - forgets),
  playedToday: 0,
});

const TRIES = 300;

/** How often a repetition is clean at a tempo, 0…1. */
export const cleanChance = (learner: Learner, bpm: number, state = FRESH, tries = TRIES): number => {
  let clean = 0;
  for (let k = 0; k < tries; k += 1) if (repetitionOf(learner, bpm, 700_000 + k, state).verdict.outcome === 'clean') clean += 1;
  return clean / tries;
};

/** The fastest tempo at which a learner is clean with a chance, to half a beat a minute; null where no tempo has it. */
export const tempoOf = (learner: Learner, wanted: number, state = FRESH, tries = TRIES): number | null => {
  let low = 20;
  let high = 320;
  if (cleanChance(learner, low, state, tries) < wanted) return null;
  while (high - low > 0.5) {
    const middle = (low + high) / 2;
    // The same draws at every tempo: chance does not make it go up and down.
    if (cleanChance(learner, middle, state, tries) >= wanted) low = middle;
    else high = middle;
  }
  return low;
};

/** Bursts are so much faster than what is easy. */
const BURST_SHARE = 1.25;
/** A sweep has so many notes. */
const SWEEP_NOTES = 512;

/** A sweep of a learner around a tempo, from slow to fast in one run of semiquavers, and where its evenness broke. */
export const sweepOf = (
  learner: Learner,
  bpm: number,
  seed: number,
  state = FRESH,
): RepetitionOutcome & { swept: SweptNote[] } => {
  const { normal, uniform } = chance(seed);
  const easyBpm = easyNow(learner, state);
  const tempo: TempoMapDocument = {
    kind: 'ramp',
    points: [
      { beat: 0, bpm: clampBpm(bpm * STRATEGY_SWEEP_SHARES[0]) },
      { beat: SWEEP_NOTES / 4, bpm: clampBpm(bpm * STRATEGY_SWEEP_SHARES[1]) },
    ],
  };
  const map = openTempo(tempo);
  const mood = Math.exp(learner.mood * normal());
  const expected = Array.from({ length: SWEEP_NOTES }, (_, k) => ({ index: k, beat: k / 4, timeS: map.timeOf(k / 4) }));
  const notes = expected.map(({ index, beat }) => {
    const here = map.tempoAt(beat);
    const tenths = Math.max(0, (here / easyBpm - 1) / 0.1);
    const mostMs = (0.49 * 60_000) / here / 4;
    // A slip of one repetition is spread over as many notes as a repetition has.
    const slips = uniform() < learner.slips / NOTES;
    const unsteadinessMs = learner.restMs * mood * learner.growth ** tenths * normal() + (slips ? 0.7 * mostMs : 0);
    const isMissing = uniform() < (learner.apart * tenths) / 2;
    return { index, deviationMs: isMissing ? null : Math.max(-mostMs, Math.min(mostMs, unsteadinessMs)) };
  });
  const swept = sweptNotes(notes, expected);
  return {
    tempo,
    bpm,
    verdict: { outcome: 'not-yet', reason: 'spread', why: makeReason('none') },
    toleranceUsage: null,
    ease: 'working',
    repetitionKind: 'sweep',
    breakBpm: breakTempo(swept)?.bpm ?? null,
    swept,
  };
};

/** A learner's burst: faster than is easy, at a tempo of its own, between repetitions at `bpm`. */
const burstOf = (learner: Learner, bpm: number, seed: number, state = FRESH): RepetitionOutcome => {
  const ownBpm = BURST_SHARE * easyNow(learner, state);
  return { ...repetitionOf(learner, ownBpm, seed, state), bpm, repetitionKind: 'burst', ownBpm, ease: 'working' };
};

/** What a learner plays for each way that a strategy may ask for. */
export const PLAYS: Record<
  RepetitionKind,
  (learner: Learner, bpm: number, seed: number, state?: LearnerState) => RepetitionOutcome
> = {
  asked: repetitionOf,
  sweep: sweepOf,
  burst: burstOf,
};
