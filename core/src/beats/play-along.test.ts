import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseRepetition } from '../measure/analyse-repetition';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Accompaniment } from '../schema/accompaniment';
import type { Drill } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { TempoMapSchema } from '../schema/tempo';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { mean } from '../stats/summary';
import { drillTempo, ownBpmOf } from '../time/drill-tempo';
import { isWithoutClick, planRepetition } from '../time/repetition-plan';
import { constantTempo, openTempo } from '../time/tempo-map';
import { toleranceWindowMs } from '../verdict/tolerance-window';
import { describeReason } from '../words/describe-reason';
import { barBeats } from './accompaniment';
import { alongside, beatsLeft, beatsOf } from './alongside';
import { playAlongReason } from './play-along-reason';
import { beatsPassing, placeAt, playbackOf } from './playback';

const READER = { noteNaming: 'british' } as const;
const DRILL = firstDrill(builtInPassage('five-steps') as Passage);

/** A recording at a tempo whose beats are off an even pulse by chance. */
const recording = (bpm: number, unsteadinessMs: number, seed = 1): Accompaniment => {
  const { normal } = chance(seed);
  const timesS = Array.from({ length: 60 }, (_, k) => 2 + (60 / bpm) * k + (unsteadinessMs / 1000) * normal());
  return {
    id: '00000000-0000-4000-a000-000000000001',
    revision: 1,
    title: 'Made up',
    addedAt: '2026-03-01T10:00:00.000Z',
    lengthS: 60,
    beats: { timesS, onsetsS: timesS, support: 1, beatsPerBar: 4, firstBarBeat: 1 },
  };
};
const playAlong = (one: Accompaniment, fromBeat = 5): Drill => alongside(DRILL, one, fromBeat, false) as Drill;

/** What is measured of a player along with a recording: `deviate` says how far from its beats each note lies, in seconds. */
const measured = (drill: Drill, bpm: number, deviate: (timeS: number, index: number) => number) => {
  const plan = planRepetition({ drill, tempo: drillTempo(drill, constantTempo(bpm)), startS: 1 });
  const onsets = plan.notes.map(({ timeS, index }) => ({ timeS: timeS + deviate(timeS, index), levelDb: -20 }));
  return analyseRepetition(onsets, {
    drill,
    plan,
    profile: { ...profileOf('any'), noiseSdMs: 0 },
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: 0,
    offset: { nearS: 0, reachS: 0.1 },
    gap: false,
  });
};

describe('beats that someone played', () => {
  it('are a tempo map: there and back, in order, whatever they are', () => {
    const beats = fc.array(fc.double({ min: 0.1, max: 2, noNaN: true }), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(beats, fc.double({ min: -6, max: 50, noNaN: true }), (steps, beat) => {
        const timesS = [0, ...steps].map((_, k) => steps.slice(0, k).reduce((sum, step) => sum + step, 0));
        const map = openTempo(TempoMapSchema.parse({ kind: 'beats', timesS, unsteadinessMs: 0 }));
        expect(map.beatOf(map.timeOf(beat))).toBeCloseTo(beat, 6);
        expect(map.timeOf(beat + 0.01)).toBeGreaterThan(map.timeOf(beat));
        timesS.forEach((timeS, k) => {
          expect(map.timeOf(k)).toBeCloseTo(timeS, 9);
        });
      }),
      { numRuns: 200 },
    );
  });

  it('have the tempo around a place, not that of one beat that unsteadiness', () => {
    const map = openTempo({ kind: 'beats', timesS: [0, 0.5, 1, 1.55, 2, 2.5, 3, 3.5, 4], unsteadinessMs: 20 });
    expect(map.headlineBpm).toBeCloseTo(120, 9);
    expect(map.tempoAt(2)).toBeGreaterThan(115);
  });

  it('are refused where they do not follow one another', () => {
    expect(TempoMapSchema.safeParse({ kind: 'beats', timesS: [0, 1, 1], unsteadinessMs: 0 }).success).toBe(false);
  });
});

