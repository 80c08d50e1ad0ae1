import { bisector, group, sum } from 'd3-array';
import type Fraction from 'fraction.js';
import type { MidiData } from 'midi-file';
import { beats } from '../../schema/beats';
import { isCutOff, parseSmf } from '../parse-smf';
import { spelledPitch } from './pitch-spelling';
import { quantised } from './quantise';
import { MAX_BARS, type Score, type ScoreBar, type ScoreNote, UnreadableScore } from './score';
import { chosenPart, leftOut, offered } from './score-parts';
import { closedUp, endAsWritten } from './smf-lengths';
import { DRUM_CHANNEL, isOf, notesOf, partsIn, type SmfNote, titleOf, trackName } from './smf-parts';

const DAMAGED = 'This is not a Standard MIDI File, or it is damaged. Export it again as .mid and try once more.';
/** Written music has its notes at places like these; played music has not, or only because a file counts few ticks a beat. */
const WRITTEN_DIVISORS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 20, 24, 32, 40, 48];
/** Up to so many ticks a beat, all of them binary and by threes, every tick is such a place, and that alone tells nothing. */
const FEW_TICKS = 48;
/** Up to this division one note of a beat is enough then; a finer one is meant where so many parts of its places have a note. */
const PLAIN_DIVISION = 8;
const FILLED_SHARE = 1 / 3;
const WRITTEN_SHARE = 0.98;
/** Ticks by which all notes may stand off. */
const SHIFTS = [0, 1, 2];

/** What holds at a position, of changes in order; undefined before the first of them. */
const holdingAt = <Change extends { at: Fraction }>(changes: readonly Change[], at: Fraction): Change | undefined =>
  changes[bisector((change: Change) => change.at.valueOf()).right(changes, at.valueOf()) - 1];

const inOrder = <Change extends { at: Fraction }>(changes: readonly Change[]): Change[] =>
  [...changes].sort((a, b) => a.at.compare(b.at));

/** Voices of one staff: a note that begins while another sounds goes to a voice that is free, unless both are one chord. */
const withVoices = <Note extends { at: Fraction; length: Fraction }>(notes: readonly Note[]): (Note & { voice: number })[] => {
  const voices: { at: Fraction; end: Fraction }[] = [];
  return notes.map((note) => {
    const end = note.at.add(note.length);
    let voice = voices.findIndex((one) => one.end.compare(note.at) <= 0 || (one.at.equals(note.at) && one.end.equals(end)));
    if (voice < 0) voice = voices.length < 8 ? voices.length : 7;
    voices[voice] = { at: note.at, end };
    return { ...note, voice: voice + 1 };
  });
};

/**
 * Reads a Standard MIDI File as notation. A file that was written has its notes kept exactly; one that was played in is set to the
 * nearest places. Throws {@link UnreadableScore}.
 *
 * @param partId what is taken of it; its first two tracks as two staves where nothing is said, unless one of them is of drums
 */
