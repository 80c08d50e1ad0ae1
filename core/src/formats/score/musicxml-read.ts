import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { Articulation, Clef, Dynamic, Marks, Pitch } from '../../schema/notation';
import { ArticulationSchema, DynamicSchema } from '../../schema/notation';
import { type Score, type ScoreBar, type ScoreNote, UnreadableScore } from './score';
import { childOf, childrenOf, type Element, numberOf, parseXml, textOf } from './xml-tree';

/** Note values by their MusicXML names, as fractions of a whole note. */
const VALUES: Record<string, string> = {
  whole: '1',
  half: '1/2',
  quarter: '1/4',
  eighth: '1/8',
  '16th': '1/16',
  '32nd': '1/32',
};

const CLEFS: Record<string, Clef> = { G2: 'treble', F4: 'bass', C3: 'alto', C4: 'tenor' };
const STEPS = new Set(['C', 'D', 'E', 'F', 'G', 'A', 'B']);
const ORNAMENTS = new Set([
  'trill-mark',
  'turn',
  'inverted-turn',
  'mordent',
  'inverted-mordent',
  'tremolo',
  'shake',
  'wavy-line',
]);

/** How a file stands while its bars are read one after the other. */
interface Reading {
  divisions: number;
  meter: { count: number; unit: number };
  fifths: number;
  clefs: Map<number, { clef: Clef; octaves: number }>;
  transposition: number;
  voices: Map<string, number>;
  beatUnit?: string;
  bpm?: number;
  bpmUnit?: string;
  dynamic: Map<number, Dynamic>;
  slurs: number;
  openSlurs: Map<string, string>;
  endings: number[] | undefined;
  simplified: Set<string>;
}

const positive = (value: number | null): value is number => value !== null && Number.isInteger(value) && value > 0;

const readAttributes = (element: Element, reading: Reading): void => {
  const divisions = numberOf(element, 'divisions');
  if (divisions !== null) {
    if (!positive(divisions))
      throw new UnreadableScore('The length of notes is not said in a way that can be counted. Export the file again.');
    reading.divisions = divisions;
  }
  const fifths = numberOf(childOf(element, 'key'), 'fifths');
  if (fifths !== null) reading.fifths = Math.max(-7, Math.min(7, Math.round(fifths)));
  const time = childOf(element, 'time');
  const counts = textOf(time, 'beats').split('+').map(Number);
  const unit = numberOf(time, 'beat-type');
  if (time && positive(unit) && counts.every((count) => positive(count)))
    reading.meter = { count: counts.reduce((sum, count) => sum + count, 0), unit };
  for (const clef of childrenOf(element, 'clef')) {
    const staff = Number(clef.attributes.number ?? 1);
    const sign = textOf(clef, 'sign');
    const line = textOf(clef, 'line') || (sign === 'G' ? '2' : sign === 'F' ? '4' : '3');
    const read = {
      clef: sign === 'percussion' ? ('percussion' as const) : (CLEFS[`${sign}${line}`] ?? 'treble'),
      octaves: numberOf(clef, 'clef-octave-change') ?? 0,
    };
    const before = reading.clefs.get(staff);
    if (before && before.clef !== read.clef)
      reading.simplified.add('Clef changes within the music are left out: the first clef stays.');
    if (!before) reading.clefs.set(staff, read);
  }
  const transpose = childOf(element, 'transpose');
  if (transpose)
    reading.transposition = (numberOf(transpose, 'chromatic') ?? 0) + 12 * (numberOf(transpose, 'octave-change') ?? 0);
};