describe('playing along', () => {
  it('lays the grid on the recording’s beats, all slower or faster by one share', () => {
    const one = recording(90, 8);
    const drill = playAlong(one);
    const own = ownBpmOf(drill.playAlong as NonNullable<Drill['playAlong']>);
    const plan = planRepetition({ drill, tempo: drillTempo(drill, constantTempo(own / 2)), startS: 0 });
    const onBeats = plan.notes.filter(({ beat }) => Number.isInteger(beat));
    for (const { beat, timeS } of onBeats) {
      const inRecordingS = (one.beats?.timesS[5 + beat] as number) - (one.beats?.timesS[5] as number);
      expect(timeS - plan.downbeatS).toBeCloseTo(2 * inRecordingS, 9);
    }
    expect(onBeats.length).toBeGreaterThan(1);
    // The recording gives the time: nobody plays alone.
    expect(drill.click.kind).toBe('none');
    expect(isWithoutClick(drill)).toBe(false);
    expect(alongside({ ...DRILL, click: { ...DRILL.click, kind: 'beat' } }, one, 0, true)?.click.kind).toBe('beat');
  });

  it('needs two beats, and knows how many there are', () => {
    const one = recording(90, 0);
    expect(alongside(DRILL, one, 59, false)).toBeNull();
    expect(alongside(DRILL, { ...one, beats: null }, 0, false)).toBeNull();
    expect(beatsLeft(one, 50)).toBe(9);
    expect(playAlong(one).playAlong?.timesS).toHaveLength(beatsOf(DRILL) + 1);
    expect(barBeats(one.beats as NonNullable<Accompaniment['beats']>).slice(0, 3)).toEqual([1, 5, 9]);
  });

  it('gives what is played as much more room as the recording’s beats are uneven, slower ones more', () => {
    const drill = playAlong(recording(90, 9));
    const unsteadinessMs = drill.playAlong?.unsteadinessMs as number;
    expect(unsteadinessMs).toBeGreaterThan(4);
    const notesAt = (bpm: number) => planRepetition({ drill, tempo: drillTempo(drill, constantTempo(bpm)), startS: 0 }).notes;
    const own = ownBpmOf(drill.playAlong as NonNullable<Drill['playAlong']>);
    expect(notesAt(own)[0]?.unsteadinessMs).toBeCloseTo(unsteadinessMs, 6);
    expect(notesAt(own / 2)[0]?.unsteadinessMs).toBeCloseTo(2 * unsteadinessMs, 6);
    expect(toleranceWindowMs(TOLERANCE_PRESETS.secure, 200, 15)).toBeCloseTo(Math.hypot(20, 15), 9);
    expect(toleranceWindowMs(TOLERANCE_PRESETS.secure, 200)).toBe(20);
  });

  it('measures who follows every unsteadiness by their own alone, and finds no more in an even pulse than is the player’s', () => {
    const OWN_MS = 5;
    const [following, pulsing, owned]: number[][] = [[], [], []];
    for (let seed = 1; seed <= 60; seed += 1) {
      const drill = playAlong(recording(90, 12, seed));
      const beats = drill.playAlong as NonNullable<Drill['playAlong']>;
      const bpm = ownBpmOf(beats);
      const { normal } = chance(1000 + seed);
      const spreadOf = (deviate: (beat: number) => number) => {
        const plan = planRepetition({ drill, tempo: drillTempo(drill, constantTempo(bpm)), startS: 1 });
        const off = plan.notes.map(({ beat }) => deviate(beat) + (OWN_MS / 1000) * normal());
        return measured(drill, bpm, (_, index) => off[index] as number).measures.spreadMs?.value ?? 0;
      };
      following?.push(spreadOf(() => 0));
      const map = openTempo(drillTempo(drill, constantTempo(bpm)));
      const spreadMs = spreadOf((beat) => (60 / bpm) * beat - map.timeOf(beat));
      pulsing?.push(spreadMs);
      owned?.push((playAlongReason(beats, bpm, spreadMs).values.own as number | undefined) ?? spreadMs);
    }
    expect(mean(following as number[])).toBeCloseTo(OWN_MS, 0);
    expect(mean(pulsing as number[])).toBeGreaterThan(8);
    // “At least”: on average not more than the player's own.
    expect(mean(owned as number[])).toBeLessThan(OWN_MS + 1);
  });

  it('says nothing of unevenness where there is none, and never more than it can know', () => {
    const even = playAlong(recording(90, 0)).playAlong as NonNullable<Drill['playAlong']>;
    expect(describeReason(playAlongReason(even, ownBpmOf(even), 9), READER)).toBe(
      'Along with “Made up” at its own speed. Its beats are as even there as a click.',
    );
    const uneven = { ...even, unsteadinessMs: 6 };
    expect(describeReason(playAlongReason(uneven, ownBpmOf(even) / 2, 13), READER)).toBe(
      'Along with “Made up” at 50 % of its speed. Its own beats lie 12.0 ms off an even pulse there; the tolerance is wider by that. Of a spread of 13.0 ms at least 5.0 ms are yours.',
    );
    expect(describeReason(playAlongReason(uneven, ownBpmOf(even), 5), READER)).toContain(
      'All of a spread of 5.0 ms may be the recording’s.',
    );
    expect(describeReason(playAlongReason(uneven, ownBpmOf(even), 3), READER)).toContain(
      'You went with them: the spread against them is 3.0 ms.',
    );
    expect(describeReason(playAlongReason(uneven, ownBpmOf(even), null), READER)).not.toContain('spread of');
  });
});

