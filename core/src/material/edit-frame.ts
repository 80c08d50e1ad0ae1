import type Fraction from 'fraction.js';
import { CLEFS } from '../rhythm/clefs';
import { beats, writeBeats } from '../schema/beats';
import { barStarts, meterBeats } from '../schema/frame';
import type { Clef, MeterChange } from '../schema/notation';
import type { Passage, PassageNote } from '../schema/passage';
import { TEMPO_RANGE_BPM } from '../schema/tempo';
import { withoutLooseEnds } from './loose-ends';

type Change = { at: string };

const lineAt = (passage: Passage, bar: number): Fraction => barStarts(passage)[bar] ?? beats(0);

/** Where the next change after a place stands; null where none follows. */
const nextAfter = (changes: readonly Change[], place: Fraction): Fraction | null =>
  changes.map(({ at }) => beats(at)).find((at) => at.compare(place) > 0) ?? null;

/** Changes without those that change nothing. */
const settled = <One extends Change>(changes: readonly One[]): One[] =>
  changes.filter((one, k) => {
    const { at: _, ...said } = one;
    const { at: __, ...before } = changes[k - 1] ?? { at: '' };
    return k === 0 || JSON.stringify(said) !== JSON.stringify(before);
  });

const inOrder = <One extends Change>(changes: readonly One[]): One[] =>
  [...changes].sort((a, b) => beats(a.at).compare(beats(b.at)));

/**
 * A passage in another meter from a bar on, up to where it changes again: notes stay on their beats, bar lines move, the last bar before that
 * change, or the end, is filled up with silence. Sections stay over the notes that they had, numbers of the page are counted anew.
 *
 * @param bar from 0
 */
export const withMeter = (passage: Passage, bar: number, meter: Pick<MeterChange, 'count' | 'unit'>): Passage => {
  const lines = barStarts(passage);
  const from = lineAt(passage, bar);
  const next = nextAfter(passage.meters, from);
  const stop = next ?? (lines.at(-1) as Fraction);
  const length = meterBeats(meter, passage.beatUnit);
  const inStretch = stop.sub(from).div(length).ceil();
  const filled = from.add(length.mul(inStretch)).sub(stop);
  /** What stands after the stretch moves on by the silence that fills it. */
  const moved = <One extends Change>(one: One): One =>
    next && beats(one.at).compare(next) >= 0 ? { ...one, at: writeBeats(beats(one.at).add(filled)) } : one;
  const meters = settled(
    inOrder([...passage.meters.filter(({ at }) => !beats(at).equals(from)), { at: writeBeats(from), ...meter }].map(moved)),
  );
  const whole = { meters, beatUnit: passage.beatUnit };
  const bars = lines.filter((line) => line.compare(from) < 0).length + inStretch.valueOf();
  const after = next ? lines.filter((line) => line.compare(next) > 0).length : 0;
  const starts = barStarts({ ...whole, bars: bars + after });
  const barOf = (line: Fraction | undefined): number =>
    Math.max(
      0,
      starts.findLastIndex((start) => line !== undefined && start.compare(line) <= 0),
    );
  const movedLine = (bar0: number) => beats(moved({ at: writeBeats(lines[bar0] ?? beats(0)) }).at);
  const { pageBars: _, text: __, ...rest } = passage;
  return withoutLooseEnds({
    ...rest,
    meters,
    // A key that changes inside its bar now changes where that begins.
    keys: settled(passage.keys.map(moved).map((key) => ({ ...key, at: writeBeats(starts[barOf(beats(key.at))] ?? beats(0)) }))),
    bars: bars + after,
    notes: passage.notes.map(moved),
    sections: passage.sections.map((section) => {
      const end = movedLine(section.toBar);
      const last = starts.findIndex((start) => start.compare(end) >= 0);
      return {
        ...section,
        fromBar: barOf(movedLine(section.fromBar - 1)) + 1,
        toBar: Math.max(1, last < 0 ? bars + after : last),
      };
    }),
  });
};

/**
 * A passage in another key from a bar on, up to where it changes again: its notes stay, their signs are written otherwise.
 *
 * @param bar from 0
 * @param fifths sharps; flats negative
 */
export const withKey = (passage: Passage, bar: number, fifths: number): Passage => {
  const from = lineAt(passage, bar);
  const { text: _, ...rest } = passage;
  const others = passage.keys.filter(({ at }) => !beats(at).equals(from));
  return { ...rest, keys: settled(inOrder([...others, { at: writeBeats(from), fifths }])) };
};

/**
 * A passage whose staff has another clef from a bar on, up to where it changes again; notes stay where they sound.
 *
 * @param bar from 0
 * @param staff from 1
 */
export const withClef = (passage: Passage, bar: number, staff: number, clef: Clef): Passage => {
  const begins = passage.staves[staff - 1]?.clef ?? 'treble';
  const clefOf = ({ printed }: PassageNote): Clef => printed?.clef ?? begins;
  const from = lineAt(passage, bar);
  const isFirst = bar === 0;
  const own = inOrder(passage.notes.filter((note) => note.staff === staff));
  const here = own.filter(({ at }) => isFirst || beats(at).compare(from) >= 0);
  const [first] = here;
  // Up to the next change of clef after the bar's own.
  const stop = first ? here.findIndex((note) => clefOf(note) !== clefOf(first)) : -1;
  const changed = new Set(here.slice(0, stop < 0 ? here.length : stop).map(({ id }) => id));
  const starts = isFirst ? clef : begins;
  const { text: _, ...rest } = passage;
  return {
    ...rest,
    staves: passage.staves.map((one, k) => (k === staff - 1 ? { clef: starts } : one)),
    notes: passage.notes.map((note): PassageNote => {
      if (note.staff !== staff) return note;
      const { printed, ...bare } = note;
      const { clef: __, ...others } = printed ?? {};
      const is = changed.has(note.id) ? clef : clefOf(note);
      const all = is === starts ? others : { ...others, clef: is };
      return Object.keys(all).length > 0 ? { ...bare, printed: all } : bare;
    }),
  };
};

/** The clefs that notes may be given: those of pitches. */
export const PITCHED_CLEFS = (Object.keys(CLEFS) as Clef[]).filter((clef) => clef !== 'percussion');

/**
 * A passage counted in another note value: everything lasts as long as it did, its goal too.
 *
 * @param beatUnit a fraction of a whole note: 1/4, 3/8
 */
export const withBeatUnit = (passage: Passage, beatUnit: string): Passage => {
  const ratio = beats(passage.beatUnit).div(beats(beatUnit));
  const scaled = (value: string): string => writeBeats(beats(value).mul(ratio));
  const moved = <One extends Change>(one: One): One => ({ ...one, at: scaled(one.at) });
  const { text: _, ...rest } = passage;
  const goalBpm = Math.round(passage.goalBpm * ratio.valueOf() * 10) / 10;
  return {
    ...rest,
    beatUnit,
    pickup: scaled(passage.pickup),
    meters: passage.meters.map(moved),
    keys: passage.keys.map(moved),
    notes: passage.notes.map((note) => ({ ...moved(note), length: scaled(note.length) })),
    goalBpm: Math.min(TEMPO_RANGE_BPM.max, Math.max(TEMPO_RANGE_BPM.min, goalBpm)),
  };
};
