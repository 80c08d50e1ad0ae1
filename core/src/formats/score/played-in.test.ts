import { describe, expect, it } from 'vitest';
import { midiOf } from '../../rhythm/pitch';
import type { SingleOnset } from '../../schema/measures';
import { readPassageFile } from './passage-files';
import { clicksInBar, type PlayedIn, playedSmf } from './played-smf';

/** Notes at beats of the click, each a little off, as long as they are apart. */
const playedAt = (beats: readonly number[], bpm: number, pitches: readonly number[] = [60]): SingleOnset[] =>
  beats.map((beat, k) => {
    const off = 0.023 * (k % 2 === 0 ? 1 : -1);
    const next = beats[k + 1] ?? beat + 1;
    const [timeS, offS] = [beat + off, next - 0.02].map((at) => (at * 60) / bpm) as [number, number];
    return { timeS, offS, levelDb: -20, pitch: pitches[k % pitches.length] };
  });
const read = async (played: PlayedIn) => (await readPassageFile('in.mid', playedSmf(played), 'in')).passage;
const places = (notes: readonly { at: string }[]) => notes.map(({ at }) => at).join(' ');

describe('what is played in', () => {
  it.each([
    [5, 4, '1/4', 5],
    [2, 2, '1/2', 2],
    [6, 8, '3/8', 2],
    [12, 8, '3/8', 4],
    [7, 8, '1/8', 7],
    [3, 8, '1/8', 3],
  ] as const)('under %i/%i is counted as the click counts', async (count, unit, beatUnit, clicks) => {
    const meter = { count, unit };
    expect(clicksInBar(meter)).toBe(clicks);
    const beats = Array.from({ length: 2 * clicks }, (_, k) => k);
    const passage = await read({ notes: playedAt(beats, 90), bpm: 90, meter });
    expect(passage.meters).toEqual([{ at: '0', count, unit }]);
    expect(passage.beatUnit).toBe(beatUnit);
    expect(passage.bars).toBe(2);
    expect(places(passage.notes)).toBe(beats.join(' '));
    expect(passage.goalBpm).toBe(90);
  });

  it('keeps an upbeat that begins in the count-in', async () => {
    const meter = { count: 4, unit: 4 } as const;
    const one = await read({ notes: playedAt([-1, 0, 1, 2, 3, 4, 5, 6, 7], 80), bpm: 80, meter });
    expect(one).toMatchObject({ pickup: '1', bars: 2 });
    expect(places(one.notes)).toBe('-1 0 1 2 3 4 5 6 7');
    const half = await read({ notes: playedAt([-0.5, 0, 1, 2, 3], 80), bpm: 80, meter });
    expect(places(half.notes)).toBe('-1/2 0 1 2 3');
    // A long one stands in a whole bar, with silence before it.
    const long = await read({ notes: playedAt([-3, -2, -1, 0, 1, 2, 3], 80), bpm: 80, meter });
    expect(long).toMatchObject({ pickup: '0', bars: 2 });
    expect(places(long.notes)).toBe('1 2 3 4 5 6 7');
    // A first note that is a little early is no upbeat.
    const early = await read({ notes: playedAt([-0.1, 1, 2, 3], 80), bpm: 80, meter });
    expect(early.pickup).toBe('0');
    const compound = await read({ notes: playedAt([-1 / 3, 0, 1, 2, 3], 60), bpm: 60, meter: { count: 6, unit: 8 } });
    expect(places(compound.notes)).toBe('-1/3 0 1 2 3');
  });

  it('has a staff for each hand, told by the key between them', async () => {
    const meter = { count: 4, unit: 4 } as const;
    const notes = playedAt([0, 1, 2, 3], 80, [64, 48]);
    const two = await read({ notes, bpm: 80, meter, splitAt: 60 });
    expect(two.staves).toEqual([{ clef: 'treble' }, { clef: 'bass' }]);
    const hands = (staff: number) =>
      two.notes.filter((note) => note.staff === staff).map(({ pitch }) => pitch && midiOf(pitch));
    expect([hands(1), hands(2)]).toEqual([
      [64, 64],
      [48, 48],
    ]);
    expect((await read({ notes, bpm: 80, meter, splitAt: 40 })).staves).toHaveLength(1);
    expect((await read({ notes, bpm: 80, meter })).staves).toHaveLength(1);
  });
});
