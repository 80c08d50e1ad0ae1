import { z } from 'zod';
import { ReasonSchema } from './reason';

/** What a repetition came to. `not-judged`: the recording has a gap, or nothing was heard of the input. */
export const OutcomeSchema = z.enum(['clean', 'close', 'not-yet', 'broken', 'not-judged']);

/** The check that gave the verdict its reason; `none` for a clean repetition. */
export const VerdictReasonSchema = z.enum([
  'none',
  'gap',
  'silence',
  'bleed',
  'few',
  'unsure',
  'half-tempo',
  'double-tempo',
  'first-bar',
  'played-on',
  'stumble',
  'broken-off',
  'by-hand',
  'stop',
  'broken',
  'notes',
  'accuracy',
  'spread',
  'unevenness',
  'drift',
  'jump',
  'accents',
  'dynamics',
  'let-go',
  'articulation',
  'together',
  'hands',
  'placement',
]);

/** `reason` is the check that decided; `why` says it with its numbers. */
export const VerdictSchema = z.object({ outcome: OutcomeSchema, reason: VerdictReasonSchema, why: ReasonSchema });

export type Outcome = z.infer<typeof OutcomeSchema>;
export type VerdictReason = z.infer<typeof VerdictReasonSchema>;
export type Verdict = z.infer<typeof VerdictSchema>;
