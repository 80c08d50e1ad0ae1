import { z } from 'zod';
import { DrillSchema } from './grid';
import { IdSchema, MomentSchema, NameIdSchema } from './ids';
import { MeasuresSchema, NoteResultSchema, OnsetSchema } from './measures';
import { PurposeSchema } from './practice';
import { PracticeConfigKeySchema, StrategySnapshotSchema } from './practice-config';
import { ReasonSchema } from './reason';
import { TakeSummarySchema } from './take-summary';
import { TempoMapSchema, TempoSchema } from './tempo';
import { ToleranceSchema } from './tolerance';
import { VerdictSchema } from './verdict';

export const InputKindSchema = z.enum(['microphone', 'midi', 'simulated', 'tap', 'file', 'log']);

/** How a repetition felt, by the player's own word. */
export const EaseSchema = z.enum(['easy', 'working', 'tense', 'pain']);

export const TempoActionSchema = z.enum(['raise', 'hold', 'lower', 'problem', 'goal', 'stop', 'next', 'done']);

/** A correction by hand: an onset that was added, or one that was taken away. */
export const EditSchema = z.object({ kind: z.enum(['add', 'remove']), onset: OnsetSchema });

/** The next tempo and why. */
export const DecisionSchema = z.object({
  action: TempoActionSchema,
  tempo: TempoMapSchema,
  why: ReasonSchema,
  /** True where the player overruled the strategy. */
  overruled: z.boolean(),
});

/** One repetition. Its take and its index name it for good: neither changes when it is measured or stored again. */
export const RepetitionSchema = z.object({
  index: z.number().int().min(0),
  /** Which of the take's drills was played. */
  drill: z.number().int().min(0),
  tempo: TempoMapSchema,
  /** The tempo that was asked for, where the drill is played at a share of it or moves about it. */
  askedBpm: TempoSchema.optional(),
  /** The first downbeat, in seconds from the start of the recording. */
  downbeatS: z.number(),
  notes: z.array(NoteResultSchema),
  extras: z.array(OnsetSchema),
  measures: MeasuresSchema,
  verdict: VerdictSchema,
  shiftDoubtful: z.boolean(),
  /** What was corrected by hand, in order; absent where nothing was. */
  edits: z.array(EditSchema).optional(),
  ease: EaseSchema.nullable(),
  decision: DecisionSchema,
});

/** Sound that is missing from a recording, in seconds from its start: silence stands in its place. */
export const GapSchema = z.object({ fromS: z.number().min(0), toS: z.number().min(0) });

const takeShape = PracticeConfigKeySchema.extend({
  id: IdSchema,
  /** Counts what the server stored of it; 0 before the first time. Who writes says which revision it changes. */
  revision: z.number().int().min(0).default(0),
  sessionId: IdSchema,
  /** The passage's title and revision when it was played. */
  title: z.string().min(1).max(120),
  passageRevision: z.number().int().min(1),
  startedAt: MomentSchema,
  endedAt: MomentSchema.nullable(),
  input: InputKindSchema,
  /** What it was played for: only `work` says how fast its passage goes. */
  purpose: PurposeSchema.default('work'),
  /** The player's own words about it; stored by itself, never with the take. */
  note: z.string().max(4000).default(''),
  /** The version of the measuring engine that made these figures. */
  engine: z.string(),
  goalBpm: TempoSchema,
  startBpm: TempoSchema,
  /** The strategy that decided, as it stood at the end; null where none did. */
  strategy: StrategySnapshotSchema.extend({ id: NameIdSchema }).nullable(),
  tolerance: ToleranceSchema,
  latencyS: z.number().nullable(),
  summary: TakeSummarySchema.nullable(),
  /** The profile of the instrument, see signal/profiles. */
  profile: z.string(),
  /** True where the player had no click while playing. */
  withoutClick: z.boolean(),
  /** The name of the file it was read from; empty for a take that was played here. */
  sourceFile: z.string().max(200),
  /** Whether a recording is stored with it. Set by the server. */
  hasRecording: z.boolean(),
  /** Sound that is missing from its recording, in order. */
  gaps: z.array(GapSchema).max(10_000).default([]),
  /** What was played. Later changes of the passage never change it. */
  drills: z.array(DrillSchema).min(1).max(64),
  repetitions: z.array(RepetitionSchema),
});

/** One run of the loop, from begin to stop. Where the clock was set back meanwhile, it ended when it began: what was played is kept. */
export const TakeSchema = takeShape
  .refine(
    ({ drills, repetitions }) => repetitions.every(({ drill }) => drill < drills.length),
    'A repetition refers to a drill that its take does not have.',
  )
  .transform((take) =>
    take.endedAt !== null && Date.parse(take.endedAt) < Date.parse(take.startedAt)
      ? { ...take, endedAt: take.startedAt }
      : take,
  );

/** What the player wrote about a take. */
export const TakeNoteSchema = takeShape.pick({ note: true });

/** A take's figures by an earlier engine. */
export const EarlierAnalysisSchema = z.object({
  engine: z.string(),
  replacedAt: MomentSchema,
  repetitions: z.array(RepetitionSchema),
});

/** One repetition as corrected by hand, and the revision of its take that was corrected. */
export const CorrectionSchema = z.object({ takeRevision: z.number().int().min(1), repetition: RepetitionSchema });

/** A take without its drills and notes, for lists. */
export const TakeListItemSchema = takeShape.omit({ repetitions: true, drills: true, gaps: true }).extend({
  /** How it was played: straight, by a method, or for something else. */
  practiceMode: z.string(),
  /** From downbeat to downbeat, all repetitions together. */
  playedS: z.number().min(0),
  repetitionCount: z.number().int(),
  cleanCount: z.number().int(),
});

export type EarlierAnalysis = z.infer<typeof EarlierAnalysisSchema>;
export type Edit = z.infer<typeof EditSchema>;
export type Gap = z.infer<typeof GapSchema>;
export type InputKind = z.infer<typeof InputKindSchema>;
export type Ease = z.infer<typeof EaseSchema>;
export type TempoAction = z.infer<typeof TempoActionSchema>;
export type Correction = z.infer<typeof CorrectionSchema>;
export type Decision = z.infer<typeof DecisionSchema>;
export type Repetition = z.infer<typeof RepetitionSchema>;
export type Take = z.infer<typeof TakeSchema>;
export type TakeListItem = z.infer<typeof TakeListItemSchema>;
