import {
  chance,
  constantTempo,
  demandOf,
  evenGridNotes,
  judge,
  measureRepetition,
  type NoteResult,
  type Played,
  TOLERANCE_PRESETS,
  toleranceWindowMs,
} from '@isochron/core';

/** A simulated learner: how the wobble grows with tempo, how often a note slips, and what practice does. */
export interface Learner {
  name: string;
  /** Up to this tempo the wobble is what it is at rest. */
  easyBpm: number;
  restMs: number;
  /** By how much the wobble is multiplied for each tenth of tempo beyond. */
  growth: number;
  /** How often a repetition has one note far out of place. */
  slips: number;
  /** How often a repetition comes apart, beyond the easy tempo: by tenth of tempo. */
  apart: number;
  /** Tempo gained a repetition, as a share; later ones gain less. */
  gain: number;
  /** How much one repetition's wobble differs from another's (standard deviation of its logarithm). */
  mood: number;
}

/** Learners of several kinds; no school was tuned on the last three. */
export const LEARNERS: readonly Learner[] = [
  { name: 'steady', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0, apart: 0, gain: 0, mood: 0.1 },
  { name: 'breaks off sharply', easyBpm: 100, restMs: 3, growth: 3, slips: 0, apart: 0.05, gain: 0, mood: 0.1 },
  { name: 'grows slowly worse', easyBpm: 70, restMs: 3, growth: 1.2, slips: 0, apart: 0, gain: 0, mood: 0.15 },
  { name: 'slips now and then', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0.06, apart: 0.02, gain: 0, mood: 0.1 },
  { name: 'of changing mood', easyBpm: 90, restMs: 3, growth: 1.5, slips: 0.02, apart: 0, gain: 0, mood: 0.3 },
  { name: 'improves with playing', easyBpm: 80, restMs: 3, growth: 1.6, slips: 0.02, apart: 0.01, gain: 0.002, mood: 0.15 },
];

const NOTES = 17;
const tolerance = TOLERANCE_PRESETS.secure;

const wobbleMs = ({ easyBpm, restMs, growth }: Learner, bpm: number, gained: number): number =>
  restMs * growth ** Math.max(0, (bpm / (easyBpm * (1 + gained)) - 1) / 0.1);

/** One repetition of a learner at a tempo, measured and judged as any other. */
export const repetitionOf = (learner: Learner, bpm: number, seed: number, gained = 0): Played => {
  const { normal, uniform } = chance(seed);
  const notes = evenGridNotes({ tempoBpm: bpm, notesPerBeat: 4, beats: NOTES / 4, startS: 0 });
  const intervalMs = 1000 * (notes[0]?.intervalS ?? 0);
  const sd = wobbleMs(learner, bpm, gained) * Math.exp(learner.mood * normal());
  const slip = uniform() < learner.slips ? Math.floor(uniform() * NOTES) : -1;
  const tenths = Math.max(0, (bpm / learner.easyBpm - 1) / 0.1);
  const isApart = uniform() < learner.apart * tenths;
  const results = notes.map(({ index, timeS }): NoteResult => {
    const isMissing = isApart && index % 4 === 1;
    // Farther than this and it would be taken for another note.
    const most = 0.49 * intervalMs;
    const deviationMs = Math.max(-most, Math.min(most, sd * normal() + (index === slip ? 0.35 * intervalMs : 0)));
    if (isMissing) return { index, expectedS: timeS, onsetS: null, deviationMs: null, levelDb: null };
    return { index, expectedS: timeS, onsetS: timeS + deviationMs / 1000, deviationMs, levelDb: -20 };
  });
  const judged = {
    measures: measureRepetition({ notes, results, extra: 0, tolerance }),
    tolerance,
    noteCount: NOTES,
    windowMs: toleranceWindowMs(tolerance, intervalMs),
    intervalMs,
    asksAccents: false,
    calibrated: false,
  };
  return { tempo: constantTempo(bpm), bpm, verdict: judge(judged), demand: demandOf(judged), ease: 'working' };
};

const TRIES = 300;

/** How often a repetition is clean at a tempo, 0…1. */
export const cleanChance = (learner: Learner, bpm: number, gained = 0): number => {
  let clean = 0;
  for (let k = 0; k < TRIES; k += 1)
    if (repetitionOf(learner, bpm, 700_000 + k, gained).verdict.outcome === 'clean') clean += 1;
  return clean / TRIES;
};

const edges = new Map<string, number>();

/** The tempo at which every other repetition is clean, to one beat a minute. */
export const edgeOf = (learner: Learner, gained = 0): number => {
  const key = `${learner.name} ${gained.toFixed(3)}`;
  const known = edges.get(key) ?? findEdge(learner, gained);
  edges.set(key, known);
  return known;
};

const findEdge = (learner: Learner, gained: number): number => {
  let low = 30;
  let high = 290;
  while (high - low > 1) {
    const middle = Math.round((low + high) / 2);
    if (cleanChance(learner, middle, gained) >= 0.5) low = middle;
    else high = middle;
  }
  return low;
};
