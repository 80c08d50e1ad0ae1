import { type PracticeConfigKey, practiceConfigId } from '../schema/practice-config';
import type { Block, LoopSnapshot, PracticeSession } from '../schema/practice-session';
import { HOUR_MS } from '../time/units';

/** After so long without anything played, what comes is another practice session. */
const APART_MS = 3 * HOUR_MS;

/** The practice session that goes on at `now`: the one that was kept, where it is not long over, or a new one. */
export const practiceSessionAt = (kept: PracticeSession | null, now: Date, newId: () => string): PracticeSession => {
  if (kept && now.getTime() - new Date(kept.lastAt).getTime() < APART_MS) return kept;
  return { id: newId(), startedAt: now.toISOString(), lastAt: now.toISOString(), blocks: [] };
};

const isFor = (config: PracticeConfigKey) => (block: Block) => practiceConfigId(block.config) === practiceConfigId(config);

const withLast = (session: PracticeSession, block: Block, now: Date): PracticeSession => ({
  ...session,
  lastAt: now.toISOString(),
  blocks: [...session.blocks.slice(0, -1), block],
});

/** A take begins: in the block that was last at work, where it is for the same configuration, method and strategy, else in a new one. */
export const enterBlock = (
  session: PracticeSession,
  entered: Pick<Block, 'config' | 'methodId' | 'strategyId'>,
  takeId: string,
  now: Date,
): PracticeSession => {
  const last = session.blocks.at(-1);
  const goesOn =
    last && isFor(entered.config)(last) && last.methodId === entered.methodId && last.strategyId === entered.strategyId;
  if (goesOn) return withLast(session, { ...last, takeIds: [...last.takeIds, takeId], snapshot: null }, now);
  const block: Block = { ...entered, timeBoxMin: null, takeIds: [takeId], snapshot: null };
  return { ...session, lastAt: now.toISOString(), blocks: [...session.blocks, block].slice(-500) };
};

/** Keeps where the block at work stands, after each repetition; null once the take has come to its end. */
export const standAt = (session: PracticeSession, snapshot: LoopSnapshot | null, now: Date): PracticeSession => {
  const last = session.blocks.at(-1);
  return last ? withLast(session, { ...last, snapshot }, now) : session;
};

/** What a configuration has under way in a practice session: the snapshot of a take that was broken off, by a reload or a crash. */
export const underWay = (session: PracticeSession, config: PracticeConfigKey): LoopSnapshot | null => {
  const last = session.blocks.at(-1);
  return last && isFor(config)(last) ? last.snapshot : null;
};
