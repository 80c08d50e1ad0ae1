import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import type { Passage, PassageNote } from '../../schema/passage';
import type { WrittenBar } from './written-bars';
import { piecesBetween } from './written-values';

/** Notes that follow each other, or stand together as chords, so that they can be written in one line. */
export interface WrittenVoice {
  staff: 1 | 2;
  voice: number;
  notes: readonly PassageNote[];
}

/** What is written next: grace notes, a rest, or a note or chord with the length of its symbol, in whole notes. */
export type WrittenItem =
  | { kind: 'graces'; notes: PassageNote[] }
  | { kind: 'rest'; length: Fraction }
  | {
      kind: 'chord';
      notes: [PassageNote, ...PassageNote[]];
      length: Fraction;
      /** Whether they begin here; what goes on from a symbol before has its signs there. */
      isFirst: boolean;
      /** Those of its notes that are tied to what follows. */
      tied: readonly PassageNote[];
    };

interface Timed {
  note: PassageNote;
  at: Fraction;
  end: Fraction;
}

const timed = (note: PassageNote): Timed => {
  const at = beats(note.at);
  return { note, at, end: at.add(beats(note.length)) };
};

const byPlace = (a: Timed, b: Timed): number =>
  a.at.compare(b.at) || Number(b.note.grace ?? false) - Number(a.note.grace ?? false);

const isTogether = (a: Timed, b: Timed): boolean => a.at.equals(b.at) && a.end.equals(b.end);

/**
 * One voice in as many lines as it needs, up to `room`: a note that begins while another one still sounds goes to the next line. Where there
 * is none left, what sounds is let go when the next note of its line begins.
 */
const layers = (notes: readonly PassageNote[], room: number): PassageNote[][] => {
  const lines: Timed[][] = [];
  for (const own of notes.map(timed).sort(byPlace)) {
    // A grace note takes no time: it stands in the first line, whatever sounds there.
    const last = (line: readonly Timed[]) => line.findLast(({ note }) => !note.grace);
    const hasRoom = (line: readonly Timed[]) => {
      const before = last(line);
      return own.note.grace || !before || before.end.compare(own.at) <= 0 || isTogether(before, own);
    };
    const line = lines.find(hasRoom);
    if (line) line.push(own);
    else if (lines.length < room) lines.push([own]);
    else {
      const full = lines.at(-1) as Timed[];
      const together = full.filter((one) => one.end.compare(own.at) > 0);
      const end = together.some((one) => one.at.equals(own.at)) ? (together[0] as Timed).end : own.end;
      for (const one of together) if (!one.at.equals(own.at)) one.end = own.at;
      full.push({ ...own, end });
    }
  }
  return lines.map((line) =>
    line.map(({ note, at, end }) => (note.grace ? note : { ...note, length: writeBeats(end.sub(at)) })),
  );
};

const VOICES = [1, 2, 3, 4, 5, 6, 7, 8];

/** The voices of a passage as they are written, staff by staff. Notes of one voice that overlap get a voice of their own. */
export const writtenVoices = ({ notes }: Pick<Passage, 'notes'>): WrittenVoice[] =>
  ([1, 2] as const).flatMap((staff) => {
    const onStaff = notes.filter((note) => note.staff === staff);
    const used = VOICES.filter((voice) => onStaff.some((note) => note.voice === voice));
    const free = VOICES.filter((voice) => !used.includes(voice));
    return used
      .flatMap((voice) =>
        layers(
          onStaff.filter((note) => note.voice === voice),
          1 + free.length,
        ).map((line, k) => ({ staff, voice: k === 0 ? voice : (free.shift() as number), notes: line })),
      )
      .sort((a, b) => a.voice - b.voice);
  });

/**
 * What one bar of a voice is written with, in order: gaps as rests; what is longer than a symbol, or than the bar, in pieces that are tied.
 * `unit` is the beat in whole notes.
 */
export const writtenItems = (
  { notes }: Pick<WrittenVoice, 'notes'>,
  { from, to }: Pick<WrittenBar, 'from' | 'to'>,
  unit: Fraction,
): WrittenItem[] => {
  const items: WrittenItem[] = [];
  const pieces = (start: Fraction, stop: Fraction) => piecesBetween(start.sub(from), stop.sub(from), unit);
  const rest = (start: Fraction, stop: Fraction) => {
    if (stop.compare(start) > 0) for (const length of pieces(start, stop)) items.push({ kind: 'rest', length });
  };
  const inBar = notes
    .map(timed)
    .filter(({ note, at, end }) => at.compare(to) < 0 && (note.grace ? at.compare(from) >= 0 : end.compare(from) > 0))
    .sort(byPlace);
  let position = from;
  for (let k = 0; k < inBar.length; ) {
    const own = inBar[k] as Timed;
    const group = inBar
      .slice(k)
      .filter((one) => (own.note.grace ? one.note.grace && one.at.equals(own.at) : isTogether(one, own)));
    const chord = group.map(({ note }) => note) as [PassageNote, ...PassageNote[]];
    k += group.length;
    const start = own.at.compare(from) < 0 ? from : own.at;
    rest(position, start);
    if (own.note.grace) {
      items.push({ kind: 'graces', notes: chord });
      position = start.compare(position) > 0 ? start : position;
      continue;
    }
    const stop = own.end.compare(to) > 0 ? to : own.end;
    const all = pieces(start, stop);
    for (const [n, length] of all.entries()) {
      const goesOn = n < all.length - 1 || stop.compare(own.end) < 0;
      const tied = goesOn ? chord : chord.filter(({ tie }) => tie);
      items.push({ kind: 'chord', notes: chord, length, isFirst: n === 0 && start.equals(own.at), tied });
    }
    position = stop;
  }
  rest(position, to);
  return items;
};
