import type { OffsetGuess } from '@isochron/core/analysis';
import type { RepetitionPlan } from '@isochron/core/material';
import type { Drill, InputKind, Onset, Settings } from '@isochron/core/schema';
import { AppError } from '@isochron/core/schema';
import type { AudioEngine } from '../engine';

/** An input that is open for a take. */
export interface OpenInput {
  /** Whether the click may be heard in what it captures. */
  hearsClicks: boolean;
  /** Where its latency is looked for at first. */
  offset: OffsetGuess;
  /** Its latency, where it was calibrated with the devices that are used now; else null. */
  latencyS: number | null;
  /** Whether its sound is worth keeping as a recording. */
  records: boolean;
  /** How much sound it has delivered since it was opened, in seconds; null, or left out, where that cannot be told. */
  deliveredS?(): number | null;
  /** Told of each repetition as soon as it is planned. */
  prepare(plan: RepetitionPlan, drill: Drill): void;
  /** Told when what was planned will not be played. */
  forget(): void;
  close(): void;
}

/** What an input is opened with. */
export interface InputOptions {
  engine: AudioEngine;
  settings: Settings;
  /** The input is gone; the message says what to do. */
  onLost(message: string): void;
  /** For inputs that bring onsets instead of sound. */
  onOnset(onset: Onset): void;
  /** For inputs that tell when a note is let go. */
  onRelease(pitch: number, timeS: number): void;
}

/** A kind of input. */
export interface InputSource {
  kind: InputKind;
  name: string;
  about: string;
  /** What can be looked at before a take: the level of its sound, single notes, or nothing. */
  shows: 'level' | 'notes' | 'nothing';
  /** The profile of what it hears. */
  profileId(settings: Settings): string;
  /** Opens it, or throws {@link InputError}. */
  open(options: InputOptions): Promise<OpenInput>;
}

/** An input that cannot be opened, with a sentence that says what to do. */
export class InputError extends AppError {}
