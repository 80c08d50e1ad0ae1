import { MAX_OFFSET_S, SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, type AnalysisContext, analyseRepetition, offsetToTry } from '../measure/analyse-repetition';
import { brokenOffAt, SILENT_BEATS, SILENT_S } from '../measure/broken-off';
import { pitchSequence } from '../rhythm/grid-shape';
import type { Onset } from '../schema/measures';
import { aboveResidue, residueMasks } from '../signal/click-onsets';
import {
  type ClickPath,
  isSpoilt,
  learnClickPath,
  NO_CLICK_PATH,
  type ScheduledClick,
  subtractClicks,
} from '../signal/click-removal';
import { countClipped } from '../signal/clipping';
import { createOnsetDetector, type DetectorOptions, type OnsetDetector } from '../signal/detect-onsets';
import { createAttackReader } from '../signal/double-attack';
import { createDropoutWatch } from '../signal/dropout';
import { gridPrior } from '../signal/grid-prior';
import { createNoteOnsetModel, type NoteOnsetModel } from '../signal/onset-model/note-onset-model';

import { isHeard } from '../signal/profiles';
import { createPulseDetector } from '../signal/pulses';
import { median } from '../stats/summary';
import { clickFrame } from '../time/click';
import { isRising } from '../time/drill-tempo';
import type { ExpectedNote, RepetitionPlan } from '../time/repetition-plan';
import { openTempo } from '../time/tempo-map';

/** A repetition to listen for. Times are seconds on the audio clock. */
export type Expectation = Omit<AnalysisContext, 'gap' | 'clickMasks' | 'plan'> & {
  plan: RepetitionPlan;
  repetition: number;
  /** False for inputs that cannot hear the click: nothing is learnt or subtracted. */
  hearsClicks: boolean;
};

/** The outcome of one repetition. */
export interface HeardRepetition {
  repetition: number;
  analysed: AnalysedRepetition;
  clipped: number;
}

/** Listens to a take: fed with captured blocks, answers with each repetition as soon as its last note is certain. */
export interface Listener {
  expect(expectation: Expectation): void;
  /** Forget the repetition that is being waited for. */
  cancel(): void;
  /** Captured samples whose first sample is frame `frame` of the audio clock. */
  push(block: Float32Array, frame: number): HeardRepetition | null;
  /** Sound went missing though its frames were counted on: the repetition that is being heard has a gap. */
  lost(): void;
  /** An onset that needs no detecting (a tap, a key of a MIDI instrument), in seconds on the audio clock. */
  tap(onset: Onset): void;
  /** The note of a pitch that was tapped last is let go. */
  release(pitch: number, timeS: number): void;
}

/** A missing last note is waited for this long beyond what the latency may still add. */
const LAST_NOTE_REACH_S = 0.1;
/** After the last note's gridline, so that a doubled note is still seen. */
const SETTLE_S = 0.06;
/** Where the last note is held, one that comes a step later is still heard: then one note was played too many. */
const LANDING_S = 0.2;
const settleS = ({ notes, endS }: Pick<RepetitionPlan, 'notes' | 'endS'>): number => {
  const last = notes.at(-1);
  if (!last || endS - last.timeS < 2 * last.intervalS) return SETTLE_S;
  return Math.max(SETTLE_S, Math.min(LANDING_S, 1.15 * last.intervalS));
};
/** Clicks this close to the first note do not sound alone. */
const ALONE_S = 0.03;

interface Listening {
  expectation: Expectation;
  clicks: ScheduledClick[];
  detector: OnsetDetector;
  /** Frame of the detector's first sample. */
  startFrame: number;
  path: ClickPath | null;
  /** What this count-in's clicks leave, whichever path takes them out. */
  residueDb: number | null;
  /** Whether something sounded in the count-in that was no click: an earlier repetition tells how the click sounds. */
  isCountInSpoilt: boolean;
  countIn: Float32Array[];
  /** Hears how notes go on in the sound with its clicks taken out; null where no notes are listened for. */
  ear: NoteOnsetModel | null;
  onsets: Onset[];
  gap: boolean;
  clipped: number;
  /** The first note that was not played any more; null while the playing goes on. */
  brokenOffAt: number | null;
  /** When the sound was last about as loud as notes, in seconds; it never is where notes come as data. */
  soundedS: number;
}

