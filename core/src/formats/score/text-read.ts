import type Fraction from 'fraction.js';
import { pitch } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import { type Clef, type Dynamic, DynamicSchema, type Marks, type Pitch, type Printed } from '../../schema/notation';
import { type Score, type ScoreBar, type ScoreNote, UnreadableScore } from './score';
import { CLEF_NAMES, HEAD, keyOf, meterOf, plainHead, readHead, type TextHead, type Token, wrong } from './text-head';
import { adviceOn, adviceOnValue, NOTE, VALUES } from './text-note';
import { clefChange, printedSign, QUOTED } from './text-printed';

const PART = /^(?:staff\s+([12])\s*)?(?:voice\s+([1-8])\s*)?:(.*)$/i;
const BAR_LINE = /^(\|:|:\||:\|:|\|\||\|)(\d+(?:,\d+)*)?$/;
/** Marks as they are typed behind a pitch: @1 or @p a finger, @R @L a hand, @up @down a stroke, @s3 a string, @breath, @! difficult, others a sign. */
const markOf = (text: string, marks: Marks): void => {
  if (/^[0-5pimact]$/.test(text)) marks.finger = text;
  else if (text === 'R') marks.hand = 'right';
  else if (text === 'L') marks.hand = 'left';
  else if (text === 'up' || text === 'down') marks.stroke = text;
  else if (/^s.{1,4}$/.test(text)) marks.string = text.slice(1);
  else if (/^k.{1,4}$/.test(text)) marks.stick = text.slice(1);
  else if (text === 'breath') marks.breath = true;
  else if (text === '!') marks.difficult = true;
  else marks.sign = text.slice(0, 8);
};

/** What stays from note to note: the value and the octave last written. */
interface Habit {
  value: Fraction;
  octave: number;
}

interface Voice {
  staff: 1 | 2;
  voice: number;
  tokens: Token[];
}

