/** Milliseconds between notes at a tempo with so many even notes per beat. Definition: 60 000 / bpm / notes. */
export const intervalMs = (tempoBpm: number, notesPerBeat: number): number => 60_000 / tempoBpm / notesPerBeat;

/** Notes per minute at a tempo with so many even notes per beat. */
export const notesPerMinute = (tempoBpm: number, notesPerBeat: number): number => tempoBpm * notesPerBeat;

/**
 * The same tempo said in another beat unit: 200 eighths a minute are 100 quarters.
 * Both units are fractions of a whole note as numbers (an eighth is 1/8).
 */
export const inUnit = (tempoBpm: number, fromUnit: number, toUnit: number): number => (tempoBpm * fromUnit) / toUnit;
