import { bisectRight } from 'd3-array';
import type { OffsetGuess } from '../align/align';
import type { Drill } from '../schema/grid';
import type { Onset } from '../schema/measures';
import { makeReason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import type { Tolerance } from '../schema/tolerance';
import type { Profile } from '../signal/profiles';
import { median } from '../stats/summary';
import { clampBpm } from '../time/clamp-tempo';
import { expectedNotes, shortestIntervalMs } from '../time/repetition-plan';
import { constantTempo, openTempo } from '../time/tempo-map';
import { analyseRepetition, storedFigures } from './analyse-repetition';

/** A repetition in a file has at least this share of its notes; less is tuning up or talk. */
const MIN_SHARE = 0.5;

/** The next repetition begins at least this long after the last note. */
const AFTER_S = 0.1;

/** What a file is measured against. */
export interface ImportPlan {
  drill: Drill;
  tempo: TempoMapDocument;
  tolerance: Tolerance;
  profile: Profile;
}

/** Where nothing began at one onset, nothing begins so close after it either. */
const SAME_START_S = 0.005;

/** The repetition that begins with the onset of a time, or null where too few notes follow. Later onsets may be among them. */
const repetitionFrom = (onsets: readonly Onset[], firstS: number, index: number, plan: ImportPlan): Repetition | null => {
  const { drill, tempo, tolerance, profile } = plan;
  const beatS = 60 / openTempo(tempo).tempoAt(0);
  const fromDownbeat = expectedNotes(drill.grid, tempo, 0);
  const shortestS = shortestIntervalMs(fromDownbeat) / 1000;
  let downbeatS = firstS - (fromDownbeat[0]?.timeS ?? 0);
  // The first note may itself be early or late: once the others are known, the grid is laid through their middle.
  for (let pass = 0; ; pass += 1) {
    const notes = expectedNotes(drill.grid, tempo, downbeatS);
    const offset: OffsetGuess = { nearS: 0, reachS: 0.45 * shortestS };
    const analysed = analyseRepetition(onsets, {
      drill,
      plan: { notes },
      profile,
      tolerance,
      latencyS: null,
      offset,
      gap: false,
    });
    const heard = analysed.notes.filter((note) => note.onsetS !== null);
    if (heard.length < MIN_SHARE * notes.length) return null;
    const middleS = median(heard.map((note) => (note.onsetS as number) - note.expectedS));
    if (pass === 1) {
      return {
        index,
        drill: 0,
        tempo,
        downbeatS,
        ...storedFigures(analysed),
        ease: null,
        decision: { action: 'hold', tempo, why: makeReason('from-file'), overruled: false },
      };
    }
    downbeatS += Math.abs(middleS) < 0.45 * beatS ? middleS : 0;
  }
};

/** Without a click the stated tempo is a guess: so far from it is looked, as a share, in steps of half a per cent. */
const TEMPO_REACH = 0.08;
const TEMPO_STEP = 0.005;

/** The tempos around a stated one, in beats a minute to two decimals, ascending. */
const temposNear = (statedBpm: number): number[] => {
  const steps = Math.round(TEMPO_REACH / TEMPO_STEP);
  return Array.from({ length: 2 * steps + 1 }, (_, k) => k - steps)
    .filter((step) => step !== 0)
    .map((step) => Math.round(clampBpm(statedBpm * (1 + step * TEMPO_STEP)) * 100) / 100);
};

/** How well a tempo explains a file: the notes it finds a place for, and how near they lie to it. */
const explained = (repetitions: readonly Repetition[]): number =>
  repetitions.reduce((sum, { notes, measures }) => {
    const heard = notes.length - measures.missed;
    return sum + heard - measures.extra - (heard * Math.min(2, measures.toleranceUsage ?? 2)) / 4;
  }, 0);

/**
 * Finds the repetitions of a drill at a tempo in the onsets of a file, one after the other, whatever lies between them.
 * The file has no click to be early or late against, so each repetition's grid lies through the middle of its notes and its
 * placement says nothing. Where the player had no click either, the tempo is estimated first, near the stated one. Onsets ascend in
 * time.
 */
export const measureImport = (onsets: readonly Onset[], plan: ImportPlan): Repetition[] => {
  const { drill, tempo } = plan;
  if (drill.click.kind !== 'none' || tempo.kind !== 'constant') return repetitionsAt(onsets, plan);
  const tempos = temposNear(tempo.bpm).map(constantTempo);
  // The stated tempo is tried first: another must explain more.
  const tried = [tempo, ...tempos].map((one) => repetitionsAt(onsets, { ...plan, tempo: one }));
  return tried.reduce((best, one) => (explained(one) > explained(best) ? one : best));
};

/** The repetitions at one tempo. */
const repetitionsAt = (onsets: readonly Onset[], plan: ImportPlan): Repetition[] => {
  const times = onsets.map((onset) => onset.timeS);
  const fromDownbeat = expectedNotes(plan.drill.grid, plan.tempo, 0);
  const last = fromDownbeat.at(-1);
  // A repetition's grid moves by less than a beat against its first onset.
  const reachS =
    (last ? last.timeS + last.intervalS : 0) - (fromDownbeat[0]?.timeS ?? 0) + 60 / openTempo(plan.tempo).tempoAt(0);
  const repetitions: Repetition[] = [];
  for (let k = 0; k < onsets.length; ) {
    const firstS = times[k] as number;
    const ahead = onsets.slice(k, bisectRight(times, firstS + reachS));
    const repetition = repetitionFrom(ahead, firstS, repetitions.length, plan);
    if (!repetition) {
      k = bisectRight(times, firstS + SAME_START_S);
      continue;
    }
    repetitions.push(repetition);
    const lastS = repetition.notes.reduce((latest, note) => Math.max(latest, note.onsetS ?? 0), 0);
    k = bisectRight(times, lastS + AFTER_S);
  }
  return repetitions;
};
