import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import type { Grid, GridEvent, GridNote } from '../schema/grid';
import type { Pitch } from '../schema/notation';
import type { Passage, PassageNote, Section, Variant } from '../schema/passage';
import { midiOf } from './pitch';
import { sectionSwing } from './swing';

const height = (note: { pitch: GridNote['pitch'] }) => (note.pitch ? midiOf(note.pitch) : 0);

const sameVoice = (a: PassageNote, b: PassageNote) => a.voice === b.voice && a.staff === b.staff && height(a) === height(b);

/** Notes with the lengths of those tied to them added; what is tied to an earlier note is gone. */
export const withoutTies = (notes: readonly PassageNote[]): { note: PassageNote; at: Fraction; length: Fraction }[] => {
  const timed = notes.map((note) => ({ note, at: beats(note.at), length: beats(note.length) }));
  const byStart = new Map<string, typeof timed>();
  for (const one of timed) byStart.set(one.at.toFraction(), [...(byStart.get(one.at.toFraction()) ?? []), one]);
  const held = new Set<(typeof timed)[number]>();
  for (const one of [...timed].sort((a, b) => a.at.compare(b.at))) {
    if (held.has(one)) continue;
    let last = one;
    while (last.note.tie) {
      const end = last.at.add(last.length).toFraction();
      const from = last;
      const next = (byStart.get(end) ?? []).find((other) => other !== from && sameVoice(other.note, from.note));
      if (!next) break;
      held.add(next);
      last = next;
    }
    one.length = last.at.add(last.length).sub(one.at);
  }
  return timed.filter((one) => !held.has(one));
};

/**
 * The grid of a passage, or of one of its sections, marked as a variant has it: every moment at which something is struck, in
 * order, notes of all voices that begin together in one event. Grace notes are not in it. The section's first downbeat is 0;
 * notes that reach over its end are cut there.
 */
export const gridOf = (passage: Passage, variant: Variant | null = null, section: Section | null = null): Grid => {
  const lines = barStarts(passage);
  const fromBar = section ? section.fromBar - 1 : 0;
  const toBar = section ? section.toBar : passage.bars;
  const zero = lines[fromBar] as Fraction;
  const end = (lines[toBar] as Fraction).sub(zero);
  const first = fromBar === 0 ? beats(passage.pickup).neg() : beats(0);
  const slurs = slurEnds(passage.notes);
  const graces = gracesOf(passage);
  const groups = new Map<string, { at: Fraction; notes: GridNote[]; accent: boolean }>();
  for (const { note, at, length } of withoutTies(passage.notes.filter((one) => !one.grace))) {
    const own = at.sub(zero);
    if (own.compare(first) < 0 || own.compare(end) >= 0) continue;
    const stop = own.add(length);
    const sounding = stop.compare(end) > 0 ? end.sub(own) : length;
    const group = groups.get(own.toFraction()) ?? { at: own, notes: [], accent: false };
    const slur = slurs.get(note.id);
    const place = `${note.at}/${note.voice}/${note.staff}`;
    const before = graces.get(place);
    // Of a chord one note carries them.
    graces.delete(place);
    group.notes.push({
      from: note.id,
      pitch: note.pitch,
      length: writeBeats(sounding),
      staff: note.staff,
      voice: note.voice,
      marks: variant?.marks[note.id] ?? {},
      ...(note.articulation ? { articulation: note.articulation } : {}),
      ...(note.dynamic ? { dynamic: note.dynamic } : {}),
      ...(note.printed ? { printed: note.printed } : {}),
      ...(slur ? { slur } : {}),
      ...(before ? { graces: before.slice(0, 16) } : {}),
    });
    group.accent ||= note.accent ?? false;
    groups.set(own.toFraction(), group);
  }
  const swings = lines.slice(1).map((_, k) => sectionSwing(passage, k + 1));
  let bar = 0;
  const events = [...groups.values()]
    .sort((a, b) => a.at.compare(b.at))
    .map(({ at, notes, accent }): GridEvent => {
      while (bar < passage.bars - 1 && at.add(zero).compare(lines[bar + 1] as Fraction) >= 0) bar += 1;
      const swing = swings[bar];
      const shortest = notes.map((note) => beats(note.length)).reduce((least, one) => (one.compare(least) < 0 ? one : least));
      const ascending = [...notes].sort((a, b) => height(a) - height(b));
      return {
        at: writeBeats(at),
        length: writeBeats(shortest),
        accent,
        notes: ascending,
        ...(swing === undefined ? {} : { swing }),
      };
    });
  return {
    beatUnit: passage.beatUnit,
    pickup: fromBar === 0 ? passage.pickup : '0',
    meters: within(passage.meters, zero, end),
    keys: within(passage.keys, zero, end),
    staves: passage.staves,
    bars: toBar - fromBar,
    events,
    ...(passage.transposition ? { transposition: passage.transposition } : {}),
    ...(passage.swing === undefined ? {} : { swing: passage.swing }),
  };
};

/** What of a slur each note carries. */
const slurEnds = (notes: readonly PassageNote[]): Map<string, NonNullable<GridNote['slur']>> => {
  const ends = new Map<string, NonNullable<GridNote['slur']>>();
  const meet = (id: string, end: 'start' | 'end') => ends.set(id, ends.has(id) && ends.get(id) !== end ? 'both' : end);
  for (const { id, slurTo } of notes) {
    if (slurTo === undefined) continue;
    meet(id, 'start');
    meet(slurTo, 'end');
  }
  return ends;
};

/** The grace notes before each place of a voice and staff. */
const gracesOf = ({ notes }: Passage): Map<string, (Pitch | null)[]> => {
  const graces = new Map<string, (Pitch | null)[]>();
  for (const { grace, pitch, at, voice, staff } of notes) {
    if (!grace) continue;
    const key = `${at}/${voice}/${staff}`;
    graces.set(key, [...(graces.get(key) ?? []), pitch]);
  }
  return graces;
};

/** Changes of meter or key as a stretch has them: the one in force at its start, then those inside. */
const within = <Change extends { at: string }>(changes: readonly Change[], zero: Fraction, end: Fraction): Change[] => {
  const moved = changes.map((change) => ({ change, at: beats(change.at).sub(zero) }));
  const before = moved.filter(({ at }) => at.compare(0) <= 0).at(-1);
  const inside = moved.filter(({ at }) => at.compare(0) > 0 && at.compare(end) < 0);
  return [...(before ? [{ ...before, at: beats(0) }] : []), ...inside].map(({ change, at }) => ({
    ...change,
    at: writeBeats(at),
  }));
};
