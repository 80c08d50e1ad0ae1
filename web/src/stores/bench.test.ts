import { analyseRepetition, type HeardRepetition, profileOf } from '@isochron/core/analysis';
import { builtInPassage, headlineBpm } from '@isochron/core/material';
import { drillOf, newPracticeConfig } from '@isochron/core/planning';
import {
  AppError,
  DEFAULT_SETTINGS,
  type Passage,
  type PracticeConfig,
  type Settings,
  STEADY,
  type Take,
  TOLERANCE_PRESETS,
} from '@isochron/core/schema';
import { simulatePlaying } from '@isochron/core/simulation';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Scheduled, TakeAudioOptions } from '../audio/take-audio';

/** What the stand-in for the audio was told, and what it may tell. */
const heard = vi.hoisted(() => ({
  options: null as TakeAudioOptions | null,
  scheduled: [] as Scheduled[],
  announced: [] as string[],
  silenced: 0,
  closed: 0,
  refusal: '',
  nowS: 0,
  kept: [] as { take: Take; complete: boolean }[],
}));

vi.mock('../audio/take-audio', () => ({
  openTakeAudio: async (options: TakeAudioOptions) => {
    if (heard.refusal) throw new AppError(heard.refusal);
    heard.options = options;
    return {
      nowS: () => heard.nowS,
      recordingStartS: 0,
      offset: { nearS: 0, reachS: 0.3 },
      latencyS: null,
      profileId: 'any',
      schedule: (one: Scheduled) => heard.scheduled.push(one),
      silence: () => {
        heard.silenced += 1;
      },
      announce: (what: string) => heard.announced.push(what),
      pauseRecording: () => {},
      resumeRecording: () => {},
      close: async () => {
        heard.closed += 1;
        return [];
      },
    };
  },
}));
vi.mock('../recorder/outbox', () => ({
  beginTake: () => {},
  endTake: () => {},
  keepForSending: async (kept: { take: Take; complete: boolean }) => {
    heard.kept.push(kept);
    return 'kept';
  },
  sendUnsent: async () => {},
}));
vi.mock('../recorder/unsent', () => ({ forgetTake: async () => {}, holdChunks: () => {} }));
vi.mock('../api/queries/practice', () => ({ shownPracticeConfig: <T>(config: T) => config, showPracticeConfig: () => {} }));
vi.mock('./practice-session', () => ({
  enter: () => {},
  presentPracticeSession: () => ({ id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427', startedAt: '', lastAt: '', blocks: [] }),
  stand: () => {},
}));
vi.mock('./stretch', () => ({ notePlayed: () => {} }));

const { useBench } = await import('./bench');

const passage = builtInPassage('five-steps') as Passage;
const config = (part: Partial<PracticeConfig> = {}): PracticeConfig => ({
  ...newPracticeConfig(passage, DEFAULT_SETTINGS),
  goalBpm: 120,
  ...part,
});
const begin = async (part: Partial<PracticeConfig> = {}, settings: Partial<Settings> = {}) => {
  const own = config(part);
  await useBench.getState().begin({
    passage,
    config: own,
    drills: [drillOf(passage, own)],
    startBpm: 100,
    settings: { ...DEFAULT_SETTINGS, announce: true, ...settings },
    purpose: 'work',
    from: null,
  });
};

/** Plays what was scheduled last with this unsteadiness, as the listening worker would tell of it. */
const play = (spreadMs: number, clipped = 0): void => {
  const { plan, drill, repetition, offset } = heard.scheduled.at(-1) as Scheduled;
  heard.nowS = plan.notes[0]?.timeS ?? 0;
  vi.advanceTimersByTime(100);
  const onsets = simulatePlaying(plan.notes, { ...STEADY, spreadMs }, plan.tempo, 40 + repetition);
  const analysed = analyseRepetition(onsets, {
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('any'),
    latencyS: null,
    offset,
    gap: false,
  });
  heard.nowS = (plan.notes.at(-1)?.timeS ?? 0) + 0.08;
  heard.options?.onHeard({ repetition, analysed, clipped } as HeardRepetition);
};
const bench = () => useBench.getState();
const settled = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => {
  Object.assign(heard, { options: null, scheduled: [], announced: [], silenced: 0, closed: 0, refusal: '', nowS: 0, kept: [] });
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'setTimeout', 'clearTimeout'] });
});
afterEach(async () => {
  bench().send({ type: 'stop' });
  await settled();
  bench().clear();
  vi.useRealTimers();
});

