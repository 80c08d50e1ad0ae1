import { z } from 'zod';
import { ClickPlanSchema } from './grid';
import { MomentSchema, NameIdSchema } from './ids';
import { TakeSummarySchema } from './take-summary';
import { TempoSchema } from './tempo';
import { withoutDefaults } from './without-defaults';

/** The variant and the section of a passage that was never divided: its first marks, the whole of it. */
export const FIRST_VARIANT = 'first';
export const WHOLE = 'whole';

/** What is practised and how it is marked: one passage, one variant, one section. */
export const PracticeConfigKeySchema = z.object({ passageId: NameIdSchema, variantId: NameIdSchema, sectionId: NameIdSchema });

/** What a strategy was set to and where it stands. Options and state have schemas of their own: the strategy's. */
export const StrategySnapshotSchema = z.object({
  options: z.record(z.string(), z.json()),
  state: z.record(z.string(), z.json()).nullable(),
});

const LastTakeSchema = z.object({ takeId: z.uuid(), startedAt: MomentSchema, summary: TakeSummarySchema });

/**
 * How the player goes about one passage, variant and section, over days: the goal, the strategy with its options and what it
 * remembers, the method, the click, and how the last take closed.
 */
export const PracticeConfigSchema = PracticeConfigKeySchema.extend({
  goalBpm: TempoSchema,
  /** A day by which the player would like it; nothing is ever late for it. */
  goalDay: z.iso.date().nullable().default(null),
  strategyId: NameIdSchema,
  strategies: z.record(NameIdSchema, StrategySnapshotSchema),
  methodId: NameIdSchema,
  methodParameters: z.record(NameIdSchema, z.record(z.string(), z.json())),
  /** A second method, used on what the first one makes. */
  alsoMethodId: NameIdSchema.nullable().default(null),
  /** Whether the drills begin one further on each day. */
  rotates: z.boolean().default(false),
  /** The player's own click; null for the one that suits the method. */
  click: ClickPlanSchema.nullable(),
  /** How the last take closed that was played straight. */
  last: LastTakeSchema.nullable(),
  /** What was left by takes in other ways than straight, by the name of their methods: their tempos say nothing of each other. */
  others: z
    .record(z.string(), z.object({ states: z.record(NameIdSchema, StrategySnapshotSchema.shape.state), last: LastTakeSchema }))
    .default({}),
  /** How far beyond the goal it is to be clean before the goal counts, in percent; a strategy may have its own. */
  overshootPct: z.number().min(0).max(30).default(0),
  /** Whether a take ends loose, below the edge, once it begins to fall apart. */
  relaxedFinish: z.boolean().default(false),
  /** Repetitions at a tempo before any raise. */
  minRepetitions: z.number().int().min(1).max(50).default(1),
  /** Bars of rest between two repetitions, before the count-in of the next. */
  restBars: z.number().int().min(0).max(16).default(0),
  /**
   * The recording that it is played along with, the beat of it, counted from 0, where the first downbeat lies, and the goal along with it:
   * mostly its own tempo.
   */
  playAlong: z
    .object({ accompanimentId: z.uuid(), fromBeat: z.number().int().min(0), goalBpm: TempoSchema })
    .nullable()
    .default(null),
  /** What was looked at before speed, and what the player chose to skip. */
  readiness: z.record(NameIdSchema, z.enum(['yes', 'not-yet', 'skipped'])).default({}),
});

/** What a player changes of a configuration; the rest comes of playing. Strategies and methods that are not named stay as they are. */
export const PracticeConfigChangeSchema = withoutDefaults(
  PracticeConfigSchema.pick({
    goalBpm: true,
    strategyId: true,
    methodId: true,
    methodParameters: true,
    click: true,
    alsoMethodId: true,
    goalDay: true,
    playAlong: true,
    rotates: true,
    overshootPct: true,
    relaxedFinish: true,
    minRepetitions: true,
    restBars: true,
  }),
)
  .extend({
    strategyOptions: z.record(NameIdSchema, StrategySnapshotSchema.shape.options),
    readiness: z.record(NameIdSchema, z.enum(['yes', 'not-yet', 'skipped', 'no'])),
  })
  .partial();

export type PracticeConfigChange = z.infer<typeof PracticeConfigChangeSchema>;
export type PracticeConfigKey = z.infer<typeof PracticeConfigKeySchema>;
export type StrategySnapshot = z.infer<typeof StrategySnapshotSchema>;
export type PracticeConfig = z.infer<typeof PracticeConfigSchema>;

/** What of a configuration, or of a take, names the configuration. */
export const practiceConfigKey = ({ passageId, variantId, sectionId }: PracticeConfigKey): PracticeConfigKey => ({
  passageId,
  variantId,
  sectionId,
});

/** One name for a configuration, fit for an address. */
export const practiceConfigId = ({ passageId, variantId, sectionId }: PracticeConfigKey): string =>
  `${passageId}.${variantId}.${sectionId}`;
