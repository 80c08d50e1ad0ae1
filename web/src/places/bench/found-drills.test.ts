import { describe, expect, it } from 'vitest';
import { foundDrills } from './found-drills';

const NAMES = ['Doubled: 1 and 3 of 16', 'Doubled: 2 and 12 of 16', 'Groups of 3, the first long'];
const places = (text: string) => foundDrills(NAMES, text).map(({ index }) => index);

describe('drills that are looked for', () => {
  it('are found by their number alone, or by every word of a name', () => {
    expect(places('2')).toEqual([1]);
    expect(places('doubled 12')).toEqual([1]);
    expect(places('LONG groups')).toEqual([2]);
  });

  it('are all of them where nothing was typed, and none where nothing fits', () => {
    expect(places('  ')).toEqual([0, 1, 2]);
    expect(places('4')).toEqual([]);
    expect(places('trill')).toEqual([]);
  });
});
