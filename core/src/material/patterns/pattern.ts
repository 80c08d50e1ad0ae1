import type { z } from 'zod';
import type { MusicalInstrument } from '../../schema/instrument';
import type { OptionField } from '../../schema/options';
import type { Passage } from '../../schema/passage';

/** A generator of patterns: makes a passage for an instrument. A pure function of its parameters. */
export interface Pattern<Parameters extends Record<string, unknown> = Record<string, unknown>> {
  id: string;
  name: string;
  /** What it is for, in one sentence. */
  about: string;
  /** Whether it is any use on an instrument. */
  suits(instrument: MusicalInstrument): boolean;
  parameters: z.ZodType<Parameters>;
  fields(instrument: MusicalInstrument): readonly OptionField[];
  make(parameters: Parameters, instrument: MusicalInstrument): Passage;
}
