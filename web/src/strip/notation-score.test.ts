import { firstDrill, type Grid, type GridEvent, type Passage, pitch, READY_PASSAGES, readyPassage } from '@isochron/core';
import { describe, expect, it } from 'vitest';
import { keyName, notationScore, pitchKey } from './notation-score';

const gridOf = (id: string): Grid => firstDrill(readyPassage(id) as Passage).grid;
const symbols = (id: string, staff = 1) => notationScore(gridOf(id), staff);

describe('the notation', () => {
  it('writes sixteenths, triplets, dotted and plain notes for what they are', () => {
    expect(symbols('five-steps')[0]).toMatchObject({ value: 16, dots: 0, isTriplet: false });
    expect(symbols('five-steps').at(-1)).toMatchObject({ value: 2, dots: 0 });
    expect(symbols('rolling-threes')[0]).toMatchObject({ value: 8, isTriplet: true });
    expect(symbols('long-short-walk')[0]).toMatchObject({ value: 8, dots: 1 });
    expect(symbols('long-short-walk')[1]).toMatchObject({ value: 16, dots: 0 });
  });

  it('keeps the spelling: F sharp is not G flat; keys by their signature', () => {
    expect(['C4', 'F#4', 'Gb4', 'A4', 'C2', 'B##3'].map((name) => pitchKey(pitch(name)))).toEqual([
      'c/4',
      'f#/4',
      'gb/4',
      'a/4',
      'c/2',
      'b##/3',
    ]);
    expect([-3, 0, 2].map(keyName)).toEqual(['Eb', 'C', 'D']);
  });

  it('shows fingers and sticks where the passage has them', () => {
    expect(symbols('five-steps')[4]?.mark).toBe('5');
    const hands = symbols('rolling-threes').map((symbol) => symbol.mark);
    expect(hands.slice(0, 4)).toEqual(['R', 'L', 'R', 'L']);
    expect(symbols('long-short-walk')[0]?.mark).toBe('');
  });

  it('puts each hand on its staff', () => {
    // The staves tell the hands: no letters are needed.
    expect(symbols('hands-together', 1)[0]).toMatchObject({ pitches: [pitch('C4')], mark: '' });
    expect(symbols('hands-together', 2)[0]).toMatchObject({ pitches: [pitch('C3')], mark: '' });
  });

  it('fills a gap with a rest', () => {
    const grid = gridOf('five-steps');
    const [first, , third] = grid.events;
    const score = notationScore({ ...grid, events: [first, third] as GridEvent[] });
    expect(score.map(({ isRest, value, at }) => ({ isRest, value, at }))).toEqual([
      { isRest: false, value: 16, at: 0 },
      { isRest: true, value: 16, at: 0.25 },
      { isRest: false, value: 16, at: 0.5 },
    ]);
  });

  it.each(READY_PASSAGES.map((one) => [one.title, one] as const))('has a symbol over every column of %s', (_title, passage) => {
    const { grid } = firstDrill(passage);
    expect(notationScore(grid).filter((symbol) => !symbol.isRest)).toHaveLength(grid.events.length);
  });
});
