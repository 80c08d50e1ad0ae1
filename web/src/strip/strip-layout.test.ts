import { toleranceWindowMs } from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES, builtInPassage, constantTempo, positionsOf } from '@isochron/core/material';
import { drillOf, firstDrill, newPracticeConfig } from '@isochron/core/planning';
import { barStarts, beats, DEFAULT_SETTINGS, type Passage, type Repetition, TOLERANCE_PRESETS } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';
import { describe, expect, it } from 'vitest';
import { barLinePx } from './beside-columns';
import { extraXs, type StripSystem, stripSystems, strokesOf } from './strip-layout';
import { barInSystem, systemsInView } from './systems-in-view';

const passage = builtInPassage('five-steps') as Passage;
const { grid } = firstDrill(passage);
const [system] = stripSystems(grid, 1200) as [StripSystem];
const tolerance = TOLERANCE_PRESETS.secure;

/** A repetition at 120 bpm with these deviations (ms), null for missed notes; placement is their median. */
const repetition = (deviationsMs: readonly (number | null)[], placementMs = 0): Repetition =>
  ({
    index: 0,
    tempo: constantTempo(120),
    downbeatS: 10,
    notes: deviationsMs.map((deviationMs, index) => ({ index, deviationMs, expectedS: 0, onsetS: 0, levelDb: -20 })),
    extras: [],
    measures: { placementMs: { value: placementMs, low: null, high: null } },
  }) as unknown as Repetition;

const strokes = (deviations: readonly (number | null)[], placementMs = 0, calibrated = true) =>
  strokesOf(repetition(deviations, placementMs), grid, system, tolerance, calibrated);

const inTime = Array.from({ length: 17 }, () => 0);

