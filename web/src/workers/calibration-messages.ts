import type { Calibration } from '@isochron/core';

/** To the calibrating worker. */
export type ToCalibrator =
  | { type: 'open'; sampleRateHz: number; blocks: MessagePort }
  /** Look for the bursts that were played at these frames of the audio clock. */
  | { type: 'find'; frames: number[] };

/** From the calibrating worker: the first captured frame, then the outcome. */
export type FromCalibrator = { type: 'started'; frame: number } | { type: 'found'; calibration: Calibration };
