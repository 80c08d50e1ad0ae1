import { z } from 'zod';
import { ToleranceSchema } from '../verdict/tolerance';
import { TempoSchema } from './exercise';
import { MeasuresSchema, NoteResultSchema, OnsetSchema } from './measures';
import { VerdictSchema } from './verdict';

/** Identifiers that the browser makes: lower-case UUIDs. */
export const IdSchema = z.uuid();
/** A moment, ISO 8601 in UTC. */
export const MomentSchema = z.iso.datetime();

export const InputKindSchema = z.enum(['microphone', 'midi', 'simulated', 'tap', 'file']);

/** How a repetition felt, by the player's own word. */
export const EaseSchema = z.enum(['easy', 'working', 'tense', 'pain']);

export const TempoActionSchema = z.enum(['raise', 'hold', 'lower', 'problem', 'goal', 'stop']);

/** A correction by hand: an onset that was added, or one that was taken away. */
export const EditSchema = z.object({ kind: z.enum(['add', 'remove']), onset: OnsetSchema });

/** The next tempo and why. */
export const DecisionSchema = z.object({
  action: TempoActionSchema,
  nextTempoBpm: TempoSchema,
  reason: z.string(),
  /** True where the player overruled the school. */
  overruled: z.boolean(),
});

export const RepetitionSchema = z.object({
  index: z.number().int().min(0),
  tempoBpm: TempoSchema,
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

/** What a take leaves for tomorrow. */
export const ClosingSchema = z.object({
  bestCleanBpm: z.number().nullable(),
  closingBpm: z.number(),
  nextStartBpm: z.number(),
  nextStartReason: z.string(),
});

/** One run of the loop on one exercise, from begin to stop. */
export const TakeSchema = z.object({
  id: IdSchema,
  sessionId: IdSchema,
  exerciseId: z.string(),
  startedAt: MomentSchema,
  endedAt: MomentSchema.nullable(),
  input: InputKindSchema,
  /** The version of the measuring engine that made these figures. */
  engine: z.string(),
  school: z.string(),
  goalBpm: TempoSchema,
  startBpm: TempoSchema,
  stepBpm: z.number(),
  tolerance: ToleranceSchema,
  latencyS: z.number().nullable(),
  closing: ClosingSchema.nullable(),
  /** The profile of the instrument, see signal/profiles. */
  profile: z.string().default('any'),
  /** True where the player had no click while playing. */
  withoutClick: z.boolean().default(false),
  /** The name of the file it was read from; empty for a take that was played here. */
  sourceFile: z.string().max(200).default(''),
  /** Whether a recording is stored with it. Set by the server. */
  hasRecording: z.boolean(),
  repetitions: z.array(RepetitionSchema),
});

/** A take's figures by an earlier engine. */
export const EarlierAnalysisSchema = z.object({
  engine: z.string(),
  replacedAt: MomentSchema,
  repetitions: z.array(RepetitionSchema),
});

/** A take without its notes, for lists. */
export const TakeSummarySchema = TakeSchema.omit({ repetitions: true }).extend({
  repetitionCount: z.number().int(),
  cleanCount: z.number().int(),
});

export const SessionSchema = z.object({ id: IdSchema, startedAt: MomentSchema });

export type EarlierAnalysis = z.infer<typeof EarlierAnalysisSchema>;
export type Edit = z.infer<typeof EditSchema>;
export type InputKind = z.infer<typeof InputKindSchema>;
export type Ease = z.infer<typeof EaseSchema>;
export type TempoAction = z.infer<typeof TempoActionSchema>;
export type Decision = z.infer<typeof DecisionSchema>;
export type Repetition = z.infer<typeof RepetitionSchema>;
export type Closing = z.infer<typeof ClosingSchema>;
export type Take = z.infer<typeof TakeSchema>;
export type TakeSummary = z.infer<typeof TakeSummarySchema>;
export type PracticeSession = z.infer<typeof SessionSchema>;
