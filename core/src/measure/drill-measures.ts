import { breakTempo, type SweptNote } from '../curve/break-tempo';
import { doubleAttackTempo } from '../curve/double-attack-tempo';
import { sweptNotes } from '../curve/swept-notes';
import { wentFirst } from '../curve/went-first';
import { midiOf } from '../rhythm/pitch';
import { beatsNumber } from '../schema/beats';
import type { Drill, GridEvent } from '../schema/grid';
import type { Measures, NoteResult } from '../schema/measures';
import { median, sampleSd } from '../stats/summary';
import { isRising } from '../time/drill-tempo';
import type { ExpectedNote } from '../time/repetition-plan';

/** A held note may be let go this share of its length early: fingers come up together at the end. */
const HELD_SHARE = 0.85;

/** Notes that had to be held and were let go early; null where none had to be, or nothing says when notes ended. */
const letGo = (results: readonly NoteResult[], events: readonly GridEvent[], beatS: number): number | null => {
  let told = 0;
  let early = 0;
  for (const result of results) {
    for (const note of events[result.index]?.notes ?? []) {
      if (!note.held || !note.pitch) continue;
      const pitch = midiOf(note.pitch);
      const struck = result.members?.find(
        (member) => Math.abs((member.pitch ?? 0) - pitch) < 0.5 || Math.abs((member.pitch ?? 0) - pitch) % 12 < 0.01,
      );
      if (struck?.offS === undefined) continue;
      told += 1;
      if (struck.offS - struck.timeS < HELD_SHARE * beatsNumber(note.length) * beatS) early += 1;
    }
  }
  return told > 0 ? early : null;
};

/** How far the playing had moved, in ms, by the time the click returned: the first notes after it against those before it fell silent. */
const returnMs = (results: readonly NoteResult[], events: readonly GridEvent[]): number | null => {
  const at = results.findIndex(({ index }) => events[index]?.role === 'return');
  if (at < 0) return null;
  const deviations = (from: number, to: number) =>
    results.slice(Math.max(0, from), to).flatMap(({ deviationMs }) => deviationMs ?? []);
  const before = deviations(0, Math.min(8, at));
  // The notes just before the return were still played without a click.
  const after = deviations(at - 2, at + 1);
  return before.length > 1 && after.length > 0 ? median(after) - median(before) : null;
};

/** How far the first notes of groups scatter against the click, and the notes inside about their own group; null where there are no groups. */
const groups = (
  results: readonly NoteResult[],
  events: readonly GridEvent[],
): { startsMs: number; insideMs: number } | null => {
  const all: number[][] = [];
  for (const { index, deviationMs } of results) {
    if (events[index]?.role === 'group start') all.push([]);
    if (deviationMs !== null) all.at(-1)?.push(deviationMs);
  }
  const whole = all.filter((group) => group.length > 1);
  if (whole.length < 2) return null;
  // Pooled over the groups: each has a placement of its own.
  const squares = whole.map((group) => (group.length - 1) * sampleSd(group) ** 2);
  const degrees = whole.reduce((sum, group) => sum + group.length - 1, 0);
  return {
    startsMs: sampleSd(whole.map((group) => group[0] as number)),
    insideMs: Math.sqrt(squares.reduce((sum, one) => sum + one, 0) / degrees),
  };
};

/** Where in the passage each event of a drill stands: at the place where its notes first come. */
const placesOf = (events: readonly GridEvent[]): number[] => {
  const first = new Map<string, number>();
  return events.map(({ notes }, index) => {
    const key = notes.map(({ from }) => from).join(' ');
    if (!first.has(key)) first.set(key, index);
    return first.get(key) as number;
  });
};

/** So many notes missing at the end of a sweep are a stop. */
const STOP_NOTES = 3;

/** Where the player stopped in a sweep, which is a break as plain as any; null where it was played to its end. */
const stopTempo = (swept: readonly SweptNote[]): { bpm: number; low: number; high: number } | null => {
  const last = swept.findLastIndex(({ isMissing }) => !isMissing);
  const at = swept[last];
  if (!at || swept.length - 1 - last < STOP_NOTES) return null;
  const [low, high] = [swept[Math.max(0, last - STOP_NOTES)], swept[last + 1]];
  return { bpm: at.bpm, low: low?.bpm ?? at.bpm, high: high?.bpm ?? at.bpm };
};

/** Where a run from slow to fast broke and what went first there; undefined for other drills, null where it did not break. */
const breakOf = (
  results: readonly NoteResult[],
  { grid: { events }, tempo: points }: Pick<Drill, 'grid'> & Partial<Pick<Drill, 'tempo'>>,
  expected: readonly ExpectedNote[],
): Pick<Measures, 'breakBpm' | 'wentFirst' | 'doubledBpm'> => {
  if (!isRising(points)) return {};
  const swept = sweptNotes(results, expected);
  const stopped = stopTempo(swept);
  const evened = breakTempo(swept);
  const found = stopped && (!evened || evened.bpm > stopped.bpm) ? stopped : evened;
  const isDoubled = new Set(results.filter(({ doubleAttackMs }) => doubleAttackMs !== undefined).map(({ index }) => index));
  const maybe = swept.map(({ bpm }, k) => ({ bpm, isDoubled: isDoubled.has((expected[k + 1] as ExpectedNote).index) }));
  const doubledBpm = doubleAttackTempo(maybe);
  if (!found) return { breakBpm: null, doubledBpm };
  const places = placesOf(events);
  const first = wentFirst(
    swept,
    expected.slice(1).map(({ index }) => places[index] as number),
    found.bpm,
  );
  return {
    breakBpm: { value: found.bpm, low: found.low, high: found.high },
    doubledBpm,
    ...(first.length > 0 ? { wentFirst: first } : {}),
  };
};

/** What only some drills are measured by: held notes, groups, the drift over a silence of the click, a sweep's break. `beatS` is a beat's length in seconds. */
export const drillMeasures = (
  results: readonly NoteResult[],
  drill: Pick<Drill, 'grid'> & Partial<Pick<Drill, 'tempo'>>,
  expected: readonly ExpectedNote[],
  beatS: number,
): Pick<Measures, 'letGo' | 'returnMs' | 'groupStartsMs' | 'insideMs' | 'breakBpm' | 'wentFirst' | 'doubledBpm'> => {
  const { events } = drill.grid;
  const early = letGo(results, events, beatS);
  const drifted = returnMs(results, events);
  const grouped = groups(results, events);
  return {
    ...(early === null ? {} : { letGo: early }),
    ...(drifted === null ? {} : { returnMs: drifted }),
    ...(grouped ? { groupStartsMs: grouped.startsMs, insideMs: grouped.insideMs } : {}),
    ...breakOf(results, drill, expected),
  };
};
