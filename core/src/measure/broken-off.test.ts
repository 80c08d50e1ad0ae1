import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import type { Drill } from '../schema/grid';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { planRepetition, type RepetitionPlan } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { type AnalysisContext, analyseRepetition } from './analyse-repetition';
import { brokenOffAt } from './broken-off';

const planOf = (text: string, bpm: number) => {
  const drill = firstDrill(passageOfScore(readText(text), 'long').passage);
  return { drill, plan: planRepetition({ drill, tempo: constantTempo(bpm), startS: 0 }) };
};
const EIGHTHS = `meter: 4/4\n${'C4/8 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(8)}`;
const WITH_RESTS = `meter: 4/4\n${'C4/4 r/2. | r/1 | D4/4 E4 F4 G4 |\n'.repeat(4)}`;
const LONG = `meter: 4/4\n${'C4/1 | D4/2 E4/2 | F4/1~ | F4/1 |\n'.repeat(3)}`;

/** When silence is first taken for the end, and at which note; null where it never is before the end of the passage. */
const firstSaid = (notes: readonly { timeS: number; intervalS: number; beat: number }[], onsetsS: readonly number[]) => {
  const expected = notes.map((note, index) => ({ ...note, index, accent: false }));
  const endS = notes.at(-1)?.timeS ?? 0;
  for (let nowS = 0; nowS <= endS; nowS += 0.02) {
    const at = brokenOffAt(
      expected,
      onsetsS.filter((timeS) => timeS <= nowS),
      nowS,
      0,
    );
    if (at !== null) return { at, nowS };
  }
  return null;
};

describe('the end of the playing on the way', () => {
  it('is found at the first note that was not played, two beats and 1.5 s after that was due', () => {
    for (const bpm of [50, 80, 120, 200])
      for (const played of [2, 9, 30, 50]) {
        const { notes } = planOf(EIGHTHS, bpm).plan;
        const said = firstSaid(
          notes,
          notes.slice(0, played).map(({ timeS }) => timeS),
        );
        expect({ bpm, at: said?.at }).toEqual({ bpm, at: played });
        const silentS = (said?.nowS ?? 0) - (notes[played]?.timeS ?? 0);
        expect(silentS).toBeGreaterThanOrEqual(Math.max(1.5, 120 / bpm) - 0.001);
        expect(silentS).toBeLessThan(Math.max(1.5, 120 / bpm) + 0.05);
      }
  });

  it('is none where it goes on: unsteady, with notes left out, through rests and long notes, at any tempo', () => {
    for (const text of [EIGHTHS, WITH_RESTS, LONG])
      for (const bpm of [40, 60, 100, 180])
        for (let seed = 1; seed <= 20; seed += 1) {
          const { uniform, normal } = chance(97 * seed);
          const { notes } = planOf(text, bpm).plan;
          const shortestS = Math.min(...notes.map(({ intervalS }) => intervalS));
          const onsets = notes.flatMap(({ timeS }, k) =>
            text === EIGHTHS && k % 2 > 0 && uniform() < 0.4
              ? []
              : [timeS + 0.15 * shortestS * Math.max(-1, Math.min(1, normal()))],
          );
          expect({ text, bpm, said: firstSaid(notes, onsets) }).toEqual({ text, bpm, said: null });
        }
  });

  it('is none at half the tempo, which has its own name', () => {
    for (const text of [EIGHTHS, LONG])
      for (const bpm of [50, 90, 140]) {
        const { notes } = planOf(text, bpm).plan;
        const firstS = notes[0]?.timeS ?? 0;
        const slow = notes.map(({ timeS }) => firstS + 2 * (timeS - firstS));
        expect({ text, bpm, said: firstSaid(notes, slow) }).toEqual({ text, bpm, said: null });
      }
  });

  it('is the same where each note is a chord of four, struck not quite together as on a keyboard', () => {
    const struck = (timesS: readonly number[]) =>
      timesS.flatMap((timeS) => [0, 0.012, 0.02, 0.035].map((late) => timeS + late));
    for (const text of [EIGHTHS, LONG, WITH_RESTS])
      for (const bpm of [50, 90, 140]) {
        const { notes } = planOf(text, bpm).plan;
        const timesS = notes.map(({ timeS }) => timeS);
        const firstS = timesS[0] ?? 0;
        const of = { text, bpm };
        expect({ ...of, said: firstSaid(notes, struck(timesS)) }).toEqual({ ...of, said: null });
        // Half the tempo has its own name.
        const slow = timesS.map((timeS) => firstS + 2 * (timeS - firstS));
        if (text !== WITH_RESTS) expect({ ...of, said: firstSaid(notes, struck(slow)) }).toEqual({ ...of, said: null });
        // One chord is not yet a beginning.
        expect({ ...of, said: firstSaid(notes, struck(timesS.slice(0, 1))) }).toEqual({ ...of, said: null });
        expect({ ...of, at: firstSaid(notes, struck(timesS.slice(0, 5)))?.at }).toEqual({ ...of, at: 5 });
      }
  });

  it('is none before anything was played, and at the last notes the end itself is waited for', () => {
    const { notes } = planOf(EIGHTHS, 100).plan;
    expect(firstSaid(notes, [])).toBeNull();
    expect(firstSaid(notes, [notes[0]?.timeS ?? 0])).toBeNull();
    expect(
      firstSaid(
        notes,
        notes.slice(0, -2).map(({ timeS }) => timeS),
      ),
    ).toBeNull();
  });
});

/** How taps are analysed where the latency is known. */
const contextOf = (drill: Drill, plan: RepetitionPlan): AnalysisContext => ({
  drill,
  plan,
  profile: profileOf('tap'),
  tolerance: TOLERANCE_PRESETS.secure,
  latencyS: null,
  offset: { nearS: 0, reachS: 0.06 },
  gap: false,
});

describe('a repetition that broke off', () => {
  it('is one at double the tempo where that is what was played', () => {
    const { drill, plan } = planOf(EIGHTHS, 100);
    const firstS = plan.notes[0]?.timeS ?? 0;
    const onsets = plan.notes.map(({ timeS }) => ({ timeS: firstS + (timeS - firstS) / 2, levelDb: -12 }));
    const { verdict } = analyseRepetition(onsets, {
      ...contextOf(drill, plan),
      brokenOffAt: 33,
    });
    expect(verdict.reason).toBe('double-tempo');
  });

  it('is measured as far as it went, and says how far that was', () => {
    const { drill, plan } = planOf(EIGHTHS, 100);
    const { normal } = chance(11);
    const onsets = plan.notes.slice(0, 43).map(({ timeS }) => ({ timeS: timeS + 0.006 * normal(), levelDb: -12 }));
    const { notes, measures, verdict } = analyseRepetition(onsets, {
      ...contextOf(drill, plan),
      brokenOffAt: 43,
    });
    expect(verdict).toMatchObject({ outcome: 'broken', reason: 'broken-off' });
    expect(describeReason(verdict.why, { noteNaming: 'british' })).toBe(
      'You held on for 43 notes of 64; it broke off in bar 6 of it.',
    );
    expect(measures).toMatchObject({ missed: 0, extra: 0, brokenOff: { note: 43, of: 64, bar: 6 } });
    expect(measures.spreadMs?.value).toBeGreaterThan(4);
    expect(measures.spreadMs?.value).toBeLessThan(9);
    expect(notes).toHaveLength(64);
    expect(notes.slice(43).every(({ onsetS, deviationMs }) => onsetS === null && deviationMs === null)).toBe(true);
  });
});
