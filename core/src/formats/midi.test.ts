import { writeMidi } from 'midi-file';
import { describe, expect, it } from 'vitest';
import type { Onset } from '../schema/measures';
import { dbVelocity, readMidiMessage, velocityDb } from './midi-message';
import { UnreadableScore } from './score/score';
import { readSmfScore } from './score/smf-read';
import { readSmf, writeSmf } from './smf';

describe('a MIDI message', () => {
  // MIDI 1.0 Detailed Specification, channel voice messages: 8n note-off, 9n note-on, velocity 0 as note-off.
  it.each([
    [[0x90, 60, 100], { kind: 'on', pitch: 60, velocity: 100 }],
    [[0x9f, 72, 1], { kind: 'on', pitch: 72, velocity: 1 }],
    [[0x93, 60, 0], { kind: 'off', pitch: 60, velocity: 0 }],
    [[0x80, 60, 64], { kind: 'off', pitch: 60, velocity: 64 }],
    [[0xb0, 64, 127], null],
    [[0xf8], null],
    [[0x90, 60], null],
    [[0x90, 200, 3], null],
  ] as const)('%j', (bytes, message) => {
    expect(readMidiMessage(Uint8Array.from(bytes))).toEqual(message);
  });

  it('keeps velocities through decibels', () => {
    for (let velocity = 1; velocity <= 127; velocity += 1) expect(dbVelocity(velocityDb(velocity))).toBe(velocity);
  });
});

/** A file of one track with these bytes. */
const smfOf = (...track: number[]): Uint8Array =>
  Uint8Array.of(
    ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 1, 0xe0],
    ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, track.length],
    ...track,
  );
const NOTE = [0, 0x90, 60, 100, 0x83, 0x60, 0x80, 60, 0];

describe('a MIDI file whose lengths lead nowhere', () => {
  // Standard MIDI Files 1.0: a variable-length quantity has at most four bytes. One of five becomes a negative length, by which a reader goes
  // backwards for ever.
  it.each([
    ['a text of more than four bytes of length', smfOf(0, 0xff, 1, 0x8f, 0xff, 0xff, 0xff, 0x7f, ...NOTE)],
    ['a pause of more than four bytes', smfOf(0x81, 0x80, 0x80, 0x80, 0, 0x90, 60, 100)],
    ['a system message of more than four bytes', smfOf(0, 0xf0, 0xff, 0xff, 0xff, 0xff, 0x00, ...NOTE)],
    ['a chunk of more than there is', Uint8Array.from(smfOf(...NOTE), (value, k) => (k === 18 ? 0xff : value))],
  ])('(%s) is refused', (_what, bytes) => {
    expect(() => readSmf(bytes)).toThrow('not a Standard MIDI File, or it is damaged');
    expect(() => readSmfScore(bytes)).toThrow(UnreadableScore);
  });

  it('is none where a text is long, a status runs on, or the last bytes are missing', () => {
    const running = [0, 0x90, 60, 100, 0x60, 60, 0, 0, 64, 90, 0x60, 64, 0];
    expect(readSmf(smfOf(0, 0xff, 1, 0x81, 0x00, ...Array.from({ length: 128 }, () => 65), ...running))).toHaveLength(2);
    expect(readSmf(smfOf(...NOTE, 0, 0xff)).map(({ pitch }) => pitch)).toEqual([60]);
  });
});

describe('a Standard MIDI File', () => {
  const onsets: Onset[] = [
    { timeS: 0.2, levelDb: velocityDb(90), pitch: 60, offS: 0.4 },
    { timeS: 0.7313, levelDb: velocityDb(40), pitch: 64, offS: 1.1 },
    {
      timeS: 1.5,
      levelDb: velocityDb(127),
      members: [
        { timeS: 1.49, levelDb: 0, pitch: 48 },
        { timeS: 1.51, levelDb: 0, pitch: 55 },
      ],
    },
  ];

  it('gives back what was written, to a tenth of a millisecond', () => {
    const back = readSmf(writeSmf(onsets));
    expect(back.map((note) => note.pitch)).toEqual([60, 64, 48, 55]);
    const times = [0.2, 0.7313, 1.49, 1.51];
    back.forEach((note, k) => {
      expect(Math.abs(note.timeS - (times[k] ?? 0))).toBeLessThan(1e-4);
    });
    expect(back[0]?.offS).toBeCloseTo(0.4, 4);
    expect(back[1]?.levelDb).toBeCloseTo(velocityDb(40), 5);
  });

  it('follows a change of tempo', () => {
    const on = (deltaTime: number) => ({ deltaTime, channel: 0, type: 'noteOn' as const, noteNumber: 60, velocity: 80 });
    const off = (deltaTime: number) => ({ deltaTime, channel: 0, type: 'noteOff' as const, noteNumber: 60, velocity: 0 });
    const bytes = writeMidi({
      header: { format: 1, numTracks: 2, ticksPerBeat: 100 },
      tracks: [
        [
          { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: 600_000 },
          { deltaTime: 100, type: 'setTempo', microsecondsPerBeat: 300_000 },
          { deltaTime: 0, type: 'endOfTrack' },
        ],
        [on(0), off(50), on(50), off(50), on(50), off(10), { deltaTime: 0, type: 'endOfTrack' }],
      ],
    });
    // One beat at 0.6 s, the next at 0.3 s.
    const times = readSmf(Uint8Array.from(bytes)).map((note) => note.timeS);
    expect(times[1]).toBeCloseTo(0.6, 9);
    expect(times[2]).toBeCloseTo(0.9, 9);
  });

  it('is refused in words where it is none, or empty', () => {
    expect(() => readSmf(new TextEncoder().encode('not midi'))).toThrow(/not a Standard MIDI File/);
    expect(() => readSmf(writeSmf([]))).toThrow(/no notes/);
  });

  it('writes lengths as the specification’s table of variable-length quantities has them', () => {
    // Standard MIDI Files 1.0, table of variable-length quantities: 0x2000 is C0 00, 0x3FFF is FF 7F, 0x4000 is 81 80 00.
    const secondsOf = (ticks: number) => ticks / 9600 / 2;
    for (const [ticks, bytes] of [
      [0x2000, [0xc0, 0x00]],
      [0x3fff, [0xff, 0x7f]],
      [0x4000, [0x81, 0x80, 0x00]],
    ] as const) {
      const file = writeSmf([{ timeS: secondsOf(ticks), levelDb: 0, pitch: 60 }]);
      const at = file.findIndex((_, k) => [...bytes, 0x90, 60].every((byte, n) => file[k + n] === byte));
      expect(at).toBeGreaterThan(0);
    }
  });
});
