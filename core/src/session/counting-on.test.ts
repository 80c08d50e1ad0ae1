import { describe, expect, it } from 'vitest';
import { UNKNOWN_OFFSET } from '../align/align';
import { createListener } from '../listen/listener';
import { firstDrill } from '../plan/practice-config';
import { STRUCK_BAR } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { STEADY } from '../schema/skill';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { mixInto, type PlacedSound } from '../signal/mix';
import { profileOf } from '../signal/profiles';
import { beginStrategy } from '../strategies/strategies';
import { clickWaveforms, placeClicks } from '../time/click';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { firstBarS, MAX_COUNTED_ON, waitUntilS } from './counting-on';
import { advance } from './loop';
import { IDLE, type LoopEvent, type LoopState } from './loop-state';

const RATE = 48_000;
const BLOCK = 480;
const drill = firstDrill(builtInPassage('five-steps') as Passage);
const tempo = constantTempo(96);
const WAVEFORMS = clickWaveforms(RATE);
/** From the loudspeaker to the microphone. */
const BLEED_DELAY_S = 0.02;

/**
 * A take in a room: clicks sound as the loop asks for them, and the player comes in so many bars late and so many beats after the
 * bar line; null for one who never comes.
 */
const take = (options: { lateBars: number | null; lateBeats?: number; bleed?: number; waits?: boolean; seed?: number }) => {
  const { lateBars, lateBeats = 0, bleed = 0, waits = true, seed = 3 } = options;
  let clicks: PlacedSound[] = [];
  const listener = createListener(RATE);
  let state: LoopState = IDLE;
  const asked: { downbeatS: number; isCountedOn: boolean; clicksS: number[] }[] = [];
  const send = (event: LoopEvent) => {
    const next = advance(state, event);
    state = next.state;
    for (const effect of next.effects) {
      if (effect.type === 'silence') {
        clicks = clicks.filter(({ frame }) => frame <= event.nowS * RATE);
        listener.cancel();
      }
      if (effect.type !== 'schedule') continue;
      const { type: _type, ...scheduled } = effect;
      const sounding = effect.plan.clicks.filter(({ timeS }) => timeS > event.nowS);
      clicks.push(...placeClicks(sounding, RATE, WAVEFORMS));
      asked.push({
        downbeatS: effect.plan.downbeatS,
        isCountedOn: effect.isCountedOn ?? false,
        clicksS: sounding.map(({ timeS }) => timeS),
      });
      listener.expect({
        ...scheduled,
        tolerance: TOLERANCE_PRESETS.secure,
        latencyS: null,
        hearsClicks: true,
        profile: profileOf('struck'),
      });
    }
  };
  send({
    type: 'begin',
    drills: [drill],
    target: { goalBpm: 140, startBpm: 96, waits },
    strategy: beginStrategy('half-speed-climb', null),
    tempo,
    nowS: 0,
    recordingStartS: 0,
    offset: UNKNOWN_OFFSET,
  });
  const plan = state.plan as NonNullable<LoopState['plan']>;
  const barS = firstBarS(drill, plan);
  const lateS = (lateBars ?? 0) * barS + (lateBeats * 60) / 96;
  const played = lateBars === null ? [] : simulatePlaying(plan.notes, { ...STEADY, spreadMs: 4 }, tempo, seed);
  const sound = renderPlaying({
    played: played.map((note) => ({ ...note, timeS: note.timeS + lateS })),
    grid: drill.grid,
    tempo,
    instrument: STRUCK_BAR,
    sampleRateHz: RATE,
    lengthS: plan.endS + lateS + (lateBars === null ? (MAX_COUNTED_ON + 2) * barS : 2),
    seed,
    noiseDb: -66,
  });
  for (let at = 0; at + BLOCK <= sound.length && state.repetitions.length === 0; at += BLOCK) {
    const block = Float32Array.from(sound.subarray(at, at + BLOCK));
    for (const click of clicks)
      if (bleed > 0) mixInto(block, at, { ...click, frame: click.frame + Math.round(BLEED_DELAY_S * RATE), gain: bleed });
    const nowS = (at + BLOCK) / RATE;
    const heard = listener.push(block, at);
    send({ type: 'clock', nowS });
    if (listener.notBegun() !== null) send({ type: 'not-begun', nowS });
    if (heard) send({ type: 'analysed', analysed: heard.analysed, nowS });
  }
  return { first: state.repetitions[0], asked, barS, plan };
};

