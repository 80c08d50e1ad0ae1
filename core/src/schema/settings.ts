import { z } from 'zod';
import { SkillSchema, STEADY } from '../player/simulate';
import { TOLERANCE_PRESETS, ToleranceSchema } from '../verdict/tolerance';
import { InputKindSchema } from './take';

/** Everything that the player sets once. */
export const SettingsSchema = z.object({
  input: InputKindSchema,
  /** The chosen microphone; empty for the system's own choice. */
  microphoneId: z.string().max(300),
  instrumentId: z.string(),
  skill: SkillSchema,
  tolerance: ToleranceSchema,
  stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]),
  noteNaming: z.enum(['british', 'american']),
  appearance: z.enum(['paper', 'ink', 'system']),
  announce: z.boolean(),
  clickLevel: z.number().min(0).max(1),
});

export type Settings = z.infer<typeof SettingsSchema>;

export const DEFAULT_SETTINGS: Settings = {
  input: 'microphone',
  microphoneId: '',
  instrumentId: 'struck-bar',
  skill: STEADY,
  tolerance: TOLERANCE_PRESETS.secure,
  stepBpm: 5,
  noteNaming: 'british',
  appearance: 'system',
  announce: true,
  clickLevel: 0.6,
};