export const readSmfScore = (bytes: Uint8Array, partId?: string): Score => {
  let file: MidiData;
  try {
    file = parseSmf(bytes);
  } catch {
    throw new UnreadableScore(DAMAGED);
  }
  const { ticksPerBeat } = file.header;
  if (!ticksPerBeat)
    throw new UnreadableScore('This MIDI file counts film frames and not beats, so it has no notation. Export it with beats.');
  const simplified = new Set<string>();
  const all = notesOf(file.tracks);
  if (isCutOff(bytes))
    simplified.add('This file ends in the middle: what it holds until there was read. Export it again if notes are missing.');
  if (all.length === 0) throw new UnreadableScore('There are no notes in this MIDI file. Choose another one.');
  const parts = partsIn(all, file.tracks);
  const taken = chosenPart(parts, partId);
  // Two staves and nothing else: all is taken.
  const isAll = taken.notes === all.length;
  if (!isAll) for (const sentence of leftOut(parts, taken, 'tracks')) simplified.add(sentence);
  const [upper, lower] = taken.staves;
  const isLower = (note: SmfNote) => isOf(note, lower);
  const notes = all
    .filter((note) => isOf(note, upper) || isLower(note))
    .sort((a, b) => a.tick - b.tick || Number(isLower(a)) - Number(isLower(b)) || b.pitch - a.pitch);

  const quartersAt = (tick: number) => beats(tick).div(ticksPerBeat);
  const isPlace = (tick: number) => WRITTEN_DIVISORS.some((divisor) => (tick * divisor) % ticksPerBeat === 0);
  const isCoarse = ticksPerBeat <= FEW_TICKS;
  const writtenShare = (some: readonly SmfNote[], by: number) => {
    const late = some.filter(({ tick }) => tick >= by);
    if (!isCoarse) return late.filter(({ tick }) => isPlace(tick - by)).length / some.length;
    const beatsOf = group(late, ({ tick }) => Math.floor((tick - by) / ticksPerBeat));
    return sum(beatsOf.values(), (own) => (isWrittenBeat(own, by, ticksPerBeat) ? own.length : 0)) / some.length;
  };
  const shift = SHIFTS.reduce((best, one) => (writtenShare(notes, one) > writtenShare(notes, best) ? one : best));
  const isPlayed = writtenShare(notes, shift) < WRITTEN_SHARE;
  if (!isPlayed && shift !== 0) {
    // Some writers begin a tick late.
    for (const note of notes) {
      note.tick -= shift;
      note.end -= shift;
    }
    simplified.add('All notes stood a tick off the beat; they are set on it.');
  }
  if (isPlayed) simplified.add('The notes were played in: they are set to the nearest places of the beat.');
  const ats = isPlayed ? quantised(notes.map(({ tick }) => tick / ticksPerBeat)) : notes.map(({ tick }) => quartersAt(tick));
  const isGated = !isPlayed && !endAsWritten(notes, ticksPerBeat);
  if (isGated)
    simplified.add(
      'Notes were shortened so that each is heard by itself; they are as long as they are written, as far as can be told.',
    );
  const ends = isPlayed || isGated ? closedUp(notes, ats, ticksPerBeat) : notes.map(({ end }) => quartersAt(end));

  const metas = file.tracks.flatMap((events) => {
    let tick = 0;
    return events.map((event) => {
      tick += event.deltaTime;
      return { tick, event };
    });
  });
  const meters = inOrder(
    metas.flatMap(({ tick, event }) =>
      event.type === 'timeSignature' && event.numerator > 0
        ? [{ at: quartersAt(tick), count: event.numerator, unit: event.denominator }]
        : [],
    ),
  );
  const keys = inOrder(
    metas.flatMap(({ tick, event }) =>
      event.type === 'keySignature' ? [{ at: quartersAt(tick), fifths: signed(event.key) }] : [],
    ),
  );
  const tempos = metas.flatMap(({ event }) => (event.type === 'setTempo' ? [event.microsecondsPerBeat] : []));
  const isDrums = notes.every(({ channel }) => channel === DRUM_CHANNEL);
  const title = titleOf(file.tracks, all, taken);
  const partName = isDrums ? 'drums' : trackName(file.tracks[upper?.track ?? 0] ?? []);
  if (tempos.length > 1) simplified.add('Tempo changes are left out: the tempo is yours to choose.');

  const keyAt = (at: Fraction) => (holdingAt(keys, at) ?? keys[0])?.fifths ?? 0;
  const placed = notes.map((note, k) => ({
    at: (ats[k] as Fraction).div(4),
    length: (ends[k] as Fraction).sub(ats[k] as Fraction).div(4),
    pitch: spelledPitch(note.pitch, keyAt(ats[k] as Fraction)),
    midi: note.pitch,
    staff: isLower(note) ? (2 as const) : (1 as const),
  }));
  const voiced = ([1, 2] as const).flatMap((staff) => withVoices(placed.filter((note) => note.staff === staff)));
  const last = placed.reduce((end, { at, length }) => (at.add(length).compare(end) > 0 ? at.add(length) : end), beats(0));
  const bars = barsUntil(last, meters, keys);
  // A first bar of its own meter is a pickup where it is half of the next one at most, or the last bar lacks it; else it is a bar.
  const [head, second] = bars.bars;
  const left = last.sub(bars.starts.at(-1) ?? 0);
  if (head && second && (head.length.mul(2).compare(second.length) <= 0 || head.length.add(left).equals(second.length)))
    head.meter = second.meter;
  for (const note of voiced) {
    const index = barAt(bars.starts, note.at);
    const bar = bars.bars[index] as ScoreBar;
    const made: ScoreNote = {
      offset: note.at.sub(bars.starts[index] as Fraction),
      length: note.length,
      pitch: note.pitch,
      staff: note.staff,
      voice: note.staff === 2 ? Math.min(8, note.voice + 4) : note.voice,
      marks: {},
    };
    bar.notes.push(made);
  }
  const clefOf = (staff: 1 | 2) => {
    if (isDrums) return 'percussion' as const;
    const own = placed.filter((note) => note.staff === staff);
    const mean = own.reduce((sum, { midi }) => sum + midi, 0) / Math.max(1, own.length);
    return mean < 57 ? ('bass' as const) : ('treble' as const);
  };
  return {
    title,
    clefs: lower ? [clefOf(1), clefOf(2)] : [clefOf(1)],
    ...(partName ? { partName } : {}),
    transposition: 0,
    ...(tempos[0] ? { bpm: Math.round(600_000_000 / tempos[0]) / 10, bpmUnit: '1/4' } : {}),
    bars: bars.bars,
    ...offered(parts),
    simplified: [...simplified],
  };
};

