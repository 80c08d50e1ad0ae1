import type Fraction from 'fraction.js';
import { STEPS } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import type { Pitch } from '../../schema/notation';
import { UNSIGNED, withMeterOfLengths } from './meter-of-length';
import { readAttributes } from './musicxml-attributes';
import { readBarline, readDirection, readSound } from './musicxml-directions';
import { readHarmony } from './musicxml-harmony';
import { readNotations } from './musicxml-notations';
import { NOTE_TYPES } from './musicxml-note';
import { drumsOf, isHiddenNote, notesIn, partsOf } from './musicxml-parts';
import { readPrinted, settlePrinted } from './musicxml-printed';
import { positive, type Reading } from './musicxml-reading';
import { shiftedKey, shiftedPitch, spelledPitch } from './pitch-spelling';
import { type Score, type ScoreBar, type ScoreNote, UnreadableScore } from './score';
import { chosenPart, leftOut, offered, toldApart } from './score-parts';
import { childOf, childrenOf, type Element, numberOf, parseXml, textOf } from './xml-tree';

/** Note values by their names in the standard, as parts of a whole note. */
const VALUE_OF = new Map(Object.entries(NOTE_TYPES).map(([value, name]) => [name, Number(value)]));
const readPitch = (note: Element, reading: Reading, staff: number): Pitch | null => {
  const pitch = childOf(note, 'pitch');
  if (!pitch) {
    const drum = reading.drums.get(childOf(note, 'instrument')?.attributes.id ?? '');
    return drum === undefined ? null : spelledPitch(drum, 0);
  }
  const step = textOf(pitch, 'step');
  const alter = numberOf(pitch, 'alter') ?? 0;
  const octave = numberOf(pitch, 'octave');
  if (!STEPS.some((one) => one === step) || octave === null)
    throw new UnreadableScore('A note has no readable pitch. Export the file again and try once more.');
  if (!Number.isInteger(alter)) reading.simplified.add('Quarter tones are taken as the nearest semitone.');
  // A clef with an octave sign writes an octave away from what sounds.
  const octaves = reading.clefs.get(staff)?.octaves ?? 0;
  const written = {
    step: step as Pitch['step'],
    alter: Math.max(-2, Math.min(2, Math.round(alter))),
    octave: Math.max(-1, Math.min(9, octave - octaves)),
  };
  if (reading.shift === 0) return written;
  const from = shiftedKey(reading.fifths, -reading.shift);
  return shiftedPitch(written, reading.shift, from, reading.fifths - from);
};

const voiceNumber = (name: string, reading: Reading): number => {
  const known = reading.voices.get(name);
  if (known) return known;
  const number = Math.min(8, reading.voices.size + 1);
  if (reading.voices.size >= 8) reading.simplified.add('More than eight voices: the later ones are drawn as one.');
  reading.voices.set(name, number);
  return number;
};

/** Durations are rounded by a division at most, and where divisions are large by no more than this, in whole notes. */
const ROUNDED = 1 / 32;

/**
 * How long a note of a tuplet is: by its value and what it is a tuplet of, where the stated duration is that, rounded. Else as stated:
 * rounded notes would drift off the beat one after the other.
 */
const exactLength = (note: Element, stated: Fraction, divisions: number): Fraction => {
  const tuplet = childOf(note, 'time-modification');
  const value = VALUE_OF.get(textOf(note, 'type'));
  const [actual, normal] = [numberOf(tuplet, 'actual-notes'), numberOf(tuplet, 'normal-notes')];
  if (value === undefined || !positive(actual) || !positive(normal)) return stated;
  const dots = childrenOf(note, 'dot').length;
  // A dot adds half, a second one a quarter.
  const exact = beats(1)
    .div(value)
    .mul(2 ** (dots + 1) - 1)
    .div(2 ** dots)
    .mul(normal)
    .div(actual);
  return Math.abs(exact.sub(stated).valueOf()) <= Math.min(ROUNDED, 1 / (4 * divisions)) ? exact : stated;
};

