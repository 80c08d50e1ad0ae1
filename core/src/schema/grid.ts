import { z } from 'zod';
import { BeatsSchema, NameIdSchema } from './ids';
import { FrameShape, MarksSchema, PitchSchema } from './notation';
import { ReasonSchema } from './verdict';
import { WhySchema } from './why';

/** One note of an event: the passage's note that it came from, with the marks of the variant. */
export const GridNoteSchema = z.object({
  from: NameIdSchema,
  pitch: PitchSchema.nullable(),
  /** Sounding length in beats, ties included. */
  length: BeatsSchema,
  staff: z.union([z.literal(1), z.literal(2)]),
  voice: z.number().int(),
  marks: MarksSchema,
});

/** What is struck at one moment: one onset is expected here. Its notes ascend in pitch. */
export const GridEventSchema = z.object({
  at: BeatsSchema,
  /** The shortest of its notes' lengths, in beats. */
  length: BeatsSchema,
  accent: z.boolean(),
  notes: z.array(GridNoteSchema).min(1).max(88),
});

/** What is to be played, in order of time. Whoever made it, every note leads back to the page. */
export const GridSchema = z.object({ ...FrameShape, events: z.array(GridEventSchema).min(1).max(20_000) });

export const CLICK_KINDS = ['beat', 'division', 'off-beat', 'bar', 'none'] as const;

/** What clicks while the player plays, and how many bars are counted in before. */
export const ClickPlanSchema = z.object({
  kind: z.enum(CLICK_KINDS),
  /** Clicks to a beat where divisions are clicked. */
  divisions: z.number().int().min(2).max(8).default(2),
  countInBars: z.number().int().min(1).max(4).default(1),
});

/** What is practised: a grid with its click, its judging, and the line that says what it is for. */
export const DrillSchema = z.object({
  method: z.object({ id: NameIdSchema, parameters: z.record(z.string(), z.json()) }),
  grid: GridSchema,
  click: ClickPlanSchema,
  judging: z.object({
    /** Checks of the verdict that do not count here. */
    leftOut: z.array(ReasonSchema),
  }),
  purpose: WhySchema,
});

export type GridNote = z.infer<typeof GridNoteSchema>;
export type GridEvent = z.infer<typeof GridEventSchema>;
export type Grid = z.infer<typeof GridSchema>;
export type ClickPlan = z.infer<typeof ClickPlanSchema>;
export type ClickPlanKind = ClickPlan['kind'];
export type Drill = z.infer<typeof DrillSchema>;
