import { z } from 'zod';
import { IdSchema, MomentSchema, NameIdSchema } from './ids';
import { PracticeConfigKeySchema, StrategySnapshotSchema } from './practice-config';
import { TempoMapSchema } from './tempo';

/** Where a block stands in mid-loop: what a reload needs to go on at the same repetition. */
export const LoopSnapshotSchema = z.object({
  takeId: IdSchema,
  /** Repetitions that are done. */
  repetitions: z.number().int().min(0),
  /** The drill that comes next, by its place among those of the configuration. */
  drill: z.number().int().min(0).default(0),
  /** The tempo of the next one. */
  tempo: TempoMapSchema,
  strategy: StrategySnapshotSchema,
  /** Whether it was clean beyond the goal, and is on its way back. */
  isBack: z.boolean().default(false),
  /** Clean ones of the relaxed finish so far; null before it. */
  finishCleans: z.number().int().min(0).nullable().default(null),
  /** How often it felt tense since it last felt easy. */
  tense: z.number().int().min(0).default(0),
});

/** One thing that is practised in a practice session. */
export const BlockSchema = z.object({
  config: PracticeConfigKeySchema,
  methodId: NameIdSchema,
  strategyId: NameIdSchema,
  /** How long it may take; null for no limit. */
  timeBoxMin: z.number().min(1).max(240).nullable(),
  takeIds: z.array(IdSchema),
  /** Null while nothing of it is under way. */
  snapshot: LoopSnapshotSchema.nullable(),
});

/** One practice session at the instrument: its blocks in the order in which they were begun. It survives a reload. */
export const PracticeSessionSchema = z.object({
  id: IdSchema,
  startedAt: MomentSchema,
  /** When something last happened in it. */
  lastAt: MomentSchema,
  blocks: z.array(BlockSchema).max(500),
});

export type LoopSnapshot = z.infer<typeof LoopSnapshotSchema>;
export type Block = z.infer<typeof BlockSchema>;
export type PracticeSession = z.infer<typeof PracticeSessionSchema>;
