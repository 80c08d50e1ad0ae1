import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import { pitchesOf } from '../rhythm/grid-shape';
import type { Onset } from '../schema/measures';
import type { Passage } from '../schema/passage';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { analyseRepetition } from './analyse-repetition';

const BAR = 'C4/4 D4/16 E4/16 F4/16 G4/16 A4/8 G4/8 F4/4 |';
const drill = firstDrill(passageOfScore(readText(`meter: 4/4\n${BAR}\n${BAR}\n${BAR}`), 'typed').passage);
const plan = planRepetition({ drill, tempo: constantTempo(80), startS: 0 });
const { notes } = plan;
const firstS = notes[0]?.timeS ?? 0;
const BAR_S = 3;

/** The verdict on onsets, a few ms unsteady; with pitches as a MIDI instrument sends them. */
const verdictOn = (timesS: readonly number[], pitches?: readonly number[], seed = 1) => {
  const { normal } = chance(seed);
  const onsets = timesS.map(
    (timeS, k): Onset => ({
      timeS: timeS + 0.004 * normal(),
      levelDb: -12,
      ...(pitches ? { pitch: pitches[k] as number } : {}),
    }),
  );
  const { verdict } = analyseRepetition(onsets, {
    drill,
    plan,
    profile: profileOf(pitches ? 'midi' : 'tap'),
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset: { nearS: 0, reachS: 0.06, farS: 0.8 },
    gap: false,
  });
  return { ...verdict, sentence: describeReason(verdict.why, { noteNaming: 'british' }) };
};

const times = notes.map(({ timeS }) => timeS);
const until = (timesS: readonly number[]) => timesS.filter((timeS) => timeS < (times.at(-1) ?? 0) + 0.3);

