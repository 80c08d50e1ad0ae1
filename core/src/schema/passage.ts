import { z } from 'zod';
import { BeatsSchema, NameIdSchema } from './ids';
import {
  ArticulationSchema,
  DynamicSchema,
  FrameShape,
  MarksSchema,
  PitchSchema,
  PrintedSchema,
  SectionSwingSchema,
} from './notation';
import { passageFaults } from './passage-faults';
import { TempoSchema } from './tempo';

/** One notated note. Notes that begin together, in whatever voice or staff, sound as one event. */
export const PassageNoteSchema = z.object({
  /** Stays the same through every change of the passage: marks, grids and figures point at it. */
  id: NameIdSchema,
  /** Position from the first downbeat, in beats; a pickup is negative. */
  at: BeatsSchema,
  /** Notated length in beats; 0 for a grace note. */
  length: BeatsSchema,
  /** Null for a note without pitch. */
  pitch: PitchSchema.nullable(),
  staff: z.union([z.literal(1), z.literal(2)]).default(1),
  voice: z.number().int().min(1).max(8).default(1),
  /** Held over into the next note of the same pitch and voice. */
  tie: z.boolean().optional(),
  /** Drawn, not measured. */
  grace: z.boolean().optional(),
  accent: z.boolean().optional(),
  articulation: ArticulationSchema.optional(),
  dynamic: DynamicSchema.optional(),
  printed: PrintedSchema.optional(),
  /** The note to which a slur reaches from here. */
  slurTo: NameIdSchema.optional(),
});

/** One way to play a passage: what is written beside its notes, by note id. */
export const VariantSchema = z.object({
  id: NameIdSchema,
  name: z.string().min(1).max(80),
  marks: z.record(NameIdSchema, MarksSchema),
});

/** A named stretch of whole bars, counted from 1 at the first downbeat; a section from bar 1 has the pickup. */
export const SectionSchema = z.object({
  id: NameIdSchema,
  name: z.string().min(1).max(80),
  fromBar: z.number().int().min(1),
  toBar: z.number().int().min(1),
  /** How its eighths swing, where that is otherwise than in the rest of the passage. */
  swing: SectionSwingSchema.optional(),
});

/** Notated music, from any source, with the ways to play it and its sections. */
export const PassageSchema = z
  .object({
    id: NameIdSchema,
    /** Counts the changes; a take keeps the revision that it was played from. */
    revision: z.number().int().min(1).default(1),
    title: z.string().min(1).max(120),
    about: z.string().max(600),
    ...FrameShape,
    notes: z.array(PassageNoteSchema).min(1).max(20_000),
    variants: z.array(VariantSchema).max(32).default([]),
    sections: z.array(SectionSchema).max(200).default([]),
    /** The number on the page of the first whole bar. */
    firstBarNumber: z.number().int().min(0).max(9999).default(1),
    /** The number on the page of every whole bar, where repeats are written out; then `firstBarNumber` says nothing. */
    pageBars: z.array(z.number().int().min(0).max(9999)).max(2000).optional(),
    /** The instrument that it is for, see material/instruments. */
    instrumentId: NameIdSchema.optional(),
    /** Its text as the player typed it. */
    text: z.string().max(200_000).optional(),
    /** The generator that made it, for a pattern. */
    generator: z.object({ id: NameIdSchema, parameters: z.record(z.string(), z.json()) }).optional(),
    /** A goal tempo that suits it, to start from. */
    goalBpm: TempoSchema,
  })
  .superRefine((passage, context) => {
    for (const message of passageFaults(passage)) context.addIssue({ code: 'custom', message });
  });

export type PassageNote = z.infer<typeof PassageNoteSchema>;
export type Variant = z.infer<typeof VariantSchema>;
export type Section = z.infer<typeof SectionSchema>;
export type Passage = z.infer<typeof PassageSchema>;
