import type { Drill } from '../schema/grid';
import type { Measures, NoteResult } from '../schema/measures';
import type { Dynamic } from '../schema/notation';
import type { Repetition } from '../schema/take';
import { median } from '../stats/summary';

/** From soft to loud; what is no level by itself stands in the middle. */
const LOUDNESS: readonly Dynamic[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'];

/** A repetition at another level, to hold the next one against. */
export interface OtherLevel {
  dynamic: Dynamic;
  levelDb: number;
}

/** How loud notes were on the whole, in dB; null where nothing tells, or all are exactly alike: taps have no level. */
const levelOf = (notes: readonly Pick<NoteResult, 'levelDb'>[]): number | null => {
  const levels = notes.flatMap(({ levelDb }) => levelDb ?? []);
  return new Set(levels).size > 1 ? median(levels) : null;
};

/** The last repetition of a take that was to be played at another level than a drill; null where there is none. */
export const otherLevelFor = (
  { judging }: Pick<Drill, 'judging'>,
  drills: readonly Pick<Drill, 'judging'>[],
  before: readonly Pick<Repetition, 'drill' | 'notes'>[],
): OtherLevel | null => {
  if (!judging.dynamic) return null;
  for (const { drill, notes } of before.toReversed()) {
    const dynamic = drills[drill]?.judging.dynamic;
    const levelDb = dynamic && dynamic !== judging.dynamic ? levelOf(notes) : null;
    if (dynamic && levelDb !== null) return { dynamic, levelDb };
  }
  return null;
};

/** How far a repetition was from the other level on the side where it was to be, in dB; nothing where there is no other, or no level. */
export const dynamicMeasure = (
  { judging }: Pick<Drill, 'judging'>,
  results: readonly NoteResult[],
  other: OtherLevel | null,
): Pick<Measures, 'dynamicDb'> => {
  const own = judging.dynamic && other ? levelOf(results) : null;
  if (own === null || !other || !judging.dynamic) return {};
  const side = Math.sign(LOUDNESS.indexOf(judging.dynamic) - LOUDNESS.indexOf(other.dynamic));
  return { dynamicDb: side * (own - other.levelDb) };
};
