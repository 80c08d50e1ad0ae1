import { z } from 'zod';
import { MethodUseSchema } from './grid';
import { NameIdSchema } from './ids';
import { PurposeSchema } from './practice';
import { PracticeConfigKeySchema } from './practice-config';
import { ReasonSchema } from './reason';
import { TempoSchema } from './tempo';

/** What a block is in a day: it says where in the day it stands. */
export const BlockKindSchema = z.enum(['warm-up', 'revisit', 'edge', 'method', 'slow', 'musical', 'own']);

/** One block of a day's plan. */
export const PlanBlockSchema = z.object({
  id: NameIdSchema,
  kind: BlockKindSchema,
  config: PracticeConfigKeySchema,
  title: z.string(),
  minutes: z.number().min(0.1).max(240),
  purpose: PurposeSchema,
  /** Where it begins; null for where its configuration stands. */
  startBpm: TempoSchema.nullable(),
  /** The methods it is practised by, where they are not the configuration's own. */
  uses: z.array(MethodUseSchema).max(2),
  /** A break of so many minutes before it. */
  restMin: z.number().min(0).max(60),
  why: ReasonSchema,
});

/** In which order a day's blocks come. */
export const BlockOrderSchema = z.enum(['serial', 'blocked', 'mixed']);

/** What the player wants of every day's plan. */
export const PlanSettingsSchema = z.object({
  /** Minutes on each day of the week, Monday first. */
  weekMin: z.array(z.number().int().min(0).max(480)).length(7),
  /** At least so much of the time slow, in percent; null for no budget. */
  slowPct: z.number().int().min(5).max(95).nullable(),
  order: BlockOrderSchema,
  /** No passage gets more minutes a day. */
  capMin: z.number().int().min(3).max(240),
  /** How long a break is. */
  breakMin: z.number().int().min(1).max(60),
});

/** A day's plan: its blocks, and what was due and did not fit, each with the reason. */
export const DayPlanSchema = z.object({
  day: z.iso.date(),
  minutes: z.number().min(0),
  blocks: z.array(PlanBlockSchema).max(60),
  /** A light day, because it hurt lately. */
  isLight: z.boolean().optional(),
  leftOut: z.array(z.object({ config: PracticeConfigKeySchema, title: z.string(), why: ReasonSchema })),
  /** Why it is so long, why in this order, and what the slow budget came to. */
  whys: z.array(ReasonSchema),
});

export type BlockKind = z.infer<typeof BlockKindSchema>;
export type PlanBlock = z.infer<typeof PlanBlockSchema>;
export type BlockOrder = z.infer<typeof BlockOrderSchema>;
export type PlanSettings = z.infer<typeof PlanSettingsSchema>;
export type DayPlan = z.infer<typeof DayPlanSchema>;

export const DEFAULT_PLAN: PlanSettings = {
  weekMin: [30, 30, 30, 30, 30, 30, 0],
  slowPct: 75,
  order: 'serial',
  capMin: 15,
  breakMin: 5,
};
