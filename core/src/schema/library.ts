import { z } from 'zod';
import { BeatsSchema, IdSchema, MomentSchema, NameIdSchema } from './ids';
import { MeterChangeSchema } from './notation';
import { TempoSchema } from './tempo';

export const TagSchema = z.string().trim().min(1).max(30);

/** A passage as it stands on the library: what the library shows and is searched by, without its notes. */
export const PassageSummarySchema = z.object({
  id: NameIdSchema,
  revision: z.number().int(),
  title: z.string(),
  about: z.string(),
  goalBpm: z.number(),
  beatUnit: BeatsSchema,
  bars: z.number().int(),
  noteCount: z.number().int(),
  meter: MeterChangeSchema.nullable(),
  variants: z.array(z.object({ id: NameIdSchema, name: z.string() })),
  sections: z.array(z.object({ id: NameIdSchema, name: z.string(), fromBar: z.number().int(), toBar: z.number().int() })),
  isPattern: z.boolean(),
  instrumentId: NameIdSchema.optional(),
  tags: z.array(TagSchema),
  archivedAt: MomentSchema.nullable(),
  editedAt: MomentSchema.nullable(),
});

/** What is changed of a passage's place on the library. A passage that was removed can be put back; nothing played is lost with it. */
export const LibraryChangeSchema = z
  .object({ tags: z.array(TagSchema).max(20), archived: z.boolean(), removed: z.boolean() })
  .partial();

/** An entry of the notebook: what solved a problem, tied to bars of a passage as they are counted from 1 at the first downbeat. */
export const SolutionSchema = z.object({
  id: IdSchema,
  passageId: NameIdSchema,
  fromBar: z.number().int().min(1).max(2000),
  toBar: z.number().int().min(1).max(2000),
  text: z.string().max(4000),
  /** The tempo that would not come clean when it was tried; absent in what is written for another reason. */
  atBpm: TempoSchema.optional(),
  writtenAt: MomentSchema,
  editedAt: MomentSchema,
  removed: z.boolean().default(false),
});

export type PassageSummary = z.infer<typeof PassageSummarySchema>;
export type LibraryChange = z.infer<typeof LibraryChangeSchema>;
export type Solution = z.infer<typeof SolutionSchema>;
