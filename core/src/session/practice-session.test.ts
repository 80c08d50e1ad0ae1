import { describe, expect, it } from 'vitest';
import { type LoopSnapshot, type PracticeSession, PracticeSessionSchema } from '../schema/practice-session';
import { constantTempo } from '../time/tempo-map';
import { enterBlock, practiceSessionAt, standAt, underWay } from './practice-session';

const ID = '1b4e28ba-2fa1-4d2e-883f-0016d3cca427';
const OTHER = '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b';
const at = (clock: string) => new Date(`2026-03-01T${clock}:00.000Z`);
const five = { passageId: 'five-steps', variantId: 'first', sectionId: 'whole' };
const walk = { ...five, passageId: 'long-short-walk' };
const entered = { config: five, methodId: 'straight', strategyId: 'half-speed-climb' };
const snapshot: LoopSnapshot = {
  takeId: ID,
  drill: 0,
  repetitions: 3,
  tempo: constantTempo(75),
  strategy: { options: { stepBpm: 5 }, state: { failedInARow: 0, nudging: true, edgeBpm: 80 } },
  isBack: false,
  finishCleans: null,
  tense: 0,
};
const begun = (): PracticeSession =>
  enterBlock(
    practiceSessionAt(null, at('18:00'), () => ID),
    entered,
    ID,
    at('18:00'),
  );

describe('a practice session', () => {
  it('goes on after a reload, and is another one hours later', () => {
    const session = begun();
    expect(PracticeSessionSchema.safeParse(session).error).toBeUndefined();
    expect(practiceSessionAt(session, at('18:40'), () => OTHER)).toBe(session);
    expect(practiceSessionAt(session, at('22:40'), () => OTHER).id).toBe(OTHER);
  });

  it('keeps where its block stands, and knows it for the same configuration only', () => {
    const session = standAt(begun(), snapshot, at('18:05'));
    expect(underWay(session, five)).toEqual(snapshot);
    expect(underWay(session, walk)).toBeNull();
    expect(underWay(standAt(session, null, at('18:10')), five)).toBeNull();
    expect(PracticeSessionSchema.parse(JSON.parse(JSON.stringify(session)))).toEqual(session);
  });

  it('has one block for takes that go on with the same, and a new one for something else', () => {
    const twice = enterBlock(begun(), entered, OTHER, at('18:06'));
    expect(twice.blocks).toHaveLength(1);
    expect(twice.blocks[0]?.takeIds).toEqual([ID, OTHER]);
    expect(enterBlock(twice, { ...entered, config: walk }, OTHER, at('18:20')).blocks).toHaveLength(2);
    expect(enterBlock(twice, { ...entered, strategyId: 'free' }, OTHER, at('18:20')).blocks).toHaveLength(2);
  });
});
