import { describe, expect, it } from 'vitest';
import { rewritten } from '../../material/edit-passage';
import { withSwing } from '../../rhythm/swing';
import type { Passage } from '../../schema/passage';
import { readMusicXml } from './musicxml-read';
import { writeMusicXml } from './musicxml-write';
import { passageOfScore } from './score-passage';
import { textFollowing } from './text-follow';
import { readText } from './text-read';
import { writeText } from './text-write';

const read = (text: string): Passage => passageOfScore(readText(text), 'swung').passage;
const TEXT = 'title: Ebb\ntempo: 84\nC4/8 D E F G/2 |\n';

describe('the text notation', () => {
  it('says how eighths swing, and reads it back', () => {
    for (const swing of ['own', '1.5', '2', '3.2']) {
      const passage = withSwing(read(TEXT), swing);
      expect(String(read(writeText(passage)).swing)).toBe(swing);
    }
    expect(writeText(read(TEXT))).not.toContain('swing');
    expect(read(`swing: straight\n${TEXT}`)).not.toHaveProperty('swing');
  });

  it('refuses a swing that is none, with what to write', () => {
    for (const swing of ['5', 'a lot', '0.5', ''])
      expect(() => read(`swing: ${swing}\n${TEXT}`)).toThrow(/Line 1, .*straight, own, or how many times/);
  });
});

describe('a text whose passage was changed on its page', () => {
  const typedAgain = (passage: Passage, text: string) => rewritten(passage, read(text.replace('G/2', 'A/2')));

  it('follows, so that the next note typed puts nothing back', () => {
    const changed = { ...withSwing(read(TEXT), 'own'), goalBpm: 120, title: 'Ebb (copy)' };
    expect(typedAgain(changed, textFollowing(TEXT, changed))).toMatchObject({
      goalBpm: 120,
      title: 'Ebb (copy)',
      swing: 'own',
    });
    const straight = withSwing(changed, 'straight');
    expect(typedAgain(straight, textFollowing(textFollowing(TEXT, changed), straight))).not.toHaveProperty('swing');
  });

  it('stays as it was typed where nothing differs: spaces, remarks, capitals, and what is left out', () => {
    for (const text of [TEXT, 'C4/8 D E F G/2 |', 'Title :  Ebb // as sung\n  TEMPO: 84.0\nC4/4 |'.replace('84.0', '84')])
      expect(textFollowing(text, read(text))).toBe(text);
    const remark = 'tempo: 84 // slowly\nC4/1 |';
    expect(textFollowing(remark, { ...read(remark), goalBpm: 90 })).toBe('tempo: 90 // slowly\nC4/1 |');
  });

  it('says a goal that the text left out', () => {
    const text = 'C4/1 |';
    expect(read(textFollowing(text, { ...read(text), goalBpm: 132 })).goalBpm).toBe(132);
  });
});

/** As the MusicXML 4.0 standard has it (W3C Community Group Report, elements sound and swing; from memory). */
const measure = (number: number, sound: string) => `<measure number="${number}">
  ${number === 1 ? '<attributes><divisions>2</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>' : ''}
  ${sound}${'<note><pitch><step>C</step><octave>4</octave></pitch><duration>1</duration><voice>1</voice></note>'.repeat(4)}</measure>`;
const file = (first: string, second = '') => `<?xml version="1.0"?><score-partwise version="4.0">
  <part-list><score-part id="P1"><part-name>Flute</part-name></score-part></part-list>
  <part id="P1">${measure(1, first)}${measure(2, second)}</part></score-partwise>`;
const swing = (inside: string) => `<direction><direction-type><words>Swing</words></direction-type>
  <sound><swing>${inside}</swing></sound></direction>`;
const TWO_TO_ONE = '<first>2</first><second>1</second><swing-type>eighth</swing-type>';

describe('MusicXML', () => {
  it('swings as its first bar says', () => {
    expect(readMusicXml(file(swing(TWO_TO_ONE)))).toMatchObject({ swing: 2, simplified: [] });
    expect(readMusicXml(file(swing('<first>3</first><second>2</second>')))).toMatchObject({ swing: 1.5 });
    expect(readMusicXml(file(swing('<straight/>')))).not.toHaveProperty('swing');
    expect(readMusicXml(file(''))).not.toHaveProperty('swing');
  });

  it('says what of its swing is left out', () => {
    const leftOut = [expect.stringContaining('name a section and choose its swing')];
    for (const [first, second] of [
      [swing(TWO_TO_ONE), swing('<straight/>')],
      ['', swing(TWO_TO_ONE)],
      [swing(TWO_TO_ONE.replace('eighth', '16th')), ''],
      [swing('<first>9</first><second>1</second>'), ''],
    ] as const)
      expect(readMusicXml(file(first, second)).simplified).toEqual(leftOut);
    // The same once more, and straight where it is straight, is nothing new.
    expect(readMusicXml(file(swing(TWO_TO_ONE), swing(TWO_TO_ONE))).simplified).toEqual([]);
    expect(readMusicXml(file('', swing('<straight/>'))).simplified).toEqual([]);
  });

  it('takes a ratio out and back in', () => {
    for (const ratio of ['1.5', '2', '3', '1.75']) {
      const passage = withSwing(read(TEXT), ratio);
      expect(readMusicXml(writeMusicXml(passage)).swing).toBeCloseTo(Number(ratio), 2);
    }
    expect(writeMusicXml(read(TEXT))).not.toContain('swing');
  });
});
