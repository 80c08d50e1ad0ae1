import { describe, expect, it } from 'vitest';
import { distractionCost } from '../across/distraction';
import { SETTLED_OFFSET_S } from '../align/align';
import { createListener, type HeardRepetition } from '../listen/listener';
import { STRUCK_BAR } from '../player/instruments';
import { pitchHz, renderPlaying } from '../player/render';
import { renderPulses } from '../player/render-pulses';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import { gridOf } from '../rhythm/grid-of';
import { pitchesOf } from '../rhythm/grid-shape';
import { drillsOf, METHODS } from '../rhythm/methods/methods';
import type { Drill, GridEvent } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { type Skill, STEADY } from '../schema/skill';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { createPulseDetector } from '../signal/pulses';
import { sampleSd } from '../stats/summary';
import { beginStrategy } from '../strategies/strategies';
import { constantTempo } from '../time/tempo-map';
import { advance } from './loop';
import { IDLE, type LoopState } from './loop-state';

const RATE = 24_000;
const BLOCK = 1024;
const five = builtInPassage('five-steps') as Passage;
const grid = gridOf(five, five.variants[0]);
const BPM = 96;

const begin = (drills: readonly Drill[], bpm = BPM): LoopState =>
  advance(IDLE, {
    type: 'begin',
    drills,
    target: { goalBpm: 200, startBpm: bpm },
    strategy: beginStrategy('half-speed-climb', null),
    tempo: constantTempo(bpm),
    nowS: 0,
    recordingStartS: 0,
    offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
  }).state;

/** Plays what the loop asks for, as sound, and gives the loop what was heard; `stretch` plays it slower than asked. */
const play = (
  state: LoopState,
  skill: Skill,
  seed: number,
  stretch = 1,
): { next: LoopState; heard: HeardRepetition; planted: number[] } => {
  const { plan, drill } = state;
  if (!plan || !drill) throw new Error('nothing is asked for');
  const zero = plan.notes[0]?.timeS ?? 0;
  const played = simulatePlaying(plan.notes, skill, plan.tempo, seed).map((note) => ({
    ...note,
    timeS: zero + (note.timeS - zero) * stretch,
  }));
  const fromS = plan.countInStartS;
  const shifted = played.map((note) => ({ ...note, timeS: note.timeS - fromS }));
  const lengthS = Math.max(plan.endS - fromS, ...shifted.map(({ timeS }) => timeS)) + 3;
  const hz = pitchHz(pitchesOf(drill.grid.events[0] as GridEvent, drill.grid)[0] ?? 69);
  const sound =
    drill.listen === 'pulses'
      ? renderPulses({ played: shifted, hz, sampleRateHz: RATE, lengthS, seed, noiseDb: -66 })
      : renderPlaying({
          played: shifted,
          grid: drill.grid,
          tempo: plan.tempo,
          instrument: STRUCK_BAR,
          sampleRateHz: RATE,
          lengthS,
          seed,
          noiseDb: -66,
        });
  const listener = createListener(RATE);
  listener.expect({
    repetition: state.repetitions.length,
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset: state.offset,
    hearsClicks: false,
    profile: profileOf('struck'),
  });
  const first = Math.round(fromS * RATE);
  let heard: HeardRepetition | null = null;
  for (let at = 0; at < sound.length && !heard; at += BLOCK) heard = listener.push(sound.slice(at, at + BLOCK), first + at);
  if (!heard) throw new Error(`${drill.method.id} came to no end`);
  const nowS = (plan.notes.at(-1)?.timeS ?? 0) + 0.2;
  const { state: next } = advance({ ...state, phase: 'playing' }, { type: 'analysed', analysed: heard.analysed, nowS });
  const planted = played.flatMap((note) =>
    note.expected === null ? [] : [(note.timeS - zero - ((plan.notes[note.expected]?.timeS ?? 0) - zero) * stretch) * 1000],
  );
  return { next, heard, planted };
};