describe('a recording that sounds', () => {
  const loop = { fromS: 10, toS: 14 };

  it('is where its speed and its loop bring it', () => {
    expect(placeAt({ atS: 100, fromS: 3, rate: 0.5, loop: null }, 104)).toBe(5);
    expect(placeAt({ atS: 100, fromS: 3, rate: 0.5, loop: null }, 99)).toBe(3);
    expect(placeAt({ atS: 100, fromS: 12, rate: 1, loop }, 103)).toBe(11);
    expect(placeAt({ atS: 100, fromS: 12, rate: 2, loop }, 109.5)).toBeCloseTo(11, 9);
  });

  it('passes each beat once a round, at the moment when that place sounds', () => {
    const timesS = [9, 10.5, 12, 13.9, 15];
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 1.5, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (rate, fromS) => {
          const playback = { atS: 0, fromS: 11, rate, loop };
          for (const { beat, timeS } of beatsPassing(playback, timesS, fromS, fromS + 5))
            expect(placeAt(playback, timeS)).toBeCloseTo(timesS[beat] as number, 6);
          const cut = fromS + 2.2;
          expect([...beatsPassing(playback, timesS, fromS, cut), ...beatsPassing(playback, timesS, cut, fromS + 5)]).toEqual(
            beatsPassing(playback, timesS, fromS, fromS + 5),
          );
        },
      ),
    );
  });

  it('begins with the downbeat, or with a pickup before it, on the beats that are measured', () => {
    const drill = playAlong(recording(80, 5));
    const plan = planRepetition({ drill, tempo: drillTempo(drill, constantTempo(60)), startS: 2 });
    const { atS, fromS, rate } = playbackOf(drill.playAlong as NonNullable<Drill['playAlong']>, plan);
    const map = openTempo(plan.tempo);
    for (const beat of [0, 1, 2])
      expect(placeAt({ atS, fromS, rate, loop: null }, plan.downbeatS + map.timeOf(beat))).toBeCloseTo(
        drill.playAlong?.timesS[beat] as number,
        9,
      );
    const early = { ...plan, notes: [{ ...(plan.notes[0] as (typeof plan.notes)[number]), timeS: plan.downbeatS - 0.5 }] };
    const led = playbackOf(drill.playAlong as NonNullable<Drill['playAlong']>, early);
    expect(led.atS).toBeCloseTo(plan.downbeatS - 0.5, 9);
    expect(placeAt(led, plan.downbeatS)).toBeCloseTo(drill.playAlong?.timesS[0] as number, 9);
  });
});
