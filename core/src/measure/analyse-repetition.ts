import { alignLookingFar, type OffsetGuess, SETTLED_OFFSET_S } from '../align/align';
import { chordReachS, groupChords } from '../align/group-chords';
import { mergeDoubleAttacks } from '../align/merge-double-attacks';
import { handsOf, pitchesOf } from '../rhythm/grid-shape';
import { barAt, barStarts } from '../schema/frame';
import type { Drill, Grid } from '../schema/grid';
import type { Measures, NoteResult, Onset, PlayedAs } from '../schema/measures';
import type { Tolerance } from '../schema/tolerance';
import type { Verdict } from '../schema/verdict';
import { isHeard, type Profile } from '../signal/profiles';
import { median } from '../stats/summary';
import { type ExpectedNote, type RepetitionPlan, shortestIntervalMs } from '../time/repetition-plan';
import { judgedOf, toleranceUsageOf } from '../verdict/judged';
import { verdictOf } from '../verdict/verdict-of';
import { filterDoubleAttacks } from './attack-faults';
import { isCertain } from './certainty';
import { drillMeasures } from './drill-measures';
import { dynamicMeasure, type OtherLevel } from './dynamics';
import { pitchKeyIn, withPitches } from './heard-pitches';
import { measureRepetition, noteResults } from './measure-repetition';
import { unwritten, withoutWrittenDoubles } from './ornamental';
import { ownSwingOf, swingOf, swingReadings } from './own-swing';
import { ownTempoOf } from './own-tempo';
import { playedAsOf, playedOn } from './played-as';

/** Everything that is known of a repetition once it was played. */
export interface AnalysedRepetition {
  notes: NoteResult[];
  extras: Onset[];
  measures: Measures;
  verdict: Verdict;
  /** The constant offset that the pairing allowed for: the next repetition's best guess of the latency. */
  offsetS: number;
  /** True where the notes fit a whole interval earlier or later about as well. */
  shiftDoubtful: boolean;
  /** How much slower than asked it was played, where it had a tempo of its own. */
  ownScale?: number;
}

/** What of an analysis is stored with its repetition. */
export const storedFigures = ({ notes, extras, measures, verdict, shiftDoubtful }: AnalysedRepetition) => ({
  notes,
  extras,
  measures,
  verdict,
  shiftDoubtful,
});

/** What an analysis needs to know besides the onsets. */
export interface AnalysisContext {
  drill: Pick<Drill, 'grid' | 'judging'> & Partial<Pick<Drill, 'listen' | 'tempo'>>;
  plan: Pick<RepetitionPlan, 'notes'>;
  profile: Profile;
  tolerance: Tolerance;
  /** The calibrated latency in seconds, or null where there is none. */
  latencyS: number | null;
  /** Where an uncalibrated pairing looks for the latency. */
  offset: OffsetGuess;
  /** The last repetition at another level, where the drill is about that. */
  otherLevel?: OtherLevel | null;
  /** The first note that was not played any more, where the playing broke off; how many notes were played is then at least one. */
  brokenOffAt?: number;
  /** True where it broke off there because the player ended the take. */
  isByHand?: true;
  /** True where the recording has a gap inside the repetition. */
  gap: boolean;
  /** True where all onsets are the repetition's own, however far before or after its notes. */
  ownOnsets?: boolean;
  /** True where swung notes are expected where this player has them. */
  isSwungOwn?: boolean;
  /** True where something sounded in the count-in that was no click, and how the click sounds is known. */
  isCountInSpoilt?: boolean;
  /** True where the click could not be taken out of the sound well enough. */
  clickMasks?: boolean;
}

/** Where the constant offset is looked for: close to the calibrated latency, or where the loop's experience points. */
export const offsetToTry = ({ latencyS, offset }: Pick<AnalysisContext, 'latencyS' | 'offset'>): OffsetGuess =>
  latencyS === null ? offset : { ...offset, nearS: latencyS, reachS: SETTLED_OFFSET_S };

/** An offset this far from the first guess, as a share of the shortest interval, may be a shift. */
const FAR_SHARE = 0.5;

/**
 * From the onsets of one repetition to its notes, measures and verdict: the middle of the line
 * capture → onsets → align → measure → verdict → strategy. Onsets outside the repetition's reach are left out.
 */
