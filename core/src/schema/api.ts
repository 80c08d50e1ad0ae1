import { z } from 'zod';
import { CourseSchema } from './course';
import { PassageSchema } from './passage';
import { SettingsSchema } from './settings';
import { SittingSchema } from './sitting';
import { EarlierAnalysisSchema, TakeSchema, TakeSummarySchema } from './take';

/** What the server answers when it refuses: one sentence for the player. */
export const RefusalSchema = z.object({ message: z.string() });

export const HealthSchema = z.object({ ok: z.literal(true), demo: z.boolean() });

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

/** The answers of the server, by path. Bodies of PUT are the same documents. */
export const API = {
  health: HealthSchema,
  passages: z.array(PassageSchema),
  passage: PassageSchema,
  courses: z.array(CourseSchema),
  course: CourseSchema,
  takes: z.array(TakeSummarySchema),
  take: TakeSchema,
  earlier: z.array(EarlierAnalysisSchema),
  reanalysis: ReanalysisSchema,
  sitting: SittingSchema,
  settings: SettingsSchema,
} as const;

/** The largest recording the server takes, in bytes: about an hour at 48 kHz. */
export const LARGEST_RECORDING_BYTES = 360_000_000;
