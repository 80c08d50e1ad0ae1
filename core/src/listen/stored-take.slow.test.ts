import { describe, expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { soundInMemory } from '../formats/sound-source';
import { analyseRepetition } from '../measure/analyse-repetition';
import { measureImport } from '../measure/measure-import';
import { editRepetition, onsetsOfRepetition, undoEdit } from '../measure/remeasure';
import { firstDrill } from '../plan/practice-config';
import { PLUCKED_STRING } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { makeReason } from '../schema/reason';
import { STEADY } from '../schema/skill';
import type { Repetition, Take } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { makeTake as takeOf } from '../session/make-take';
import { mergeTake } from '../session/merge-take';
import { profileOf } from '../signal/profiles';
import { sampleSd } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { listenToRecording } from './listen-to-recording';
import { reanalyseTake } from './reanalyse-take';

const RATE = 44_100;
const TEMPO = 84;
const tempo = constantTempo(TEMPO);
const passage = builtInPassage('five-steps') as Passage;
const drill = firstDrill(passage);
const tolerance = TOLERANCE_PRESETS.secure;
const profile = profileOf('plucked');

/** Two repetitions one after the other, as sound and as the take that an older engine made of them. */
const makeTake = (spreadMs = 8) => {
  const barS = (4 * 60) / TEMPO;
  const plans = [0.3, 0.3 + 4 * barS].map((startS) => planRepetition({ drill, tempo, startS }));
  const played = plans.map((plan, k) => simulatePlaying(plan.notes, { ...STEADY, spreadMs }, tempo, 30 + k));
  const sound = renderPlaying({
    played: played.flat(),
    grid: drill.grid,
    tempo,
    instrument: PLUCKED_STRING,
    sampleRateHz: RATE,
    lengthS: (plans.at(-1)?.endS ?? 0) + 1,
    seed: 7,
    noiseDb: -62,
  });
  const repetitions = plans.map((plan, index): Repetition => {
    const onsets = (played[index] ?? []).map(({ timeS, levelDb }) => ({ timeS, levelDb }));
    const { notes, extras, measures, verdict, shiftDoubtful } = analyseRepetition(onsets, {
      drill,
      plan,
      profile,
      tolerance,
      latencyS: null,
      offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
      gap: false,
    });
    return {
      index,
      drill: 0,
      tempo,
      downbeatS: plan.downbeatS,
      notes,
      extras,
      measures,
      verdict,
      shiftDoubtful,
      ease: 'easy',
      decision: {
        action: 'raise',
        tempo: constantTempo(TEMPO + 5),
        why: makeReason('climb-step', { bpm: TEMPO + 5 }),
        overruled: false,
      },
    };
  });
  const made = takeOf({
    id: '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b',
    sessionId: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427',
    passage,
    config: { passageId: passage.id, variantId: 'first', sectionId: 'whole' },
    startedAt: new Date('2026-03-01T18:00:00.000Z'),
    endedAt: new Date('2026-03-01T18:01:00.000Z'),
    input: 'simulated',
    goalBpm: 120,
    startBpm: TEMPO,
    strategy: null,
    tolerance,
    latencyS: null,
    profileId: 'plucked',
    drills: [drill],
    repetitions,
  });
  const take: Take = { ...made, engine: '1', hasRecording: true };
  return { take, sound, played };
};

const first = (take: Take) => take.repetitions[0] as Repetition;

describe('corrections by hand', () => {
  const { take } = makeTake();

  it('add an onset, remeasure, remember it, and undo it exactly', () => {
    const between = ((first(take).notes[3]?.expectedS ?? 0) + (first(take).notes[4]?.expectedS ?? 0)) / 2;
    const edited = editRepetition(take, first(take), { kind: 'add', onset: { timeS: between, levelDb: -20 } });
    expect(edited.measures.extra).toBe(1);
    expect(edited.verdict.reason).toBe('notes');
    expect(edited.edits).toHaveLength(1);
    expect(undoEdit(take, edited)).toEqual(first(take));
  });

  it.each([-0.6, -0.2, 0.4])('count an onset %s s from the end that it is nearest to', (offS) => {
    const { notes } = first(take);
    const timeS = ((offS < 0 ? notes[0] : notes.at(-1))?.expectedS ?? 0) + offS;
    const edited = editRepetition(take, first(take), { kind: 'add', onset: { timeS, levelDb: -20 } });
    expect(edited.measures).toMatchObject({ missed: 0, extra: 1 });
    expect(undoEdit(take, edited)).toEqual(first(take));
  });

  it('remove an onset, and bring it back', () => {
    const onset = onsetsOfRepetition(first(take))[5];
    if (!onset) throw new Error('nothing was played');
    const edited = editRepetition(take, first(take), { kind: 'remove', onset });
    expect(edited.measures.missed).toBe(1);
    expect(edited.notes[5]?.onsetS).toBeNull();
    const back = undoEdit(take, edited);
    expect(back.measures).toEqual(first(take).measures);
    expect(undoEdit(take, back)).toBe(back);
  });
});

describe('a re-analysis', () => {
  const { take, sound } = makeTake();

  it('hears the recording anew and leaves tempos and decisions as they were', () => {
    const told: number[] = [];
    const anew = reanalyseTake(take, soundInMemory(sound, RATE), (done) => told.push(done));
    expect(anew.engine).not.toBe('1');
    expect(told).toEqual([1, 2]);
    anew.repetitions.forEach((repetition, k) => {
      const before = take.repetitions[k] as Repetition;
      expect(repetition.decision).toEqual(before.decision);
      expect(repetition.measures).toMatchObject({ missed: 0, extra: 0 });
      expect(Math.abs((repetition.measures.spreadMs?.value ?? 0) - (before.measures.spreadMs?.value ?? 0))).toBeLessThan(1);
    });
  });

  it('makes corrections by hand again', () => {
    const between = ((first(take).notes[3]?.expectedS ?? 0) + (first(take).notes[4]?.expectedS ?? 0)) / 2;
    const edited = editRepetition(take, first(take), { kind: 'add', onset: { timeS: between, levelDb: -20 } });
    const anew = reanalyseTake({ ...take, repetitions: [edited] }, soundInMemory(sound, RATE));
    expect(first(anew).edits).toEqual(edited.edits);
    expect(first(anew).measures.extra).toBe(1);
  });

  it('can be stopped between repetitions', () => {
    const stop = () => {
      throw new Error('stopped');
    };
    expect(() => reanalyseTake(take, soundInMemory(sound, RATE), stop)).toThrow('stopped');
  });

  it('of a recording that ends early keeps going', () => {
    const anew = reanalyseTake(take, soundInMemory(sound.subarray(0, sound.length >> 1), RATE));
    expect(anew.repetitions[1]?.verdict.outcome).toBe('not-judged');
  });
});

describe('a file', () => {
  const { sound, played } = makeTake();
  const plan = { drill, tempo, tolerance, profile };

  it('gives its repetitions with the planted spread, whatever lies between them', () => {
    const told: number[] = [];
    const onsets = listenToRecording(soundInMemory(sound, RATE), { profile }, (share) => told.push(share));
    expect(told.at(-1)).toBe(1);
    // Two stray notes between the repetitions.
    const pauseS = ((played[0]?.at(-1)?.timeS ?? 0) + (played[1]?.[0]?.timeS ?? 0)) / 2;
    const strays = [0, 0.37].map((after) => ({ timeS: pauseS + after, levelDb: -25 }));
    const repetitions = measureImport(
      [...onsets, ...strays].sort((a, b) => a.timeS - b.timeS),
      plan,
    );
    expect(repetitions).toHaveLength(2);
    repetitions.forEach((repetition, k) => {
      const planted = sampleSd((played[k] ?? []).map((note, n) => 1000 * (note.timeS - (repetition.notes[n]?.expectedS ?? 0))));
      expect(repetition.measures.missed).toBe(0);
      expect(Math.abs((repetition.measures.spreadMs?.value ?? 0) - planted)).toBeLessThan(1);
      expect(Math.abs(repetition.measures.placementMs?.value ?? 9)).toBeLessThan(1);
    });
  });

  it('played without a click is found though its tempo is up to 4 % off the stated one', () => {
    const free = { ...plan, drill: { ...drill, click: { ...drill.click, kind: 'none' as const } } };
    let lost = 0;
    for (let seed = 1; seed <= 40; seed += 1) {
      const bpm = TEMPO * (1 + 0.04 * Math.sin(seed));
      const own = constantTempo(bpm);
      const onsets = [0.5, 14].flatMap((startS, k) =>
        simulatePlaying(planRepetition({ drill, tempo: own, startS }).notes, { ...STEADY, spreadMs: 6 }, own, 60 + seed + k),
      );
      const found = measureImport(onsets, free);
      const isFound =
        found.length === 2 &&
        found.every(({ measures, tempo: at }) => measures.missed === 0 && Math.abs(headlineBpm(at) / bpm - 1) < 0.006);
      if (!isFound) lost += 1;
    }
    expect(lost).toBeLessThanOrEqual(1);
  });

  it('that holds something else gives none', () => {
    const onsets = Array.from({ length: 9 }, (_, k) => ({ timeS: 0.9 * k, levelDb: -20 }));
    expect(measureImport(onsets, plan)).toEqual([]);
    expect(measureImport([], plan)).toEqual([]);
  });
});

describe('a take of which the server and the browser have a copy each', () => {
  const { take } = makeTake();
  const stored: Take = { ...take, revision: 4 };
  const mine: Take = { ...take, hasRecording: false };
  const onset = { timeS: (first(take).notes[3]?.expectedS ?? 0) + 0.1, levelDb: -20 };
  const corrected = editRepetition(take, first(take), { kind: 'add', onset });

  it('is the browser’s where nothing was done to the stored one, as the next change of it', () => {
    expect(mergeTake(stored, mine)).toEqual({ ...take, revision: 4 });
  });

  it('keeps the correction by hand of one and the answer about ease of the other', () => {
    const decision = { ...first(take).decision, action: 'lower' as const };
    const answered: Take = {
      ...mine,
      repetitions: [{ ...first(mine), ease: 'tense', decision }, ...mine.repetitions.slice(1)],
    };
    const merged = mergeTake({ ...stored, repetitions: [corrected, ...stored.repetitions.slice(1)] }, answered);
    expect(merged.repetitions[0]).toEqual({ ...corrected, ease: 'tense', decision });
    expect(merged.repetitions[1]).toEqual(stored.repetitions[1]);
  });

  it('keeps figures that were measured anew, under the name of the engine that made them', () => {
    const shifted = stored.repetitions.map((one) => ({ ...one, shiftDoubtful: true }));
    const merged = mergeTake({ ...stored, engine: '9', repetitions: shifted }, mine);
    expect(merged.engine).toBe('9');
    expect(merged.repetitions.every((one) => one.shiftDoubtful)).toBe(true);
  });

  it('keeps repetitions that only one of them has, and closes with the last of all', () => {
    const shorter: Take = { ...mine, endedAt: null, summary: null, repetitions: mine.repetitions.slice(0, 1) };
    const fromServer = mergeTake(stored, shorter);
    expect(fromServer.repetitions).toEqual(stored.repetitions);
    expect(fromServer.summary).toEqual(stored.summary);
    const fromBrowser = mergeTake({ ...shorter, revision: 2 }, mine);
    expect(fromBrowser.repetitions).toEqual(mine.repetitions);
    expect(fromBrowser).toMatchObject({ endedAt: mine.endedAt, summary: mine.summary, revision: 2 });
  });
});