export const analyseRepetition = (heard: readonly Onset[], context: AnalysisContext): AnalysedRepetition => {
  const at = context.brokenOffAt;
  if (at !== undefined && at > 0 && at < context.plan.notes.length) return analyseBrokenOff(heard, context, at);
  const onsets = filterDoubleAttacks(heard);
  const { drill, plan, profile, tolerance, latencyS, gap, ownOnsets = false, clickMasks = false } = context;
  const own = drill.judging.ownTempo ? ownTempoOf(onsets, plan.notes) : null;
  if (own) {
    const { judging, ...rest } = drill;
    const settled = { ...judging, ownTempo: false };
    const analysed = analyseRepetition(onsets, {
      ...context,
      drill: { ...rest, judging: settled },
      plan: { notes: own.notes },
      latencyS: null,
      offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
      ownOnsets: true,
    });
    // What was found is no latency: the next one is looked for where it was.
    return { ...analysed, offsetS: context.offset.nearS, shiftDoubtful: false, ownScale: own.scale };
  }
  const offset = offsetToTry(context);
  const { events } = drill.grid;
  const shortestMs = shortestIntervalMs(plan.notes);
  const readings = context.isSwungOwn ? [plan.notes] : swingReadings(drill.grid, plan.notes);
  const { notes, alignment, near } = readings
    .map((read) => {
      const { alignment: found, onsets: own } = pairInReach(read, onsets, offset, {
        grid: drill.grid,
        shortestS: shortestMs / 1000,
        isOwn: ownOnsets,
      });
      return { notes: read, alignment: found, near: own };
    })
    .reduce((best, one) => (one.alignment.cost < best.alignment.cost ? one : best));
  const timed = withoutWrittenDoubles(
    noteResults(notes, near, alignment, (latencyS ?? 0) - profile.attackDelayMs / 1000),
    events,
  );
  const swung = context.isSwungOwn ? null : ownSwingOf(drill.grid, timed, notes);
  if (swung) return analyseRepetition(onsets, { ...context, plan: { notes: swung }, isSwungOwn: true });
  const swing = swingOf(drill.grid, timed, notes);
  const results = profile.hasPitch && !drill.listen ? withPitches(timed, drill.grid, profile.sendsPitch ?? false) : timed;
  const extras = alignment.extra.map((index) => near[index] as Onset);
  const measured = measureRepetition({
    notes,
    results,
    extra: unwritten(extras.filter(isCertain), events, notes, alignment.offsetS).length,
    tolerance,
    noiseSdMs: profile.noiseSdMs,
    hands: events.map(handsOf),
  });
  const playedAs = playedOtherwise(struckTogether(onsets, drill.grid, shortestMs / 1000), alignment.offsetS, measured, context);
  const toleranceUsage = toleranceUsageOf(judgedOf(notes, measured, tolerance, latencyS !== null));
  const measures = {
    ...measured,
    ...drillMeasures(results, drill, notes, beatLengthS(notes)),
    toleranceUsage,
    ...dynamicMeasure(drill, results, context.otherLevel ?? null),
    ...(swing ? { swing } : {}),
    ...(playedAs ? { playedAs } : {}),
  };
  const recording = gap ? 'gap' : clickMasks ? 'bleed' : null;
  const verdict = verdictOf({ notes, measures, tolerance, latencyS, judging: drill.judging, recording });
  // Before anything was settled, an offset of most of an interval may as well be an entry that came early or late.
  const isFar = latencyS === null && 1000 * Math.abs(alignment.offsetS - offset.nearS) > FAR_SHARE * shortestMs;
  const shiftDoubtful = alignment.ambiguous || (isFar && offset.reachS > SETTLED_OFFSET_S);
  return { notes: results, extras, measures, verdict, offsetS: alignment.offsetS, shiftDoubtful };
};

/** Onsets as the strokes of notes that follow one another so closely: chords as one, doubled attacks merged. */
const struckTogether = (onsets: readonly Onset[], { events }: Pick<Grid, 'events'>, shortestS: number): Onset[] =>
  events.some((event) => event.notes.length > 1)
    ? groupChords(onsets, chordReachS(shortestS))
    : mergeDoubleAttacks(onsets, shortestS);

/** Pairs notes with the strokes in their reach, or with all where all are known to be their own. */
const pairInReach = (
  notes: readonly ExpectedNote[],
  onsets: readonly Onset[],
  offset: OffsetGuess,
  { grid, shortestS, isOwn = false }: { grid: Pick<Grid, 'events'>; shortestS: number; isOwn?: boolean },
) => {
  const inReach = (guess: OffsetGuess) => (isOwn ? onsets : onsetsInReach(onsets, { notes }, guess));
  return alignLookingFar(notes, (guess) => struckTogether(inReach(guess), grid, shortestS), offset);
};

/** What some notes of a repetition are heard to be, as far as pairing tells: nothing is measured or judged of it. */
export interface PairedNotes {
  notes: NoteResult[];
  extra: number;
  offsetS: number;
  /** True where another delay would do about as well. */
  ambiguous: boolean;
}

/**
 * Pairs what was heard with notes `from` up to but without `to` of a repetition, in a fraction of an analysis's time.
 *
 * @param offset where the constant offset is looked for
 */
export const pairNotes = (
  heard: readonly Onset[],
  { drill, plan, profile, latencyS }: Pick<AnalysisContext, 'drill' | 'plan' | 'profile' | 'latencyS'>,
  [from, to]: readonly [number, number],
  offset: OffsetGuess,
): PairedNotes => {
  const notes = plan.notes.slice(from, to);
  const shortestS = shortestIntervalMs(plan.notes) / 1000;
  const { alignment, onsets } = pairInReach(notes, heard, offset, { grid: drill.grid, shortestS });
  const results = noteResults(notes, onsets, alignment, (latencyS ?? 0) - profile.attackDelayMs / 1000);
  return { notes: results, extra: alignment.extra.length, offsetS: alignment.offsetS, ambiguous: alignment.ambiguous };
};