describe('the strip', () => {
  it.each(BUILT_IN_PASSAGES.map((one) => [one.title, one] as const))(
    'spaces the notes of %s by their notated position',
    (_title, one) => {
      const [{ beatX }] = stripSystems(firstDrill(one).grid, 1000) as [StripSystem];
      const step = beatX(1) - beatX(0);
      expect(beatX(3) - beatX(2)).toBeCloseTo(step, 9);
      expect(step).toBeGreaterThan(0);
    },
  );

  it('leaves room before the first column for the rests that a bar begins with, and one for all bars of silence', () => {
    const lead = (text: string) => {
      const typed = passageOfScore(readText(`meter: 4/4\n${text}\n`), 'typed').passage;
      return stripSystems(firstDrill(typed).grid, 1200)[0]?.lead;
    };
    expect(lead('C4/4 D E F |')).toBe(0);
    expect(lead('r/4 D4 E F |')).toBe(28);
    expect(lead('r/4 r/8 D4/8 E/4 F/4 |')).toBe(56);
    expect(lead('r/1 | r/1 | r/1 | r/4 D4 E F |')).toBe(56);
  });

  it('gives a bar line more room before an accidental, a new key or a new meter than before a bare head', () => {
    const px = (rest: string) => {
      const { grid } = firstDrill(passageOfScore(readText(`meter: 4/4\nC4/4 D E F | ${rest}\n`), 'typed').passage);
      return barLinePx(grid, beats(4));
    };
    const bare = px('G4/4 F#4 E D |');
    expect(bare).toBeLessThan(px('F#4/4 G E D |'));
    expect(bare).toBeLessThan(px('meter=3/4 G4/4 E D |'));
    expect(px('key=D G4/4 E D2 |')).toBeLessThan(px('key=E G4/4 E D2 |'));
  });

  it('begins a system at its bar line, with what is tied over it', () => {
    const run = 'C4/16 D E F G F E D C D E F G F E D | ';
    const typed = passageOfScore(readText(`meter: 4/4\n${run.repeat(3)}C4/1~ | C4/4 D E F | ${run}`), 'typed').passage;
    const found: number[] = [];
    for (let width = 400; width <= 1400; width += 50) {
      const systems = stripSystems(firstDrill(typed).grid, width);
      for (const [k, { stop }] of systems.entries()) expect(systems[k + 1]?.start ?? stop).toEqual(stop);
      for (const { start, lead } of systems) if (start.equals(16)) found.push(lead);
    }
    expect(found.length).toBeGreaterThan(0);
    for (const lead of found) expect(lead).toBe(28);
  });

  it('leaves room after the last column for a dot, and for each rest or tied note that fills the bar', () => {
    const tail = (text: string) => {
      const typed = passageOfScore(readText(`meter: 4/4\n${text}\n`), 'typed').passage;
      const last = stripSystems(firstDrill(typed).grid, 1200).at(-1) as StripSystem;
      return last.end - last.right;
    };
    const full = tail('C4/8 D4 E4 F4 G4 A4 B4 C5 | C4/1 |');
    expect(tail('C4/8 D4 E4 F4 G4 A4 B4 C5 | C4/2 r/2 |')).toBe(full + 28);
    expect(tail('C4/8 D4 E4 F4 G4 A4 B4 C5 | C4/4 r/4 r/2 |')).toBe(full + 56);
  });

  it('does not spread a last line of a few notes over the page, nor leave a full one ragged', () => {
    const of = (text: string) => stripSystems(firstDrill(passageOfScore(readText(text), 'typed').passage).grid, 1200);
    const [short] = of('meter: 4/4\nC4/4 D4/2. |\n') as [StripSystem];
    expect(short.end).toBeLessThan(600);
    const long = of(`meter: 4/4\n${'C4/16 D4 E4 F4 G4 A4 B4 C5 C4 D4 E4 F4 G4 A4 B4 C5 |\n'.repeat(6)}`);
    const ends = long.slice(0, -1).map(({ end }) => end);
    expect(new Set(ends).size).toBe(1);
    expect(ends[0]).toBeGreaterThan(900);
  });

  it('keeps a stroke from ever reaching its neighbour', () => {
    const column = system.beatX(0.25) - system.beatX(0);
    expect(2 * system.reachPx).toBeLessThan(column);
    expect(system.bandPx).toBeLessThan(system.reachPx);
    const [far] = strokes(inTime.with(0, 400));
    expect((far?.x ?? 0) - (far?.gridX ?? 0)).toBeCloseTo(system.reachPx, 9);
  });

  it('puts early to the left and late to the right, the window ending where the band ends', () => {
    const windowMs = toleranceWindowMs(tolerance, 125);
    const [early, late, on, edge] = strokes([-20, 20, 3, windowMs]);
    expect(early).toMatchObject({ side: 'early' });
    expect(early?.x).toBeLessThan(early?.gridX ?? 0);
    expect(late).toMatchObject({ side: 'late' });
    expect(late?.x).toBeGreaterThan(late?.gridX ?? 0);
    expect(on?.side).toBe('on');
    expect((edge?.x ?? 0) - (edge?.gridX ?? 0)).toBeCloseTo(system.bandPx, 9);
  });

  it('puts swung notes where they are written, with what was in time on its line', () => {
    const swung = { ...firstDrill(builtInPassage('in-on-the-upbeat') as Passage).grid, swing: 2 };
    const [line] = stripSystems(swung, 1200) as [StripSystem];
    const drawn = strokesOf(repetition(swung.events.map(() => 0)), swung, line, tolerance, true);
    expect(drawn.map(({ x }) => x)).toEqual(positionsOf(swung).map(line.beatX));
  });

  it('shows deviations from the repetition’s own average until the latency is known', () => {
    const late = inTime.map(() => 80);
    expect(strokes(late, 80, false).every((stroke) => stroke.side === 'on' && stroke.shownMs === 0)).toBe(true);
    expect(strokes(late, 80, true).every((stroke) => stroke.side === 'late')).toBe(true);
  });

  it('leaves a gap for a missed note', () => {
    expect(strokes(inTime.with(6, null as never))[6]).toMatchObject({ x: null, shownMs: null });
  });

  it('puts an extra note where it sounded', () => {
    const extra = { ...repetition(inTime), extras: [{ timeS: 10 + 0.5 * 1.125, levelDb: -20 }] };
    expect(extraXs(extra, grid, system)[0]).toBeCloseTo(system.beatX(1.125), 9);
  });

  it('measures each note by its own window: a long note’s band is as wide in time as its tolerance', () => {
    const last = strokes(inTime.with(16, 40)).at(-1);
    // The last note’s interval is that of the step before it.
    expect(last?.side).toBe('late');
  });
});

