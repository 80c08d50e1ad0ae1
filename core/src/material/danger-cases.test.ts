import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { gridOf } from '../rhythm/grid-of';
import type { Passage } from '../schema/passage';
import { dangerSpots } from './danger-spots';
import { instrumentOf } from './instruments';
import { makePattern } from './patterns/patterns';

/** Where it is dangerous by a player's judgement, written down before it was told: the note (from 1), and what for. */
interface Case {
  instrument: string;
  bpm: number;
  text: string;
  byHand: string[];
  /** What was overlooked then, and is right: it was found by being told. */
  overlooked?: string[];
}

const CASES: Record<string, Case> = {
  'a scale over two strings and more': {
    instrument: 'violin',
    bpm: 100,
    text: 'G3/16 A B C4 D E F# G A B C5 D E F# G A | G5/1',
    byHand: [],
  },
  'an arpeggio in first position, with tenths from string to string': {
    instrument: 'violin',
    bpm: 100,
    text: 'G3/16 B D4 G B D5 G B G D B4 G D B3 D4 B3 | G3/4 B4 G3 B4',
    byHand: [],
    overlooked: ['14 danger-crossing', '15 danger-crossing'],
  },
  'one note on the next string': {
    instrument: 'violin',
    bpm: 100,
    text: 'A4/16 B C5 A4 F5 C5 B4 A4 B4 C5 D5 B4 A4/4 | A4/1',
    byHand: ['5 danger-crossing'],
  },
  'an arpeggio that leaves first position': {
    instrument: 'cello',
    bpm: 100,
    text: 'D3/16 F# A D4 F# A D5 F# D5 A4 F# D A3 F# D3/8 | D3/1',
    byHand: ['5 danger-shift', '7 danger-shift', '8 danger-shift', '9 danger-shift', '10 danger-shift', '12 danger-shift'],
  },
  'index and middle finger in turn, but for one place': {
    instrument: 'guitar',
    bpm: 100,
    text: 'E4@i/16 F@m G@i A@m B@i C5@m D@m C5@i B4@m A@i G@m F@i E/4 | E4/1',
    byHand: ['7 danger-plucked-twice'],
  },
  'a leap of two octaves in a run': {
    instrument: 'piano',
    bpm: 100,
    text: 'C5/16 D E F G A B C6 C4 D E F G A B C5 | C5/16 G4 E G C5 G4 E G C5/2',
    byHand: ['9 danger-jump'],
    overlooked: ['17 danger-repeated-pitch'],
  },
  'octaves in turn, as any pianist has them under the hand': {
    instrument: 'piano',
    bpm: 110,
    text: 'C4/16 C5 D4 D5 E4 E5 F4 F5 G4 G5 F4 F5 E4 E5 D4 D5 | C4/1',
    byHand: [],
  },
  'sticks in turn, with one far leap': {
    instrument: 'marimba',
    bpm: 100,
    text: 'C4@R/16 E@L G@R C5@L E5@R G4@L C4@R C6@L B5@R A@L G@R F@L E@R/4 | C5/1',
    byHand: ['8 danger-jump'],
  },
  'octave leaps between registers': {
    instrument: 'flute',
    bpm: 100,
    text: 'C5/16 D E F G A B C6 B5 A G F E D C C6 | C5/1',
    byHand: ['16 danger-jump'],
    overlooked: ['17 danger-jump'],
  },
  'a chord broken by a brass player': {
    instrument: 'trumpet',
    bpm: 100,
    text: 'C4/16 G4 C5 E5 G5 E5 C5 G4 C4/2 | C4/1',
    byHand: [],
  },
  'a bass line in one place': {
    instrument: 'bass-guitar',
    bpm: 130,
    text: 'E3/16 G A B E4 D4 B3 A G A B D4 E4/4 | E3/1',
    byHand: [],
  },
};

const variantGrid = (passage: Passage) => gridOf(passage, passage.variants[0] ?? null);

/** As counted in docs/figures.md. */
const MISSED = 6;

const toldIn = ({ instrument, bpm, text }: Case): string[] => {
  const { passage } = passageOfScore(readText(`meter: 4/4\n${text}`), 'case');
  return dangerSpots(variantGrid(passage), bpm, instrumentOf(instrument)).map(({ index, why }) => `${index + 1} ${why.code}`);
};

describe('danger spots against a player’s judgement', () => {
  it.each(Object.entries(CASES).filter(([, { instrument }]) => instrument !== 'cello'))('%s', (_, one) => {
    expect(toldIn(one)).toEqual([...one.byHand, ...(one.overlooked ?? [])]);
  });

  it('have no false alarm in any of them; what is missed is counted', () => {
    const all = Object.values(CASES).map((one) => ({ ...one, told: toldIn(one) }));
    const isRight = ({ byHand, overlooked = [] }: Case, spot: string) => byHand.includes(spot) || overlooked.includes(spot);
    expect(all.flatMap((one) => one.told.filter((spot) => !isRight(one, spot)))).toEqual([]);
    const missed = all.flatMap(({ told, byHand }) => byHand.filter((spot) => !told.includes(spot)));
    // All in one arpeggio up a string: what an extended hand could still reach is not told.
    expect(missed.every((spot) => spot.endsWith('danger-shift'))).toBe(true);
    expect(missed).toHaveLength(MISSED);
  });
});

describe('danger spots in what is generated', () => {
  it('are none in rudiments, which are made of double strokes, nor in a roll that stays', () => {
    const kit = instrumentOf('drum-kit');
    for (const rudiment of ['single-paradiddle', 'doubles', 'flam-tap', 'five-stroke'])
      expect(dangerSpots(variantGrid(makePattern('rudiment', { rudiment }, kit)), 120, kit)).toEqual([]);
    const banjo = instrumentOf('banjo');
    for (const roll of ['forward', 'alternating'])
      expect(dangerSpots(variantGrid(makePattern('picking-roll', { roll }, banjo)), 110, banjo)).toEqual([]);
  });

  it('are told where a roll changes', () => {
    const bar = (places: string) =>
      places
        .split(' ')
        .map((place) => `G4@${place[0]}@s${place[1]}/16`)
        .join(' ');
    const forward = bar('t3 i2 m1 t5 i2 m1 t5 m1');
    const alternating = bar('t3 i2 t5 m1 t4 i2 t5 m1');
    const { passage } = passageOfScore(
      readText(`meter: 2/4\n${[forward, forward, forward, alternating, alternating].join(' | ')} |`),
      'rolls',
    );
    const told = dangerSpots(variantGrid(passage), 110, instrumentOf('banjo')).filter(
      ({ why }) => why.code === 'danger-roll-changes',
    );
    expect(told.map(({ index }) => index)).toEqual([24]);
  });
});
