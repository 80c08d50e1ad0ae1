import { z } from 'zod';
import { AccompanimentSchema, AccompanimentSummarySchema } from './accompaniment';
import { RepetitionKindSchema } from './grid';
import { IdSchema, MomentSchema, NameIdSchema } from './ids';
import { PassageSummarySchema, SolutionSchema } from './library';
import { PassageSchema } from './passage';
import { PracticeSchema, PracticeTotalsSchema } from './practice';
import { PracticeConfigSchema } from './practice-config';
import { PracticeSessionSchema } from './practice-session';
import { SettingsSchema } from './settings';
import { EarlierAnalysisSchema, EaseSchema, TakeListItemSchema, TakeSchema } from './take';
import { TempoSchema } from './tempo';
import { OutcomeSchema } from './verdict';

/** What the server answers when it refuses: one sentence for the player. */
export const RequestErrorSchema = z.object({ message: z.string() });

/** How the server stands. Sentences are for the player. */
export const HealthSchema = z.object({
  ok: z.literal(true),
  demo: z.boolean(),
  /** Empty, or why nothing can be stored just now. */
  storage: z.string(),
  /** What of the stored practice was met that cannot be read, one sentence each. */
  unreadable: z.array(z.string()),
  /** What time it is there, in ms since 1970. */
  nowMs: z.number(),
});

/** By what a list of takes can be sorted. */
const TAKE_SORTS = [
  'startedAt',
  'startBpm',
  'bestCleanBpm',
  'closingBpm',
  'nextStartBpm',
  'repetitionCount',
  'hasRecording',
] as const;

/** Which takes are asked for, as an address says it: a page of those that pass. */
export const TakeQuerySchema = z.object({
  passageId: NameIdSchema.optional(),
  show: z.enum(['all', 'recorded', 'clean', 'noted']).default('all'),
  /** In the title or the note. */
  text: z.string().max(200).default(''),
  /** Days, the last one among them. */
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
  sort: z.enum(TAKE_SORTS).default('startedAt'),
  order: z.enum(['asc', 'desc']).default('desc'),
  limit: z.coerce.number().int().min(1).max(200).default(50),
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
});
export type TakeQuery = z.infer<typeof TakeQuerySchema>;

/** One page of takes, and how many there are in all. */
export const TakePageSchema = z.object({ takes: z.array(TakeListItemSchema), total: z.number().int() });

/** A line of a log that was kept by hand: a day, the tempo that was clean, and what was written beside it. */
export const LoggedTempoSchema = z.object({ day: z.iso.date(), bpm: TempoSchema, note: z.string().max(4000) });
export type LoggedTempo = z.infer<typeof LoggedTempoSchema>;
export const TempoLogSchema = z.array(LoggedTempoSchema).min(1).max(20_000);

/** How many lines of a log were new. */
export const LoggedSchema = z.object({ added: z.number().int() });

/** The best clean tempo of each day on which a passage had one, by date. */
export const TempoHistorySchema = z.array(z.object({ day: z.iso.date(), bestCleanBpm: z.number(), startBpm: z.number() }));
export type TempoHistory = z.infer<typeof TempoHistorySchema>;

/**
 * A judged repetition of a passage, played straight, without its notes: what the tempo curve is made of; and the sweeps and bursts
 * that a strategy asked for between them. In order of time.
 */
export const PassageRepetitionsSchema = z.array(
  z.object({
    takeId: IdSchema,
    startedAt: MomentSchema,
    variantId: NameIdSchema,
    sectionId: NameIdSchema,
    startBpm: z.number(),
    bpm: z.number(),
    outcome: OutcomeSchema,
    ease: EaseSchema.nullable(),
    toleranceUsage: z.number().nullable(),
    notes: z.number().int(),
    repetitionKind: RepetitionKindSchema.nullable().default(null),
    /** Where a sweep broke, with the ends of its interval; null where it did not, and for all others. */
    breakBpm: z.number().nullable().default(null),
    breakLow: z.number().nullable().default(null),
    breakHigh: z.number().nullable().default(null),
  }),
);
export type PassageRepetitions = z.infer<typeof PassageRepetitionsSchema>;

/** Which stretch of a passage's history is asked for: one variant and section, days with the last among them. */
export const ProgressQuerySchema = z.object({
  variantId: NameIdSchema,
  sectionId: NameIdSchema,
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
});
export type ProgressQuery = z.infer<typeof ProgressQuerySchema>;

/**
 * The judged repetitions of a part of a passage that were played straight, and the sweeps of its strategy, by stretches of so many days from a
 * first day on: of stretches with many takes, the newest ones.
 */