/** Whether the notes of one beat stand where written ones would: at plain places, or at those of a tuplet that they fill. */
const isWrittenBeat = (own: readonly SmfNote[], by: number, ticksPerBeat: number): boolean => {
  const places = [...new Set(own.map(({ tick }) => tick - by))];
  const division = WRITTEN_DIVISORS.find((divisor) => places.every((tick) => (tick * divisor) % ticksPerBeat === 0));
  return division !== undefined && (division <= PLAIN_DIVISION || places.length >= FILLED_SHARE * division);
};

/** A signed byte, as key signatures have it. */
const signed = (key: number): number => Math.max(-7, Math.min(7, key > 127 ? key - 256 : key));

/** The bars up to a position, in whole notes, under time signatures at quarters. */
const barsUntil = (
  end: Fraction,
  meters: readonly { at: Fraction; count: number; unit: number }[],
  keys: readonly { at: Fraction; fifths: number }[],
): { bars: ScoreBar[]; starts: Fraction[] } => {
  const bars: ScoreBar[] = [];
  const starts: Fraction[] = [];
  let at = beats(0);
  while (at.compare(end) < 0 || bars.length === 0) {
    if (bars.length >= MAX_BARS) throw new UnreadableScore(`This has more than ${MAX_BARS} bars. Take a part of it.`);
    const quarters = at.mul(4);
    const meter = holdingAt(meters, quarters) ?? { count: 4, unit: 4 };
    const fifths = holdingAt(keys, quarters)?.fifths ?? 0;
    const length = beats(`${meter.count}/${meter.unit}`);
    bars.push({ number: bars.length + 1, length, meter: { count: meter.count, unit: meter.unit }, fifths, notes: [] });
    starts.push(at);
    at = at.add(length);
  }
  return { bars, starts };
};

const byStart = bisector((start: Fraction) => start.valueOf());

/** The bar in which a position lies. */
const barAt = (starts: readonly Fraction[], at: Fraction): number => Math.max(0, byStart.right(starts, at.valueOf()) - 1);
