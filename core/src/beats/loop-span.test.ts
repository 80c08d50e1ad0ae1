import { expect, it } from 'vitest';
import { loopSpan } from './accompaniment';

/** Seven beats a second apart, from 0.5 s on; bars of three from the second beat on. */
const beats = { timesS: [0.5, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5], beatsPerBar: 3 as const, firstBarBeat: 1 };

it('goes from the first beat of the first bar to the first beat after the last', () => {
  expect(loopSpan(beats, { fromBar: 0, toBar: 0 }, 10)).toEqual({ fromS: 1.5, toS: 4.5 });
});

it('goes to the end of the recording after its last bar', () => {
  expect(loopSpan(beats, { fromBar: 0, toBar: 1 }, 10)).toEqual({ fromS: 1.5, toS: 10 });
});

it('is none where its bars are gone', () => {
  expect(loopSpan(beats, { fromBar: 5, toBar: 6 }, 10)).toBeNull();
  expect(loopSpan({ ...beats, timesS: [] }, { fromBar: 0, toBar: 0 }, 10)).toBeNull();
});