const readDirection = (element: Element, bar: ScoreBar, reading: Reading): void => {
  const staff = numberOf(element, 'staff') ?? 1;
  for (const type of childrenOf(element, 'direction-type')) {
    for (const dynamics of childrenOf(type, 'dynamics')) {
      const read = DynamicSchema.safeParse(dynamics.children[0]?.name);
      if (read.success) reading.dynamic.set(staff, read.data);
    }
    if (childOf(type, 'segno')) bar.segno = true;
    if (childOf(type, 'coda')) bar.coda = true;
    const metronome = childOf(type, 'metronome');
    const unit = VALUES[textOf(metronome, 'beat-unit')];
    const perMinute = numberOf(metronome, 'per-minute');
    if (unit && perMinute && perMinute > 0 && reading.bpm === undefined) {
      reading.beatUnit = childOf(metronome, 'beat-unit-dot') ? beats(unit).mul('3/2').toFraction() : unit;
      reading.bpmUnit = reading.beatUnit;
      reading.bpm = perMinute;
    }
    if (childOf(type, 'octave-shift')) reading.simplified.add('Octave signs are left out: notes are drawn where they sound.');
    if (childOf(type, 'pedal')) reading.simplified.add('Pedal marks are left out.');
    if (childOf(type, 'wedge')) reading.simplified.add('Hairpins are left out.');
  }
  readSound(childOf(element, 'sound'), bar, reading);
};

const readSound = (sound: Element | null, bar: ScoreBar, reading: Reading): void => {
  if (!sound) return;
  const { tempo, dacapo, dalsegno, segno, coda, tocoda, fine } = sound.attributes;
  if (dacapo === 'yes') bar.jump = 'da capo';
  if (dalsegno) bar.jump = 'dal segno';
  if (segno) bar.segno = true;
  if (coda) bar.coda = true;
  if (tocoda) bar.toCoda = true;
  if (fine) bar.fine = true;
  // A tempo of the sound counts quarters, whatever the beat.
  if (tempo && Number(tempo) > 0 && reading.bpm === undefined) {
    reading.bpm = Number(tempo);
    reading.bpmUnit = '1/4';
  }
};

const readBarline = (element: Element, bar: ScoreBar, reading: Reading): void => {
  const repeat = childOf(element, 'repeat');
  if (repeat?.attributes.direction === 'forward') bar.startsRepeat = true;
  if (repeat?.attributes.direction === 'backward')
    bar.endsRepeat = Math.max(2, Math.min(64, Number(repeat.attributes.times ?? 2) || 2));
  const ending = childOf(element, 'ending');
  if (ending?.attributes.type === 'start')
    reading.endings = (ending.attributes.number ?? '1')
      .split(/[,\s]+/)
      .map(Number)
      .filter(positive);
  if (reading.endings?.length) bar.endings = reading.endings;
  if (ending && ending.attributes.type !== 'start') reading.endings = undefined;
  if (childOf(element, 'segno')) bar.segno = true;
  if (childOf(element, 'coda')) bar.coda = true;
};

const readPitch = (note: Element, reading: Reading, staff: number): Pitch | null => {
  const pitch = childOf(note, 'pitch');
  if (!pitch) return null;
  const step = textOf(pitch, 'step');
  const alter = numberOf(pitch, 'alter') ?? 0;
  const octave = numberOf(pitch, 'octave');
  if (!STEPS.has(step) || octave === null)
    throw new UnreadableScore('A note has no readable pitch. Export the file again and try once more.');
  if (!Number.isInteger(alter)) reading.simplified.add('Quarter tones are taken as the nearest semitone.');
  // A clef with an octave sign writes an octave away from what sounds.
  const octaves = reading.clefs.get(staff)?.octaves ?? 0;
  return {
    step: step as Pitch['step'],
    alter: Math.max(-2, Math.min(2, Math.round(alter))),
    octave: Math.max(-1, Math.min(9, octave - octaves)),
  };
};