/** Reads one voice into bars; bar lines of later voices follow those of the first. */
const readVoice = (
  { staff, voice, tokens }: Voice,
  head: Pick<TextHead, 'meter' | 'fifths' | 'firstNumber' | 'clefs'>,
  bars: ScoreBar[],
): void => {
  const isFirst = bars.length === 0;
  const habit: Habit = { value: beats('1/4'), octave: 4 };
  let meter = head.meter;
  let fifths = head.fifths;
  let place = 0;
  let at = beats(0);
  let tuplet: { actual: number; normal: number } | null = null;
  /** Where the group begins that is not closed yet. */
  let opened: Token | null = null;
  let inGrace = false;
  let dynamic: Dynamic | null = null;
  /** The clef that was changed to, and what stands in quotes before the next note. */
  let clef: Clef | null = null;
  let quoted: Printed = {};
  let endings: number[] | undefined;
  let startsRepeat = false;
  let slur = 0;
  const open: string[] = [];

  const barHere = (token: Token): ScoreBar => {
    const known = bars[place];
    if (known) return known;
    if (!isFirst) throw wrong(token, 'this voice has more bars than the first. Give the first as many.');
    const made: ScoreBar = {
      number: head.firstNumber + place,
      length: beats(0),
      meter,
      fifths,
      notes: [],
      ...(endings ? { endings } : {}),
      ...(startsRepeat ? { startsRepeat } : {}),
    };
    startsRepeat = false;
    bars.push(made);
    return made;
  };
  const closeBar = () => {
    const bar = bars[place];
    if (!bar) return;
    if (at.compare(bar.length) > 0) bar.length = at;
    if (at.compare(0) > 0) {
      place += 1;
      at = beats(0);
    }
  };

  for (const token of tokens) {
    const { text } = token;
    const barLine = BAR_LINE.exec(text);
    if (barLine) {
      const [, line = '', numbers] = barLine;
      const before = bars[place];
      if (line.startsWith(':')) {
        if (before) before.endsRepeat = Math.max(2, numbers && !numbers.includes(',') && line === ':|' ? Number(numbers) : 2);
      }
      closeBar();
      if (line.startsWith(':')) endings = undefined;
      if (line.endsWith(':')) startsRepeat = true;
      if (numbers && !line.startsWith(':')) endings = numbers.split(',').map(Number);
      else if (line === '||') endings = undefined;
      // A bar that is already there has what the first voice said.
      continue;
    }
    const change = /^(meter|key)=(.+)$/.exec(text);
    if (change) {
      if (at.compare(0) > 0) throw wrong(token, 'a change of meter or key stands at the beginning of a bar.');
      if (change[1] === 'meter') meter = meterOf(change[2] as string, token);
      else fifths = keyOf(change[2] as string, token);
      continue;
    }
    const group = /^(\d{1,2}):(\d{1,2})\[$/.exec(text);
    if (group) {
      tuplet = { actual: Number(group[1]), normal: Number(group[2]) };
      opened = token;
      if (!tuplet.actual || !tuplet.normal) throw wrong(token, 'a group is so many notes in the time of so many, like 3:2[.');
      continue;
    }
    if (text === ']') {
      if (!tuplet) throw wrong(token, 'this closes a group, and none is open. One begins like 3:2[.');
      tuplet = null;
      continue;
    }
    if (text === '{' || text === '}') {
      inGrace = text === '{';
      continue;
    }
    if (DynamicSchema.safeParse(text).success) {
      dynamic = text as Dynamic;
      continue;
    }
    const changed = clefChange(text);
    if (changed === undefined) throw wrong(token, `a clef is one of ${CLEF_NAMES.join(', ')}.`);
    if (changed) {
      clef = changed === (head.clefs[staff - 1] ?? (staff === 2 ? 'bass' : 'treble')) ? null : changed;
      continue;
    }
    const said = QUOTED.exec(text);
    if (said) {
      const [, isUnder, words = ''] = said;
      const longest = isUnder ? 40 : 24;
      if (words === '' || words.length > longest) throw wrong(token, `between the quotes stand 1 to ${longest} letters.`);
      quoted = { ...quoted, [isUnder ? 'syllable' : 'chord']: words };
      continue;
    }
    const note = NOTE.exec(text);
    if (!note) throw wrong(token, adviceOn(text));
    const [, heads = '', value, dots = '', signs = ''] = note;
    if (value !== undefined) {
      if (!VALUES.has(Number(value))) throw wrong(token, adviceOnValue(Number(value), heads));
      habit.value = beats(1)
        .div(Number(value))
        .mul(['1', '3/2', '7/4'][dots.length] as string);
    }
    const length = tuplet ? habit.value.mul(tuplet.normal).div(tuplet.actual) : habit.value;
    const bar = barHere(token);
    if (heads === 'r') {
      if (!inGrace) at = at.add(length);
      continue;
    }
    heads.split('+').forEach((one, k) => {
      // A tie of its own: the other notes of the chord end here.
      const isTied = one.endsWith('~') || signs.includes('~');
      const [name = '', ...markTexts] = one.replace(/~$/, '').split('@');
      const marks: Marks = {};
      let printed: Printed = k === 0 && !inGrace ? quoted : {};
      for (const mark of markTexts) {
        const sign = printedSign(mark);
        if (sign) printed = { ...printed, ...sign };
        else markOf(mark, marks);
      }
      if (clef) printed = { ...printed, clef };
      if (signs.includes('!')) marks.difficult = true;
      const made: ScoreNote = {
        offset: at,
        length: inGrace ? beats(0) : length,
        pitch: name === 'x' ? null : pitchOf(name, habit, token),
        staff,
        voice,
        marks,
        ...(inGrace ? { grace: true } : {}),
        ...(isTied ? { tie: true } : {}),
        ...(signs.includes('>') || signs.includes('^') ? { accent: true } : {}),
        ...(signs.includes('^') ? { articulation: 'marcato' as const } : {}),
        ...(signs.includes("'") ? { articulation: 'staccato' as const } : {}),
        ...(signs.includes('_') ? { articulation: 'tenuto' as const } : {}),
        ...(dynamic && !inGrace && k === 0 ? { dynamic } : {}),
        ...(Object.keys(printed).length > 0 ? { printed } : {}),
      };
      if (k === 0 && !inGrace) {
        if (signs.includes(')')) made.slurStops = open.splice(-1);
        if (signs.includes('(')) {
          slur += 1;
          open.push(`${staff}/${voice}/${slur}`);
          made.slurStarts = open.slice(-1);
        }
      }
      bar.notes.push(made);
    });
    if (!inGrace) {
      at = at.add(length);
      dynamic = null;
      quoted = {};
    }
  }
  if (tuplet && opened) throw wrong(opened, 'this group is never closed: write ] after its last note.');
  if (inGrace) throw wrong(tokens.at(-1) as Token, 'grace notes are still open here: write } after the last one.');
  closeBar();
};

const pitchOf = (name: string, habit: Habit, token: Token): Pitch => {
  const octave = /-?\d$/.exec(name)?.[0];
  if (octave !== undefined) habit.octave = Number(octave);
  try {
    return pitch(octave === undefined ? `${name}${habit.octave}` : name);
  } catch {
    throw wrong(token, 'this is not a pitch. Write a letter, # or b, and an octave: F#4.');
  }
};

const tokensOf = (text: string, line: number): Token[] =>
  // What stands in quotes may hold anything but one.
  text.split(/("[^"]*")/).flatMap((piece) => (QUOTED.test(piece) ? [{ text: piece, line }] : plainTokens(piece, line)));

const plainTokens = (text: string, line: number): Token[] =>
  text
    .replace(/([{}\]])/g, ' $1 ')
    .replace(/(\d:\d{1,2}\[)/g, '$1 ')
    // Bar lines may touch the notes beside them; a number right behind one is its ending.
    .replace(/(\|:|:\|:|:\||\|\||\|)(\d+(?:,\d+)*(?=\s|$))?/g, ' $1$2 ')
    .split(/\s+/)
    .filter(Boolean)
    .map((one) => ({ text: one, line }));

/** Reads the text notation (docs/text-notation.md). Throws {@link UnreadableScore} with the line and what is wrong with it. */
export const readText = (text: string): Score => {
  const head = plainHead();
  const voices: Voice[] = [];
  let current: Voice | null = null;
  for (const [k, whole] of text.split(/\r?\n/).entries()) {
    const line = whole.replace(/(^|\s)\/\/.*$/, '').trim();
    if (line === '') continue;
    const here = { text: line.slice(0, 40), line: k + 1 };
    const named = HEAD.exec(line);
    if (named) {
      const [, name = '', value = ''] = named;
      readHead(name, value, head, here);
      continue;
    }
    const part = PART.exec(line);
    const isPart = part && (part[1] !== undefined || part[2] !== undefined);
    if (isPart) {
      const staff = part[1] === '2' ? 2 : 1;
      const voice = part[2] ? Number(part[2]) : staff === 2 ? 5 : 1;
      current = voices.find((one) => one.staff === staff && one.voice === voice) ?? null;
      if (!current) {
        current = { staff, voice, tokens: [] };
        voices.push(current);
      }
    }
    if (!current) {
      current = { staff: 1, voice: 1, tokens: [] };
      voices.push(current);
    }
    current.tokens.push(...tokensOf(isPart ? (part[3] as string) : line, k + 1));
  }
  const bars: ScoreBar[] = [];
  for (const voice of voices) readVoice(voice, head, bars);
  if (bars.length === 0) throw new UnreadableScore('There are no notes yet. Write some, like C4/8 D E F | G/2.');
  if (voices.some(({ staff }) => staff === 2) && head.clefs.length < 2) head.clefs = [...head.clefs, 'bass'];
  // The number that is given is the first whole bar's.
  const [first] = bars;
  const isPickup = first && bars.length > 1 && first.length.compare(beats(`${first.meter.count}/${first.meter.unit}`)) < 0;
  const numbered = bars.map((bar) => ({ ...bar, number: Math.max(0, bar.number - (isPickup ? 1 : 0)) }));
  const { meter: _, fifths: __, firstNumber: ___, title, ...rest } = head;
  return { title: title || 'Untitled', ...rest, bars: numbered, simplified: [] };
};
