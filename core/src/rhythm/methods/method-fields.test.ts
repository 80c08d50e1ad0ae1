import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../../formats/score/score-passage';
import { readText } from '../../formats/score/text-read';
import { drillName } from '../../words/describe-reason';
import { gridOf } from '../grid-of';
import { voiceOf } from '../line';
import { methodFields, methodParameters } from './method-fields';
import { drillsOf, METHODS } from './methods';

const gridFrom = (text: string) => gridOf(passageOfScore(readText(text), 'voices').passage);
const two = gridFrom(`meter: 3/4
clef: treble bass

staff 1 voice 1: C4/8 D E F G A | B4 A G F E D | C4/2. |
staff 2 voice 5: C3/2. | G2/2. | C3/2. |
`);
const one = gridFrom('meter: 3/4\n\nC4/8 D E F G A | B4 A G F E D | C4/2. |\n');
const voicesIn = (drills: ReturnType<typeof drillsOf>) =>
  new Set(drills.flatMap(({ grid }) => grid.events.flatMap(({ notes }) => notes.map(voiceOf))));
const keeping = METHODS.filter(({ keepsOthers }) => keepsOthers);

describe('the other voices', () => {
  it('are a choice of every method that works on one voice, and only where there are several', () => {
    expect(keeping.map(({ id }) => id).sort()).toEqual([
      'add-a-note',
      'blocks',
      'burst',
      'doublings',
      'hold-one',
      'long-short',
      'mixed-forms',
      'outline',
      'quick-groups',
      'repeat-each',
    ]);
    for (const method of METHODS) {
      const keys = (grid: typeof one) => methodFields(method, { grid, family: null }).map(({ key }) => key);
      expect(keys(one)).not.toContain('others');
      expect(keys(two).includes('others')).toBe(method.keepsOthers ?? false);
    }
  });

  it.each(keeping.map(({ id }) => id))('of %s are as written, or silent, by choice', (id) => {
    expect(voicesIn(drillsOf(two, id)).size).toBe(2);
    expect(voicesIn(drillsOf(two, id, { others: 'written' })).size).toBe(2);
    const silent = drillsOf(two, id, { others: 'silent' });
    // A held note of the method's own has a voice beside the leading one.
    expect([...voicesIn(silent)].every((voice) => voice.startsWith('1/'))).toBe(true);
    // A drill is made the same from what its take says of it.
    for (const drill of silent) expect(drill.method.parameters.others).toBe('silent');
    // Where there is one voice, the choice changes nothing.
    expect(drillsOf(one, id, { others: 'silent' })).toEqual(drillsOf(one, id));
  });

  it('are as written where what was chosen cannot be read', () => {
    const [method] = keeping;
    for (const chosen of [{ others: 'loud' }, null, undefined, 'silent', { others: 3 }])
      expect(methodParameters(method as (typeof METHODS)[number], chosen).others).toBe('written');
  });
});

describe('what a method offers', () => {
  const keys = (id: string, family: Parameters<typeof methodFields>[1]['family'], grid = one) =>
    methodFields(METHODS.find((method) => method.id === id) as (typeof METHODS)[number], { grid, family }).map(
      ({ key }) => key,
    );

  it('are bow strokes to bows alone, and hands and fingers at the turn where they are written', () => {
    expect(keys('touch', 'bowed')).toContain('strokes');
    expect(keys('touch', 'brass')).not.toContain('strokes');
    expect(keys('pulses', 'bowed')).toEqual(['perBeat', 'rhythm', 'bow', 'fingers', 'strings', 'bars']);
    expect(keys('pulses', 'voice')).toEqual(['perBeat', 'rhythm', 'bars']);
    expect(keys('pattern-chain', 'drum')).not.toContain('turn');
    const marked = passageOfScore(readText('meter: 3/4\n\nC4@R/8 D@L E@R F@R G@L A@R | B4/2. |\n'), 'marked').passage;
    expect(keys('pattern-chain', 'drum', gridOf(marked, marked.variants[0]))).toContain('turn');
  });
});