/** What is written at a note: articulation, fingering, slurs. */
const readNotations = (note: Element, made: ScoreNote, reading: Reading): void => {
  const marks: Marks = made.marks;
  for (const notations of childrenOf(note, 'notations')) {
    for (const slur of childrenOf(notations, 'slur')) {
      const number = slur.attributes.number ?? '1';
      if (slur.attributes.type === 'start') {
        reading.slurs += 1;
        const name = String(reading.slurs);
        reading.openSlurs.set(number, name);
        made.slurStarts = [...(made.slurStarts ?? []), name];
      }
      const open = reading.openSlurs.get(number);
      if (slur.attributes.type === 'stop' && open) {
        made.slurStops = [...(made.slurStops ?? []), open];
        reading.openSlurs.delete(number);
      }
    }
    for (const sign of childOf(notations, 'articulations')?.children ?? []) {
      if (sign.name === 'accent') made.accent = true;
      else if (sign.name === 'strong-accent') {
        made.accent = true;
        made.articulation = 'marcato';
      } else if (sign.name === 'breath-mark') marks.breath = true;
      else if (ArticulationSchema.safeParse(sign.name).success) made.articulation = sign.name as Articulation;
      else reading.simplified.add('Some articulation signs are left out.');
    }
    for (const sign of childOf(notations, 'technical')?.children ?? []) {
      const text = sign.text.slice(0, 4);
      if (sign.name === 'fingering' && sign.attributes.substitution !== 'yes' && text) marks.finger ??= text;
      else if (sign.name === 'pluck' && text) marks.finger ??= text;
      else if (sign.name === 'string' && text) marks.string = text;
      else if (sign.name === 'up-bow') marks.stroke = 'up';
      else if (sign.name === 'down-bow') marks.stroke = 'down';
      else if (sign.name === 'open-string') marks.finger ??= '0';
    }
    const ornaments = childOf(notations, 'ornaments')?.children ?? [];
    if (ornaments.some(({ name }) => ORNAMENTS.has(name)))
      reading.simplified.add('Trills, turns, mordents and tremolos are left out: the written note is measured.');
    if (childOf(notations, 'arpeggiate')) reading.simplified.add('Arpeggio signs are left out: a chord is one onset.');
    if (childOf(notations, 'glissando') || childOf(notations, 'slide')) reading.simplified.add('Glissandos are left out.');
    if (childOf(notations, 'fermata')) reading.simplified.add('Fermatas are left out: the note has its written length.');
  }
};

const voiceNumber = (name: string, reading: Reading): number => {
  const known = reading.voices.get(name);
  if (known) return known;
  const number = Math.min(8, reading.voices.size + 1);
  if (reading.voices.size >= 8) reading.simplified.add('More than eight voices: the later ones are drawn as one.');
  reading.voices.set(name, number);
  return number;
};