/** A repetition that broke off is measured as far as it went; the notes that were not played any more are neither missed nor judged. */
const analyseBrokenOff = (heard: readonly Onset[], context: AnalysisContext, at: number): AnalysedRepetition => {
  const { brokenOffAt: _, isByHand, ...rest } = context;
  const { drill, plan, gap, clickMasks = false, tolerance, latencyS } = rest;
  // Who plays at double the tempo is done half way.
  const whole = analyseRepetition(heard, rest);
  if (whole.measures.playedAs && whole.measures.playedAs.kind !== 'stumble') return whole;
  const next = plan.notes[at];
  const until = heard.filter(({ timeS }) => !next || timeS < next.timeS + offsetToTry(context).nearS);
  const part = analyseRepetition(until, { ...rest, plan: { notes: plan.notes.slice(0, at) } });
  const { playedAs: __, ...measured } = part.measures;
  const bar = barAt(barStarts(drill.grid), next?.beat ?? 0);
  const measures = {
    ...measured,
    brokenOff: { note: at, of: plan.notes.length, bar, ...(isByHand ? { byHand: isByHand } : {}) },
  };
  const unplayed = plan.notes
    .slice(at)
    .map(({ index, timeS }): NoteResult => ({ index, expectedS: timeS, onsetS: null, deviationMs: null, levelDb: null }));
  const verdict = verdictOf({
    notes: plan.notes,
    measures,
    tolerance,
    latencyS,
    judging: drill.judging,
    recording: gap ? 'gap' : clickMasks ? 'bleed' : null,
  });
  return { ...part, notes: [...part.notes, ...unplayed], measures, verdict };
};

/** What is so much softer than the notes of a repetition is no note of the one before it (our choice). */
const SOFTER_DB = 12;

/** What of a count-in's onsets was played for certain, beside all onsets: what a click may leave there is soft, and has no pitch. */
const surelyPlayed = (before: readonly Onset[], onsets: readonly Onset[], { hasPitch }: Profile): Onset[] => {
  const leastDb = median(onsets.map(({ levelDb }) => levelDb)) - SOFTER_DB;
  return before.filter((one) => isCertain(one) && (!hasPitch || one.pitch !== undefined) && one.levelDb >= leastDb);
};

/** How it was played where that was not as asked, over everything that was heard from the first click on. */
const playedOtherwise = (
  onsets: readonly Onset[],
  foundS: number,
  found: Pick<Measures, 'missed' | 'extra'>,
  context: AnalysisContext,
): PlayedAs | null => {
  const {
    drill: { grid },
    plan: { notes },
    profile,
    isCountInSpoilt = false,
  } = context;
  const { nearS } = offsetToTry(context);
  const [first] = notes;
  if (!first) return null;
  const fromS = first.timeS + Math.min(nearS, foundS) - Math.max(0.75 * first.intervalS, SETTLED_OFFSET_S);
  const isBefore = ({ timeS }: Onset) => timeS < fromS;
  const before = onsets.filter(isBefore);
  // What sound brings before the first note may be the click itself, unless it is known how that sounds.
  const played = !isHeard(profile) ? before : isCountInSpoilt ? surelyPlayed(before, onsets, profile) : [];
  const on = playedOn(played, found);
  const keyOf = pitchKeyIn(grid);
  const pitches = grid.events.map((event) => pitchesOf(event, grid).map(keyOf));
  const secondBar = barStarts(grid)[1]?.valueOf() ?? Number.POSITIVE_INFINITY;
  const since = onsets
    .filter((one) => !isBefore(one))
    .map((one) => (one.pitch === undefined ? one : { ...one, pitch: keyOf(one.pitch) }));
  return on ?? playedAsOf({ notes, onsets: since, nearS, foundS, secondBar, pitches });
};

/** Seconds a beat where a repetition begins; 0 for a single note. */
const beatLengthS = ([first, second]: readonly ExpectedNote[]): number =>
  first && second && second.beat > first.beat ? (second.timeS - first.timeS) / (second.beat - first.beat) : 0;

/** The onsets that can belong to a repetition, wherever in its reach the latency lies: from just before its first note to just after its last. */
const onsetsInReach = (
  onsets: readonly Onset[],
  plan: { notes: readonly ExpectedNote[] },
  { nearS, reachS }: OffsetGuess,
): Onset[] => {
  const first = plan.notes[0];
  const last = plan.notes.at(-1);
  if (!first || !last) return [];
  const from = first.timeS + nearS - Math.max(reachS, 0.75 * first.intervalS);
  const to = last.timeS + nearS + Math.max(reachS, Math.min(0.75 * last.intervalS, 0.5));
  return onsets.filter((onset) => onset.timeS >= from && onset.timeS <= to);
};
