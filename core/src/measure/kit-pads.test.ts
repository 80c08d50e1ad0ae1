import { expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { instrumentOf } from '../material/instruments';
import { makePattern } from '../material/patterns/patterns';
import { firstDrill } from '../plan/practice-config';
import { pitchesOf } from '../rhythm/grid-shape';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { expectedNotes } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { analyseRepetition } from './analyse-repetition';

const drill = firstDrill(makePattern('rudiment', { limbs: 'right-side', times: 2 }, instrumentOf('drum-kit')));
const notes = expectedNotes(drill.grid, constantTempo(90), 1);

/** A kit whose pads send other keys than the part is written with. */
const wrongNotesOf = (sent: (midi: number) => number): number | undefined =>
  analyseRepetition(
    drill.grid.events.map((event, k) => ({
      timeS: notes[k]?.timeS ?? 0,
      levelDb: -20,
      pitch: sent(pitchesOf(event, drill.grid)[0] ?? 0),
    })),
    {
      drill,
      plan: { notes },
      profile: profileOf('midi'),
      tolerance: { ...TOLERANCE_PRESETS.secure, pitchCounts: true },
      latencyS: 0,
      offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
      gap: false,
    },
  ).measures.wrongNotes;

it('either bass drum and either snare of a kit are right; another drum is not', () => {
  expect(new Set(drill.grid.events.flatMap((event) => pitchesOf(event, drill.grid)))).toEqual(new Set([36, 38]));
  expect(wrongNotesOf((midi) => midi)).toBe(0);
  expect(wrongNotesOf((midi) => (midi === 38 ? 40 : 35))).toBe(0);
  const snares = drill.grid.events.filter((event) => pitchesOf(event, drill.grid)[0] === 38).length;
  expect(wrongNotesOf((midi) => (midi === 38 ? 42 : midi))).toBe(snares);
});