/** Reads one bar of one part. */
const readBar = (measure: Element, bar: ScoreBar, reading: Reading): void => {
  let position = beats(0);
  let last = beats(0);
  let furthest = beats(0);
  if (reading.endings?.length) bar.endings = reading.endings;
  const lengthOf = (element: Element): Fraction => {
    const duration = Number(textOf(element, 'duration'));
    if (!Number.isFinite(duration) || duration < 0)
      throw new UnreadableScore('A note has no readable length. Export the file again and try once more.');
    return beats(duration).div(reading.divisions).div(4);
  };
  const reach = () => {
    if (position.compare(furthest) > 0) furthest = position;
  };
  for (const element of measure.children) {
    switch (element.name) {
      case 'attributes':
        readAttributes(element, reading);
        // A change at the bar's beginning is its own.
        if (position.equals(0)) Object.assign(bar, { meter: reading.meter, fifths: reading.fifths });
        break;
      case 'direction':
        readDirection(element, bar, reading);
        break;
      case 'sound':
        readSound(element, bar, reading);
        break;
      case 'barline':
        readBarline(element, bar, reading);
        break;
      case 'backup':
        position = position.sub(lengthOf(element));
        if (position.compare(0) < 0) position = beats(0);
        break;
      case 'forward':
        position = position.add(lengthOf(element));
        reach();
        break;
      case 'note': {
        if (childOf(element, 'cue')) {
          reading.simplified.add('Cue notes are left out.');
          if (!childOf(element, 'chord')) position = position.add(lengthOf(element));
          reach();
          break;
        }
        const isGrace = childOf(element, 'grace') !== null;
        const length = isGrace ? beats(0) : lengthOf(element);
        const isChord = childOf(element, 'chord') !== null;
        const at = isChord ? last : position;
        if (!isChord) {
          last = position;
          position = position.add(length);
          reach();
        }
        const staffNumber = numberOf(element, 'staff') ?? 1;
        if (staffNumber > 2) {
          reading.simplified.add('Of more than two staves the first two are taken.');
          break;
        }
        if (childOf(element, 'rest') || (!isGrace && length.equals(0))) break;
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
};

/** The parts of a score by their id, each with its measures in order, whichever way the file is written. */
const partsOf = (root: Element): Map<string, Element[]> => {
  const parts = new Map<string, Element[]>();
  if (root.name === 'score-partwise')
    for (const part of childrenOf(root, 'part'))
      parts.set(part.attributes.id ?? String(parts.size + 1), childrenOf(part, 'measure'));
  else
    for (const measure of childrenOf(root, 'measure'))
      for (const part of childrenOf(measure, 'part')) {
        const id = part.attributes.id ?? '1';
        parts.set(id, [...(parts.get(id) ?? []), { ...part, attributes: measure.attributes }]);
      }
  return parts;
};

const hasNotes = (measures: readonly Element[]) =>
  measures.some((measure) => childrenOf(measure, 'note').some((note) => !childOf(note, 'rest')));

/**
 * Reads a MusicXML text, partwise or timewise: the first part that has notes. Source: MusicXML 4.0, W3C Community Group Report. Throws
 * {@link UnreadableScore}.
 */
export const readMusicXml = (text: string): Score => {
  const root = parseXml(text);
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise')
    throw new UnreadableScore('This XML file is not MusicXML. Export it as MusicXML and try once more.');
  const parts = partsOf(root);
  const [id, measures] = [...parts].find(([, one]) => hasNotes(one)) ?? [];
  if (!id || !measures) throw new UnreadableScore('There are no notes in this file. Choose another one.');
  const names = new Map(
    childrenOf(childOf(root, 'part-list'), 'score-part').map((part) => [part.attributes.id ?? '', textOf(part, 'part-name')]),
  );
  const reading: Reading = {
    divisions: 1,
    meter: { count: 4, unit: 4 },
    fifths: 0,
    clefs: new Map(),
    transposition: 0,
    voices: new Map(),
    dynamic: new Map(),
    slurs: 0,
    openSlurs: new Map(),
    endings: undefined,
    simplified: new Set(),
  };
  if (parts.size > 1)
    reading.simplified.add(`Of ${parts.size} parts the first with notes is taken${names.get(id) ? `: ${names.get(id)}` : ''}.`);
  const bars = measures.map((measure, k): ScoreBar => {
    const number = Number.parseInt(measure.attributes.number ?? '', 10);
    const bar: ScoreBar = {
      number: Number.isFinite(number) && number >= 0 && number <= 9999 ? number : k + 1,
      length: beats(0),
      meter: reading.meter,
      fifths: reading.fifths,
      notes: [],
    };
    readBar(measure, bar, reading);
    // A bar of which nothing is written is a whole bar of rest.
    if (bar.length.equals(0)) bar.length = beats(`${bar.meter.count}/${bar.meter.unit}`);
    return bar;
  });
  // A last bar that is written short is filled up with silence.
  const last = bars.at(-1);
  const full = last && beats(`${last.meter.count}/${last.meter.unit}`);
  const pickup = bars[0];
  if (last && full && bars.length > 1 && last.length.compare(full) < 0 && pickup && last.length.add(pickup.length).equals(full))
    last.length = full;
  const usesTwo = bars.some((bar) => bar.notes.some((note) => note.staff === 2));
  const octaves = reading.clefs.get(1)?.octaves ?? 0;
  return {
    title: textOf(childOf(root, 'work'), 'work-title') || textOf(root, 'movement-title'),
    clefs: [reading.clefs.get(1)?.clef ?? 'treble', ...(usesTwo ? [reading.clefs.get(2)?.clef ?? ('bass' as const)] : [])],
    transposition: reading.transposition + 12 * octaves,
    beatUnit: reading.beatUnit,
    bpm: reading.bpm,
    bpmUnit: reading.bpmUnit,
    bars,
    simplified: [...reading.simplified],
  };
};
