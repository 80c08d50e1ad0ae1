import type Fraction from 'fraction.js';
import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../../formats/score/score-passage';
import { readText } from '../../formats/score/text-read';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import { type Drill, DrillSchema, type Grid, type GridEvent } from '../../schema/grid';
import { chance } from '../../stats/random';
import { drillName } from '../../words/describe-reason';
import { BUILT_IN_PASSAGES } from '../built-in-passages';
import { gridOf } from '../grid-of';
import { placesIn } from '../metric';
import { endOf } from '../reshape/fill-bars';
import type { Method } from './method';
import { combinedDrills, drillsOf, METHODS } from './methods';
import { methodsCombine } from './methods-combine';

const METERS = ['2/4', '3/4', '4/4', '5/4', '3/8', '6/8', '9/8', '12/8', '7/8', '2/2'];
const SEEDS = [1, 2, 3, 4, 5];
/** Values that notes follow one another by, in quavers: quavers, semiquavers, crotchets, and three to two quavers. */
const STEPS = ['1', '1/2', '1/2', '2', '2/3'];

/**
 * Music of two voices, said in a unit of tempo: above, bars of even notes, each in a value of its own, the last one longer where they do not
 * fill the bar; below, a note to the bar. It ends on a whole bar's note.
 */
const madeUp = (meter: string, seed: number, beatUnit = '1/4'): Grid => {
  const { uniform } = chance(seed);
  const [count, unit] = meter.split('/').map(Number) as [number, 2 | 4 | 8];
  const pick = <One>(all: readonly One[]) => all[Math.floor(uniform() * all.length)] as One;
  const inUnits = (quavers: Fraction) => writeBeats(quavers.div(8).div(beats(beatUnit)));
  const bar = beats(8 * count).div(unit);
  let notes = 0;
  const note = (length: Fraction, voice: number): GridEvent['notes'][number] => {
    notes += 1;
    const step = pick(['C', 'D', 'E', 'F', 'G', 'A'] as const);
    const pitch = { step, alter: 0, octave: voice === 1 ? 5 : 3 };
    return { from: `n${notes}`, pitch, length: inUnits(length), staff: 1, voice, marks: {} };
  };
  const event = (at: Fraction, length: Fraction, below: GridEvent['notes']): GridEvent => ({
    at: inUnits(at),
    length: inUnits(length),
    accent: false,
    notes: [...below, note(length, 1)],
  });
  const BARS = 3;
  const events = Array.from({ length: BARS }, (_, number) => {
    const line = bar.mul(number);
    const each = beats(pick(STEPS));
    const fit = Math.max(1, bar.div(each).floor().valueOf());
    return Array.from({ length: fit }, (_one, k) => {
      const length = k === fit - 1 ? bar.sub(each.mul(k)) : each;
      return event(line.add(each.mul(k)), length, k === 0 ? [note(bar, 2)] : []);
    });
  }).flat();
  return {
    beatUnit,
    pickup: '0',
    meters: [{ at: '0', count, unit }],
    keys: [{ at: '0', fifths: 0 }],
    staves: [{ clef: 'treble' }],
    bars: BARS + 1,
    events: [...events, event(bar.mul(BARS), bar, [])],
  };
};

const GRIDS = [
  ...METERS.flatMap((meter) => SEEDS.map((seed) => [`${meter}, ${seed}`, madeUp(meter, seed)] as const)),
  ...BUILT_IN_PASSAGES.map((passage) => [passage.title, gridOf(passage, passage.variants[0] ?? null)] as const),
];

/** What holds of every drill: it reads, its notes are in order, inside whole bars, and lead back to the page. */
const isSound = ({ grid }: Drill, source: Grid, what: string) => {
  const known = new Set(source.events.flatMap(({ notes }) => notes.map(({ from }) => from)));
  const end = barStarts(grid).at(-1) as Fraction;
  const at = grid.events.map((event) => beats(event.at));
  for (const [k, position] of at.slice(1).entries()) expect(position.compare(at[k] as Fraction), what).toBeGreaterThan(0);
  expect(at[0]?.compare(beats(grid.pickup).neg()), what).toBeGreaterThanOrEqual(0);
  for (const event of grid.events) {
    expect(endOf(event).compare(end), what).toBeLessThanOrEqual(0);
    for (const { from, length } of event.notes) {
      expect(known.has(from), what).toBe(true);
      expect(beats(length).compare(0), what).toBeGreaterThan(0);
    }
  }
};

