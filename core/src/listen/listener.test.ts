import { describe, expect, it } from 'vitest';
import { MAX_OFFSET_S, type OffsetGuess, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { STRUCK_BAR } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { type PlayedNote, simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import { pitchesOf } from '../rhythm/grid-shape';
import type { GridEvent } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { type Skill, STEADY } from '../schema/skill';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { sampleSd } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { createListener, type HeardRepetition, type Listener } from './listener';

const RATE = 48_000;
const BLOCK = 512;
const FIRST_FRAME = 96_000;
const drill = firstDrill(builtInPassage('five-steps') as Passage);
const tempo = constantTempo(80);
/** Four bars, long enough to stop on the way. */
const LONG = firstDrill(passageOfScore(readText(`meter: 4/4\n${'C4/8 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(4)}`), 'long').passage);

/** Feeds one repetition, block by block, as the capture does; `touch` may spoil a block or its frame. */
const listen = (options: {
  skill?: Partial<Skill>;
  latencyS?: number;
  bleed?: number;
  /** The click's way to the microphone changes by up to 20 ms. */
  bleedWanders?: boolean;
  offset?: OffsetGuess;
  touch?: (block: Float32Array, number: number) => number;
  /** What is played instead of what was planned. */
  instead?: (played: PlayedNote[]) => PlayedNote[];
  /** One that heard other repetitions before. */
  listener?: Listener;
  seed?: number;
  /** Another drill than the usual one. */
  drilled?: typeof drill;
}): { heard: HeardRepetition | null; heardAtS: number; plantedMs: number[]; lastNoteS: number } => {
  const {
    skill = {},
    latencyS = 0,
    bleed,
    bleedWanders = false,
    touch,
    offset = UNKNOWN_OFFSET,
    instead = (played) => played,
    seed = 6,
    drilled = drill,
  } = options;
  const plan = planRepetition({ drill: drilled, tempo, startS: FIRST_FRAME / RATE + 0.1 });
  const fromS = FIRST_FRAME / RATE;
  const played = instead(simulatePlaying(plan.notes, { ...STEADY, ...skill }, tempo, seed));
  const sound = renderPlaying({
    played: played.map((note) => ({ ...note, timeS: note.timeS - fromS + latencyS })),
    grid: drilled.grid,
    tempo,
    instrument: STRUCK_BAR,
    sampleRateHz: RATE,
    lengthS: plan.endS - fromS + 1,
    seed,
    noiseDb: -66,
    bleed: bleed
      ? {
          clicks: plan.clicks.map((click, k) => ({
            ...click,
            timeS: click.timeS - fromS + (bleedWanders ? 0.02 * ((k * 0.618) % 1) : 0),
          })),
          gain: bleed,
          delayS: 0.02,
        }
      : undefined,
  });
  const { listener = createListener(RATE) } = options;
  listener.expect({
    repetition: 0,
    drill: drilled,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset,
    hearsClicks: true,
    profile: profileOf('struck'),
  });
  let heard: HeardRepetition | null = null;
  let heardAtS = 0;
  for (let at = 0, number = 0; at < sound.length && !heard; at += BLOCK, number += 1) {
    const block = Float32Array.from(sound.subarray(at, at + BLOCK));
    const shift = touch?.(block, number) ?? 0;
    heard = listener.push(block, FIRST_FRAME + at + shift);
    heardAtS = (FIRST_FRAME + at + BLOCK) / RATE;
  }
  const plantedMs = played.flatMap((note) =>
    note.expected === null ? [] : [(note.timeS - (plan.notes[note.expected]?.timeS ?? 0)) * 1000],
  );
  return { heard, heardAtS, plantedMs, lastNoteS: (plan.notes.at(-1)?.timeS ?? 0) + latencyS };
};

describe('the listener', () => {
  it('hears a repetition and gives back the planted deviations', () => {
    const { heard, plantedMs } = listen({ skill: { spreadMs: 9 } });
    expect(heard?.analysed.measures).toMatchObject({ missed: 0, extra: 0 });
    expect(heard?.analysed.measures.spreadMs?.value).toBeCloseTo(sampleSd(plantedMs), 0);
  });

  it('knows the verdict within 250 ms of a held last note, and waits for the one that a stumble would bring', () => {
    const settled = listen({ skill: { spreadMs: 3 }, offset: { nearS: 0, reachS: SETTLED_OFFSET_S } });
    expect(settled.heardAtS - settled.lastNoteS).toBeLessThan(0.25);
  });

  it('waits longer while the latency may be anything', () => {
    const { heardAtS, lastNoteS } = listen({ skill: { spreadMs: 3 } });
    expect(heardAtS - lastNoteS).toBeGreaterThan(MAX_OFFSET_S);
  });

  it('is not led astray by the click in the room', () => {
    const { heard, plantedMs } = listen({ skill: { spreadMs: 9, placementMs: 25 }, bleed: 0.5 });
    expect(heard?.analysed.measures).toMatchObject({ missed: 0, extra: 0 });
    expect(Math.abs((heard?.analysed.measures.spreadMs?.value ?? 0) - sampleSd(plantedMs))).toBeLessThan(1);
  });

  it('finds an unknown latency of wireless headphones', () => {
    const { heard } = listen({ latencyS: 0.19 });
    expect(heard?.analysed.offsetS).toBeGreaterThan(0.17);
    expect(heard?.analysed.measures).toMatchObject({ missed: 0, extra: 0 });
  });

  it.each([0, 0.15, 0.5])('hears that the playing went on into the count-in, with a click in the room of %s', (bleed) => {
    const aBarS = 3;
    const settled = { bleed, offset: { nearS: 0, reachS: SETTLED_OFFSET_S }, skill: { spreadMs: 4 } };
    const listener = createListener(RATE);
    expect(listen({ ...settled, listener }).heard?.analysed.verdict.outcome).toBe('clean');
    // Half a bar of the repetition before, and the beginning of this one missed for it.
    const instead = (played: PlayedNote[]) => [
      ...played.slice(4, 12).map((note) => ({ ...note, timeS: note.timeS - aBarS })),
      ...played.slice(3),
    ];
    const { heard } = listen({ ...settled, listener, instead, seed: 7 });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'played-on' });
    // Begun late without it, and one cough in the count-in: those are no playing on. The next one is heard as ever.
    const late =
      (more: PlayedNote[] = []) =>
      (played: PlayedNote[]) => [...more, ...played.slice(3)];
    const cough = { timeS: FIRST_FRAME / RATE + 1.4, levelDb: -14, expected: 0 };
    expect(listen({ ...settled, listener, instead: late(), seed: 8 }).heard?.analysed.verdict.reason).not.toBe('played-on');
    expect(listen({ ...settled, listener, instead: late([cough]), seed: 9 }).heard?.analysed.verdict.reason).not.toBe(
      'played-on',
    );
    expect(listen({ ...settled, listener, seed: 10 }).heard?.analysed.verdict.outcome).toBe('clean');
  });

  it('takes a click that changes between two repetitions for what it is, whatever it was before', () => {
    const settled = { offset: { nearS: 0, reachS: SETTLED_OFFSET_S }, skill: { spreadMs: 4 } };
    for (const [first, second] of [
      [0, 0.5],
      [0.15, 0.6],
      [0.5, 0],
    ]) {
      const listener = createListener(RATE);
      expect(listen({ ...settled, bleed: first, listener }).heard?.analysed.verdict.outcome).toBe('clean');
      const after = listen({ ...settled, bleed: second, listener, seed: 7 }).heard?.analysed;
      expect(after?.verdict.outcome).toBe('clean');
    }
    // From headphones to a click that comes differently each time: not judged, as before, and nobody is blamed.
    const listener = createListener(RATE);
    listen({ ...settled, listener });
    const { heard } = listen({ ...settled, bleed: 0.6, bleedWanders: true, listener, seed: 7 });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'bleed' });
  });

  it('hears silence as silence, not as a bad repetition', () => {
    const { heard } = listen({ skill: { missedShare: 1 } });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'silence' });
  });

  it('does not judge a repetition with a gap in its frames', () => {
    const { heard } = listen({ touch: (_block, number) => (number > 400 ? 256 : 0) });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'gap' });
  });

  it('does not judge a repetition whose sound broke off for a moment', () => {
    const { heard } = listen({
      touch: (block, number) => {
        if (number === 330) block.fill(0, 100, 356);
        return 0;
      },
    });
    expect(heard?.analysed.verdict.reason).toBe('gap');
  });

  it('counts clipping', () => {
    const { heard } = listen({
      touch: (block) => {
        for (let n = 0; n < block.length; n += 1) block[n] = Math.max(-1, Math.min(1, 30 * (block[n] as number)));
        return 0;
      },
    });
    expect(heard?.clipped).toBeGreaterThan(0);
  });

  it('does not judge where the click cannot be taken out, and advises headphones', () => {
    // The click is heard at a different moment each time, as over a wireless loudspeaker.
    const { heard } = listen({ skill: { levelDb: -34 }, bleed: 1, bleedWanders: true });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'bleed' });
  });

  it('hears keys and their release, and pitches', () => {
    const plan = planRepetition({ drill, tempo, startS: 0 });
    const listener = createListener(RATE);
    const context = { drill, plan, profile: profileOf('midi'), tolerance: TOLERANCE_PRESETS.secure };
    listener.expect({ repetition: 0, hearsClicks: false, latencyS: null, offset: UNKNOWN_OFFSET, ...context });
    let heard: HeardRepetition | null = null;
    for (let frame = 0; !heard; frame += BLOCK) {
      const within = (timeS: number) => timeS >= frame / RATE && timeS < (frame + BLOCK) / RATE;
      plan.notes.forEach(({ timeS, intervalS }, k) => {
        const pitch = pitchesOf(drill.grid.events[k] as GridEvent, drill.grid)[0] ?? 60;
        if (within(timeS)) listener.tap({ timeS, levelDb: -12, pitch });
        if (within(timeS + intervalS / 2)) listener.release(pitch, timeS + intervalS / 2);
      });
      heard = listener.push(new Float32Array(BLOCK), frame);
    }
    expect(heard.analysed.measures).toMatchObject({ missed: 0, extra: 0, wrongNotes: 0 });
    expect(heard.analysed.measures.articulationPct).toBeCloseTo(50, 0);
  });

  it('takes taps as onsets', () => {
    const plan = planRepetition({ drill, tempo, startS: 0 });
    const listener = createListener(RATE);
    const context = {
      drill,
      plan,
      profile: profileOf('tap'),
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      offset: UNKNOWN_OFFSET,
    };
    listener.expect({ repetition: 3, hearsClicks: false, ...context });
    let heard: HeardRepetition | null = null;
    for (let frame = 0; !heard; frame += BLOCK) {
      for (const note of plan.notes) {
        if (note.timeS >= frame / RATE && note.timeS < (frame + BLOCK) / RATE)
          listener.tap({ timeS: note.timeS + 0.005, levelDb: -20 });
      }
      heard = listener.push(new Float32Array(BLOCK), frame);
    }
    expect(heard.repetition).toBe(3);
    expect(heard.analysed.verdict.outcome).toBe('clean');
    expect(heard.analysed.measures.placementMs?.value).toBeCloseTo(5, 3);
  });
});

