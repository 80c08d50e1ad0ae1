import { SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, type AnalysisContext, analyseRepetition, offsetToTry } from '../measure/analyse-repetition';
import type { Onset } from '../schema/measures';
import { type ClickPath, learnClickPath, type ScheduledClick, subtractClicks } from '../signal/click-removal';
import { countClipped } from '../signal/clipping';
import { createOnsetDetector, type OnsetDetector } from '../signal/detect-onsets';
import { findDropouts } from '../signal/dropout';
import { clickFrame } from '../time/click';

/** A repetition to listen for. Times are seconds on the audio clock. */
export type Expectation = Omit<AnalysisContext, 'gap'> & {
  repetition: number;
  /** False for inputs that cannot hear the click: nothing is learnt or subtracted. */
  hearsClicks: boolean;
};

/** The outcome of one repetition. */
export interface Heard {
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
  push(block: Float32Array, frame: number): Heard | null;
  /** An onset that needs no detecting (a tap), in seconds on the audio clock. */
  tap(onset: Onset): void;
}

/** A missing last note is waited for this long beyond what the latency may still add. */
const LAST_NOTE_REACH_S = 0.1;
/** After the last note's gridline, so that a doubled note is still seen. */
const SETTLE_S = 0.06;
/** Clicks this close to the first note do not sound alone. */
const ALONE_S = 0.03;

interface Listening {
  expectation: Expectation;
  clicks: ScheduledClick[];
  detector: OnsetDetector;
  /** Frame of the detector's first sample. */
  startFrame: number;
  path: ClickPath | null;
  countIn: Float32Array[];
  onsets: Onset[];
  gap: boolean;
  clipped: number;
}

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
  let lastBlock = new Float32Array(0);

  const toAudioClock = (state: Listening, onsets: Onset[]): Onset[] =>
    onsets.map((onset) => ({ ...onset, timeS: onset.timeS + state.startFrame / sampleRateHz }));

  const hear = (state: Listening, block: Float32Array, frame: number) => {
    const { plan } = state.expectation;
    const firstNote = clickFrame((plan.notes[0]?.timeS ?? plan.downbeatS) - ALONE_S, sampleRateHz);
    if (state.path === null) {
      state.countIn.push(block);
      if (frame + block.length < firstNote) return;
      const countIn = joined(state.countIn);
      const alone = state.clicks
        .filter((click) => click.frame < firstNote - ALONE_S * sampleRateHz)
        .map((click) => ({ ...click, frame: click.frame - state.startFrame }));
      state.path = state.expectation.hearsClicks
        ? learnClickPath(countIn, alone, sampleRateHz, firstNote - state.startFrame)
        : { templates: new Map() };
      state.countIn = [];
      subtractClicks(countIn, state.startFrame, state.clicks, state.path);
      state.onsets.push(...toAudioClock(state, state.detector.push(countIn)));
      return;
    }
    const cleaned = Float32Array.from(block);
    subtractClicks(cleaned, frame, state.clicks, state.path);
    state.onsets.push(...toAudioClock(state, state.detector.push(cleaned)));
  };

  /** Whether enough was heard, at `nowS`, to judge the repetition. */
  const isComplete = ({ expectation, onsets }: Listening, nowS: number): boolean => {
    const last = expectation.plan.notes.at(-1);
    if (!last) return true;
    const { nearS, reachS } = offsetToTry(expectation);
    const dueS = last.timeS + nearS;
    // While the latency is unknown, what looks like the last note may be the one before it.
    const isLast = (onset: Onset) => reachS <= SETTLED_OFFSET_S && Math.abs(onset.timeS - dueS) < last.intervalS / 2;
    return nowS >= dueS + (onsets.some(isLast) ? SETTLE_S : reachS + LAST_NOTE_REACH_S);
  };

  return {
    expect(expectation) {
      const { plan } = expectation;
      listening = {
        expectation,
        clicks: plan.clicks.map((click) => ({ frame: clickFrame(click.timeS, sampleRateHz), kind: click.kind })),
        detector: createOnsetDetector(sampleRateHz),
        startFrame: -1,
        path: null,
        countIn: [],
        onsets: [],
        gap: false,
        clipped: 0,
      };
    },
    cancel() {
      listening = null;
    },
    push(block, frame) {
      const lost = nextFrame !== null && frame !== nextFrame;
      nextFrame = frame + block.length;
      const state = listening;
      if (!state) return null;
      if (state.startFrame < 0) {
        state.startFrame = frame;
        lastBlock = new Float32Array(0);
      }
      const { plan } = state.expectation;
      const firstNoteFrame = clickFrame(plan.notes[0]?.timeS ?? plan.downbeatS, sampleRateHz);
      if (frame + block.length > firstNoteFrame) {
        if (lost || findDropouts(joined([lastBlock, block])).length > 0) state.gap = true;
        state.clipped += countClipped(block);
      }
      lastBlock = Float32Array.from(block);
      hear(state, block, frame);
      if (!isComplete(state, nextFrame / sampleRateHz)) return null;
      listening = null;
      return {
        repetition: state.expectation.repetition,
        analysed: analyseRepetition(
          [...state.onsets].sort((a, b) => a.timeS - b.timeS),
          { ...state.expectation, gap: state.gap },
        ),
        clipped: state.clipped,
      };
    },
    tap(onset) {
      listening?.onsets.push(onset);
    },
  };
};