const of = (id: string) => METHODS.find((method) => method.id === id) as Method;
/** Where the last note lies after its beat, and in a beat of which length. */
const landing = (grid: Grid): string => {
  const { inBar, beat } = placesIn(grid)(beats((grid.events.at(-1) as GridEvent).at));
  return `${inBar.mod(beat).toFraction()} of ${beat.toFraction()}`;
};
/** What is played, in whole notes, whatever unit its tempo is said in. */
const inWholeNotes = ({ grid }: Drill): string[] =>
  grid.events.map(({ at, notes }) => {
    const unit = beats(grid.beatUnit);
    const sounds = notes.map(({ from, length }) => `${from}:${beats(length).mul(unit).toFraction()}`);
    return `${beats(at).mul(unit).toFraction()} ${sounds.join(' ')}`;
  });

describe('methods on music in ten meters, with two voices', () => {
  it.each(GRIDS)('make sound drills, alone: %s', (name, grid) => {
    for (const { id } of METHODS)
      for (const drill of drillsOf(grid, id).slice(0, 40)) {
        expect(DrillSchema.safeParse(drill).error).toBeUndefined();
        isSound(drill, grid, `${id} on ${name}`);
      }
  });

  it('make sound drills in pairs, of all that make sense together', () => {
    const pairs = METHODS.flatMap((one, k) =>
      METHODS.slice(k + 1).flatMap((other) => (methodsCombine(one, other) ? [[one, other]] : [])),
    );
    expect(pairs.length).toBeGreaterThan(100);
    for (const [k, [one, other]] of (pairs as [Method, Method][]).entries()) {
      const [name, grid] = GRIDS[k % GRIDS.length] as (typeof GRIDS)[number];
      for (const drill of drillsOf(grid, one.id).slice(-2))
        for (const both of drillsOf(drill.grid, other.id).slice(0, 3))
          isSound(both, grid, `${one.id} and ${other.id} on ${name}`);
    }
  });

  it.each(['long-short', 'mixed-forms', 'repeat-each', 'doublings', 'outline', 'from-the-end'])(
    'land where they were in the beat: %s',
    (id) => {
      const choices = of(id).fields.flatMap(({ key, choices }) => choices.map(({ value }) => ({ [key]: value })));
      for (const [name, grid] of GRIDS)
        for (const parameters of [{}, ...choices])
          for (const drill of drillsOf(grid, id, parameters).slice(0, 12))
            expect(landing(drill.grid), `${JSON.stringify(parameters)} on ${name}`).toBe(landing(grid));
    },
  );

  it('begin groups of long and short notes on beats, and fill whole beats or an even part of one', () => {
    for (const [name, grid] of GRIDS)
      for (const size of [2, 3, 4, 5, 6])
        for (const drill of drillsOf(grid, 'long-short', { size, long: 1 })) {
          // Bars of one value: a group's long note begins on the beat, or on an even part of it.
          const placeOf = placesIn(drill.grid);
          for (const event of drill.grid.events) {
            const { inBar, beat } = placeOf(beats(event.at));
            expect(inBar.mod(beat).div(beat).d, `${size} on ${name}`).toBeLessThanOrEqual(24n);
          }
        }
  });

  it.each([
    'long-short',
    'mixed-forms',
    'quick-groups',
    'repeat-each',
    'doublings',
    'outline',
    'from-the-end',
    'accents',
    'touch',
    'add-a-note',
    'around',
    'blocks',
    'hands',
  ])('are the same whatever unit the tempo is said in: %s', (id) => {
    for (const meter of METERS)
      for (const seed of SEEDS) {
        const [quarters, others] = ['1/4', meter.endsWith('8') ? '3/8' : '1/2'].map((unit) =>
          drillsOf(madeUp(meter, seed, unit), id),
        );
        expect(others?.map(inWholeNotes), `${meter}, ${seed}`).toEqual(quarters?.map(inWholeNotes));
      }
  });

  it('keep the other voice as it is written while one repeats or doubles its notes', () => {
    const grid = madeUp('4/4', 2);
    const below = (one: Grid) =>
      one.events.flatMap(({ at, notes }) => notes.filter(({ voice }) => voice === 2).map(({ length }) => `${at}:${length}`));
    for (const id of ['repeat-each', 'doublings'])
      for (const drill of drillsOf(grid, id)) expect(below(drill.grid)).toEqual(below(grid));
  });

  it('have no partner that undoes them', () => {
    const together = (a: string, b: string) => methodsCombine(of(a), of(b));
    expect(together('long-short', 'quick-groups')).toBe(true);
    expect(together('chunks', 'long-short')).toBe(true);
    expect(together('accents', 'arc')).toBe(true);
    expect(together('long-short', 'mixed-forms')).toBe(false);
    expect(together('two-voices', 'long-short')).toBe(false);
    expect(together('arc', 'sweep')).toBe(false);
    expect(together('burst', 'gaps')).toBe(false);
    expect(together('straight', 'arc')).toBe(false);
    for (const one of METHODS) for (const other of METHODS) expect(methodsCombine(one, other)).toBe(methodsCombine(other, one));
  });

  // How teachers write these out (common practice).
  it.each([
    [2, 'dotted', '0 3/8 1/2 7/8 1'],
    [2, 'triplet', '0 1/3 1/2 5/6 1'],
    [3, 'dotted', '0 3/4 7/8 1 7/4 15/8 2'],
    [3, 'triplet', '0 1/2 3/4 1 3/2 7/4 2'],
    [4, 'dotted', '0 1/2 2/3 5/6 1 3/2 5/3 11/6 2'],
    [4, 'held', '0 5/4 3/2 7/4 2 13/4 7/2 15/4 4'],
    [5, 'half', '0 1 5/4 3/2 7/4 2 3 13/4 7/2 15/4 4'],
    [6, 'dotted', '0 3/4 1 5/4 3/2 7/4 2'],
  ] as const)('give semiquavers in groups of %i whole beats, or an even part of one: %s', (size, ratio, begins) => {
    const [grid] = BUILT_IN_PASSAGES.map((passage) => gridOf(passage, null)) as [Grid];
    const [drill] = drillsOf(grid, 'long-short', { size, long: 1, ratio }) as [Drill];
    const wanted = begins.split(' ');
    expect(drill.grid.events.slice(0, wanted.length).map(({ at }) => at)).toEqual(wanted);
    expect(landing(drill.grid)).toBe('0 of 1');
  });

  it('give 6/8 its figures of three, by the values that it is written in', () => {
    const { passage } = passageOfScore(readText('meter: 6/8\nC4/8 D4 E4 F4 G4 A4 | B4 A4 G4 F4 E4 D4 | C4/4. |'), 'six-eight');
    const sixEight = gridOf(passage, null);
    const titles = drillsOf(sixEight, 'mixed-forms').map((drill) => drillName(drill, { noteNaming: 'british' }));
    expect(titles).toEqual([
      'Crotchet and quaver',
      'Quaver and crotchet',
      'Quaver, two semiquavers, quaver',
      'Two quavers and two semiquavers',
      'Two semiquavers and two quavers',
    ]);
  });

  it('work on what the first one made: quick groups keep the rhythm of long and short', () => {
    const [grid] = BUILT_IN_PASSAGES.map((passage) => gridOf(passage, null)) as [Grid];
    const [drill] = combinedDrills(grid, [
      { id: 'long-short', parameters: { size: 2, long: 1 } },
      { id: 'quick-groups', parameters: { size: 4, offset: 1 } },
    ]);
    expect(drill?.grid.events.slice(0, 5).map(({ at }) => at)).toEqual(['0', '3/8', '1/2', '7/8', '1']);
  });
});

