import { type Swinging, swingOfEvents } from '../rhythm/swing';
import type { NoteResult } from '../schema/measures';
import type { Swing } from '../schema/notation';
import { type Estimate, studentTQuantile } from '../stats/interval-estimate';
import { mean, sampleSd } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';

/** Fewer swung notes than this, or notes on beats, tell no ratio. */
const MIN_NOTES = 4;

/** Seconds a beat at a note, from its neighbours. */
const beatSAt = (notes: readonly ExpectedNote[], k: number): number => {
  const [from, to] = [notes[Math.max(0, k - 1)] as ExpectedNote, notes[Math.min(notes.length - 1, k + 1)] as ExpectedNote];
  return (to.timeS - from.timeS) / (to.beat - from.beat);
};

/**
 * How much later than expected the notes that are swung so come against those on beats, in beats, with its 95 % interval; null where too few
 * tell.
 */
const laterBeats = (
  swings: readonly (Swing | null)[],
  asked: Swing,
  results: readonly NoteResult[],
  notes: readonly ExpectedNote[],
): Estimate | null => {
  const off: number[] = [];
  const on: number[] = [];
  results.forEach(({ deviationMs, index }, k) => {
    const beat = notes[k]?.beat;
    if (deviationMs === null || beat === undefined) return;
    const asBeats = deviationMs / 1000 / beatSAt(notes, k);
    if (swings[index] === asked) off.push(asBeats);
    else if (Number.isInteger(beat)) on.push(asBeats);
  });
  if (off.length < MIN_NOTES || on.length < MIN_NOTES) return null;
  const value = mean(off) - mean(on);
  const error = Math.sqrt(sampleSd(off) ** 2 / off.length + sampleSd(on) ** 2 / on.length);
  const half = studentTQuantile(0.975, Math.min(off.length, on.length) - 1) * error;
  return { value, low: value - half, high: value + half };
};

/** What the ratio of a repetition is told of: the player's own swing, else what most of its swung notes ask for. */
const askedOfMost = (swings: readonly (Swing | null)[]): Swing | null => {
  const told = swings.filter((swing) => swing !== null);
  if (told.includes('own')) return 'own';
  const count = (swing: Swing) => told.filter((other) => other === swing).length;
  return told.reduce<Swing | null>((most, swing) => (most === null || count(swing) > count(most) ? swing : most), null);
};

/** A place in the beat nearer to its ends than this is none. */
const NEAREST = 0.05;
const ratioAt = (place: number): number => {
  const inside = Math.min(1 - NEAREST, Math.max(NEAREST, place));
  return inside / (1 - inside);
};

/**
 * The ratio of the first half of a swung beat to the second as it was played, with its 95 % interval (Welch's, with the degrees of the smaller
 * side). Null where nothing swings, or too few notes tell.
 */
export const swingOf = (grid: Swinging, results: readonly NoteResult[], notes: readonly ExpectedNote[]): Estimate | null => {
  const swings = swingOfEvents(grid);
  const asked = askedOfMost(swings);
  const later = asked === null ? null : laterBeats(swings, asked, results, notes);
  const beat = notes.find(({ index }) => swings[index] === asked)?.beat;
  if (!later || beat === undefined) return null;
  const place = beat - Math.floor(beat);
  const { value, low, high } = later;
  return {
    value: ratioAt(place + value),
    low: low === null ? null : ratioAt(place + low),
    high: high === null ? null : ratioAt(place + high),
  };
};

/** The notes of a plan with those that swing as the player has it so much later, in beats. */
const movedBy = (swings: readonly (Swing | null)[], notes: readonly ExpectedNote[], laterBeat: number): ExpectedNote[] => {
  const moved = notes.map((note, k) =>
    swings[note.index] === 'own'
      ? { ...note, beat: note.beat + laterBeat, timeS: note.timeS + laterBeat * beatSAt(notes, k) }
      : note,
  );
  return moved.map((note, k) => {
    const [next, before] = [moved[k + 1], moved[k - 1]];
    return { ...note, intervalS: next ? next.timeS - note.timeS : before ? note.timeS - before.timeS : note.intervalS };
  });
};

/** Where else a player's own swing is looked for, as places in the beat (our choice): straight, a little swung, hard. */
const OTHER_PLACES = [1 / 2, 7 / 12, 3 / 4];

/**
 * The ways in which a plan may be played where its swing is the player's own: as it stands, straight, a little swung and hard. So far from where
 * they are looked for, notes would be missed. One alone where nothing swings so.
 */
export const swingReadings = (grid: Swinging, notes: ExpectedNote[]): ExpectedNote[][] => {
  const swings = swingOfEvents(grid);
  const beat = notes.find(({ index }) => swings[index] === 'own')?.beat;
  if (beat === undefined) return [notes];
  return [notes, ...OTHER_PLACES.map((place) => movedBy(swings, notes, place - (beat - Math.floor(beat))))];
};

/** The notes of a plan with the swung ones where this player swings them; null where that is not asked, or cannot be told. */
export const ownSwingOf = (
  grid: Swinging,
  results: readonly NoteResult[],
  notes: readonly ExpectedNote[],
): ExpectedNote[] | null => {
  const swings = swingOfEvents(grid);
  const later = swings.includes('own') ? laterBeats(swings, 'own', results, notes) : null;
  return later && movedBy(swings, notes, later.value);
};
