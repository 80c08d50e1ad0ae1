import { writeMidi } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { chance } from '../../stats/random';
import { readPassageFile } from './passage-files';

const TICKS = 96;

/** A file of one track: meters where they stand, and notes by where they begin and end, all in ticks. */
const fileOf = (
  notes: readonly (readonly [from: number, to: number])[],
  meters: readonly (readonly [tick: number, count: number, unit: number])[] = [[0, 4, 4]],
  ticksPerBeat = TICKS,
): Uint8Array => {
  const events = [
    ...meters.map(([tick, numerator, denominator]) => ({
      tick,
      event: { type: 'timeSignature', numerator, denominator, metronome: 24, thirtyseconds: 8 },
    })),
    ...notes.flatMap(([from, to]) =>
      [from, to].map((tick, k) => ({
        tick,
        event: { type: k === 0 ? 'noteOn' : 'noteOff', channel: 0, noteNumber: 60, velocity: 64 },
      })),
    ),
  ].sort((a, b) => a.tick - b.tick || Number(b.event.type === 'noteOff') - Number(a.event.type === 'noteOff'));
  const track = events.map(({ tick, event }, k) => ({ deltaTime: tick - (events[k - 1]?.tick ?? 0), ...event }));
  const tracks = [[...track, { deltaTime: 0, type: 'endOfTrack' }]];
  return new Uint8Array(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat }, tracks } as Parameters<typeof writeMidi>[0]),
  );
};
const read = (bytes: Uint8Array) => readPassageFile('case.mid', bytes, 'case');
const lengths = async (notes: readonly (readonly [number, number])[]) =>
  (await read(fileOf(notes))).passage.notes.map(({ length }) => length).join(' ');

/** Quarters, an eighth pair and a half, then silence until a last quarter. */
const VALUES = [
  [0, 96],
  [96, 144],
  [144, 192],
  [192, 384],
  [384, 480],
  [672, 768],
] as const;
/** The same with each note as long as a share of its value. */
const gated = (share: number) => VALUES.map(([from, to]) => [from, Math.round(from + share * (to - from))] as const);

describe('the lengths of notes in a written MIDI file', () => {
  it.each([0.98, 0.9, 0.8, 0.7])('are values again where a gate of %f has shortened all', async (share) => {
    const { simplified, passage } = await read(fileOf(gated(share)));
    expect(passage.notes.map(({ length }) => length)).toEqual(['1', '1/2', '1/2', '2', expect.any(String), expect.any(String)]);
    expect(simplified).toHaveLength(1);
  });

  it('are what the file says where they end as written ones do, short notes and silences too', async () => {
    expect(await lengths(VALUES)).toBe('1 1/2 1/2 2 1 1');
    expect((await read(fileOf(VALUES))).simplified).toEqual([]);
    expect(await lengths(gated(0.5))).toBe('1/2 1/4 1/4 1 1/2 1/2');
  });
});

describe('the first bar of a MIDI file', () => {
  const quarters = Array.from({ length: 9 }, (_, k) => [96 * k, 96 * k + 96] as const);

  it('is an upbeat where it is much shorter than the next', async () => {
    const { passage } = await read(
      fileOf(quarters, [
        [0, 1, 4],
        [96, 4, 4],
      ]),
    );
    expect(passage).toMatchObject({ pickup: '1', bars: 2, meters: [{ count: 4, unit: 4 }] });
  });

  it('is a long upbeat where the last bar lacks it', async () => {
    const { passage } = await read(
      fileOf(quarters.slice(0, 8), [
        [0, 3, 4],
        [288, 4, 4],
      ]),
    );
    expect(passage).toMatchObject({ pickup: '3', meters: [{ count: 4, unit: 4 }] });
  });

  it('is a bar of its own where the meter changes after it', async () => {
    const { passage } = await read(
      fileOf(quarters.slice(0, 7), [
        [0, 3, 4],
        [288, 4, 4],
      ]),
    );
    expect(passage.pickup).toBe('0');
    expect(passage.meters.map(({ count }) => count)).toEqual([3, 4]);
  });
});

describe('a MIDI file that was played in', () => {
  /** Quarters and pairs of eighths as a hand plays them, up to a twentieth of a beat off, in so many ticks a beat. */
  const hand = (ticksPerBeat: number) => {
    const { uniform } = chance(7);
    const beats = [0, 1, 1.5, 2, 3, 4, 4.5, 5, 6, 6.5, 7, 8, 9, 9.5, 10, 11];
    return beats.map((beat, k) => {
      const at = Math.max(0, beat + 0.1 * (uniform() - 0.5));
      return [at, at + 0.8 * ((beats[k + 1] ?? 12) - beat)].map((one) => Math.round(one * ticksPerBeat)) as [number, number];
    });
  };

  it.each([24, 48, 96, 120, 480, 960])('is set to its places where a beat has %i ticks', async (ticks) => {
    const { passage, simplified } = await read(fileOf(hand(ticks), [[0, 4, 4]], ticks));
    expect(passage.notes.map(({ at }) => at).join(' ')).toBe('0 1 3/2 2 3 4 9/2 5 6 13/2 7 8 9 19/2 10 11');
    expect(simplified[0]).toMatch(/^The notes were played in/);
  });

  it.each([48, 96, 480])('is told from one that was written with tuplets and short notes, at %i ticks', async (ticks) => {
    // A quarter, a triplet, a dotted eighth with its sixteenth, four thirty-seconds after a dotted eighth, an upbeat of a sixteenth.
    const beats = [0, 1, 4 / 3, 5 / 3, 2, 2.75, 3, 3.5, 3.625, 3.75, 3.875, 4, 5.75, 6, 7];
    const notes = beats.map((beat, k) => [beat, beats[k + 1] ?? 8].map((one) => Math.round(one * ticks)) as [number, number]);
    expect((await read(fileOf(notes, [[0, 4, 4]], ticks))).simplified).toEqual([]);
  });
});

describe('a MIDI file that was cut off', () => {
  const whole = fileOf(VALUES);

  it('is read as far as it goes, and that is said', async () => {
    const half = await read(whole.slice(0, whole.length - 24));
    expect(half.simplified).toContainEqual(expect.stringMatching(/ends in the middle/));
    expect(half.passage.notes.length).toBeLessThan(VALUES.length);
    expect(half.passage.notes.length).toBeGreaterThan(0);
  });

  it('may lack a track that it says it has', async () => {
    const bytes = whole.slice();
    bytes[11] = 2;
    expect((await read(bytes)).simplified).toContainEqual(expect.stringMatching(/ends in the middle/));
  });

  it('is not one that has something behind its tracks', async () => {
    const more = new Uint8Array([...whole, ...new TextEncoder().encode('XFIH'), 0, 0, 0, 2, 1, 2]);
    expect((await read(more)).simplified).toEqual([]);
  });
});
