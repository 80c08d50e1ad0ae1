import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { gridOf } from '../rhythm/grid-of';
import { swingOfEvents } from '../rhythm/swing';
import type { Passage } from '../schema/passage';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { mean } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { analyseRepetition } from './analyse-repetition';

const EIGHTHS =
  'meter: 4/4\nC4/8 D4/8 E4/8 F4/8 G4/8 F4/8 E4/8 D4/8 | C4/8 D4/8 E4/8 F4/8 G4/8 F4/8 E4/8 D4/8 | C4/4 E4/8 C4/8 D4/4 G4/8 E4/8 | C4/1 |';
const passage = (swing?: Passage['swing'], text = EIGHTHS): Passage => ({
  ...passageOfScore(readText(text), 'swung').passage,
  ...(swing === undefined ? {} : { swing }),
});

/** Eighths by a player who swings in a ratio, unsteady by so many ms, with so much of a latency that is not known. */
const play = (
  of: Passage,
  {
    ratio,
    bpm = 100,
    spreadMs = 5,
    seed = 1,
    lateMs = 0,
    swings = { fromBeat: 0, toBeat: Number.POSITIVE_INFINITY },
  }: {
    ratio: number;
    bpm?: number;
    spreadMs?: number;
    seed?: number;
    lateMs?: number;
    swings?: { fromBeat: number; toBeat: number };
  },
) => {
  const drill = firstDrill(of);
  const plan = planRepetition({ drill, tempo: constantTempo(bpm), startS: 0 });
  const { normal } = chance(97 * seed + 13);
  const onsets = drill.grid.events.map(({ at }) => {
    const beat = Number(at.includes('/') ? Number(at.split('/')[0]) / Number(at.split('/')[1]) : at);
    const isSwung = beat % 1 === 0.5 && beat >= swings.fromBeat && beat < swings.toBeat;
    const sounds = isSwung ? Math.floor(beat) + ratio / (1 + ratio) : beat;
    return { timeS: plan.downbeatS + (sounds * 60) / bpm + (lateMs + spreadMs * normal()) / 1000, levelDb: -20 };
  });
  return analyseRepetition(onsets, {
    drill,
    plan,
    profile: profileOf('tap'),
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    offset: { nearS: 0, reachS: 0.3 },
    gap: false,
  });
};

describe('a swing of the player’s own', () => {
  it('is clean about the player’s mean ratio, whatever that is, and the ratio is told', () => {
    for (const ratio of [1, 1.3, 1.6, 2, 2.5, 3])
      for (const bpm of [60, 100, 160]) {
        const { measures, verdict } = play(passage('own'), { ratio, bpm, lateMs: 20 });
        expect({ ratio, bpm, outcome: verdict.outcome }).toEqual({ ratio, bpm, outcome: 'clean' });
        expect(Math.abs(Math.log((measures.swing?.value ?? 9) / ratio))).toBeLessThan(0.12);
      }
  });

  it('is found at any tempo and with any unsteadiness, also where it is straight', () => {
    for (const ratio of [1, 1.2, 3.5])
      for (let seed = 1; seed <= 60; seed += 1) {
        const { measures, extras } = play(passage('own'), { ratio, bpm: 70 + 2 * seed, spreadMs: 9, seed, lateMs: 10 });
        expect({ ratio, seed, left: measures.missed + extras.length }).toEqual({ ratio, seed, left: 0 });
      }
  });

  it('has an interval that holds the truth in about 95 of 100', () => {
    const inside = Array.from({ length: 400 }, (_, k) => {
      const { swing } = play(passage('own'), { ratio: 1.8, seed: k + 1, spreadMs: 8 }).measures;
      return (swing?.low ?? 9) <= 1.8 && 1.8 <= (swing?.high ?? 0);
    });
    expect(mean(inside.map(Number))).toBeGreaterThan(0.92);
    expect(mean(inside.map(Number))).toBeLessThan(0.99);
  });

  it('is not clean where it is unsteady, with the spread that was played', () => {
    const { measures, verdict } = play(passage('own'), { ratio: 1.7, spreadMs: 40 });
    expect(verdict.outcome).not.toBe('clean');
    expect(measures.spreadMs?.value ?? 0).toBeGreaterThan(25);
  });
});

