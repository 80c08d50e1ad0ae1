import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import { type Drill, DrillSchema, type Grid } from '../../schema/grid';
import type { Passage } from '../../schema/passage';
import { drillName } from '../../words/describe-reason';
import { BUILT_IN_PASSAGES, builtInPassage, passageOf } from '../built-in-passages';
import { gridOf } from '../grid-of';
import { endOf } from '../reshape/fill-bars';
import { combinations } from './combinations';
import { placements } from './doublings';
import { combinedDrills, drillsOf, METHODS, rotatedDrills } from './methods';

const READER = { noteNaming: 'american' } as const;
const marked = (passage: Passage): Grid => gridOf(passage, passage.variants[0] ?? null);
const GRIDS = BUILT_IN_PASSAGES.map((passage) => [passage.title, marked(passage)] as const);
const rhythmOf = ({ grid }: Drill) => grid.events.map((event) => `${event.at}:${event.length}`).join(' ');
const lengthOf = (grid: Grid) => barStarts(grid).at(-1) as ReturnType<typeof beats>;

/** Eight even notes of a quarter of a beat and a landing on the third beat. */
const EIGHT = gridOf(
  passageOf({
    id: 'eight',
    title: 'Eight',
    about: '',
    bars: 1,
    goalBpm: 100,
    variant: '',
    notes: Array.from({ length: 9 }, (_, k) => ({
      at: writeBeats(beats(k).div(4)),
      length: k === 8 ? '2' : '1/4',
      pitch: { step: 'CDEFGABCD'[k] as 'C', alter: 0, octave: k > 6 ? 5 : 4 },
      staff: 1 as const,
      voice: 1,
    })),
  }),
);

/** Everything that a grid must be, whoever made it. */
const isSound = (grid: Grid, source: Grid) => {
  const known = new Set(source.events.flatMap((event) => event.notes.map((note) => note.from)));
  const end = lengthOf(grid);
  const at = grid.events.map((event) => beats(event.at));
  at.slice(1).forEach((position, k) => {
    expect(position.compare(at[k] as typeof position)).toBeGreaterThan(0);
  });
  for (const event of grid.events) {
    expect(beats(event.length).compare(0)).toBeGreaterThan(0);
    expect(endOf(event).compare(end)).toBeLessThanOrEqual(0);
    for (const note of event.notes) expect(known.has(note.from)).toBe(true);
  }
  expect(at[0]?.compare(beats(grid.pickup).neg())).toBeGreaterThanOrEqual(0);
};

describe.each(METHODS.map((method) => [method.id, method] as const))('the method %s', (id, method) => {
  it.each(GRIDS)(
    'makes valid drills of "%s": in order, within whole bars, every note leading back to the page',
    (_title, grid) => {
      const drills = drillsOf(grid, id);
      expect(drills.length).toBeGreaterThan(0);
      for (const drill of drills) {
        expect(DrillSchema.safeParse(drill).error).toBeUndefined();
        isSound(drill.grid, grid);
        expect(drillName(drill, READER)).not.toBe('');
      }
      // Each has a name of its own.
      expect(new Set(drills.map((drill) => drillName(drill, READER))).size).toBe(drills.length);
    },
  );

  it('is read with no parameters, offers choices that it accepts, and says what it is for', () => {
    const defaults = method.parameters.parse({}) as Record<string, unknown>;
    for (const field of method.fields) {
      expect(defaults).toHaveProperty(field.key);
      for (const { value } of field.choices) {
        expect(method.parameters.safeParse({ ...defaults, [field.key]: value }).success).toBe(true);
        for (const drill of drillsOf(EIGHT, id, { ...defaults, [field.key]: value })) isSound(drill.grid, EIGHT);
      }
    }
    expect(method.about.length).toBeGreaterThan(20 * Number(id !== 'straight'));
  });
});