/** What listens for a drill: for the beginnings of notes, of claps, or for waves of pitch. */
const detectorFor = (
  { drill, profile }: Expectation,
  sampleRateHz: number,
  known: Pick<DetectorOptions, 'prior' | 'attacks'>,
): OnsetDetector =>
  drill.listen === 'pulses'
    ? createPulseDetector(sampleRateHz)
    : createOnsetDetector(sampleRateHz, {
        family: drill.listen === 'claps' ? null : profile.family,
        ...known,
        score: profile.hasPitch && !drill.listen ? pitchSequence(drill.grid) : undefined,
      });

/** Silence after notes at a tempo of the player's own: then what was played is over. */
const OWN_TEMPO_SILENCE_S = 0.9;
/** It may be so many times as slow as asked. */
const SLOWER = 2.2;

/** Whether notes at a tempo of one's own are over: all were heard, or nothing followed for a while. */
const isOwnTempoComplete = (notes: readonly ExpectedNote[], onsets: readonly Onset[], nowS: number): boolean => {
  const [first] = notes;
  const last = notes.at(-1);
  if (!first || !last) return true;
  const heardS = onsets.filter(({ timeS }) => timeS > first.timeS - 1).map(({ timeS }) => timeS);
  const latest = Math.max(first.timeS, ...heardS);
  // By how many were heard, the note that sounds now: it may be a long one, and played slowly.
  const sounding = notes.slice(Math.max(0, heardS.length - 2), heardS.length + 1);
  const longestS = Math.max(...sounding.map(({ intervalS }) => intervalS), 0);
  const quietS = Math.max(OWN_TEMPO_SILENCE_S, SLOWER * longestS);
  if (heardS.length === 0) return nowS > last.timeS + quietS;
  return nowS - latest > (heardS.length >= notes.length ? OWN_TEMPO_SILENCE_S / 2 : quietS);
};

/** A sweep is over where nothing follows for as long as ends any repetition: who stops has found the break. */
const isBrokenOff = ({ tempo, downbeatS, notes }: RepetitionPlan, onsets: readonly Onset[], nowS: number): boolean => {
  const [first] = notes;
  const heardS = onsets.filter(({ timeS }) => first && timeS > first.timeS - first.intervalS / 2).map(({ timeS }) => timeS);
  const latestS = heardS.at(-1);
  if (latestS === undefined || heardS.length < 2) return false;
  const map = openTempo(tempo);
  const beatS = 60 / map.tempoAt(Math.max(0, map.beatOf(latestS - downbeatS)));
  const longestS = Math.max(...notes.map(({ intervalS }) => intervalS));
  return nowS - latestS > Math.max(SILENT_S, SILENT_BEATS * beatS, 2 * longestS);
};

/** Whether silence on the way ends a repetition: not where the tempo is the player's own, or something else than notes is listened for. */
const canBreakOff = ({ judging, listen, tempo }: Expectation['drill']): boolean =>
  !judging.ownTempo && !listen && !isRising(tempo);

/** So far under the notes that were heard it is still, in dB, and so long, in seconds (our choice). */
const STILL_DB = 25;
const STILL_S = 1;

/** Whether a stretch of sound is about as loud as the notes that were heard. */
const isLoud = (samples: Float32Array, onsets: readonly Onset[]): boolean => {
  if (onsets.length === 0) return false;
  const peak = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return 20 * Math.log10(peak + 1e-9) > median(onsets.map(({ levelDb }) => levelDb)) - STILL_DB;
};

const joined = (blocks: readonly Float32Array[]): Float32Array => {
  const whole = new Float32Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    whole.set(block, at);
    at += block.length;
  }
  return whole;
};