describe('methods on two voices', () => {
  const grid = gridOf(
    passageOfScore(readText('meter: 4/4\nvoice 1: C5/8 D E F G A B C6 | C6/1 |\nvoice 2: C3/4. G3/8 C3/2 | C3/1 |'), 'two')
      .passage,
  );
  /** What a voice plays: place, steps and length of each. */
  const voiceIn = (drill: Drill | undefined, voice: number) =>
    (drill?.grid.events ?? []).flatMap(({ at, notes }) => {
      const own = notes.filter((note) => note.voice === voice);
      return own.length > 0 ? [`${at} ${own.map(({ pitch }) => pitch?.step).join('')} ${own[0]?.length}`] : [];
    });
  const BELOW = ['0 C 3/2', '3/2 G 1/2', '2 C 2', '4 C 4'];

  it('strike blocks of the upper one over the lower as it is written', () => {
    const [drill] = drillsOf(grid, 'blocks', { size: 4 });
    expect(voiceIn(drill, 1)).toEqual(['0 CDEF 2', '2 GABC 2', '4 C 4']);
    expect(voiceIn(drill, 2)).toEqual(BELOW);
  });

  it('outline the upper one and leave the lower as it is written', () => {
    const [beatsOnly, halves, all] = drillsOf(grid, 'outline');
    expect(voiceIn(beatsOnly, 1)).toEqual(['0 C 1', '1 E 1', '2 G 1', '3 B 1', '4 C 4']);
    for (const drill of [beatsOnly, halves, all]) expect(drill ? voiceIn(drill, 2) : BELOW).toEqual(BELOW);
  });

  it('add a note of the upper one, and what the lower has until then', () => {
    const drills = drillsOf(grid, 'add-a-note', { upTo: 4 });
    expect(drills.map((drill) => [voiceIn(drill, 1).length, voiceIn(drill, 2).length])).toEqual([
      [2, 1],
      [3, 1],
      [4, 2],
    ]);
  });

  it('hold one of the notes that one hand has', () => {
    const steps = drillsOf(grid, 'hold-one', { size: 5 }).map(({ grid: { events } }) =>
      events[0]?.notes.map(({ pitch }) => pitch?.octave),
    );
    expect(steps).toHaveLength(5);
    expect(new Set(steps.flat())).toEqual(new Set([5]));
  });
});
