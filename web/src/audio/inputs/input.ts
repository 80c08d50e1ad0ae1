import type { Exercise, InputKind, OffsetGuess, Onset, RepetitionPlan, Settings } from '@isochron/core';
import type { AudioEngine } from '../engine';

/** An input that is open for a take. */
export interface OpenInput {
  /** Whether the click may be heard in what it captures. */
  hearsClicks: boolean;
  /** Where its latency is looked for at first. */
  offset: OffsetGuess;
  /** Whether its sound is worth keeping as a recording. */
  records: boolean;
  /** Told of each repetition as soon as it is planned. */
  prepare(plan: RepetitionPlan, exercise: Exercise): void;
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
}

/** A kind of input. */
export interface InputSource {
  kind: InputKind;
  name: string;
  about: string;
  /** Opens it, or throws {@link InputTrouble}. */
  open(options: InputOptions): Promise<OpenInput>;
}

/** An input that cannot be opened, with a sentence that says what to do. */
export class InputTrouble extends Error {}
