import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { type Skill, STEADY } from '../schema/skill';
import { sampleSd } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { detectOnsetsBesideClicks } from './click-onsets';

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