/** Long drills are played once in part: the loop is the same for all that a method makes. */
const shortest = (drills: readonly Drill[]): Drill[] =>
  [...drills].sort((a, b) => a.grid.events.length - b.grid.events.length).slice(0, 2);

describe.each(METHODS.map((method) => [method.id] as const))('the method %s', (id) => {
  const parameters =
    {
      'long-run': { rounds: 2 },
      gaps: { clicked: 1, silent: 1 },
      sweep: { bars: 4 },
      'sweep-down': { bars: 4 },
      arc: { bars: 4 },
    }[id] ?? {};
  it('is played through the whole loop, and planted deviations come back', () => {
    const drills = shortest(drillsOf(grid, id, parameters));
    const { heard, next, planted } = play(begin(drills), { ...STEADY, spreadMs: 6, levelSpreadDb: 1 }, 11);
    const { measures, notes } = heard.analysed;
    expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(next.repetitions).toHaveLength(1);
    expect(['counting', 'finished']).toContain(next.phase);
    if (planted.length < 3) return;
    const rest = (values: readonly number[]) =>
      values.map((value) => value - values.reduce((sum, one) => sum + one, 0) / values.length);
    const found = rest(notes.map(({ deviationMs }) => deviationMs ?? 0));
    if (drills[0]?.judging.ownTempo) return;
    // Chords begin with their first note; waves of pitch are blunter than attacks.
    const within = drills[0]?.listen === 'pulses' ? 12 : 3.5;
    for (const [k, value] of rest(planted).entries()) expect(Math.abs((found[k] as number) - value)).toBeLessThan(within);
  });
});

describe('a round of drills', () => {
  it('goes on to the next after a clean repetition, at the same tempo, and lets the strategy raise after the last', () => {
    const drills = drillsOf(grid, 'long-short');
    let state = begin(drills);
    const clean = { ...STEADY, spreadMs: 1.5 };
    state = play(state, clean, 1).next;
    expect(state).toMatchObject({ drillIndex: 1 });
    expect(state.repetitions[0]).toMatchObject({ drill: 0, decision: { action: 'next', why: { code: 'next-drill' } } });
    expect(state.tempo).toEqual(constantTempo(BPM));
    state = play(state, clean, 2).next;
    expect(state).toMatchObject({ drillIndex: 0 });
    expect(state.repetitions[1]).toMatchObject({ drill: 1, decision: { action: 'raise' } });
  });

  it('stays with a drill that is not clean', () => {
    const state = play(begin(drillsOf(grid, 'long-short')), { ...STEADY, spreadMs: 40 }, 1).next;
    expect(state).toMatchObject({ drillIndex: 0 });
  });

  it('goes where the player says, and not past its ends', () => {
    const drills = drillsOf(grid, 'long-short');
    const on = advance(begin(drills), { type: 'drill', step: 1, nowS: 1 });
    expect(on.state).toMatchObject({ drillIndex: 1, phase: 'counting' });
    expect(on.effects.map(({ type }) => type)).toEqual(['silence', 'schedule']);
    expect(advance(on.state, { type: 'drill', step: 1, nowS: 1 }).effects).toEqual([]);
  });
});

describe('a tempo of one’s own', () => {
  it.each([0.7, 0.93, 1, 1.12, 1.6])('is found where it is played %f times as slow as asked', (stretch) => {
    const [drill] = drillsOf(grid, 'long-run', { rounds: 2, distraction: false }) as [Drill];
    const { heard, next, planted } = play(begin([drill]), { ...STEADY, spreadMs: 5 }, 3, stretch);
    expect(heard.analysed.ownScale).toBeCloseTo(stretch, 1);
    expect(heard.analysed.measures).toMatchObject({ missed: 0, extra: 0 });
    expect(Math.abs((heard.analysed.measures.spreadMs?.value ?? 0) - sampleSd(planted))).toBeLessThan(1.5);
    expect(next.repetitions[0]?.tempo).toMatchObject({ kind: 'constant' });
    const tempo = next.repetitions[0]?.tempo;
    expect(tempo?.kind === 'constant' ? tempo.bpm / (BPM / stretch) : 0).toBeCloseTo(1, 1);
  });
});

