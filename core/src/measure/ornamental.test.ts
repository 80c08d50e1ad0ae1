import { describe, expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import type { Onset } from '../schema/measures';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { expectedNotes } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { analyseRepetition } from './analyse-repetition';
import { withoutWrittenDoubles } from './ornamental';

/** Plays a text at 80 with some unevenness, and between its notes what is given in beats; everything is heard 40 ms late. */
const played = (text: string, between: readonly number[], seed = 1) => {
  const drill = firstDrill(passageOfScore(readText(text), 'played').passage);
  const notes = expectedNotes(drill.grid, constantTempo(80), 1);
  const { normal } = chance(seed);
  const times = [...notes.map(({ timeS }) => timeS + 0.005 * normal()), ...between.map((beat) => 1 + (beat * 60) / 80)];
  const onsets = times.sort((a, b) => a - b).map((timeS): Onset => ({ timeS: timeS + 0.04, levelDb: -20 }));
  const { measures, verdict, extras } = analyseRepetition(onsets, {
    drill,
    plan: { notes },
    profile: profileOf('guitar'),
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset: { nearS: 0.04, reachS: SETTLED_OFFSET_S },
    gap: false,
  });
  return { extra: measures.extra, missed: measures.missed, outcome: verdict.outcome, shown: extras.length };
};

const PLAIN = 'C4/4 D E F | G4/4 F E D | C4/1 |';
const trill = [4.2, 4.36, 4.52, 4.68, 4.84];

describe('notes that the page only draws', () => {
  it('are no notes too many: a trill, a turn, grace notes before the beat and on it, a rolled chord', () => {
    for (const [text, between] of [
      ['C4/4 D E F | G4@trill/4 F E D | C4/1 |', trill],
      ['C4/4 D E F | G4@turn/4 F E D | C4/1 |', [4.4, 4.6, 4.8]],
      ['C4/4 D E F | G4@buzz/4 F E D | C4/1 |', [4.1, 4.2, 4.3, 4.4]],
      ['C4/4 D E F | {A4} G4/4 F E D | C4/1 |', [3.88]],
      ['C4/4 D E F | {A4} G4/4 F E D | C4/1 |', [4.12]],
      ['C4/4 D E F | {A4 F} G4/4 F E D | C4/1 |', [3.76, 3.88]],
      ['C4/4 D E F | C4@arpeggio+E4+G4/4 F4 E D | C4/1 |', [3.8, 4.2]],
    ] as const)
      for (const seed of [1, 2, 3]) {
        const { extra, missed, outcome, shown } = played(text, between, seed);
        expect([extra, missed, outcome], text).toEqual([0, 0, 'clean']);
        expect(shown, text).toBe(between.length);
      }
  });

  it('are too many where the page does not have them, at another note, or on a note that is only held', () => {
    expect(played(PLAIN, trill).extra).toBe(trill.length);
    expect(played('C4@trill/4 D E F | G4/4 F E D | C4/1 |', trill).extra).toBe(trill.length);
    expect(played('C4/4 D E F | G4@fermata/4 F E D | C4/1 |', [4.5]).extra).toBe(1);
    expect(played('C4/4 D E F | {A4} G4/4 F E D | C4/1 |', [4.6, 2.5]).extra).toBe(2);
  });

  it('need not be played', () => {
    expect(played('C4/4 D E F | {A4} G4@trill/4 F E D | C4/1 |', [])).toMatchObject({ extra: 0, missed: 0, outcome: 'clean' });
  });

  it('are no doubled attacks; a plain note struck twice is one', () => {
    const drill = firstDrill(passageOfScore(readText('C4@buzz/4 D {A4} E F | G4/4 F E D | C4/1 |'), 'twice').passage);
    const notes = expectedNotes(drill.grid, constantTempo(80), 1);
    const results = notes.map(({ index, timeS }) => ({
      index,
      expectedS: timeS,
      onsetS: timeS,
      deviationMs: 0,
      levelDb: -20,
      doubleAttackMs: 30,
    }));
    const doubled = withoutWrittenDoubles(results, drill.grid.events).flatMap(({ index, doubleAttackMs }) =>
      doubleAttackMs === undefined ? [] : [index],
    );
    expect(doubled).toEqual([1, 3, 4, 5, 6, 7, 8]);
  });
});
