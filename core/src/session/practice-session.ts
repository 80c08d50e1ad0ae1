import { type PracticeConfigKey, practiceConfigId } from '../schema/practice-config';
import type { Block, LoopSnapshot, PracticeSession } from '../schema/practice-session';
import { HOUR_MS } from '../time/units';

/** After so long without anything played, what comes is another sitting. */
const APART_MS = 3 * HOUR_MS;

/** The sitting that goes on at `now`: the one that was kept, where it is not long over, or a new one. */
export const practiceSessionAt = (kept: PracticeSession | null, now: Date, newId: () => string): PracticeSession => {
  if (kept && now.getTime() - new Date(kept.lastAt).getTime() < APART_MS) return kept;
  return { id: newId(), startedAt: now.toISOString(), lastAt: now.toISOString(), blocks: [] };
};

const isFor = (course: PracticeConfigKey) => (block: Block) => practiceConfigId(block.course) === practiceConfigId(course);

const withLast = (sitting: PracticeSession, block: Block, now: Date): PracticeSession => ({
  ...sitting,
  lastAt: now.toISOString(),
  blocks: [...sitting.blocks.slice(0, -1), block],
});

/** A take begins: in the block that was last at work, where it is for the same course, method and school, else in a new one. */
export const enterBlock = (
  sitting: PracticeSession,
  entered: Pick<Block, 'course' | 'methodId' | 'schoolId'>,
  takeId: string,
  now: Date,
): PracticeSession => {
  const last = sitting.blocks.at(-1);
  const goesOn =
    last && isFor(entered.course)(last) && last.methodId === entered.methodId && last.schoolId === entered.schoolId;
  if (goesOn) return withLast(sitting, { ...last, takeIds: [...last.takeIds, takeId], standing: null }, now);
  const block: Block = { ...entered, timeBoxMin: null, takeIds: [takeId], standing: null };
  return { ...sitting, lastAt: now.toISOString(), blocks: [...sitting.blocks, block].slice(-500) };
};

/** Keeps where the block at work stands, after each repetition; null once the take has come to its end. */
export const standAt = (sitting: PracticeSession, standing: LoopSnapshot | null, now: Date): PracticeSession => {
  const last = sitting.blocks.at(-1);
  return last ? withLast(sitting, { ...last, standing }, now) : sitting;
};

/** What a course has under way in a sitting: the standing of a take that was broken off, by a reload or a crash. */
export const underWay = (sitting: PracticeSession, course: PracticeConfigKey): LoopSnapshot | null => {
  const last = sitting.blocks.at(-1);
  return last && isFor(course)(last) ? last.standing : null;
};