describe('a swing in a ratio that was set', () => {
  it('asks for that ratio: straight eighths fail it, and swung ones fail straight ones', () => {
    expect(play(passage(2), { ratio: 2 }).verdict.outcome).toBe('clean');
    expect(play(passage(2), { ratio: 1 }).verdict.outcome).not.toBe('clean');
    expect(play(passage(), { ratio: 2 }).verdict.outcome).not.toBe('clean');
    expect(play(passage(), { ratio: 1 }).measures).not.toHaveProperty('swing');
    expect(play(passage(2), { ratio: 1.6, spreadMs: 3 }).measures.swing?.value).toBeCloseTo(1.6, 1);
  });
});

describe('what does not swing', () => {
  it('is a beat with other divisions, and a meter in dotted beats', () => {
    const sixteenths = passage(2, 'meter: 4/4\nC4/16 D4/16 E4/16 F4/16 G4/16 F4/16 E4/16 D4/16 C4/4 E4/4 |');
    const plan = planRepetition({ drill: firstDrill(sixteenths), tempo: constantTempo(60), startS: 0 });
    expect(plan.notes.map(({ beat }) => beat)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 3]);
    const compound = passage(2, 'meter: 6/8\nC4/8 D4/8 E4/8 F4/4 G4/8 |');
    const straight = passage(undefined, 'meter: 6/8\nC4/8 D4/8 E4/8 F4/4 G4/8 |');
    const beatsOf = (of: Passage) =>
      planRepetition({ drill: firstDrill(of), tempo: constantTempo(60), startS: 0 }).notes.map(({ beat }) => beat);
    expect(beatsOf(compound)).toEqual(beatsOf(straight));
  });

  it('clicks its halves where the notes are', () => {
    const drill = { ...firstDrill(passage(2)), click: { kind: 'division' as const, divisions: 2, countInBars: 1 } };
    const { clicks, notes } = planRepetition({ drill, tempo: constantTempo(60), startS: 0 });
    for (const { timeS } of notes) expect(Math.min(...clicks.map((click) => Math.abs(click.timeS - timeS)))).toBeLessThan(1e-9);
  });
});

describe('a section that swings otherwise than the rest', () => {
  const within = (sections: Passage['sections'], swing?: Passage['swing']): Passage => ({ ...passage(swing), sections });
  const section = (fromBar: number, toBar: number, swing: Passage['sections'][number]['swing']) => ({
    id: `bars-${fromBar}-${toBar}`,
    name: 'there',
    fromBar,
    toBar,
    ...(swing === undefined ? {} : { swing }),
  });
  const halves = (of: Passage, grid = firstDrill(of).grid) =>
    swingOfEvents(grid)
      .map((one) => one ?? '-')
      .join(' ');

  it('holds in its bars, the shortest section before the others, and one that says nothing changes nothing', () => {
    const straight = '- - - - - - - -';
    const swung = (how: string) => `- ${how} - ${how} - ${how} - ${how}`;
    expect(halves(within([section(2, 2, 3)]))).toBe(`${straight} ${swung('3')} - - - - - - -`);
    expect(halves(within([section(1, 3, 'own'), section(2, 2, 'straight'), section(1, 1, undefined)]))).toBe(
      `${swung('own')} ${straight} - - own - - own -`,
    );
    expect(halves(within([section(2, 3, 'straight')], 2))).toBe(`${swung('2')} ${straight} - - - - - - -`);
    const whole = within([section(2, 2, 3)]);
    expect(halves(whole, gridOf(whole, null, whole.sections[0]))).toBe(swung('3'));
    expect(halves(whole, gridOf(whole, null, section(1, 1, undefined)))).toBe(straight);
  });

  it('is judged so where the whole is played: one who swings there only is clean, one who swings throughout is not', () => {
    const there = { fromBeat: 4, toBeat: 8 };
    for (const asked of ['own', 2] as const) {
      const of = within([section(2, 2, asked)]);
      const right = play(of, { ratio: 2, spreadMs: 4, swings: there });
      expect({ asked, outcome: right.verdict.outcome }).toEqual({ asked, outcome: 'clean' });
      expect(right.measures.swing?.value).toBeCloseTo(2, 0);
      expect(play(of, { ratio: 2, spreadMs: 4 }).verdict.outcome).not.toBe('clean');
    }
    const rest = within([section(2, 2, 'straight')], 'own');
    expect(play(rest, { ratio: 1.8, spreadMs: 4, swings: { fromBeat: 8, toBeat: 16 } }).verdict.outcome).not.toBe('clean');
  });

  it('is told by what swings as the player has it, beside a stretch in another ratio', () => {
    const of = within([section(2, 3, 3)], 'own');
    const { measures } = play(of, { ratio: 1.6, spreadMs: 2, swings: { fromBeat: 0, toBeat: 4 } });
    expect(measures.swing?.value).toBeCloseTo(1.6, 1);
  });
});
