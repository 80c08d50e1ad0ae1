import { type Alignment, align, alignAtOffset, CLEARLY_BETTER, SETTLED_OFFSET_S, UNPAIRED_COST } from '../align/align';
import type { Onset, PlayedAs } from '../schema/measures';
import type { ExpectedNote } from '../time/repetition-plan';
import { type Hypothesis, likelyStumbles } from './stumbles';

/** What was played, and what it is held against. */
export interface Performance {
  notes: readonly ExpectedNote[];
  onsets: readonly Onset[];
  /** Where the latency is looked for, and where it was found for the notes as they were asked for, in seconds. */
  nearS: number;
  foundS: number;
  /** Where the second bar begins, in beats; infinite where there is none. */
  secondBar: number;
  /** The pitches that each note may have, as MIDI numbers; empty where it has none. */
  pitches: readonly (readonly number[])[];
}

/** So many notes must be found at least, or nothing is said (our choice). */
const MIN_FOUND = 6;
/** Another explanation leaves so few unexplained, as a share of its notes, … */
const LEFT_SHARE = 0.1;
/** … the others lie no farther from their places on average, in half steps, … */
const MOST_APART = 0.3;
/** … and it explains so many notes more than the one that was asked for; one less where it leaves nothing. */
const EXPLAINED_MORE = 3;

/** What is claimed to have come late must have come: so many of its notes (our choice). */
const CLAIMED_HEARD = 3;
const heardOf = (onsetOf: Alignment['onsetOf']): number => onsetOf.filter((which) => which !== null).length;

/** Explanations whose costs differ by less than one note's are equally good. */
const AS_GOOD = 0.5;

const wrongPitches = (
  { onsetOf }: Alignment,
  onsets: readonly Onset[],
  pitches: Performance['pitches'],
  of: readonly number[],
): number =>
  onsetOf.filter((which, k) => {
    const pitch = which === null ? undefined : onsets[which]?.pitch;
    const wanted = pitches[of[k] as number] ?? [];
    // Only an instrument that sends its pitches is believed here: what is heard of sound may be an overtone.
    return pitch !== undefined && Number.isInteger(pitch) && wanted.length === 1 && pitch !== wanted[0];
  }).length;

const unexplained = (alignment: Alignment, { onsets, pitches }: Performance, of: readonly number[]): number =>
  alignment.onsetOf.filter((which) => which === null).length +
  alignment.extra.length +
  wrongPitches(alignment, onsets, pitches, of);

/** The notes at another tempo from the same beginning, as far as they had come when the listening ended. */
const atTempo = ({ notes }: Performance, kind: PlayedAs['kind'], scale: number): Hypothesis => {
  const firstS = (notes[0] as ExpectedNote).timeS;
  const lastS = (notes.at(-1) as ExpectedNote).timeS;
  const stretched = notes
    .map((note) => ({ ...note, timeS: firstS + scale * (note.timeS - firstS), intervalS: scale * note.intervalS }))
    .filter(({ timeS }) => timeS <= lastS + SETTLED_OFFSET_S);
  return { playedAs: { kind }, notes: stretched, of: stretched.map((_, k) => k) };
};

/** Everything from the second bar on: as it stands there, or begun there from the beginning. */
const fromSecondBar = ({ notes, onsets, nearS, secondBar }: Performance): Hypothesis[] => {
  const from = notes.findIndex(({ beat }) => beat >= secondBar);
  const [before, next] = [notes[from - 1], notes[from]];
  if (!before || !next) return [];
  const beatS = (next.timeS - before.timeS) / (next.beat - before.beat);
  const secondBarS = next.timeS - (next.beat - secondBar) * beatS;
  const isSilent = onsets.every(({ timeS }) => timeS - nearS > secondBarS - Math.max(before.intervalS / 2, SETTLED_OFFSET_S));
  if (!isSilent) return [];
  const lastS = (notes.at(-1) as ExpectedNote).timeS;
  const late = notes
    .map((note) => ({ ...note, timeS: note.timeS + secondBar * beatS }))
    .filter(({ timeS }) => timeS <= lastS + SETTLED_OFFSET_S);
  const rest = notes.slice(from);
  return [
    { playedAs: { kind: 'first-bar' }, notes: rest, of: rest.map((_, k) => k + from) },
    { playedAs: { kind: 'first-bar' }, notes: late, of: late.map((_, k) => k) },
  ];
};

