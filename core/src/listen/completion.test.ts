import { describe, expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { farS } from '../session/loop-repetition';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { completionOf } from './completion';
import type { Expectation } from './expectation';

const drill = firstDrill(
  passageOfScore(readText(`meter: 4/4\n${'C4/16 D4 E4 F4 G4 F4 E4 D4 C4 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(2)}`), 'run').passage,
);
const tempo = constantTempo(140);
const plan = planRepetition({ drill, tempo, startS: 0 });
const offset = { nearS: 0, reachS: SETTLED_OFFSET_S, farS: farS(tempo) };
const expectation = { drill, plan, latencyS: null, offset } as unknown as Expectation;

/** What is known of notes at these times once nothing more can come. */
const after = (timesS: readonly number[]) =>
  completionOf(
    { expectation, onsets: timesS.map((timeS) => ({ timeS, levelDb: -12 })), soundedS: timesS.at(-1) ?? 0 },
    plan.endS + 1,
  );
const timesS = plan.notes.map(({ timeS }) => timeS);

describe('the end of a repetition', () => {
  it('is broken off where its last notes were not played', () => {
    expect(after(timesS)).toEqual({ isOver: true, brokenOffAt: null });
    expect(after(timesS.slice(0, -6))).toEqual({ isOver: true, brokenOffAt: timesS.length - 6 });
    expect(after(timesS.slice(0, -2)).brokenOffAt).toBeNull();
  });

  it('is none where all came early, because the delay of the sound has changed', () => {
    for (const earlyS of [0.1, 0.2, 0.3]) expect(after(timesS.map((timeS) => timeS - earlyS)).brokenOffAt).toBeNull();
  });
});