describe('every method on passages of any rhythm', () => {
  const steps = fc.constantFrom('1/4', '1/3', '1/2', '1', '3/4', '1/6', '2/5');
  it('keeps what must be kept', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(steps, fc.integer({ min: 1, max: 9 })), { minLength: 1, maxLength: 5 }),
        fc.constantFrom(3, 4, 5),
        fc.constantFrom(...METHODS.map((method) => method.id)),
        (runs, count, id) => {
          let at = beats(0);
          const notes = runs.flatMap(([each, many]) =>
            Array.from({ length: many }, () => {
              const note = { at: writeBeats(at), length: each, pitch: null, staff: 1 as const, voice: 1 };
              at = at.add(beats(each));
              return note;
            }),
          );
          const bars = Math.max(1, Math.ceil(at.div(count).valueOf()));
          const passage = passageOf({ id: 'any', title: 'Any', about: '', bars, goalBpm: 100, variant: '', notes });
          const grid = gridOf({ ...passage, meters: [{ at: '0', count, unit: 4 }] });
          for (const drill of drillsOf(grid, id)) isSound(drill.grid, grid);
        },
      ),
      { numRuns: 120 },
    );
  });
});

describe('the generated rhythms', () => {
  const of = (id: string, parameters = {}) => drillsOf(EIGHT, id, parameters);

  it('of long and short notes fill the group exactly', () => {
    const [first, second] = of('long-short');
    expect(rhythmOf(first as Drill)).toBe('0:3/8 3/8:1/8 1/2:3/8 7/8:1/8 1:3/8 11/8:1/8 3/2:3/8 15/8:1/8 2:2');
    expect(rhythmOf(second as Drill)).toBe('0:1/8 1/8:3/8 1/2:1/8 5/8:3/8 1:1/8 9/8:3/8 3/2:1/8 13/8:3/8 2:2');
    const four = of('long-short', { size: 4, ratio: 'half' });
    expect(four).toHaveLength(4);
    expect(
      rhythmOf(four[1] as Drill)
        .split(' ')
        .slice(0, 4)
        .join(' '),
    ).toBe('0:1/6 1/6:1/2 2/3:1/6 5/6:1/6');
    const triplet = of('long-short', { size: 2, ratio: 'triplet', long: 1 });
    expect(
      rhythmOf(triplet[0] as Drill)
        .split(' ')
        .slice(0, 2)
        .join(' '),
    ).toBe('0:1/3 1/3:1/6');
  });

  it('of mixed figures put a figure to each beat', () => {
    const [first] = of('mixed-forms', { form: '211' });
    expect(rhythmOf(first as Drill)).toBe('0:1/2 1/2:1/4 3/4:1/4 1:1/2 3/2:1/4 7/4:1/4 2:1/4 9/4:3/4 3:1');
    const [triplet] = of('mixed-forms', { form: 'triplets' });
    expect(
      rhythmOf(triplet as Drill)
        .split(' ')
        .slice(0, 4)
        .join(' '),
    ).toBe('0:1/3 1/3:1/6 1/2:1/3 5/6:1/6');
  });

  it('cover every connection: each is once played quick, in every family and group size', () => {
    for (const size of [2, 3, 4, 5, 6])
      for (const ratio of ['dotted', 'triplet', 'half']) {
        const drills = of('long-short', { size, ratio });
        // The last note before the landing waits for the beat where groups do not come out even.
        for (let k = 0; k + 2 < EIGHT.events.length; k += 1) {
          const lengths = drills.map(({ grid }) => beats(grid.events[k]?.length ?? '0').valueOf());
          expect(Math.min(...lengths), `note ${k + 1} of groups of ${size}, ${ratio}`).toBeLessThanOrEqual(0.25);
        }
      }
  });

  it('of quick groups stand on the beat with a pause, and cover every connection at speed over all offsets', () => {
    const drills = of('quick-groups', { size: 4, pause: 1 });
    expect(drills).toHaveLength(4);
    expect(rhythmOf(drills[0] as Drill)).toBe('0:1/4 1/4:1/4 1/2:1/4 3/4:1/4 1:1/4 3:1/4 13/4:1/4 7/2:1/4 15/4:1/4 4:4');
    const joined = new Set(
      drills.flatMap(({ grid }) =>
        grid.events.slice(1).flatMap((event, k) => {
          const before = grid.events[k] as Grid['events'][number];
          const gap = beats(event.at).sub(beats(before.at));
          return gap.equals(beats('1/4')) ? [`${before.notes[0]?.from}-${event.notes[0]?.from}`] : [];
        }),
      ),
    );
    for (let k = 1; k <= 8; k += 1) expect(joined.has(`n${k}-n${k + 1}`)).toBe(true);
  });

  it('of the outline keep the chosen notes at their places', () => {
    const [onBeats, other, all] = of('outline') as [Drill, Drill, Drill];
    expect(rhythmOf(onBeats)).toBe('0:1 1:1 2:2');
    expect(rhythmOf(other)).toBe('0:1/2 1/2:1/2 1:1/2 3/2:1/2 2:2');
    expect(all.grid).toEqual(EIGHT);
    const [, , stopped] = of('outline', { stops: true });
    expect(rhythmOf(stopped as Drill)).toBe('0:1/4 1/4:1/4 1/2:1/4 3/4:1/4 2:1/4 9/4:1/4 5/2:1/4 11/4:1/4 4:4');
  });

  it('of added notes grow by one from the same start', () => {
    expect(of('add-a-note', { upTo: 5 }).map(({ grid }) => grid.events.length)).toEqual([2, 3, 4, 5]);
  });

  it('of chunks end on the next downbeat and double', () => {
    const five = marked(builtInPassage('five-steps') as Passage);
    const drills = drillsOf(five, 'chunks', { size: 'beat' });
    const first = drills.slice(0, 4);
    expect(first.map(({ grid }) => grid.events.length)).toEqual([5, 5, 5, 5]);
    expect(rhythmOf(drills[1] as Drill)).toBe('1:1/4 5/4:1/4 3/2:1/4 7/4:1/4 2:2');
    // The last beat of a bar leads over its bar line.
    expect(rhythmOf(drills[3] as Drill)).toBe('-1:1/4 -3/4:1/4 -1/2:1/4 -1/4:1/4 0:4');
    const sizes = drills.map(({ method }) => method.parameters.size);
    expect([...new Set(sizes)]).toEqual(['beat', '2 beats', 'bar', '2 bars']);
    expect(drills.every(({ until }) => until === 'goal')).toBe(true);
  });

  it('from the end join with a stop on the pivot, then without', () => {
    const wave = gridOf({
      ...passageOf({
        id: 'three-bars',
        title: 'Three bars',
        about: '',
        bars: 3,
        goalBpm: 100,
        variant: '',
        notes: Array.from({ length: 12 }, (_, k) => ({ at: String(k), length: '1', pitch: null, staff: 1 as const, voice: 1 })),
      }),
    });
    const drills = drillsOf(wave, 'from-the-end');
    expect(drills.map((drill) => drillName(drill, READER))).toEqual([
      'The last piece',
      'The last 2 pieces, with a stop',
      'The last 2 pieces, straight on',
      'The last 3 pieces, with a stop',
      'The last 3 pieces, straight on',
    ]);
    const stopped = drills[1] as Drill;
    expect(stopped.grid.events.map(({ at }) => at)).toEqual(['0', '1', '2', '3', '4', '9', '10', '11']);
    expect(stopped.grid.events[4]).toMatchObject({ role: 'pivot', length: '5' });
    expect(drills.map(({ notches = 0 }) => notches)).toEqual([0, -2, 2, -2, 2]);
  });

  it('of accents put them where they say', () => {
    const on = (drill: Drill | undefined) => drill?.grid.events.flatMap(({ accent }, k) => (accent ? [k] : []));
    expect(on(of('accents', { on: 'beats' })[0])).toEqual([0, 4, 8]);
    expect(on(of('accents', { on: 'off' })[0])).toEqual([2, 6]);
    expect(of('accents', { on: 'rotation', size: 3 }).map(on)).toEqual([
      [0, 3, 6],
      [1, 4, 7],
      [2, 5, 8],
    ]);
  });

  it('of doublings are as many as combinatorics say, every placement once', () => {
    const choose = (n: number, k: number): number => (k === 0 ? 1 : (choose(n - 1, k - 1) * n) / k);
    for (const [n, k] of [
      [4, 1],
      [4, 2],
      [8, 3],
      [16, 2],
    ] as const) {
      expect(placements(n, k, false)).toHaveLength(choose(n, k));
      // Side by side also over the bar line.
      expect(placements(n, k, true)).toHaveLength(n);
      expect(new Set(combinations(n, k).map(String)).size).toBe(choose(n, k));
    }
    const bar = drillsOf(EIGHT, 'doublings', { count: 2, together: false, over: 'bar' });
    expect(bar).toHaveLength(120);
    expect(drillsOf(EIGHT, 'doublings', { count: 3, together: false, over: 'bar' })).toHaveLength(560);
    const [single] = of('doublings', { count: 1, over: 'beat' });
    expect(rhythmOf(single as Drill)).toBe('0:1/8 1/8:1/8 1/4:1/4 1/2:1/4 3/4:1/4 1:1/8 9/8:1/8 5/4:1/4 3/2:1/4 7/4:1/4 2:2');
  });

  it('of two voices are every way to share, over a steady third', () => {
    const drills = of('two-voices', { notes: 4, bars: 1 });
    expect(drills).toHaveLength(16);
    expect(new Set(drills.map(({ grid }) => grid.events.map(({ notes }) => notes[0]?.marks.hand).join())).size).toBe(16);
    for (const { grid } of drills)
      for (const event of grid.events) expect(event.notes.some((note) => note.voice === 3)).toBe(beats(event.at).d === 1n);
    const [swung] = of('two-voices', { notes: 2, bars: 1, feel: 'swung' });
    expect(swung?.grid.events.slice(0, 4).map(({ at }) => at)).toEqual(['0', '1/3', '1/2', '5/6']);
  });

  it('of divisions in turn keep the click and change the notes', () => {
    const [drill] = of('subdivisions', { from: 1, to: 3, back: false });
    expect(rhythmOf(drill as Drill)).toBe(
      [
        '0:1 1:1 2:1 3:1',
        '4:1/2 9/2:1/2 5:1/2 11/2:1/2 6:1/2 13/2:1/2 7:1/2 15/2:1/2',
        '8:1/3 25/3:1/3 26/3:1/3 9:1/3 28/3:1/3 29/3:1/3 10:1/3 31/3:1/3 32/3:1/3 11:1/3 34/3:1/3 35/3:1/3',
        '12:4',
      ].join(' '),
    );
  });

  it('of pulses are waves on one note, read from its pitch', () => {
    const drills = of('pulses', { bars: 1 });
    expect(drills.map(({ grid }) => grid.events.length)).toEqual([4, 8, 12, 16]);
    for (const { grid, listen } of drills) {
      expect(listen).toBe('pulses');
      expect(new Set(grid.events.map(({ notes }) => notes[0]?.from)).size).toBe(1);
    }
  });

  it('shared between two have a third in any rhythm', () => {
    const thirds = (third: string) => {
      const [drill] = of('two-voices', { third, bars: 1 });
      return drill?.grid.events
        .filter(({ notes }) => notes.some(({ voice }) => voice === 3))
        .map(({ at }) => at)
        .join(' ');
    };
    expect(thirds('beats')).toBe('0 1 2 3');
    expect(thirds('x..x..x.')).toBe('0 3/4 3/2 2 11/4 7/2');
    expect(thirds('.x')).toBe('1/4 3/4 5/4 7/4 9/4 11/4 13/4 15/4');
    // A third without a stroke is none: all is as it usually is.
    expect(thirds('....')).toBe('0 1 2 3 4 5 6 7');
  });

  it('of chains join each pattern to the next', () => {
    const five = marked(builtInPassage('five-steps') as Passage);
    const [drill] = drillsOf(five, 'pattern-chain', { times: 3, returns: false });
    expect(drill?.grid.bars).toBe(6);
    expect(drill?.grid.events.filter(({ role }) => role === 'join')).toHaveLength(1);
    // The way back is a join as well, to the first pattern once more.
    const [back] = drillsOf(five, 'pattern-chain', { times: 3 });
    expect(back?.grid.bars).toBe(7);
    const joins = back?.grid.events.filter(({ role }) => role === 'join') ?? [];
    expect(joins.map(({ at, notes }) => [at, notes[0]?.from])).toEqual([
      ['12', 'n17'],
      ['24', 'n1'],
    ]);
    const [backward] = drillsOf(five, 'pattern-chain', { times: 1, order: 'backward', returns: false });
    expect(backward?.grid.events[0]?.notes[0]?.from).toBe('n17');
  });

  it('of gaps silence the click and mark the return', () => {
    const [drill] = of('gaps', { clicked: 1, silent: 2 });
    expect(drill?.click.gap).toEqual({ clickedBars: 1, silentBars: 2 });
    expect(drill?.grid.events.filter(({ role }) => role === 'return').map(({ at }) => at)).toEqual(['12']);
  });

  it('of blocks strike each group at once', () => {
    const [drill] = of('blocks', { size: 4 });
    expect(drill?.grid.events.map(({ at, length, notes }) => [at, length, notes.length])).toEqual([
      ['0', '1', 4],
      ['1', '1', 4],
      ['2', '2', 1],
    ]);
  });

  it('of the held finger hold one and move the others', () => {
    const five = marked(builtInPassage('five-steps') as Passage);
    const drills = drillsOf(five, 'hold-one', { times: 1 });
    expect(drills).toHaveLength(5);
    for (const { grid } of drills) {
      const held = grid.events.flatMap(({ notes }) => notes.filter((note) => note.held));
      expect(held).toHaveLength(1);
      expect(held[0]?.length).toBe(writeBeats(lengthOf(grid)));
      expect(grid.events).toHaveLength(4);
    }
  });

  it('of the arc and the sweeps move the tempo', () => {
    expect(of('sweep', { fromPercent: 50 })[0]?.tempo).toEqual([
      { beat: 0, share: 0.5 },
      { beat: 64, share: 1 },
    ]);
    const arc = of('arc', { slowPercent: 60 })[0]?.tempo ?? [];
    // Most of the time at the slow end.
    const slow = arc
      .slice(1)
      .reduce(
        (sum, point, k) => sum + (point.share === arc[k]?.share && point.share < 1 ? point.beat - (arc[k]?.beat ?? 0) : 0),
        0,
      );
    expect(slow / (arc.at(-1)?.beat ?? 1)).toBeGreaterThan(0.5);
  });
});

