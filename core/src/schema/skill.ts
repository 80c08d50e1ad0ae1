import { z } from 'zod';

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
  /** How often a note speaks twice, by note index. */
  doubledShare: z.record(z.string(), z.number().min(0).max(1)).default({}),
  /** Stops at this note, counted from 0, where there are so many; null for one who plays to the end. */
  breaksOffAt: z.number().int().min(1).nullable().default(null),
  levelDb: z.number(),
  levelSpreadDb: z.number().min(0),
  /** The same seed plays the same takes again. */
  seed: z.number().int().min(1).max(1_000_000).default(1),
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
  doubledShare: {},
  breaksOffAt: null,
  levelDb: -15,
  levelSpreadDb: 1.5,
  seed: 1,
};
