import { beats } from '../../schema/beats';
import { DynamicSchema, SwingSchema } from '../../schema/notation';
import { readJumpWords } from './jump-words';
import { positive, type Reading } from './musicxml-reading';
import type { ScoreBar } from './score';
import { childOf, childrenOf, type Element, numberOf, textOf } from './xml-tree';

/** Note values by their MusicXML names, as fractions of a whole note. */
const VALUES: Record<string, string> = {
  whole: '1',
  half: '1/2',
  quarter: '1/4',
  eighth: '1/8',
  '16th': '1/16',
  '32nd': '1/32',
};

/** What stands above or below the notes of a bar: dynamics, tempo, signs of the order of bars. */
export const readDirection = (element: Element, bar: ScoreBar, reading: Reading): void => {
  const staff = numberOf(element, 'staff') ?? 1;
  for (const type of childrenOf(element, 'direction-type')) {
    for (const dynamics of childrenOf(type, 'dynamics')) {
      const read = DynamicSchema.safeParse(dynamics.children[0]?.name);
      if (read.success) reading.dynamic.set(staff, read.data);
    }
    if (childOf(type, 'segno')) bar.segno ??= '';
    if (childOf(type, 'coda')) bar.coda = true;
    for (const words of childrenOf(type, 'words')) readJumpWords(words.text, bar);
    const metronome = childOf(type, 'metronome');
    const unit = VALUES[textOf(metronome, 'beat-unit')];
    // It may say "ca. 84", "84-92" or "84,5": the first number is taken.
    const perMinute = Number(/\d+(?:[.,]\d+)?/.exec(textOf(metronome, 'per-minute'))?.[0].replace(',', '.') ?? 0);
    if (unit && perMinute > 0 && reading.bpm === undefined) {
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

/** What is said for playing alone: jumps, tempo, swing. */
export const readSound = (sound: Element | null, bar: ScoreBar, reading: Reading): void => {
  if (!sound) return;
  const { tempo, dacapo, dalsegno, segno, coda, tocoda, fine } = sound.attributes;
  if (dacapo === 'yes') bar.jump = 'da capo';
  if (dalsegno) Object.assign(bar, { jump: 'dal segno', jumpTo: dalsegno });
  if (segno) bar.segno = segno;
  if (coda) bar.coda = true;
  if (tocoda) bar.toCoda = true;
  if (fine) bar.fine = true;
  // A tempo of the sound counts quarters, whatever the beat.
  if (tempo && Number(tempo) > 0 && reading.bpm === undefined) {
    reading.bpm = Number(tempo);
    reading.bpmUnit = '1/4';
  }
  readSwing(childOf(sound, 'swing'), reading);
};

/** How eighths swing, in parts of the first and the second. What swings otherwise later on is said. */
const readSwing = (swing: Element | null, reading: Reading): void => {
  if (!swing) return;
  const [first, second] = [numberOf(swing, 'first'), numberOf(swing, 'second')];
  const ofEighths = (textOf(swing, 'swing-type') || 'eighth') === 'eighth';
  const ratio = first && second && ofEighths ? SwingSchema.safeParse(first / second).data : undefined;
  const isAtBeginning = reading.voices.size === 0;
  if (ratio !== undefined && isAtBeginning) reading.swing = ratio;
  else if (childOf(swing, 'straight') ? reading.swing !== undefined : ratio === undefined || ratio !== reading.swing)
    reading.simplified.add('A swing that changes, or is not one of eighths, is left out: name a section and choose its swing.');
};

/** Repeats, endings and signs at a bar line. */
export const readBarline = (element: Element, bar: ScoreBar, reading: Reading): void => {
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
  if (childOf(element, 'segno')) bar.segno ??= '';
  if (childOf(element, 'coda')) bar.coda = true;
};
