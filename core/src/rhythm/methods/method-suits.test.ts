import { describe, expect, it } from 'vitest';
import type { Passage } from '../../schema/passage';
import { builtInPassage } from '../built-in-passages';
import { gridOf } from '../grid-of';
import { METHOD_CATEGORIES } from './method';
import { methodSuits } from './method-suits';
import { METHODS, methodOf } from './methods';

const gridIn = (id: string) => {
  const passage = builtInPassage(id) as Passage;
  return gridOf(passage, passage.variants[0]);
};
const oneHand = gridIn('five-steps');
const twoHands = gridIn('hands-together');

describe('the methods', () => {
  it('are found by what they are for, several in each category', () => {
    for (const category of METHOD_CATEGORIES)
      expect(METHODS.filter((one) => one.category === category).length, category).toBeGreaterThan(2);
  });

  it('suit everyone where nothing is known of the instrument, but for hands that are not written', () => {
    const left = METHODS.filter((one) => !methodSuits(one, { grid: oneHand, family: null }));
    expect(left.map(({ id }) => id)).toEqual(['hands']);
    expect(methodSuits(methodOf('hands'), { grid: twoHands, family: null })).toBe(true);
  });

  it('leave out what an instrument cannot do (common practice)', () => {
    const unsuited = (family: 'blown' | 'drum' | 'struck' | 'bowed') =>
      METHODS.filter((one) => !methodSuits(one, { grid: twoHands, family })).map(({ id }) => id);
    expect(unsuited('blown')).toEqual(['blocks', 'hold-one', 'two-voices', 'sweep-down']);
    expect(unsuited('drum')).toEqual(expect.arrayContaining(['blocks', 'pulses', 'touch', 'slur-then-articulate']));
    expect(unsuited('struck')).toEqual(['pulses']);
    expect(unsuited('bowed')).not.toContain('sweep-down');
  });
});
