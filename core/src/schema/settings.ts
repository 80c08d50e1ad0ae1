import { z } from 'zod';
import { SkillSchema, STEADY } from '../player/simulate';
import { TOLERANCE_PRESETS, ToleranceSchema } from '../verdict/tolerance';
import { InputKindSchema } from './take';

/** A measured latency, and the devices for which it holds. */
export const StoredCalibrationSchema = z.object({
  input: z.string(),
  output: z.string(),
  latencyS: z.number().min(0).max(1),
  spreadMs: z.number().min(0),
  measuredAt: z.iso.datetime(),
});

/** Everything that the player sets once. */
export const SettingsSchema = z.object({
  input: InputKindSchema,
  /** The chosen microphone; empty for the system's own choice. */
  microphoneId: z.string().max(300),
  instrumentId: z.string(),
  /** The profile of the player's instrument, see signal/profiles. */
  profileId: z.string().default('any'),
  /** The chosen MIDI port: empty for all ports together, `virtual` for the one that ships. */
  midiPortId: z.string().max(300).default(''),
  calibrations: z.array(StoredCalibrationSchema).default([]),
  skill: SkillSchema,
  tolerance: ToleranceSchema,
  stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]),
  noteNaming: z.enum(['british', 'american']),
  appearance: z.enum(['paper', 'ink', 'system']),
  announce: z.boolean(),
  clickLevel: z.number().min(0).max(1),
});

export type StoredCalibration = z.infer<typeof StoredCalibrationSchema>;
export type Settings = z.infer<typeof SettingsSchema>;

export const DEFAULT_SETTINGS: Settings = {
  input: 'microphone',
  microphoneId: '',
  instrumentId: 'struck-bar',
  profileId: 'any',
  midiPortId: '',
  calibrations: [],
  skill: STEADY,
  tolerance: TOLERANCE_PRESETS.secure,
  stepBpm: 5,
  noteNaming: 'british',
  appearance: 'system',
  announce: true,
  clickLevel: 0.6,
};
