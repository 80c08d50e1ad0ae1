import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { type Skill, STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import { sampleSd } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { detectOnsetsBesideClicks } from './click-onsets';
import { isSpoilt, learnClickPath } from './click-removal';

const drill = firstDrill(builtInPassage('five-steps') as Passage);

const withBleed = (options: { gain: number; skill?: Partial<Skill>; seed?: number; instrument?: typeof STRUCK_BAR }) => {
  const { gain, skill = {}, seed = 1, instrument = STRUCK_BAR } = options;
  const plan = planRepetition({ drill, tempo: constantTempo(90), startS: 0.3 });
  // One sound for every click, as a plain metronome makes it.
  const clicks = plan.clicks.map((click) => ({ ...click, kind: 'beat' as const }));
  const played = simulatePlaying(plan.notes, { ...STEADY, ...skill }, constantTempo(90), seed);
  const sound = renderPlaying({
    played,
    grid: drill.grid,
    tempo: constantTempo(90),
    instrument,
    sampleRateHz: 48_000,
    lengthS: plan.endS + 0.3,
    seed,
    noiseDb: -65,
    bleed: { clicks, gain, delayS: 0.012 },
  });
  return { sound, played, plan, clicksS: clicks.map((click) => click.timeS) };
};

describe('onsets beside clicks', () => {
  it.each([0.05, 0.3, 1])('recover the player, not the click (bleed gain %f)', (gain) => {
    const { sound, played, clicksS } = withBleed({ gain, skill: { placementMs: 18, spreadMs: 9 }, instrument: PLUCKED_STRING });
    const { onsets } = detectOnsetsBesideClicks(sound, 48_000, clicksS);
    expect(onsets).toHaveLength(played.length);
    const errorsMs = onsets.map((onset, k) => (onset.timeS - (played[k]?.timeS ?? 0)) * 1000);
    expect(sampleSd(errorsMs)).toBeLessThan(1);
    expect(Math.abs(errorsMs.reduce((sum, value) => sum + value, 0) / errorsMs.length)).toBeLessThan(2);
  });

  it('never report a click as a note, even where no note is played', () => {
    const { sound, clicksS, played } = withBleed({ gain: 0.8, skill: { missedShare: 1 } });
    expect(played).toEqual([]);
    expect(detectOnsetsBesideClicks(sound, 48_000, clicksS).onsets).toEqual([]);
  });

  it('say so where no click sounds alone', () => {
    const { sound, clicksS, plan } = withBleed({ gain: 0.6 });
    const from = Math.round(plan.downbeatS * 48_000) - 2400;
    const later = clicksS.filter((timeS) => timeS > plan.downbeatS + 0.1).map((timeS) => timeS - from / 48_000);
    expect(detectOnsetsBesideClicks(sound.subarray(from), 48_000, later).clicksRemain).toBe(true);
  });

  it('are the plain onsets where the clicks were in headphones', () => {
    const { sound, played, clicksS } = withBleed({ gain: 0 });
    const found = detectOnsetsBesideClicks(sound, 48_000, clicksS);
    expect(found.onsets).toHaveLength(played.length);
    expect(found.clicksRemain).toBe(false);
  });
});

describe('a count-in', () => {
  const RATE_HZ = 48_000;
  const clicks = Array.from({ length: 16 }, (_, k) => ({ frame: 9600 * (k + 1), kind: 'beat' }));
  /** Clicks of a level that differ a little, as a room has them, and notes where they are played. */
  const countIn = (level: number, notesAt: readonly number[] = [], seed = 1) => {
    const { normal } = chance(seed);
    const samples = Float32Array.from({ length: 9600 * 18 }, () => 0.0005 * normal());
    const add = (frame: number, amplitude: number, hz: number, decayS: number) => {
      for (let n = 0; n < 9600; n += 1) {
        const t = n / RATE_HZ;
        samples[frame + n] = (samples[frame + n] ?? 0) + amplitude * Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / decayS);
      }
    };
    for (const { frame } of clicks) add(frame + 600, level * (1 + 0.08 * normal()), 1800, 0.02);
    for (const [k, at] of notesAt.entries()) add((clicks[at]?.frame ?? 0) + 300, 0.2, 260 * 1.06 ** k, 0.08);
    return samples;
  };
  const pathOf = (samples: Float32Array) => learnClickPath(samples, clicks, RATE_HZ);
  const told = (before: Float32Array, now: Float32Array) =>
    isSpoilt(now, clicks, { learnt: pathOf(now), known: pathOf(before) }, RATE_HZ);

  it.each([
    ['headphones are taken off', 0, 0.3],
    ['the click is turned up', 0.02, 0.4],
    ['the click is turned down', 0.4, 0.02],
    ['headphones are put on', 0.3, 0],
    ['nothing changes', 0.3, 0.3],
  ])('tells how the click sounds, though %s', (_what, before, now) => {
    for (let seed = 1; seed <= 10; seed += 1) expect(told(countIn(before, [], seed), countIn(now, [], seed + 50))).toBe(false);
  });

  // Where the click is as loud as the notes and never twice the same, it cannot be told: then the repetition is not judged at all.
  it.each([0, 0.02, 0.1])('tells it badly where notes sound in it, with a click at %s', (level) => {
    for (let seed = 1; seed <= 10; seed += 1)
      expect(told(countIn(level, [], seed), countIn(level, [3, 4, 5, 6, 7, 8, 9, 10], seed + 50))).toBe(true);
  });
});
