import { MAX_OFFSET_S, SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, storedFigures } from '../measure/analyse-repetition';
import { shiftNote, shiftOnset } from '../measure/shift-times';
import type { Decision, Repetition } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import type { RepetitionOutcome } from '../strategies/strategy';
import { clampBpm } from '../time/clamp-tempo';
import { countInS, type RepetitionPlan } from '../time/repetition-plan';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import type { LoopState } from './loop-state';

/** The tempo by which a repetition is named: the one that was asked for, or the player's own where none was clicked. */
const playedBpm = (asked: TempoMapDocument, { ownScale = 1 }: AnalysedRepetition): number =>
  clampBpm(Math.round((10 * headlineBpm(asked)) / ownScale) / 10);

/** Whether two tempo maps are the same. */
export const sameTempo = (a: TempoMapDocument, b: TempoMapDocument) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Where the latency is looked for after a repetition that held together. One that lies far from the guess may be an entry that came
 * late, or a latency that jumped: it is believed once a second repetition says the same.
 */
export const offsetAfter = (
  { offset, strangeOffsetS }: LoopState,
  { verdict, offsetS }: AnalysedRepetition,
): Pick<LoopState, 'offset' | 'strangeOffsetS'> => {
  if (verdict.outcome === 'not-judged' || verdict.outcome === 'broken') return { offset, strangeOffsetS };
  const isNear = (otherS: number | null) => otherS !== null && Math.abs(offsetS - otherS) <= SETTLED_OFFSET_S;
  return isNear(offset.nearS) || isNear(strangeOffsetS)
    ? { offset: { nearS: offsetS, reachS: SETTLED_OFFSET_S }, strangeOffsetS: null }
    : { offset, strangeOffsetS: offsetS };
};

/** A latency may jump, and a player come in wrong, by so much at a tempo, in seconds. */
export const farS = (tempo: TempoMapDocument): number => Math.max(MAX_OFFSET_S, 60 / headlineBpm(tempo)) + SETTLED_OFFSET_S;

/** The repetition as it is stored: times count from the start of the recording. */
export const toStored = (
  state: LoopState,
  plan: RepetitionPlan,
  analysed: AnalysedRepetition,
  decision: Decision,
): Repetition => {
  const zero = state.recordingStartS;
  return {
    index: state.repetitions.length,
    drill: state.drill ? state.drills.indexOf(state.drill) : state.drillIndex,
    tempo: analysed.ownScale ? constantTempo(playedBpm(state.tempo, analysed)) : plan.tempo,
    ...(analysed.ownScale || sameTempo(plan.tempo, state.tempo) ? {} : { askedBpm: headlineBpm(state.tempo) }),
    downbeatS: plan.downbeatS - zero,
    ...storedFigures(analysed),
    notes: analysed.notes.map((note) => shiftNote(note, -zero)),
    extras: analysed.extras.map((onset) => shiftOnset(onset, -zero)),
    ease: null,
    decision,
  };
};

/** What the strategy is told of a repetition. */
export const playedOf = (state: LoopState, plan: RepetitionPlan, analysed: AnalysedRepetition): RepetitionOutcome => {
  const { measures, verdict } = analysed;
  const told = {
    tempo: plan.tempo,
    verdict,
    toleranceUsage: measures.toleranceUsage ?? null,
    ease: 'working' as const,
    notes: plan.notes.length,
  };
  const ownBpm = playedBpm(state.tempo, analysed);
  const repetitionKind = state.drill?.repetitionKind;
  // A burst has a tempo of its own, a sweep many: the strategy stands at the one that was asked for.
  return repetitionKind
    ? {
        ...told,
        repetitionKind,
        bpm: headlineBpm(state.tempo),
        ownBpm,
        breakBpm: measures.breakBpm?.value ?? null,
        wentFirst: measures.wentFirst ?? [],
      }
    : { ...told, bpm: ownBpm };
};

/** How long the player rests after a repetition, in bars as they are counted in. */
export const restS = ({ target, drill }: LoopState, { tempo }: RepetitionPlan): number =>
  drill && target.restBars ? countInS({ ...drill, click: { ...drill.click, countInBars: target.restBars } }, tempo) : 0;
