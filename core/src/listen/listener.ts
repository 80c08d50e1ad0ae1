import { SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, analyseRepetition, offsetToTry } from '../measure/analyse-repetition';
import { countPlayed, firstUnplayed } from '../measure/broken-off';
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
import { type BarsBehind, watchBehind } from './bars-behind';
import { canBreakOff, completionOf, type HeardSoFar, isNotBegun } from './completion';
import type { Expectation } from './expectation';
import { offsetSoFar } from './offset-so-far';

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
  /**
   * Nothing more comes: what was played of the repetition is judged as far as it went. Null where none is listened for, or hardly a note was heard.
   * @param byHand whether the player ended the take there.
   */
  conclude(byHand: boolean): HeardRepetition | null;
  /** The repetition that nothing was played of until it is counted on; told once, and not listened for any more. Null where there is none. */
  notBegun(): number | null;
  /** What was heard of the bars that are over, once after each of them; null where there is nothing new, or the repetition is short. */
  behind(): BarsBehind | null;
  /** Sound went missing though its frames were counted on: the repetition that is being heard has a gap. */
  lost(): void;
  /** An onset that needs no detecting (a tap, a key of a MIDI instrument), in seconds on the audio clock. */
  tap(onset: Onset): void;
  /** The note of a pitch that was tapped last is let go. */
  release(pitch: number, timeS: number): void;
}

/** Clicks this close to the first note do not sound alone. */
const ALONE_S = 0.03;

interface Listening extends HeardSoFar {
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
  /** Whether it was looked whether anything was played until it would be counted on. */
  hasWaited: boolean;
  /** How late everything comes, and by how many notes that was told. */
  toldS: number | null;
  toldBy: number;
  /** Looks at what is behind. */
  lookBehind: ReturnType<typeof watchBehind>;
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

/** So far under the notes that were heard it is still, in dB (our choice). */
const STILL_DB = 25;

/** So far over what the clicks leave a note is, in dB, where it is asked whether anyone plays yet (our choice). */
const OVER_RESIDUE_DB = 6;

/** Whether a stretch of sound is about as loud as the notes that were heard. */
const isLoud = (samples: Float32Array, onsets: readonly Onset[]): boolean => {
  if (onsets.length === 0) return false;
  const peak = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return 20 * Math.log10(peak + 1e-9) > median(onsets.map(({ levelDb }) => levelDb)) - STILL_DB;
};

const byTime = (a: Onset, b: Onset) => a.timeS - b.timeS;

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
  let notBegun: number | null = null;
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
      hasWaited: false,
      toldS: null,
      toldBy: -1,
      lookBehind: watchBehind(expectation),
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
      const { isCountedOn = false } = state.expectation;
      state.isCountInSpoilt = !isCountedOn && known !== null && isSpoilt(countIn, alone, { learnt, known }, sampleRateHz);
      state.path = ((isCountedOn || state.isCountInSpoilt) && known) || learnt;
      state.residueDb = isCountedOn && known ? known.residueDb : learnt.residueDb;
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

  /** What is heard beyond what the clicks leave: notes, where anyone plays. */
  const beyondResidue = ({ expectation, onsets, residueDb, soundedS }: Listening): HeardSoFar => {
    const notes = residueDb === null ? onsets : onsets.filter(({ levelDb }) => levelDb > residueDb + OVER_RESIDUE_DB);
    // As loud as a residue is not as loud as notes.
    return { expectation, onsets: notes, soundedS: notes.length > 0 ? soundedS : Number.NEGATIVE_INFINITY };
  };

  /** How late everything comes; worked out once for as many notes. */
  const offsetOf = (state: Listening): number | null => {
    if (state.toldBy !== state.onsets.length) {
      state.toldBy = state.onsets.length;
      state.toldS = offsetSoFar(state.expectation, aboveResidue(state.residueDb, [...state.onsets].sort(byTime)));
    }
    return state.toldS;
  };

  /** A count-in that was well heard tells how the click sounds, for those that are not. */
  const keepPath = (state: Listening) => {
    if (!state.isCountInSpoilt) knownPath = state.path;
  };

  const heardOf = (state: Listening, brokenOffAt: number | null, isByHand = false): HeardRepetition => {
    state.ear?.hear(state.onsets, true);
    const { residueDb } = state;
    const all = [...state.onsets].sort(byTime);
    const clickMasks = residueMasks(residueDb, all);
    const onsets = clickMasks ? all : aboveResidue(residueDb, all);
    if (!clickMasks) keepPath(state);
    const heardIn = {
      gap: state.gap,
      clickMasks,
      isCountInSpoilt: state.isCountInSpoilt,
      ...(brokenOffAt === null ? {} : { brokenOffAt }),
      ...(isByHand ? { isByHand } : {}),
    };
    const { expectation } = state;
    // Who broke off was told by their own notes how late everything comes, where that was not known.
    const told = brokenOffAt === null || expectation.latencyS !== null ? null : offsetOf(state);
    const offset = told === null ? expectation.offset : { ...expectation.offset, nearS: told, reachS: SETTLED_OFFSET_S };
    const analysed = analyseRepetition(onsets, { ...expectation, offset, ...heardIn });
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
      const nowS = nextFrame / sampleRateHz;
      if (!state.hasWaited && nowS >= (state.expectation.waitUntilS ?? Number.POSITIVE_INFINITY)) {
        state.hasWaited = true;
        if (isNotBegun(beyondResidue(state), nowS)) {
          keepPath(state);
          notBegun = state.expectation.repetition;
          listening = null;
          return null;
        }
      }
      const { isOver, brokenOffAt } = completionOf({ ...state, offsetS: () => offsetOf(state) }, nowS);
      if (!isOver) return null;
      listening = null;
      return heardOf(state, brokenOffAt);
    },
    conclude(byHand) {
      const state = listening;
      listening = null;
      if (!state) return null;
      const { plan, drill } = state.expectation;
      const { nearS } = offsetToTry(state.expectation);
      const heardS = state.onsets.map(({ timeS }) => timeS).sort((a, b) => a - b);
      // Of what is stopped by hand everything is kept; by itself nothing of this breaks off.
      if (!byHand && !canBreakOff(drill)) return null;
      const at = (drill.judging.ownTempo ? countPlayed : firstUnplayed)(plan.notes, heardS, nearS);
      if (at === null) return null;
      return at === plan.notes.length ? heardOf(state, null) : heardOf(state, at, byHand);
    },
    notBegun() {
      const told = notBegun;
      notBegun = null;
      return told;
    },
    behind() {
      if (!listening || nextFrame === null) return null;
      const { lookBehind, onsets, residueDb } = listening;
      return lookBehind(nextFrame / sampleRateHz, () => aboveResidue(residueDb, [...onsets].sort(byTime)));
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
