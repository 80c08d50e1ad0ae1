import type { AnalysedRepetition } from '../measure/analyse-repetition';
import { sameGrid } from '../rhythm/grid-shape';
import { cutBars, cutGrid } from '../rhythm/reshape/cut';
import type { Drill } from '../schema/grid';
import type { BrokenOff, Measures } from '../schema/measures';
import { makeReason } from '../schema/reason';
import type { AfterBreak } from '../schema/settings';
import type { Decision } from '../schema/take';
import { headlineBpm } from '../time/tempo-map';
import type { LoopState } from './loop-state';
import { MAX_DRILLS } from './strategy-drills';

/** The same place is played again so often before it is begun from the beginning (our choice). */
const MAX_RETAKES = 3;
/** Fewer notes are not worth a repetition of their own. */
const MIN_NOTES = 2;

/**
 * What is played after a repetition that broke off: from a bar before the break to the end, or the bar in which it broke alone. Null where it is
 * begun from the beginning: because the player wants that, because the break lies in the first bars, or because the drill cannot be cut.
 */
export const retakeOf = (drill: Drill, { bar }: Pick<BrokenOff, 'bar'>, how: AfterBreak): Drill | null => {
  const { tempo, playAlong, listen, judging, grid } = drill;
  if (how === 'beginning' || tempo || playAlong || listen || judging.ownTempo) return null;
  const from = how === 'bar' ? bar - 1 : bar - 2;
  const to = how === 'bar' ? bar : grid.bars;
  if (from <= 0 && to >= grid.bars) return null;
  const span = cutBars(grid, Math.max(0, from), to);
  if (!span || span.to - span.from < MIN_NOTES || span.to - span.from >= grid.events.length) return null;
  const { until: _, notches: __, ...rest } = drill;
  return { ...rest, grid: cutGrid(grid, span.from, span.to), repetitionKind: 'retake' };
};

/** Where a repetition that broke off is taken up: with the drill for that among the others, in a state that plays it next. */
export const withRetake = (state: LoopState, drill: Drill, { brokenOff }: Pick<Measures, 'brokenOff'>): LoopState => {
  const cut = brokenOff ? retakeOf(drill, brokenOff, state.target.afterBreak ?? 'beginning') : null;
  if (!cut) return { ...state, retake: null };
  const known = state.drills.findIndex((one) => one.repetitionKind === 'retake' && sameGrid(one.grid, cut.grid));
  if (known < 0 && state.drills.length >= MAX_DRILLS) return { ...state, retake: null };
  const drills = known < 0 ? [...state.drills, cut] : state.drills;
  return { ...state, drills, retake: { drill: known < 0 ? state.drills.length : known, left: MAX_RETAKES } };
};

/** After a place that was taken up again: from the beginning once it holds, or was enough for now; the tempo stays. */
export const afterRetake = (
  state: LoopState,
  { verdict, measures }: AnalysedRepetition,
): { state: LoopState; decision: Decision } => {
  const bpm = headlineBpm(state.tempo);
  const isClean = verdict.outcome === 'clean';
  const left = (state.retake?.left ?? 1) - (verdict.outcome === 'not-judged' ? 0 : 1);
  const isOver = isClean || left <= 0;
  const why = isClean ? 'retake-clean' : isOver ? 'retake-enough' : 'retake-again';
  const deeper = measures.brokenOff && state.drill ? withRetake(state, state.drill, measures).retake : null;
  const retake = isOver || !state.retake ? null : { drill: deeper?.drill ?? state.retake.drill, left };
  return {
    state: { ...state, retake },
    decision: { action: 'hold', tempo: state.tempo, why: makeReason(why, { bpm }), overruled: false },
  };
};
