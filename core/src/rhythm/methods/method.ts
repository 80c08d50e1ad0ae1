import type { z } from 'zod';
import type { Drill, Grid } from '../../schema/grid';
import type { OptionField } from '../../schema/options';

/** A practice method: turns a grid into the drills that are played. A pure function over plain data. */
export interface Method<Parameters extends Record<string, unknown> = Record<string, unknown>> {
  id: string;
  name: string;
  /** What it is for, in one sentence. */
  about: string;
  /** Its parameters; every one has a default, so that `{}` is read. */
  parameters: z.ZodType<Parameters>;
  /** How the parameters are offered. */
  fields: readonly OptionField[];
  /** One drill or several, to be played one after the other. Every event keeps the ids of the notes it came from. */
  drills(grid: Grid, parameters: Parameters): Drill[];
}
