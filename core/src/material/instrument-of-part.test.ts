import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { forItsPart, instrumentNamed } from './instrument-of-part';
import { instrumentOf } from './instruments';

describe('the instrument that a part names', () => {
  it.each([
    ['Violin I', 0, 'violin'],
    ['VIOLA', 0, 'viola'],
    ['Clarinet in B♭', -2, 'clarinet'],
    ['Clarinet in A', -3, 'clarinet-a'],
    ['Clarinet', -3, 'clarinet-a'],
    ['Bass Clarinet in Bb', -14, 'bass-clarinet'],
    ['Alto Sax', -9, 'alto-saxophone'],
    ['Contrabass', -12, 'double-bass'],
    ['Electric Bass Guitar', -12, 'bass-guitar'],
    ['Horn in F 2', -7, 'horn'],
    ['Piano', 0, 'piano'],
    ['Drumset', 0, 'drum-kit'],
    ['Cor Anglais', -7, 'cor-anglais'],
  ])('%s is found', (name, transposition, id) => {
    expect(instrumentNamed(name, transposition)?.id).toBe(id);
  });

  it.each(['part 1', 'Melody', 'Voice', 'Hornpipe set', 'Harpsichord', 'Pianola'])('%s names none', (name) => {
    expect(instrumentNamed(name, 0)).toBeNull();
  });
});

describe('a passage from a file', () => {
  const passage = (head = '') => passageOfScore(readText(`meter: 4/4\n${head}C4/1 |`), 'file').passage;
  const violin = instrumentOf('violin');

  it('is for the instrument of its part, else for the player’s, where they read it as it is written', () => {
    expect(forItsPart(passage(), 'Flute 2', violin).instrumentId).toBe('flute');
    expect(forItsPart(passage(), 'Melody', violin).instrumentId).toBe('violin');
    expect(forItsPart(passage('transposition: -2\n'), 'Clarinet', violin).instrumentId).toBe('clarinet');
    // A part at sounding pitch is not what a clarinet in B flat reads, nor a transposed one what a violin does.
    expect(forItsPart(passage(), 'Clarinet in B flat', violin).instrumentId).toBe('violin');
    expect(forItsPart(passage('transposition: -2\n'), undefined, violin).instrumentId).toBeUndefined();
    expect(forItsPart(passage('clef: percussion\n'), undefined, violin).instrumentId).toBeUndefined();
    expect(forItsPart(passage('clef: percussion\n'), 'Drums', violin).instrumentId).toBe('drum-kit');
  });
});