describe('what was played instead', () => {
  it('is half or double the tempo', () => {
    const at = (scale: number) => until(times.map((timeS) => firstS + scale * (timeS - firstS)));
    expect(verdictOn(at(2))).toMatchObject({ outcome: 'not-judged', reason: 'half-tempo' });
    expect(verdictOn(at(0.5))).toMatchObject({ outcome: 'not-judged', reason: 'double-tempo' });
  });

  it('is everything but the first bar, or everything a bar late', () => {
    const without = times.filter((timeS) => timeS > firstS + BAR_S - 0.1);
    expect(verdictOn(without)).toMatchObject({ outcome: 'not-judged', reason: 'first-bar' });
    expect(verdictOn(until(times.map((timeS) => timeS + BAR_S)))).toMatchObject({ reason: 'first-bar' });
  });

  it('is one note twice and the rest a step late, with its place', () => {
    const at = 5;
    const step = notes[at]?.intervalS ?? 0;
    const played = until([...times.slice(0, at + 1), ...times.slice(at).map((timeS) => timeS + step)]);
    const verdict = verdictOn(played);
    expect(verdict).toMatchObject({ outcome: 'broken', reason: 'stumble' });
    expect(verdict.sentence).toMatch(/A stumble at note 6, and the rest a step late|A stumble, and the rest a step late/);
  });

  it('is told by its pitches in an even run, where the times tell nothing', () => {
    const text = `meter: 4/4\n${'C4/8 D4 E4 F4 G4 A4 B4 C5 |\n'.repeat(2)}`;
    const even = firstDrill(passageOfScore(readText(text), 'typed').passage);
    const own = planRepetition({ drill: even, tempo: constantTempo(80), startS: 0 });
    const pitches = own.notes.map((_, k) => [60, 62, 64, 65, 67, 69, 71, 72][k % 8] as number);
    const stumbled = [...pitches.slice(0, 5), ...pitches.slice(4, -1)];
    const verdictOf = (sent: readonly number[]) =>
      analyseRepetition(
        own.notes.map(({ timeS }, k) => ({ timeS, levelDb: -12, pitch: sent[k] as number })),
        {
          drill: even,
          plan: own,
          profile: profileOf('midi'),
          tolerance: TOLERANCE_PRESETS.secure,
          latencyS: null,
          offset: { nearS: 0, reachS: 0.06 },
          gap: false,
        },
      ).verdict;
    expect(verdictOf(pitches).outcome).toBe('clean');
    expect(verdictOf(stumbled)).toMatchObject({ reason: 'stumble', why: { values: { note: 5 } } });
  });

  it('is told of chords as well, where each hand sends its own notes', () => {
    const both = firstDrill(builtInPassage('hands-together') as Passage);
    const own = planRepetition({ drill: both, tempo: constantTempo(60), startS: 0 });
    const first = own.notes[0]?.timeS ?? 0;
    const lastS = own.notes.at(-1)?.timeS ?? 0;
    const slow = own.notes.flatMap(({ timeS, index }) => {
      const at = first + 2 * (timeS - first);
      const event = both.grid.events[index];
      return event && at <= lastS + 0.1 ? pitchesOf(event, both.grid).map((pitch) => ({ timeS: at, levelDb: -12, pitch })) : [];
    });
    const { verdict } = analyseRepetition(slow, {
      drill: both,
      plan: own,
      profile: profileOf('midi'),
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      offset: { nearS: 0, reachS: 0.06, farS: 1 },
      gap: false,
    });
    expect(verdict.reason).toBe('half-tempo');
  });

  it('is going on into the count-in, where what followed came apart', () => {
    const before = [-3.2, -2.6, -2, -1.4].map((s) => firstS + s);
    expect(verdictOn([...before, ...times.slice(3)])).toMatchObject({ outcome: 'not-judged', reason: 'played-on' });
    expect(verdictOn([...before, ...times])).toMatchObject({ outcome: 'clean' });
  });

  it('is a pause and no new latency where a note was played before it', () => {
    for (const pauseS of [0.35, 0.45, 0.55, 0.7]) {
      const verdict = verdictOn(until(times.map((timeS, k) => (k < 2 ? timeS : timeS + pauseS))));
      expect({ pauseS, reason: verdict.reason }).not.toEqual({ pauseS, reason: 'notes' });
      expect(verdict.outcome).toBe('broken');
    }
    // Late from the beginning, it is one.
    expect(verdictOn(times.map((timeS) => timeS + 0.45))).toMatchObject({ outcome: 'clean' });
  });

  it('is a stumble also where a short step late is only late beside long notes, and one note more without it is none', () => {
    const long = 'C4/2 D4/16 E4/16 F4/16 G4/16 A4/4 |';
    const slow = firstDrill(passageOfScore(readText(`meter: 4/4\n${long}\n${long}\n${long}`), 'typed').passage);
    const slowPlan = planRepetition({ drill: slow, tempo: constantTempo(80), startS: 0 });
    const due = slowPlan.notes.map(({ timeS }) => timeS);
    const step = slowPlan.notes[3]?.intervalS ?? 0;
    const reasonOf = (timesS: readonly number[]) =>
      analyseRepetition(
        timesS.map((timeS) => ({ timeS, levelDb: -12 })),
        {
          drill: slow,
          plan: slowPlan,
          profile: profileOf('tap'),
          tolerance: TOLERANCE_PRESETS.secure,
          latencyS: null,
          offset: { nearS: 0, reachS: 0.06, farS: 0.8 },
          gap: false,
        },
      ).verdict.reason;
    for (const at of [2, 3, 4, 8, 9]) {
      const late = [...due.slice(0, at + 1), ...due.slice(at).map((timeS) => timeS + step)];
      expect({ at, reason: reasonOf(late) }).toEqual({ at, reason: 'stumble' });
      const added = [...due, (due[at] ?? 0) + step / 2].sort((a, b) => a - b);
      expect({ at, reason: reasonOf(added) }).toEqual({ at, reason: 'notes' });
    }
  });

  it('is no stumble where nothing, or next to nothing, came a step late', () => {
    for (let last = 6; last < times.length; last += 1) expect(verdictOn(times.slice(0, last)).reason).not.toBe('stumble');
    const lateNote = (at: number) => times.map((timeS, k) => (k === at ? timeS + 0.15 : timeS));
    for (let at = 6; at < times.length; at += 1) expect(verdictOn(lateNote(at)).reason).not.toBe('stumble');
  });

  it('is none of this where it was only bad', () => {
    const kinds = new Set<string>();
    for (let seed = 1; seed <= 150; seed += 1) {
      const { uniform } = chance(seed + 77);
      const wild = times.flatMap((timeS) =>
        uniform() < 0.25
          ? []
          : uniform() < 0.15
            ? [timeS, timeS + 0.1]
            : [timeS + (seed % 3 === 0 ? 0.15 * (uniform() - 0.5) : 0)],
      );
      kinds.add(verdictOn(wild, undefined, seed).reason);
    }
    for (const kind of ['half-tempo', 'double-tempo', 'first-bar', 'stumble', 'played-on'])
      expect([...kinds]).not.toContain(kind);
  });
});
