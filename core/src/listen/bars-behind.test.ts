import { describe, expect, it } from 'vitest';
import { type OffsetGuess, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { simulatePlaying } from '../player/simulate';
import { STEADY } from '../schema/skill';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import type { BarsBehind } from './bars-behind';
import { createListener } from './listener';

const RATE = 48_000;
const BLOCK = 512;
const LATENCY_S = 0.08;
const KNOWN: OffsetGuess = { nearS: LATENCY_S, reachS: SETTLED_OFFSET_S };
const tempo = constantTempo(100);
const ofBars = (bars: number) =>
  firstDrill(passageOfScore(readText(`meter: 4/4\n${'C4/8 D4 E4 F4 G4/4 E4/8 D4 |\n'.repeat(bars)}`), 'long').passage);

/** Plays taps at a listener, note by note as they come, and gives all that it told on the way and at the end. */
const follow = (options: { bars?: number; offset?: OffsetGuess; scale?: number; from?: number }) => {
  const { bars = 8, offset = KNOWN, scale = 1, from = 0 } = options;
  const drill = ofBars(bars);
  const plan = planRepetition({ drill, tempo, startS: 0.1 });
  const firstS = plan.notes[0]?.timeS ?? 0;
  const playedS = simulatePlaying(plan.notes, { ...STEADY, spreadMs: 9 }, tempo, 4)
    .slice(from)
    .map(({ timeS }) => firstS + (timeS - firstS) * scale + LATENCY_S);
  const listener = createListener(RATE);
  listener.expect({
    repetition: 3,
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset,
    hearsClicks: false,
    profile: profileOf('tap'),
  });
  const told: { atS: number; behind: BarsBehind }[] = [];
  const silence = new Float32Array(BLOCK);
  for (let frame = 0; ; frame += BLOCK) {
    while (playedS[0] !== undefined && playedS[0] * RATE < frame + BLOCK)
      listener.tap({ timeS: playedS.shift() as number, levelDb: -12 });
    const heard = listener.push(silence, frame);
    const behind = listener.behind();
    if (behind) told.push({ atS: frame / RATE, behind });
    if (heard) return { told, heard: heard.analysed, plan };
    if (frame / RATE > plan.endS + 5) throw new Error('It never ends.');
  }
};

describe('the bars that are behind', () => {
  it('are told one after the other, soon after each, with the times that the whole repetition has in the end', () => {
    const { told, heard, plan } = follow({});
    expect(told.map(({ behind }) => behind.notes.length)).toEqual([1, 2, 3, 4, 5, 6, 7].map((bars) => 7 * bars));
    for (const { atS, behind } of told) {
      expect(behind.repetition).toBe(3);
      const nextS = plan.notes[behind.notes.length]?.timeS ?? 0;
      expect(atS - nextS - LATENCY_S).toBeGreaterThan(0.25);
      expect(atS - nextS - LATENCY_S).toBeLessThan(0.4);
      expect(behind.notes.map(({ onsetS }) => onsetS)).toEqual(
        heard.notes.slice(0, behind.notes.length).map(({ onsetS }) => onsetS),
      );
    }
  });

  it('are told where the delay is not known yet as well, once nothing else would do', () => {
    const { told, heard } = follow({ offset: UNKNOWN_OFFSET });
    expect(told.length).toBeGreaterThan(0);
    for (const { behind } of told)
      expect(behind.notes.map(({ onsetS }) => onsetS)).toEqual(
        heard.notes.slice(0, behind.notes.length).map(({ onsetS }) => onsetS),
      );
  });

  it('are not told of a short repetition, nor of one at another tempo, nor where nothing is played', () => {
    expect(follow({ bars: 4 }).told).toEqual([]);
    expect(follow({ scale: 0.5 }).told).toEqual([]);
    expect(follow({ scale: 2 }).told).toEqual([]);
    expect(follow({ from: 1000 }).told).toEqual([]);
  });
});
