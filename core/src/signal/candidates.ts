/** A place where a note may begin. */
export interface Candidate {
  /** Where it was looked at, in samples of the stream. */
  at: number;
  /** How likely it is a note, as natural log-odds. */
  logOdds: number;
  /** From there to the note's onset, in seconds, and how far off that may be (mean absolute error). */
  shiftS: number;
  errorS: number;
}

/** A stream of candidates, in order, the same however the sound is cut into blocks. */
export interface Candidates {
  push(block: Float32Array): Candidate[];
  /** The end of the sound. */
  finish(): Candidate[];
  /** Stream position up to which all candidates were offered. */
  doneTo(): number;
}
