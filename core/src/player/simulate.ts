import { USUAL_GROWTH_A_TENTH } from '../curve/usual-growth';
import type { Drill } from '../schema/grid';
import type { Dynamic } from '../schema/notation';
import type { Skill } from '../schema/skill';
import type { TempoMapDocument } from '../schema/tempo';
import { chance } from '../stats/random';
import type { ExpectedNote } from '../time/repetition-plan';
import { openTempo } from '../time/tempo-map';

/** One note as the simulated player played it. `expected` is null for a note that nobody asked for. */
export interface PlayedNote {
  timeS: number;
  levelDb: number;
  expected: number | null;
}

/** The spread at a tempo: flat up to the easy tempo, then × 1.5 for each tenth over it. */
export const spreadAtTempoMs = (skill: Skill, tempoBpm: number): number =>
  skill.easyUpToBpm === null
    ? skill.spreadMs
    : skill.spreadMs * USUAL_GROWTH_A_TENTH ** Math.max(0, (tempoBpm / skill.easyUpToBpm - 1) / 0.1);

/** How much louder than usual the simulated player plays a level that it is asked for, in dB. */
const PLAYED_DB: Partial<Record<Dynamic, number>> = { pp: -12, p: -6, f: 3, ff: 5 };

/** A skill at the level that a drill asks for. */
export const atLevel = (skill: Skill, { judging: { dynamic } }: Pick<Drill, 'judging'>): Skill => ({
  ...skill,
  levelDb: skill.levelDb + ((dynamic && PLAYED_DB[dynamic]) ?? 0),
});

/** A note that speaks twice does so within these, in seconds. */
const DOUBLED_S = [0.014, 0.028] as const;

/** Plays a grid once, each note with the spread of its local tempo. The same seed plays the same repetition. Returned in order of time. */
export const simulatePlaying = (
  notes: readonly ExpectedNote[],
  skill: Skill,
  tempo: TempoMapDocument,
  seed: number,
): PlayedNote[] => {
  const { uniform, normal } = chance(seed);
  // Drawn apart, so that whoever doubles no note plays as ever.
  const twice = chance(seed + 91);
  const map = openTempo(tempo);
  const firstS = notes[0]?.timeS ?? 0;
  const played: PlayedNote[] = [];
  for (const note of notes.slice(0, skill.breaksOffAt ?? notes.length)) {
    const habit = skill.habitsMs[String(note.index)] ?? 0;
    const spreadMs = spreadAtTempoMs(skill, map.tempoAt(note.beat));
    const deviationMs = skill.placementMs + habit + spreadMs * normal();
    const driftS = (note.timeS - firstS) * (skill.driftPct / 100);
    const levelDb = skill.levelDb + skill.levelSpreadDb * normal() + (note.accent ? 6 : 0);
    const missed = uniform() < skill.missedShare;
    const extra = uniform() < skill.extraShare;
    const timeS = note.timeS + driftS + deviationMs / 1000;
    if (!missed) played.push({ timeS, levelDb, expected: note.index });
    const doubled = twice.uniform() < (skill.doubledShare[String(note.index)] ?? 0);
    const gapS = DOUBLED_S[0] + (DOUBLED_S[1] - DOUBLED_S[0]) * twice.uniform();
    if (!missed && doubled) played.push({ timeS: timeS + gapS, levelDb: levelDb - 1, expected: note.index });
    if (extra) played.push({ timeS: timeS + note.intervalS * (0.4 + 0.2 * uniform()), levelDb: levelDb - 4, expected: null });
  }
  return played.sort((a, b) => a.timeS - b.timeS);
};
