import { TempoSchema } from '@isochron/core/schema';
import { USAGE, UsageError } from './usage';

/** A number that an option gives; throws Trouble where it gives none. */
export const number = (name: string, text: string | undefined): number => {
  const value = Number(text);
  if (text === undefined || text.trim() === '' || !Number.isFinite(value))
    throw new UsageError(`--${name} needs a number.\n\n${USAGE}`, 2);
  return value;
};

/** A number within a range; throws Trouble outside of it. */
export const numberInRange = (name: string, value: number, low: number, high: number): number => {
  if (value < low || value > high) throw new UsageError(`--${name} must lie between ${low} and ${high}; it is ${value}.`, 2);
  return value;
};

/** A tempo that the app accepts; throws Trouble otherwise. */
export const tempo = (name: string, text: string | undefined): number => {
  const checked = TempoSchema.safeParse(number(name, text));
  if (!checked.success) throw new UsageError(checked.error.issues[0]?.message ?? 'That tempo cannot be used.', 2);
  return checked.data;
};

/** The options that say what an even run is: its tempo, notes to a beat, and beats. */
export const EVEN_RUN = { bpm: { type: 'string' }, 'per-beat': { type: 'string' }, beats: { type: 'string' } } as const;

/** An even run as its options say it; throws Trouble. */
export const evenRun = (values: { bpm?: string; 'per-beat'?: string; beats?: string }) => ({
  tempoBpm: tempo('bpm', values.bpm),
  notesPerBeat: numberInRange('per-beat', number('per-beat', values['per-beat']), 0.25, 24),
  beats: numberInRange('beats', number('beats', values.beats), 1, 4000),
});
