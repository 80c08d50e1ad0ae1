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
import { ReasonSchema } from './reason';
import { ascending, MAX_BEATS } from './tempo';
import { VerdictReasonSchema } from './verdict';

/** One note of an event: the passage's note that it came from, with the marks of the variant. */
export const GridNoteSchema = z.object({
  from: NameIdSchema,
  pitch: PitchSchema.nullable(),
  /** Sounding length in beats, ties included. */
  length: BeatsSchema,
  staff: z.union([z.literal(1), z.literal(2)]),
  voice: z.number().int(),
  marks: MarksSchema,
  /** How it is written, for drawing and for the player. */
  articulation: ArticulationSchema.optional(),
  dynamic: DynamicSchema.optional(),
  printed: PrintedSchema.optional(),
  /** A slur reaches from here to the next event with a note that ends one. */
  slur: z.enum(['start', 'end', 'both']).optional(),
  /** Grace notes before it: drawn, not measured. */
  graces: z.array(PitchSchema.nullable()).max(16).optional(),
  /** Struck once and kept down while other notes follow. */
  held: z.boolean().optional(),
});

/** What an event is in a drill, where that is worth measuring by itself. */
export const EventRoleSchema = z.enum(['group start', 'landing', 'join', 'pivot', 'return']);

/** What is struck at one moment: one onset is expected here. Its notes ascend in pitch. */
export const GridEventSchema = z.object({
  at: BeatsSchema,
  /** The shortest of its notes' lengths, in beats. */
  length: BeatsSchema,
  accent: z.boolean(),
  notes: z.array(GridNoteSchema).min(1).max(88),
  role: EventRoleSchema.optional(),
  /** How its beat swings, where that is otherwise than the rest. */
  swing: SectionSwingSchema.optional(),
});

/** What is to be played, in order of time. Whoever made it, every note leads back to the page. */
export const GridSchema = z.object({ ...FrameShape, events: z.array(GridEventSchema).min(1).max(20_000) });

const CLICK_KINDS = ['beat', 'division', 'note', 'group', 'off-beat', 'bar', 'bars', 'none'] as const;

/** What clicks while the player plays, and how many bars are counted in before. */
export const ClickPlanSchema = z.object({
  kind: z.enum(CLICK_KINDS),
  /** Clicks to a beat where divisions are clicked. */
  divisions: z.number().int().min(2).max(8).default(2),
  countInBars: z.number().int().min(1).max(4).default(1),
  /** How a bar is grouped, in the unit of its meter; what suits the meter where nothing is said. */
  groups: z.array(z.number().int().min(1).max(12)).min(1).max(12).optional(),
  /** Where the first of every few bars is clicked: how many. */
  everyBars: z.number().int().min(2).max(16).optional(),
  /** It falls silent: so many bars are clicked, so many are not, over and over. */
  gap: z.object({ clickedBars: z.number().int().min(1).max(16), silentBars: z.number().int().min(1).max(16) }).optional(),
});

export const MethodUseSchema = z.object({ id: NameIdSchema, parameters: z.record(z.string(), z.json()) });

/** A recording that is played along with: where in it the first downbeat lies, and its beats from there, in seconds of the recording. */
export const PlayAlongSchema = z.object({
  accompanimentId: z.uuid(),
  title: z.string(),
  fromBeat: z.number().int().min(0),
  timesS: z.array(z.number().min(0)).min(2).max(MAX_BEATS).refine(ascending, { message: 'Beats follow one another in time.' }),
  /** How far its beats lie off an even pulse, as a standard deviation, at its own speed. */
  unsteadinessMs: z.number().min(0),
});

/** What is played between the repetitions of what was chosen: for a strategy, or from where the playing broke off. */
export const RepetitionKindSchema = z.enum(['sweep', 'burst', 'retake']);

/** What is practised: a grid with its click, its judging, and the line that says what it is for. */
export const DrillSchema = z.object({
  method: MethodUseSchema,
  /** The methods that it was made by after the first. */
  also: z.array(MethodUseSchema).max(4).optional(),
  grid: GridSchema,
  click: ClickPlanSchema,
  judging: z.object({
    /** Checks of the verdict that do not count here. */
    leftOut: z.array(VerdictReasonSchema),
    /** Played at a tempo of its own: evenness is measured against the tempo that was played. */
    ownTempo: z.boolean().optional(),
    /** How long the notes are to sound. */
    articulation: z.enum(['short', 'connected']).optional(),
    /** At which level it is to be played, held against another level of the same take. */
    dynamic: DynamicSchema.optional(),
  }),
  /** What it is called among the drills of its methods, a part by each of them. */
  titles: z.array(ReasonSchema).max(5).optional(),
  purpose: ReasonSchema,
  /** Played between the repetitions of the drills that were chosen, and why. */
  repetitionKind: RepetitionKindSchema.optional(),
  /** Where the tempo goes while it is played: shares of the tempo that is asked for, straight between the points. */
  tempo: z
    .array(z.object({ beat: z.number(), share: z.number().min(0.1).max(3) }))
    .min(1)
    .max(64)
    .optional(),
  /** Notches that it is asked for above or below the tempo at which the drill before it stood. */
  notches: z.number().int().min(-8).max(8).optional(),
  /** When the next drill follows: after a clean repetition (the usual), or once this one has reached the goal, begun anew. */
  until: z.enum(['clean', 'goal']).optional(),
  /** What is listened for, where it is not the beginnings of notes on the instrument. */
  listen: z.enum(['pulses', 'claps']).optional(),
  /** Something else to attend to is shown while it is played. */
  distraction: z.boolean().optional(),
  playAlong: PlayAlongSchema.optional(),
});

export type GridNote = z.infer<typeof GridNoteSchema>;
export type GridEvent = z.infer<typeof GridEventSchema>;
export type Grid = z.infer<typeof GridSchema>;
export type ClickPlan = z.infer<typeof ClickPlanSchema>;
export type ClickPlanKind = ClickPlan['kind'];
export type Drill = z.infer<typeof DrillSchema>;
export type PlayAlong = z.infer<typeof PlayAlongSchema>;
export type MethodUse = z.infer<typeof MethodUseSchema>;
export type EventRole = z.infer<typeof EventRoleSchema>;
