import { describe, expect, it } from 'vitest';
import { evenGridNotes } from '../measure/measure-recording';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { SkillSchema, STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import { mean, sampleSd } from '../stats/summary';
import { constantTempo } from '../time/tempo-map';
import { INSTRUMENTS } from './instruments';
import { pitchHz, renderPlaying } from './render';
import { simulatePlaying, spreadAtTempoMs } from './simulate';

const notes = evenGridNotes({ tempoBpm: 120, notesPerBeat: 4, beats: 100, startS: 0 });
const deviationsMs = (played: ReturnType<typeof simulatePlaying>) =>
  played.flatMap((note) => (note.expected === null ? [] : [(note.timeS - (notes[note.expected]?.timeS ?? 0)) * 1000]));

describe('the simulated player', () => {
  it('plays the same from the same seed, and otherwise from another', () => {
    expect(simulatePlaying(notes, STEADY, constantTempo(120), 5)).toEqual(
      simulatePlaying(notes, STEADY, constantTempo(120), 5),
    );
    expect(simulatePlaying(notes, STEADY, constantTempo(120), 5)).not.toEqual(
      simulatePlaying(notes, STEADY, constantTempo(120), 6),
    );
  });

  it('plays with the placement and spread it was given', () => {
    const deviations = deviationsMs(
      simulatePlaying(notes, { ...STEADY, placementMs: -12, spreadMs: 9 }, constantTempo(120), 3),
    );
    expect(Math.abs(mean(deviations) + 12)).toBeLessThan(1.5);
    expect(Math.abs(sampleSd(deviations) - 9)).toBeLessThan(1);
  });

  it('misses and adds the share it was given, in order of time', () => {
    const played = simulatePlaying(notes, { ...STEADY, missedShare: 0.1, extraShare: 0.05 }, constantTempo(120), 8);
    const missed = notes.length - played.filter((note) => note.expected !== null).length;
    const extra = played.filter((note) => note.expected === null).length;
    expect(missed / notes.length).toBeGreaterThan(0.06);
    expect(missed / notes.length).toBeLessThan(0.14);
    expect(extra / notes.length).toBeGreaterThan(0.02);
    expect(extra / notes.length).toBeLessThan(0.09);
    expect(played.map((note) => note.timeS)).toEqual(played.map((note) => note.timeS).sort((a, b) => a - b));
  });

  it('leans where it has a habit and rushes where it drifts', () => {
    const played = simulatePlaying(
      notes,
      { ...STEADY, spreadMs: 0, placementMs: 0, habitsMs: { '7': 25 }, driftPct: -2 },
      constantTempo(120),
      1,
    );
    expect(deviationsMs(played)[7]).toBeCloseTo(25 - 0.02 * (notes[7]?.timeS ?? 0) * 1000, 6);
    expect(deviationsMs(played).at(-1)).toBeCloseTo(-0.02 * (notes.at(-1)?.timeS ?? 0) * 1000, 6);
  });

  it('loses its evenness beyond its easy tempo', () => {
    const skill = { ...STEADY, spreadMs: 6, easyUpToBpm: 100 };
    expect(spreadAtTempoMs(skill, 90)).toBe(6);
    expect(spreadAtTempoMs(skill, 110)).toBeCloseTo(9, 9);
    expect(spreadAtTempoMs(skill, 120)).toBeCloseTo(13.5, 9);
    expect(SkillSchema.safeParse(skill).success).toBe(true);
  });
});

describe.each(INSTRUMENTS.map((instrument) => [instrument.name, instrument] as const))('a %s', (_name, instrument) => {
  const sound = instrument.note({ hz: 220, lengthS: 0.4, sampleRateHz: 48_000, chance: chance(2) });

  it('sounds at once, ends in silence and stays within reach of full scale', () => {
    expect(sound.subarray(0, 480).some((value) => Math.abs(value) > 0.01)).toBe(true);
    expect(Math.abs(sound.at(-1) ?? 1)).toBeLessThan(0.01);
    expect(Math.max(...sound.map(Math.abs))).toBeLessThan(2.5);
  });

  it('is rendered from the very sample of each note', () => {
    const rendered = renderPlaying({
      played: [{ timeS: 0.25, levelDb: -12, expected: 0 }],
      grid: firstDrill(builtInPassage('five-steps') as Passage).grid,
      tempo: constantTempo(60),
      instrument,
      sampleRateHz: 48_000,
      lengthS: 1,
      seed: 4,
    });
    const first = rendered.findIndex((value) => value !== 0);
    expect(first).toBeGreaterThanOrEqual(12_000);
    expect(first).toBeLessThanOrEqual(12_001);
  });
});

it('tunes to A = 440 Hz in equal temperament (ISO 16)', () => {
  expect(pitchHz(69)).toBe(440);
  expect(pitchHz(57)).toBe(220);
  expect(pitchHz(60)).toBeCloseTo(261.626, 3);
});
