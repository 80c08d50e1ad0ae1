import { describe, expect, it } from 'vitest';
import { type OffsetGuess, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import type { Expectation } from './expectation';
import { createListener } from './listener';
import { offsetSoFar } from './offset-so-far';

const RATE = 48_000;
const drill = firstDrill(
  passageOfScore(readText(`meter: 4/4\n${'C4/8 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(3)}C4/1 |\n`), 'run').passage,
);
const plan = planRepetition({ drill, tempo: constantTempo(90), startS: 0.2 });
const expectation = (offset: OffsetGuess): Expectation => ({
  repetition: 0,
  drill,
  plan,
  tolerance: TOLERANCE_PRESETS.secure,
  latencyS: null,
  offset,
  hearsClicks: false,
  profile: profileOf('midi'),
});
/** The first notes of it, so late, each off by up to 8 ms in turn. */
const played = (count: number, lateS: number) =>
  plan.notes.slice(0, count).map(({ timeS }, k) => ({ timeS: timeS + lateS + 0.008 * Math.sin(2.4 * k), levelDb: -12 }));

/** What a listener told of playing that stopped after so many notes, and when. */
const stopped = (count: number, lateS: number, offset: OffsetGuess = UNKNOWN_OFFSET) => {
  const listener = createListener(RATE);
  listener.expect(expectation(offset));
  const toCome = played(count, lateS);
  for (let frame = 0; ; frame += 480) {
    while (toCome[0] && toCome[0].timeS * RATE < frame + 480)
      listener.tap(toCome.shift() as { timeS: number; levelDb: number });
    const heard = listener.push(new Float32Array(480), frame);
    if (heard) return { heard: heard.analysed, atS: frame / RATE };
  }
};

describe('the delay of a first repetition', () => {
  it('is told by its own notes, wherever it lies, and by none too few or doubtful', () => {
    for (const lateS of [0.005, 0.04, 0.12, 0.16]) {
      for (const count of [6, 12, 24])
        expect(Math.abs((offsetSoFar(expectation(UNKNOWN_OFFSET), played(count, lateS)) ?? 9) - lateS)).toBeLessThan(0.01);
      expect(offsetSoFar(expectation(UNKNOWN_OFFSET), played(4, lateS))).toBeNull();
      // A note left out, a note too many: it may have been others.
      expect(offsetSoFar(expectation(UNKNOWN_OFFSET), played(12, lateS).toSpliced(5, 1))).toBeNull();
    }
    // Later than half a quaver they may as well be early ones of the next.
    expect(offsetSoFar(expectation(UNKNOWN_OFFSET), played(12, 0.2))).toBeNull();
    expect(offsetSoFar(expectation({ nearS: 0.03, reachS: SETTLED_OFFSET_S }), [])).toBe(0.03);
  });

  it('lets who stops in it be heard to have broken off, and what was played be judged as far as it went', () => {
    for (const lateS of [0.01, 0.15])
      for (const count of [7, 13, 18]) {
        const { heard, atS } = stopped(count, lateS);
        expect(heard.measures).toMatchObject({ missed: 0, extra: 0, brokenOff: { note: count, of: 25 } });
        // Two beats and at least 1.5 s after the note that was due, not at the end of it all.
        expect(atS).toBeLessThan((plan.notes[count]?.timeS ?? 0) + lateS + 1.8);
      }
  });

  it('takes nobody for broken off who plays to the end', () => {
    for (const lateS of [0, 0.05, 0.2]) expect(stopped(25, lateS).heard.measures.brokenOff).toBeUndefined();
  });
});