describe('an end by hand', () => {
  const settled = { nearS: 0, reachS: SETTLED_OFFSET_S };
  /** What comes of a repetition that is concluded `afterNote`, a little after that note (from 0) was due. */
  const concluded = (
    afterNote: number,
    { byHand = true, instead = (played: PlayedNote[]) => played, offset = settled, drilled = LONG } = {},
  ) => {
    const plan = planRepetition({ drill: drilled, tempo, startS: FIRST_FRAME / RATE + 0.1 });
    const atS = (plan.notes[afterNote]?.timeS ?? 0) + 0.12;
    const listener = createListener(RATE);
    let told: HeardRepetition | null | undefined;
    listen({
      listener,
      offset,
      instead,
      drilled,
      touch: (_, number) => {
        if (told === undefined && (FIRST_FRAME + number * BLOCK) / RATE > atS) told = listener.conclude(byHand);
        return 0;
      },
    });
    return told;
  };

  it('has what was played until then measured, and not judged', () => {
    for (const afterNote of [2, 5, 10]) {
      const heard = concluded(afterNote);
      expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'by-hand' });
      expect(heard?.analysed.measures).toMatchObject({ missed: 0, extra: 0, brokenOff: { note: afterNote + 1, byHand: true } });
    }
    // Asked for again, it is a break like any other.
    expect(concluded(5, { byHand: false })?.analysed.verdict).toMatchObject({ outcome: 'broken', reason: 'broken-off' });
  });

  it.each([
    ['at a tempo of one’s own', { ...LONG, judging: { ...LONG.judging, ownTempo: true } }],
    ['that is clapped', { ...LONG, listen: 'claps' as const }],
    [
      'that quickens',
      {
        ...LONG,
        tempo: [
          { beat: 0, share: 0.8 },
          { beat: 40, share: 1 },
        ],
      },
    ],
  ])('keeps what was played of a repetition %s too, which nothing but the hand ends', (_what, drilled) => {
    const heard = concluded(9, { drilled });
    expect(heard?.analysed.verdict).toMatchObject({ outcome: 'not-judged', reason: 'by-hand' });
    expect(heard?.analysed.notes.filter(({ onsetS }) => onsetS !== null).length).toBeGreaterThanOrEqual(9);
    expect(concluded(9, { drilled, byHand: false })).toBeNull();
  });

  it('finds the notes though the delay of the sound is not known yet', () => {
    const heard = concluded(9, { offset: UNKNOWN_OFFSET });
    expect(heard?.analysed.notes.filter(({ onsetS }) => onsetS !== null).length).toBeGreaterThanOrEqual(9);
  });

  it('comes to nothing where hardly a note was heard, and to the whole where all was played', () => {
    expect(concluded(5, { instead: (played) => played.slice(0, 1) })).toBeNull();
    expect(createListener(RATE).conclude(true)).toBeNull();
    expect(concluded(LONG.grid.events.length - 1, { offset: UNKNOWN_OFFSET })?.analysed.verdict.outcome).toBe('clean');
  });
});