/** Reads one bar of one part. */
const readBar = (measure: Element, bar: ScoreBar, reading: Reading): void => {
  // As the file counts, which may be rounded, and as it is meant; and what was meant at places that were counted.
  let counted = beats(0);
  let position = beats(0);
  const meant = new Map<string, Fraction>();
  let last = beats(0);
  let furthest = beats(0);
  if (reading.endings?.length) bar.endings = reading.endings;
  const lengthOf = (element: Element): Fraction => {
    const duration = Number(textOf(element, 'duration'));
    if (!Number.isFinite(duration) || duration < 0)
      throw new UnreadableScore('A note has no readable length. Export the file again and try once more.');
    return beats(duration).div(reading.divisions).div(4);
  };
  const move = (by: Fraction, exact: Fraction | null) => {
    meant.set(counted.toFraction(), position);
    counted = counted.add(by);
    if (counted.compare(0) < 0) counted = beats(0);
    position = exact ? position.add(exact) : (meant.get(counted.toFraction()) ?? counted);
    if (position.compare(furthest) > 0) furthest = position;
  };
  for (const element of measure.children) {
    switch (element.name) {
      case 'attributes':
        readAttributes(element, position, reading);
        // A change at the bar's beginning is its own.
        if (position.equals(0)) Object.assign(bar, { meter: reading.meter, fifths: reading.fifths });
        break;
      case 'direction':
        readDirection(element, bar, reading);
        break;
      case 'harmony': {
        const name = readHarmony(element);
        const offset = beats(numberOf(element, 'offset') ?? 0)
          .div(reading.divisions)
          .div(4);
        if (name) reading.chords.push({ at: position.add(offset), name });
        else reading.simplified.add('Chord symbols without a letter name are left out.');
        break;
      }
      case 'sound':
        readSound(element, bar, reading);
        break;
      case 'barline':
        readBarline(element, bar, reading);
        break;
      case 'backup':
        move(lengthOf(element).neg(), null);
        break;
      case 'forward':
        move(lengthOf(element), lengthOf(element));
        break;
      case 'note': {
        if (childOf(element, 'cue')) {
          reading.simplified.add('Cue notes are left out.');
          if (!childOf(element, 'chord')) move(lengthOf(element), lengthOf(element));
          break;
        }
        const isGrace = childOf(element, 'grace') !== null;
        const isHidden = isHiddenNote(element);
        if (isHidden) reading.simplified.add('Notes that the page does not show are left out.');
        const stated = isGrace ? beats(0) : lengthOf(element);
        const length = isGrace ? stated : exactLength(element, stated, reading.divisions);
        const isChord = childOf(element, 'chord') !== null;
        const at = isChord ? last : position;
        if (!isChord) {
          last = position;
          move(stated, length);
        }
        const staffNumber = numberOf(element, 'staff') ?? 1;
        if (staffNumber > 2) {
          reading.simplified.add('Of more than two staves the first two are taken.');
          break;
        }
        if (isHidden || childOf(element, 'rest') || (!isGrace && length.equals(0))) break;
        const staff = staffNumber === 2 ? 2 : 1;
        const made: ScoreNote = {
          offset: at,
          length,
          pitch: readPitch(element, reading, staffNumber),
          staff,
          voice: voiceNumber(`${textOf(element, 'voice') || '1'}`, reading),
          marks: {},
          ...(isGrace ? { grace: true } : {}),
        };
        const isTied = [
          ...childrenOf(element, 'tie'),
          ...childrenOf(element, 'notations').flatMap((one) => childrenOf(one, 'tied')),
        ].some((tie) => tie.attributes.type === 'start');
        if (isTied && !isGrace) made.tie = true;
        readNotations(element, made, reading);
        readPrinted(element, made, reading);
        const dynamic = reading.dynamic.get(staff);
        if (dynamic && !isGrace) {
          made.dynamic = dynamic;
          reading.dynamic.delete(staff);
        }
        bar.notes.push(made);
        break;
      }
    }
  }
  bar.length = furthest;
  settlePrinted(bar, reading);
};

/** How a part stands before its first bar. */
const beginning = (drums: Reading['drums'] = new Map()): Reading => ({
  drums,
  divisions: 1,
  meter: UNSIGNED,
  fifths: 0,
  clefs: new Map(),
  transposition: 0,
  shift: 0,
  repeatedBars: 0,
  voices: new Map(),
  dynamic: new Map(),
  chords: [],
  slurs: 0,
  openSlurs: new Map(),
  endings: undefined,
  simplified: new Set(),
});