describe('the Bench', () => {
  it('counts in, hears, announces, keeps, and goes on at the next tempo by itself', async () => {
    await begin();
    expect(heard.scheduled).toHaveLength(1);
    expect(bench().loop.phase).toBe('counting');
    play(2);
    await settled();
    expect(heard.announced).toEqual(['raise']);
    expect(heard.scheduled).toHaveLength(2);
    expect(headlineBpm(heard.scheduled[1]?.plan.tempo as Scheduled['plan']['tempo'])).toBe(105);
    // The verdict is drawn first.
    await vi.waitFor(() =>
      expect(heard.kept.at(-1)).toMatchObject({ complete: false, take: { repetitions: [{ verdict: { outcome: 'clean' } }] } }),
    );
  });

  it('hears a repetition once, and nothing of one that is not at work', async () => {
    await begin();
    const options = heard.options as TakeAudioOptions;
    play(2);
    const before = bench().loop;
    const late = { repetition: 0, analysed: before.repetitions[0], clipped: 0 } as unknown as HeardRepetition;
    options.onHeard(late);
    options.onHeard({ ...late, repetition: 7 });
    expect(bench().loop).toBe(before);
  });

  it('says nothing aloud where that is not wished, and warns of a recording that is too loud', async () => {
    await begin({}, { announce: false });
    play(2, 12);
    expect(heard.announced).toEqual([]);
    expect(bench().remark).toMatch(/^Too loud/);
    play(2);
    expect(bench().remark).toBe('');
  });

  it('stops by a key, keeps the whole take, and takes a late answer about ease', async () => {
    await begin();
    play(2);
    bench().send({ type: 'stop' });
    await settled();
    expect(bench().loop).toMatchObject({ phase: 'finished', ended: 'stopped' });
    expect(heard.closed).toBe(1);
    expect(heard.kept.at(-1)).toMatchObject({ complete: true });
    bench().send({ type: 'ease', ease: 'tense' });
    await settled();
    expect(heard.kept.at(-1)?.take.repetitions[0]?.ease).toBe('tense');
    expect(heard.kept.at(-1)?.complete).toBe(true);
  });

  it('keeps nothing of a take that was stopped before anything was heard', async () => {
    await begin();
    bench().send({ type: 'stop' });
    await settled();
    expect(heard.kept).toEqual([]);
    expect(heard.closed).toBe(1);
  });

  it('stops at pain, whatever was asked for', async () => {
    await begin();
    play(2);
    bench().send({ type: 'ease', ease: 'pain' });
    await settled();
    expect(bench().loop.ended).toBe('pain');
    expect(heard.silenced).toBeGreaterThan(0);
  });

  it('says what keeps the sound from opening, and can be begun again', async () => {
    heard.refusal = 'The microphone is in use elsewhere.';
    await begin();
    expect(bench()).toMatchObject({ trouble: heard.refusal, takeId: null, opening: false });
    expect(bench().loop.phase).toBe('idle');
    heard.refusal = '';
    await begin();
    expect(bench().loop.phase).toBe('counting');
  });

  it('ends and keeps what was played where the input is lost, with the reason', async () => {
    await begin();
    play(2);
    heard.options?.onLost('The microphone is gone.');
    await settled();
    expect(bench()).toMatchObject({ trouble: 'The microphone is gone.', loop: { phase: 'finished', ended: 'input-lost' } });
    expect(heard.kept.at(-1)).toMatchObject({ complete: true });
  });

  it('rings when the time of a block is up, and ends after what sounds', async () => {
    await begin();
    play(2);
    const { plan } = heard.scheduled.at(-1) as Scheduled;
    heard.nowS = plan.notes[2]?.timeS ?? 0;
    vi.advanceTimersByTime(100);
    expect(bench().loop.phase).toBe('playing');
    bench().send({ type: 'time-up' });
    expect(heard.announced.at(-1)).toBe('bell');
    expect(bench().loop.phase).toBe('playing');
    play(2);
    await settled();
    expect(bench().loop).toMatchObject({ phase: 'finished', ended: 'time' });
    expect(heard.kept.at(-1)?.take.repetitions).toHaveLength(2);
  });

  it('begins once, however often begin is pressed', async () => {
    await Promise.all([begin(), begin()]);
    await begin();
    expect(heard.scheduled).toHaveLength(1);
  });

  it('does not clear a take that is under way', async () => {
    await begin();
    const { takeId } = bench();
    bench().clear();
    expect(bench().takeId).toBe(takeId);
    bench().send({ type: 'stop' });
    await settled();
    bench().clear();
    expect(bench()).toMatchObject({ takeId: null, loop: { phase: 'idle' } });
  });

  it('rests as many bars as are wished before the next count-in', async () => {
    await begin({ restBars: 2 });
    const first = heard.scheduled[0]?.plan as Scheduled['plan'];
    play(2);
    const second = heard.scheduled[1]?.plan as Scheduled['plan'];
    expect(second.countInStartS - first.endS).toBeCloseTo((2 * 4 * 60) / 100, 6);
  });

  it('hands on the drills that a strategy asks for besides', async () => {
    await begin({ strategyId: 'below-the-break' });
    expect(bench().loop.drills.map(({ repetitionKind }) => repetitionKind)).toEqual([undefined, 'sweep']);
    expect(heard.scheduled[0]?.drill.repetitionKind).toBe('sweep');
    expect(heard.scheduled[0]?.plan.tempo.kind).toBe('ramp');
  });
});
