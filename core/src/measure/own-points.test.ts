import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import { pitchesOf } from '../rhythm/grid-shape';
import { drillsOf } from '../rhythm/methods/methods';
import type { Drill } from '../schema/grid';
import type { NoteResult, Onset } from '../schema/measures';
import type { Passage } from '../schema/passage';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { drillTempo } from '../time/drill-tempo';
import { type ExpectedNote, planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { toleranceFor } from '../verdict/tolerance-for';
import { describeReason } from '../words/describe-reason';
import { analyseRepetition } from './analyse-repetition';
import { otherLevelFor } from './dynamics';

const midi = profileOf('midi');
const gridOf = (id: string) => firstDrill(builtInPassage(id) as Passage).grid;

/** Plays a drill on a keyboard that sends everything: each note a little uneven; `touch` says when a pitch is struck and let go. */
const playedOn = (
  drill: Drill,
  bpm: number,
  touch: (pitch: number, note: ExpectedNote, k: number) => { lateMs?: number; soundsS: number; pitch?: number },
) => {
  const plan = planRepetition({ drill, tempo: drillTempo(drill, constantTempo(bpm)), startS: 0 });
  const onsets = plan.notes.flatMap((note, k) => {
    const event = drill.grid.events[note.index];
    return (event ? pitchesOf(event, drill.grid) : []).map((pitch): Onset => {
      const { lateMs = 0, soundsS, pitch: sent = pitch } = touch(pitch, note, k);
      const timeS = note.timeS + (lateMs + 2 * Math.sin(7 * k)) / 1000;
      return { timeS, levelDb: -12, pitch: sent, offS: timeS + soundsS };
    });
  });
  const { verdict, measures } = analyseRepetition(
    onsets.sort((a, b) => a.timeS - b.timeS),
    {
      drill,
      plan,
      profile: midi,
      tolerance: toleranceFor(TOLERANCE_PRESETS.secure, midi),
      latencyS: null,
      offset: { nearS: 0, reachS: 0.06, farS: 0.5 },
      gap: false,
    },
  );
  return { ...verdict, measures, sentence: describeReason(verdict.why, { noteNaming: 'british' }) };
};

describe('a method judges its own point', () => {
  it('short and connected: how long the notes sound', () => {
    const [short, connected] = drillsOf(gridOf('five-steps'), 'touch') as [Drill, Drill];
    const sounding = (drill: Drill, share: number) =>
      playedOn(drill, 80, (_, { intervalS }) => ({ soundsS: share * intervalS }));
    expect(sounding(short, 0.5).outcome).toBe('clean');
    expect(sounding(short, 0.95)).toMatchObject({ reason: 'articulation', outcome: 'not-yet' });
    expect(sounding(short, 0.95).sentence).toMatch(/sound for 95\.\d % of their step; at most 65\.0 % is asked/);
    expect(sounding(connected, 0.98).outcome).toBe('clean');
    expect(sounding(connected, 0.5)).toMatchObject({ reason: 'articulation', outcome: 'not-yet' });
  });

  it('hold one: a held note that is let go early', () => {
    const drill = drillsOf(gridOf('five-steps'), 'hold-one')[1] as Drill;
    const held = drill.grid.events[0]?.notes.find((note) => note.held);
    const lastS = 8;
    const holding = (whole: boolean) =>
      playedOn(drill, 80, (pitch, { intervalS }, k) => {
        const isHeld = k === 0 && held?.pitch && pitch === 62;
        return { soundsS: isHeld && whole ? lastS : 0.5 * intervalS };
      });
    expect(holding(true).outcome).toBe('clean');
    expect(holding(false)).toMatchObject({ reason: 'let-go', outcome: 'not-yet' });
    expect(holding(false).sentence).toBe('1 held note was let go before the others were done.');
  });

  it.each([60, 90, 120])('hands: one that comes late throughout, at %s', (bpm) => {
    const drill = firstDrill(builtInPassage('hands-together') as Passage);
    const left = (lateMs: number) =>
      playedOn(drill, bpm, (pitch, { intervalS }) => ({ soundsS: 0.5 * intervalS, lateMs: pitch < 60 ? lateMs : 0 }));
    expect(left(8).outcome).toBe('clean');
    expect(left(60)).toMatchObject({ reason: 'hands', outcome: 'not-yet' });
    expect(left(60).sentence).toMatch(/^The left hand comes 60\.\d ms after the right/);
    expect(left(-60).sentence).toMatch(/^The right hand comes 60\.\d ms after the left/);
  });

  it('blocks: chords by their togetherness, however few they are', () => {
    const drill = drillsOf(gridOf('five-steps'), 'blocks', { size: 4 })[0] as Drill;
    const two = { ...drill, grid: { ...drill.grid, events: drill.grid.events.slice(0, 2) } };
    const rolled = (stepMs: number) =>
      playedOn(two, 60, (pitch, { intervalS }) => ({ soundsS: 0.5 * intervalS, lateMs: stepMs * (pitch - 60) }));
    expect(rolled(1).outcome).toBe('clean');
    expect(rolled(8)).toMatchObject({ reason: 'together' });
    expect(rolled(8).sentence).toMatch(/Notes struck together come .* ms apart; up to .* ms is asked/);
  });

  it('slow tempo, quick fingers: clicked at its share, with short notes', () => {
    const drill = drillsOf(gridOf('five-steps'), 'slow-quick', { percent: 50 })[0] as Drill;
    expect(drillTempo(drill, constantTempo(120))).toEqual(constantTempo(60));
    const sounding = (share: number) => playedOn(drill, 120, (_, { intervalS }) => ({ soundsS: share * intervalS }));
    expect(sounding(0.4).outcome).toBe('clean');
    expect(sounding(0.95).reason).toBe('articulation');
  });
});

describe('a wrong note', () => {
  const drill = firstDrill(builtInPassage('five-steps') as Passage);
  const withWrong = (semitones: number) =>
    playedOn(drill, 80, (pitch, { intervalS }, k) => ({
      soundsS: 0.9 * intervalS,
      pitch: k === 5 ? pitch + semitones : pitch,
    }));

  it.each([1, -1, 2, 7, 12, -12])('of %s semitones counts where the instrument sends its notes', (semitones) => {
    expect(withWrong(semitones)).toMatchObject({ outcome: 'not-yet', reason: 'notes' });
    expect(withWrong(semitones).sentence).toBe('1 wrong note.');
  });

  it('does not count where none was wrong, where the whole keyboard is shifted, or where the player does not want it to', () => {
    expect(withWrong(0).outcome).toBe('clean');
    const shifted = playedOn(drill, 80, (pitch, { intervalS }) => ({ soundsS: 0.9 * intervalS, pitch: pitch + 12 }));
    expect(shifted.outcome).toBe('clean');
    expect(toleranceFor({ ...TOLERANCE_PRESETS.secure, pitchCountsMidi: false }, midi).pitchCounts).toBe(false);
    expect(toleranceFor(TOLERANCE_PRESETS.secure, profileOf('plucked')).pitchCounts).toBe(false);
  });

  it('loud and soft: how far the two lie apart, where levels are known', () => {
    const drills = drillsOf(gridOf('five-steps'), 'loud-soft') as [Drill, Drill];
    const tempo = constantTempo(80);
    /** A repetition at a level, a little unequal; `notes` of the one before it are at another. */
    const played = (which: 0 | 1, levelDb: number, before: { drill: number; notes: NoteResult[] }[], unequalDb = 1) => {
      const drill = drills[which];
      const plan = planRepetition({ drill, tempo, startS: 0 });
      const onsets = plan.notes.map(
        ({ timeS }, k): Onset => ({
          timeS: timeS + 0.002 * Math.sin(7 * k),
          levelDb: levelDb + unequalDb * Math.sin(5 * k),
        }),
      );
      const { notes, verdict, measures } = analyseRepetition(onsets, {
        drill,
        plan,
        profile: midi,
        tolerance: TOLERANCE_PRESETS.secure,
        latencyS: null,
        offset: { nearS: 0, reachS: 0.06, farS: 0.5 },
        gap: false,
        otherLevel: otherLevelFor(drill, drills, before),
      });
      return { drill: which, notes, measures, ...verdict, sentence: describeReason(verdict.why, { noteNaming: 'british' }) };
    };
    const soft = played(0, -24, []);
    expect(soft.outcome).toBe('clean');
    expect(soft.measures).not.toHaveProperty('dynamicDb');
    expect(played(1, -16, [soft])).toMatchObject({ outcome: 'clean' });
    const same = played(1, -23, [soft]);
    expect(same).toMatchObject({ outcome: 'not-yet', reason: 'dynamics' });
    expect(same.sentence).toBe('Loud and soft lie 1.0 dB apart; 4.0 dB are asked.');
    // The wrong way round is no distance at all.
    expect(played(1, -30, [soft]).sentence).toBe('Loud and soft lie 0.0 dB apart; 4.0 dB are asked.');
    expect(played(0, -26, [played(1, -16, [soft])]).outcome).toBe('clean');
    // Taps are all alike: nothing tells their level.
    const tap = played(0, -12, [], 0);
    expect(played(1, -12, [tap], 0)).toMatchObject({ outcome: 'clean' });
  });
});