export const ProgressSchema = z.object({
  from: z.iso.date(),
  to: z.iso.date(),
  periodDays: z.number().int().min(1),
  repetitions: z.array(
    z.object({
      takeId: IdSchema,
      /** Which stretch, from 0. */
      period: z.number().int().min(0),
      bpm: z.number(),
      outcome: OutcomeSchema,
      toleranceUsage: z.number().nullable(),
      spreadMs: z.number().nullable(),
      notes: z.number().int(),
      repetitionKind: RepetitionKindSchema.nullable(),
      breakBpm: z.number().nullable(),
      breakLow: z.number().nullable(),
      breakHigh: z.number().nullable(),
    }),
  ),
});
export type ProgressRepetitions = z.infer<typeof ProgressSchema>;

/** A take as it is now, after something of it was stored. */
export const StoredSchema = z.object({ revision: z.number().int() });

/** How far the upload of a recording has come. */
export const UploadSchema = z.object({ bytes: z.number().int(), done: z.boolean() });

/** How a re-analysis of stored takes gets on. */
export const ReanalysisSchema = z.object({
  running: z.boolean(),
  done: z.number().int(),
  of: z.number().int(),
  /** Takes with a recording whose figures an earlier engine made. */
  due: z.number().int(),
  /** Empty, or what went wrong, for the player. */
  message: z.string(),
});
export type Reanalysis = z.infer<typeof ReanalysisSchema>;

/** How a backup or a restore gets on. */
export const BackupStateSchema = z.object({
  doing: z.enum(['nothing', 'backing up', 'receiving', 'restoring']),
  doneBytes: z.number(),
  ofBytes: z.number(),
  /** Empty, or why the last one came to nothing. */
  message: z.string(),
});
export type BackupState = z.infer<typeof BackupStateSchema>;

/** What a restored backup came to, and the folder that keeps what was there before. */
export const RestoredSchema = z.object({ takes: z.number().int(), recordings: z.number().int(), before: z.string() });

/** Whether what is stored is as it was stored, the copies of the database, and how a check of it gets on. */
export const IntegritySchema = z.object({
  running: z.boolean(),
  /** How far the check has come, in bytes. */
  done: z.number().int(),
  of: z.number().int(),
  /** When everything was found as it was stored; null for never. */
  checkedAt: MomentSchema.nullable(),
  /** What was found, for the player. Empty where all is well. */
  sentences: z.array(z.string()),
  /** Copies of the database, the newest first; their names lead to them from the data folder. */
  copies: z.array(z.object({ name: z.string(), bytes: z.number().int(), madeAt: MomentSchema })),
  /** Files of sound that belong to nothing, and recordings whose file is gone. */
  unclaimed: z.number().int(),
  missing: z.number().int(),
});
export type Integrity = z.infer<typeof IntegritySchema>;

/** What was tidied up: files set aside and the folder that they are in, recordings that are not mentioned any more. */
export const TidiedSchema = z.object({ files: z.number().int(), folder: z.string(), forgotten: z.number().int() });
export type Tidied = z.infer<typeof TidiedSchema>;

/** The answers of the server, by path. Bodies of PUT are the same documents. */
export const API = {
  health: HealthSchema,
  passages: z.array(PassageSummarySchema),
  librarySummary: PassageSummarySchema,
  notebook: z.array(SolutionSchema),
  solution: SolutionSchema,
  passage: PassageSchema,
  practiceConfigs: z.array(PracticeConfigSchema),
  config: PracticeConfigSchema,
  takes: TakePageSchema,
  stored: StoredSchema,
  history: TempoHistorySchema,
  practice: PracticeSchema,
  configTotals: PracticeTotalsSchema,
  logged: LoggedSchema,
  passageRepetitions: PassageRepetitionsSchema,
  progress: ProgressSchema,
  upload: UploadSchema,
  take: TakeSchema,
  earlier: z.array(EarlierAnalysisSchema),
  reanalysis: ReanalysisSchema,
  session: PracticeSessionSchema,
  settings: SettingsSchema,
  backup: BackupStateSchema,
  restored: RestoredSchema,
  integrity: IntegritySchema,
  tidied: TidiedSchema,
  accompaniments: z.array(AccompanimentSummarySchema),
  accompaniment: AccompanimentSchema,
} as const;

/** The largest recording the server takes, in bytes: a day at 96 kHz. It bounds what one request can ask for, not a player. */
export const LARGEST_RECORDING_BYTES = 17_000_000_000;