describe('silence on the way', () => {
  const settled = { nearS: 0, reachS: SETTLED_OFFSET_S };
  const upTo = (count: number) => (played: PlayedNote[]) => played.slice(0, count);

  it('ends the repetition, with what was played before it', () => {
    const { heard, heardAtS, lastNoteS } = listen({ offset: settled, instead: upTo(6), drilled: LONG });
    expect(heard?.analysed.measures.brokenOff).toMatchObject({ note: 6 });
    expect(heard?.analysed.measures).toMatchObject({ missed: 0, extra: 0 });
    expect(heardAtS).toBeLessThan(lastNoteS - 2);
  });

  it('is told shortly before the end too, once it is still for half a second; a last note left out is missed', () => {
    const count = LONG.grid.events.length;
    for (const left of [5, 8]) {
      const { heard } = listen({ offset: settled, instead: upTo(count - left), drilled: LONG });
      expect(heard?.analysed.measures.brokenOff).toMatchObject({ note: count - left });
      expect(heard?.analysed.verdict.reason).toBe('broken-off');
    }
    const { heard } = listen({ offset: settled, instead: upTo(count - 1), drilled: LONG });
    expect(heard?.analysed.measures).toMatchObject({ missed: 1 });
    expect(heard?.analysed.measures.brokenOff).toBeUndefined();
  });

  it('is none while it sounds on, though no note is heard to begin', () => {
    let level = 0;
    const hum = (block: Float32Array, number: number): number => {
      for (let n = 0; n < block.length; n += 1) {
        const t = (number * BLOCK + n) / RATE;
        // It grows from nothing, as a note does into which the others ring.
        level = Math.min(0.1, Math.max(0, (t - 3.5) * 0.02));
        block[n] = (block[n] as number) + level * Math.sin(2 * Math.PI * 233 * t);
      }
      return 0;
    };
    const { heard } = listen({ offset: settled, instead: upTo(6), drilled: LONG, touch: hum });
    expect(heard?.analysed.measures.brokenOff).toBeUndefined();
    expect(listen({ offset: settled, drilled: LONG }).heard?.analysed.measures.brokenOff).toBeUndefined();
  });
});
