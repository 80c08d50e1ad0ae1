import { z } from 'zod';
import type { ExpectedNote } from '../time/repetition-plan';
import { chance } from './random';

/** How a simulated player plays. */
export const SkillSchema = z.object({
  /** Steady lead (negative) or lag of every note. */
  placementMs: z.number().min(-200).max(200),
  /** Standard deviation of each note about its gridline. */
  spreadMs: z.number().min(0).max(200),
  /** A steady rushing (negative) or dragging, as a share of the tempo in per cent. */
  driftPct: z.number().min(-20).max(20),
  /** Beyond this tempo the spread grows by half for every tenth of tempo; null for a player without limits. */
  easyUpToBpm: z.number().nullable(),
  /** Steady habits: late (positive) or early at certain notes, by note index, in ms. */
  habitsMs: z.record(z.string(), z.number()),
  missedShare: z.number().min(0).max(1),
  extraShare: z.number().min(0).max(1),
  levelDb: z.number(),
  levelSpreadDb: z.number().min(0),
});
export type Skill = z.infer<typeof SkillSchema>;

/** A practised player on a good day. */
export const STEADY: Skill = {
  placementMs: -4,
  spreadMs: 4,
  driftPct: 0,
  easyUpToBpm: null,
  habitsMs: {},
  missedShare: 0,
  extraShare: 0,
  levelDb: -15,
  levelSpreadDb: 1.5,
};

/** One note as the simulated player played it. `expected` is null for a note that nobody asked for. */
export interface PlayedNote {
  timeS: number;
  levelDb: number;
  expected: number | null;
}

/** The spread at a tempo: flat up to the easy tempo, then × 1.5 for each tenth over it. */
export const spreadAtTempoMs = (skill: Skill, tempoBpm: number): number =>
  skill.easyUpToBpm === null ? skill.spreadMs : skill.spreadMs * 1.5 ** Math.max(0, (tempoBpm / skill.easyUpToBpm - 1) / 0.1);

/** Plays a grid once. The same seed plays the same repetition. Returned in order of time. */
export const simulatePlaying = (notes: readonly ExpectedNote[], skill: Skill, tempoBpm: number, seed: number): PlayedNote[] => {
  const { uniform, normal } = chance(seed);
  const spreadMs = spreadAtTempoMs(skill, tempoBpm);
  const firstS = notes[0]?.timeS ?? 0;
  const played: PlayedNote[] = [];
  for (const note of notes) {
    const habit = skill.habitsMs[String(note.index)] ?? 0;
    const deviationMs = skill.placementMs + habit + spreadMs * normal();
    const driftS = (note.timeS - firstS) * (skill.driftPct / 100);
    const levelDb = skill.levelDb + skill.levelSpreadDb * normal() + (note.accent ? 6 : 0);
    const missed = uniform() < skill.missedShare;
    const extra = uniform() < skill.extraShare;
    const timeS = note.timeS + driftS + deviationMs / 1000;
    if (!missed) played.push({ timeS, levelDb, expected: note.index });
    if (extra) played.push({ timeS: timeS + note.intervalS * (0.4 + 0.2 * uniform()), levelDb: levelDb - 4, expected: null });
  }
  return played.sort((a, b) => a.timeS - b.timeS);
};