const readBars = (measures: readonly Element[], reading: Reading): ScoreBar[] => {
  const bars: ScoreBar[] = [];
  for (const [k, measure] of measures.entries()) {
    const number = Number.parseInt(measure.attributes.number ?? '', 10);
    const bar: ScoreBar = {
      number: Number.isFinite(number) && number >= 0 && number <= 9999 ? number : k + 1,
      length: beats(0),
      meter: reading.meter,
      fifths: reading.fifths,
      notes: [],
    };
    readBar(measure, bar, reading);
    const repeated = reading.repeatedBars > 0 && bar.notes.length === 0 ? bars[k - reading.repeatedBars] : undefined;
    if (repeated) Object.assign(bar, { length: repeated.length, notes: repeated.notes.map((note) => ({ ...note })) });
    // A bar of which nothing is written is a whole bar of rest.
    if (bar.length.equals(0)) bar.length = beats(`${bar.meter.count}/${bar.meter.unit}`);
    bars.push(bar);
  }
  return withMeterOfLengths(bars);
};

/** What stands above the top staff of a score holds for every part: its tempo, its jumps and its repeats, where a part has none of its own. */
const withTopStaff = (bars: ScoreBar[], reading: Reading, top: readonly Element[]): void => {
  const above = beginning();
  readBars(top, above).forEach((bar, k) => {
    const own = bars[k];
    if (!own) return;
    const { startsRepeat, endsRepeat, endings, segno, coda, fine, toCoda, jump, jumpTo } = bar;
    const signs = { startsRepeat, endsRepeat, endings, segno, coda, fine, toCoda, jump, jumpTo };
    for (const [sign, value] of Object.entries(signs))
      if (value !== undefined) Object.assign(own, { [sign]: own[sign as keyof typeof signs] ?? value });
  });
  if (reading.bpm === undefined) Object.assign(reading, { bpm: above.bpm, bpmUnit: above.bpmUnit });
  reading.beatUnit ??= above.beatUnit;
  reading.swing ??= above.swing;
};

/**
 * Reads a MusicXML text, partwise or timewise: one part of it, with what stands above the top staff for all. Source: MusicXML 4.0, W3C
 * Community Group Report. Throws {@link UnreadableScore}.
 *
 * @param partId the id of its part; the first one that has notes where nothing is said
 */
export const readMusicXml = (text: string, partId?: string): Score => {
  const root = parseXml(text);
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise')
    throw new UnreadableScore('This XML file is not MusicXML. Export it as MusicXML and try once more.');
  const measuresOf = partsOf(root);
  const names = new Map(
    childrenOf(childOf(root, 'part-list'), 'score-part').map((part) => [part.attributes.id ?? '', textOf(part, 'part-name')]),
  );
  const parts = toldApart(
    [...measuresOf]
      .map(([id, measures], k) => ({ id, measures, name: names.get(id)?.trim() || `part ${k + 1}`, notes: notesIn(measures) }))
      .filter(({ notes }) => notes > 0),
  );
  if (parts.length === 0) throw new UnreadableScore('There are no notes in this file. Choose another one.');
  const taken = chosenPart(parts, partId);
  const reading = beginning(drumsOf(root, taken.id));
  const bars = readBars(taken.measures, reading);
  const [top] = measuresOf.values();
  if (top && top !== taken.measures) withTopStaff(bars, reading, top);
  for (const sentence of leftOut(parts, taken, 'parts')) reading.simplified.add(sentence);
  const partName = names.get(taken.id)?.trim();
  const usesTwo = bars.some((bar) => bar.notes.some((note) => note.staff === 2));
  const octaves = reading.clefs.get(1)?.octaves ?? 0;
  return {
    title: textOf(childOf(root, 'work'), 'work-title') || textOf(root, 'movement-title'),
    clefs: [reading.clefs.get(1)?.first ?? 'treble', ...(usesTwo ? [reading.clefs.get(2)?.first ?? ('bass' as const)] : [])],
    ...(partName ? { partName } : {}),
    transposition: reading.transposition + 12 * octaves,
    beatUnit: reading.beatUnit,
    bpm: reading.bpm,
    bpmUnit: reading.bpmUnit,
    ...(reading.swing === undefined ? {} : { swing: reading.swing }),
    bars,
    ...offered(parts),
    simplified: [...reading.simplified],
  };
};