describe.each([328, 390, 700, 1200])('systems at %i px', (width) => {
  const long = drillOf(passage, { ...newPracticeConfig(passage, DEFAULT_SETTINGS), methodId: 'repeat-each' }).grid;

  it.each([...BUILT_IN_PASSAGES.map((one) => [one.title, firstDrill(one).grid] as const), ['doubled', long] as const])(
    'hold every note of %s once, inside the page, no column too narrow',
    (_title, one) => {
      const systems = stripSystems(one, width);
      expect(systems.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, k) => from + k))).toEqual(
        one.events.map((_, k) => k),
      );
      const positions = positionsOf(one);
      for (const { from, to, beatX, reachPx } of systems) {
        const own = positions.slice(from, to).map((beat) => beatX(beat));
        expect(Math.min(...own) - reachPx).toBeGreaterThanOrEqual(0);
        expect(Math.max(...own) + reachPx).toBeLessThanOrEqual(width);
        own.slice(1).forEach((x, k) => {
          expect(x - (own[k] as number)).toBeGreaterThanOrEqual(14.9);
        });
      }
    },
  );
});

describe('the page that follows the playing', () => {
  const bars = ['C4/16 D4 E4 F4 G4 F4 E4 D4 C4 D4 E4 F4 G4 F4 E4 D4', 'C4/4 r/2.', 'r/4 D4/8 E4 F4/2', 'G4/1'];
  const text = `meter: 4/4\n${Array.from({ length: 32 }, (_, bar) => bars[bar % 5] ?? bars[0]).join(' | ')} |`;
  const study = firstDrill(passageOfScore(readText(text), 'study').passage).grid;
  const positions = positionsOf(study);
  const lines = barStarts(study).map((line) => line.valueOf());
  const systems = stripSystems(study, 1200);
  const lastBeat = positions.at(-1) as number;

  it('shows the system of every beat, with the one before and the one after it', () => {
    expect(systems.length).toBeGreaterThan(6);
    for (let beat = 0; beat <= lastBeat; beat += 1) {
      const shown = systemsInView(systems, positions, beat);
      expect(shown).toHaveLength(3);
      const played = systems.findLastIndex(({ from }) => (positions[from] as number) <= beat);
      expect(shown).toContain(systems[played]);
      if (played > 0) expect(shown).toContain(systems[played - 1]);
      if (played < systems.length - 1) expect(shown).toContain(systems[played + 1]);
    }
    const short = systems.slice(0, 2);
    expect(systemsInView(short, positions, 0)).toEqual(short);
  });

  it('marks the bar of every beat in one of them, inside its columns', () => {
    for (let beat = 0; beat <= lastBeat; beat += 1) {
      const marks = systemsInView(systems, positions, beat).flatMap((one) => {
        const mark = barInSystem(one, lines, beat);
        return mark ? [{ ...mark, one }] : [];
      });
      expect({ beat, marks: marks.length }).toEqual({ beat, marks: 1 });
      for (const { x, width, one } of marks) {
        expect(x).toBeGreaterThanOrEqual(one.left);
        expect(x + width).toBeLessThanOrEqual(one.right + 12);
        expect(width).toBeGreaterThanOrEqual(12);
      }
    }
  });
});

describe('grace notes', () => {
  const systemsOf = (text: string) => {
    const grid = firstDrill(passageOfScore(readText(`meter: 4/4\n${text}`), 'graces').passage).grid;
    const systems = stripSystems(grid, 900, false);
    const positions = positionsOf(grid);
    const columns = systems.flatMap(({ from, to, beatX }) =>
      positions.slice(from + 1, to).map((at, k) => beatX(at) - beatX(positions[from + k] ?? 0)),
    );
    return { systems, narrowest: Math.min(...columns) };
  };
  const bars = (first: string) => `${Array.from({ length: 4 }, () => `${first} D4/16 E4/16 F4/16`).join(' ')} | `.repeat(4);

  it('have room before their note, also before the first of a line', () => {
    const plain = systemsOf(bars('C4/16'));
    const graced = systemsOf(bars('{D4 E4} C4/16'));
    expect(graced.systems.length).toBeGreaterThan(plain.systems.length);
    expect(graced.narrowest).toBeGreaterThan(45);
    expect(graced.systems[0]?.left).toBeGreaterThan(plain.systems[0]?.left ?? 0);
  });

  it('ask for none where they stand after a long note', () => {
    const long = 'C4/2 {D4} E4/2 | '.repeat(4);
    expect(systemsOf(long).systems.length).toBe(systemsOf(long.replaceAll('{D4} ', '')).systems.length);
  });
});
