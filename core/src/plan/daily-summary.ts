import { byGrid, comparableNotes, stepMsOf } from '../across/across-repetitions';
import { explain, stepOf } from '../across/explanation';
import { heardExplanation } from '../across/finding';
import { beats } from '../schema/beats';
import { barAt, barStarts } from '../schema/frame';
import type { WeakSpot } from '../schema/practice';
import type { Repetition, Take } from '../schema/take';
import { askedBpm } from './asked-bpm';
import { edgeAmong, slowUpToBpm } from './pace';
import { practiceModeOf } from './practice-config';

/** Nobody plays one repetition longer: a pause lay between. */
const LONGEST_S = 600;

/** What of a take is counted for weeks and years. */
export interface DailySummary {
  /** Time from downbeat to downbeat, all repetitions together; and of those that were not slow for who played them. */
  playedS: number;
  fastS: number;
  /** The first judged repetition that was played straight, to get on; null where there was none, and for files. */
  openBpm: number | null;
  openClean: boolean | null;
  /** The one step that stood out; null where none did. */
  weak: WeakSpot | null;
}

const lastLengthS = ({ notes, downbeatS }: Repetition): number => {
  const [before, last] = notes.slice(-2).map(({ expectedS }) => expectedS);
  return last === undefined || before === undefined ? 0 : 2 * last - before - downbeatS;
};

const weakSpotOf = (take: Pick<Take, 'drills' | 'repetitions'>): WeakSpot | null => {
  const [most] = byGrid([take]);
  if (!most) return null;
  const notes = comparableNotes(most.repetitions);
  const found = heardExplanation(explain(notes, most.grid.events), stepMsOf(notes));
  if (found?.subject.family !== 'note' && found?.subject.family !== 'step') return null;
  const { note, byMs } = stepOf(found.subject.position, found.byMs);
  const at = beats(most.grid.events[note - 1]?.at ?? '0');
  const bar = barAt(barStarts(most.grid), at.valueOf());
  return { note, of: most.grid.events.length, ms: byMs.value, bar };
};

/** What is counted of a take. */
export const dailySummaryOf = (take: Pick<Take, 'drills' | 'repetitions' | 'goalBpm' | 'input' | 'purpose'>): DailySummary => {
  const { repetitions, drills, goalBpm, input } = take;
  const lengths = repetitions.map((repetition, k) => {
    const next = repetitions[k + 1];
    const lengthS = next ? next.downbeatS - repetition.downbeatS : lastLengthS(repetition);
    return Math.min(LONGEST_S, Math.max(0, lengthS));
  });
  const sum = (some: (repetition: Repetition) => boolean) =>
    repetitions.reduce((total, repetition, k) => total + (some(repetition) ? (lengths[k] as number) : 0), 0);
  const isStraight = practiceModeOf(take) === 'straight' && input !== 'file';
  const ofStrategy = repetitions.filter(({ drill }) => !drills[drill]?.repetitionKind);
  const slowBpm = slowUpToBpm(goalBpm, edgeAmong(ofStrategy));
  const open = isStraight ? ofStrategy.find(({ verdict }) => verdict.outcome !== 'not-judged') : undefined;
  return {
    playedS: sum(() => true),
    fastS: sum((repetition) => askedBpm(repetition) > slowBpm),
    openBpm: open ? askedBpm(open) : null,
    openClean: open ? open.verdict.outcome === 'clean' : null,
    weak: isStraight ? weakSpotOf(take) : null,
  };
};
