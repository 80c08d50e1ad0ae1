import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import type { Candidate, Candidates } from './candidates';
import { createPitchChangeWatch, type PitchSequence, tellsNotesApart } from './pitch-change';
import { withScore } from './scored-candidates';

const RATE = 48_000;

/** A tone of many harmonics that goes on without a break; `midiAt` says its pitch at each time. */
const tone = (lengthS: number, midiAt: (timeS: number) => number): Float32Array => {
  const { normal } = chance(3);
  let phase = 0;
  return Float32Array.from({ length: Math.round(lengthS * RATE) }, (_, n) => {
    phase += (2 * Math.PI * 440 * 2 ** ((midiAt(n / RATE) - 69) / 12)) / RATE;
    let sum = 0;
    for (let k = 1; k <= 8; k += 1) sum += Math.sin(k * phase) / k;
    return 0.2 * sum + 1e-4 * normal();
  });
};

/** What is said about a place every 10 ms. */
const changes = (sound: Float32Array, sequence: PitchSequence): { timeS: number; change: number; sameness: number }[] => {
  const watch = createPitchChangeWatch(RATE, sequence);
  const heard: { timeS: number; change: number; sameness: number }[] = [];
  for (let at = 0, next = 0.2; at < sound.length; at += 512) {
    watch.push(sound.subarray(at, at + 512));
    for (; next < sound.length / RATE - 0.2 && watch.knows(next * RATE); next += 0.01)
      heard.push({ timeS: next, ...watch.ask(next * RATE) });
  }
  return heard;
};

const sequence = (...midis: number[]) => midis.map((midi) => [midi]);

describe('the change of one pitch to the next', () => {
  it.each([
    ['a step up', 60, 62],
    ['a step down', 62, 60],
    ['a semitone', 64, 65],
    ['an octave up', 60, 72],
    ['an octave down', 72, 60],
    ['low', 36, 38],
  ])('is heard in a slur, %s, and nowhere else', (_, from, to) => {
    const said = changes(
      tone(1.4, (timeS) => (timeS < 0.7 ? from : to)),
      sequence(from, to),
    );
    const top = said.reduce((best, one) => (one.change > best.change ? one : best));
    expect(top.change).toBeGreaterThan(2);
    expect(Math.abs(top.timeS - 0.7)).toBeLessThan(0.055);
    for (const { timeS, change } of said) if (Math.abs(timeS - 0.7) > 0.13) expect(change).toBeLessThan(0.5);
  });

  it('is not heard in vibrato, nor in a change that is not in the score', () => {
    const vibrato = tone(2, (timeS) => 62 + 0.5 * Math.sin(2 * Math.PI * 6 * timeS));
    for (const { change } of changes(vibrato, sequence(60, 62, 64, 65, 62))) expect(change).toBeLessThan(1.5);
    const other = tone(1.4, (timeS) => (timeS < 0.7 ? 61 : 66));
    for (const { change } of changes(other, sequence(60, 62, 64))) expect(change).toBeLessThan(1);
  });

  it('follows a player who is tuned 35 cents high', () => {
    const said = changes(
      tone(4, (timeS) => (timeS < 3.4 ? 60.35 : 61.35)),
      sequence(60, 61),
    );
    expect(Math.max(...said.filter(({ timeS }) => Math.abs(timeS - 3.4) < 0.05).map(({ change }) => change))).toBeGreaterThan(
      1,
    );
    for (const { timeS, change } of said) if (timeS > 1.5 && timeS < 3.25) expect(change).toBeLessThan(0.5);
  });

  it('says that a held note is the same sound, and a new pitch another', () => {
    const said = changes(
      tone(1.4, (timeS) => (timeS < 0.7 ? 60 : 67)),
      sequence(60, 67),
    );
    const at = (timeS: number) => said.find((one) => Math.abs(one.timeS - timeS) < 0.006)?.sameness ?? -1;
    expect(at(0.4)).toBeGreaterThan(0.98);
    expect(at(0.7)).toBeLessThan(0.7);
  });

  it('says nothing of silence or noise', () => {
    const { normal } = chance(8);
    for (const sound of [new Float32Array(RATE), Float32Array.from({ length: RATE }, () => 0.1 * normal())])
      for (const { change } of changes(sound, sequence(60, 62, 64))) expect(change).toBeLessThan(1);
  });

  it('needs notes of different pitches to tell apart', () => {
    expect(tellsNotesApart([[60], [60], [60]])).toBe(false);
    expect(tellsNotesApart([[], [60], []])).toBe(false);
    expect(tellsNotesApart([[60], [60], [62]])).toBe(true);
  });
});

describe('knowledge of the score', () => {
  const offered: Candidate[] = [0.3, 0.7, 1.1].map((timeS) => ({ at: timeS * RATE, logOdds: 0, shiftS: 0.002, errorS: 0.003 }));
  const source = (): Candidates => {
    let told = 0;
    let pushed = 0;
    const due = () => {
      const found = offered.slice(told).filter(({ at }) => at + 0.08 * RATE <= pushed);
      told += found.length;
      return found;
    };
    return {
      push(block) {
        pushed += block.length;
        return due();
      },
      finish: () => offered.slice(told),
      doneTo: () => pushed - 0.08 * RATE,
    };
  };
  const weighed = (sound: Float32Array, pitches: PitchSequence): Candidate[] => {
    const candidates = withScore(source(), RATE, pitches);
    const found: Candidate[] = [];
    for (let at = 0; at < sound.length; at += 512) found.push(...candidates.push(sound.subarray(at, at + 512)));
    return [...found, ...candidates.finish()];
  };
  const slur = tone(1.4, (timeS) => (timeS < 0.7 ? 60 : 62));

  it('makes a slur likelier where the expected pitch takes over, and a place where nothing changes less so', () => {
    const [held, slurred, after] = weighed(slur, sequence(60, 62)).map(({ logOdds }) => logOdds) as [number, number, number];
    expect(slurred).toBeGreaterThan(held + 1);
    expect(slurred).toBeGreaterThan(after + 1);
  });

  it('weighs the same however the sound is cut into blocks', () => {
    const whole = withScore(source(), RATE, sequence(60, 62));
    expect([...whole.push(slur), ...whole.finish()]).toEqual(weighed(slur, sequence(60, 62)));
  });

  it.each([
    ['what is played', sequence(60, 62)],
    ['another piece', sequence(70, 55, 81)],
    ['many more notes', sequence(60, 62, 60, 62, 60, 62, 60, 62)],
  ])('neither adds a note nor moves one: %s', (_, pitches) => {
    for (const sound of [slur, new Float32Array(slur.length)])
      expect(weighed(sound, pitches).map(({ at, shiftS }) => [at, shiftS])).toEqual(
        offered.map(({ at, shiftS }) => [at, shiftS]),
      );
  });
});
