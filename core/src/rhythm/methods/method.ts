import type { z } from 'zod';
import type { Drill, Grid } from '../../schema/grid';
import type { OptionField } from '../../schema/options';

/** What a method is chosen for, in the order of the work. */
export const METHOD_CATEGORIES = ['learn', 'even', 'speed', 'sure'] as const;
export type MethodCategory = (typeof METHOD_CATEGORIES)[number];

/**
 * What a method changes. Two that change the same do not go together, nor two of which one undoes the other: see {@link methodsCombine}.
 * `anew` are those that make their own rhythm of the notes.
 */
export type MethodStage =
  | 'all'
  | 'notes'
  | 'rhythm'
  | 'groups'
  | 'doubling'
  | 'anew'
  | 'accents'
  | 'touch'
  | 'dynamic'
  | 'tempo'
  | 'click';

/** What a method asks of the instrument or the passage. */
export type MethodNeed = 'two-hands' | 'several-notes' | 'two-limbs' | 'held-note' | 'length' | 'rebound';

/** What a single field of a method asks: a bow, or hands or fingers written beside the notes. */
export type FieldNeed = 'bow' | 'marked';

/** A practice method: turns a grid into the drills that are played. A pure function over plain data. */
export interface Method<Parameters extends Record<string, unknown> = Record<string, unknown>> {
  id: string;
  name: string;
  /** What it is for, in one sentence. */
  about: string;
  category: MethodCategory;
  stage: MethodStage;
  /** Absent where it suits everyone. */
  needs?: MethodNeed;
  /** Works on the voice that moves most and leaves the others: as they are written, or silent, by choice. */
  keepsOthers?: true;
  /** Its parameters; every one has a default, so that `{}` is read. */
  parameters: z.ZodType<Parameters>;
  /** How the parameters are offered. */
  fields: readonly OptionField[];
  /** Fields that are offered only where a need is met, by their key. */
  fieldNeeds?: Readonly<Record<string, FieldNeed>>;
  /** One drill or several, to be played one after the other. Every event keeps the ids of the notes it came from. */
  drills(grid: Grid, parameters: Parameters): Drill[];
}