/**
 * Whether a repetition was played in another way than asked, which is no failure of evenness: at half or double the tempo, without its
 * first bar, or with the rest a step late from a note on. Null where it was played as asked, or where nothing of this explains it.
 */
export const playedAsOf = (performance: Performance): PlayedAs | null => {
  const { notes, nearS, foundS } = performance;
  const last = notes.at(-1);
  if (!last || notes.length < MIN_FOUND) return null;
  // What comes after the last note is due may be more of the same: where the listening ends is chance.
  const heardBy = (offset: number): Performance => ({
    ...performance,
    onsets: performance.onsets.filter(({ timeS }) => timeS <= last.timeS + offset + SETTLED_OFFSET_S),
  });
  const timesOf = ({ onsets }: Performance) => onsets.map(({ timeS }) => timeS);
  const asked = alignAtOffset(notes, timesOf(performance), foundS);
  const asAsked = unexplained(
    asked,
    performance,
    notes.map((_, k) => k),
  );
  // Beside long notes a short step late is only late: then one note is added, and all from there on lie worse.
  const isOneAdded = asAsked === 1 && asked.extra.length === 1;
  if (asAsked < EXPLAINED_MORE - 1 && !isOneAdded) return null;
  const fitted = (one: Hypothesis, offset: number) => {
    const heard = heardBy(offset);
    const fit = align(one.notes, timesOf(heard), { nearS: offset, reachS: SETTLED_OFFSET_S });
    return { ...one, fit, left: unexplained(fit, heard, one.of) };
  };
  // The offset that was found for what was not played means little: where it was before counts as well.
  const offsets = [...new Set([nearS, foundS])];
  const elsewhere = [
    atTempo(performance, 'half-tempo', 2),
    atTempo(performance, 'double-tempo', 0.5),
    ...fromSecondBar(performance),
  ];
  const tried = [
    ...elsewhere.flatMap((one) => offsets.map((offset) => fitted(one, offset))),
    ...likelyStumbles(
      notes,
      offsets.map((offset) => ({ offset, onsetsS: timesOf(heardBy(offset)) })),
    ).map(({ one, offset }) => fitted(one, offset)),
  ];
  const explained = tried.filter(({ notes: own, left, fit, claimed }) => {
    if (claimed !== undefined && heardOf(fit.onsetOf.slice(own.length - claimed)) < CLAIMED_HEARD) return false;
    const found = heardOf(fit.onsetOf);
    // A pair costs its distance, in half steps: what drags is explained by nothing of this, however few notes are left.
    const apart = (fit.cost - UNPAIRED_COST * (own.length - found + fit.extra.length)) / found;
    const isTight = apart <= MOST_APART && left <= Math.max(1, LEFT_SHARE * own.length);
    if (found < MIN_FOUND || !isTight) return false;
    if (isOneAdded) return claimed !== undefined && left === 0 && asked.cost - fit.cost >= CLEARLY_BETTER;
    return left + (left === 0 ? EXPLAINED_MORE - 1 : EXPLAINED_MORE) <= asAsked;
  });
  if (explained.length === 0) return null;
  const costOf = ({ left, fit }: (typeof explained)[number]) => left + fit.cost;
  const best = explained.reduce((a, b) => (costOf(b) < costOf(a) ? b : a));
  // In an even run any of its notes may be the one.
  const isSame = ({ playedAs }: Hypothesis) => playedAs.kind === best.playedAs.kind && playedAs.note === best.playedAs.note;
  const asGood = explained.filter((one) => costOf(one) < costOf(best) + AS_GOOD && !isSame(one));
  return asGood.some(({ playedAs }) => playedAs.kind === best.playedAs.kind) ? { kind: best.playedAs.kind } : best.playedAs;
};

/** So many notes in the count-in are no slip of a finger (our choice). */
const PLAYED_ON = 3;

/**
 * Whether the playing went on into the count-in, so that what followed had no beginning: a bar too many. `before` are the onsets between
 * the first click and the first note; a repetition that held together all the same was not harmed by them.
 */
export const playedOn = (before: readonly Onset[], { missed, extra }: { missed: number; extra: number }): PlayedAs | null =>
  before.length >= PLAYED_ON && missed + extra > 0 ? { kind: 'played-on' } : null;
