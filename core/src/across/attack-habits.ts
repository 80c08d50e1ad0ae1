import { type AttackFault, attackFaults } from '../measure/attack-faults';
import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { makeReason, type Reason } from '../schema/reason';
import { atLeastProbability } from '../stats/interval-estimate';
import { median } from '../stats/summary';

/** A note that speaks unclearly in the same way again and again. */
export interface AttackHabit {
  kind: AttackFault['kind'];
  /** Counted from 0. */
  index: number;
  /** In how many of how many repetitions. */
  count: number;
  of: number;
  /** Its usual size: ms or dB, as {@link AttackFault} has it. */
  size: number;
}

/** How often any one note is said to speak unclearly though it does not (docs/figures.md), and how often that may look like a habit. */
const FALSE_SHARE = 0.03;
const FALSE_ALARM = 0.05;

/**
 * The notes that speak unclearly in the same way in more of the repetitions than chance would have it, whatever note is looked at;
 * the most frequent first. `events` are the grid's, for the accents.
 */
export const attackHabits = (
  repetitions: readonly (readonly NoteResult[])[],
  events: readonly Pick<GridEvent, 'accent'>[],
): AttackHabit[] => {
  const found = new Map<string, AttackFault[]>();
  for (const notes of repetitions)
    for (const fault of attackFaults(notes, (index) => events[index]?.accent ?? false)) {
      const key = `${fault.kind}/${fault.index}`;
      found.set(key, [...(found.get(key) ?? []), fault]);
    }
  const looked = Math.max(1, repetitions[0]?.length ?? 0);
  return [...found.values()]
    .filter(
      (faults) =>
        faults.length > 1 && looked * atLeastProbability(faults.length, repetitions.length, FALSE_SHARE) < FALSE_ALARM,
    )
    .map((faults): AttackHabit => {
      const { kind, index } = faults[0] as AttackFault;
      return { kind, index, count: faults.length, of: repetitions.length, size: median(faults.map(({ size }) => size)) };
    })
    .sort((a, b) => b.count - a.count || a.index - b.index);
};

/** How a habit is said; words/finding-words.ts has the sentences. */
export const attackHabitReason = ({ kind, index, count, of, size }: AttackHabit): Reason =>
  makeReason(`habit-${kind}`, { note: index + 1, count, of, size });

/** From which tempo on a sweep's notes came doubled. */
export const doubleAttackReason = (bpm: number): Reason => makeReason('doubled-from', { bpm: Math.round(bpm) });
