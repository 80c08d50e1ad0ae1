import {
  mean as independentMean,
  median as independentMedian,
  medianAbsoluteDeviation,
  sampleStandardDeviation,
} from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { groupChords } from '../align/group-chords';
import { onsetsCsv } from '../formats/onsets-csv';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import { pitchesOf } from '../rhythm/grid-shape';
import type { Onset } from '../schema/measures';
import type { Passage } from '../schema/passage';
import type { Repetition } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import type { Verdict } from '../schema/verdict';
import { profileOf } from '../signal/profiles';
import { sdEstimate, withoutNoise } from '../stats/interval-estimate';
import { chance } from '../stats/random';
import { mean, median, robustSd, sampleSd } from '../stats/summary';
import { expectedNotes } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { judge } from '../verdict/judge';
import { describeReason } from '../words/describe-reason';
import { analyseRepetition } from './analyse-repetition';

const drill = firstDrill(builtInPassage('hands-together') as Passage);
const notes = expectedNotes(drill.grid, constantTempo(100), 1);
const sentence = (verdict: Verdict) => describeReason(verdict.why, { noteNaming: 'british' });

/** Both hands, the left 8 ms after the right, each note held for 60 % of its interval. */
const bothHands = (wrongAt = -1): Onset[] =>
  drill.grid.events
    .flatMap((event, k) =>
      pitchesOf(event, drill.grid).map((pitch, hand) => {
        const timeS = (notes[k]?.timeS ?? 0) + (hand === 0 ? 0.004 : -0.004);
        const played = k === wrongAt && hand === 1 ? pitch + 1 : pitch;
        return { timeS, levelDb: -20, pitch: played, offS: timeS + 0.6 * (notes[k]?.intervalS ?? 0) };
      }),
    )
    .sort((a, b) => a.timeS - b.timeS);

const analysed = (onsets: Onset[], pitchCounts = false) =>
  analyseRepetition(onsets, {
    drill,
    plan: { notes },
    profile: profileOf('midi'),
    tolerance: { ...TOLERANCE_PRESETS.secure, pitchCounts },
    latencyS: 0,
    offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
    gap: false,
  });

describe('chords', () => {
  it('are joined within 35 ms and keep their notes', () => {
    const grouped = groupChords([0, 0.01, 0.034, 0.04, 0.2].map((timeS) => ({ timeS, levelDb: -10 - timeS })));
    expect(grouped.map((onset) => onset.members?.length ?? 1)).toEqual([3, 1, 1]);
    expect(grouped[0]?.timeS).toBeCloseTo(0.044 / 3, 9);
    expect(grouped[0]?.levelDb).toBe(-10);
  });

  it('tell which hand leads, how far they spread, and how long they sound', () => {
    const { measures } = analysed(bothHands());
    expect(measures).toMatchObject({ missed: 0, extra: 0, wrongNotes: 0 });
    expect(measures.rightHandMs).toBeCloseTo(-8, 6);
    expect(measures.chordSpreadMs).toBeCloseTo(8, 6);
    expect(measures.articulationPct).toBeGreaterThan(58);
    expect(measures.articulationPct).toBeLessThan(62);
  });

  it('with a wrong note are flagged, and missed where the player wants it', () => {
    expect(analysed(bothHands(4)).measures.wrongNotes).toBe(1);
    expect(analysed(bothHands(4)).verdict.outcome).toBe('clean');
    expect(analysed(bothHands(4), true).verdict).toMatchObject({ reason: 'notes', outcome: 'not-yet' });
    expect(sentence(analysed(bothHands(4), true).verdict)).toContain('1 wrong note');
  });
});

describe('the detector’s noise', () => {
  it('is taken off in quadrature, and never below nothing', () => {
    expect(withoutNoise({ value: 5, low: 4, high: 13 }, 3)).toEqual({ value: 4, low: Math.sqrt(7), high: Math.sqrt(160) });
    expect(withoutNoise({ value: 2, low: 1, high: null }, 3)).toEqual({ value: 0, low: 0, high: null });
  });

  it('gives back the player’s own unsteadiness from a noisy detector', () => {
    const { normal } = chance(31);
    const played = Array.from({ length: 4000 }, () => 6 * normal());
    const heard = played.map((value) => value + 3 * normal());
    expect(withoutNoise(sdEstimate(sampleSd(heard), heard.length), 3).value).toBeCloseTo(sampleSd(played), 0);
  });
});

describe('the verdict of few notes', () => {
  const judged = (count: number, spreadMs: number) => ({
    measures: {
      ...analysed(bothHands()).measures,
      spreadMs: sdEstimate(spreadMs, count),
      spreadShare: sdEstimate(spreadMs / 12, count),
    },
    tolerance: TOLERANCE_PRESETS.secure,
    noteCount: count,
    windowMs: 12,
    intervalMs: 120,
    isMixed: false,
    asksAccents: false,
    calibrated: false,
  });

  it('is only close where chance could explain the failure, and says so', () => {
    // 5 notes: the interval reaches down to 0.6 of the value, so 8.5 ms may be 5.1 ms; the limit is 5.3.
    expect(judge(judged(5, 8.5))).toMatchObject({ outcome: 'close', reason: 'spread' });
    expect(sentence(judge(judged(5, 8.5)))).toContain('5 notes are too few to be sure');
    expect(judge(judged(60, 9))).toMatchObject({ outcome: 'not-yet', reason: 'spread' });
    expect(sentence(judge(judged(4, 2)))).toContain('as far as 4 notes can say');
  });
});

describe('the statistics', () => {
  it('agree with an independent library (simple-statistics)', () => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const { normal, uniform } = chance(seed);
      const values = Array.from({ length: 3 + Math.floor(60 * uniform()) }, () => 1e4 + 20 * normal());
      expect(mean(values)).toBeCloseTo(independentMean(values), 9);
      expect(median(values)).toBeCloseTo(independentMedian(values), 9);
      expect(sampleSd(values)).toBeCloseTo(sampleStandardDeviation(values), 9);
      expect(robustSd(values)).toBeCloseTo(1.4826 * medianAbsoluteDeviation(values), 9);
    }
  });
});

describe('notes as comma-separated values', () => {
  it('hold a row a note, lines ended as RFC 4180 has them', () => {
    const { notes: results, measures, verdict } = analysed(bothHands());
    const extras = [{ timeS: 9.5, levelDb: -31.26 }];
    const repetition = {
      index: 0,
      tempo: constantTempo(100),
      notes: results,
      extras,
      measures,
      verdict,
    } as unknown as Repetition;
    const lines = onsetsCsv([repetition]).trimEnd().split('\r\n');
    expect(lines[0]).toBe('repetition,tempo_bpm,verdict,note,expected_s,onset_s,deviation_ms,level_db,cents');
    expect(lines).toHaveLength(1 + results.length + 1);
    expect(lines.at(-1)).toBe('1,100,clean,,,9.5,,-31.3,');
  });
});