describe('waves of pitch', () => {
  const waves = (parameters: Record<string, unknown>) => drillsOf(one, 'pulses', { perBeat: 2, bars: 1, ...parameters });
  const lengths = (parameters: Record<string, unknown>) =>
    waves(parameters)[0]
      ?.grid.events.map(({ length }) => length)
      .join(' ');

  it('are even, or in rhythms that fill each beat', () => {
    expect(lengths({})).toBe('1/2 1/2 1/2 1/2 1/2 1/2');
    expect(lengths({ rhythm: 'long-short' })).toBe('2/3 1/3 2/3 1/3 2/3 1/3');
    expect(lengths({ rhythm: 'dotted' })).toBe('3/4 1/4 3/4 1/4 3/4 1/4');
    expect(lengths({ rhythm: 'one-and-two' })).toBe('1/2 1/4 1/4 1/2 1/4 1/4 1/2 1/4 1/4');
  });

  it('are under one bow for so many beats, down and up in turn', () => {
    const bows = (bow: number) =>
      waves({ bow, bars: 2 })[0]?.grid.events.flatMap(({ at, notes }) =>
        notes[0]?.marks.stroke ? [`${at} ${notes[0].marks.stroke}`] : [],
      );
    expect(bows(0)).toEqual([]);
    expect(bows(2)).toEqual(['0 down', '2 up', '4 down']);
    expect(bows(1)).toEqual(['0 down', '1 up', '2 down', '3 up', '4 down', '5 up']);
  });

  it('have a drill for every finger, named by it', () => {
    const fingers = waves({ fingers: 'each', rhythm: 'long-short' });
    expect(fingers.map(({ grid }) => grid.events[0]?.notes[0]?.marks.finger)).toEqual(['1', '2', '3', '4']);
    // On another string it is any note; with both, each finger on each string.
    const strings = waves({ strings: 'each', fingers: '2' });
    expect(strings.map(({ titles }) => drillName({ titles }, { noteNaming: 'british' }))).toEqual(
      ['1', '2', '3', '4'].map((string) => `2 waves to the beat, finger 2, string ${string}`),
    );
    expect(strings.map(({ grid }) => grid.events[0]?.notes[0]?.pitch)).toEqual([null, null, null, null]);
    expect(waves({ strings: 'each', fingers: 'each' })).toHaveLength(16);
    for (const drill of strings) expect(drillsOf(one, 'pulses', drill.method.parameters)).toEqual([drill]);
    // Each is made again as it was.
    for (const drill of fingers) expect(drillsOf(one, 'pulses', drill.method.parameters)).toEqual([drill]);
    expect(fingers.map(({ titles }) => drillName({ titles }, { noteNaming: 'british' }))).toEqual(
      ['1', '2', '3', '4'].map((finger) => `Waves long and short, finger ${finger}`),
    );
    expect(waves({}).map(({ titles }) => drillName({ titles }, { noteNaming: 'british' }))).toEqual(['2 waves to the beat']);
  });
});

describe('a chain of patterns', () => {
  const { passage } = passageOfScore(readText('meter: 2/4\n\nC4@R@1/8 D@L@2 E@R F@R | G4@L@4/8 F@R E@L D@L |\n'), 'sticks');
  const chain = (turn: string) =>
    drillsOf(gridOf(passage, passage.variants[0]), 'pattern-chain', { times: 1, turn })[0]?.grid.events.map(
      ({ notes }) => notes[0]?.marks,
    );
  const hands = (turn: string) =>
    chain(turn)
      ?.map((marks) => marks?.hand?.[0])
      .join('');

  it('turns to the other hand, pattern after pattern, or to another finger on the first note', () => {
    expect(hands('written')).toBe('rlrrlrllrlrr');
    expect(hands('hand')).toBe('rlrrrlrrrlrr');
    expect(hands('finger')).toBe(hands('written'));
    expect(
      chain('written')
        ?.map((marks) => marks?.finger ?? '-')
        .join(''),
    ).toBe('12--4---12--');
    expect(
      chain('finger')
        ?.map((marks) => marks?.finger ?? '-')
        .join(''),
    ).toBe('12--3---22--');
  });
});

describe('short notes', () => {
  it('are bowed down, up, in turn, or flicked, as marks; connected ones as they are written', () => {
    const strokes = (how: string) =>
      drillsOf(one, 'touch', { strokes: how }).map(({ grid }) =>
        grid.events
          .slice(0, 3)
          .map(({ notes }) => `${notes[0]?.marks.stroke ?? '-'}${notes[0]?.marks.sign ?? ''}`)
          .join(' '),
      );
    expect(strokes('written')).toEqual(['- - -', '- - -']);
    expect(strokes('alternate')).toEqual(['down up down', '- - -']);
    expect(strokes('up')).toEqual(['up up up', '- - -']);
    expect(strokes('flicked')).toEqual(['upflick upflick upflick', '- - -']);
  });
});

describe('a third that was typed', () => {
  const field = methodFields(METHODS.find(({ id }) => id === 'two-voices') as (typeof METHODS)[number], {
    grid: two,
    family: null,
  }).find(({ key }) => key === 'third');
  const strokes = (third: string) => {
    const [drill] = drillsOf(one, 'two-voices', { third, bars: 1 });
    return drill?.grid.events.map(({ notes }) => (notes.some(({ marks }) => marks.sign === '•') ? 'x' : '.')).join('');
  };

  it('is struck as it stands, over and over', () => {
    expect(strokes('x.xx.x')).toBe('x.xx.x');
    expect(strokes('x..')).toBe('x..x..');
    expect(strokes('.x..')).toBe('.x...x');
  });

  it('is a rhythm with a stroke in it, up to 32 long; any other leaves the beats', () => {
    for (const good of ['x', '.x', 'x.xx.x', 'x'.repeat(32)]) expect(field?.typed?.pattern.test(good)).toBe(true);
    for (const other of ['', '.', '...', 'xo.', 'x x', 'x'.repeat(33), 'beats']) {
      expect(field?.typed?.pattern.test(other), other).toBe(false);
      expect(strokes(other)?.slice(0, 6)).toBe('x.x.x.');
    }
  });
});