describe('who is not ready when the count-in ends', () => {
  it.each([
    [0, 0],
    [1, 0],
    [3, 0],
    [7, 0],
    [0, 0.15],
    [2, 0.15],
    [5, 0.3],
  ])('comes in %s bars late, with a click in the room of %s, and is judged from the first note on', (lateBars, bleed) => {
    for (const seed of [3, 5, 8]) {
      const { first, asked } = take({ lateBars, bleed, seed });
      expect(first?.verdict.outcome).toBe('clean');
      expect(first?.measures).toMatchObject({ missed: 0, extra: 0 });
      expect(asked.filter(({ isCountedOn }) => isCountedOn)).toHaveLength(lateBars);
    }
  });

  it('hears one pulse: every bar that is counted on begins where the one before it ended, and no click comes twice', () => {
    const { asked, barS, plan } = take({ lateBars: 4 });
    const downbeats = asked
      .filter(({ isCountedOn }) => isCountedOn)
      .map(({ downbeatS }) => (downbeatS - plan.downbeatS) / barS);
    expect(downbeats.map((one) => Math.round(1e6 * one) / 1e6)).toEqual([1, 2, 3, 4]);
    for (const [k, { clicksS }] of asked.entries()) {
      const next = asked[k + 1];
      // Replaced shortly before the bar line: what still comes of it is on the same pulse.
      if (next?.isCountedOn) expect(Math.min(...next.clicksS)).toBeGreaterThan((next.downbeatS ?? 0) - barS / 2);
      expect(new Set(clicksS.map((timeS) => Math.round(1000 * timeS))).size).toBe(clicksS.length);
    }
  });

  it('is waited for only so long: then it is said that nothing was heard', () => {
    const { first, asked } = take({ lateBars: null });
    expect(first?.verdict.reason).toBe('silence');
    expect(asked.filter(({ isCountedOn }) => isCountedOn)).toHaveLength(MAX_COUNTED_ON);
  });

  it('is not waited for where that is not wanted', () => {
    expect(take({ lateBars: 1, waits: false }).asked.some(({ isCountedOn }) => isCountedOn)).toBe(false);
  });

  it('has begun once a note sounds, however late in the bar', () => {
    for (const lateBeats of [0.5, 1, 2, 3])
      expect(take({ lateBars: 0, lateBeats }).asked.filter(({ isCountedOn }) => isCountedOn)).toEqual([]);
  });
});

describe('until when it is waited', () => {
  const planOf = (bpm: number, of = drill) => planRepetition({ drill: of, tempo: constantTempo(bpm), startS: 1 });

  it('is shortly before the first bar is over', () => {
    const plan = planOf(60);
    expect((waitUntilS(plan, drill) ?? 0) - plan.downbeatS).toBeCloseTo(4 - 0.3, 6);
  });

  it('is never where the tempo is the player’s own, or the bar is over at once', () => {
    const own = { ...drill, judging: { ...drill.judging, ownTempo: true } };
    expect(waitUntilS(planOf(60, own), own)).toBeUndefined();
    expect(waitUntilS({ ...planOf(60), notes: [] }, drill)).toBeUndefined();
    const long = { ...planOf(60), notes: planOf(60).notes.map((note) => ({ ...note, timeS: note.timeS + 10 })) };
    expect(waitUntilS(long, drill)).toBeUndefined();
  });
});