describe('a tempo that moves', () => {
  it('is asked for by its fastest, and the strategy goes on from that', () => {
    const [drill] = drillsOf(grid, 'sweep', { bars: 4 }) as [Drill];
    const { next } = play(begin([drill]), { ...STEADY, spreadMs: 2 }, 3);
    const [repetition] = next.repetitions;
    expect(repetition?.tempo.kind).toBe('ramp');
    expect(repetition?.askedBpm).toBe(BPM);
    expect(next.tempo).toEqual(constantTempo(BPM + 5));
  });
});

describe('pulses', () => {
  it('are not heard in a steady note, in noise, or in silence', () => {
    const steady = renderPulses({ played: [], hz: 220, sampleRateHz: RATE, lengthS: 3, seed: 1, noiseDb: -50 });
    const held = Float32Array.from({ length: 3 * RATE }, (_, n) => 0.3 * Math.sin((2 * Math.PI * 220 * n) / RATE));
    const noise = Float32Array.from({ length: 3 * RATE }, (_, n) => 0.2 * Math.sin(n * n * 0.013));
    for (const sound of [steady, held, noise, new Float32Array(3 * RATE)])
      expect(createPulseDetector(RATE).push(sound)).toHaveLength(0);
  });
});

describe('gaps in the click', () => {
  it('tell how far the player drifted over the silence', () => {
    const [drill] = drillsOf(grid, 'gaps', { clicked: 2, silent: 2 }) as [Drill];
    const early = play(begin([drill]), { ...STEADY, spreadMs: 1, driftPct: -0.3 }, 5);
    // 0.3 % of the eight beats before the return and half of those before it: some 20 ms early.
    expect(early.heard.analysed.measures.returnMs).toBeLessThan(-8);
    const steady = play(begin([drill]), { ...STEADY, spreadMs: 1 }, 5);
    expect(Math.abs(steady.heard.analysed.measures.returnMs ?? 99)).toBeLessThan(4);
  });
});

describe('quick groups', () => {
  it('are timed inside and at their starts, each by itself', () => {
    const [drill] = drillsOf(grid, 'quick-groups', { size: 4 }) as [Drill];
    const { heard } = play(begin([drill]), { ...STEADY, spreadMs: 6 }, 9);
    const { groupStartsMs, insideMs } = heard.analysed.measures;
    expect(insideMs).toBeGreaterThan(3);
    expect(insideMs).toBeLessThan(9);
    expect(groupStartsMs).toBeGreaterThan(1);
    // A drill without groups has neither figure.
    const straight = play(begin(drillsOf(grid, 'straight')), { ...STEADY, spreadMs: 6 }, 9).heard.analysed.measures;
    expect(straight.insideMs).toBeUndefined();
  });
});

describe('what a distraction costs', () => {
  const drills = drillsOf(grid, 'long-run', { rounds: 2 });
  const repetition = (drill: number, value: number) =>
    ({ drill, verdict: { outcome: 'clean' }, measures: { unevennessPct: { value, low: null, high: null } } }) as never;
  it('is said where it is sure, and only then', () => {
    const clear = [2, 2.2, 2.1].map((value) => repetition(0, value)).concat([5, 5.4, 5.2].map((value) => repetition(1, value)));
    expect(distractionCost(drills, clear)?.code).toBe('distraction-cost');
    const none = [2, 3, 2.5].map((value) => repetition(0, value)).concat([2.4, 2.9, 2.2].map((value) => repetition(1, value)));
    expect(distractionCost(drills, none)?.code).toBe('distraction-none');
    expect(distractionCost(drills, clear.slice(0, 4))).toBeNull();
  });
});