/** Makes a {@link Listener} at the capture's sample rate. */
export const createListener = (sampleRateHz: number): Listener => {
  let listening: Listening | null = null;
  let nextFrame: number | null = null;
  let dropoutsIn = createDropoutWatch();
  /** How the click sounded in the last repetition whose count-in told it well. */
  let knownPath: ClickPath | null = null;
  // What attacks look like is learnt once for all repetitions.
  const attacks = createAttackReader(sampleRateHz);

  const begin = (expectation: Expectation, startFrame: number): Listening => {
    const { plan, profile, drill } = expectation;
    const { nearS, reachS } = offsetToTry(expectation);
    const startS = startFrame / sampleRateHz;
    // The grid helps only once the latency was seen.
    const prior =
      reachS <= SETTLED_OFFSET_S && !drill.judging.ownTempo
        ? gridPrior(plan.notes.map((note) => note.timeS + nearS - startS))
        : undefined;
    return {
      expectation,
      clicks: plan.clicks.map((click) => ({ frame: clickFrame(click.timeS, sampleRateHz), kind: click.kind })),
      detector: detectorFor(expectation, sampleRateHz, { prior, attacks }),
      startFrame,
      path: null,
      residueDb: null,
      isCountInSpoilt: false,
      countIn: [],
      ear: isHeard(profile) && !drill.listen ? createNoteOnsetModel(sampleRateHz, startFrame, profile.hasPitch) : null,
      onsets: [],
      gap: false,
      clipped: 0,
      brokenOffAt: null,
      soundedS: Number.NEGATIVE_INFINITY,
    };
  };

  const detect = (state: Listening, cleaned: Float32Array) => {
    const found = state.detector.push(cleaned);
    state.onsets.push(...found.map((onset) => ({ ...onset, timeS: onset.timeS + state.startFrame / sampleRateHz })));
    state.ear?.append(cleaned);
    state.ear?.hear(state.onsets, false);
  };

  const hear = (state: Listening, block: Float32Array, frame: number) => {
    const { plan, hearsClicks } = state.expectation;
    const firstNote = clickFrame((plan.notes[0]?.timeS ?? plan.downbeatS) - ALONE_S, sampleRateHz);
    if (state.path === null) {
      state.countIn.push(block);
      if (frame + block.length < firstNote) return;
      const countIn = joined(state.countIn);
      const alone = state.clicks
        .filter((click) => click.frame < firstNote - ALONE_S * sampleRateHz)
        .map((click) => ({ ...click, frame: click.frame - state.startFrame }));
      const learnt = hearsClicks ? learnClickPath(countIn, alone, sampleRateHz, firstNote - state.startFrame) : NO_CLICK_PATH;
      const known = knownPath;
      state.isCountInSpoilt = known !== null && isSpoilt(countIn, alone, { learnt, known }, sampleRateHz);
      state.path = (state.isCountInSpoilt && known) || learnt;
      state.residueDb = learnt.residueDb;
      state.countIn = [];
      subtractClicks(countIn, state.startFrame, state.clicks, state.path);
      detect(state, countIn);
      return;
    }
    const cleaned = Float32Array.from(block);
    subtractClicks(cleaned, frame, state.clicks, state.path);
    detect(state, cleaned);
    if (state.ear && isLoud(cleaned, state.onsets)) state.soundedS = (frame + block.length) / sampleRateHz;
  };

  /** Whether enough was heard, at `nowS`, to judge the repetition. */
  const isComplete = (state: Listening, nowS: number): boolean => {
    const { expectation, onsets } = state;
    const last = expectation.plan.notes.at(-1);
    if (!last) return true;
    const { nearS, reachS, farS } = offsetToTry(expectation);
    if (isRising(expectation.drill.tempo) && isBrokenOff(expectation.plan, onsets, nowS)) return true;
    if (expectation.drill.judging.ownTempo) return isOwnTempoComplete(expectation.plan.notes, onsets, nowS);
    // At the very end nothing is left to break off: the last note is waited for as ever.
    // Nor is it over while it sounds on: notes that ring into each other may not be heard to begin.
    const isStill = nowS - state.soundedS >= STILL_S;
    if (isStill && reachS <= SETTLED_OFFSET_S && canBreakOff(expectation.drill))
      state.brokenOffAt = brokenOffAt(
        expectation.plan.notes,
        onsets.map(({ timeS }) => timeS).sort((a, b) => a - b),
        nowS,
        nearS,
      );
    if (state.brokenOffAt !== null) return true;
    const dueS = last.timeS + nearS;
    // A repetition whose first note is not at its place may be a shifted one: its last note comes later, or came earlier.
    const first = expectation.plan.notes[0] as ExpectedNote;
    const begins = onsets.some((onset) => Math.abs(onset.timeS - first.timeS - nearS) < first.intervalS / 2);
    if (!begins) return nowS >= dueS + Math.max(reachS, Math.min(farS ?? reachS, MAX_OFFSET_S)) + LAST_NOTE_REACH_S;
    // While the latency is unknown, what looks like the last note may be the one before it; so may what lies far from its place.
    const isLast = (onset: Onset) =>
      reachS <= SETTLED_OFFSET_S && Math.abs(onset.timeS - dueS) < Math.min(last.intervalS / 2, SETTLED_OFFSET_S);
    const missingS = Math.max(reachS, Math.min(last.intervalS / 2, MAX_OFFSET_S)) + LAST_NOTE_REACH_S;
    return nowS >= dueS + (onsets.some(isLast) ? settleS(expectation.plan) : missingS);
  };

  const conclude = (state: Listening): HeardRepetition => {
    state.ear?.hear(state.onsets, true);
    const { residueDb } = state;
    const all = [...state.onsets].sort((a, b) => a.timeS - b.timeS);
    const clickMasks = residueMasks(residueDb, all);
    const onsets = clickMasks ? all : aboveResidue(residueDb, all);
    if (!clickMasks && !state.isCountInSpoilt) knownPath = state.path;
    const heardIn = {
      gap: state.gap,
      clickMasks,
      isCountInSpoilt: state.isCountInSpoilt,
      ...(state.brokenOffAt === null ? {} : { brokenOffAt: state.brokenOffAt }),
    };
    const analysed = analyseRepetition(onsets, { ...state.expectation, ...heardIn });
    return { repetition: state.expectation.repetition, analysed, clipped: state.clipped };
  };

  let expected: Expectation | null = null;
  /** Taps that come before the first block of a repetition was captured. */
  let early: Onset[] = [];
  return {
    expect(expectation) {
      expected = expectation;
      listening = null;
      early = [];
    },
    cancel() {
      expected = null;
      listening = null;
    },
    push(block, frame) {
      const lost = nextFrame !== null && frame !== nextFrame;
      nextFrame = frame + block.length;
      if (expected) {
        listening = begin(expected, frame);
        listening.onsets.push(...early);
        expected = null;
        dropoutsIn = createDropoutWatch();
      }
      const state = listening;
      if (!state) return null;
      const { plan } = state.expectation;
      const broken = dropoutsIn(block).length > 0;
      if (nextFrame > clickFrame(plan.notes[0]?.timeS ?? plan.downbeatS, sampleRateHz)) {
        if (lost || broken) state.gap = true;
        state.clipped += countClipped(block);
      }
      hear(state, block, frame);
      if (!isComplete(state, nextFrame / sampleRateHz)) return null;
      listening = null;
      return conclude(state);
    },
    lost() {
      if (listening) listening.gap = true;
    },
    tap(onset) {
      (listening?.onsets ?? early).push(onset);
    },
    release(pitch, timeS) {
      const onsets = listening?.onsets ?? early;
      const at = onsets.findLastIndex((onset) => onset.pitch === pitch && onset.offS === undefined);
      const onset = onsets[at];
      if (onset && timeS > onset.timeS) onsets[at] = { ...onset, offS: timeS };
    },
  };
};