describe('methods together', () => {
  it('are applied in the order of the registry, whatever the order in which they are named', () => {
    const uses = [
      { id: 'arc', parameters: {} },
      { id: 'long-short', parameters: {} },
    ];
    const drills = combinedDrills(EIGHT, uses);
    expect(drills).toHaveLength(2);
    expect(drills).toEqual(combinedDrills(EIGHT, [...uses].reverse()));
    expect(drills[0]).toMatchObject({ method: { id: 'long-short' }, also: [{ id: 'arc' }] });
    expect(drills[0]?.tempo).toHaveLength(6);
    expect(drillName(drills[0] as Drill, READER)).toBe('Groups of 2, the first long · Arc from 60 % and back');
  });

  it('make rhythms on chunks: as many drills as both make', () => {
    const five = marked(builtInPassage('five-steps') as Passage);
    const chunks = drillsOf(five, 'chunks').length;
    expect(
      combinedDrills(five, [
        { id: 'chunks', parameters: {} },
        { id: 'long-short', parameters: {} },
      ]),
    ).toHaveLength(2 * chunks);
  });

  it('of every two make sound drills', () => {
    for (const first of METHODS)
      for (const second of METHODS.filter(
        ({ id }) => !['doublings', 'two-voices', 'long-run', 'subdivisions', 'chunks'].includes(id),
      ))
        for (const drill of drillsOf((drillsOf(EIGHT, first.id)[0] as Drill).grid, second.id).slice(0, 3))
          isSound(drill.grid, EIGHT);
  });

  it('begin one further on each day, and lose none', () => {
    const drills = drillsOf(EIGHT, 'accents');
    expect(rotatedDrills(drills, 1)[0]).toBe(drills[1]);
    expect(new Set(rotatedDrills(drills, 20_000))).toEqual(new Set(drills));
  });
});
