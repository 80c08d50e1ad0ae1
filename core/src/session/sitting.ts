import { type CourseKey, courseId } from '../schema/course';
import type { Block, Sitting, Standing } from '../schema/sitting';

/** After so long without anything played, what comes is another sitting. */
const APART_MS = 3 * 3_600_000;

/** The sitting that goes on at `now`: the one that was kept, where it is not long over, or a new one. */
export const sittingAt = (kept: Sitting | null, now: Date, newId: () => string): Sitting => {
  if (kept && now.getTime() - new Date(kept.lastAt).getTime() < APART_MS) return kept;
  return { id: newId(), startedAt: now.toISOString(), lastAt: now.toISOString(), blocks: [] };
};

const isFor = (course: CourseKey) => (block: Block) => courseId(block.course) === courseId(course);

const withLast = (sitting: Sitting, block: Block, now: Date): Sitting => ({
  ...sitting,
  lastAt: now.toISOString(),
  blocks: [...sitting.blocks.slice(0, -1), block],
});

/** A take begins: in the block that was last at work, where it is for the same course, method and school, else in a new one. */
export const enterBlock = (
  sitting: Sitting,
  entered: Pick<Block, 'course' | 'methodId' | 'schoolId'>,
  takeId: string,
  now: Date,
): Sitting => {
  const last = sitting.blocks.at(-1);
  const goesOn =
    last && isFor(entered.course)(last) && last.methodId === entered.methodId && last.schoolId === entered.schoolId;
  if (goesOn) return withLast(sitting, { ...last, takeIds: [...last.takeIds, takeId], standing: null }, now);
  const block: Block = { ...entered, timeBoxMin: null, takeIds: [takeId], standing: null };
  return { ...sitting, lastAt: now.toISOString(), blocks: [...sitting.blocks, block].slice(-500) };
};

/** Keeps where the block at work stands, after each repetition; null once the take has come to its end. */
export const standAt = (sitting: Sitting, standing: Standing | null, now: Date): Sitting => {
  const last = sitting.blocks.at(-1);
  return last ? withLast(sitting, { ...last, standing }, now) : sitting;
};

/** What a course has under way in a sitting: the standing of a take that was broken off, by a reload or a crash. */
export const underWay = (sitting: Sitting, course: CourseKey): Standing | null => {
  const last = sitting.blocks.at(-1);
  return last && isFor(course)(last) ? last.standing : null;
};
